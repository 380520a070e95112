"""Writes the catalog that the bounds of bench/README.md are measured on: ENTRIES entries of Android XML."""
import random
import sys

WORDS = "ferry island harbour sailing booking deck passenger bicycle car ticket weather delay board pier rope light wave north wind tide map fare".split()


def sentence(r):
    return " ".join(r.choice(WORDS) for _ in range(r.randint(3, 11))).capitalize()


def main(entries, path):
    r = random.Random(7)
    with open(path, "w", encoding="utf-8") as out:
        out.write('<?xml version="1.0" encoding="utf-8"?>\n<resources>\n')
        for i in range(entries):
            key = f"{r.choice(WORDS)}_{r.choice(WORDS)}_{i}"
            kind = i % 10
            if kind == 0:
                out.write(f"    <!-- Shown on the {r.choice(WORDS)} screen -->\n")
            if kind == 3:
                out.write(f'    <plurals name="{key}">\n        <item quantity="one">%d {r.choice(WORDS)}</item>\n        <item quantity="other">%d {r.choice(WORDS)}s</item>\n    </plurals>\n')
            elif kind in (1, 5):
                out.write(f'    <string name="{key}">{sentence(r)} %1$s, %2$d {r.choice(WORDS)}</string>\n')
            elif kind == 7:
                out.write(f'    <string name="{key}">Don\\\'t {sentence(r).lower()} &amp; {r.choice(WORDS)}</string>\n')
            else:
                out.write(f'    <string name="{key}">{sentence(r)}</string>\n')
        out.write("</resources>\n")


main(int(sys.argv[1]), sys.argv[2])

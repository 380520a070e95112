#!/usr/bin/env python3
"""Writes a project of KEYS keys in 50 cultures below DIR/res as Android files, of which
each culture lacks one text in a hundred, and the same texts as JSON below DIR/json."""
import json
import os
import random
import sys

TAGS = ("de fr fi pl ar iw ja hi sv da nb nl it es pt ro cs sk hu el tr uk ru bg hr sr sl et lv lt "
        "ca eu gl is ga mt cy ka hy az kk uz ky mn ne bn ta te ml kn").split()
WORDS = "sailing deck pier boarding ferry island crate weather delay ticket north south harbour captain".split()


# Letters of the scripts that are not Latin, so that texts look as they should.
LETTERS = {"ar": "سفينةمرسىجزر", "iw": "ספינהרציףאי", "ja": "船便港島天気予", "hi": "नावघाटद्वीप", "el": "πλοίολιμάνι", "uk": "паромостів",
           "ru": "паромостров", "bg": "фериботкей", "sr": "трајектлука", "ka": "გემინავსადგური", "hy": "նավահանգիստ", "kk": "кемеайлақ",
           "ky": "кемепорт", "mn": "завьбоомт", "ne": "डुङ्गाबन्दरगाह", "bn": "নৌকাঘাট", "ta": "படகுதுறை", "te": "పడవరేవు", "ml": "വള്ളം", "kn": "ದೋಣಿ"}


def text(i, culture, tag):
    chosen = random.Random(i * 101 + culture)
    letters = LETTERS.get(tag)
    words = [chosen.choice(WORDS) for _ in range(chosen.randint(2, 12))]
    if letters:
        words = ["".join(letters[ord(c) % len(letters)] for c in word) for word in words]
    return " ".join(words)


def main():
    keys, out = int(sys.argv[1]), sys.argv[2]
    os.makedirs(f"{out}/json", exist_ok=True)
    for culture, tag in enumerate([""] + TAGS[:49]):
        rows = {f"screen_{i // 20}_key_{i}": text(i, culture, tag)
                for i in range(keys) if not tag or (i + culture) % 100}
        folder = f"{out}/res/values" + (f"-{tag}" if tag else "")
        os.makedirs(folder, exist_ok=True)
        with open(f"{folder}/strings.xml", "w", encoding="utf-8") as f:
            f.write('<?xml version="1.0" encoding="utf-8"?>\n<resources>\n')
            f.writelines(f'    <string name="{key}">{value}</string>\n' for key, value in rows.items())
            f.write("</resources>\n")
        with open(f"{out}/json/{tag or 'en'}.json", "w", encoding="utf-8") as f:
            json.dump(rows, f, indent=2, ensure_ascii=False)


main()

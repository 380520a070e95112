package doc

import (
	"strings"
	"unicode/utf8"
)

// Splice replaces the spelling of a text by that of another, and keeps what both
// say at their beginnings and ends as it is spelled: escapes, entities and line
// breaks of which the file has its own. Whole is the new text as the format's
// writer spells it; spelled gives for any spelling how that writer would spell
// what it says.
func (e *Editor) Splice(from, to int, whole string, spelled func(raw string) string) {
	if raw := e.Src[from:to]; raw != whole {
		if text := spliced(raw, whole, spelled); text != raw {
			e.Replace(from, to, text)
		}
	}
}

// longest bounds the spellings that are taken apart, and widest how far a place
// inside of an escape is from its end.
const longest, widest = 1 << 13, 48

// cut is what is put into a spelling to see where in the text a place is: letters of
// which no escape is made, and the first of which is another after a backslash.
const cut = "nZvXq"

func spliced(raw, whole string, spelled func(raw string) string) string {
	old := spelled(raw)
	switch {
	case old == whole:
		return raw
	case old == raw || len(raw) > longest || strings.Contains(raw+whole, cut):
		return whole
	}
	// place returns where in old a place of raw is, -1 where it is inside of something.
	place := func(at int) int {
		text := spelled(raw[:at] + cut + raw[at:])
		before, after, ok := strings.Cut(text, cut)
		if !ok || before+after != old || at < len(raw) && !utf8.RuneStart(raw[at]) {
			return -1
		}
		return len(before)
	}
	prefix := common(old, whole)
	a, first := -1, 0
	for low, high := -1, len(raw)+1; high-low > 1; { // the last place that is not after the prefix
		middle := (low + high) / 2
		at, p := middle, place(middle)
		for p < 0 && at-1 > low && middle-at < widest {
			at--
			p = place(at)
		}
		switch {
		case p < 0:
			low = middle
		case p <= prefix:
			low, a, first = middle, at, p
		default:
			high = at
		}
	}
	if a < 0 {
		return whole
	}
	suffix := commonEnd(old[first:], whole[first:])
	b, last := -1, 0
	for low, high := a-1, len(raw)+1; high-low > 1; { // the first that is not before the suffix
		middle := (low + high) / 2
		at, p := middle, place(middle)
		for p < 0 && at+1 < high && at-middle < widest {
			at++
			p = place(at)
		}
		switch {
		case p < 0:
			high = middle
		case p >= len(old)-suffix:
			high, b, last = middle, at, p
		default:
			low = at
		}
	}
	if b < 0 {
		return whole
	}
	middle := whole[first : len(whole)-(len(old)-last)]
	for at := a - 1; middle == "" && at >= 0 && at > a-widest; at-- { // what stood only before what goes, such as a line end
		if place(at) == first && spelled(raw[:at]+raw[b:]) == whole {
			a = at
		}
	}
	if text := raw[:a] + middle + raw[b:]; spelled(text) == whole {
		return text
	}
	return whole
}

// common returns the length of what two texts begin with, in whole characters.
func common(a, b string) int {
	n := 0
	for n < len(a) && n < len(b) && a[n] == b[n] {
		n++
	}
	for n > 0 && (n < len(a) && !utf8.RuneStart(a[n]) || n < len(b) && !utf8.RuneStart(b[n])) {
		n--
	}
	return n
}

// commonEnd returns the length of what two texts end with, in whole characters.
func commonEnd(a, b string) int {
	n := 0
	for n < len(a) && n < len(b) && a[len(a)-1-n] == b[len(b)-1-n] {
		n++
	}
	for n > 0 && !utf8.RuneStart(a[len(a)-n]) {
		n--
	}
	return n
}

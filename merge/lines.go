package merge

import (
	"bytes"
	"slices"

	"github.com/pmezard/go-difflib/difflib"
)

// most is the greatest number of lines, outside of what all versions share at
// the ends, that are compared.
const most = 20000

// Lines merges two versions of a text line by line, and reports whether their
// changes keep apart: at least a line between them is in all versions.
func Lines(base, ours, theirs []byte) ([]byte, bool) {
	if bytes.IndexByte(ours, 0) >= 0 || bytes.IndexByte(theirs, 0) >= 0 {
		return nil, false
	}
	b, o, t := split(base), split(ours), split(theirs)
	head := 0
	for head < min(len(b), len(o), len(t)) && b[head] == o[head] && b[head] == t[head] {
		head++
	}
	tail := 0
	for tail < min(len(b), len(o), len(t))-head && b[len(b)-1-tail] == o[len(o)-1-tail] && b[len(b)-1-tail] == t[len(t)-1-tail] {
		tail++
	}
	middle := func(list []string) []string { return list[head : len(list)-tail] }
	if max(len(middle(b)), len(middle(o)), len(middle(t))) > most {
		return nil, false
	}
	merged, ok := hunks(middle(b), middle(o), middle(t))
	if !ok {
		return nil, false
	}
	var out bytes.Buffer
	for _, list := range [][]string{b[:head], merged, b[len(b)-tail:]} {
		for _, line := range list {
			out.WriteString(line)
		}
	}
	return out.Bytes(), true
}

func split(data []byte) []string {
	var list []string
	for line := range bytes.Lines(data) {
		list = append(list, string(line))
	}
	return list
}

// hunk is a stretch of the base that a side replaced.
type hunk struct {
	from, to int
	lines    []string
	ours     bool
}

func hunks(b, o, t []string) ([]string, bool) {
	var list []hunk
	for i, side := range [][]string{o, t} {
		matcher := difflib.NewMatcherWithJunk(b, side, false, nil)
		for _, code := range matcher.GetOpCodes() {
			if code.Tag != 'e' {
				list = append(list, hunk{code.I1, code.I2, side[code.J1:code.J2], i == 0})
			}
		}
	}
	slices.SortStableFunc(list, func(a, b hunk) int { return a.from - b.from })
	var out []string
	at := 0
	for i, h := range list {
		if i > 0 && h.ours != list[i-1].ours && h.from <= list[i-1].to {
			last := list[i-1]
			if h.from == last.from && h.to == last.to && slices.Equal(h.lines, last.lines) {
				continue // the same on both sides
			}
			return nil, false
		}
		if h.from < at {
			return nil, false
		}
		out = append(append(out, b[at:h.from]...), h.lines...)
		at = h.to
	}
	return append(out, b[at:]...), true
}

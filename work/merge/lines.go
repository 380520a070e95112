package merge

import (
	"bytes"
	"slices"
	"strings"

	"zelvik/internal/diff"
)

// Lines merges two versions of a text line by line, and reports whether their
// changes keep apart: at least a line between them is in all versions.
func Lines(base, ours, theirs []byte) ([]byte, bool) {
	if bytes.IndexByte(ours, 0) >= 0 || bytes.IndexByte(theirs, 0) >= 0 {
		return nil, false
	}
	merged, ok := hunks(diff.Split(base), diff.Split(ours), diff.Split(theirs))
	if !ok {
		return nil, false
	}
	return []byte(strings.Join(merged, "")), true
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
		for _, c := range diff.Lines(b, side) {
			list = append(list, hunk{c.AFrom, c.ATo, side[c.BFrom:c.BTo], i == 0})
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

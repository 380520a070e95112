package charset

import (
	"bytes"
	"fmt"

	"zelvik/format"
)

// Conflict is a stretch of a file in which a merge by lines left both sides,
// between the marks <<<<<<<, ======= and >>>>>>>.
type Conflict struct {
	// From and To are the offsets of the first mark and after the last.
	From, To int
	// Ours and Theirs are what the marks say after their signs.
	Ours, Theirs string
}

// markSize is how many signs a mark has.
const markSize = 7

// conflicts finds the conflicts in the text, and blanks what is not ours in
// UTF8: read so, the file is as it was on one side of the merge, and the places
// of all else are what they were.
func (t *Text) conflicts() {
	copied := t.Encoding != UTF8
	before := 0 // after the mark before
	for at := nextMark(t.UTF8, 0); at >= 0; {
		next := nextMark(t.UTF8, at+markSize)
		c, others := conflictAt(t.UTF8, before, at, next)
		if before = at + markSize; others >= 0 {
			if !copied {
				t.UTF8, copied = bytes.Clone(t.UTF8), true
			}
			blank(t.UTF8[c.From:lineEnd(t.UTF8, c.From)])
			blank(t.UTF8[others:c.To])
			t.Conflicts = append(t.Conflicts, c)
			before = c.To
		}
		at = next
	}
}

// nextMark returns the offset of the next line that is =======, or -1. It looks at
// every seventh byte.
func nextMark(text []byte, from int) int {
	for i := from + markSize - 1; i < len(text); i += markSize {
		if text[i] != '=' {
			continue
		}
		start := i
		for start > from && text[start-1] == '=' {
			start--
		}
		end := i
		for end < len(text) && text[end] == '=' {
			end++
		}
		if end-start == markSize && (start == 0 || text[start-1] == '\n') && lineEnd(text, end) == end {
			return start
		}
		i = end - 1 // no other begins before
	}
	return -1
}

// conflictAt returns the conflict of which the middle mark stands at an offset
// between two others, the next being -1 where there is none, and where what is
// not ours begins: the middle, or the mark of the base before it; -1 where there
// is no conflict.
func conflictAt(text []byte, before, at, next int) (c Conflict, others int) {
	if next < 0 {
		next = len(text)
	}
	from := lastLine(text, before, at, "<<<<<<< ")
	to := bytes.Index(text[at:next], []byte("\n>>>>>>> "))
	if from < 0 || to < 0 {
		return c, -1
	}
	to += at + 1
	c = Conflict{From: from, To: lineEnd(text, to)}
	c.Ours, c.Theirs = string(text[from+markSize+1:lineEnd(text, from)]), string(text[to+markSize+1:c.To])
	if base := lastLine(text, from, at, "|||||||"); base >= 0 {
		at = base
	}
	return c, at
}

// lastLine returns the offset of the last line between two places that begins with
// a mark, or -1.
func lastLine(text []byte, from, to int, mark string) int {
	if at := bytes.LastIndex(text[from:to], []byte("\n"+mark)); at >= 0 {
		return from + at + 1
	}
	if (from == 0 || text[from-1] == '\n') && bytes.HasPrefix(text[from:to], []byte(mark)) {
		return from
	}
	return -1
}

// lineEnd returns where the line of an offset ends, before CR LF or LF.
func lineEnd(text []byte, at int) int {
	end := bytes.IndexByte(text[at:], '\n')
	if end < 0 {
		end = len(text) - at
	}
	if end > 0 && text[at+end-1] == '\r' {
		end--
	}
	return at + end
}

// blank puts spaces in place of all but line ends.
func blank(text []byte) {
	for i, c := range text {
		if c != '\n' && c != '\r' {
			text[i] = ' '
		}
	}
}

// Faults reports what is wrong with the file as a text: a place that is none in
// its encoding, with what to do about it, and conflicts of a merge.
func (t *Text) Faults(report func(rule string, offset int, key, text, fix string), fix string) {
	if t.Bad >= 0 {
		report("file-damaged", t.Bad, "", "the file is not valid "+t.Encoding.String(), fix)
	}
	for _, c := range t.Conflicts {
		report(format.ConflictRule, c.From, "", fmt.Sprintf("a merge left both sides here (%s, %s); the first is read", c.Ours, c.Theirs),
			"choose a side and remove the lines that begin with <<<<<<<, ======= and >>>>>>>")
	}
}

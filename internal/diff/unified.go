package diff

import (
	"strconv"
	"strings"
)

// around is how many lines before and after a change are shown.
const around = 3

// Unified writes the difference of two texts in the unified form, without the
// head that names the files; "" where there is none.
func Unified(before, after []byte) string {
	a, b := Split(before), Split(after)
	changes := Lines(a, b)
	var out strings.Builder
	for i := 0; i < len(changes); {
		last := i // changes that are near one another are one hunk
		for last+1 < len(changes) && changes[last+1].AFrom-changes[last].ATo <= 2*around {
			last++
		}
		hunk := changes[i : last+1]
		aFrom, bFrom := max(hunk[0].AFrom-around, 0), max(hunk[0].BFrom-around, 0)
		end := hunk[len(hunk)-1]
		aTo, bTo := min(end.ATo+around, len(a)), min(end.BTo+around, len(b))
		out.WriteString("@@ -" + span(aFrom, aTo) + " +" + span(bFrom, bTo) + " @@\n")
		at := aFrom
		for _, c := range hunk {
			lines(&out, ' ', a[at:c.AFrom])
			lines(&out, '-', a[c.AFrom:c.ATo])
			lines(&out, '+', b[c.BFrom:c.BTo])
			at = c.ATo
		}
		lines(&out, ' ', a[at:aTo])
		i = last + 1
	}
	return out.String()
}

// span writes a stretch of lines as unified diffs do: the first, counted from 1,
// and how many.
func span(from, to int) string {
	switch to - from {
	case 0:
		return strconv.Itoa(from) + ",0"
	case 1:
		return strconv.Itoa(from + 1)
	}
	return strconv.Itoa(from+1) + "," + strconv.Itoa(to-from)
}

func lines(out *strings.Builder, sign byte, list []string) {
	for _, line := range list {
		out.WriteByte(sign)
		out.WriteString(line)
		if !strings.HasSuffix(line, "\n") {
			out.WriteString("\n\\ No newline at end of file\n")
		}
	}
}

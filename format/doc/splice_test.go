package doc

import (
	"math/rand/v2"
	"strings"
	"testing"

	"zelvik/format"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// dotted is a spelling in which letters may be written as numbers, .97; for a, and
// white space is folded.
func dotted(raw string) string {
	var out strings.Builder
	for i := 0; i < len(raw); i++ {
		c := raw[i]
		if c == '.' {
			end := strings.IndexByte(raw[i:], ';')
			n := 0
			for _, d := range raw[i+1 : i+max(end, 1)] {
				if d < '0' || d > '9' {
					return raw
				}
				n = n*10 + int(d-'0')
			}
			if end < 2 || n < 'a' || n > 'z' {
				return raw
			}
			c = byte(n)
			i += end
		}
		if c == '\n' {
			c = ' '
		}
		if c != ' ' || !strings.HasSuffix(out.String(), " ") {
			out.WriteByte(c)
		}
	}
	return out.String()
}

func TestSplice(t *testing.T) {
	for _, c := range []struct{ raw, whole, want string }{
		{"one two", "one three", "one three"},
		{".111;ne two", "one three", ".111;ne three"},
		{".111;ne two", "one two", ".111;ne two"},
		{"one tw.111;", "no two", "no tw.111;"},
		{".111;ne\n   two\n   three", "one two four", ".111;ne\n   two\n   four"},
		{".111;ne\n   two\n   three", "one three", ".111;ne\n   three"},
		{".111;ne\n   two\n   three", "one two", ".111;ne\n   two"},
		{".111;ne\n   two", "zero one two", "zero .111;ne\n   two"},
		{".111;ne .116;wo", "one and two", ".111;ne and .116;wo"},
		{".111;ne", "", ""},
		{".bad; one", "two", "two"},
		{".111;nnZvXqe", "onenZvXq two", "onenZvXq two"},
	} {
		e := Editor{Src: c.raw}
		e.Splice(0, len(c.raw), c.whole, dotted)
		out, err := format.Patch([]byte(c.raw), e.Replacements)
		require.NoError(t, err)
		assert.Equal(t, c.want, string(out), "%q to %q", c.raw, c.whole)
	}
}

// Whatever was there and comes, the result says what it should.
func TestSpliceSaysTheText(t *testing.T) {
	random := rand.New(rand.NewPCG(3, 7))
	pieces := []string{"a", "b", " ", "\n  ", ".97;", ".98;", ".99;", ".", ";", "c", "é", "x1"}
	text := func() (text string) {
		for range random.IntN(9) {
			text += pieces[random.IntN(len(pieces))]
		}
		return text
	}
	for range 50000 {
		raw, whole := text(), dotted(text())
		if got := spliced(raw, whole, dotted); got != whole {
			require.Equal(t, whole, dotted(got), "%q to %q", raw, whole)
		}
	}
}

package properties

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"zelvik/format"
	"zelvik/message"
)

// A sign at the beginning of a value is not taken for what parts it from its key.
func TestSignsBehindSpaces(t *testing.T) {
	document, _ := parse([]byte("k v\n"))
	m := message.Plain("= :")
	out, _, err := document.Edit([]format.Change{{Key: "k", Message: &m}, {Key: "new", Message: &m, After: "k"}})
	require.NoError(t, err)
	assert.Equal(t, "k \\= :\nnew \\= :\n", string(out))
}

// A value that goes on over lines keeps those that say what they said.
func TestContinuedLines(t *testing.T) {
	for _, c := range []struct{ raw, text, want string }{
		{"one, \\\n    two, \\\n    three", "one, two, four", "one, \\\n    two, \\\n    four"},
		{"one, \\\n    two, \\\n    three", "one, three", "one, \\\n    three"},
		{"one, \\\n    two, \\\n    three", "one, two, ", "one, \\\n    two, "},
		{"one, \\\n    two, \\\n    three", "zero, one, two, three", "zero, one, \\\n    two, \\\n    three"},
		{"one, \\\r\n\ttwo", "one, or two", "one, \\\r\n\tor two"},
		{"a:\\n\\\n\\  b\\n\\\n\\  c", "a:\n  b\n  d", "a:\\n\\\n\\  b\\n\\\n\\  d"},
		{"a:\\n\\\n\\  b", "a:\n  x  b", "a:\\n\\\n\\  x  b"},
		{"\\ud83d\\ude00 \\\n  x", "😀 y", "\\ud83d\\ude00 \\\n  y"},
		{"one \\\n  two", "", ""},
		{"one \\\n  two", " ", "\\ "},
		{"one two", "one three", "one three"},
		{`\u00e9 \q \"`, `é q \`, `\u00e9 \q \\`},
	} {
		document, findings := parse([]byte("k = " + c.raw + "\nlast = z\n"))
		require.Empty(t, findings, c.raw)
		m := message.Plain(c.text)
		out, _, err := document.Edit([]format.Change{{Key: "k", Message: &m}})
		require.NoError(t, err)
		assert.Equal(t, "k = "+c.want+"\nlast = z\n", string(out), c.raw)
		again, _ := parse(out)
		assert.Equal(t, c.text, again.Catalogs()[0].Entries[0].Message.String(), c.raw)
	}
}

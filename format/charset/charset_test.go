package charset

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"zelvik/format"
)

// A file whose parts are in several code pages is read and changed in each.
func TestParts(t *testing.T) {
	const (
		german   = "stra\xdfe|"    // windows-1252
		japanese = "\x95\x5c|\xff" // Shift JIS: a character that ends in a backslash, and no character
		unicode  = "|é"
	)
	data := []byte(german + japanese + unicode)
	text := DecodeParts(data, []Part{{0, "1252"}, {len(german), "932"}, {len(german) + 1, "no such page"}, {len(german + japanese), "65001"}})
	assert.Equal(t, "straße|表|\uFFFD|é", text.String())
	assert.Equal(t, strings.IndexRune(text.String(), '\uFFFD'), text.Bad)
	at := func(piece string) int { return strings.Index(text.String(), piece) }
	for _, c := range []struct{ piece, with, want string }{
		{"ß", "ü", "stra\xfce|" + japanese + unicode},
		{"表", "新", german + "\x90\x56|\xff" + unicode},
		{"é", "新", german + japanese + "|新"},
		{"ß", "新", ""},
	} {
		out, err := text.Patch([]format.Replacement{{Start: at(c.piece), End: at(c.piece) + len(c.piece), Text: c.with}})
		if c.want == "" {
			assert.ErrorContains(t, err, "the file's encoding windows-1252 has no '新'; save the file as UTF-8 first")
			continue
		}
		require.NoError(t, err)
		assert.Equal(t, c.want, string(out))
	}
	same, err := text.Patch(nil)
	require.NoError(t, err)
	assert.Equal(t, data, same)
}

// Conflicts of a merge by lines are blanked but for ours, and nothing that only
// looks like one.
func TestConflicts(t *testing.T) {
	long := strings.Repeat("=", 1<<22) // looked at once
	for text, want := range map[string]string{
		"a\n<<<<<<< o\nb\n=======\nc\n>>>>>>> t\nd":            "a\n         \nb\n       \n \n         \nd",
		"<<<<<<< o\nb\n||||||| x\ne\n=======\n>>>>>>> t":       "         \nb\n         \n \n       \n         ",
		"<<<<<<< o\r\nb\r\n=======\r\nc\r\n>>>>>>> t\r\n":      "         \r\nb\r\n       \r\n \r\n         \r\n",
		"=======\n<<<<<<< o\nb\n=======\n>>>>>>> t\n=======\n": "=======\n         \nb\n       \n         \n=======\n",
		"<<<<<<< o\nb\n=======\nc\n":                           "",
		"b\n=======\nc\n>>>>>>> t\n":                           "",
		"<<<<<<< o\n========\n>>>>>>> t\n":                     "",
		"<<<<<<< o\n x=======\n>>>>>>> t\n":                    "",
		"<<<<<<< o\n" + long + "\n>>>>>>> t\n":                 "",
	} {
		got := Decode([]byte(text))
		if want == "" {
			assert.Empty(t, got.Conflicts)
			assert.True(t, got.String() == text)
			continue
		}
		assert.Equal(t, want, got.String())
		require.Len(t, got.Conflicts, 1)
		assert.Equal(t, "o t", got.Conflicts[0].Ours+" "+got.Conflicts[0].Theirs)
		same, err := got.Patch(nil)
		require.NoError(t, err)
		assert.Equal(t, text, string(same))
	}
}

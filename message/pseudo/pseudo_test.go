package pseudo

import (
	"testing"
	"unicode/utf8"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/message"
	"zelvik/message/icu"
)

func TestMessage(t *testing.T) {
	for _, row := range []struct {
		tag        culture.Tag
		text, want string
	}{
		{"en-x-accented", "Go to {pier} <b>now</b>", "Ğö ťö {pier} <b>ñöŵ</b>"},
		{"en-x-accented", "See https://skerryline.example now", "Šëë https://skerryline.example ñöŵ"},
		{"en-x-brackets", "Go", "‹Go›"},
		{"en-x-grown", "Go", "Go äë"},
		{"en-XA", "{n, plural, one {# crate} other {# crates}}", "one: ‹{n} čřäťë äëïöü äëï› | other: ‹{n} čřäťëš äëïöü äëïö›"},
		{"ar-XB", "Go {x} now", "\u200f\u200f\u202eGo\u202c\u200f {x} \u200f\u202enow\u202c\u200f"},
		{"en-XA", "", ""},
	} {
		m, faults := icu.Parse(row.text)
		require.Empty(t, faults)
		style, err := StyleOf(row.tag)
		require.NoError(t, err)
		assert.Equal(t, row.want, style.Message(m).String(), "%s %s", row.tag, row.text)
		written, _ := icu.Writer{}.Write(m)
		assert.Equal(t, row.text, written, "the source is not changed")
	}
	_, err := StyleOf("de")
	assert.ErrorContains(t, err, "de is no pseudo-culture")
}

// Growth follows the W3C's figures: short texts grow most.
func TestGrowth(t *testing.T) {
	for length, want := range map[int]int{1: 200, 10: 200, 11: 180, 25: 160, 50: 140, 60: 151, 200: 130} {
		assert.Equal(t, want, Growth(length))
	}
	style, err := StyleOf("en-x-grown")
	require.NoError(t, err)
	grown := style.Message(message.Plain("Boarding pass")).String()
	assert.InDelta(t, 13*180/100, utf8.RuneCountInString(grown), 1)
}

func TestCatalogLeavesOutWhatStays(t *testing.T) {
	c := &catalog.Catalog{}
	c.Add(catalog.Entry{Key: "a", Message: message.Plain("A"), Note: "note"})
	c.Add(catalog.Entry{Key: "name", Message: message.Plain("Skerry Line"), Fixed: true})
	made := Catalog(c, "en-XA", Styles["XA"])
	require.Len(t, made.Entries, 1)
	assert.Empty(t, made.Entries[0].Note)
}

package message_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"zelvik/culture"
	"zelvik/message"
	"zelvik/message/icu"
	"zelvik/message/printf"
)

func parse(t *testing.T, text string) message.Message {
	t.Helper()
	m, faults := icu.Parse(text)
	require.Empty(t, faults, text)
	return m
}

// Each case is a message, arguments, a culture, and what its reader sees.
func TestRender(t *testing.T) {
	for _, row := range []struct {
		text      string
		tag       culture.Tag
		arguments map[string]string
		want      string
	}{
		{"Hello, {name}!", "en", map[string]string{"name": "Runa"}, "Hello, Runa!"},
		{"Hello, {name}!", "en", nil, "Hello, {name}!"},
		{"مرحبا {name}", "ar", map[string]string{"name": "Runa"}, "مرحبا \u2068Runa\u2069"},
		{"{n, plural, one {# łódź} few {# łodzie} many {# łodzi} other {# łodzi}}", "pl", map[string]string{"n": "3"}, "3 łodzie"},
		{"{n, plural, one {# łódź} few {# łodzie} many {# łodzi} other {# łodzi}}", "pl", map[string]string{"n": "5"}, "5 łodzi"},
		{"{n, plural, one {#} other {# boats}}", "en", map[string]string{"n": "1234"}, "1,234 boats"},
		{"{n, plural, =0 {none} one {one} other {#}}", "en", map[string]string{"n": "0"}, "none"},
		{"{n, selectordinal, one {#st} two {#nd} few {#rd} other {#th}}", "en", map[string]string{"n": "22"}, "22nd"},
		{"{n, plural, offset:1 one {{who} and # guest} other {{who} and # guests}}", "en", map[string]string{"n": "3", "who": "Runa"}, "Runa and 2 guests"},
		{"{v, select, car {Car} other {Thing}}", "en", map[string]string{"v": "car"}, "Car"},
		{"{v, select, car {Car} other {Thing}}", "en", map[string]string{"v": "boat"}, "Thing"},
		{"{a, plural, one {x} other {y}} {b, plural, one {p} other {q}}", "en", map[string]string{"a": "2", "b": "1"}, "y p"},
		{"{p, number, ::.00}", "de", map[string]string{"p": "1234.5"}, "1.234,50"},
		{"{p, number, percent}", "fr", map[string]string{"p": "35"}, "35\u202f%"},
		{"<b>{x}</b> y", "en", map[string]string{"x": "z"}, "z y"},
	} {
		got := parse(t, row.text).Render(row.tag, row.arguments)
		if row.tag == "fr" {
			assert.Contains(t, []string{"35\u202f%", "35\u00a0%"}, got)
			continue
		}
		assert.Equal(t, row.want, got, row.text)
	}
}

// Names and positions come from the source, and what has neither gets both.
func TestComplete(t *testing.T) {
	reader := printf.Reader{Dialect: printf.Java, Formatted: true}
	java := message.Message{Pattern: reader.Read(nil, "%2$s before %1$d")}
	java.Complete(nil)
	assert.Equal(t, "{arg2} before {arg1}", java.String())
	source := parse(t, "{who} before {count, number, integer}")
	source.Complete(nil)
	reader.Reset(true)
	target := message.Message{Pattern: reader.Read(nil, "%2$d vor %1$s")}
	target.Complete(source.Arguments())
	assert.Equal(t, "{count} vor {who}", target.String())
	named := parse(t, "{b} {a} {b}")
	named.Complete(nil)
	var positions []int
	for p := range named.Placeholders() {
		positions = append(positions, p.Position)
	}
	assert.Equal(t, []int{1, 2, 1}, positions)
	translated := parse(t, "{a} {b} {c}")
	translated.Complete(named.Arguments())
	positions = nil
	for p := range translated.Placeholders() {
		positions = append(positions, p.Position)
	}
	assert.Equal(t, []int{2, 1, 3}, positions)
}

func TestMarkup(t *testing.T) {
	for text, tags := range map[string]int{
		"plain": 0, "<b>x</b>": 2, "a <br/> b": 1, `<a href="x>y">z</a>`: 2, "<none>": 0, "1 < 2 > 0": 0, "<b": 0, "</ b>": 0, "<b x<c>": 0, "<Name>": 0,
	} {
		count := 0
		joined := ""
		for _, part := range message.SplitMarkup(nil, text) {
			switch part := part.(type) {
			case *message.Markup:
				count++
				joined += part.String()
			case message.Text:
				joined += string(part)
			}
		}
		assert.Equal(t, tags, count, text)
		assert.Equal(t, text, joined)
		assert.Len(t, slices.Collect(message.Plain(text).Pattern.Tags()), tags, text)
	}
}

func TestStyle(t *testing.T) {
	s := message.NewStyle("group", "", ".0#", "zero=4", "EUR")
	least, most, ok := s.Fraction()
	assert.Equal(t, []any{1, 2, true, 4, "EUR", true}, []any{least, most, ok, s.Value("zero"), s.Code(), s.Has("group")})
	rest, found := s.Without("zero", "group")
	assert.Equal(t, message.Style(".0# EUR"), rest)
	assert.True(t, found)
	pattern, skeleton, ok := message.Style("::yMd").Custom()
	assert.Equal(t, []any{"yMd", true, true}, []any{pattern, skeleton, ok})
}

package composite

import (
	"testing"

	"zelvik/message"

	"github.com/stretchr/testify/assert"
)

func TestParse(t *testing.T) {
	for _, row := range []struct {
		text     string
		position int
		kind     message.Type
		style    message.Style
	}{
		{"{0}", 1, message.String, ""},
		{"{1:N2} €", 2, message.Decimal, "group .00"},
		{"{0:N0}", 1, message.Integer, "group"},
		{"{0:D4}{{}}", 1, message.Integer, "zero=4"},
		{"{0,-8:D}", 1, message.Integer, "width=8 left"},
		{"{0:P1}", 1, message.Percent, ".0"},
		{"{0:C}", 1, message.Currency, ""},
		{"{0:d}", 1, message.Date, "short"},
		{"{0:t}", 1, message.Time, "short"},
		{"{0:yyyy-MM-dd}", 1, message.Date, "=yyyy-MM-dd"},
		{"{0:HH:mm}", 1, message.Time, "=HH:mm"},
		{"{0:#,##0.0#}", 1, message.Decimal, "group .0#"},
		{"{0:x}", 1, message.Integer, "hex"},
	} {
		p, faults := Parse(row.text)
		assert.Empty(t, faults, row.text)
		placeholder := p[0].(*message.Placeholder)
		assert.Equal(t, row.position, placeholder.Position, row.text)
		assert.Equal(t, row.kind, placeholder.Type, row.text)
		assert.Equal(t, row.style, placeholder.Style, row.text)
		written, losses := Write(p, true)
		assert.Equal(t, row.text, written)
		assert.Empty(t, losses)
		// Written anew, without its spelling, it means the same.
		placeholder.Spelling = ""
		written, losses = Write(p, true)
		assert.Empty(t, losses, row.text)
		again, _ := Parse(written)
		assert.Equal(t, row.kind, again[0].(*message.Placeholder).Type, written)
		assert.Equal(t, row.style, again[0].(*message.Placeholder).Style, written)
	}
}

func TestLiteralBraces(t *testing.T) {
	for _, text := range []string{"{}", "{{x}}", "{name}", "a } b"} {
		p, faults := Parse(text)
		assert.Empty(t, faults)
		assert.Equal(t, message.Pattern{message.Text(text)}, p)
		written, _ := Write(p, false)
		assert.Equal(t, text, written)
	}
	_, faults := Parse("{0} of {")
	assert.Equal(t, []message.Fault{{Offset: 7, Rule: "escape-wrong", Text: "a single { in a text with placeholders", Fix: "write {{ for a brace"}}, faults)
}

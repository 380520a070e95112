package printf

import (
	"strings"
	"testing"

	"zelvik/message"

	"github.com/stretchr/testify/assert"
)

func read(d *Dialect, text string) (message.Pattern, []message.Fault) {
	r := Reader{Dialect: d, Formatted: d.Formatted(text)}
	return r.Read(nil, text), r.Faults
}

func TestRead(t *testing.T) {
	for _, row := range []struct {
		dialect  *Dialect
		text     string
		position int
		kind     message.Type
		style    message.Style
	}{
		{Java, "%s", 1, message.String, ""},
		{Java, "at %2$s", 2, message.String, ""},
		{Java, "%,d", 1, message.Integer, "group"},
		{Java, "%05d", 1, message.Integer, "zero=5"},
		{Java, "%-5d|", 1, message.Integer, "width=5 left"},
		{Java, "%,.2f €", 1, message.Decimal, "group .00"},
		{Java, "%1$tY", 1, message.Date, "=%tY"},
		{Java, "%X%%", 1, message.Integer, "hex upper"},
		{Foundation, "%@", 1, message.String, ""},
		{Foundation, "%2$@", 2, message.String, ""},
		{Foundation, "%lld", 1, message.Integer, ""},
		{Foundation, "%'lu", 1, message.Integer, "group"},
		{Foundation, "%.1f %%", 1, message.Decimal, ".0"},
	} {
		p, faults := read(row.dialect, row.text)
		assert.Empty(t, faults)
		assert.Equal(t, strings.ReplaceAll(row.text, "%%", "%"), p.String())
		for _, part := range p {
			if placeholder, ok := part.(*message.Placeholder); ok {
				assert.Equal(t, row.position, placeholder.Position, row.text)
				assert.Equal(t, row.kind, placeholder.Type, row.text)
				assert.Equal(t, row.style, placeholder.Style, row.text)
				assert.Equal(t, placeholder.Spelling, must(row.dialect.Spell(placeholder, true)))
			}
		}
	}
}

func must(text string, losses []message.Loss) string { return text }

// Texts without a placeholder are no format strings.
func TestLiteral(t *testing.T) {
	for _, text := range []string{"100%", "50% off", "5%-Rabatt", "100%%", "%", "50 % de remise", "5%, dann", "%n"} {
		p, faults := read(Java, text)
		assert.Empty(t, faults)
		assert.Equal(t, message.Pattern{message.Text(text)}, p)
	}
}

func TestBarePercent(t *testing.T) {
	p, faults := read(Java, "%d of 100% full")
	assert.Equal(t, "%d of 100% full", p.String())
	assert.Equal(t, []message.Fault{{Offset: 9, Rule: "escape-wrong", Text: "a single % in a text with placeholders", Fix: "write %% for a percent sign"}}, faults)
}

func TestSpellFromElsewhere(t *testing.T) {
	for _, row := range []struct {
		p                message.Placeholder
		java, foundation string
		losses           int
	}{
		{message.Placeholder{Position: 1}, "%1$s", "%1$@", 0},
		{message.Placeholder{Position: 2, Type: message.Integer, Style: "group"}, "%2$,d", "%2$'lld", 0},
		{message.Placeholder{Position: 1, Type: message.Decimal, Style: "group .00"}, "%1$,.2f", "%1$'.2f", 0},
		{message.Placeholder{Position: 1, Type: message.Integer, Style: "zero=4"}, "%1$04d", "%1$04lld", 0},
		{message.Placeholder{Position: 1, Type: message.Currency, Style: "EUR"}, "%1$s", "%1$@", 1},
		{message.Placeholder{Position: 1, Type: message.Date, Style: "short"}, "%1$s", "%1$@", 1},
	} {
		java, losses := Java.Spell(&row.p, true)
		assert.Equal(t, row.java, java)
		assert.Len(t, losses, row.losses)
		foundation, _ := Foundation.Spell(&row.p, true)
		assert.Equal(t, row.foundation, foundation)
	}
}

// Many escaped signs are joined once, not one by one.
func TestEscapedSignsAreJoinedOnce(t *testing.T) {
	text := strings.Repeat("%%%n", 20_000)
	var p message.Pattern
	allocations := testing.AllocsPerRun(1, func() {
		r := Reader{Dialect: Java, Formatted: true}
		p = r.Read(nil, text)
	})
	assert.Equal(t, message.Pattern{message.Text(strings.Repeat("%\n", 20_000))}, p)
	assert.Less(t, allocations, 100.0)
}

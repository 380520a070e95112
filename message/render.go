package message

import (
	"strconv"
	"strings"

	"zelvik/culture"
)

// Render shows the message to a reader of a culture. Arguments are given by
// name as plain ASCII text ("3", "24.50", "Runa"); numbers are written as the
// culture writes them, texts in right-to-left cultures are isolated (UAX #9,
// FSI and PDI) as the generated accessors do. An argument that is not given
// shows its sample, or its name in braces. Markup is left out, and what looks
// like it: where a program puts tags into its texts, something reads them.
func (m Message) Render(tag culture.Tag, arguments map[string]string) string {
	return m.render(tag, arguments, tag.RightToLeft())
}

// RenderBare is Render without isolates, as platforms show a message that is
// formatted without thinking of them.
func (m Message) RenderBare(tag culture.Tag, arguments map[string]string) string {
	return m.render(tag, arguments, false)
}

// RenderIsolated is Render with isolates whatever the culture, for the source
// shown as if its script ran from right to left.
func (m Message) RenderIsolated(tag culture.Tag, arguments map[string]string) string {
	return m.render(tag, arguments, true)
}

func (m Message) render(tag culture.Tag, arguments map[string]string, isolate bool) string {
	pattern := m.Pattern
	if m.Choice != nil {
		pattern = m.Choice.pick(tag, arguments)
	}
	pattern = pattern.marked()
	if len(pattern) == 1 {
		if text, ok := pattern[0].(Text); ok {
			return string(text)
		}
	}
	var out strings.Builder
	for _, part := range pattern {
		switch part := part.(type) {
		case Text:
			out.WriteString(string(part))
		case *Placeholder:
			if part.Spelling == "#" && part.Syntax == ICU && m.Choice != nil {
				out.WriteString(part.render(tag, m.Choice.shifted(part.Name, arguments), isolate))
				continue
			}
			out.WriteString(part.render(tag, arguments, isolate))
		}
	}
	return out.String()
}

// shifted returns the arguments as "#" shows them: less the offset of the
// selector that counts by name.
func (c *Choice) shifted(name string, arguments map[string]string) map[string]string {
	for _, s := range c.Selectors {
		count, err := strconv.Atoi(arguments[name])
		if s.Argument.Name == name && s.Offset != 0 && err == nil {
			return map[string]string{name: strconv.Itoa(count - s.Offset)}
		}
	}
	return arguments
}

func (p *Placeholder) render(tag culture.Tag, arguments map[string]string, isolate bool) string {
	value, ok := arguments[p.Name]
	if !ok {
		if value = p.Sample; value == "" {
			value = "{" + p.Name + "}"
		}
	}
	if p.Type == Integer || p.Type == Decimal || p.Type == Percent {
		if _, err := culture.ParseOperands(value); err == nil && plainNumber(value) {
			symbols := tag.Symbols()
			if p.Type == Percent {
				return symbols.Percent(value, true)
			}
			if _, most, ok := p.Style.Fraction(); ok {
				value = withFraction(value, most)
			}
			return symbols.Format(value, p.Style.Has("group"))
		}
	}
	if isolate {
		return "\u2068" + value + "\u2069"
	}
	return value
}

func plainNumber(value string) bool {
	return strings.Trim(value, "0123456789.-") == "" && value != ""
}

// withFraction gives a number so many fraction digits, cutting or filling.
func withFraction(value string, digits int) string {
	whole, fraction, _ := strings.Cut(value, ".")
	if digits == 0 {
		return whole
	}
	if len(fraction) > digits {
		return whole + "." + fraction[:digits]
	}
	return whole + "." + fraction + strings.Repeat("0", digits-len(fraction))
}

// pick chooses the first variant whose keys fit best: exact before category
// before other, the first selector deciding first.
func (c *Choice) pick(tag culture.Tag, arguments map[string]string) Pattern {
	best, rank := -1, -1
	for i, v := range c.Variants {
		score, fits := 0, true
		for j, s := range c.Selectors {
			level := s.fit(tag, v.Keys[j], arguments[s.Argument.Name])
			fits = fits && level >= 0
			score = score*4 + level
		}
		if fits && score > rank {
			best, rank = i, score
		}
	}
	if best < 0 {
		return Message{Choice: c}.Main()
	}
	return c.Variants[best].Pattern
}

// fit is 3 for an exact key, 2 for the value's own, 1 for other, -1 for none.
func (s *Selector) fit(tag culture.Tag, key, value string) int {
	if s.Kind == Select {
		if key == value {
			return 2
		}
	} else if exact, ok := strings.CutPrefix(key, "="); ok {
		if exact == value {
			return 3
		}
		return -1
	} else if operands, err := culture.ParseOperands(value); err == nil {
		rules := tag.Cardinal()
		if s.Kind == Ordinal {
			rules = tag.Ordinal()
		}
		if operands.I >= uint64(max(s.Offset, 0)) {
			operands.I -= uint64(max(s.Offset, 0))
		}
		if rules.Category(operands) == key {
			return 2
		}
	}
	if key == Default {
		return 1
	}
	return -1
}

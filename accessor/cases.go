package accessor

import (
	"fmt"
	"slices"
	"strings"

	"zelvik/culture"
	"zelvik/message"
	"zelvik/message/icu"
)

// Checks are the cases of one culture, for the tests that are generated.
type Checks struct {
	Number int
	Tag    culture.Tag
	Calls  []Call
}

// Call is a member with its arguments, and the text that it has to give.
type Call struct {
	*Member
	Values []Value
	Want   string
}

// Value is an argument of a text or an integer: those that every platform
// writes alike, but for the digits.
type Value struct {
	Type message.Type
	Text string
}

// maxCalls bounds the calls per culture.
const maxCalls = 200

// counts are asked of members that count.
var counts = []string{"0", "1", "2", "3", "5", "11", "21"}

// Checks returns the cases of all cultures: members with numbers for every count,
// the others once. What takes decimals, dates or amounts is left to the
// platform. It is called before the texts are moved to bundles.
func (c *Catalog) Checks() []Checks {
	list := make([]Checks, 0, len(c.model.Cultures))
	for n, known := range c.model.Cultures {
		checks := Checks{Number: n, Tag: known.Tag}
		step := max(1, len(c.Members)*2/maxCalls)
		for i := 0; i < len(c.Members) && len(checks.Calls) < maxCalls; i += step {
			checks.Calls = append(checks.Calls, c.calls(known, i)...)
		}
		list = append(list, checks)
	}
	return list
}

func (c *Catalog) calls(in Culture, i int) []Call {
	member := &c.Members[i]
	if member.Gone {
		return nil
	}
	text, answering := c.answer(in, i)
	if text == "" || strings.ContainsRune(text, '<') {
		return nil
	}
	parsed, faults := icu.Parse(text)
	if len(faults) > 0 {
		return nil
	}
	counts := counts
	if parsed.Choice == nil {
		counts = counts[3:4]
	}
	if len(member.Parameters) > 0 && answering.RightToLeft() != in.Tag.RightToLeft() {
		return nil // the digits of one culture, the isolation of another
	}
	types := map[string]message.Type{}
	for _, p := range member.Parameters {
		if p.Type != message.String && p.Type != message.Integer || p.Own {
			return nil
		}
		types[p.Key] = p.Type
	}
	for p := range parsed.Placeholders() {
		if p.Type != types[p.Name] && p.Type != message.String {
			return nil // a style that the parameter's type does not say
		}
		p.Type = types[p.Name]
	}
	words := selected(parsed)
	var calls []Call
	for round := range counts {
		call := Call{Member: member}
		arguments := map[string]string{}
		for n, p := range member.Parameters {
			value := Value{Type: p.Type, Text: fmt.Sprintf("Runa %d", n)}
			switch keys := words[p.Key]; {
			case p.Type == message.Integer:
				value.Text = counts[(round+n)%len(counts)]
			case len(keys) > 0:
				value.Text = keys[round%len(keys)]
			}
			arguments[p.Key] = value.Text
			call.Values = append(call.Values, value)
		}
		call.Want = parsed.Render(answering, arguments)
		calls = append(calls, call)
	}
	return calls
}

// selected lists, by parameter, the words that a message selects by.
func selected(m message.Message) map[string][]string {
	words := map[string][]string{}
	if m.Choice == nil {
		return words
	}
	for i, s := range m.Choice.Selectors {
		if s.Kind != message.Select {
			continue
		}
		for _, v := range m.Choice.Variants {
			if !slices.Contains(words[s.Argument.Name], v.Keys[i]) {
				words[s.Argument.Name] = append(words[s.Argument.Name], v.Keys[i])
			}
		}
	}
	return words
}

// answer returns the text that a culture shows for a member, and whose it is.
func (c *Catalog) answer(in Culture, i int) (string, culture.Tag) {
	for _, tag := range in.Fallback {
		for n, other := range c.model.Cultures {
			if other.Tag == tag && c.Texts[n] != nil && c.Texts[n][i] != "" {
				return c.Texts[n][i], tag
			}
		}
	}
	return "", ""
}

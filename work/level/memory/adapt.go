package memory

import (
	"slices"
	"strings"
	"unicode"

	"zelvik/culture"
	"zelvik/format/numbered"
	"zelvik/message"
)

// adapt returns a unit's translation with the placeholders, the markup and the
// numbers of the text that is to be translated, and says whether it can be: it
// has the same placeholders in number and kind, and all forms that the culture
// needs.
func adapt(u *Unit, asked message.Message, tag culture.Tag) (message.Message, bool) {
	if (u.Target.Choice == nil) != (asked.Choice == nil) && !only(tag) || u.Source.Choice != nil && asked.Choice == nil {
		return message.Message{}, false
	}
	from, to := u.Source.Arguments(), asked.Arguments()
	if len(from) != len(to) {
		return message.Message{}, false
	}
	for i := range from {
		if from[i].Type.Number() != to[i].Type.Number() {
			return message.Message{}, false
		}
	}
	swap := func(p message.Placeholder) message.Placeholder {
		for i := range from {
			if from[i].Same(&p) {
				p.Name, p.Position, p.Sample = to[i].Name, to[i].Position, to[i].Sample
				if !p.Type.Number() {
					p.Type, p.Style = to[i].Type, to[i].Style
				}
				if p.Spelling != "#" { // the count, whatever it is called
					p.Syntax, p.Spelling, p.Wrapped = message.Nowhere, "", false
				}
				break
			}
		}
		return p
	}
	old, fresh := numbers(u.Source), numbers(asked)
	if len(old) != len(fresh) {
		old, fresh = nil, nil
	}
	pattern := func(p message.Pattern) message.Pattern {
		out := make(message.Pattern, len(p))
		for i, part := range p {
			switch part := part.(type) {
			case *message.Placeholder:
				swapped := swap(*part)
				out[i] = &swapped
			case message.Text:
				out[i] = message.Text(renumber(string(part), old, fresh))
			default:
				out[i] = part
			}
		}
		return out
	}
	if u.Target.Choice == nil {
		return message.Message{Pattern: pattern(u.Target.Pattern)}, true
	}
	choice := &message.Choice{}
	for _, s := range u.Target.Choice.Selectors {
		s.Argument = swap(s.Argument)
		choice.Selectors = append(choice.Selectors, s)
	}
	have := map[string]bool{}
	for _, v := range u.Target.Choice.Variants {
		have[v.Keys[0]] = true
		choice.Variants = append(choice.Variants, message.Variant{Keys: v.Keys, Pattern: pattern(v.Pattern)})
	}
	if len(choice.Selectors) == 1 && choice.Selectors[0].Kind == message.Plural {
		for _, category := range numbered.Reached(tag) {
			if !have[category] {
				return message.Message{}, false
			}
		}
	}
	return message.Message{Choice: choice}, true
}

// only reports whether a culture has one plural form, so that its plurals may
// be plain texts.
func only(tag culture.Tag) bool { return len(tag.Cardinal().Categories()) == 1 }

// numbers lists the numbers that stand in a message's texts.
func numbers(m message.Message) []string {
	var list []string
	for _, p := range m.Patterns() {
		list = append(list, strings.FieldsFunc(p.Literal(), func(r rune) bool { return !unicode.IsDigit(r) })...)
	}
	return list
}

// renumber puts the new text's numbers where the old one's stood, as far as
// that is plain.
func renumber(text string, old, fresh []string) string {
	for i := range old {
		if old[i] != fresh[i] && strings.Count(text, old[i]) == 1 && !slices.Contains(old[i+1:], old[i]) {
			text = strings.Replace(text, old[i], fresh[i], 1)
		}
	}
	return text
}

package numbered

import (
	"slices"

	"zelvik/culture"
	"zelvik/message"
)

// Shape gives a plural the forms that a culture needs: those that the
// source does not have begin as its form other.
func Shape(m message.Message, tag culture.Tag) message.Message {
	if len(m.Choice.Selectors) != 1 || m.Choice.Selectors[0].Kind != message.Plural {
		return m
	}
	choice := &message.Choice{Selectors: m.Choice.Selectors}
	for _, v := range m.Choice.Variants {
		if len(v.Keys[0]) > 0 && v.Keys[0][0] == '=' {
			choice.Variants = append(choice.Variants, v)
		}
	}
	for _, category := range tag.Cardinal().Categories() {
		pattern := m.Main()
		own := slices.IndexFunc(m.Choice.Variants, func(v message.Variant) bool { return v.Keys[0] == category })
		if own >= 0 {
			pattern = m.Choice.Variants[own].Pattern
		} else if !slices.Contains(Reached(tag), category) && category != message.Default {
			continue
		}
		choice.Variants = append(choice.Variants, message.Variant{Keys: []string{category}, Pattern: pattern})
	}
	return message.Message{Choice: choice}
}

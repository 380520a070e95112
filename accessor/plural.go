package accessor

import (
	"fmt"
	"strings"

	"zelvik/culture"
)

// Expression writes a plural rule's condition for languages with C's
// operators, over the operands i v w f t of UTS #35; the operand n is i where
// t is zero. Equal and unequal are the language's operators. Numbers in
// compact notation do not occur, so the operand e is zero.
func Expression(c culture.Condition, equal, unequal string) string {
	var rows []string
	for _, row := range c {
		var parts []string
		possible := true
		for _, r := range row {
			part, constant := relation(r, equal, unequal)
			if constant {
				possible = possible && part == "true"
				continue
			}
			parts = append(parts, part)
		}
		if !possible {
			continue
		}
		if len(parts) == 0 {
			return "true"
		}
		joined := strings.Join(parts, " && ")
		if strings.Contains(joined, "&&") && len(c) > 1 {
			joined = "(" + joined + ")"
		}
		rows = append(rows, joined)
	}
	if len(rows) == 0 {
		return "false"
	}
	return strings.Join(rows, " || ")
}

// relation writes one comparison, and says whether it is true or false for
// every number.
func relation(r culture.Relation, equal, unequal string) (text string, constant bool) {
	if r.Operand == 'e' || r.Operand == 'c' {
		inside := false
		for _, s := range r.Ranges {
			inside = inside || s.Low == 0
		}
		return fmt.Sprint(inside != r.Not), true
	}
	operand := string(r.Operand)
	if r.Operand == 'n' {
		operand = "i"
	}
	value := operand
	if r.Modulus != 0 {
		value = fmt.Sprintf("%s %% %d", operand, r.Modulus)
	}
	var parts []string
	for _, s := range r.Ranges {
		switch {
		case s.Low == s.High && r.Not:
			parts = append(parts, fmt.Sprintf("%s %s %d", value, unequal, s.Low))
		case s.Low == s.High:
			parts = append(parts, fmt.Sprintf("%s %s %d", value, equal, s.Low))
		case r.Not:
			parts = append(parts, fmt.Sprintf("(%s < %d || %s > %d)", value, s.Low, value, s.High))
		case len(r.Ranges) > 1 || r.Operand == 'n':
			parts = append(parts, fmt.Sprintf("(%s >= %d && %s <= %d)", value, s.Low, value, s.High))
		default:
			parts = append(parts, fmt.Sprintf("%s >= %d && %s <= %d", value, s.Low, value, s.High))
		}
	}
	glue := " || "
	if r.Not {
		glue = " && "
	}
	text = strings.Join(parts, glue)
	if len(parts) > 1 {
		text = "(" + text + ")"
	}
	if r.Operand == 'n' {
		if r.Not {
			return fmt.Sprintf("(t %s 0 || %s)", unequal, text), false
		}
		return fmt.Sprintf("t %s 0 && %s", equal, text), false
	}
	return text, false
}

// Ruled is a culture's plural rules as code: the first case whose condition
// holds gives the category, and other when none does.
type Ruled struct {
	Tag   string
	Cases []Case
}

// Case is a condition, written by Expression, and its category.
type Case struct{ Condition, Category string }

// Plurals writes the cardinal and ordinal rules of all cultures, in their
// order, with a language's operators for equal and unequal.
func (m *Model) Plurals(equal, unequal string) (cardinals, ordinals []Ruled) {
	spell := func(tag culture.Tag, rules culture.Rules) Ruled {
		r := Ruled{Tag: string(tag)}
		for _, rule := range rules {
			r.Cases = append(r.Cases, Case{Expression(rule.Condition, equal, unequal), rule.Category})
		}
		return r
	}
	for _, c := range m.Cultures {
		cardinals, ordinals = append(cardinals, spell(c.Tag, c.Cardinal)), append(ordinals, spell(c.Tag, c.Ordinal))
	}
	return cardinals, ordinals
}

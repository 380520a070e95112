package accessor

import (
	"fmt"
	"slices"
	"strings"

	"zelvik/culture"
)

// Expression writes a plural rule's condition for languages with C's
// operators, over the operands i v w f t of UTS #35; the operand n is i where
// t is zero. Equal and unequal are the language's operators. Numbers in
// compact notation do not occur, so the operand e is zero.
func Expression(c culture.Condition, equal, unequal string) string {
	var rows []operation
	for _, row := range c {
		var parts []operation
		possible := true
		whole := slices.ContainsFunc(row, func(r culture.Relation) bool { return r.Operand == 'n' && !r.Not })
		for _, r := range row {
			if r.Operand == 'e' || r.Operand == 'c' { // zero
				inside := slices.ContainsFunc(r.Ranges, func(s culture.Span) bool { return s.Low == 0 })
				possible = possible && inside != r.Not
				continue
			}
			parts = append(parts, relation(r, equal, unequal, whole))
		}
		if possible && len(parts) == 0 {
			return "true"
		}
		if possible {
			rows = append(rows, joined("&&", parts))
		}
	}
	if len(rows) == 0 {
		return "false"
	}
	return joined("||", rows).text
}

// operation is an expression and the operator that holds it together, "" for
// a comparison.
type operation struct{ text, operator string }

// joined joins expressions by an operator; those with another one go into
// parentheses.
func joined(operator string, parts []operation) operation {
	if len(parts) == 1 {
		return parts[0]
	}
	texts := make([]string, len(parts))
	for i, p := range parts {
		if texts[i] = p.text; p.operator != "" && p.operator != operator {
			texts[i] = "(" + p.text + ")"
		}
	}
	return operation{strings.Join(texts, " "+operator+" "), operator}
}

// relation writes a relation of a rule; whole says that another one lets pass
// whole numbers alone.
func relation(r culture.Relation, equal, unequal string, whole bool) operation {
	operand := string(r.Operand)
	if r.Operand == 'n' {
		operand = "i"
	}
	if r.Modulus != 0 {
		operand = fmt.Sprintf("%s %% %d", operand, r.Modulus)
	}
	compare := func(operator string, number uint64) operation {
		return operation{fmt.Sprintf("%s %s %d", operand, operator, number), ""}
	}
	var parts []operation
	for _, s := range r.Ranges {
		switch low, high := uint64(s.Low), uint64(s.High); {
		case low == high && r.Not:
			parts = append(parts, compare(unequal, low))
		case low == high:
			parts = append(parts, compare(equal, low))
		case r.Not:
			parts = append(parts, joined("||", []operation{compare("<", low), compare(">", high)}))
		case low == 0:
			parts = append(parts, compare("<=", high))
		case r.Modulus != 0 && high == uint64(r.Modulus)-1:
			parts = append(parts, compare(">=", low))
		default:
			parts = append(parts, joined("&&", []operation{compare(">=", low), compare("<=", high)}))
		}
	}
	switch {
	case r.Not && r.Operand == 'n' && !whole:
		return joined("||", []operation{{fmt.Sprintf("t %s 0", unequal), ""}, joined("&&", parts)})
	case r.Not:
		return joined("&&", parts)
	case r.Operand == 'n':
		return joined("&&", []operation{{fmt.Sprintf("t %s 0", equal), ""}, joined("||", parts)})
	}
	return joined("||", parts)
}

// Ruled is a culture's plural rules as code: the first case whose condition
// holds returns the category, and other when none does.
type Ruled struct {
	Tag   string
	Cases []Case
}

// Case is a condition, written by Expression, and its category.
type Case struct{ Condition, Category string }

// cases writes a rule: as one condition, or where that has parentheses within
// parentheses, as a case for each of its alternatives, which reads better.
func cases(rule culture.Rule, equal, unequal string) []Case {
	whole := Expression(rule.Condition, equal, unequal)
	depth, deepest := 0, 0
	for _, c := range whole {
		switch c {
		case '(':
			depth++
			deepest = max(deepest, depth)
		case ')':
			depth--
		}
	}
	if deepest < 2 {
		return []Case{{whole, rule.Category}}
	}
	var list []Case
	for i := range rule.Condition {
		if one := Expression(rule.Condition[i:i+1], equal, unequal); one != "false" {
			list = append(list, Case{one, rule.Category})
		}
	}
	return list
}

// Plurals writes the cardinal and ordinal rules of all cultures, in their
// order, with a language's operators for equal and unequal.
func (m *Model) Plurals(equal, unequal string) (cardinals, ordinals []Ruled) {
	spell := func(tag culture.Tag, rules culture.Rules) Ruled {
		r := Ruled{Tag: string(tag)}
		for _, rule := range rules {
			r.Cases = append(r.Cases, cases(rule, equal, unequal)...)
		}
		return r
	}
	for _, c := range m.Cultures {
		cardinals, ordinals = append(cardinals, spell(c.Tag, c.Cardinal)), append(ordinals, spell(c.Tag, c.Ordinal))
	}
	return cardinals, ordinals
}

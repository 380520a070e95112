package culture

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
	"sync"
)

// The plural categories of Unicode's locale data, in its order.
const (
	Zero  = "zero"
	One   = "one"
	Two   = "two"
	Few   = "few"
	Many  = "many"
	Other = "other"
)

// Categories are all plural categories in CLDR's order.
var Categories = []string{Zero, One, Two, Few, Many, Other}

// Operands are what plural rules look at (UTS #35, plural operand meanings):
// I the integer digits, F and T the visible fraction digits with and without
// trailing zeros, V and W how many those are, E the compact exponent. The
// operand n is I when T is zero, else no integer.
type Operands struct {
	I, F, T uint64
	V, W, E int
}

// ParseOperands reads a decimal number with its visible digits: "1", "-1.50",
// "1.2c6" (1.2 million, written compactly).
func ParseOperands(text string) (Operands, error) {
	digits, exponent, compact := strings.Cut(strings.TrimLeft(text, "-+"), "c")
	if !compact {
		digits, exponent, compact = strings.Cut(digits, "e")
	}
	var o Operands
	var err error
	if compact {
		if o.E, err = strconv.Atoi(exponent); err != nil || o.E < 0 || o.E > 15 {
			return o, fmt.Errorf("%q is no number: bad exponent", text)
		}
	}
	whole, fraction, _ := strings.Cut(digits, ".")
	if shift := min(o.E, len(fraction)); shift > 0 {
		whole, fraction = whole+fraction[:shift], fraction[shift:]
		whole += strings.Repeat("0", o.E-shift)
	} else {
		whole += strings.Repeat("0", o.E)
	}
	if len(whole) > 18 { // rules look at the last digits alone
		whole = whole[len(whole)-18:]
	}
	if o.I, err = strconv.ParseUint(whole, 10, 64); err != nil {
		return o, fmt.Errorf("%q is no number", text)
	}
	if len(fraction) > 18 {
		fraction = fraction[:18]
	}
	trimmed := strings.TrimRight(fraction, "0")
	o.V, o.W = len(fraction), len(trimmed)
	if fraction != "" {
		if o.F, err = strconv.ParseUint(fraction, 10, 64); err != nil {
			return o, fmt.Errorf("%q is no number", text)
		}
	}
	if trimmed != "" {
		o.T, _ = strconv.ParseUint(trimmed, 10, 64)
	}
	return o, nil
}

// Span is an inclusive range of whole numbers.
type Span struct{ Low, High uint64 }

// Relation is one comparison of a plural rule: operand, modulus (0 for none),
// whether it must not hold, and the ranges (UTS #35, plural rules syntax).
type Relation struct {
	Operand byte // n i v w f t e
	Modulus uint64
	Not     bool
	Ranges  []Span
}

// Condition is a plural rule's condition: any of its rows must hold, and in a
// row every relation.
type Condition [][]Relation

// String writes the condition as UTS #35 does: "v = 0 and i % 10 = 2..4".
func (c Condition) String() string {
	rows := make([]string, len(c))
	for i, row := range c {
		relations := make([]string, len(row))
		for j, r := range row {
			relations[j] = r.String()
		}
		rows[i] = strings.Join(relations, " and ")
	}
	return strings.Join(rows, " or ")
}

// String writes the relation as UTS #35 does.
func (r Relation) String() string {
	ranges := make([]string, len(r.Ranges))
	for i, s := range r.Ranges {
		if ranges[i] = strconv.FormatUint(s.Low, 10); s.High != s.Low {
			ranges[i] += ".." + strconv.FormatUint(s.High, 10)
		}
	}
	text := string(r.Operand)
	if r.Modulus != 0 {
		text += " % " + strconv.FormatUint(r.Modulus, 10)
	}
	return text + map[bool]string{true: " != ", false: " = "}[r.Not] + strings.Join(ranges, ",")
}

// Rule gives a category to the numbers for which its condition holds.
type Rule struct {
	Category  string
	Condition Condition
}

// Rules are one culture's plural rules of one kind; numbers that meet no rule
// are Other.
type Rules []Rule

// pluralTables holds rules by kind and language, parsed when first asked for.
var pluralTables = sync.OnceValue(func() map[string]map[string]func() Rules {
	tables := map[string]map[string]func() Rules{"cardinal": {}, "ordinal": {}}
	for row := range rows("plurals.txt", "\t") {
		text := row[2]
		parsed := sync.OnceValue(func() Rules {
			rules, err := parseRules(text)
			if err != nil {
				panic(err) // the table is generated and tested
			}
			return rules
		})
		for _, language := range strings.Fields(row[1]) {
			tables[row[0]][language] = parsed
		}
	}
	return tables
})

// Cardinal returns the rules for counts ("3 ferries").
func (t Tag) Cardinal() Rules { return t.rules("cardinal") }

// Ordinal returns the rules for ranks ("3rd deck").
func (t Tag) Ordinal() Rules { return t.rules("ordinal") }

// formless are the languages of which CLDR says that they have the form other alone.
const formless = " bm bo dz hnj id ig ii ja jbo jv kde kea km ko lkt lo ms my nqo osa sah ses sg su th to tpi vi wo yo yue zh "

// Counted reports whether it is known how the culture counts. Where it is not,
// Cardinal has the form other alone.
func (t Tag) Counted() bool {
	return pluralTables()["cardinal"][t.Base()] != nil || strings.Contains(formless, " "+t.Base()+" ")
}

func (t Tag) rules(kind string) Rules {
	table := pluralTables()[kind]
	for tag := string(t); ; { // by shorter tags, not by the parents of texts: sr-Latn counts as sr does
		if rules, ok := table[tag]; ok {
			return rules()
		}
		i := strings.LastIndexByte(tag, '-')
		if i < 0 {
			return nil
		}
		tag = tag[:i]
	}
}

// Category returns the category of a number.
func (r Rules) Category(o Operands) string {
	for _, rule := range r {
		if rule.Condition.holds(o) {
			return rule.Category
		}
	}
	return Other
}

// CategoryOf returns the category of a whole number.
func (r Rules) CategoryOf(n int) string {
	return r.Category(Operands{I: uint64(max(n, -n))})
}

// Categories returns the categories the rules use, in CLDR's order.
func (r Rules) Categories() []string {
	list := []string{}
	for _, category := range Categories {
		if category == Other || slices.ContainsFunc(r, func(rule Rule) bool { return rule.Category == category }) {
			list = append(list, category)
		}
	}
	return list
}

func (c Condition) holds(o Operands) bool {
	return slices.ContainsFunc(c, func(row []Relation) bool {
		return !slices.ContainsFunc(row, func(r Relation) bool { return !r.holds(o) })
	})
}

func (r Relation) holds(o Operands) bool {
	var value uint64
	switch r.Operand {
	case 'n':
		if o.T != 0 { // no integer equals a number with a fraction
			return r.Not
		}
		value = o.I
	case 'i':
		value = o.I
	case 'f':
		value = o.F
	case 't':
		value = o.T
	case 'v':
		value = uint64(o.V)
	case 'w':
		value = uint64(o.W)
	case 'e', 'c':
		value = uint64(o.E)
	}
	if r.Modulus != 0 {
		value %= r.Modulus
	}
	inside := slices.ContainsFunc(r.Ranges, func(s Span) bool { return s.Low <= value && value <= s.High })
	return inside != r.Not
}

// parseRules reads "one: n = 1; few: n = 2..4".
func parseRules(text string) (Rules, error) {
	var rules Rules
	for part := range strings.SplitSeq(text, "; ") {
		category, condition, ok := strings.Cut(part, ": ")
		if !ok {
			return nil, fmt.Errorf("plural rule %q has no category", part)
		}
		parsed, err := ParseCondition(condition)
		if err != nil {
			return nil, err
		}
		rules = append(rules, Rule{category, parsed})
	}
	return rules, nil
}

// ParseCondition reads a condition in the syntax of UTS #35 ("n % 10 = 1 and
// n % 100 != 11"). The error names the part that could not be read.
func ParseCondition(text string) (Condition, error) {
	var condition Condition
	for row := range strings.SplitSeq(text, " or ") {
		var relations []Relation
		for part := range strings.SplitSeq(row, " and ") {
			relation, err := parseRelation(part)
			if err != nil {
				return nil, err
			}
			relations = append(relations, relation)
		}
		condition = append(condition, relations)
	}
	return condition, nil
}

func parseRelation(text string) (Relation, error) {
	bad := fmt.Errorf("plural rule: %q is no relation", text)
	var r Relation
	left, right, ok := strings.Cut(text, "=")
	if !ok {
		return r, bad
	}
	left, r.Not = strings.CutSuffix(left, "!")
	operand, modulus, has := strings.Cut(left, "%")
	operand = strings.TrimSpace(operand)
	if len(operand) != 1 || !strings.Contains("nivwftec", operand) {
		return r, bad
	}
	r.Operand = operand[0]
	var err error
	if has {
		if r.Modulus, err = strconv.ParseUint(strings.TrimSpace(modulus), 10, 64); err != nil || r.Modulus == 0 {
			return r, bad
		}
	}
	for part := range strings.SplitSeq(right, ",") {
		low, high, span := strings.Cut(strings.TrimSpace(part), "..")
		if !span {
			high = low
		}
		var s Span
		if s.Low, err = strconv.ParseUint(low, 10, 64); err != nil {
			return r, bad
		}
		if s.High, err = strconv.ParseUint(high, 10, 64); err != nil {
			return r, bad
		}
		r.Ranges = append(r.Ranges, s)
	}
	return r, nil
}

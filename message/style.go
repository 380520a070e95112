package message

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
)

// Style says how a value is written, in words separated by spaces:
//
//	group       thousands are set apart
//	.00         exactly two fraction digits; .0# one or two
//	zero=4      at least four digits, filled with zeros
//	width=8     at least eight characters; with "left", filled on the right
//	sign        plus is written
//	hex octal scientific general hexfloat alternate accounting upper
//	char boolean hash pointer repr spellout ordinal duration
//	short medium long full     date and time lengths
//	unscaled    a percentage as it stands, not a hundred times the number
//	EUR         a currency code
//	::yMMMd     a skeleton (UTS #35, date field symbols)
//	=yyyy-MM-dd a fixed pattern (date field symbols; a number's by UTS #35)
//	net=G4 icu:compact-short dart=compact   words of one platform alone
//
// A style keeps only what a value's reader would notice.
type Style string

// NewStyle joins words, leaving out empty ones.
func NewStyle(words ...string) Style {
	return Style(strings.Join(slices.DeleteFunc(words, func(w string) bool { return w == "" }), " "))
}

// Has reports whether the style has the word.
func (s Style) Has(word string) bool {
	return s != "" && slices.Contains(strings.Fields(string(s)), word)
}

// Fraction returns the word for fraction digits (".00") with the least and the
// most digits, and whether the style has one.
func (s Style) Fraction() (least, most int, ok bool) {
	for word := range strings.FieldsSeq(string(s)) {
		if digits, found := strings.CutPrefix(word, "."); found {
			return strings.Count(digits, "0"), len(digits), true
		}
	}
	return 0, 0, false
}

// Value returns the number after "word=", or 0.
func (s Style) Value(word string) int {
	for field := range strings.FieldsSeq(string(s)) {
		if digits, found := strings.CutPrefix(field, word+"="); found {
			n, _ := strconv.Atoi(digits)
			return n
		}
	}
	return 0
}

// Length returns the date or time length in the style: short, medium, long or
// full, else "".
func (s Style) Length() string {
	for _, word := range []string{"short", "medium", "long", "full"} {
		if s.Has(word) {
			return word
		}
	}
	return ""
}

// Custom returns the style's date skeleton ("yMMMd") or fixed pattern, and which
// of the two it is.
func (s Style) Custom() (pattern string, skeleton, ok bool) {
	if pattern, found := strings.CutPrefix(string(s), "::"); found {
		return pattern, true, true
	}
	pattern, found := strings.CutPrefix(string(s), "=")
	return pattern, false, found
}

// Code returns the currency code in the style, or "".
func (s Style) Code() string {
	for word := range strings.FieldsSeq(string(s)) {
		if len(word) == 3 && word == strings.ToUpper(word) && word[0] >= 'A' && word[0] <= 'Z' {
			return word
		}
	}
	return ""
}

// Without returns the style without some words, and reports whether any was
// there.
func (s Style) Without(words ...string) (Style, bool) {
	fields := strings.Fields(string(s))
	kept := slices.DeleteFunc(slices.Clone(fields), func(field string) bool {
		name, _, _ := strings.Cut(field, "=")
		return slices.Contains(words, name)
	})
	return NewStyle(kept...), len(kept) != len(fields)
}

// FractionWord makes the word for exactly n fraction digits, "" for none
// stated (n < 0), "." for none shown.
func FractionWord(n int) string {
	if n < 0 {
		return ""
	}
	return "." + strings.Repeat("0", min(n, 20))
}

// Lost tells how the value of a placeholder is written otherwise by what another
// syntax has for it, as that syntax reads it; nil where it is written the same.
func (p *Placeholder) Lost(read *Placeholder) []Loss {
	if read.Type == p.Type && read.Style == p.Style {
		return nil
	}
	lost := fmt.Sprintf("the style %q of {%s}", p.Style, p.Name)
	if p.Style == "" || read.Type == String && read.Style == "" {
		lost = fmt.Sprintf("that {%s} is %s", p.Name, p.Type.says(p.Style))
	}
	instead := "as the program gives it"
	if read.Type != String || read.Style != "" {
		instead = read.Type.says(read.Style)
	}
	return []Loss{{"number-style", lost, instead}}
}

// Says returns type and style in words: "an integer", "a date short".
func (p *Placeholder) Says() string { return p.Type.says(p.Style) }

// says returns type and style in words.
func (t Type) says(s Style) string {
	words := "a " + t.String()
	if t == Integer {
		words = "an integer"
	}
	if s != "" {
		words += " " + string(s)
	}
	return words
}

// Package numbered reads and writes plurals in formats whose forms have numbers
// instead of names, as in gettext's catalogs and Qt's: it finds out which
// plural category each form answers for.
package numbered

import (
	"fmt"
	"slices"
	"strings"
	"sync"

	"zelvik/culture"
	"zelvik/message"
)

// Forms says which form of a file answers for which plural category.
type Forms struct {
	// Count is how many forms there are.
	Count int
	// Index returns a category's form.
	Index map[string]int
}

// samples are the whole numbers that a file's rule and the culture's rules are
// asked about.
var samples = sync.OnceValue(func() (list []int) {
	for n := range 1001 {
		list = append(list, n)
	}
	return append(list, 10000, 100000, 1000000)
})

// Reached returns the culture's categories that whole numbers up to a thousand
// have, in CLDR's order; larger numbers alone do not ask for a form.
func Reached(tag culture.Tag) []string {
	rules := tag.Cardinal()
	seen := map[string]bool{}
	for _, n := range samples()[:1001] {
		seen[rules.CategoryOf(n)] = true
	}
	return slices.DeleteFunc(slices.Clone(culture.Categories), func(c string) bool { return !seen[c] })
}

// Match matches a file's forms with a culture's categories, by asking the rule
// of each about the same numbers: a category belongs to the form that most of
// its numbers have.
func Match(tag culture.Tag, count int, form func(n int) int) Forms {
	f := Forms{Count: count, Index: map[string]int{}}
	if tag == "" { // nobody says which culture it is: the names that so many forms have in most
		for i, category := range usual[min(count, len(usual)-1)] {
			f.Index[category] = i
		}
		return f
	}
	rules := tag.Cardinal()
	hits := map[string][]int{}
	for _, n := range samples() {
		category := rules.CategoryOf(n)
		if hits[category] == nil {
			hits[category] = make([]int, count)
		}
		if i := form(n); i >= 0 && i < count {
			hits[category][i]++
		}
	}
	for category, list := range hits {
		best := 0
		for i, n := range list {
			if n > list[best] {
				best = i
			}
		}
		f.Index[category] = best
	}
	f.addOther()
	small := Reached(tag)
	for category, i := range f.Index { // what only millions have, and shares the form of other, says nothing of its own
		if i == f.Index[culture.Other] && category != culture.Other && !slices.Contains(small, category) {
			delete(f.Index, category)
		}
	}
	return f
}

// known are the forms of cultures that were asked for.
var known sync.Map

// usual are the categories that most cultures with so many forms have.
var usual = [][]string{
	{}, {culture.Other}, {culture.One, culture.Other}, {culture.One, culture.Few, culture.Other}, {culture.One, culture.Two, culture.Few, culture.Other},
	{culture.One, culture.Two, culture.Few, culture.Many, culture.Other}, culture.Categories,
}

// Own gives a form to each category that whole numbers reach, in CLDR's order.
func Own(tag culture.Tag) Forms {
	if f, ok := known.Load(tag); ok {
		return f.(Forms)
	}
	categories := Reached(tag)
	f := Forms{Count: len(categories), Index: map[string]int{}}
	for i, category := range categories {
		f.Index[category] = i
	}
	f.addOther()
	known.Store(tag, f)
	return f
}

// addOther lets the last form answer for fractions, which whole numbers do not
// reach in some cultures.
func (f *Forms) addOther() {
	if _, ok := f.Index[culture.Other]; !ok && f.Count > 0 {
		f.Index[culture.Other] = f.Count - 1
	}
}

// Categories returns the categories that the forms are read as, in CLDR's order.
func (f Forms) Categories() []string {
	var list []string
	for _, category := range culture.Categories {
		if _, ok := f.Index[category]; ok {
			list = append(list, category)
		}
	}
	return list
}

// Reduced tells what of a choice has no place among numbered forms.
func Reduced(m message.Message) []message.Loss {
	var losses []message.Loss
	lose := func(kind, lost, instead string) {
		losses = append(losses, message.Loss{Kind: kind, Lost: lost, Instead: instead})
	}
	for _, s := range m.Choice.Selectors[1:] {
		lose("second-selector", "the variants over {"+s.Argument.Name+"}", "the variant other of it")
	}
	s := m.Choice.Selectors[0]
	if s.Offset != 0 {
		lose("exact-case", fmt.Sprintf("the offset %d of {%s}", s.Offset, s.Argument.Name), "the whole number")
	}
	for _, v := range m.Choice.Variants {
		if key := v.Keys[0]; strings.HasPrefix(key, "=") {
			lose("exact-case", "the case "+key, "the variant of its category")
		}
	}
	return losses
}

// Fill spells a message into the forms, and tells what they cannot hold.
func (f Forms) Fill(m message.Message, spell func(p message.Pattern) (string, []message.Loss)) (texts []string, losses []message.Loss) {
	texts = make([]string, max(f.Count, 1))
	spelled := func(p message.Pattern) string {
		text, more := spell(p)
		losses = append(losses, more...)
		return text
	}
	if m.Choice == nil || m.Choice.Selectors[0].Kind != message.Plural {
		if m.Choice != nil {
			s := m.Choice.Selectors[0]
			losses = append(losses, message.Loss{Kind: s.Kind.String(), Lost: "the variants over {" + s.Argument.Name + "}", Instead: "the text of the variant other"})
		}
		text := spelled(m.Main())
		for i := range texts {
			texts[i] = text
		}
		return texts, losses
	}
	losses = append(losses, Reduced(m)...)
	other := spelled(m.Main())
	filled := make([]bool, len(texts))
	for _, category := range culture.Categories {
		i, ok := f.Index[category]
		text, found := other, category == culture.Other
		for _, v := range m.Choice.Variants {
			if v.Keys[0] == category && !slices.ContainsFunc(v.Keys[1:], func(k string) bool { return k != message.Default }) {
				text, found = spelled(v.Pattern), true
			}
		}
		switch {
		case !found:
		case !ok:
			if text != other {
				losses = append(losses, message.Loss{Kind: "plural", Lost: "the form " + category + ", which whole numbers below a million do not have here", Instead: "the form other"})
			}
		case i >= len(texts):
		case filled[i]:
			if texts[i] != text {
				losses = append(losses, message.Loss{Kind: "plural", Lost: "the form " + category + ", which has no number of its own here", Instead: "the form before it"})
			}
		default:
			texts[i], filled[i] = text, true
		}
	}
	for i := range texts {
		if !filled[i] {
			texts[i] = other
		}
	}
	return texts, losses
}

// Choice makes a plural of the forms' texts, and leaves open what it counts.
func (f Forms) Choice(text func(form int) message.Pattern) message.Message {
	choice := &message.Choice{}
	for _, category := range f.Categories() {
		choice.Variants = append(choice.Variants, message.Variant{Keys: []string{category}, Pattern: text(f.Index[category])})
	}
	return message.Message{Choice: choice}
}

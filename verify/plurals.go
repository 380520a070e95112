package verify

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/finding"
	"zelvik/message"
)

var pluralGap = &Rule{
	Name: "plural-gap", Severity: finding.Error,
	Doc:     "A plural has no form for a category that the culture needs.",
	Why:     "Polish has one form for 2 to 4 and another for 5 to 21; with only one of them people read \"5 łodzie\".",
	Example: `values-pl: <plurals name="crates"> with one and other only`,
	Fix:     "Add the form.",
	Catalog: func(f *Family, m *catalog.Member, report Report) {
		if f.OwnForms { // each number has a form by the file's own rule
			return
		}
		eachPlural(m, func(e *catalog.Entry, s message.Selector, keys []string, rules culture.Rules) {
			if f.Format == "qt" && m.Culture == f.Source && len(keys) == 1 {
				return // "%n file(s)" in the code; a file for the source's plurals is optional
			}
			if f.Format == "properties" && !slices.ContainsFunc(keys, func(key string) bool { return key != message.Default && !strings.HasPrefix(key, "=") }) {
				return // a choice format, whose ranges leave no number out
			}
			for _, category := range needed(rules, s) {
				if !slices.Contains(keys, category) && !exactly(rules, s, keys, category) {
					report(e, fmt.Sprintf("%s needs the plural form %s (as in %s), and it is missing", m.Culture.Name(), category, strings.Join(samples(rules, category), ", ")), "add the form "+category)
				}
			}
		})
	},
}

var pluralIdle = &Rule{
	Name: "plural-idle", Severity: finding.Warning,
	Doc:     "A plural has a form for a category that the culture never uses.",
	Why:     "It is translated and never shown; often it hides that another form was forgotten.",
	Example: `values-ja: <item quantity="one">`,
	Fix:     "Remove the form, or write it as an exact case where the format can.",
	Catalog: func(f *Family, m *catalog.Member, report Report) {
		eachPlural(m, func(e *catalog.Entry, s message.Selector, keys []string, rules culture.Rules) {
			for _, key := range keys {
				if strings.HasPrefix(key, "=") || slices.Contains(rules.Categories(), key) {
					continue
				}
				if key == culture.Zero && f.Format == "strings" { // Apple shows it for 0 in every culture
					continue
				}
				report(e, fmt.Sprintf("%s never uses the plural form %s", m.Culture.Name(), key), "remove the form "+key)
			}
		})
	},
}

// eachPlural calls f for every selector that counts, with the keys that its
// variants have.
func eachPlural(m *catalog.Member, f func(e *catalog.Entry, s message.Selector, keys []string, rules culture.Rules)) {
	if m.Culture.Pseudo() {
		return
	}
	if !m.Culture.Counted() { // nobody knows what it needs
		return
	}
	for i := range m.Catalog.Entries {
		e := &m.Catalog.Entries[i]
		if e.Message.Choice == nil {
			continue
		}
		for at, s := range e.Message.Choice.Selectors {
			if s.Kind == message.Select {
				continue
			}
			var keys []string
			for _, v := range e.Message.Choice.Variants {
				if !slices.Contains(keys, v.Keys[at]) {
					keys = append(keys, v.Keys[at])
				}
			}
			rules := m.Culture.Cardinal()
			if s.Kind == message.Ordinal {
				rules = m.Culture.Ordinal()
			}
			f(e, s, keys, rules)
		}
	}
}

// needed lists the categories that the whole numbers up to 1000 have; those
// of fractions and of round millions fall back to other without harm.
func needed(rules culture.Rules, s message.Selector) []string {
	found := map[string]bool{message.Default: true}
	for n := range 1001 {
		found[rules.CategoryOf(n)] = true
	}
	var list []string
	for _, category := range culture.Categories {
		if found[category] {
			list = append(list, category)
		}
	}
	return list
}

// exactly reports whether exact cases stand for all whole numbers of a category,
// as =1 does for "one" in English: then nothing of it is left to show. Counts
// of a choice with an offset are held against the category without it.
func exactly(rules culture.Rules, s message.Selector, keys []string, category string) bool {
	some := false
	for n := range 1001 {
		if rules.CategoryOf(n) != category {
			continue
		}
		if some = true; !slices.Contains(keys, "="+strconv.Itoa(n+s.Offset)) {
			return false
		}
	}
	return some && category != message.Default
}

// samples returns the first numbers of a category.
func samples(rules culture.Rules, category string) []string {
	var list []string
	for n := 0; n <= 200 && len(list) < 3; n++ {
		if rules.CategoryOf(n) == category {
			list = append(list, fmt.Sprint(n))
		}
	}
	if len(list) == 0 {
		list = []string{"fractions"}
	}
	return list
}

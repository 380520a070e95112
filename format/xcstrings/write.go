package xcstrings

import (
	"bytes"
	"cmp"
	"fmt"
	"slices"
	"strings"

	"zelvik/catalog"
	"zelvik/format"
	"zelvik/format/jsonscan"
	"zelvik/format/stringsdict"
	"zelvik/message"
	"zelvik/message/printf"
)

// layout is how the platform's editor writes the file.
var layout = jsonscan.Layout{Indent: "  ", Newline: "\n", Colon: " : ", Spread: true}

type writer struct{ format.Teller }

// join writes a string catalog: keys in the order of the platform's editor,
// cultures sorted.
func join(catalogs []*catalog.Catalog) ([]byte, []catalog.Loss) {
	w := &writer{}
	keys, sorted := order(catalogs)
	if !sorted {
		w.Lose("layout", "the order of the entries", "they are sorted by key, as the platform's editor does")
	}
	tree := func(strings jsonscan.Tree) jsonscan.Tree {
		return jsonscan.Dict(
			jsonscan.Field{Key: "sourceLanguage", Value: jsonscan.Str(string(catalogs[0].Culture))},
			jsonscan.Field{Key: "strings", Value: strings},
			jsonscan.Field{Key: "version", Value: jsonscan.Str("1.0")},
		)
	}
	if len(keys) == 0 {
		return layout.Append(nil, tree(jsonscan.Dict()), ""), w.Losses
	}
	// The entries are written on both cores, and put where a mark stands.
	mark := jsonscan.Field{Key: "\x00", Value: jsonscan.Str("")}
	before, after, _ := bytes.Cut(layout.Append(nil, tree(jsonscan.Dict(mark)), ""), layout.Member(nil, mark, true, layout.Indent))
	out := make([]byte, 0, len(keys)*len(catalogs)*280)
	out = append(out, before...)
	for _, c := range catalogs {
		c.Find("") // makes its index, which both halves read
	}
	second := &writer{}
	var rest []byte
	format.Halves(len(keys), func(from, to int) {
		out = w.members(out, catalogs, keys[from:to], true)
	}, func(from, to int) {
		rest = second.members(make([]byte, 0, cap(out)/2), catalogs, keys[from:to], false)
	})
	return append(append(out, rest...), after...), append(w.Losses, second.Losses...)
}

// members writes entries into the object of all strings.
func (w *writer) members(out []byte, catalogs []*catalog.Catalog, keys []string, first bool) []byte {
	for i, key := range keys {
		out = layout.Member(out, jsonscan.Field{Key: key, Value: w.entry(catalogs, key)}, first && i == 0, layout.Indent)
	}
	return out
}

// order gives all keys sorted, and whether they stood so.
func order(catalogs []*catalog.Catalog) (keys []string, sorted bool) {
	seen := make(map[string]bool, len(catalogs[0].Entries))
	for _, c := range catalogs {
		for i := range c.Entries {
			if key := c.Entries[i].Key; !seen[key] {
				seen[key] = true
				keys = append(keys, key)
			}
		}
	}
	if sorted = slices.IsSortedFunc(keys, compare); sorted {
		return keys, true
	}
	type pair struct{ lower, key string }
	pairs := make([]pair, len(keys))
	for i, key := range keys {
		pairs[i] = pair{strings.ToLower(key), key}
	}
	slices.SortFunc(pairs, func(a, b pair) int { return cmp.Or(strings.Compare(a.lower, b.lower), strings.Compare(a.key, b.key)) })
	for i := range pairs {
		keys[i] = pairs[i].key
	}
	return keys, false
}

// compare sorts keys without regard to case.
func compare(a, b string) int {
	if c := strings.Compare(strings.ToLower(a), strings.ToLower(b)); c != 0 {
		return c
	}
	return strings.Compare(a, b)
}

// entry writes one key in all cultures.
func (w *writer) entry(catalogs []*catalog.Catalog, key string) jsonscan.Tree {
	var note jsonscan.Tree
	fixed := false
	localizations := map[string]jsonscan.Tree{}
	var tags []string
	for i, c := range catalogs {
		w.Catalog = c
		e := c.Find(key)
		if e == nil {
			continue
		}
		if !w.Unheld(e, "string catalogs", holds) {
			continue
		}
		if e.Note != "" && (i == 0 || note.Text == "") {
			note = jsonscan.Str(e.Note)
		}
		fixed = fixed || e.Fixed
		e = w.Resolved(c, e)
		if i == 0 && e.Message.Choice == nil && e.Message.Pattern.String() == key {
			continue // the key is the text
		}
		tags = append(tags, string(c.Culture))
		localizations[string(c.Culture)] = w.localization(e)
	}
	slices.Sort(tags)
	var fields []jsonscan.Field
	if note.Text != "" {
		fields = append(fields, jsonscan.Field{Key: "comment", Value: note})
	}
	fields = append(fields, jsonscan.Field{Key: "extractionState", Value: jsonscan.Str("manual")})
	if len(tags) > 0 {
		var list []jsonscan.Field
		for _, tag := range tags {
			list = append(list, jsonscan.Field{Key: tag, Value: localizations[tag]})
		}
		fields = append(fields, jsonscan.Field{Key: "localizations", Value: jsonscan.Dict(list...)})
	}
	if fixed {
		fields = append(fields, jsonscan.Field{Key: "shouldTranslate", Value: jsonscan.Tree{Text: "false"}})
	}
	return jsonscan.Dict(fields...)
}

// state gives the format's word for how far a translation has come.
func (w *writer) state(e *catalog.Entry) string {
	switch e.State {
	case catalog.Missing:
		return "new"
	case catalog.Draft:
		return "needs_review"
	case catalog.Moved:
		w.Lose("state", "that the source changed after the translation", "needs_review")
		return "needs_review"
	}
	return "translated"
}

func newUnit(state, text string) jsonscan.Field {
	return jsonscan.Field{Key: "stringUnit", Value: jsonscan.Dict(
		jsonscan.Field{Key: "state", Value: jsonscan.Str(state)},
		jsonscan.Field{Key: "value", Value: jsonscan.Str(text)},
	)}
}

// localization writes an entry's texts in one culture: a text, the forms of a
// plural, or a text with a substitution for each number that is counted.
func (w *writer) localization(e *catalog.Entry) jsonscan.Tree {
	state := w.state(e)
	m := e.Message
	if !stringsdict.Plural(m) {
		return jsonscan.Dict(newUnit(state, w.text(m)))
	}
	top, variables, losses := stringsdict.Split(m)
	w.Told("", losses)
	if len(m.Arguments()) <= 1 && len(variables) == 1 && variables[0].Position <= 1 {
		return jsonscan.Dict(plurals(state, variables[0].Forms))
	}
	var list []jsonscan.Field
	for _, v := range variables {
		for i := range v.Forms {
			text := strings.ReplaceAll(v.Forms[i].Text, fmt.Sprintf("%%%d$%s", v.Position, v.Type), "%arg")
			v.Forms[i].Text = strings.ReplaceAll(text, "%"+v.Type, "%arg")
		}
		list = append(list, jsonscan.Field{Key: v.Name, Value: jsonscan.Dict(
			jsonscan.Field{Key: "argNum", Value: jsonscan.Tree{Text: fmt.Sprint(max(v.Position, 1))}},
			jsonscan.Field{Key: "formatSpecifier", Value: jsonscan.Str(v.Type)},
			plurals(state, v.Forms),
		)})
	}
	slices.SortFunc(list, func(a, b jsonscan.Field) int { return strings.Compare(a.Key, b.Key) })
	return jsonscan.Dict(newUnit(state, top), jsonscan.Field{Key: "substitutions", Value: jsonscan.Dict(list...)})
}

// text spells a message without plurals.
func (w *writer) text(m message.Message) string {
	if m.Choice != nil {
		s := m.Choice.Selectors[0]
		w.Lose(s.Kind.String(), "the variants over {"+s.Argument.Name+"}", "the text of the variant other")
	}
	return w.Told(printf.Foundation.Write(m.Main(), printf.Numbered(m), false))
}

func plurals(state string, forms []stringsdict.Form) jsonscan.Field {
	var list []jsonscan.Field
	for _, f := range forms {
		list = append(list, jsonscan.Field{Key: f.Category, Value: jsonscan.Dict(newUnit(state, f.Text))})
	}
	slices.SortStableFunc(list, func(a, b jsonscan.Field) int { // as the platform's editor does
		return strings.Compare(a.Key, b.Key)
	})
	return jsonscan.Field{Key: "variations", Value: jsonscan.Dict(jsonscan.Field{Key: "plural", Value: jsonscan.Dict(list...)})}
}

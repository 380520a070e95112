package xcstrings

import (
	"bytes"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"zelvik/catalog"
	"zelvik/format"
	"zelvik/format/jsonscan"
	"zelvik/format/stringsdict"
	"zelvik/internal/fast"
	"zelvik/message"
	"zelvik/message/printf"
)

// layout is how the platform's editor writes the file.
var layout = jsonscan.Layout{Indent: "  ", Newline: "\n", Colon: " : ", Spread: true}

type writer struct {
	format.Teller
	// scratch holds the members of the entry that is being written.
	scratch []jsonscan.Field
	// frames are those that were asked for, by name; texts holds what goes into
	// one.
	frames map[string]frame
	texts  []string
}

// dict makes an object that lasts until the next entry is written.
func (w *writer) dict(fields ...jsonscan.Field) jsonscan.Tree {
	from := len(w.scratch)
	w.scratch = append(w.scratch, fields...)
	return jsonscan.Tree{Members: w.scratch[from:len(w.scratch):len(w.scratch)]}
}

// join writes a string catalog: keys in the order of the platform's editor,
// cultures sorted.
func join(catalogs []*catalog.Catalog) ([]byte, []catalog.Loss) {
	w := &writer{}
	keys := w.Keys(catalogs)
	numbers, sorted := order(keys)
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
	out := fast.Make[byte](1024 + len(keys)*(80+240*len(catalogs)))
	out = append(out, before...)
	second := &writer{}
	out, _ = format.Append(out, len(keys), format.Options{}, w, second, func(w *writer, out []byte, from, to int) ([]byte, bool) {
		return w.members(out, catalogs, keys, numbers[from:to], from == 0), true
	})
	return append(out, after...), append(w.Losses, second.Losses...)
}

// members writes the entries of keys, which are given by their numbers.
func (w *writer) members(out []byte, catalogs []*catalog.Catalog, keys []string, order []int32, first bool) []byte {
	for i, number := range order {
		key := keys[number]
		if len(catalogs) == 1 && !(first && i == 0) {
			if framed, ok := w.framed(out, catalogs[0], catalogs[0].Near(int(number), key)); ok {
				out = framed
				continue
			}
		}
		w.scratch = w.scratch[:0]
		out = layout.Member(out, jsonscan.Field{Key: key, Value: w.entry(catalogs, key, int(number))}, first && i == 0, layout.Indent)
	}
	return out
}

// framed writes an entry that a frame can hold, as most are: a text, or a plural
// of one number, that is translated and is not its key.
func (w *writer) framed(out []byte, c *catalog.Catalog, e *catalog.Entry) ([]byte, bool) {
	if e == nil || e.Reference != "" || e.Fixed || e.State != catalog.Unstated && e.State != catalog.Done {
		return nil, false
	}
	var forms []stringsdict.Form
	var losses []message.Loss
	m := e.Message
	if m.Choice != nil {
		if forms, losses = counted(m); forms == nil {
			return nil, false
		}
	} else if says(m.Pattern, e.Key) {
		return nil, false
	}
	w.Catalog = c
	w.Unheld(e, "string catalogs", holds)
	w.Told("", losses)
	w.texts = append(w.texts[:0], e.Key)
	if e.Note != "" {
		w.texts = append(w.texts, e.Note)
	}
	if forms == nil {
		w.texts = append(w.texts, w.text(m))
	}
	for _, f := range forms {
		w.texts = append(w.texts, f.Text)
	}
	return w.frame(c, e.Note != "", forms).put(out, w.texts), true
}

// counted returns the sorted forms of a plural of one number, nil for any other
// choice.
func counted(m message.Message) ([]stringsdict.Form, []message.Loss) {
	if !stringsdict.Plural(m) {
		return nil, nil
	}
	_, variables, losses := stringsdict.Split(m)
	if len(variables) != 1 || variables[0].Position > 1 {
		return nil, nil
	}
	var room [2]message.Placeholder
	if len(m.AppendArguments(room[:0])) > 1 {
		return nil, nil
	}
	slices.SortFunc(variables[0].Forms, func(a, b stringsdict.Form) int { return strings.Compare(a.Category, b.Category) })
	return variables[0].Forms, losses
}

// frame is what stands around the strings of an entry. Entries of one frame
// differ in these alone, and are written without a tree of their own.
type frame []string

// frame returns the frame of a catalog's entries with such forms, none for a text.
func (w *writer) frame(c *catalog.Catalog, noted bool, forms []stringsdict.Form) frame {
	var room [64]byte
	name := strconv.AppendBool(room[:0], noted)
	for _, f := range forms {
		name = append(name, f.Category...)
	}
	if f, ok := w.frames[string(name)]; ok {
		return f
	}
	const mark = "\x00"
	e := catalog.Entry{Key: mark + mark, Message: message.Plain(mark)}
	if noted {
		e.Note = mark
	}
	if forms != nil {
		e.Message = message.Message{Choice: &message.Choice{Selectors: []message.Selector{{Argument: message.Placeholder{Name: "count", Position: 1}}}}}
	}
	for _, f := range forms {
		e.Message.Choice.Variants = append(e.Message.Choice.Variants, message.Variant{Keys: []string{f.Category}, Pattern: message.Pattern{message.Text(mark)}})
	}
	one := &catalog.Catalog{Culture: c.Culture}
	one.Add(e)
	tree := (&writer{}).entry([]*catalog.Catalog{one}, e.Key, 0)
	f := frame(strings.Split(string(layout.Member(nil, jsonscan.Field{Key: mark, Value: tree}, false, layout.Indent)), jsonscan.Quote(mark)))
	if w.frames == nil {
		w.frames = map[string]frame{}
	}
	w.frames[string(name)] = f
	return f
}

func (f frame) put(out []byte, texts []string) []byte {
	for i, text := range texts {
		out = jsonscan.AppendQuote(append(out, f[i]...), text)
	}
	return append(out, f[len(texts)]...)
}

// says reports whether a pattern is a text, and nothing else: what stands for
// something in a pattern is only shown in a key.
func says(p message.Pattern, shown string) bool {
	for _, part := range p {
		if _, ok := part.(message.Text); !ok {
			return false
		}
	}
	return p.Literal() == shown
}

// entry writes one key in all cultures, in which it probably has a number.
func (w *writer) entry(catalogs []*catalog.Catalog, key string, number int) jsonscan.Tree {
	var note jsonscan.Tree
	fixed := false
	var few [4]jsonscan.Field
	localizations := few[:0]
	for i, c := range catalogs {
		w.Catalog = c
		e := c.Near(number, key)
		if e == nil || !w.Unheld(e, "string catalogs", holds) {
			continue
		}
		if e.Note != "" && (i == 0 || note.Text == "") {
			note = jsonscan.Str(e.Note)
		}
		fixed = fixed || e.Fixed
		e = w.Resolved(c, e)
		if i == 0 && e.Message.Choice == nil && says(e.Message.Pattern, key) {
			continue // the key is the text
		}
		localizations = append(localizations, jsonscan.Field{Key: string(c.Culture), Value: w.localization(e)})
	}
	slices.SortStableFunc(localizations, func(a, b jsonscan.Field) int { return strings.Compare(a.Key, b.Key) })
	var all [4]jsonscan.Field
	fields := all[:0]
	if note.Text != "" {
		fields = append(fields, jsonscan.Field{Key: "comment", Value: note})
	}
	fields = append(fields, jsonscan.Field{Key: "extractionState", Value: jsonscan.Str("manual")})
	if len(localizations) > 0 {
		fields = append(fields, jsonscan.Field{Key: "localizations", Value: w.dict(localizations...)})
	}
	if fixed {
		fields = append(fields, jsonscan.Field{Key: "shouldTranslate", Value: jsonscan.Tree{Text: "false"}})
	}
	return w.dict(fields...)
}

// state returns the format's word for how far a translation has come.
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

func (w *writer) newUnit(state, text string) jsonscan.Field {
	return jsonscan.Field{Key: "stringUnit", Value: w.dict(
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
		return w.dict(w.newUnit(state, w.text(m)))
	}
	top, variables, losses := stringsdict.Split(m)
	w.Told("", losses)
	if len(m.Arguments()) <= 1 && len(variables) == 1 && variables[0].Position <= 1 {
		return w.dict(w.plurals(state, variables[0].Forms))
	}
	var list []jsonscan.Field
	for _, v := range variables {
		for i := range v.Forms {
			text := strings.ReplaceAll(v.Forms[i].Text, fmt.Sprintf("%%%d$%s", v.Position, v.Type), "%arg")
			v.Forms[i].Text = strings.ReplaceAll(text, "%"+v.Type, "%arg")
		}
		list = append(list, jsonscan.Field{Key: v.Name, Value: w.dict(
			jsonscan.Field{Key: "argNum", Value: jsonscan.Tree{Text: fmt.Sprint(max(v.Position, 1))}},
			jsonscan.Field{Key: "formatSpecifier", Value: jsonscan.Str(v.Type)},
			w.plurals(state, v.Forms),
		)})
	}
	slices.SortFunc(list, func(a, b jsonscan.Field) int { return strings.Compare(a.Key, b.Key) })
	return w.dict(w.newUnit(state, top), jsonscan.Field{Key: "substitutions", Value: w.dict(list...)})
}

// text spells a message without plurals.
func (w *writer) text(m message.Message) string {
	if m.Choice != nil {
		s := m.Choice.Selectors[0]
		w.Lose(s.Kind.String(), "the variants over {"+s.Argument.Name+"}", "the text of the variant other")
	}
	return w.Told(printf.Foundation.Write(m.Main(), printf.Numbered(m), false))
}

func (w *writer) plurals(state string, forms []stringsdict.Form) jsonscan.Field {
	var list []jsonscan.Field
	for _, f := range forms {
		list = append(list, jsonscan.Field{Key: f.Category, Value: w.dict(w.newUnit(state, f.Text))})
	}
	slices.SortStableFunc(list, func(a, b jsonscan.Field) int { // as the platform's editor does
		return strings.Compare(a.Key, b.Key)
	})
	return jsonscan.Field{Key: "variations", Value: w.dict(jsonscan.Field{Key: "plural", Value: w.dict(list...)})}
}

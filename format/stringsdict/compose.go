package stringsdict

import (
	"fmt"
	"slices"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/format"
	"zelvik/format/xmlscan"
	"zelvik/internal/fast"
	"zelvik/message"
	"zelvik/message/printf"
)

const head = `<?xml version="1.0" encoding="UTF-8"?>
<!DOCTYPE plist PUBLIC "-//Apple//DTD PLIST 1.0//EN" "http://www.apple.com/DTDs/PropertyList-1.0.dtd">
<plist version="1.0">
<dict>
`

// Plural reports whether the format can hold something of the message: it
// counts an argument.
func Plural(m message.Message) bool {
	return m.Choice != nil && slices.ContainsFunc(m.Choice.Selectors, func(s message.Selector) bool { return s.Kind == message.Plural })
}

// composer writes entries and notes what it could not say.
type composer struct {
	out []byte
	format.Teller
	tab     string
	newline string
}

// compose writes the entries that count something; beside a strings table the
// others stand there, alone they are lost.
func compose(c *catalog.Catalog, o format.Options) ([]byte, []catalog.Loss) {
	plurals := 0
	for i := range c.Entries {
		if !o.Beside || Plural(c.Entries[i].Message) {
			plurals++
		}
	}
	w, second := &composer{tab: "\t", newline: "\n"}, &composer{tab: "\t", newline: "\n"}
	w.out = append(fast.Make[byte](len(head)+plurals*512), head...)
	fast.Halves(len(c.Entries), func(from, to int) { w.entries(c.Entries[from:to], o) }, func(from, to int) { second.entries(c.Entries[from:to], o) })
	w.Losses = append(w.Losses, second.Losses...)
	if len(w.out)+len(second.out) == len(head) && o.Beside {
		return nil, w.Losses
	}
	return append(append(w.out, second.out...), "</dict>\n</plist>\n"...), w.Losses
}

func (w *composer) entries(entries []catalog.Entry, o format.Options) {
	for i := range entries {
		e := &entries[i]
		plural := Plural(e.Message)
		if !plural && o.Beside || !w.Unheld(e, ".stringsdict files", holds) {
			continue
		}
		switch {
		case plural:
			w.member(e, "\t")
		default:
			w.text(e)
		}
	}
}

// text writes an entry without plurals as a format key with no variable.
func (w *composer) text(e *catalog.Entry) {
	w.note(e, w.tab)
	pattern := w.pattern(e.Message.Main(), 0, true)
	w.element(w.tab, "key", e.Key)
	w.row(w.tab, "<dict>")
	w.pair(w.tab+w.tab, formatKey, pattern)
	w.row(w.tab, "</dict>")
}

func (w *composer) row(indent, text string) {
	w.out = format.Put(w.out, indent, text, w.newline)
}

// element writes a row of a key or a string.
func (w *composer) element(indent, name, text string) {
	w.out = format.Put(w.out, indent, "<", name, ">", xmlscan.EscapeText(text), "</", name, ">", w.newline)
}

func (w *composer) pair(indent, key, text string) {
	w.element(indent, "key", key)
	w.element(indent, "string", text)
}

func (w *composer) note(e *catalog.Entry, indent string) {
	if e.Note == "" {
		return
	}
	w.row(indent, "<!-- "+strings.ReplaceAll(w.XMLComment(e.Note), "\n", w.newline+indent)+" -->")
}

// member writes one entry with plurals.
func (w *composer) member(e *catalog.Entry, indent string) {
	w.note(e, indent)
	w.element(indent, "key", e.Key)
	w.dict(e, indent)
}

func (w *composer) dict(e *catalog.Entry, indent string) {
	top, variables, losses := Split(e.Message)
	w.Told("", losses)
	w.row(indent, "<dict>")
	inner := indent + w.tab
	w.pair(inner, formatKey, top)
	for _, v := range variables {
		w.out = format.Put(w.out, inner, "<key>", v.Name, "</key>", w.newline)
		w.row(inner, "<dict>")
		w.pair(inner+w.tab, specKey, pluralKey)
		w.pair(inner+w.tab, valueKey, v.Type)
		for _, f := range v.Forms {
			w.pair(inner+w.tab, f.Category, f.Text)
		}
		w.row(inner, "</dict>")
	}
	w.row(indent, "</dict>")
}

// splitter takes a message apart into variables.
type splitter struct {
	message   message.Message
	variables []Variable
	losses    []message.Loss
}

// Split takes a message with plurals apart into the text it begins with and
// the variables in that, and tells what they cannot say.
func Split(m message.Message) (top string, variables []Variable, losses []message.Loss) {
	w := &splitter{message: m}
	selectors, variants := w.reduce(m.Choice)
	if f, ok := (&message.Choice{Selectors: selectors, Variants: variants}).Factor(); ok {
		return w.factored(selectors, f), w.variables, w.losses
	}
	top = w.reference(selectors[0], "", len(m.Arguments()) > 1 || selectors[0].Argument.Position > 1)
	w.variable(selectors, variants, "")
	return top, w.variables, w.losses
}

// factored writes a text with several variables in it, and them.
func (w *splitter) factored(selectors []message.Selector, f message.Factored) string {
	inTurn, next := true, 0
	for _, part := range f.Parts {
		if part.Selector >= 0 {
			next++
			inTurn = inTurn && selectors[part.Selector].Argument.Position == next
		} else {
			inTurn = inTurn && len(part.Pattern) == 1 && !(message.Message{Pattern: part.Pattern}).HasPlaceholders()
		}
	}
	top := ""
	for _, part := range f.Parts {
		if part.Selector >= 0 {
			top += w.reference(selectors[part.Selector], "", !inTurn)
			continue
		}
		text, losses := pattern(part.Pattern, 0, false)
		w.losses = append(w.losses, losses...)
		top += text
	}
	for i, s := range selectors {
		w.variable([]message.Selector{s}, f.Forms[i], "")
	}
	return top
}

func (w *splitter) lose(kind, lost, instead string) {
	w.losses = append(w.losses, message.Loss{Kind: kind, Lost: lost, Instead: instead})
}

// reduce leaves out what the format cannot hold: selects, ordinals, offsets
// and exact cases.
func (w *splitter) reduce(choice *message.Choice) ([]message.Selector, []message.Variant) {
	if s := choice.Selectors[0]; len(choice.Selectors) == 1 && s.Kind == message.Plural && s.Offset == 0 && !slices.ContainsFunc(choice.Variants, exact) {
		return choice.Selectors, choice.Variants
	}
	var selectors []message.Selector
	var kept []int
	for i, s := range choice.Selectors {
		if s.Kind == message.Plural {
			selectors, kept = append(selectors, s), append(kept, i)
			if s.Offset != 0 {
				w.lose("exact-case", fmt.Sprintf("the offset %d of {%s}", s.Offset, s.Argument.Name), "the whole number")
			}
			continue
		}
		w.lose(s.Kind.String(), "the variants over {"+s.Argument.Name+"}", "the variant other of it")
	}
	var variants []message.Variant
	for _, v := range choice.Variants {
		ok := true
		keys := make([]string, 0, len(kept))
		for i, key := range v.Keys {
			if !slices.Contains(kept, i) {
				ok = ok && key == message.Default
				continue
			}
			if !slices.Contains(culture.Categories, key) {
				w.lose("exact-case", "the case "+key, "the variant of its category")
				ok = false
			}
			keys = append(keys, key)
		}
		if ok {
			variants = append(variants, message.Variant{Keys: keys, Pattern: v.Pattern})
		}
	}
	return selectors, variants
}

// exact reports whether a variant's first key is no category.
func exact(v message.Variant) bool { return !slices.Contains(culture.Categories, v.Keys[0]) }

// variableName spells a selector's argument, told apart by the case of the
// variable around it.
func variableName(s message.Selector, under string) string {
	name := s.Argument.Name
	if name == "" {
		name = fmt.Sprintf("arg%d", s.Argument.Position)
	}
	if under != "" {
		name += "__" + under
	}
	return name
}

func (w *splitter) reference(s message.Selector, under string, numbered bool) string {
	if numbered && s.Argument.Position > 0 {
		return fmt.Sprintf("%%%d$#@%s@", s.Argument.Position, variableName(s, under))
	}
	return "%#@" + variableName(s, under) + "@"
}

// variable makes the variable of the first selector, and one for each of its
// cases where there are more selectors.
func (w *splitter) variable(selectors []message.Selector, variants []message.Variant, under string) {
	s := selectors[0]
	at := len(w.variables)
	w.variables = append(w.variables, Variable{Name: variableName(s, under), Position: s.Argument.Position, Type: w.valueType(s)})
	forms := make([]Form, 0, len(variants))
	add := func(category, text string) { forms = append(forms, Form{Category: category, Text: text}) }
	for _, category := range culture.Categories {
		if len(selectors) == 1 {
			if i := slices.IndexFunc(variants, func(v message.Variant) bool { return v.Keys[0] == category }); i >= 0 {
				text, losses := pattern(variants[i].Pattern, s.Argument.Position, false)
				w.losses = append(w.losses, losses...)
				add(category, text)
			}
			continue
		}
		var rest []message.Variant
		for _, v := range variants {
			if v.Keys[0] == category {
				rest = append(rest, message.Variant{Keys: v.Keys[1:], Pattern: v.Pattern})
			}
		}
		if len(rest) == 0 {
			continue
		}
		path := category
		if under != "" {
			path = under + "_" + category
		}
		add(category, w.reference(selectors[1], path, true))
		w.variable(selectors[1:], rest, path)
	}
	w.variables[at].Forms = forms
}

// valueType returns the conversion of the counted number, as in %lld.
func (w *splitter) valueType(s message.Selector) string {
	for p := range w.message.Placeholders() {
		if p.Position == s.Argument.Position && p.Spelling != "" && (p.Syntax == message.Foundation || p.Syntax == message.C) && !strings.HasPrefix(p.Spelling, "%#") {
			return strings.TrimLeft(p.Spelling, "%0123456789$'-+.")
		}
	}
	return "lld"
}

// pattern writes a text and tells what it could not say. Inside a variable its
// own number needs no position.
func (w *composer) pattern(p message.Pattern, own int, alone bool) string {
	return w.Told(pattern(p, own, alone))
}

func pattern(p message.Pattern, own int, alone bool) (string, []message.Loss) {
	var room [256]byte
	out := room[:0]
	var losses []message.Loss
	for _, part := range p {
		switch part := part.(type) {
		case message.Text:
			out = append(out, printf.Escape(string(part))...)
		case *message.Markup:
			out = append(out, part.String()...)
		case *message.Placeholder:
			text, more := printf.Foundation.Spell(part, part.Position != own && !(alone && len(p) == 1))
			losses = append(losses, more...)
			if part.Position != own && !part.MadeName() {
				losses = append(losses, message.Loss{Kind: "name", Lost: "the name of the placeholder {" + part.Name + "}", Instead: "its position; the ledger of a family keeps the name"})
			}
			out = append(out, text...)
		}
	}
	return string(out), losses
}

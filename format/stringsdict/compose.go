package stringsdict

import (
	"fmt"
	"slices"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/format"
	"zelvik/format/xmlscan"
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
	out     strings.Builder
	losses  []catalog.Loss
	entry   *catalog.Entry
	tab     string
	newline string
}

func (w *composer) lose(kind, lost, instead string) {
	w.losses = append(w.losses, catalog.Loss{Kind: kind, Key: w.entry.Key, Offset: w.entry.Offset, Lost: lost, Instead: instead})
}

// compose writes the entries that count something; beside a strings table the
// others stand there, alone they are lost.
func compose(c *catalog.Catalog, o format.Options) ([]byte, []catalog.Loss) {
	w := &composer{tab: "\t", newline: "\n"}
	w.out.WriteString(head)
	empty := true
	for i := range c.Entries {
		e := &c.Entries[i]
		w.entry = e
		if !Plural(e.Message) {
			if !o.Beside {
				w.text(e)
				empty = false
			}
			continue
		}
		empty = false
		w.member(e, "\t")
	}
	w.out.WriteString("</dict>\n</plist>\n")
	if empty && o.Beside {
		return nil, w.losses
	}
	return []byte(w.out.String()), w.losses
}

// text writes an entry without plurals as a format key with no variable.
func (w *composer) text(e *catalog.Entry) {
	w.note(e, w.tab)
	pattern := w.pattern(e.Message.Main(), 0, true)
	w.row(w.tab, "<key>"+xmlscan.EscapeText(e.Key)+"</key>")
	w.row(w.tab, "<dict>")
	w.pair(w.tab+w.tab, formatKey, pattern)
	w.row(w.tab, "</dict>")
}

func (w *composer) row(indent, text string) {
	w.out.WriteString(indent + text + w.newline)
}

func (w *composer) pair(indent, key, text string) {
	w.row(indent, "<key>"+xmlscan.EscapeText(key)+"</key>")
	w.row(indent, "<string>"+xmlscan.EscapeText(text)+"</string>")
}

func (w *composer) note(e *catalog.Entry, indent string) {
	if e.Note == "" {
		return
	}
	note := e.Note
	if strings.Contains(note, "--") {
		w.lose("note", "the hyphens in the note", "they are written apart, as XML comments cannot hold them")
		for strings.Contains(note, "--") {
			note = strings.ReplaceAll(note, "--", "- -")
		}
	}
	w.row(indent, "<!-- "+strings.ReplaceAll(note, "\n", w.newline+indent)+" -->")
}

// member writes one entry with plurals.
func (w *composer) member(e *catalog.Entry, indent string) {
	w.note(e, indent)
	w.row(indent, "<key>"+xmlscan.EscapeText(e.Key)+"</key>")
	w.dict(e, indent)
	if e.Fixed {
		w.lose("fixed", "that the text is not translated", "it looks like any other")
	}
	if e.State > catalog.Unstated && e.State < catalog.Done {
		w.lose("state", "the state "+e.State.String(), "none; the format holds no states")
	}
}

func (w *composer) dict(e *catalog.Entry, indent string) {
	selectors, variants := w.reduce(e.Message.Choice)
	w.row(indent, "<dict>")
	w.pair(indent+w.tab, formatKey, w.reference(selectors[0], "", len(e.Message.Arguments()) > 1))
	w.variable(selectors, variants, "", indent+w.tab)
	w.row(indent, "</dict>")
}

// reduce leaves out what the format cannot hold: selects, ordinals, offsets
// and exact cases.
func (w *composer) reduce(choice *message.Choice) ([]message.Selector, []message.Variant) {
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

func (w *composer) reference(s message.Selector, under string, numbered bool) string {
	if numbered && s.Argument.Position > 0 {
		return fmt.Sprintf("%%%d$#@%s@", s.Argument.Position, variableName(s, under))
	}
	return "%#@" + variableName(s, under) + "@"
}

// variable writes the variable of the first selector, and one for each of its
// cases where there are more selectors.
func (w *composer) variable(selectors []message.Selector, variants []message.Variant, under, indent string) {
	s := selectors[0]
	w.row(indent, "<key>"+variableName(s, under)+"</key>")
	w.row(indent, "<dict>")
	inner := indent + w.tab
	w.pair(inner, specKey, pluralKey)
	w.pair(inner, valueKey, w.valueType(s))
	type nested struct {
		under    string
		variants []message.Variant
	}
	var below []nested
	for _, category := range culture.Categories {
		var rest []message.Variant
		for _, v := range variants {
			if v.Keys[0] == category {
				rest = append(rest, message.Variant{Keys: v.Keys[1:], Pattern: v.Pattern})
			}
		}
		if len(rest) == 0 {
			continue
		}
		if len(selectors) == 1 {
			w.pair(inner, category, w.pattern(rest[0].Pattern, s.Argument.Position, false))
			continue
		}
		path := category
		if under != "" {
			path = under + "_" + category
		}
		w.pair(inner, category, w.reference(selectors[1], path, true))
		below = append(below, nested{path, rest})
	}
	w.row(indent, "</dict>")
	for _, n := range below {
		w.variable(selectors[1:], n.variants, n.under, indent)
	}
}

// valueType gives the conversion of the counted number, as in %lld.
func (w *composer) valueType(s message.Selector) string {
	for p := range w.entry.Message.Placeholders() {
		if p.Position == s.Argument.Position && p.Spelling != "" && p.Syntax == message.Foundation && !strings.HasPrefix(p.Spelling, "%#") {
			return strings.TrimLeft(p.Spelling, "%0123456789$'-+.")
		}
	}
	return "lld"
}

// pattern writes a text. Inside a variable its own number needs no position.
func (w *composer) pattern(p message.Pattern, own int, alone bool) string {
	var out strings.Builder
	for _, part := range p {
		switch part := part.(type) {
		case message.Text:
			if message.HasMarkup(string(part)) {
				w.lose("markup", "that the tags in the text are shown as they stand", "they read as markup")
			}
			out.WriteString(printf.Escape(string(part)))
		case *message.Markup:
			out.WriteString(part.String())
		case *message.Placeholder:
			text, losses := printf.Foundation.Spell(part, part.Position != own && !(alone && len(p) == 1))
			for _, l := range losses {
				w.lose(l.Kind, l.Lost, l.Instead)
			}
			if part.Position != own && !part.MadeName() {
				w.lose("name", "the name of the placeholder {"+part.Name+"}", "its position; the ledger of a family keeps the name")
			}
			out.WriteString(text)
		}
	}
	return out.String()
}

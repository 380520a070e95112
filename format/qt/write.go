package qt

import (
	"fmt"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/format"
	"zelvik/format/numbered"
	"zelvik/format/xmlscan"
	"zelvik/internal/fast"
	"zelvik/message"
)

// writer writes messages and tells what it could not say.
type writer struct {
	format.Teller
	// arguments are the source's, beside a translation.
	arguments []message.Placeholder
	newline   string
	forms     numbered.Forms
}

const step = "    "

// join writes a source and its translation. A source alone is its own
// translation, which holds the forms of its plurals.
func join(catalogs []*catalog.Catalog) ([]byte, []catalog.Loss) {
	source := catalogs[0]
	target := catalogs[len(catalogs)-1]
	w := &writer{newline: "\n", forms: formsOf(target.Culture)}
	out := fast.Make[byte](256 + len(source.Entries)*240)
	out = append(out, `<?xml version="1.0" encoding="utf-8"?>`+"\n<!DOCTYPE TS>\n"+`<TS version="2.1"`...)
	if target.Culture != "" {
		out = append(out, ` language="`+underscored(target.Culture)+`"`...)
	}
	if source.Culture != "" {
		out = append(out, ` sourcelanguage="`+underscored(source.Culture)+`"`...)
	}
	out = append(out, ">\n"...)
	second := &writer{newline: w.newline, forms: w.forms}
	out, _ = format.Append(out, len(source.Entries), format.Options{}, w, second, func(w *writer, out []byte, from, to int) ([]byte, bool) {
		return w.messages(out, source, target, from, to), true
	})
	w.Losses = append(w.Losses, second.Losses...)
	if len(source.Entries) > 0 {
		out = append(out, "</context>\n"...)
	}
	if target != source {
		w.Strays(source, target)
	}
	return append(out, "</TS>\n"...), w.Losses
}

// messages writes entries, each in its context: one that goes on from the entry
// before them is open.
func (w *writer) messages(out []byte, source, target *catalog.Catalog, from, to int) []byte {
	open, last := from > 0, ""
	if open {
		last, _, _, _ = split(&source.Entries[from-1])
	}
	for i := from; i < to; i++ {
		e := &source.Entries[i]
		context, _, _, _ := split(e)
		if !open || context != last {
			if open {
				out = append(out, "</context>\n"...)
			}
			out = append(out, "<context>\n"+step+"<name>"...)
			out = append(escape(out, context), "</name>\n"...)
			open, last = true, context
		}
		out = w.message(out, source, target, i, step)
	}
	return out
}

func underscored(tag culture.Tag) string { return strings.ReplaceAll(string(tag), "-", "_") }

// split takes a key apart into context, source and comment; named says that it
// is such a key, and no id. A context may have :: in it, and a text @.
func split(e *catalog.Entry) (context, source, comment string, named bool) {
	if !strings.Contains(e.Key, "::") {
		return "", "", "", false
	}
	speller, _ := newSpeller(e.Message, nil)
	text, _ := speller.write(e.Message.Main())
	if context, counted, ok := strings.Cut(e.Key, "::"); ok && e.Message.Choice != nil && counted != text && strings.Contains(counted, "%n") {
		return context, counted, "", true // the source's forms say what the code does not: "%n minute(s)"
	}
	for at := 0; ; at += 2 {
		next := strings.Index(e.Key[at:], "::")
		if next < 0 {
			return "", "", "", false
		}
		at += next
		rest := e.Key[at+2:]
		if rest == text {
			return e.Key[:at], text, "", true
		}
		if comment, ok := strings.CutPrefix(rest, text+"@"); ok && comment != "" {
			return e.Key[:at], text, comment, true
		}
	}
}

// message writes entry number i of the source.
func (w *writer) message(out []byte, source, target *catalog.Catalog, i int, indent string) []byte {
	e := &source.Entries[i]
	w.Catalog = source
	if !w.Unheld(e, ".ts files", holds) {
		return out
	}
	var t *catalog.Entry
	if target != nil {
		t = target.Near(i, e.ID())
	}
	_, text, comment, named := split(e)
	resolved := w.Resolved(source, e)
	plural := resolved.Message.Choice != nil && resolved.Message.Choice.Selectors[0].Kind == message.Plural
	if t != nil && t != e {
		c := w.Resolved(target, t).Message.Choice
		plural = plural || c != nil && c.Selectors[0].Kind == message.Plural
	}
	inner := indent + step
	out = format.Put(out, indent, "<message")
	if !named {
		out = format.Put(out, ` id="`, xmlscan.EscapeAttribute(e.Key), `"`)
	}
	if plural {
		out = append(out, ` numerus="yes"`...)
	}
	out = format.Put(out, ">", w.newline, inner, "<source>")
	begin := len(out)
	if main := w.main(resolved.Message, t == nil || t == e); !named {
		text = main
	}
	out = escape(out, text)
	end := len(out)
	out = format.Put(out, "</source>", w.newline)
	if comment != "" {
		out = append(w.field(out, inner, "comment", comment), w.newline...)
	}
	if e.Note != "" {
		out = append(w.field(out, inner, "extracomment", e.Note), w.newline...)
	}
	if t != nil && t != e && t.Note != "" && t.Note != e.Note {
		out = append(w.field(out, inner, "translatorcomment", t.Note), w.newline...)
	}
	out = append(out, inner...)
	if t != nil {
		if w.Catalog, w.Entry = target, t; t != e {
			w.Marked(t)
			t = w.Resolved(target, t)
		} else if t = resolved; !plural { // the source is its own translation
			out = format.Put(out, "<translation", w.unfinished(t), ">")
			out = append(out, out[begin:end]...)
			return format.Put(out, "</translation>", w.newline, indent, "</message>", w.newline)
		}
	}
	w.arguments = resolved.Message.Arguments()
	out = w.translation(out, t, plural, inner)
	w.arguments = nil
	return format.Put(out, w.newline, indent, "</message>", w.newline)
}

func (w *writer) field(out []byte, indent, name, text string) []byte {
	out = escape(format.Put(out, indent, "<", name, ">"), text)
	return format.Put(out, "</", name, ">")
}

// main spells the text that stands for a message; tell says that losses are
// told here.
func (w *writer) main(m message.Message, tell bool) string {
	speller, losses := newSpeller(m, w.arguments)
	text, more := speller.write(m.Main())
	if tell {
		w.Told("", losses)
		if m.Choice != nil && m.Choice.Selectors[0].Kind != message.Plural {
			s := m.Choice.Selectors[0]
			w.Lose(s.Kind.String(), "the variants over {"+s.Argument.Name+"}", "the text of the variant other")
		}
	} else if m.Choice != nil && m.Choice.Selectors[0].Kind == message.Plural && len(m.Choice.Variants) > 1 {
		w.Lose("source-plural", "the forms of the source", "the form other; the source's own file holds them")
	}
	w.Told("", more)
	return text
}

// translation writes the translation element.
func (w *writer) translation(out []byte, t *catalog.Entry, plural bool, indent string) []byte {
	out = format.Put(out, "<translation", w.unfinished(t), ">")
	switch {
	case plural:
		texts := make([]string, w.forms.Count)
		if t != nil {
			texts = w.fill(t.Message)
		}
		for _, text := range texts {
			out = w.field(append(out, w.newline...), indent+step, "numerusform", text)
		}
		out = append(out, w.newline+indent...)
	case t != nil:
		out = escape(out, w.main(t.Message, true))
	}
	return append(out, "</translation>"...)
}

// unfinished returns the attribute of a translation that is not done yet.
func (w *writer) unfinished(t *catalog.Entry) string {
	if t != nil && t.State != catalog.Draft && t.State != catalog.Missing && t.State != catalog.Moved {
		return ""
	}
	if t != nil && t.State == catalog.Moved {
		w.Lose("state", "that the source changed after the translation", "unfinished")
	}
	return ` type="unfinished"`
}

// fill spells the forms of a plural.
func (w *writer) fill(m message.Message) []string {
	speller, losses := newSpeller(m, w.arguments)
	w.Told("", losses)
	texts, more := w.forms.Fill(m, speller.write)
	w.Told("", more)
	return texts
}

// escape writes text as the platform's own tools do: quotes as entities, and
// control characters as elements.
func escape(out []byte, text string) []byte {
	from := 0
	for i := 0; i < len(text); i++ {
		c := text[i]
		if !special[c] {
			continue
		}
		instead, size := "", 1
		switch {
		case c == '&':
			instead = "&amp;"
		case c == '<':
			instead = "&lt;"
		case c == '>':
			instead = "&gt;"
		case c == '"':
			instead = "&quot;"
		case c == '\'':
			instead = "&apos;"
		case c == '\r':
			instead = "&#13;"
		case c < ' ':
			instead = fmt.Sprintf(`<byte value="x%x"/>`, c)
		case strings.HasPrefix(text[i:], "\uFFFE"), strings.HasPrefix(text[i:], "\uFFFF"):
			size = 3 // XML has no place for them, in any form
		default:
			continue
		}
		out = append(append(out, text[from:i]...), instead...)
		i += size - 1
		from = i + 1
	}
	return append(out, text[from:]...)
}

// special are the bytes that do not always stand for themselves.
var special = func() (set [256]bool) {
	for c := range byte(' ') {
		set[c] = c != '\n' && c != '\t'
	}
	for _, c := range []byte("&<>\"'\xEF") {
		set[c] = true
	}
	return set
}()

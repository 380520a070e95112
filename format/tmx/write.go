package tmx

import (
	"cmp"
	"slices"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/format"
	"zelvik/format/doc"
	"zelvik/format/inline"
	"zelvik/format/xmlscan"
	"zelvik/internal/fast"
	"zelvik/message"
)

func sortTags(list []*catalog.Catalog) {
	slices.SortFunc(list, func(a, b *catalog.Catalog) int { return cmp.Compare(a.Culture, b.Culture) })
}

// writer writes units and tells what it could not say.
type writer struct {
	format.Teller
	newline string
	form    inline.Form
	codes   []inline.Code
	// variants holds a unit's texts until its head is written.
	variants []byte
}

// codes is the native format that a file names whose placeholders are inline codes
// and nothing else is one.
const codes = "zelvik-codes"

// join writes a memory of several cultures, the source first.
func join(catalogs []*catalog.Catalog) ([]byte, []catalog.Loss) {
	w := &writer{newline: "\n", form: inline.Form{Coded: true}}
	keys := w.Keys(catalogs)
	source := string(catalogs[0].Culture)
	out := fast.Make[byte](1024 + len(keys)*(80+90*len(catalogs)))
	out = append(out, `<?xml version="1.0" encoding="UTF-8"?>`+"\n"+`<tmx version="1.4">`+"\n"+
		`  <header creationtool="zelvik" creationtoolversion="1" segtype="block" o-tmf="`+codes+`" adminlang="en" srclang="`+source+`" datatype="plaintext"/>`+"\n  <body>\n"...)
	second := &writer{newline: "\n", form: inline.Form{Coded: true}}
	out, _ = format.Append(out, len(keys), format.Options{}, w, second, func(w *writer, out []byte, from, to int) ([]byte, bool) {
		for i := from; i < to; i++ {
			out = w.unit(out, catalogs, i, keys[i], "    ")
		}
		return out, true
	})
	return append(out, "  </body>\n</tmx>\n"...), append(w.Losses, second.Losses...)
}

// unit writes one key in all cultures, in which it probably has a number.
func (w *writer) unit(out []byte, catalogs []*catalog.Catalog, number int, key, indent string) []byte {
	note := ""
	variants := w.variants[:0]
	w.codes = nil
	for _, c := range catalogs {
		w.Catalog = c
		e := c.Near(number, key)
		w.Source = c == catalogs[0] && e != nil && e.Message.Choice != nil // codes have numbers
		if e == nil || !w.Unheld(e, ".tmx files", holds) {
			continue
		}
		if note == "" {
			note = doc.Legal(&w.Teller, e.Note)
		}
		variants = w.variant(variants, c.Culture, w.Resolved(c, e).Message, indent+"  ")
	}
	if w.variants = variants; len(variants) == 0 {
		return out
	}
	out = format.Put(out, indent, `<tu tuid="`, xmlscan.EscapeAttribute(doc.Legal(&w.Teller, key)), `">`, w.newline)
	if note != "" {
		out = format.Put(out, indent, "  <note>", xmlscan.EscapeText(note), "</note>", w.newline)
	}
	out = append(out, variants...)
	return format.Put(out, indent, "</tu>", w.newline)
}

func (w *writer) variant(out []byte, tag culture.Tag, m message.Message, indent string) []byte {
	return format.Put(out, indent, `<tuv xml:lang="`, string(tag), `"><seg>`, w.content(m), "</seg></tuv>", w.newline)
}

func (w *writer) text(text string) string { return xmlscan.EscapeText(doc.Legal(&w.Teller, text)) }

// content writes a message.
func (w *writer) content(m message.Message) string {
	writer := inline.Writer{Text: w.text, Codes: w.codes,
		Placeholder: func(id, native, _ string) string {
			return `<ph x="` + strings.TrimLeft(id, "m") + `">` + w.text(native) + "</ph>"
		},
		Tag: func(role message.Role, id, native string, closed bool) string {
			number := cmp.Or(strings.TrimLeft(id, "m"), "1")
			switch {
			case role == message.Open && closed:
				return `<bpt i="` + number + `">` + w.text(native) + "</bpt>"
			case role == message.Open:
				return `<it pos="begin">` + w.text(native) + "</it>"
			case closed:
				return `<ept i="` + number + `">` + w.text(native) + "</ept>"
			}
			return `<it pos="end">` + w.text(native) + "</it>"
		},
	}
	return writer.Content(w.form, &w.Teller, m)
}

package tmx

import (
	"cmp"
	"errors"
	"slices"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/format"
	"zelvik/format/inline"
	"zelvik/format/xmlscan"
	"zelvik/message"
	"zelvik/pages"
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
	out := pages.Make[byte](1024 + len(keys)*(80+90*len(catalogs)))
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
			note = w.legal(e.Note)
		}
		variants = w.variant(variants, c.Culture, w.Resolved(c, e).Message, indent+"  ")
	}
	if w.variants = variants; len(variants) == 0 {
		return out
	}
	out = format.Put(out, indent, `<tu tuid="`, xmlscan.EscapeAttribute(w.legal(key)), `">`, w.newline)
	if note != "" {
		out = format.Put(out, indent, "  <note>", xmlscan.EscapeText(note), "</note>", w.newline)
	}
	out = append(out, variants...)
	return format.Put(out, indent, "</tu>", w.newline)
}

func (w *writer) variant(out []byte, tag culture.Tag, m message.Message, indent string) []byte {
	return format.Put(out, indent, `<tuv xml:lang="`, string(tag), `"><seg>`, w.content(m), "</seg></tuv>", w.newline)
}

// legal leaves out characters that XML cannot hold.
func (w *writer) legal(text string) string {
	if xmlscan.Legal(text) {
		return text
	}
	w.Lose("character", "control characters that XML cannot hold", "they are left out")
	return strings.Map(func(r rune) rune {
		if !xmlscan.Legal(string(r)) {
			return -1
		}
		return r
	}, text)
}

func (w *writer) text(text string) string { return xmlscan.EscapeText(w.legal(text)) }

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

// Edit makes changes; see format.Document.
func (d *document) Edit(changes []format.Change) ([]byte, []catalog.Loss, error) {
	e := &editor{document: d, Editor: format.NewEditor(d.Text())}
	e.w = writer{newline: e.Newline, form: d.form}
	if err := e.Make(changes, e.change); err != nil {
		return nil, nil, err
	}
	out, err := d.text.Patch(e.Replacements)
	return out, e.w.Losses, err
}

type editor struct {
	*document
	format.Editor
	w writer
}

func (e *editor) change(c format.Change) error {
	i, ok := e.index[c.Key]
	tag := cmp.Or(c.Culture, e.catalogs[0].Culture)
	e.w.Entry = &catalog.Entry{Key: c.Key}
	switch {
	case !ok && c.Op == format.Set:
		return e.insert(c, tag)
	case !ok:
		return format.ErrNoEntry
	}
	u := &e.units[i]
	e.w.Entry.Offset = u.whole.from
	switch c.Op {
	case format.Remove:
		at := slices.IndexFunc(u.variants, func(v variant) bool { return v.tag == tag })
		if at >= 0 && len(u.variants) > 1 && tag != e.catalogs[0].Culture {
			e.Remove(u.variants[at].whole.from, u.variants[at].whole.to)
		} else {
			e.Remove(u.whole.from, u.whole.to)
		}
		return nil
	case format.Rename:
		if u.id.from < 0 {
			at := u.start.from + len("<tu")
			e.Replace(at, at, ` tuid="`+xmlscan.EscapeAttribute(c.NewKey)+`"`)
		} else {
			e.Replace(u.id.from, u.id.to, xmlscan.EscapeAttribute(c.NewKey))
		}
		return nil
	}
	if c.Message != nil {
		if err := e.set(u, tag, *c.Message); err != nil {
			return err
		}
	}
	if c.Note != nil {
		e.note(u, xmlscan.EscapeText(e.w.legal(*c.Note)))
	}
	return nil
}

// set replaces a segment, or adds a culture to a unit.
func (e *editor) set(u *unit, tag culture.Tag, m message.Message) error {
	e.w.codes = nil
	if u.variants[0].tag != tag {
		e.w.codes = inline.Codes(u.variants[0].parts)
	}
	for i := range u.variants {
		v := &u.variants[i]
		if v.tag != tag {
			continue
		}
		if u.id.from < 0 && i == 0 {
			return format.ErrKeyIsText
		}
		text := e.w.content(m)
		switch {
		case v.seg.lone:
			e.Replace(v.seg.whole.from, v.seg.whole.to, "<seg>"+text+"</seg>")
		default:
			e.Splice(v.seg.content.from, v.seg.content.to, text, func(raw string) string { return xmlscan.Respell(raw, e.w.text) })
		}
		return nil
	}
	last := &u.variants[len(u.variants)-1]
	text := string(e.w.variant(nil, tag, m, e.Indent(last.whole.from)))
	e.Replace(last.whole.to, last.whole.to, e.Newline+strings.TrimSuffix(text, e.Newline))
	return nil
}

func (e *editor) note(u *unit, note string) {
	switch {
	case u.note.whole.from >= 0 && note == "":
		e.Remove(u.note.whole.from, u.note.whole.to)
	case u.note.whole.from >= 0:
		e.Replace(u.note.whole.from, u.note.whole.to, "<note>"+note+"</note>")
	case note != "":
		e.Replace(u.start.to, u.start.to, e.Newline+e.Indent(u.whole.from)+"  <note>"+note+"</note>")
	}
}

// insert adds a unit behind its neighbour, or at the end.
func (e *editor) insert(c format.Change, tag culture.Tag) error {
	if c.Message == nil {
		return format.ErrNoEntry
	}
	entry := catalog.Entry{Key: c.Key, Message: *c.Message}
	if c.Note != nil {
		entry.Note = *c.Note
	}
	own := &catalog.Catalog{Culture: tag}
	own.Add(entry)
	place, indent := -1, "    "
	if i, ok := e.index[c.After]; ok && c.After != "" {
		place = i
	} else if c.After != "" && len(e.units) > 0 {
		place = len(e.units) - 1
	}
	if len(e.units) > 0 {
		indent = e.Indent(e.units[max(place, 0)].whole.from)
	}
	text := string(e.w.unit(nil, []*catalog.Catalog{own}, 0, c.Key, indent))
	switch {
	case place >= 0:
		at := e.units[place].whole.to
		e.Replace(at, at, e.Newline+strings.TrimSuffix(text, e.Newline))
	case len(e.units) > 0:
		at := e.units[0].whole.from - len(indent)
		e.Replace(at, at, text)
	case e.bodyEnd >= 0:
		at := e.bodyEnd - len(e.Indent(e.bodyEnd))
		e.Replace(at, at, text)
	default:
		return errors.New("the file has no </body>")
	}
	return nil
}

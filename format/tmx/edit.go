package tmx

import (
	"cmp"
	"errors"
	"slices"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/format"
	"zelvik/format/doc"
	"zelvik/format/inline"
	"zelvik/format/xmlscan"
)

// Edit makes changes; see format.Document.
func (d *document) Edit(changes []format.Change) ([]byte, []catalog.Loss, error) {
	e := &editor{document: d, Editor: doc.NewEditor(d.Coded)}
	e.w = writer{newline: e.Newline, form: d.form}
	return e.Apply(changes, &e.w.Teller, e)
}

type editor struct {
	*document
	doc.Editor
	w writer
}

// tag returns the culture that a change is for.
func (e *editor) tag(c format.Change) culture.Tag { return cmp.Or(c.Culture, e.List[0].Culture) }

// at returns the number of the unit with a key, -1 where there is none.
func (e *editor) at(key string) int {
	if i, ok := e.index[key]; ok {
		return i
	}
	return -1
}

// Find returns the number of a unit.
func (e *editor) Find(c format.Change) (number, offset int) {
	if number = e.at(c.Key); number >= 0 {
		offset = e.units[number].place.Whole.From
	}
	return number, offset
}

// Remove takes out a culture from a unit, or with the source's the unit.
func (e *editor) Remove(i int, c format.Change) error {
	u, tag := &e.units[i], e.tag(c)
	place := u.place
	at := slices.IndexFunc(u.variants, func(v variant) bool { return v.tag == tag })
	if at >= 0 && len(u.variants) > 1 && tag != e.List[0].Culture {
		place = u.variants[at].place
	}
	e.Cut(place.Whole.From, place.Whole.To)
	return nil
}

// Rename changes the attribute that is the key, or adds it.
func (e *editor) Rename(i int, c format.Change) error {
	u := &e.units[i]
	if u.id.There() {
		e.Replace(u.id.From, u.id.To, xmlscan.EscapeAttribute(c.NewKey))
		return nil
	}
	at := u.place.Start.From + len("<tu")
	e.Replace(at, at, ` tuid="`+xmlscan.EscapeAttribute(c.NewKey)+`"`)
	return nil
}

// Set changes text and note of a unit.
func (e *editor) Set(i int, c format.Change) error {
	u := &e.units[i]
	if c.Message != nil {
		if err := e.set(u, c); err != nil {
			return err
		}
	}
	if c.Note != nil {
		note := xmlscan.EscapeText(doc.Legal(&e.w.Teller, *c.Note))
		e.SetField(u.note, "note", note, e.respell, u.place.Start.To, e.Indent(u.place.Whole.From)+"  ")
	}
	return nil
}

func (e *editor) respell(raw string) string { return xmlscan.Respell(raw, e.w.text) }

// set replaces a segment, or adds a culture to a unit.
func (e *editor) set(u *unit, c format.Change) error {
	tag := e.tag(c)
	e.w.codes = nil
	if u.variants[0].tag != tag {
		e.w.codes = inline.Codes(u.variants[0].parts)
	}
	at := slices.IndexFunc(u.variants, func(v variant) bool { return v.tag == tag })
	switch {
	case at < 0:
		last := u.variants[len(u.variants)-1].place.Whole
		indent := e.Indent(last.From)
		e.Put(doc.Gap{At: last.To, Indent: indent}, string(e.w.variant(nil, tag, *c.Message, indent)))
	case at == 0 && !u.id.There():
		return format.ErrKeyIsText
	default:
		e.SetContent(u.variants[at].seg, "seg", e.w.content(*c.Message), e.respell)
	}
	return nil
}

// Insert adds a unit after its neighbour, or at the end.
func (e *editor) Insert(c format.Change, entry *catalog.Entry) error {
	own := &catalog.Catalog{Culture: e.tag(c)}
	own.Add(*entry)
	gap, ok := e.Gap(c, e.at(c.After), len(e.units), func(i int) doc.Span { return e.units[i].place.Whole }, e.bodyEnd, "    ")
	if !ok {
		return errors.New("the file has no </body>")
	}
	e.Put(gap, string(e.w.unit(nil, []*catalog.Catalog{own}, 0, c.Key, gap.Indent)))
	return nil
}

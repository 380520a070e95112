package xliff

import (
	"errors"
	"strings"

	"zelvik/catalog"
	"zelvik/format"
	"zelvik/format/doc"
	"zelvik/format/inline"
	"zelvik/format/xmlscan"
)

// Edit makes changes; see format.Document.
func (d *document) Edit(changes []format.Change) ([]byte, []catalog.Loss, error) {
	e := &editor{document: d, Editor: doc.NewEditor(d.Coded)}
	e.w = writer{newline: e.Newline, second: d.second, form: d.form}
	return e.Apply(changes, &e.w.Teller, e)
}

type editor struct {
	*document
	doc.Editor
	w     writer
	added int
}

func (e *editor) toSource(c format.Change) bool {
	return e.ToSource(c) || e.Target == nil && (c.Culture == "" || c.Culture == e.Source.Culture)
}

// Find returns the number of a unit.
func (e *editor) Find(c format.Change) (number, offset int) {
	if number = e.At(c.Key); number >= 0 {
		offset = e.units[number].place.Whole.From
	}
	return number, offset
}

// Remove takes out a unit.
func (e *editor) Remove(i int, _ format.Change) error {
	e.Cut(e.units[i].place.Whole.From, e.units[i].place.Whole.To)
	return nil
}

// Rename changes the attribute that is the key.
func (e *editor) Rename(i int, c format.Change) error {
	e.Replace(e.units[i].name.From, e.units[i].name.To, xmlscan.EscapeAttribute(c.NewKey))
	return nil
}

// Set changes text, notes and state.
func (e *editor) Set(i int, c format.Change) error {
	u := &e.units[i]
	if c.Message != nil {
		if u.segments > 1 {
			return format.ErrPieces
		}
		e.set(u, c)
	}
	if c.Note != nil && *c.Note != e.Source.Entries[i].Note {
		e.note(u, xmlscan.EscapeText(doc.Legal(&e.w.Teller, *c.Note)))
	}
	if c.State != nil && u.target.There() && !e.toSource(c) {
		e.state(u, *c.State)
	}
	return nil
}

// set replaces the content of the source or the translation.
func (e *editor) set(u *unit, c format.Change) {
	e.w.codes = inline.Codes(u.sourceParts)
	text := e.w.content(*c.Message)
	old, name := u.target, "target"
	if e.toSource(c) {
		old, name = u.source, "source"
	}
	if !old.There() {
		at := u.source.Whole.To
		e.Replace(at, at, e.Newline+e.Indent(u.source.Whole.From)+"<target>"+text+"</target>")
		return
	}
	e.SetContent(old, name, text, func(raw string) string { return xmlscan.Respell(raw, e.w.text) })
}

// note changes, adds or removes the unit's note; several become one.
func (e *editor) note(u *unit, note string) {
	spelled := func(raw string) string { return xmlscan.Respell(raw, e.w.text) }
	if len(u.notes) > 1 {
		for _, other := range u.notes[1:] {
			e.Cut(other.Whole.From, other.Whole.To)
		}
	}
	switch {
	case len(u.notes) == 1 && note == "" && u.allNotes.There():
		e.Cut(u.allNotes.Whole.From, e.endOfNotes(u.notes[0].Whole.To))
	case len(u.notes) > 0:
		e.SetField(u.notes[0], "note", note, spelled, 0, "")
	case note == "":
	case e.second && u.allNotes.There():
		e.SetField(doc.NoElement, "note", note, nil, u.allNotes.Start.To, e.Indent(u.allNotes.Whole.From)+"  ")
	case e.second:
		e.Replace(u.place.Start.To, u.place.Start.To, e.Newline+e.Indent(u.place.Whole.From)+"  <notes><note>"+note+"</note></notes>")
	default:
		at := max(u.source.Whole.To, u.target.Whole.To)
		e.SetField(doc.NoElement, "note", note, nil, at, e.Indent(u.source.Whole.From))
	}
}

// endOfNotes returns where the element of all notes ends, after its last one.
func (e *editor) endOfNotes(last int) int {
	s := xmlscan.New(e.Src)
	s.Seek(last)
	for s.Next() {
		if s.Kind == xmlscan.End {
			return s.To
		}
	}
	return last
}

// state sets the attribute of the translation, or in version 2 of its segment.
func (e *editor) state(u *unit, s catalog.State) {
	holder := u.target
	if e.second {
		if holder = u.segment; !holder.There() {
			return
		}
	}
	e.Replace(xmlscan.SetAttribute(e.Src, holder.Start.From, holder.Start.To, "state", e.w.state(&catalog.Entry{State: s})))
}

// Insert adds a unit after its neighbour, or at the end.
func (e *editor) Insert(c format.Change, entry *catalog.Entry) error {
	source, target := e.Added(c, entry, c.Key, e.toSource(c))
	if target != nil {
		source.Entries[0].Note, target.Entries[0].Note = entry.Note, ""
	}
	indent := "      "
	if e.second {
		indent = "    "
	}
	gap, ok := e.Gap(c, e.At(c.After), len(e.units), func(i int) doc.Span { return e.units[i].place.Whole }, e.bodyEnd, indent)
	if !ok {
		return errors.New("the file has no place for a unit")
	}
	e.w.Entry = &source.Entries[0]
	e.Put(gap, string(e.w.unit(nil, source, 0, target, e.number(), gap.Indent)))
	return nil
}

// number returns an id that no unit has.
func (e *editor) number() int {
	highest := len(e.units)
	for i := range e.units {
		highest = max(highest, number(strings.TrimLeft(e.units[i].id, "u")))
	}
	e.added++
	return min(highest, 1<<30) + e.added
}

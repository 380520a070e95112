package xliff

import (
	"errors"
	"strings"

	"zelvik/catalog"
	"zelvik/format"
	"zelvik/format/inline"
	"zelvik/format/xmlscan"
	"zelvik/message"
)

// Edit makes changes; see format.Document. Changes go to the translation
// unless they name the source's culture.
func (d *document) Edit(changes []format.Change) ([]byte, []catalog.Loss, error) {
	e := &editor{document: d, Editor: format.NewEditor(d.Text())}
	e.w = writer{newline: e.Newline, second: d.second, form: d.form}
	if err := e.Make(changes, e.change); err != nil {
		return nil, nil, err
	}
	out, err := d.text.Patch(e.Replacements)
	return out, e.w.Losses, err
}

type editor struct {
	*document
	format.Editor
	w     writer
	added int
}

func (e *editor) toSource(c format.Change) bool {
	return e.target == nil && (c.Culture == "" || c.Culture == e.source.Culture) ||
		e.target != nil && c.Culture != "" && c.Culture == e.source.Culture && c.Culture != e.target.Culture
}

func (e *editor) change(c format.Change) error {
	i, ok := e.index[c.Key]
	switch {
	case !ok && c.Op == format.Set:
		return e.insert(c)
	case !ok:
		return format.ErrNoEntry
	}
	u := &e.units[i]
	e.w.Entry = &catalog.Entry{Key: c.Key, Offset: u.whole.from}
	switch c.Op {
	case format.Remove:
		e.Remove(u.whole.from, u.whole.to)
		return nil
	case format.Rename:
		e.Replace(u.name.from, u.name.to, xmlscan.EscapeAttribute(c.NewKey))
		return nil
	}
	if c.Message != nil {
		if u.segments > 1 {
			return format.ErrPieces
		}
		e.set(u, c)
	}
	if c.Note != nil && *c.Note != e.source.Entries[i].Note {
		e.note(u, xmlscan.EscapeText(e.w.legal(*c.Note)))
	}
	if c.State != nil && u.target.whole.from >= 0 && !e.toSource(c) {
		e.state(u, *c.State)
	}
	return nil
}

// set replaces the content of the source or the translation.
func (e *editor) set(u *unit, c format.Change) {
	toSource := e.toSource(c)
	e.w.codes = inline.Codes(u.sourceParts)
	text := e.w.content(*c.Message)
	old := u.target
	name := "target"
	if toSource {
		old, name = u.source, "source"
	}
	switch {
	case old.whole.from < 0:
		at := u.source.whole.to
		e.Replace(at, at, e.Newline+e.Indent(u.source.whole.from)+"<target>"+text+"</target>")
	case old.lone:
		e.Replace(old.whole.from, old.whole.to, "<"+name+">"+text+"</"+name+">")
	default:
		e.Splice(old.content.from, old.content.to, text, func(raw string) string { return xmlscan.Respell(raw, e.w.text) })
	}
}

// note changes, adds or removes the unit's note; several become one.
func (e *editor) note(u *unit, note string) {
	if len(u.notes) > 0 {
		first := u.notes[0]
		switch {
		case note == "" && u.allNotes.whole.from >= 0 && len(u.notes) == 1:
			e.Remove(u.allNotes.whole.from, e.endOfNotes(first.whole.to))
			return
		case note == "":
			e.Remove(first.whole.from, first.whole.to)
		case first.lone:
			e.Replace(first.whole.from, first.whole.to, "<note>"+note+"</note>")
		default:
			e.Replace(first.content.from, first.content.to, note)
		}
		for _, other := range u.notes[1:] {
			e.Remove(other.whole.from, other.whole.to)
		}
		return
	}
	if note == "" {
		return
	}
	if e.second {
		indent := e.Indent(u.whole.from) + "  "
		text := "<note>" + note + "</note>"
		if u.allNotes.whole.from < 0 {
			text = "<notes>" + text + "</notes>"
		}
		at := u.start.to
		if u.allNotes.whole.from >= 0 {
			at = u.allNotes.start.to
		}
		e.Replace(at, at, e.Newline+indent+text)
		return
	}
	at := u.source.whole.to
	if u.target.whole.from >= 0 {
		at = u.target.whole.to
	}
	e.Replace(at, at, e.Newline+e.Indent(u.source.whole.from)+"<note>"+note+"</note>")
}

// endOfNotes gives where the element of all notes ends, behind its last one.
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
		if holder = u.segment; holder.whole.from < 0 {
			return
		}
	}
	e.Replace(xmlscan.SetAttribute(e.Src, holder.start.from, holder.start.to, "state", e.w.state(&catalog.Entry{State: s})))
}

// insert adds a unit behind its neighbour, or at the end.
func (e *editor) insert(c format.Change) error {
	if c.Message == nil {
		return format.ErrNoEntry
	}
	entry := catalog.Entry{Key: c.Key, Message: message.Plain(c.Key)}
	if c.Source != nil {
		entry.Message = *c.Source
	}
	if c.Note != nil {
		entry.Note = *c.Note
	}
	var target *catalog.Catalog
	if e.toSource(c) {
		entry.Message = *c.Message
	} else {
		t := catalog.Entry{Key: c.Key, Message: *c.Message}
		if c.State != nil {
			t.State = *c.State
		}
		target = &catalog.Catalog{}
		target.Add(t)
	}
	source := &catalog.Catalog{Culture: e.source.Culture}
	source.Add(entry)
	place, indent := -1, "      "
	if e.second {
		indent = "    "
	}
	if i, ok := e.index[c.After]; ok {
		place = i
	} else if c.After != "" && len(e.units) > 0 {
		place = len(e.units) - 1
	}
	if len(e.units) > 0 {
		indent = e.Indent(e.units[max(place, 0)].whole.from)
	}
	e.w.Entry = &entry
	text := string(e.w.unit(nil, source, 0, target, e.number(), indent))
	switch {
	case place >= 0:
		at := e.units[place].whole.to
		e.Replace(at, at, e.Newline+strings.TrimSuffix(text, e.Newline))
	case len(e.units) > 0:
		at := e.units[0].whole.from
		e.Replace(at-len(e.Indent(at)), at-len(e.Indent(at)), text)
	case e.bodyEnd >= 0:
		at := e.bodyEnd - len(e.Indent(e.bodyEnd))
		e.Replace(at, at, text)
	default:
		return errors.New("the file has no place for a unit")
	}
	return nil
}

// number gives an id that no unit has.
func (e *editor) number() int {
	highest := len(e.units)
	for i := range e.units {
		highest = max(highest, number(strings.TrimLeft(e.units[i].id, "u")))
	}
	e.added++
	return min(highest, 1<<30) + e.added
}

package qt

import (
	"errors"
	"strings"

	"zelvik/catalog"
	"zelvik/format"
	"zelvik/format/xmlscan"
	"zelvik/message"
)

// Edit makes changes; see format.Document. Changes go to the translation
// unless they name the source's culture.
func (d *document) Edit(changes []format.Change) ([]byte, []catalog.Loss, error) {
	e := &editor{document: d, Editor: format.NewEditor(d.Text())}
	e.w = writer{newline: e.Newline, forms: d.forms}
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

func (e *editor) toSource(c format.Change) bool {
	return !e.alone && e.target != nil && c.Culture != "" && c.Culture == e.source.Culture && c.Culture != e.target.Culture
}

func (e *editor) change(c format.Change) error {
	i, ok := e.index[c.Key]
	switch {
	case !ok && c.Op == format.Set:
		return e.insert(c)
	case !ok:
		return format.ErrNoEntry
	}
	s := &e.slots[i]
	e.w.Entry = &catalog.Entry{Key: c.Key, Offset: s.message.from}
	switch c.Op {
	case format.Remove:
		e.Remove(s.message.from, s.message.to)
		return nil
	case format.Rename:
		if s.id.from >= 0 {
			e.Replace(s.id.from, s.id.to, xmlscan.EscapeAttribute(c.NewKey))
			return nil
		}
		return e.rename(s, c)
	}
	if c.Message != nil && e.toSource(c) {
		if s.id.from < 0 && e.source.Entries[i].Message.String() != c.Message.String() {
			return format.ErrKeyIsText
		}
		e.content(s.source, "source", e.w.main(*c.Message, true))
	} else if c.Message != nil {
		e.w.arguments = e.source.Entries[i].Message.Arguments()
		if e.set(s, *c.Message, c.State) {
			c.State = nil
		}
		e.w.arguments = nil
	}
	if c.Note != nil {
		if e.toSource(c) || e.target == nil {
			e.note(s, s.extra, "extracomment", *c.Note)
		} else {
			e.note(s, s.translator, "translatorcomment", *c.Note)
		}
	}
	if c.State != nil {
		e.state(s, *c.State)
	}
	return nil
}

var errComment = errors.New("its key ends with its comment; the new one needs one, too: Context::text@comment")

var errContext = errors.New("its key is its context and text; a new one needs the form Context::text")

// rename changes the text of a message without an id. Its context stays.
func (e *editor) rename(s *slot, c format.Change) error {
	text, ok := strings.CutPrefix(c.NewKey, s.context+"::")
	if !ok { // it gets an id
		e.Replace(s.message.from+len("<message"), s.message.from+len("<message"), ` id="`+xmlscan.EscapeAttribute(c.NewKey)+`"`)
		return nil
	}
	comment := s.comment.text
	if comment != "" { // the sign that parts it may stand in the text, too
		if at := strings.LastIndexByte(text, '@'); strings.HasSuffix(text, "@"+comment) {
			text = strings.TrimSuffix(text, "@"+comment)
		} else if at > 0 {
			text, comment = text[:at], text[at+1:]
		} else {
			return errComment
		}
	}
	if text == "" {
		return errContext
	}
	e.content(s.source, "source", text)
	e.content(s.comment, "comment", comment)
	return nil
}

// content replaces the text of an element.
func (e *editor) content(old element, name, text string) {
	escaped := string(escape(nil, text))
	switch {
	case old.whole.from < 0 || old.text == text:
	case old.lone:
		e.Replace(old.whole.from, old.whole.to, "<"+name+">"+escaped+"</"+name+">")
	default:
		e.Splice(old.content.from, old.content.to, escaped, func(raw string) string {
			p := &parser{document: &document{}, src: "<x>" + raw + "</x>"}
			p.Scanner = xmlscan.New(p.src)
			p.Reader = format.NewReader(p.src)
			p.Next()
			return string(escape(nil, p.element().text))
		})
	}
}

// set replaces the translation: its text, or its forms one by one. In the
// source's own file the source goes with it, where that is not the key. It
// reports whether that settled the state, which is nil where none was asked for.
func (e *editor) set(s *slot, m message.Message, state *catalog.State) bool {
	if e.alone && s.id.from >= 0 {
		own := writer{}
		e.content(s.source, "source", own.main(m, true))
	}
	if s.translation.whole.from < 0 {
		at := s.source.whole.to
		t := catalog.Entry{Message: m, State: s.stateAfter(state)}
		indent := e.Indent(s.source.whole.from)
		e.Replace(at, at, e.Newline+indent+string(e.w.translation(nil, &t, s.numerus, indent)))
		return true
	}
	if !s.numerus {
		text := e.w.main(m, true)
		if strings.Contains(e.Src[s.translation.start.from:s.translation.start.to], "variants") && text != s.translation.text {
			t := catalog.Entry{Message: message.Plain(text), State: s.stateAfter(state)}
			own := writer{newline: e.Newline, forms: e.forms}
			e.Replace(s.translation.whole.from, s.translation.whole.to, string(own.translation(nil, &t, false, "")))
			return true
		}
		if s.translation.lone { // the whole of it is written anew
			t := catalog.Entry{Message: m, State: s.stateAfter(state)}
			own := writer{newline: e.Newline, forms: e.forms}
			e.Replace(s.translation.whole.from, s.translation.whole.to, string(own.translation(nil, &t, false, "")))
			return true
		}
		e.content(s.translation, "translation", text)
		if state == nil {
			e.finish(s, text)
		}
		return false
	}
	texts := e.w.fill(m)
	if len(texts) != len(s.forms) {
		indent := e.Indent(s.translation.whole.from)
		t := catalog.Entry{Message: m, State: s.stateAfter(state)}
		own := writer{newline: e.Newline, forms: e.forms}
		e.Replace(s.translation.whole.from, s.translation.whole.to, string(own.translation(nil, &t, true, indent)))
		return true
	}
	for i, text := range texts {
		e.content(s.forms[i], "numerusform", text)
	}
	if state == nil {
		e.finish(s, strings.Join(texts, ""))
	}
	return false
}

// stateAfter gives the state of a translation that is written anew: the one
// that was asked for, else the one it had; done where it had no text.
func (s *slot) stateAfter(state *catalog.State) catalog.State {
	switch {
	case state != nil:
		return *state
	case s.kind == "unfinished" && s.translated():
		return catalog.Draft
	}
	return catalog.Done
}

// finish takes the mark off a translation that had no text until now.
func (e *editor) finish(s *slot, text string) {
	if s.kind == "unfinished" && !s.translated() && text != "" {
		e.state(s, catalog.Done)
	}
}

// state sets or takes away the mark "unfinished".
func (e *editor) state(s *slot, state catalog.State) {
	if s.translation.whole.from < 0 {
		return
	}
	unfinished := state == catalog.Draft || state == catalog.Moved || state == catalog.Missing
	if unfinished == (s.kind == "unfinished") {
		return
	}
	kind := ""
	if unfinished {
		kind = "unfinished"
	}
	e.Replace(xmlscan.SetAttribute(e.Src, s.translation.start.from, s.translation.start.to, "type", kind))
}

// note changes, adds or removes a comment element.
func (e *editor) note(s *slot, old element, name, note string) {
	switch {
	case old.whole.from >= 0 && note == "":
		e.Remove(old.whole.from, old.whole.to)
	case old.whole.from >= 0:
		e.content(old, name, note)
	case note != "" && s.source.whole.from >= 0:
		at := s.source.whole.to
		if s.extra.whole.from >= 0 {
			at = s.extra.whole.to
		}
		e.Replace(at, at, e.Newline+string(e.w.field(nil, e.Indent(s.source.whole.from), name, note)))
	}
}

// insert adds a message behind its neighbour, or at the end of the last
// context.
func (e *editor) insert(c format.Change) error {
	if c.Message == nil {
		return format.ErrNoEntry
	}
	source, target := &catalog.Catalog{Culture: e.source.Culture}, &catalog.Catalog{}
	entry := catalog.Entry{Key: c.Key, Message: message.Plain(c.Key)}
	if c.Source != nil {
		entry.Message = *c.Source
	} else if _, text, ok := strings.Cut(c.Key, "::"); ok {
		entry.Message = message.Plain(text)
	}
	if e.toSource(c) || e.alone {
		entry.Message = *c.Message
	}
	if c.Note != nil && (e.toSource(c) || e.target == nil) {
		entry.Note = *c.Note
	}
	source.Add(entry)
	if !e.toSource(c) {
		t := catalog.Entry{Key: c.Key, Message: *c.Message}
		if c.Note != nil && e.target != nil {
			t.Note = *c.Note
		}
		if c.State != nil {
			t.State = *c.State
		}
		target.Add(t)
	}
	w := writer{newline: e.Newline, forms: e.forms}
	place, indent := -1, step
	if i, ok := e.index[c.After]; ok {
		place = i
	} else if c.After != "" && len(e.slots) > 0 {
		place = len(e.slots) - 1
	}
	if len(e.slots) > 0 {
		indent = e.Indent(e.slots[max(place, 0)].message.from)
	}
	text := string(w.message(nil, source, target, 0, indent))
	e.w.Losses = append(e.w.Losses, w.Losses...)
	switch {
	case place >= 0:
		at := e.slots[place].message.to
		e.Replace(at, at, e.Newline+strings.TrimSuffix(text, e.Newline))
	case len(e.slots) > 0:
		at := e.slots[0].message.from
		e.Replace(at-len(e.Indent(at)), at-len(e.Indent(at)), text)
	case e.contextEnd >= 0:
		e.Replace(e.contextEnd-len(e.Indent(e.contextEnd)), e.contextEnd-len(e.Indent(e.contextEnd)), text)
	case e.rootEnd >= 0:
		e.Replace(e.rootEnd, e.rootEnd, "<context>"+e.Newline+step+"<name></name>"+e.Newline+text+"</context>"+e.Newline)
	default:
		return errors.New("the file has no </TS>")
	}
	return nil
}

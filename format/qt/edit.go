package qt

import (
	"errors"
	"strings"

	"zelvik/catalog"
	"zelvik/format"
	"zelvik/format/doc"
	"zelvik/format/xmlscan"
	"zelvik/message"
)

// Edit makes changes; see format.Document.
func (d *document) Edit(changes []format.Change) ([]byte, []catalog.Loss, error) {
	e := &editor{document: d, Editor: doc.NewEditor(d.Coded)}
	e.w = writer{newline: e.Newline, forms: d.forms}
	return e.Apply(changes, &e.w.Teller, e)
}

type editor struct {
	*document
	doc.Editor
	w writer
}

func (e *editor) toSource(c format.Change) bool { return !e.alone && e.ToSource(c) }

// Find returns the number of a message.
func (e *editor) Find(c format.Change) (number, offset int) {
	if number = e.At(c.Key); number >= 0 {
		offset = e.slots[number].place.Whole.From
	}
	return number, offset
}

// Remove takes out a message.
func (e *editor) Remove(i int, _ format.Change) error {
	e.Cut(e.slots[i].place.Whole.From, e.slots[i].place.Whole.To)
	return nil
}

// Set changes text, comments and state.
func (e *editor) Set(i int, c format.Change) error {
	s := &e.slots[i]
	if c.Message != nil && e.toSource(c) {
		if !s.id.There() && e.Source.Entries[i].Message.String() != c.Message.String() {
			return format.ErrKeyIsText
		}
		e.content(s.source, "source", e.w.main(*c.Message, true))
	} else if c.Message != nil {
		e.w.arguments = e.Source.Entries[i].Message.Arguments()
		if e.set(s, *c.Message, c.State) {
			c.State = nil
		}
		e.w.arguments = nil
	}
	if c.Note != nil {
		old, name := s.translator, "translatorcomment"
		if e.toSource(c) || e.Target == nil {
			old, name = s.extra, "extracomment"
		}
		e.note(s, old, name, *c.Note)
	}
	if c.State != nil {
		e.state(s, *c.State)
	}
	return nil
}

var errComment = errors.New("its key ends with its comment; the new one needs one, too: Context::text@comment")

var errContext = errors.New("its key is its context and text; a new one needs the form Context::text")

// Rename changes the id, or the text of a message without one. Its context stays.
func (e *editor) Rename(i int, c format.Change) error {
	s := &e.slots[i]
	if s.id.There() {
		e.Replace(s.id.From, s.id.To, xmlscan.EscapeAttribute(c.NewKey))
		return nil
	}
	text, ok := strings.CutPrefix(c.NewKey, s.context+"::")
	if !ok { // it gets an id
		at := s.place.Whole.From + len("<message")
		e.Replace(at, at, ` id="`+xmlscan.EscapeAttribute(c.NewKey)+`"`)
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
	if old.text != text {
		e.SetContent(old.Element, name, string(escape(nil, text)), respell)
	}
}

// respell spells what is written in an element as the writer does.
func respell(raw string) string {
	p := &parser{document: &document{}}
	src := "<x>" + raw + "</x>"
	p.XML = doc.XML{Scanner: xmlscan.New(src), Reader: format.NewReader(src), Src: src}
	p.Next()
	return string(escape(nil, p.element().text))
}

// set replaces the translation: its text, or its forms one by one. In the
// source's own file the source goes with it, where that is not the key. It
// reports whether that settled the state, which is nil where none was asked for.
func (e *editor) set(s *slot, m message.Message, state *catalog.State) bool {
	if e.alone && s.id.There() {
		own := writer{}
		e.content(s.source, "source", own.main(m, true))
	}
	if !s.translation.There() {
		at := s.source.Whole.To
		indent := e.Indent(s.source.Whole.From)
		e.Replace(at, at, e.Newline+indent+e.written(s, m, state, indent))
		return true
	}
	place := s.translation.Whole
	anew := func(m message.Message) bool { // the whole of it
		e.Replace(place.From, place.To, e.written(s, m, state, e.Indent(place.From)))
		return true
	}
	var texts []string
	if s.numerus {
		if texts = e.w.fill(m); len(texts) != len(s.forms) {
			return anew(m)
		}
		for i, text := range texts {
			e.content(s.forms[i], "numerusform", text)
		}
	} else {
		text := e.w.main(m, true)
		texts = []string{text}
		if strings.Contains(e.Src[s.translation.Start.From:s.translation.Start.To], "variants") && text != s.translation.text {
			return anew(message.Plain(text))
		}
		if s.translation.Lone {
			return anew(m)
		}
		e.content(s.translation, "translation", text)
	}
	if state == nil {
		e.finish(s, strings.Join(texts, ""))
	}
	return false
}

// written is the element of a translation that is written anew. Its losses are
// told by who asks for it.
func (e *editor) written(s *slot, m message.Message, state *catalog.State, indent string) string {
	w := writer{newline: e.Newline, forms: e.forms, arguments: e.w.arguments}
	t := catalog.Entry{Message: m, State: s.stateAfter(state)}
	text := string(w.translation(nil, &t, s.numerus, indent))
	if !s.translation.There() {
		e.w.Losses = append(e.w.Losses, w.Losses...)
	}
	return text
}

// stateAfter returns the state of a translation that is written anew: the one
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
	if !s.translation.There() {
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
	e.Replace(xmlscan.SetAttribute(e.Src, s.translation.Start.From, s.translation.Start.To, "type", kind))
}

// note changes, adds or removes a comment element.
func (e *editor) note(s *slot, old element, name, note string) {
	if old.text == note || !s.source.There() && !old.There() {
		return
	}
	at := max(s.source.Whole.To, s.extra.Whole.To)
	e.SetField(old.Element, name, string(escape(nil, note)), respell, at, e.Indent(s.source.Whole.From))
}

// Insert adds a message after its neighbour, or at the end of the last
// context.
func (e *editor) Insert(c format.Change, entry *catalog.Entry) error {
	text := c.Key
	if _, after, ok := strings.Cut(c.Key, "::"); ok {
		text = after
	}
	source, target := e.Added(c, entry, text, e.toSource(c))
	if e.alone {
		source.Entries[0].Message = entry.Message
	}
	if target != nil && e.Target == nil {
		source.Entries[0].Note, target.Entries[0].Note = entry.Note, ""
	}
	gap, ok := e.Gap(c, e.At(c.After), len(e.slots), func(i int) doc.Span { return e.slots[i].place.Whole }, e.contextEnd, step)
	around := !ok && e.rootEnd >= 0 // there is no context yet
	if around {
		gap, ok = doc.Gap{At: e.rootEnd, Indent: step, Before: true}, true
	}
	if !ok {
		return errors.New("the file has no </TS>")
	}
	written := string(e.w.message(nil, source, target, 0, gap.Indent))
	if around {
		written = "<context>" + e.Newline + step + "<name></name>" + e.Newline + written + "</context>"
	}
	e.Put(gap, written)
	return nil
}

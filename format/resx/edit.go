package resx

import (
	"fmt"
	"strings"

	"zelvik/catalog"
	"zelvik/format"
	"zelvik/format/xmlscan"
	"zelvik/message"
)

// Edit makes changes; see format.Document.
func (d *document) Edit(changes []format.Change) ([]byte, []catalog.Loss, error) {
	e := &editor{document: d, Editor: format.NewEditor(d.Text())}
	if err := e.Make(changes, e.change); err != nil {
		return nil, nil, err
	}
	out, err := d.text.Patch(e.Replacements)
	return out, e.Losses, err
}

type editor struct {
	*document
	format.Editor
}

func (e *editor) find(key string) int {
	return e.catalog.At(key)
}

func (e *editor) change(c format.Change) error {
	i := e.find(c.Key)
	switch {
	case c.Op == format.Set && i < 0:
		return e.insert(c)
	case i < 0:
		return format.ErrNoEntry
	}
	s, entry := e.slots[i], &e.catalog.Entries[i]
	w := &composer{Teller: format.Teller{Entry: entry}}
	defer func() { e.Losses = append(e.Losses, w.Losses...) }()
	switch c.Op {
	case format.Remove:
		e.Remove(s.from, s.to)
		return nil
	case format.Rename:
		e.Replace(s.nameFrom, s.nameTo, xmlscan.EscapeAttribute(c.NewKey))
		return nil
	}
	if c.Message != nil {
		e.set(s, w, *c.Message)
	}
	if c.Note != nil && *c.Note != entry.Note {
		e.note(s, xmlscan.EscapeText(w.legal(*c.Note)))
	}
	return nil
}

// set replaces the value, in a CDATA section where it stands in one.
func (e *editor) set(s slot, w *composer, m message.Message) {
	changed := catalog.Entry{Key: w.Entry.Key, Message: m, Offset: w.Entry.Offset}
	raw := w.value(nil, &changed)
	text := e.lines(xmlscan.EscapeText(raw))
	if s.valueFrom < 0 {
		at := s.from + strings.IndexByte(e.Src[s.from:], '>') + 1
		indent := e.Newline + e.Indent(s.from)
		e.Replace(at, at, indent+"  <value>"+text+"</value>")
		return
	}
	old := e.Src[s.valueFrom:s.valueTo]
	switch {
	case s.valueElement == s.valueFrom: // <value/>
		text = "<value>" + text + "</value>"
	case strings.HasPrefix(old, "<![CDATA[") && strings.HasSuffix(old, "]]>") && !strings.Contains(raw, "]]>"):
		text = "<![CDATA[" + e.lines(raw) + "]]>"
	}
	e.Splice(s.valueFrom, s.valueTo, text, func(raw string) string {
		return xmlscan.Respell(raw, func(text string) string { return e.lines(xmlscan.EscapeText(text)) })
	})
}

// lines gives the text with the file's line ends.
func (e *editor) lines(text string) string {
	if e.Newline == "\n" {
		return text
	}
	return strings.ReplaceAll(text, "\n", e.Newline)
}

// note changes, adds or removes the comment element.
func (e *editor) note(s slot, note string) {
	switch {
	case s.commentFrom >= 0 && note == "":
		e.Remove(s.commentElement, s.commentElementTo)
	case s.commentFrom >= 0 && s.commentElement == s.commentFrom: // <comment/>
		e.Replace(s.commentFrom, s.commentTo, "<comment>"+e.lines(note)+"</comment>")
	case s.commentFrom >= 0:
		e.Replace(s.commentFrom, s.commentTo, e.lines(note))
	case note != "" && s.valueFrom >= 0:
		e.Replace(s.valueElementTo, s.valueElementTo, e.Newline+e.Indent(s.valueElement)+"<comment>"+e.lines(note)+"</comment>")
	}
}

func (e *editor) insert(c format.Change) error {
	if c.Message == nil {
		return format.ErrNoEntry
	}
	entry := catalog.Entry{Key: c.Key, Message: *c.Message}
	if c.Note != nil {
		entry.Note = *c.Note
	}
	w := &composer{Teller: format.Teller{Entry: &entry}}
	indent := "  "
	if len(e.slots) > 0 {
		indent = e.Indent(e.slots[0].from)
	}
	text := string(w.data(nil, nil, &entry, indent, e.Newline))
	e.Losses = append(e.Losses, w.Losses...)
	if i := e.find(c.After); i >= 0 {
		e.Replace(e.slots[i].to, e.slots[i].to, e.Newline+strings.TrimRight(text, "\r\n"))
		return nil
	}
	at := e.rootEnd
	if c.After == "" && len(e.slots) > 0 {
		at = int(e.slots[0].from)
	}
	if at < 0 {
		return fmt.Errorf("the file has no </root>")
	}
	if start := strings.LastIndexByte(e.Src[:at], '\n') + 1; strings.TrimSpace(e.Src[start:at]) == "" {
		at = start
	} else {
		text = e.Newline + text
	}
	e.Replace(at, at, text)
	return nil
}

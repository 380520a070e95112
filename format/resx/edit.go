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
	e := &editor{document: d, src: d.Text(), newline: "\n"}
	if strings.Contains(e.src, "\r\n") {
		e.newline = "\r\n"
	}
	for _, c := range changes {
		if err := e.change(c); err != nil {
			return nil, nil, &format.EditError{Key: c.Key, Err: err}
		}
	}
	out, err := d.text.Patch(e.replacements)
	return out, e.losses, err
}

type editor struct {
	*document
	src, newline string
	replacements []format.Replacement
	losses       []catalog.Loss
}

func (e *editor) replace(from, to int32, text string) {
	e.replacements = append(e.replacements, format.Replacement{Start: int(from), End: int(to), Text: text})
}

func (e *editor) find(key string) int {
	return e.catalog.At(key)
}

func (e *editor) indent(offset int32) string {
	start := strings.LastIndexByte(e.src[:offset], '\n') + 1
	line := e.src[start:offset]
	return line[:len(line)-len(strings.TrimLeft(line, " \t"))]
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
	w := &composer{entry: entry}
	defer func() { e.losses = append(e.losses, w.losses...) }()
	switch c.Op {
	case format.Remove:
		e.remove(s.from, s.to)
		return nil
	case format.Rename:
		e.replace(s.nameFrom, s.nameTo, xmlscan.EscapeAttribute(c.NewKey))
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
	changed := catalog.Entry{Key: w.entry.Key, Message: m, Offset: w.entry.Offset}
	raw := w.value(nil, &changed)
	text := e.lines(xmlscan.EscapeText(raw))
	if s.valueFrom < 0 {
		at := s.from + int32(strings.IndexByte(e.src[s.from:], '>')) + 1
		indent := e.newline + e.indent(s.from)
		e.replace(at, at, indent+"  <value>"+text+"</value>")
		return
	}
	old := e.src[s.valueFrom:s.valueTo]
	switch {
	case s.valueElement == s.valueFrom: // <value/>
		text = "<value>" + text + "</value>"
	case strings.HasPrefix(old, "<![CDATA[") && strings.HasSuffix(old, "]]>") && !strings.Contains(raw, "]]>"):
		text = "<![CDATA[" + e.lines(raw) + "]]>"
	}
	if text != old {
		e.replace(s.valueFrom, s.valueTo, text)
	}
}

// lines gives the text with the file's line ends.
func (e *editor) lines(text string) string {
	if e.newline == "\n" {
		return text
	}
	return strings.ReplaceAll(text, "\n", e.newline)
}

// note changes, adds or removes the comment element.
func (e *editor) note(s slot, note string) {
	switch {
	case s.commentFrom >= 0 && note == "":
		e.remove(s.commentElement, s.commentElementTo)
	case s.commentFrom >= 0 && s.commentElement == s.commentFrom: // <comment/>
		e.replace(s.commentFrom, s.commentTo, "<comment>"+e.lines(note)+"</comment>")
	case s.commentFrom >= 0:
		e.replace(s.commentFrom, s.commentTo, e.lines(note))
	case note != "" && s.valueFrom >= 0:
		e.replace(s.valueElementTo, s.valueElementTo, e.newline+e.indent(s.valueElement)+"<comment>"+e.lines(note)+"</comment>")
	}
}

func (e *editor) remove(from, to int32) {
	start := strings.LastIndexByte(e.src[:from], '\n') + 1
	end := int(to)
	for end < len(e.src) && strings.IndexByte(" \t\r", e.src[end]) >= 0 {
		end++
	}
	if strings.TrimSpace(e.src[start:from]) == "" && end < len(e.src) && e.src[end] == '\n' {
		from, to = int32(start), int32(end+1)
	}
	e.replace(from, to, "")
}

func (e *editor) insert(c format.Change) error {
	if c.Message == nil {
		return format.ErrNoEntry
	}
	entry := catalog.Entry{Key: c.Key, Message: *c.Message}
	if c.Note != nil {
		entry.Note = *c.Note
	}
	w := &composer{entry: &entry}
	indent := "  "
	if len(e.slots) > 0 {
		indent = e.indent(e.slots[0].from)
	}
	text := string(w.data(nil, nil, &entry, indent, e.newline))
	e.losses = append(e.losses, w.losses...)
	if i := e.find(c.After); i >= 0 {
		e.replace(e.slots[i].to, e.slots[i].to, e.newline+strings.TrimRight(text, "\r\n"))
		return nil
	}
	at := e.rootEnd
	if c.After == "" && len(e.slots) > 0 {
		at = int(e.slots[0].from)
	}
	if at < 0 {
		return fmt.Errorf("the file has no </root>")
	}
	if start := strings.LastIndexByte(e.src[:at], '\n') + 1; strings.TrimSpace(e.src[start:at]) == "" {
		at = start
	} else {
		text = e.newline + text
	}
	e.replace(int32(at), int32(at), text)
	return nil
}

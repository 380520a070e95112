package strings

import (
	"errors"
	"strings"

	"zelvik/catalog"
	"zelvik/format"
)

// Edit makes changes; see format.Document.
func (d *document) Edit(changes []format.Change) ([]byte, []catalog.Loss, error) {
	if len(changes) == 0 {
		out, err := d.text.Patch(nil)
		return out, nil, err
	}
	if d.property {
		return nil, nil, errors.New("a .strings file in the form of an XML or binary property list is read only; convert it to the text form first")
	}
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
	src          string
	newline      string
	replacements []format.Replacement
	losses       []catalog.Loss
}

func (e *editor) replace(from, to int32, text string) {
	e.replacements = append(e.replacements, format.Replacement{Start: int(from), End: int(to), Text: text})
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
	s := e.slots[i]
	entry := &e.catalog.Entries[i]
	w := &composer{entry: entry}
	defer func() { e.losses = append(e.losses, w.losses...) }()
	switch c.Op {
	case format.Remove:
		e.remove(s)
		return nil
	case format.Rename:
		text := string(appendQuoted(nil, c.NewKey))
		if s.valueFrom == s.keyTo && s.valueTo == s.keyTo { // "key"; stands for its own text
			text += " = " + e.src[s.keyFrom:s.keyTo]
		}
		e.replace(s.keyFrom, s.keyTo, text)
		return nil
	}
	if c.Note != nil && *c.Note != entry.Note {
		e.note(s, w.comment(*c.Note))
	}
	if c.Message != nil {
		changed := catalog.Entry{Key: entry.Key, Message: *c.Message, Offset: entry.Offset}
		text := string(appendQuoted(nil, w.value(nil, &changed)))
		if s.valueFrom == s.keyTo && s.valueTo == s.keyTo {
			text = " = " + text
		}
		if text != e.src[s.valueFrom:s.valueTo] {
			e.replace(s.valueFrom, s.valueTo, text)
		}
	}
	return nil
}

// note changes, adds or removes the comment before an entry, in its style.
func (e *editor) note(s slot, note string) {
	switch {
	case s.noteFrom < 0 && note != "":
		e.replace(s.from, s.from, "/* "+note+" */"+e.newline)
	case s.noteFrom >= 0 && note == "":
		e.replace(s.noteFrom, s.from, "")
	case s.noteFrom >= 0 && strings.HasPrefix(e.src[s.noteFrom:], "//") && !strings.Contains(note, "\n"):
		e.replace(s.noteFrom, s.noteTo, "// "+note)
	case s.noteFrom >= 0:
		e.replace(s.noteFrom, s.noteTo, "/* "+note+" */")
	}
}

func (e *editor) remove(s slot) {
	from, to := s.from, s.to
	if s.noteFrom >= 0 {
		from = s.noteFrom
	}
	start := strings.LastIndexByte(e.src[:from], '\n') + 1
	end := int(to)
	for end < len(e.src) && (e.src[end] == ' ' || e.src[end] == '\t' || e.src[end] == '\r') {
		end++
	}
	if strings.TrimSpace(e.src[start:from]) == "" && end < len(e.src) && e.src[end] == '\n' {
		end++
		// Do not leave two blank lines where one parted the entries.
		if start >= 2 && e.src[start-1] == '\n' && strings.TrimRight(e.src[:start-1], " \t\r") != "" &&
			strings.HasSuffix(strings.TrimRight(e.src[:start-1], " \t\r"), "\n") && strings.HasPrefix(strings.TrimLeft(e.src[end:], " \t\r"), "\n") {
			end += strings.IndexByte(e.src[end:], '\n') + 1
		}
		from, to = int32(start), int32(end)
	}
	e.replace(from, to, "")
}

func (e *editor) insert(c format.Change) error {
	if c.Message == nil {
		return format.ErrNoEntry
	}
	entry := catalog.Entry{Key: c.Key, Message: *c.Message}
	w := &composer{entry: &entry}
	text := ""
	if c.Note != nil && *c.Note != "" {
		text = "/* " + w.comment(*c.Note) + " */" + e.newline
	}
	text += string(appendQuoted(nil, c.Key)) + " = " + string(appendQuoted(nil, w.value(nil, &entry))) + ";"
	e.losses = append(e.losses, w.losses...)
	after := e.find(c.After)
	spaced := e.spaced()
	switch {
	case after < 0 && c.After == "" && len(e.slots) > 0:
		s := e.slots[0]
		at := s.from
		if s.noteFrom >= 0 {
			at = s.noteFrom
		}
		e.replace(at, at, text+e.newline+spaced)
	case len(e.slots) == 0:
		if e.src != "" && !strings.HasSuffix(e.src, "\n") {
			text = e.newline + text
		}
		e.replace(int32(len(e.src)), int32(len(e.src)), text+e.newline)
	default:
		if after < 0 {
			after = len(e.slots) - 1
		}
		e.replace(e.slots[after].to, e.slots[after].to, e.newline+spaced+text)
	}
	return nil
}

// spaced gives the blank line that stands between the file's entries, or "".
func (e *editor) spaced() string {
	blank := 0
	for i := 1; i < len(e.slots); i++ {
		from := e.slots[i].from
		if e.slots[i].noteFrom >= 0 {
			from = e.slots[i].noteFrom
		}
		if strings.Count(e.src[e.slots[i-1].to:from], "\n") > 1 {
			blank++
		}
	}
	if blank*2 > len(e.slots)-1 && blank > 0 {
		return e.newline
	}
	return ""
}

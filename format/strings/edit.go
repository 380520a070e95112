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
	s := e.slots[i]
	entry := &e.catalog.Entries[i]
	w := &composer{Teller: format.Teller{Entry: entry}}
	defer func() { e.Losses = append(e.Losses, w.Losses...) }()
	switch c.Op {
	case format.Remove:
		e.remove(s)
		return nil
	case format.Rename:
		text := string(appendQuoted(nil, c.NewKey))
		if s.valueFrom == s.keyTo && s.valueTo == s.keyTo { // "key"; stands for its own text
			text += " = " + e.Src[s.keyFrom:s.keyTo]
		}
		e.Replace(s.keyFrom, s.keyTo, text)
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
		e.Splice(s.valueFrom, s.valueTo, text, func(raw string) string {
			p := &parser{src: raw, Reader: format.NewReader(raw)}
			if _, to, text, ok := p.word(';'); ok && to == len(raw) {
				return string(appendQuoted(nil, text))
			}
			return raw
		})
	}
	return nil
}

// note changes, adds or removes the comment before an entry, in its style.
func (e *editor) note(s slot, note string) {
	switch {
	case s.trailTo == 0:
	case s.noteFrom < 0 && note != "" && !strings.Contains(note, "\n"):
		s.noteFrom, s.noteTo = s.trailFrom, s.trailTo
	default: // one note is enough, and one of several lines goes before the entry
		e.Replace(s.to, s.trailTo, "")
	}
	switch {
	case s.noteFrom < 0 && note != "":
		e.Replace(s.from, s.from, "/* "+note+" */"+e.Newline)
	case s.noteFrom >= 0 && note == "":
		e.Replace(s.noteFrom, s.from, "")
	case s.noteFrom >= 0 && strings.HasPrefix(e.Src[s.noteFrom:], "//") && !strings.Contains(note, "\n"):
		e.Replace(s.noteFrom, s.noteTo, "// "+note)
	case s.noteFrom >= 0:
		e.Replace(s.noteFrom, s.noteTo, "/* "+note+" */")
	}
}

func (e *editor) remove(s slot) {
	from, to := s.from, s.end()
	if s.noteFrom >= 0 {
		from = s.noteFrom
	}
	start, end, whole := e.Lines(from, to)
	// Do not leave two blank lines where one parted the entries.
	if above := strings.TrimRight(e.Src[:max(start-1, 0)], " \t\r"); whole && strings.HasSuffix(above, "\n") &&
		strings.HasPrefix(strings.TrimLeft(e.Src[end:], " \t\r"), "\n") {
		end += strings.IndexByte(e.Src[end:], '\n') + 1
	}
	e.Replace(start, end, "")
}

func (e *editor) insert(c format.Change) error {
	if c.Message == nil {
		return format.ErrNoEntry
	}
	entry := catalog.Entry{Key: c.Key, Message: *c.Message}
	w := &composer{Teller: format.Teller{Entry: &entry}}
	text := ""
	if c.Note != nil && *c.Note != "" {
		text = "/* " + w.comment(*c.Note) + " */" + e.Newline
	}
	text += string(appendQuoted(nil, c.Key)) + " = " + string(appendQuoted(nil, w.value(nil, &entry))) + ";"
	e.Losses = append(e.Losses, w.Losses...)
	after := e.find(c.After)
	spaced := e.spaced()
	switch {
	case after < 0 && c.After == "" && len(e.slots) > 0:
		s := e.slots[0]
		at := s.from
		if s.noteFrom >= 0 {
			at = s.noteFrom
		}
		e.Replace(at, at, text+e.Newline+spaced)
	case len(e.slots) == 0:
		if e.Src != "" && !strings.HasSuffix(e.Src, "\n") {
			text = e.Newline + text
		}
		e.Replace(int(len(e.Src)), int(len(e.Src)), text+e.Newline)
	default:
		if after < 0 {
			after = len(e.slots) - 1
		}
		e.Replace(e.slots[after].end(), e.slots[after].end(), e.Newline+spaced+text)
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
		if strings.Count(e.Src[e.slots[i-1].end():from], "\n") > 1 {
			blank++
		}
	}
	if blank*2 > len(e.slots)-1 && blank > 0 {
		return e.Newline
	}
	return ""
}

package strings

import (
	"errors"
	"strings"

	"zelvik/catalog"
	"zelvik/format"
	"zelvik/format/doc"
)

// Edit makes changes; see format.Document.
func (d *document) Edit(changes []format.Change) ([]byte, []catalog.Loss, error) {
	if d.property && len(changes) > 0 {
		return nil, nil, errors.New("a .strings file in the form of an XML or binary property list is read only; convert it to the text form first")
	}
	e := &editor{document: d, Editor: doc.NewEditor(d.Coded)}
	return e.Apply(changes, &e.w.Teller, e)
}

type editor struct {
	*document
	doc.Editor
	w composer
}

// Find returns the number of an entry.
func (e *editor) Find(c format.Change) (number, offset int) {
	if number = e.Catalog.At(c.Key); number >= 0 {
		offset = e.Catalog.Entries[number].Offset
	}
	return number, offset
}

// Remove takes out an entry with its comments, and does not leave two blank
// lines where one separated the entries.
func (e *editor) Remove(i int, _ format.Change) error {
	start, end, whole := e.Lines(e.slots[i].Begin(), e.slots[i].End())
	if above := strings.TrimRight(e.Src[:max(start-1, 0)], " \t\r"); whole && strings.HasSuffix(above, "\n") &&
		strings.HasPrefix(strings.TrimLeft(e.Src[end:], " \t\r"), "\n") {
		end += strings.IndexByte(e.Src[end:], '\n') + 1
	}
	e.Replace(start, end, "")
	return nil
}

// bareKey reports whether a key stands for its own text: "key";
func bareKey(s *doc.Slot) bool { return s.Value.From == s.Key.To && s.Value.To == s.Key.To }

// Rename changes the key.
func (e *editor) Rename(i int, c format.Change) error {
	s := &e.slots[i]
	text := string(appendQuoted(nil, c.NewKey))
	if bareKey(s) {
		text += " = " + e.Src[s.Key.From:s.Key.To]
	}
	e.Replace(s.Key.From, s.Key.To, text)
	return nil
}

// Set changes comment and text.
func (e *editor) Set(i int, c format.Change) error {
	s := &e.slots[i]
	if c.Note != nil && *c.Note != e.Catalog.Entries[i].Note {
		e.note(*s, e.w.comment(*c.Note))
	}
	if c.Message == nil {
		return nil
	}
	text := string(appendQuoted(nil, e.w.value(nil, &catalog.Entry{Key: c.Key, Message: *c.Message})))
	if bareKey(s) {
		text = " = " + text
	}
	e.Splice(s.Value.From, s.Value.To, text, func(raw string) string {
		p := &parser{src: raw, Reader: format.NewReader(raw)}
		if _, to, text, ok := p.word(';'); ok && to == len(raw) {
			return string(appendQuoted(nil, text))
		}
		return raw
	})
	return nil
}

// note changes, adds or removes the comment before an entry, in its style.
func (e *editor) note(s doc.Slot, note string) {
	switch {
	case s.Trail.To == 0:
	case !s.Note.There() && note != "" && !strings.Contains(note, "\n"):
		s.Note = s.Trail
	default: // one note is enough, and one of several lines goes before the entry
		e.Replace(s.Whole.To, s.Trail.To, "")
	}
	switch {
	case !s.Note.There() && note != "":
		e.Replace(s.Whole.From, s.Whole.From, "/* "+note+" */"+e.Newline)
	case s.Note.There() && note == "":
		e.Replace(s.Note.From, s.Whole.From, "")
	case s.Note.There() && strings.HasPrefix(e.Src[s.Note.From:], "//") && !strings.Contains(note, "\n"):
		e.Replace(s.Note.From, s.Note.To, "// "+note)
	case s.Note.There():
		e.Replace(s.Note.From, s.Note.To, "/* "+note+" */")
	}
}

// Insert adds an entry after its neighbour, separated from it as the others are.
func (e *editor) Insert(c format.Change, entry *catalog.Entry) error {
	text := ""
	if entry.Note != "" {
		text = "/* " + e.w.comment(entry.Note) + " */" + e.Newline
	}
	text += string(appendQuoted(nil, c.Key)) + " = " + string(appendQuoted(nil, e.w.value(nil, entry))) + ";"
	gap, _ := e.Gap(c, e.Catalog.At(c.After), len(e.slots), func(i int) doc.Span { return doc.Span{From: e.slots[i].Begin(), To: e.slots[i].End()} }, len(e.Src), "")
	switch spaced := e.spaced(); {
	case !gap.Before:
		text = spaced + text
	case len(e.slots) > 0:
		text += e.Newline
		e.Replace(gap.At, gap.At, text+spaced)
		return nil
	}
	e.Put(gap, text)
	return nil
}

// spaced returns the blank line that stands between the file's entries, or "".
func (e *editor) spaced() string {
	blank := 0
	for i := 1; i < len(e.slots); i++ {
		if strings.Count(e.Src[e.slots[i-1].End():e.slots[i].Begin()], "\n") > 1 {
			blank++
		}
	}
	if blank*2 > len(e.slots)-1 && blank > 0 {
		return e.Newline
	}
	return ""
}

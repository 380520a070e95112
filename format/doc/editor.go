package doc

import (
	"strings"

	"zelvik/catalog"
	"zelvik/format"
	"zelvik/format/charset"
)

// Editor gathers what an edit replaces in a document's text. The editors of
// the formats are built on it.
type Editor struct {
	// Src is the text, Newline the line end that it uses.
	Src, Newline string
	Replacements []format.Replacement
	coded        *charset.Text
}

// NewEditor begins the edit of a text.
func NewEditor(text *charset.Text) Editor {
	e := Editor{Src: text.String(), Newline: "\n", coded: text}
	if strings.Contains(e.Src, "\r\n") {
		e.Newline = "\r\n"
	}
	return e
}

// Entries is what a format does to the entries of one document.
type Entries interface {
	// Find returns the number of the entry that a change is for and where it
	// stands; -1 where there is none.
	Find(c format.Change) (number, offset int)
	// Remove takes out an entry with its note.
	Remove(number int, c format.Change) error
	// Rename changes its key.
	Rename(number int, c format.Change) error
	// Set changes its message, note and state, each where the change has one.
	Set(number int, c format.Change) error
	// Insert adds an entry, which is made of the change.
	Insert(c format.Change, entry *catalog.Entry) error
}

// Make makes changes one after the other and has their losses told. An error is
// a *format.EditError.
func (e *Editor) Make(changes []format.Change, t *format.Teller, entries Entries) error {
	for _, c := range changes {
		if err := change(c, t, entries); err != nil {
			return &format.EditError{Key: c.Key, Err: err}
		}
	}
	return nil
}

func change(c format.Change, t *format.Teller, entries Entries) error {
	number, offset := entries.Find(c)
	t.Entry = &catalog.Entry{Key: c.Key, Offset: offset}
	switch {
	case number < 0 && (c.Op != format.Set || c.Message == nil):
		return format.ErrNoEntry
	case number < 0:
		t.Entry.Offset = 0
		t.Entry.Message = *c.Message
		if c.Note != nil {
			t.Entry.Note = *c.Note
		}
		if c.State != nil {
			t.Entry.State = *c.State
		}
		return entries.Insert(c, t.Entry)
	case c.Op == format.Remove:
		return entries.Remove(number, c)
	case c.Op == format.Rename:
		return entries.Rename(number, c)
	}
	return entries.Set(number, c)
}

// Apply is Make with the bytes that come of it; see format.Document.
func (e *Editor) Apply(changes []format.Change, t *format.Teller, entries Entries) ([]byte, []catalog.Loss, error) {
	if err := e.Make(changes, t, entries); err != nil {
		return nil, nil, err
	}
	return e.Done(t)
}

// Done returns the bytes of the file with what was replaced.
func (e *Editor) Done(t *format.Teller) ([]byte, []catalog.Loss, error) {
	out, err := e.coded.Patch(e.Replacements)
	return out, t.Losses, err
}

// Like returns the document whose shape new entries take, where it is one of the
// same format; else the zero value.
func Like[D format.Document](changes []format.Change) (like D) {
	for i := range changes {
		if d, ok := changes[i].Like.(D); ok {
			return d
		}
	}
	return like
}

// Replace puts a text in place of a stretch.
func (e *Editor) Replace(from, to int, text string) {
	e.Replacements = append(e.Replacements, format.Replacement{Start: from, End: to, Text: text})
}

// Line returns where the line of an offset begins.
func (e *Editor) Line(offset int) int { return strings.LastIndexByte(e.Src[:offset], '\n') + 1 }

// Indent returns the white space that the line of an offset begins with, up to
// the offset; none for the place of something that is not there.
func (e *Editor) Indent(offset int) string {
	if offset < 0 {
		return ""
	}
	line := e.Src[e.Line(offset):offset]
	return line[:len(line)-len(strings.TrimLeft(line, " \t"))]
}

// Lines widens a stretch to whole lines where nothing else stands on them, and
// says whether it did.
func (e *Editor) Lines(from, to int) (start, end int, whole bool) {
	start, end = e.Line(from), to
	for end < len(e.Src) && strings.IndexByte(" \t\r", e.Src[end]) >= 0 {
		end++
	}
	if strings.TrimSpace(e.Src[start:from]) != "" || end >= len(e.Src) || e.Src[end] != '\n' {
		return from, to, false
	}
	return start, end + 1, true
}

// Cut takes out a stretch, with its lines where it has them to itself.
func (e *Editor) Cut(from, to int) {
	start, end, _ := e.Lines(from, to)
	e.Replace(start, end, "")
}

// Gap is a place for a new entry.
type Gap struct {
	// At is the offset, Indent what its line begins with.
	At     int
	Indent string
	// Before says that the entry goes before what stands there, on lines of its
	// own; else it goes after it, after a line end.
	Before bool
}

// Gap finds the place of a new entry among n that stand at places: after the
// neighbour, before the first where the change names none, else after the last.
// Where there are none it is at the end, which is -1 where the file has no place
// for entries: then it is false.
func (e *Editor) Gap(c format.Change, neighbour, n int, place func(number int) Span, end int, indent string) (Gap, bool) {
	switch {
	case neighbour < 0 && n > 0 && c.After == "":
		first := place(0).From
		return Gap{first - len(e.Indent(first)), e.Indent(first), true}, true
	case neighbour < 0 && n > 0:
		neighbour = n - 1
		fallthrough
	case neighbour >= 0:
		s := place(neighbour)
		return Gap{s.To, e.Indent(s.From), false}, true
	case end < 0:
		return Gap{}, false
	}
	start := e.Line(end)
	if strings.TrimSpace(e.Src[start:end]) != "" {
		e.Replace(end, end, e.Newline)
		start = end
	}
	return Gap{start, indent, true}, true
}

// Put puts an entry into its place. The text is its lines with their indent; a
// line end at its end does not matter.
func (e *Editor) Put(g Gap, text string) {
	text = strings.TrimRight(text, "\r\n")
	if g.Before {
		text += e.Newline
	} else {
		text = e.Newline + text
	}
	e.Replace(g.At, g.At, text)
}

package format

import (
	"strings"

	"zelvik/catalog"
)

// Editor gathers what an edit replaces in a document's text. The editors of
// the formats are built on it.
type Editor struct {
	// Src is the text, Newline the line end that it uses.
	Src, Newline string
	Replacements []Replacement
	Losses       []catalog.Loss
}

// NewEditor begins the edit of a text.
func NewEditor(src string) Editor {
	e := Editor{Src: src, Newline: "\n"}
	if strings.Contains(src, "\r\n") {
		e.Newline = "\r\n"
	}
	return e
}

// Make makes changes one after the other. An error is an *EditError.
func (e *Editor) Make(changes []Change, change func(Change) error) error {
	for _, c := range changes {
		if err := change(c); err != nil {
			return &EditError{Key: c.Key, Err: err}
		}
	}
	return nil
}

// Replace puts a text in place of a stretch.
func (e *Editor) Replace(from, to int, text string) {
	e.Replacements = append(e.Replacements, Replacement{Start: from, End: to, Text: text})
}

// Indent gives the white space that the line of an offset begins with, up to
// the offset; none for the place of something that is not there.
func (e *Editor) Indent(offset int) string {
	if offset < 0 {
		return ""
	}
	start := strings.LastIndexByte(e.Src[:offset], '\n') + 1
	line := e.Src[start:offset]
	return line[:len(line)-len(strings.TrimLeft(line, " \t"))]
}

// Lines widens a stretch to whole lines where nothing else stands on them, and
// says whether it did.
func (e *Editor) Lines(from, to int) (start, end int, whole bool) {
	start, end = strings.LastIndexByte(e.Src[:from], '\n')+1, to
	for end < len(e.Src) && strings.IndexByte(" \t\r", e.Src[end]) >= 0 {
		end++
	}
	if strings.TrimSpace(e.Src[start:from]) != "" || end >= len(e.Src) || e.Src[end] != '\n' {
		return from, to, false
	}
	return start, end + 1, true
}

// Remove takes out a stretch, with its lines where it has them to itself.
func (e *Editor) Remove(from, to int) {
	start, end, _ := e.Lines(from, to)
	e.Replace(start, end, "")
}

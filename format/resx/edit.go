package resx

import (
	"errors"
	"strings"

	"zelvik/catalog"
	"zelvik/format"
	"zelvik/format/doc"
	"zelvik/format/xmlscan"
)

// Edit makes changes; see format.Document.
func (d *document) Edit(changes []format.Change) ([]byte, []catalog.Loss, error) {
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
		offset = e.slots[number].place.From
	}
	return number, offset
}

// Remove takes out an entry.
func (e *editor) Remove(i int, _ format.Change) error {
	e.Cut(e.slots[i].place.From, e.slots[i].place.To)
	return nil
}

// Rename changes its name.
func (e *editor) Rename(i int, c format.Change) error {
	e.Replace(e.slots[i].name.From, e.slots[i].name.To, xmlscan.EscapeAttribute(c.NewKey))
	return nil
}

// Set changes value and comment: the value in a CDATA section where it stands
// in one.
func (e *editor) Set(i int, c format.Change) error {
	s := e.slots[i]
	if c.Message != nil {
		raw := e.w.value(nil, &catalog.Entry{Key: c.Key, Message: *c.Message})
		text := e.escape(raw)
		if !s.value.There() {
			e.SetField(s.value, "value", text, nil, s.startTo, e.Indent(s.place.From)+"  ")
		} else if old := e.Src[s.value.Content.From:s.value.Content.To]; strings.HasPrefix(old, "<![CDATA[") && strings.HasSuffix(old, "]]>") && !strings.Contains(raw, "]]>") {
			text = "<![CDATA[" + e.lines(raw) + "]]>"
		}
		e.SetContent(s.value, "value", text, e.respell)
	}
	if c.Note != nil && *c.Note != e.Catalog.Entries[i].Note && (s.comment.There() || s.value.There()) {
		note := e.escape(doc.Legal(&e.w.Teller, *c.Note))
		e.SetField(s.comment, "comment", note, e.respell, s.value.Whole.To, e.Indent(s.value.Whole.From))
	}
	return nil
}

func (e *editor) respell(raw string) string { return xmlscan.Respell(raw, e.escape) }

func (e *editor) escape(text string) string { return e.lines(xmlscan.EscapeText(text)) }

// lines returns the text with the file's line ends.
func (e *editor) lines(text string) string {
	if e.Newline == "\n" {
		return text
	}
	return strings.ReplaceAll(text, "\n", e.Newline)
}

// Insert adds an entry after its neighbour.
func (e *editor) Insert(c format.Change, entry *catalog.Entry) error {
	gap, ok := e.Gap(c, e.Catalog.At(c.After), len(e.slots), func(i int) doc.Span { return e.slots[i].place }, e.rootEnd, "  ")
	if !ok {
		return errors.New("the file has no </root>")
	}
	e.Put(gap, string(e.w.data(nil, nil, entry, gap.Indent, e.Newline)))
	return nil
}

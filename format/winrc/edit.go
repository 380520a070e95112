package winrc

import (
	"cmp"
	"errors"
	"fmt"
	"slices"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/format"
	"zelvik/format/doc"
)

// Edit makes changes; see format.Document.
func (d *document) Edit(changes []format.Change) ([]byte, []catalog.Loss, error) {
	e := &editor{document: d, Editor: doc.NewEditor(d.Coded)}
	e.w = writer{newline: e.Newline}
	if err := e.Make(changes, &e.w.Teller, e); err != nil {
		return nil, nil, err
	}
	if err := e.place(); err != nil {
		return nil, nil, err
	}
	return e.Done(&e.w.Teller)
}

type editor struct {
	*document
	doc.Editor
	w      writer
	copies []*copied
	// fresh are the texts of cultures that have no table yet, in order.
	fresh []*newTable
	// found is the place of the text that a change is for.
	found slot
}

// newTable is one that is made, with its entries.
type newTable struct {
	tag     culture.Tag
	entries string
}

// copied is a menu or dialog that a culture gets as its own, with its geometry.
type copied struct {
	block
	to   culture.Tag
	with []format.Replacement // in the block's text
}

// caption puts a text of a menu or dialog into the culture's own copy of it; it
// is false where the key is none of such a text.
func (e *editor) caption(c format.Change, tag culture.Tag) bool {
	for _, source := range e.List {
		s, ok := e.slot(source.Culture, c.Key)
		if !ok || !s.fixed {
			continue
		}
		for _, b := range e.blocks {
			if s.key.from < b.from || s.key.from >= b.to {
				continue
			}
			i := slices.IndexFunc(e.copies, func(have *copied) bool { return have.block == b && have.to == tag })
			if i < 0 {
				i = len(e.copies)
				e.copies = append(e.copies, &copied{b, tag, nil})
			}
			from := s.value.from
			if e.Src[from] != '"' { // L"..."
				from++
			}
			e.copies[i].with = append(e.copies[i].with, format.Replacement{Start: from - b.from, End: s.value.to - b.from, Text: e.w.value(*c.Message)})
			return true
		}
	}
	return false
}

// place writes the copies, each after what its culture has.
func (e *editor) place() error {
	texts, ends := map[culture.Tag]string{}, map[culture.Tag]int{}
	var order []culture.Tag
	for _, c := range e.copies {
		text, err := format.Patch([]byte(e.Src[c.from:c.block.to]), c.with)
		if err != nil {
			return err
		}
		if _, known := texts[c.to]; !known {
			order = append(order, c.to)
		}
		texts[c.to] += e.Newline + string(text) + e.Newline
	}
	for _, t := range e.fresh {
		if _, known := texts[t.tag]; !known {
			order = append(order, t.tag)
		}
		texts[t.tag] = e.Newline + "STRINGTABLE" + e.Newline + "BEGIN" + e.Newline + t.entries + "END" + e.Newline + texts[t.tag]
	}
	for _, t := range e.tables {
		ends[t.tag] = max(ends[t.tag], t.end+len("END"))
		if strings.HasPrefix(e.Src[t.end:], "}") {
			ends[t.tag] = t.end + 1
		}
	}
	for _, b := range e.blocks {
		ends[b.tag] = max(ends[b.tag], b.to)
	}
	for _, tag := range order {
		if end := ends[tag]; end > 0 {
			e.Replace(end, end, e.Newline+strings.TrimSuffix(texts[tag], e.Newline))
		} else if err := e.section(tag, strings.TrimPrefix(texts[tag], e.Newline)); err != nil {
			return err
		}
	}
	return nil
}

var errControl = errors.New("it belongs to a menu or dialog; edit that in the file")

func (e *editor) tag(c format.Change) culture.Tag { return cmp.Or(c.Culture, e.List[0].Culture) }

// Find finds the place of a text; the number is that of its table.
func (e *editor) Find(c format.Change) (number, offset int) {
	found, ok := e.slot(e.tag(c), c.Key)
	if e.found = found; !ok {
		return -1, 0
	}
	return found.table, found.key.from
}

// Remove takes out a text with its note.
func (e *editor) Remove(int, format.Change) error {
	if e.found.fixed {
		return errControl
	}
	from := e.found.key.from
	if e.found.note.There() {
		from = e.found.note.From
	}
	e.Cut(from, e.found.value.to)
	return nil
}

// Rename changes the name of a text.
func (e *editor) Rename(_ int, c format.Change) error {
	if e.found.fixed {
		return errControl
	}
	e.Replace(e.found.key.from, e.found.key.to, e.w.name(c.NewKey))
	return nil
}

// Set changes text and note.
func (e *editor) Set(_ int, c format.Change) error {
	s := e.found
	if c.Message != nil {
		text := e.w.value(*c.Message)
		from := s.value.from
		if e.Src[from] != '"' { // L"..."
			from++
		}
		e.Splice(from, s.value.to, text, func(raw string) string {
			p := &parser{src: raw, Reader: format.NewReader(raw)}
			text := ""
			for p.next() {
				if p.kind != str {
					return raw
				}
				text += p.text()
			}
			return string(appendQuoted(nil, text))
		})
	}
	if c.Note != nil {
		e.note(s, *c.Note)
	}
	return nil
}

// note changes, adds or removes the comment before an entry.
func (e *editor) note(s slot, note string) {
	if s.fixed {
		e.w.Lose("note", "the note", "none; controls have no notes")
		return
	}
	indent := e.Indent(s.key.from)
	var lines []string
	for line := range strings.SplitSeq(e.w.Comment(note), "\n") {
		lines = append(lines, strings.TrimRight("// "+e.w.line(line), " "))
	}
	text := strings.Join(lines, e.Newline+indent)
	switch {
	case s.note.There() && note == "":
		e.Cut(s.note.From, s.note.To)
	case s.note.There():
		e.Replace(s.note.From, s.note.To, text)
	case note != "" && strings.TrimSpace(e.Src[e.Line(s.key.from):s.key.from]) == "":
		e.Replace(s.key.from, s.key.from, text+e.Newline+indent)
	case note != "":
		e.Replace(s.key.from, s.key.from, e.Newline+indent+text+e.Newline+indent)
	}
}

// Insert adds a text after its neighbour, or at the end of the culture's last
// table; a culture without a table gets one.
func (e *editor) Insert(c format.Change, entry *catalog.Entry) error {
	tag := e.tag(c)
	if e.caption(c, tag) {
		return nil
	}
	name := e.w.name(c.Key)
	if after, ok := e.slot(tag, c.After); ok && !after.fixed {
		indent := e.Indent(after.key.from)
		text := string(e.w.entry(nil, nil, entry, name, indent))
		e.Replace(after.value.to, after.value.to, e.Newline+text)
		return nil
	}
	for i := len(e.tables) - 1; i >= 0; i-- {
		if t := e.tables[i]; t.tag == tag {
			at, indent := t.to, "    "
			if c.After == "" {
				at = t.begin
			}
			text := string(e.w.entry(nil, nil, entry, name, indent))
			e.Replace(at, at, e.Newline+text)
			if t.entries == 0 || c.After == "" {
				if rest := strings.TrimLeft(e.Src[at:], " \t\r"); !strings.HasPrefix(rest, "\n") && rest != "" {
					e.Replace(at, at, e.Newline+indent)
				}
			}
			return nil
		}
	}
	text := string(e.w.entry(nil, nil, entry, name, "    ")) + e.Newline
	if i := slices.IndexFunc(e.fresh, func(t *newTable) bool { return t.tag == tag }); i >= 0 {
		e.fresh[i].entries += text
		return nil
	}
	e.fresh = append(e.fresh, &newTable{tag, text})
	_, err := e.heading(tag)
	return err
}

// section adds statements at the end of the file, under a culture's LANGUAGE.
func (e *editor) section(tag culture.Tag, text string) error {
	heading, err := e.heading(tag)
	if err != nil {
		return err
	}
	text = e.Newline + heading + e.Newline + text
	if e.Src != "" && !strings.HasSuffix(e.Src, "\n") {
		text = e.Newline + text
	}
	e.Replace(len(e.Src), len(e.Src), text)
	return nil
}

// heading is the statement that begins a culture's section, in names where the file
// has them.
func (e *editor) heading(tag culture.Tag) (string, error) {
	language, sub, exact, ok := numbersOf(tag)
	for _, c := range e.List {
		if l, s, _, _ := numbersOf(c.Culture); !exact && c.Culture != "" && l == language && s == sub {
			ok = false // its texts would be those of another culture
		}
	}
	if !ok && tag != "" {
		return "", errors.New("Windows has no number for the culture " + string(tag))
	}
	for _, l := range languages {
		if l.number == language && sub == 1 && strings.Contains(e.Src, "SUBLANG_") {
			return "LANGUAGE LANG_" + l.name + ", SUBLANG_DEFAULT", nil
		}
	}
	return fmt.Sprintf("LANGUAGE %d, %d", language, sub), nil
}

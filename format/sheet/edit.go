package sheet

import (
	"cmp"
	"errors"
	"slices"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/format"
	"zelvik/format/doc"
	"zelvik/message"
)

// op is one change of the table.
type op struct {
	kind        opKind
	row, column int
	text        string
	cells       []string // of a row that is added after row
}

type opKind uint8

const (
	setCell opKind = iota
	addRow
	dropRow
)

// Edit makes changes; see format.Document. In a workbook everything but the
// changed cells keeps its content and style.
func (d *document) Edit(changes []format.Change) ([]byte, []catalog.Loss, error) {
	if len(changes) == 0 {
		return d.data, nil, nil
	}
	if d.columns.key < 0 || len(d.columns.cultures) == 0 {
		return nil, nil, errors.New("the table has no column for keys or for a culture")
	}
	e := &editor{document: d, Editor: doc.NewEditor(d.Coded), added: map[culture.Tag]int{}}
	e.w = writer{spelling: d.spelling, workbook: d.book != nil}
	if err := e.Make(changes, &e.w.Teller, e); err != nil {
		return nil, nil, err
	}
	if d.book != nil {
		out, err := d.book.rework(e.ops)
		return out, e.w.Losses, err
	}
	e.apply()
	return e.Done(&e.w.Teller)
}

type editor struct {
	*document
	doc.Editor
	w   writer
	ops []op
	// added are columns for cultures that the table did not have.
	added map[culture.Tag]int
	width int
	// found are the rows that a change is for.
	found []int
}

// column returns the column of a culture, a new one where there is none.
func (e *editor) column(tag culture.Tag) int {
	if tag == "" {
		return e.columns.cultures[0].at
	}
	for _, c := range e.columns.cultures {
		if c.tag == tag {
			return c.at
		}
	}
	if at, ok := e.added[tag]; ok {
		return at
	}
	e.width = max(e.width, len(e.rows[0].cells))
	at := e.width
	e.width++
	e.added[tag] = at
	e.ops = append(e.ops, op{kind: setCell, row: 0, column: at, text: heading(tag)})
	return at
}

func (e *editor) put(r, c int, text string) {
	if e.at(r, c) != text || c >= len(e.rows[r].cells) {
		e.ops = append(e.ops, op{kind: setCell, row: r, column: c, text: text})
	}
}

// Find finds the rows of a key, of which it gives the first.
func (e *editor) Find(c format.Change) (number, offset int) {
	rows, ok := e.rowsOf(c.Key)
	if e.found = rows; !ok {
		return -1, 0
	}
	return rows[0], e.offset(rows[0])
}

// Rename changes the cells that hold the key.
func (e *editor) Rename(_ int, c format.Change) error {
	for _, r := range e.found {
		if e.at(r, e.columns.key) != "" {
			e.put(r, e.columns.key, e.w.legal(c.NewKey))
		}
	}
	return nil
}

// Remove takes out the rows, or where others have texts in them those of one
// culture.
func (e *editor) Remove(_ int, c format.Change) error {
	one := c.Culture != "" && c.Culture != e.columns.cultures[0].tag && e.others(e.found, c.Culture)
	for _, r := range e.found {
		if one {
			e.put(r, e.column(c.Culture), "")
		} else {
			e.ops = append(e.ops, op{kind: dropRow, row: r})
		}
	}
	return nil
}

// Set changes note, state and text.
func (e *editor) Set(first int, c format.Change) error {
	if c.Note != nil && *c.Note != e.at(first, e.columns.note) {
		if e.columns.note < 0 {
			e.w.Lose("note", "the note", "none; the table has no column for notes")
		} else {
			e.put(first, e.columns.note, e.w.legal(*c.Note))
		}
	}
	if c.State != nil {
		e.state(first, c)
	}
	if c.Message != nil {
		e.set(e.found, c)
	}
	return nil
}

// others reports whether a key has texts in other cultures.
func (e *editor) others(rows []int, tag culture.Tag) bool {
	for _, c := range e.columns.cultures {
		for _, r := range rows {
			if c.tag != tag && e.at(r, c.at) != "" {
				return true
			}
		}
	}
	return false
}

func (e *editor) state(r int, c format.Change) {
	for _, known := range e.columns.cultures {
		if known.tag == c.Culture && known.state >= 0 {
			word := c.State.String()
			if *c.State == catalog.Unstated {
				word = ""
			}
			e.put(r, known.state, word)
			return
		}
	}
	e.w.Lose("state", "the state "+c.State.String(), "none; the table has no column for states")
}

// set changes the text of a key in a culture, or its forms row by row.
func (e *editor) set(rows []int, c format.Change) {
	at := e.column(c.Culture)
	if e.at(rows[0], e.columns.form) == "" {
		e.put(rows[0], at, e.w.text(*c.Message, *c.Message))
		return
	}
	forms := e.w.rows(*c.Message)
	texts := map[string]string{}
	if forms == nil { // one text for all numbers
		if c.Message.Choice != nil {
			e.w.Lose("plural", "the variants, which have no rows of their own", "the text of the variant other")
		}
		texts[message.Default] = e.w.text(message.Message{Pattern: c.Message.Main()}, *c.Message)
	} else {
		for _, v := range c.Message.Choice.Variants {
			texts[v.Keys[0]] = e.w.text(message.Message{Pattern: bare(*c.Message, v.Pattern)}, *c.Message)
		}
	}
	for _, r := range rows {
		form := e.at(r, e.columns.form)
		e.put(r, at, texts[form])
		delete(texts, form)
	}
	last := rows[len(rows)-1]
	for _, form := range append(slices.Clone(culture.Categories), forms...) {
		if text, ok := texts[form]; ok {
			e.addRow(last, map[int]string{e.columns.key: c.Key, e.columns.form: form, at: text})
			delete(texts, form)
		}
	}
}

// addRow plans a row after another.
func (e *editor) addRow(after int, cells map[int]string) {
	list := make([]string, max(len(e.rows[0].cells), e.width))
	for at, text := range cells {
		if at >= 0 {
			list[at] = text
		}
	}
	e.ops = append(e.ops, op{kind: addRow, row: after, cells: list})
}

// Insert adds a row after those of the neighbour, or one for each form.
func (e *editor) Insert(c format.Change, entry *catalog.Entry) error {
	at := e.column(c.Culture)
	after := len(e.rows) - 1
	if rows, ok := e.rowsOf(c.After); ok {
		after = slices.Max(rows)
	} else if c.After == "" {
		after = 0
	}
	cells := map[int]string{e.columns.key: e.w.legal(c.Key)}
	if entry.Note != "" {
		if e.columns.note < 0 {
			e.w.Lose("note", "the note", "none; the table has no column for notes")
		}
		cells[e.columns.note] = e.w.legal(entry.Note)
	}
	forms := e.w.rows(*c.Message)
	if forms == nil || e.columns.form < 0 {
		cells[at] = e.w.text(*c.Message, *c.Message)
		e.addRow(after, cells)
		return nil
	}
	for _, v := range c.Message.Choice.Variants {
		cells[e.columns.form], cells[at] = v.Keys[0], e.w.text(message.Message{Pattern: bare(*c.Message, v.Pattern)}, *c.Message)
		e.addRow(after, cells)
		delete(cells, e.columns.note)
	}
	return nil
}

// apply turns the changes into replacements of the text.
func (e *editor) apply() {
	beyond := map[int]map[int]string{}
	for _, o := range e.ops {
		switch o.kind {
		case setCell:
			cells := places(e.Src, e.rows[o.row], e.sep)
			if o.column >= len(cells) {
				if beyond[o.row] == nil {
					beyond[o.row] = map[int]string{}
				}
				beyond[o.row][o.column] = o.text
				continue
			}
			c := cells[o.column]
			text := string(appendCell(nil, e.guarded(o), e.sep))
			if c.quoted && !strings.HasPrefix(text, `"`) { // the file's own way
				text = `"` + text + `"`
			}
			e.Replace(c.from, c.to, text)
		case dropRow:
			r := e.rows[o.row]
			e.Replace(r.from, r.to+lineEnd(e.Src[r.to:]), "")
		case addRow:
			var out []byte
			for i, text := range o.cells {
				if i > 0 {
					out = append(out, e.sep)
				}
				out = appendCell(out, guard(text), e.sep)
			}
			to := e.rows[o.row].to
			e.Replace(to, to, e.Newline+string(out))
		}
	}
	for r, cells := range beyond {
		have := len(e.rows[r].cells)
		last := have
		for c := range cells {
			last = max(last, c+1)
		}
		var out []byte
		for c := have; c < last; c++ {
			out = appendCell(append(out, e.sep), e.guarded(op{row: r, text: cells[c]}), e.sep)
		}
		e.Replace(e.rows[r].to, e.rows[r].to, string(out))
	}
	// What goes after a row is put there after the row's own new cells.
	slices.SortStableFunc(e.Replacements, func(a, b format.Replacement) int {
		return cmp.Compare(boolean(strings.HasPrefix(a.Text, e.Newline)), boolean(strings.HasPrefix(b.Text, e.Newline)))
	})
}

func boolean(b bool) int {
	if b {
		return 1
	}
	return 0
}

func (e *editor) guarded(o op) string {
	if o.row == 0 {
		return o.text
	}
	return guard(o.text)
}

package table

import (
	"path"
	"slices"
	"strings"

	"zelvik/catalog"
	"zelvik/catalog/status"
	"zelvik/culture"
	"zelvik/format"
	"zelvik/message"
	"zelvik/project"
	"zelvik/verify"
)

// Table is a family with its keys down and its cultures across.
type Table struct {
	Family   string        `json:"family"`
	Format   string        `json:"format"`
	Source   culture.Tag   `json:"source"`
	Cultures []culture.Tag `json:"cultures"`
	Rows     []TableRow    `json:"rows"`

	family *project.Family
}

// TableRow is one key.
type TableRow struct {
	Key   string                  `json:"key"`
	Note  string                  `json:"note,omitempty"`
	Texts map[culture.Tag]*string `json:"texts"`
	// States are those of the cells that want a look, by culture.
	States map[culture.Tag]CellState `json:"states,omitempty"`

	id string
}

// CellState is what is to be said of one cell.
type CellState string

// The states of cells.
const (
	CellMissing CellState = "missing" // no text, and no parent answers
	CellParent  CellState = "parent"  // no text of its own; a parent answers
	CellEmpty   CellState = "empty"   // empty where the source is not
	CellWaiting CellState = "waiting" // put there to be translated, and not touched since
	CellCopied  CellState = "copied"  // the source's own text
	CellMoved   CellState = "moved"   // the source changed after it
	CellDraft   CellState = "draft"   // made by a machine, not looked at
)

// CellStates lists the states, with the mark that shows each without colour.
var CellStates = []struct {
	State CellState
	Mark  string
	Says  string
}{
	{CellMissing, "-", "no text"},
	{CellParent, "^", "a parent answers"},
	{CellEmpty, "_", "empty"},
	{CellWaiting, "*", "put there to be translated"},
	{CellCopied, "=", "the source's own text"},
	{CellMoved, "~", "the source changed after it"},
	{CellDraft, "?", "a draft that nobody has looked at"},
}

// Mark returns a state's mark, "" for a cell that is as it should be.
func (s CellState) Mark() string {
	for _, known := range CellStates {
		if known.State == s {
			return known.Mark
		}
	}
	return ""
}

// Filter picks the rows of a table. What is empty picks all.
type Filter struct {
	// Keys is a pattern of path.Match, or a part of the key.
	Keys string
	// Text is a part of any text, in whatever case.
	Text string
	// States are those of which a row has at least one.
	States []CellState
	// Cultures are the columns beside the source.
	Cultures []culture.Tag
}

// column reports whether a culture is asked for, or answers for one that has no file.
func (filter *Filter) column(f *project.Family, tag culture.Tag) bool {
	return slices.ContainsFunc(filter.Cultures, func(asked culture.Tag) bool {
		return asked == tag || f.Member(asked) == nil && project.Answers(tag, []culture.Tag{asked})
	})
}

// Of makes the tables of all families.
func Of(w *project.Workspace, filter Filter) ([]Table, error) {
	if err := w.Recall(); err != nil {
		return nil, err
	}
	list := []Table{}
	for _, f := range w.Families {
		t := Table{Family: f.Name, Format: f.Format.Name, Source: f.Source, Rows: []TableRow{}, family: f}
		for _, m := range f.Members {
			if filter.Cultures == nil || m.Culture == f.Source || filter.column(f, m.Culture) {
				t.Cultures = append(t.Cultures, m.Culture)
			}
		}
		v := w.Verifiable(f)
		for _, tag := range v.Absent() {
			if filter.Cultures == nil || slices.Contains(filter.Cultures, tag) {
				t.Cultures = append(t.Cultures, tag)
			}
		}
		seen := map[string]bool{}
		for _, m := range f.Members {
			for i := range m.Catalog.Entries {
				e := &m.Catalog.Entries[i]
				if seen[e.ID()] || !fits(e.Key, filter.Keys) {
					continue
				}
				seen[e.ID()] = true
				if row, ok := t.row(v, e, filter); ok {
					t.Rows = append(t.Rows, row)
				}
			}
		}
		list = append(list, t)
	}
	return list, nil
}

// fits reports whether a key has a part, or matches a pattern.
func fits(key, pattern string) bool {
	if strings.ContainsAny(pattern, "*?[") {
		ok, err := path.Match(pattern, key)
		return ok && err == nil
	}
	return strings.Contains(key, pattern)
}

// row makes the row of an entry, and says whether the filter picks it.
func (t *Table) row(v *verify.Family, e *catalog.Entry, filter Filter) (TableRow, bool) {
	row := TableRow{Key: strings.ReplaceAll(e.ID(), "\x00", " "), Note: e.Note, Texts: map[culture.Tag]*string{}, id: e.ID()}
	source := t.family.SourceMember()
	var s *catalog.Entry
	if source != nil {
		s = source.Catalog.Find(e.ID())
	}
	text, state := filter.Text == "", len(filter.States) == 0
	for _, tag := range t.Cultures {
		m := t.member(tag)
		own := m.Catalog.Find(e.ID())
		if row.Texts[tag] = nil; own != nil {
			shown := own.Message.String()
			row.Texts[tag] = &shown
			text = text || strings.Contains(strings.ToLower(shown), strings.ToLower(filter.Text))
		}
		how := cells[status.Of(&t.family.Family, m, s, own, v.Names)]
		if how == "" {
			continue
		}
		if row.States == nil {
			row.States = map[culture.Tag]CellState{}
		}
		row.States[tag] = how
		state = state || slices.Contains(filter.States, how)
	}
	return row, text && state
}

// cells are the states of cells by the status of their texts.
var cells = map[status.Status]CellState{
	status.Missing: CellMissing, status.Answered: CellParent, status.Empty: CellEmpty, status.Waiting: CellWaiting,
	status.Copied: CellCopied, status.Moved: CellMoved, status.Draft: CellDraft,
}

// member returns the family's member of a column; one without texts where the culture
// has no file.
func (t *Table) member(tag culture.Tag) *catalog.Member {
	if m := t.family.Member(tag); m != nil {
		return m
	}
	return verify.NoFile(tag)
}

// Message returns the message in a cell, or nil.
func (t *Table) Message(row *TableRow, tag culture.Tag) *message.Message {
	if e := t.member(tag).Catalog.Find(row.id); e != nil {
		return &e.Message
	}
	return nil
}

// Sheet returns the table's rows as catalogs for a format that holds all
// cultures, the source first.
func (t *Table) Sheet(target *format.Format) ([]byte, []catalog.Loss) {
	var list []*catalog.Catalog
	for _, tag := range t.Cultures {
		from := t.member(tag).Catalog
		c := &catalog.Catalog{Culture: tag}
		for _, row := range t.Rows {
			if e := from.Find(row.id); e != nil {
				c.Add(*e)
			}
		}
		list = append(list, c)
	}
	return target.Join(list)
}

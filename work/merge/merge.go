// Package merge joins two people's changes of one string file, key by key.
package merge

import (
	"bytes"
	"fmt"
	"slices"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/finding"
	"zelvik/format"
	"zelvik/message"
)

// Result is a merged file.
type Result struct {
	Data      []byte
	Conflicts []Conflict
	// Untaken says what of a side besides its entries is not in the result, ""
	// for nothing: comments between entries, order, layout.
	Untaken string
	// Losses are what the format could not say of the entries.
	Losses []catalog.Loss
}

// Conflict is an entry that both sides changed in ways that exclude one
// another. Ours stands in the result, and theirs beside it.
type Conflict struct {
	Key     string      `json:"key"`
	Culture culture.Tag `json:"culture,omitempty"`
	// What is edited, added, removed here, removed there, or renamed.
	What   string `json:"what"`
	Base   string `json:"base"`
	Ours   string `json:"ours"`
	Theirs string `json:"theirs"`
}

// DamagedError says that a version cannot be read whole, so that merging it
// could lose texts.
type DamagedError struct {
	// Side is base, ours or theirs.
	Side    string
	Finding finding.Finding
}

// Error returns one sentence.
func (e *DamagedError) Error() string {
	return fmt.Sprintf("%s:%d:%d: %s; %s, then merge", e.Side, e.Finding.Line, e.Finding.Column, e.Finding.Message, e.Finding.Fix)
}

// Merge merges theirs into ours, both of which came from base. Where the lines
// of the files can be merged and say what the entries should, that is the
// result, with everybody's comments and order; else the changes of one side
// are made in the file of the other. An error leaves nothing merged.
func Merge(f *format.Format, base, ours, theirs []byte) (*Result, error) {
	switch {
	case bytes.Equal(ours, theirs), bytes.Equal(base, theirs):
		return &Result{Data: ours}, nil
	case bytes.Equal(base, ours):
		return &Result{Data: theirs}, nil
	}
	var documents [3]format.Document
	for i, data := range [][]byte{base, ours, theirs} {
		document, findings := f.Parse(data)
		if len(data) == 0 { // a file that both sides added has no base
			findings = nil
		}
		for _, found := range findings {
			if format.Damage(found) {
				return nil, &DamagedError{[]string{"base", "ours", "theirs"}[i], found}
			}
		}
		documents[i] = document
	}
	m := &merger{format: f}
	m.plan(documents[0], documents[1], documents[2])
	if len(m.conflicts) == 0 {
		if lines, ok := Lines(base, ours, theirs); ok && m.says(lines) {
			return &Result{Data: lines}, nil
		}
	}
	return m.byKey(documents, base, ours, theirs)
}

// merger holds what the result should say, and what each side changed.
type merger struct {
	format    *format.Format
	want      []map[string]catalog.Entry // by catalog and ID
	cultures  []culture.Tag
	fromOurs  []format.Change // what makes theirs the result
	into      []format.Change // what makes ours the result
	conflicts []Conflict
	marks     []mark
}

// mark is a conflict's mark in the result.
type mark struct {
	conflict Conflict
	theirs   *catalog.Entry
}

// says reports whether a file reads as the result should.
func (m *merger) says(data []byte) bool {
	document, findings := m.format.Parse(data)
	if slices.ContainsFunc(findings, func(f finding.Finding) bool { return format.Damage(f) || f.Rule == "key-duplicate" }) {
		return false
	}
	catalogs := document.Catalogs()
	if len(catalogs) != len(m.want) {
		return false
	}
	for i, c := range catalogs {
		n := 0
		for j := range c.Entries {
			want, ok := m.want[i][c.Entries[j].ID()]
			if !ok || !same(&want, &c.Entries[j]) {
				return false
			}
			n++
		}
		if n != len(m.want[i]) {
			return false
		}
	}
	return true
}

// catalogOf returns the catalog of a document with a culture, or an empty one.
func catalogOf(d format.Document, tag culture.Tag, at int) *catalog.Catalog {
	list := d.Catalogs()
	for _, c := range list {
		if c.Culture == tag {
			return c
		}
	}
	if len(list) == 1 && at == 0 { // a file of one culture, which may state it or not
		return list[0]
	}
	return &catalog.Catalog{Culture: tag}
}

// plan finds out what the result should say.
func (m *merger) plan(base, ours, theirs format.Document) {
	for _, d := range []format.Document{ours, theirs} {
		for _, c := range d.Catalogs() {
			if len(d.Catalogs()) == 1 && len(m.cultures) > 0 || slices.Contains(m.cultures, c.Culture) {
				continue
			}
			m.cultures = append(m.cultures, c.Culture)
		}
	}
	var all []*sides
	for i, tag := range m.cultures {
		s := &sides{merger: m, tag: tag, base: catalogOf(base, tag, i), ours: catalogOf(ours, tag, i), theirs: catalogOf(theirs, tag, i), want: map[string]catalog.Entry{}}
		s.merge()
		m.want = append(m.want, s.want)
		all = append(all, s)
	}
	for _, c := range m.conflicts {
		if c.What == "removed here" || c.What == "removed there" {
			for _, s := range all {
				s.keep(c)
			}
		}
	}
}

// same reports whether two entries say the same, wherever they stand.
func same(a, b *catalog.Entry) bool {
	return a.Note == b.Note && a.State == b.State && a.Fixed == b.Fixed && a.Limit == b.Limit && a.Reference == b.Reference && text(a.Message) == text(b.Message)
}

// text returns a message as it is spelled, so that any change shows.
func text(m message.Message) string {
	var out []byte
	if m.Choice != nil {
		for _, s := range m.Choice.Selectors {
			out = fmt.Appendf(out, "%d %s %s %d\n", s.Kind, s.Argument.Ident(), s.Argument.Spelling, s.Offset)
		}
	}
	for keys, pattern := range m.Patterns() {
		out = fmt.Appendf(out, "%q:", keys)
		for _, part := range pattern {
			switch part := part.(type) {
			case message.Text:
				out = append(out, part...)
			case *message.Placeholder:
				out = fmt.Appendf(out, "\x01%s %s %s %s\x01", part.Ident(), part.Type, part.Style, part.Spelling)
			case *message.Markup:
				out = fmt.Appendf(out, "\x02%s\x02", part)
			}
		}
		out = append(out, '\n')
	}
	return string(out)
}

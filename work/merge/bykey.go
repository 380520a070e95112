package merge

import (
	"bytes"
	"errors"
	"fmt"
	"slices"
	"strings"

	"zelvik/catalog"
	"zelvik/format"
	"zelvik/message"
)

// byKey makes the changes of one side in the file of the other: in ours,
// unless theirs alone has changes besides those of its entries.
func (m *merger) byKey(documents [3]format.Document, base, ours, theirs []byte) (*Result, error) {
	layoutOurs, layoutTheirs := m.layout(documents[0], documents[1], ours), m.layout(documents[0], documents[2], theirs)
	from, changes := documents[1], m.into
	r := &Result{Conflicts: m.conflicts}
	switch {
	case layoutTheirs && !layoutOurs && len(m.conflicts) == 0:
		from, changes = documents[2], m.fromOurs
	case layoutTheirs:
		r.Untaken = "theirs changed comments, order or layout as well; those are as in ours"
	}
	data, losses, err := m.edit(from, changes)
	if err != nil {
		return nil, err
	}
	r.Losses = losses
	if !m.says(data) && len(m.conflicts) == 0 && !m.format.Holds.Bilingual {
		if text := m.unsaid(data); text != "" {
			r.Untaken = text
		}
	}
	if r.Data = data; len(m.marks) == 0 {
		return r, nil
	}
	document, _ := m.format.Parse(data)
	var marks []format.Change
	for _, mark := range m.marks {
		if m.format.Holds.Notes {
			marks = append(marks, m.noted(document, mark))
		}
	}
	if r.Data, _, err = format.EditInTurn(m.format, document, marks); err != nil {
		return nil, explain(err)
	}
	document, _ = m.format.Parse(r.Data)
	marks = nil
	for _, mark := range m.marks { // the format, or this file of it, has no room for notes
		if !slices.ContainsFunc(document.Catalogs(), func(c *catalog.Catalog) bool {
			e := c.Find(mark.conflict.Key)
			return e != nil && strings.Contains(e.Note, catalog.ConflictMark)
		}) {
			marks = append(marks, mark.beside())
		}
	}
	r.Data, _, err = format.EditInTurn(m.format, document, marks)
	return r, explain(err)
}

// edit makes changes in a file: texts that are there first, then removals, new
// names, and new entries, culture by culture, so that each finds the file as it
// expects it.
func (m *merger) edit(d format.Document, changes []format.Change) ([]byte, []catalog.Loss, error) {
	var all []catalog.Loss
	data, losses, err := d.Edit(nil)
	step := func(picked []format.Change) {
		if err != nil || len(picked) == 0 {
			return
		}
		data, losses, err = format.EditInTurn(m.format, d, picked)
		all = append(all, losses...)
		if err == nil {
			d, _ = m.format.Parse(data)
		}
	}
	several := len(m.cultures) > 1
	var sets []format.Change
	noted := map[string]bool{}
	for _, c := range changes {
		switch {
		case c.Op == format.Set && m.has(d, c.Key):
			if noted[c.Key] { // a note is the key's, whatever the culture
				c.Note = nil
			}
			if noted[c.Key] = c.Note != nil || noted[c.Key]; m.find(d, c) == nil && m.format.Holds.Bilingual {
				continue // a translation that is to be added
			}
			sets = append(sets, c)
		case c.Op == format.Remove && several && m.keeps(c):
			sets = append(sets, format.Change{Culture: c.Culture, Key: c.Key, Message: &message.Message{}})
		}
	}
	step(sets)
	for _, op := range []format.Op{format.Remove, format.Rename} {
		for _, tag := range m.cultures { // in most formats the first culture's changes make the others'
			var picked []format.Change
			for _, c := range changes {
				if c.Op == op && c.Culture == tag && m.find(d, c) != nil && !(op == format.Remove && several && m.keeps(c)) {
					picked = append(picked, c)
				}
			}
			step(picked)
		}
	}
	for i, tag := range m.cultures {
		var added []format.Change
		for _, c := range changes {
			if c.Op != format.Set || c.Culture != tag || m.find(d, c) != nil || slices.ContainsFunc(sets, func(s format.Change) bool { return s.Key == c.Key && s.Culture == tag }) {
				continue
			}
			if m.format.Holds.Bilingual && several {
				translation, ok := m.want[1][c.Key]
				if i == 0 && ok && translation.Message.String() != "" {
					continue // it comes with its translation
				}
				if source, ok := m.want[0][c.Key]; ok && i == 1 {
					c.Source = &source.Message
					if source.Note != "" {
						c.Note = &source.Note
					}
				}
			}
			added = append(added, c)
		}
		step(added)
	}
	return data, all, explain(err)
}

// has reports whether a document has a key in any culture.
func (m *merger) has(d format.Document, key string) bool {
	return slices.ContainsFunc(d.Catalogs(), func(c *catalog.Catalog) bool { return c.Find(key) != nil })
}

// find returns the entry that a change is about, or nil.
func (m *merger) find(d format.Document, c format.Change) *catalog.Entry {
	return catalogOf(d, c.Culture, slices.Index(m.cultures, c.Culture)).Find(c.Key)
}

// keeps reports whether the text of one culture goes and the entry stays, in a
// file where removing the one would remove the other.
func (m *merger) keeps(c format.Change) bool {
	at := slices.Index(m.cultures, c.Culture)
	for i, want := range m.want {
		if _, stays := want[c.Key]; stays && i != at && (m.format.Holds.Bilingual || at == 0) {
			return true
		}
	}
	return false
}

func explain(err error) error {
	var failed *format.EditError
	if errors.As(err, &failed) {
		return fmt.Errorf("%w; merge this entry by hand", failed)
	}
	return err
}

// layout reports whether a side changed more than its entries: making its
// changes of entries in the base does not give its file.
func (m *merger) layout(base, side format.Document, data []byte) bool {
	alone := &merger{format: m.format}
	alone.plan(base, base, side)
	made, _, err := alone.edit(base, alone.into)
	return err != nil || !bytes.Equal(made, data)
}

// unsaid tells what the entries should say and the file cannot.
func (m *merger) unsaid(data []byte) string {
	document, _ := m.format.Parse(data)
	var keys []string
	for i, c := range document.Catalogs() {
		if i >= len(m.want) {
			break
		}
		for j := range c.Entries {
			e := &c.Entries[j]
			if want, ok := m.want[i][e.ID()]; ok && !same(&want, e) {
				keys = append(keys, e.Key)
			}
		}
	}
	if keys == nil {
		return ""
	}
	slices.Sort(keys)
	return "what is not text of " + strings.Join(slices.Compact(keys), ", ") + " (whether it is translated, limits) is as in ours; look at it"
}

// says tells a conflict in one sentence.
func (m mark) says() string {
	switch c := m.conflict; c.What {
	case "removed here":
		return catalog.ConflictMark + "removed in ours, edited in theirs"
	case "removed there":
		return catalog.ConflictMark + "edited in ours, removed in theirs"
	case "renamed":
		return fmt.Sprintf("%srenamed from %s in both; theirs calls it %s", catalog.ConflictMark, c.Base, c.Theirs)
	default:
		return fmt.Sprintf("%s%s; theirs says %q", catalog.ConflictMark, c.What, c.Theirs)
	}
}

// beside makes an entry beside the one in conflict.
func (m mark) beside() format.Change {
	text := message.Plain(m.says())
	if m.theirs != nil {
		text = m.theirs.Message
	}
	return format.Change{Culture: m.conflict.Culture, Key: m.conflict.Key + catalog.ConflictAside, Message: &text, After: m.conflict.Key}
}

// noted adds the mark to the note of the entry in conflict.
func (m *merger) noted(d format.Document, mark mark) format.Change {
	holder := d.Catalogs()[0]
	for _, one := range d.Catalogs() {
		if one.Find(mark.conflict.Key) != nil && holder.Find(mark.conflict.Key) == nil {
			holder = one
		}
	}
	said := mark.says()
	if e := holder.Find(mark.conflict.Key); e != nil && e.Note != "" {
		said = e.Note + "\n" + said
	}
	return format.Change{Culture: holder.Culture, Key: mark.conflict.Key, Note: &said}
}

package level

import (
	"path/filepath"
	"slices"
	"strings"
	"unicode"

	"zelvik/catalog"
	"zelvik/format"
	"zelvik/message"
	"zelvik/project"
)

// leader returns the family that a family follows by the configuration, or nil.
func leader(w *project.Workspace, f *project.Family) *project.Family {
	at := func(place string) string {
		return w.Disk.Absolute(filepath.Join(w.Config.Dir(), filepath.FromSlash(place)))
	}
	for i := range w.Config.Families {
		c := &w.Config.Families[i]
		if c.Follows == "" || !w.Disk.Inside(at(c.Path), filepath.FromSlash(f.Name)) {
			continue
		}
		for _, other := range w.Families {
			if other != f && other.SourceMember() != nil && w.Disk.Inside(at(c.Follows), filepath.FromSlash(other.Name)) {
				return other
			}
		}
	}
	return nil
}

// skeleton is what is left of a key that platforms spell in their own ways:
// boarding.title, boarding_title and boardingTitle are one key.
func skeleton(key string) string {
	return strings.Map(func(r rune) rune {
		if unicode.IsLetter(r) || unicode.IsDigit(r) {
			return unicode.ToLower(r)
		}
		return -1
	}, key)
}

// bySkeleton lists a catalog's entries by their keys' skeletons.
func bySkeleton(c *catalog.Catalog) map[string]*catalog.Entry {
	list := make(map[string]*catalog.Entry, len(c.Entries))
	for i := range c.Entries {
		e := &c.Entries[i]
		if e.Product == "" && list[skeleton(e.Key)] == nil {
			list[skeleton(e.Key)] = e
		}
	}
	return list
}

// follow plans what brings a family level with the one that leads it: source
// texts that it lacks, with the leader's translations, and those that changed
// there. What changed on both sides, and what the leader does not have, is
// told. The family's catalogs have the changes from then on.
func (r *reconciliation) follow(f, leader *project.Family) {
	mine, theirs := f.SourceMember(), leader.SourceMember()
	own, led := r.recordOf(f), r.recordOf(leader)
	file := f.File(mine)
	if file.Damaged() != nil || leader.File(theirs).Damaged() != nil {
		return
	}
	step := func(what string, m *catalog.Member, key string) {
		r.Steps = append(r.Steps, Step{What: what, Family: f.Name, Path: m.Path, Culture: m.Culture, Key: key})
	}
	have := bySkeleton(mine.Catalog)
	last := ""
	for i := range theirs.Catalog.Entries {
		l := &theirs.Catalog.Entries[i]
		if l.Product != "" || l.Reference != "" {
			continue
		}
		e := have[skeleton(l.Key)]
		key, changed := l.Key, false
		switch {
		case e == nil:
			step("levelled", mine, key)
			r.set(f, mine, key, l, last, nil)
		case sameMeaning(e.Message, l.Message):
			key = e.Key
		case changedSince(led, l) && !changedSince(own, e):
			key, changed = e.Key, true
			step("levelled", mine, key)
			r.set(f, mine, key, l, "", e)
		default:
			key = e.Key
			step("differs", mine, key)
			last = key
			continue
		}
		last = key
		r.translations(f, leader, l, key, changed)
	}
	leads := bySkeleton(theirs.Catalog)
	for i := range mine.Catalog.Entries {
		if e := &mine.Catalog.Entries[i]; e.Product == "" && leads[skeleton(e.Key)] == nil {
			step("alone", mine, e.Key)
		}
	}
}

// translations gives a family the translations of an entry that the leader has
// and it lacks, and where the source text changed those that differ.
func (r *reconciliation) translations(f, leader *project.Family, l *catalog.Entry, key string, changed bool) {
	for _, m := range f.Members {
		other := leader.Member(m.Culture)
		if m.Culture == f.Source || other == nil || !r.asked(m.Culture) || f.File(m).Damaged() != nil || leader.File(other).Damaged() != nil {
			continue
		}
		t, now := other.Catalog.Find(l.ID()), m.Catalog.Find(key)
		if t == nil || t.Message.Empty() || t.State == catalog.Missing || now != nil && !(changed && !sameMeaning(t.Message, now.Message)) || sameMeaning(t.Message, l.Message) {
			continue
		}
		r.Steps = append(r.Steps, Step{What: "levelled", Family: f.Name, Path: m.Path, Culture: m.Culture, Key: key})
		r.set(f, m, key, t, f.Neighbour(m, key), now)
	}
}

// set plans a text of another family's, and lets the catalog know it.
func (r *reconciliation) set(f *project.Family, m *catalog.Member, key string, from *catalog.Entry, after string, now *catalog.Entry) {
	holder := f.Home(m, key, from.Message.Choice != nil)
	text := from.Message
	change := format.Change{Op: format.Set, Culture: m.Culture, Key: key, Message: &text, After: after}
	if now == nil && from.Note != "" && f.Format.Holds.Notes && m.Culture == f.Source {
		change.Note = &from.Note
	}
	if s := f.SourceMember().Catalog.Find(key); s != nil && m.Culture != f.Source {
		change.Source = &s.Message
	}
	r.change(holder, change)
	// The document keeps its catalog as it was read; the family has a copy.
	made := *from
	made.Key, made.Offset = key, -1
	if m.Culture == f.Source { // what the format forgets of its placeholders
		r.recordOf(f).Note(&catalog.Catalog{Entries: []catalog.Entry{made}})
	}
	entries := slices.Clone(m.Catalog.Entries)
	if at := m.Catalog.At(key); at >= 0 {
		made.Note = entries[at].Note
		entries[at] = made
	} else {
		entries = slices.Insert(entries, m.Catalog.At(after)+1, made)
	}
	m.Catalog = &catalog.Catalog{Culture: m.Catalog.Culture, Entries: entries}
}

func (r *reconciliation) recordOf(f *project.Family) *project.Record {
	for i, other := range r.workspace.Families {
		if other == f {
			return r.records[i]
		}
	}
	return nil
}

// changedSince reports whether a source text is not the one that the ledger
// knows.
func changedSince(r *project.Record, e *catalog.Entry) bool {
	was := r.Of(e.Key).Source
	return was != "" && was != project.Fingerprint(e)
}

// sameMeaning reports whether two messages of different formats say the same:
// placeholders compare by name, or by position.
func sameMeaning(a, b message.Message) bool {
	return meaning(a, true) == meaning(b, true) || meaning(a, false) == meaning(b, false)
}

func meaning(m message.Message, names bool) string {
	var out strings.Builder
	for keys, pattern := range m.Patterns() {
		out.WriteString(strings.Join(keys, "+") + ":")
		for _, part := range pattern {
			switch part := part.(type) {
			case message.Text:
				out.WriteString(string(part))
			case *message.Markup:
				out.WriteString(part.String())
			case *message.Placeholder:
				out.WriteByte(1)
				if names {
					out.WriteString(part.Name)
				} else {
					out.WriteString(string(rune('0' + part.Position)))
				}
			}
		}
		out.WriteByte('\n')
	}
	return out.String()
}

package project

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/format"
	"zelvik/format/numbered"
	"zelvik/message"
)

// Fill says what a text that a culture does not have yet begins as.
type Fill string

// The fills.
const (
	FillCopy  Fill = "copy"  // the source's text, marked missing where the format holds states
	FillEmpty Fill = "empty" // an empty text
	FillNone  Fill = "none"  // nothing: it is told, and not added
)

// Level is the plan that brings every culture level with the source.
type Level struct {
	Plan
	Steps  []Step
	Losses []catalog.Loss
	// Left says what was left as it is, and why: damaged files, families
	// without a source.
	Left []string
}

// Step is one thing that is done, or that is told.
type Step struct {
	// What is added, aside, dropped, renamed or missing.
	What    string      `json:"what"`
	Path    string      `json:"path"`
	Culture culture.Tag `json:"culture"`
	Key     string      `json:"key"`
	// To is the new key of what is probably a renaming.
	To string `json:"to,omitempty"`
}

// ReconcileOptions say how far a reconciliation goes.
type ReconcileOptions struct {
	Fill Fill
	// Drop takes out what the source does not have; else it is told and stays.
	Drop bool
	// Renames carries texts over to the keys that they were probably renamed to.
	Renames bool
}

// Reconcile plans to bring every culture of every family level with its
// source: keys that it lacks are added behind their neighbours in the source,
// keys that the source does not have stand aside, and a key whose text in
// another culture of the family shows that it was renamed is proposed.
func (w *Workspace) Reconcile(o ReconcileOptions) (*Level, error) {
	l := &Level{}
	for _, f := range w.Families {
		source := f.SourceMember()
		if source == nil {
			l.Left = append(l.Left, fmt.Sprintf("%s has no file in the source culture %s", f.Name, f.Source))
			continue
		}
		f.CompleteAll()
		changes := map[*File][]format.Change{}
		var order []*File
		for i, m := range f.Members {
			file := f.Files[i]
			if damage := file.Damaged(); damage != nil {
				if text := Refuse(damage).Error(); !slices.Contains(l.Left, text) {
					l.Left = append(l.Left, text)
				}
				if m == source {
					break
				}
				continue
			}
			if m == source {
				continue
			}
			for holder, list := range l.member(f, source, m, file, o) {
				if changes[holder] == nil {
					order = append(order, holder)
				}
				changes[holder] = append(changes[holder], list...)
			}
		}
		slices.SortFunc(order, func(a, b *File) int { return strings.Compare(a.Path, b.Path) })
		for _, file := range order {
			data, losses, err := file.Document.Edit(changes[file])
			var edit *format.EditError
			if errors.As(err, &edit) {
				return nil, &FileError{file.Path, edit.Error(), "mend the file or edit it by hand"}
			} else if err != nil {
				return nil, &FileError{file.Path, err.Error(), "edit it by hand"}
			}
			for i := range losses {
				losses[i].Path = file.Path
			}
			l.Losses = append(l.Losses, losses...)
			l.Add(file.Path, file.data, data)
		}
	}
	return l, nil
}

// member plans the changes of one culture, by the files that hold its texts.
func (l *Level) member(f *Family, source, m *catalog.Member, file *File, o ReconcileOptions) map[*File][]format.Change {
	changes := map[*File][]format.Change{}
	step := func(what, key, to string) {
		l.Steps = append(l.Steps, Step{what, file.Path, m.Culture, key, to})
	}
	taken := map[string]bool{}
	for i := range m.Catalog.Entries {
		e := &m.Catalog.Entries[i]
		if source.Catalog.Find(e.ID()) != nil {
			continue
		}
		holder := file.Holder(e.ID())
		if to := renamed(f, source, m, e); to != "" && !taken[to] {
			step("renamed", e.Key, to)
			if o.Renames {
				taken[to] = true
				changes[holder] = append(changes[holder], format.Change{Op: format.Rename, Culture: m.Culture, Key: e.Key, NewKey: to})
				continue
			}
		}
		if !o.Drop {
			step("aside", e.Key, "")
			continue
		}
		step("dropped", e.Key, "")
		changes[holder] = append(changes[holder], format.Change{Op: format.Remove, Culture: m.Culture, Key: e.Key})
	}
	if regional(f, m) {
		return changes
	}
	last := ""
	for i := range source.Catalog.Entries {
		e := &source.Catalog.Entries[i]
		if m.Catalog.Find(e.ID()) != nil {
			last = e.Key
			continue
		}
		if e.Fixed || e.Product != "" || taken[e.Key] {
			continue
		}
		if o.Fill == FillNone {
			step("missing", e.Key, "")
			continue
		}
		if _, index, ok := catalog.SplitArrayKey(e.Key); ok && index > 0 && f.Format.Holds.Arrays {
			continue // items of one array are added with the file's own array, by hand
		}
		text := e.Message
		if o.Fill == FillEmpty {
			text = message.Message{}
		} else if text.Choice != nil {
			text = withForms(text, m.Culture)
		}
		change := format.Change{Op: format.Set, Culture: m.Culture, Key: e.Key, Message: &text, Source: &e.Message, After: last}
		if f.Format.Holds.States {
			missing := catalog.Missing
			change.State = &missing
		}
		holder := file
		if e.Message.Choice != nil && file.Companion != nil {
			holder = file.Companion
		}
		step("added", e.Key, "")
		changes[holder] = append(changes[holder], change)
	}
	return changes
}

// withForms gives a plural the forms that a culture needs: those that the
// source does not have begin as its form other.
func withForms(m message.Message, tag culture.Tag) message.Message {
	if len(m.Choice.Selectors) != 1 || m.Choice.Selectors[0].Kind != message.Plural {
		return m
	}
	choice := &message.Choice{Selectors: m.Choice.Selectors}
	for _, v := range m.Choice.Variants {
		if len(v.Keys[0]) > 0 && v.Keys[0][0] == '=' {
			choice.Variants = append(choice.Variants, v)
		}
	}
	for _, category := range tag.Cardinal().Categories() {
		pattern := m.Main()
		own := slices.IndexFunc(m.Choice.Variants, func(v message.Variant) bool { return v.Keys[0] == category })
		if own >= 0 {
			pattern = m.Choice.Variants[own].Pattern
		} else if !slices.Contains(numbered.Reached(tag), category) && category != message.Default {
			continue
		}
		choice.Variants = append(choice.Variants, message.Variant{Keys: []string{category}, Pattern: pattern})
	}
	return message.Message{Choice: choice}
}

// regional reports whether the family has a parent of the culture beside the
// source: then its file holds only what differs, and the parent answers for
// the rest.
func regional(f *Family, m *catalog.Member) bool {
	return slices.ContainsFunc(m.Culture.Parents(), func(tag culture.Tag) bool {
		parent := f.Member(tag)
		return parent != nil && parent.Culture != f.Source
	})
}

// renamed gives the key that an entry without a source was probably renamed
// to: a key that this culture lacks, and under which another culture of the
// family, one that was reconciled already, says the same as under the old key,
// or which the source has with the very text that is copied here.
func renamed(f *Family, source, m *catalog.Member, e *catalog.Entry) string {
	text := e.Message.String()
	if text == "" {
		return ""
	}
	for i := range source.Catalog.Entries {
		s := &source.Catalog.Entries[i]
		if m.Catalog.Find(s.ID()) != nil {
			continue
		}
		if s.Message.String() == text {
			return s.Key
		}
		for _, other := range f.Members {
			if other == source || other == m {
				continue
			}
			a, b := other.Catalog.Find(e.ID()), other.Catalog.Find(s.ID())
			if b != nil && (a != nil && a.Message.String() == b.Message.String() || a == nil && b.Message.String() == text) {
				return s.Key
			}
		}
	}
	return ""
}

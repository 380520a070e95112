package level

import (
	"runtime"
	"slices"
	"strings"

	"golang.org/x/sync/errgroup"

	"zelvik/catalog"
	"zelvik/catalog/status"
	"zelvik/culture"
	"zelvik/files"
	"zelvik/format"
	"zelvik/format/numbered"
	"zelvik/message"
	"zelvik/message/icu"
	"zelvik/project"
	"zelvik/work/level/memory"
)

// Fill says what a text that a culture does not have yet begins as.
type Fill string

// The fills.
const (
	FillCopy  Fill = "copy"  // the source's text, marked missing where the format holds states; empty beside it in a bilingual file
	FillEmpty Fill = "empty" // an empty text
	FillNone  Fill = "none"  // nothing: it is reported, and not added
	FillDraft Fill = "draft" // a draft from the translation memory; where there is none it is reported
)

// Level is the plan that brings every culture level with the source.
type Level struct {
	files.Plan
	Steps  []Step
	Losses []catalog.Loss
	// Left says what was left as it is, and why: damaged files, families
	// without a source.
	Left []string
}

// Step is one thing that is done, or that is reported.
type Step struct {
	// What is added, missing, restored, levelled, moved, renamed, aside,
	// dropped, differs or alone.
	What    string      `json:"what"`
	Family  string      `json:"family"`
	Path    string      `json:"path"`
	Culture culture.Tag `json:"culture"`
	Key     string      `json:"key"`
	// To is the new key of what is probably a renaming.
	To string `json:"to,omitempty"`
}

// draftLeast is the least percentage of a match that a new text begins as.
const draftLeast = 90

// ReconcileOptions say how far a reconciliation goes.
type ReconcileOptions struct {
	Fill Fill
	// Drop takes out what the source does not have; else the ledger keeps it.
	Drop bool
	// Renames carries texts over to the keys that they were probably renamed to.
	Renames bool
	// Cultures are those whose keys are added and set aside, nil for all. What is
	// moved is marked in every culture: the ledger takes the source's text as it
	// is from then on.
	Cultures []culture.Tag
	// Memory has the texts for FillDraft.
	Memory *memory.Memory
}

// Reconcile plans to bring every culture of every family level with its
// source: keys that it lacks are added after their neighbours in the source,
// translations of a source text that changed are marked moved, keys that the
// source does not have are set aside in the ledger, from where they come back
// with their key, and a key that was probably renamed is proposed. A family
// that follows another is brought level with that first.
func Reconcile(w *project.Workspace, o ReconcileOptions) (*Level, error) {
	l := &Level{}
	r := &reconciliation{Level: l, options: o, workspace: w, changes: map[*project.File][]format.Change{}}
	for _, f := range w.Families {
		record, err := w.RecallOf(f)
		if err != nil {
			return nil, err
		}
		r.records = append(r.records, record)
	}
	for _, f := range w.Families {
		if f.SourceMember() == nil {
			l.Left = append(l.Left, project.Sourceless(f))
			continue
		}
		if leader := leader(w, f); leader != nil {
			r.follow(f, leader)
		}
	}
	for i, f := range w.Families {
		if f.SourceMember() != nil {
			r.family(f, r.records[i])
		}
	}
	if err := r.edit(); err != nil {
		return nil, err
	}
	w.SaveLedgers(&l.Plan)
	l.Losses = slices.DeleteFunc(l.Losses, func(loss catalog.Loss) bool { // the ledger keeps these
		return loss.Kind == "name" || loss.Kind == "type" || loss.Kind == "sample" || loss.Kind == "position"
	})
	return l, nil
}

// reconciliation is a level that is being planned.
type reconciliation struct {
	*Level
	options   ReconcileOptions
	workspace *project.Workspace
	records   []*project.Record
	changes   map[*project.File][]format.Change
	order     []*project.File
	// sayings are made for families with keys that the source does not have.
	sayings map[*project.Family]*sayings
}

// asked reports whether a culture's keys are to be added and set aside.
func (r *reconciliation) asked(tag culture.Tag) bool {
	return r.options.Cultures == nil || slices.Contains(r.options.Cultures, tag)
}

// change plans a change of a file.
func (r *reconciliation) change(file *project.File, c format.Change) {
	if r.changes[file] == nil {
		r.order = append(r.order, file)
	}
	r.changes[file] = append(r.changes[file], c)
}

// edit makes the planned changes in the files' bytes.
func (r *reconciliation) edit() error {
	slices.SortFunc(r.order, func(a, b *project.File) int { return strings.Compare(a.Path, b.Path) })
	type edited struct {
		data   []byte
		losses []catalog.Loss
	}
	made := make([]edited, len(r.order))
	var group errgroup.Group
	group.SetLimit(runtime.GOMAXPROCS(0))
	for i, file := range r.order {
		group.Go(func() (err error) {
			made[i].data, made[i].losses, err = file.Edit(r.changes[file])
			return err
		})
	}
	if err := group.Wait(); err != nil {
		return err
	}
	for i, file := range r.order {
		r.Losses = append(r.Losses, made[i].losses...)
		r.Add(file.Path, file.Data, made[i].data)
	}
	return nil
}

// family plans the changes of one family.
func (r *reconciliation) family(f *project.Family, record *project.Record) {
	source := f.SourceMember()
	left := map[culture.Tag]bool{}
	for i, m := range f.Members {
		damage := f.Files[i].Damaged()
		if damage == nil {
			continue
		}
		if text := project.Refuse(damage).Error(); !slices.Contains(r.Left, text) {
			r.Left = append(r.Left, text)
		}
		if m == source {
			return
		}
		left[m.Culture] = true
	}
	moved := r.moved(f, record)
	for i, m := range f.Members {
		if m != source && !left[m.Culture] {
			r.member(f, record, m, f.Files[i], moved)
		}
	}
	r.note(f, record, left)
}

// moved returns the keys whose source text is not the one that the ledger knows.
func (r *reconciliation) moved(f *project.Family, record *project.Record) map[string]bool {
	moved := map[string]bool{}
	source := f.SourceMember()
	for key, line := range record.Lines() {
		if line.Source == "" {
			continue
		}
		if s := source.Catalog.Find(key); s != nil && !s.Fixed && project.Fingerprint(s) != line.Source {
			moved[key] = true
		}
	}
	return moved
}

// note keeps the source texts as they are now, and takes out of the ledger
// what is over: texts that are no drafts or not moved any more, and keys of
// which nothing is left.
func (r *reconciliation) note(f *project.Family, record *project.Record, left map[culture.Tag]bool) {
	source := f.SourceMember()
	for i := range source.Catalog.Entries {
		s := &source.Catalog.Entries[i]
		if s.Fixed || s.Product != "" {
			continue
		}
		line := record.Of(s.Key)
		was := line.Source
		line.Source = project.Fingerprint(s)
		for _, m := range f.Members {
			tag := m.Culture
			if (was == "" || was == line.Source) && line.Copies == nil && line.Moved == nil && line.Drafts == nil {
				break
			}
			if m == source || (was == "" || was == line.Source) && (left[tag] || line.Copies[tag] == "" && line.Moved[tag] == "" && line.Drafts[tag] == "") {
				continue
			}
			e := m.Catalog.Find(s.ID())
			if left[tag] && e == nil { // it may stand after the damage
				continue
			}
			print := project.Fingerprint(e)
			if line.Drafts[tag] != print {
				line.Drafts = line.Drafts.With(tag, "")
			}
			if e != nil && line.Copies[tag] != print {
				line.Copies = line.Copies.With(tag, "")
			}
			switch {
			case f.HoldsStates() || e == nil || e.Message.Empty():
				line.Moved = line.Moved.With(tag, "")
			case was != "" && was != line.Source:
				line.Moved = line.Moved.With(tag, print)
			case line.Moved[tag] != print:
				line.Moved = line.Moved.With(tag, "")
			}
		}
		record.Put(line)
	}
	for key, line := range record.Lines() {
		if source.Catalog.Find(key) == nil && len(line.Aside) == 0 &&
			!slices.ContainsFunc(f.Members, func(m *catalog.Member) bool { return m.Catalog.Find(key) != nil }) {
			line.Source, line.Copies, line.Moved, line.Drafts = "", nil, nil, nil
			record.Put(line)
		}
	}
}

// member plans the changes of one culture.
func (r *reconciliation) member(f *project.Family, record *project.Record, m *catalog.Member, file *project.File, moved map[string]bool) {
	source := f.SourceMember()
	names := r.workspace.Config.Verify.Names
	step := func(what, key, to string) {
		r.Steps = append(r.Steps, Step{what, f.Name, file.Path, m.Culture, key, to})
	}
	taken := map[string]bool{}
	asked, sources := r.asked(m.Culture), source.Catalog.Follow()
	for i := range m.Catalog.Entries {
		e := &m.Catalog.Entries[i]
		if !asked || sources.Find(e.ID()) != nil {
			continue
		}
		holder := file.Holder(e.ID())
		if to := r.renamed(f, record, m, e); to != "" && !taken[to] {
			step("renamed", e.Key, to)
			if r.options.Renames {
				taken[to] = true
				r.change(holder, format.Change{Op: format.Rename, Culture: m.Culture, Key: e.Key, NewKey: to})
				old, line := record.Of(e.Key), record.Of(to)
				if line.Source == "" {
					line.Source = old.Source
				}
				line.Moved, line.Drafts = line.Moved.With(m.Culture, old.Moved[m.Culture]), line.Drafts.With(m.Culture, old.Drafts[m.Culture])
				record.Put(line)
			}
			continue
		}
		if r.options.Drop {
			step("dropped", e.Key, "")
		} else {
			line := record.Of(e.Key)
			if line.Aside == nil {
				line.Aside = project.Prints{}
			}
			line.Aside[m.Culture], _ = icu.Writer{}.Write(e.Message)
			record.Put(line)
			step("aside", e.Key, "")
		}
		r.change(holder, format.Change{Op: format.Remove, Culture: m.Culture, Key: e.Key})
	}
	own := file.Catalogs()[0] // the source beside the translation, in a bilingual file
	last, at := "", 0         // at is where the next entry probably is
	for i := range source.Catalog.Entries {
		s := &source.Catalog.Entries[i]
		if s.Product != "" {
			continue
		}
		var e *catalog.Entry
		if number := m.Catalog.NearAt(at, s.ID()); number >= 0 {
			e, at = &m.Catalog.Entries[number], number+1
		}
		if e == nil && f.Format.Holds.Bilingual && own.Find(s.ID()) != nil && r.options.Fill != FillDraft {
			continue // it waits beside its source already
		}
		if e == nil {
			if asked && !taken[s.Key] && !f.Regional(m) && status.Uncompared(&f.Family, m, s, nil, names) == status.Missing {
				r.lacking(f, record, m, file, s, last, step)
			}
			continue
		}
		last = s.Key
		if !moved[s.Key] || e.Message.Empty() {
			continue
		}
		if status.Uncompared(&f.Family, m, s, e, names) == status.Waiting && !f.Format.Holds.Bilingual { // a copy of what the source said before
			r.lacking(f, record, m, file, s, last, step)
			continue
		}
		step("moved", s.Key, "")
		if !f.HoldsStates() {
			continue
		}
		state := catalog.Moved
		r.change(file.Holder(s.ID()), format.Change{Culture: m.Culture, Key: s.Key, State: &state})
		if old := own.Find(s.ID()); f.Format.Holds.Bilingual && old != nil && file != f.File(source) && old.Message.String() != s.Message.String() {
			r.change(file, format.Change{Culture: f.Source, Key: s.Key, Message: &s.Message})
		}
	}
}

// lacking adds a text that a culture does not have: the one that was set aside,
// or what it is to begin as.
func (r *reconciliation) lacking(f *project.Family, record *project.Record, m *catalog.Member, file *project.File, s *catalog.Entry, last string, step func(what, key, to string)) {
	text, what, state := s.Message, "added", catalog.Missing
	line := record.Of(s.Key)
	aside, set := line.Aside[m.Culture]
	if kept, faults := icu.Parse(aside); set && len(faults) == 0 {
		kept = kept.MarkedAs(s.Message)
		text, what, state = kept, "restored", catalog.Done
		kept.Complete(s.Message.Arguments())
		if line.Source != project.Fingerprint(s) {
			state = catalog.Moved
			line.Moved = line.Moved.With(m.Culture, project.Fingerprint(&catalog.Entry{Message: kept}))
		}
		delete(line.Aside, m.Culture)
		record.Put(line)
	} else if r.options.Fill == FillDraft {
		if match := r.options.Memory.Find(s, m.Culture, draftLeast); match != nil {
			text, what, state = match.Text, "drafted", catalog.Draft
			line.Drafts = line.Drafts.With(m.Culture, project.Fingerprint(&catalog.Entry{Message: text}))
			record.Put(line)
		}
	}
	if what == "added" {
		switch {
		case r.options.Fill == FillNone, r.options.Fill == FillDraft:
			step("missing", s.Key, "")
			return
		case r.options.Fill == FillEmpty, f.Format.Holds.Bilingual: // the source stands beside it
			text = message.Message{}
		case text.Choice != nil:
			text = numbered.Shape(text, m.Culture)
		}
		if !f.HoldsStates() && !text.Empty() {
			line.Copies = line.Copies.With(m.Culture, project.Fingerprint(&catalog.Entry{Message: text}))
			record.Put(line)
		}
	}
	if _, index, ok := catalog.SplitArrayKey(s.Key); ok && index > 0 && f.Format.Holds.Arrays && !f.Format.Holds.Items {
		return // items of one array are added with the file's own array, by hand
	}
	change := format.Change{Op: format.Set, Culture: m.Culture, Key: s.Key, Message: &text, Source: &s.Message, After: last}
	if f.HoldsStates() {
		change.State = &state
	}
	step(what, s.Key, "")
	r.change(f.Home(m, s.ID(), text.Choice != nil), change)
}

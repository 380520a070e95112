package exchange

import (
	"fmt"
	"io/fs"
	"path/filepath"
	"slices"
	"strings"

	"zelvik/catalog"
	"zelvik/catalog/status"
	"zelvik/culture"
	"zelvik/files"
	"zelvik/finding"
	"zelvik/format"
	"zelvik/format/all"
	"zelvik/project"
)

// Takeback is what comes back from translators.
type Takeback struct {
	files.Plan
	Returned []Returned `json:"returned"`
	Losses   []catalog.Loss

	workspace *project.Workspace
	family    *project.Family
	source    *catalog.Member
	ledger    *project.Record
	// asked is the source as it stands in the file.
	asked   *catalog.Catalog
	changes map[*project.File][]format.Change
	order   []*project.File
}

// Returned is one text that came back, or did not.
type Returned struct {
	// What is merged, same, conflict, refused or open.
	What    string      `json:"what"`
	Path    string      `json:"path"`
	Culture culture.Tag `json:"culture"`
	Key     string      `json:"key"`
	// Why says what stands against it.
	Why string `json:"why,omitempty"`
}

// FilesIn lists the exchange files that stand in a folder.
func FilesIn(disk *files.Disk, dir string) ([]string, error) {
	var list []string
	err := disk.Walk(dir, func(at string, d fs.DirEntry, err error) error {
		switch {
		case err != nil:
			return files.ReadError(at, err)
		case d.IsDir() && at != dir:
			return fs.SkipDir
		case !d.Type().IsRegular():
			return nil
		}
		if f, _ := all.Detect(filepath.ToSlash(at), disk.Head(at, 2048)); f != nil && (f.Holds.Bilingual || f.Holds.Many) {
			list = append(list, at)
		}
		return nil
	})
	if err == nil && list == nil {
		err = project.Usage("%s: no file here can come from a translator; name the file", dir)
	}
	return list, err
}

// Back plans to merge the texts of an exchange file into the native files.
// What is in the way of a text is reported, and then it is not merged: a source
// that changed meanwhile, a text that changed here, a rule that it breaks. Texts
// that were handed out and did not come back are reported, too.
func Back(w *project.Workspace, file *project.File) (*Takeback, error) {
	if damage := file.Damaged(); damage != nil {
		return nil, project.Refuse(damage)
	}
	guest := &project.Family{Format: file.Format, Files: []*project.File{file}}
	guest.Source = guest.GuessSource()
	holdings := guest.Holdings(file)
	if len(holdings) < 2 {
		return nil, project.Usage("%s holds one culture; an exchange file has the source beside the translation", file.Path)
	}
	t := &Takeback{workspace: w, changes: map[*project.File][]format.Change{}}
	if err := t.home(file, holdings); err != nil {
		return nil, err
	}
	for _, h := range holdings {
		if h.Catalog == t.asked {
			continue
		}
		if err := t.culture(h.Catalog); err != nil {
			return nil, err
		}
	}
	for _, holder := range t.order {
		data, losses, err := holder.Edit(t.changes[holder])
		if err != nil {
			return nil, err
		}
		t.Losses = append(t.Losses, losses...)
		t.Add(holder.Path, holder.Data, data)
	}
	w.SaveLedgers(&t.Plan)
	return t, nil
}

// home finds the family that was handed out, and its source in the file: the one
// of which most texts are with a translator, else of which most source texts are
// those of the file, else most keys.
func (t *Takeback) home(file *project.File, holdings []project.Holding) error {
	var best []int
	var names []string
	for _, f := range t.workspace.Families {
		source := f.SourceMember()
		if source == nil {
			continue
		}
		asked := holdings[0].Catalog
		for _, h := range holdings {
			if h.Catalog.Culture == f.Source && !file.Format.Holds.Bilingual { // a table may have its columns in any order
				asked = h.Catalog
			}
		}
		ledger, err := t.workspace.RecallOf(f)
		if err != nil {
			return err
		}
		score := []int{0, 0, 0}
		for i := range asked.Entries {
			s := source.Catalog.Find(asked.Entries[i].ID())
			if s == nil {
				continue
			}
			score[2]++
			if s.Message.Main().String() == asked.Entries[i].Message.Main().String() {
				score[1]++
			}
			for _, h := range holdings {
				if handed(ledger, s.Key, h.Catalog.Culture) != "" {
					score[0]++
					break
				}
			}
		}
		if score[2] == 0 {
			continue
		}
		switch order := slices.Compare(score, best); {
		case order > 0:
			best, names = score, []string{f.Name}
			t.family, t.source, t.ledger, t.asked = f, source, ledger, asked
		case order == 0:
			names = append(names, f.Name)
		}
	}
	switch {
	case t.family == nil:
		return project.Usage("no family here has the keys of %s; name its folder", file.Path)
	case len(names) > 1:
		return project.Usage("%s fits %d families (%s); name the folder of one", file.Path, len(names), strings.Join(names, ", "))
	}
	return nil
}

// culture merges the texts of one culture.
func (t *Takeback) culture(c *catalog.Catalog) error {
	f := t.family
	m := f.Member(c.Culture)
	if m == nil {
		return project.Usage("%s has no file for %s; make it first: zelvik begin %s", f.Name, c.Culture.Name(), c.Culture)
	}
	own := f.File(m)
	if damage := own.Damaged(); damage != nil {
		return project.Refuse(damage)
	}
	for i := range c.Entries {
		e := &c.Entries[i]
		if s := t.source.Catalog.Find(e.ID()); s != nil {
			e.Message = e.Message.MarkedAs(s.Message)
		}
	}
	c.Complete(t.source.Catalog)
	broken := t.workspace.Broken(f, t.source, c)
	for i := range c.Entries {
		e := &c.Entries[i]
		if e.Message.Empty() {
			continue
		}
		what, why := t.verdict(m, e, broken[e.Key])
		t.Returned = append(t.Returned, Returned{what, own.Path, m.Culture, e.Key, why})
		if what == "merged" {
			t.merge(m, e)
		}
		if what == "merged" || what == "same" {
			t.ledger.Settle(e.Key, m.Culture)
		}
	}
	for i := range t.source.Catalog.Entries {
		key := t.source.Catalog.Entries[i].Key
		if e := c.Find(key); handed(t.ledger, key, m.Culture) != "" && (e == nil || e.Message.Empty()) {
			why := "it has no text yet"
			if e == nil && t.asked.Find(key) == nil {
				why = "it is not in the file"
			}
			t.Returned = append(t.Returned, Returned{"open", own.Path, m.Culture, key, why})
		}
	}
	return nil
}

// verdict says what becomes of a text that came back, and why. Broken is the
// rule that it breaks, nil for none.
func (t *Takeback) verdict(m *catalog.Member, e *catalog.Entry, broken *finding.Finding) (what, why string) {
	s, now := t.source.Catalog.Find(e.ID()), m.Catalog.Find(e.ID())
	untouched := false // it is what went out, and nobody says that it is right
	if s != nil && now != nil && now.Message.String() == e.Message.String() {
		how := status.Of(&t.family.Family, m, s, now, nil)
		untouched = how.Open() && e.State != catalog.Done && (e.State != catalog.Unstated || how.Wanting())
	}
	was := handed(t.ledger, e.Key, m.Culture)
	switch asked := t.asked.Find(e.ID()); {
	case s == nil:
		return "conflict", "the source does not have the key any more"
	case untouched:
		return "open", "it came back as it went"
	case now != nil && now.Message.String() == e.Message.String() && !status.Of(&t.family.Family, m, s, now, nil).Open():
		return "same", ""
	case asked != nil && !sameText(asked, s):
		return "conflict", fmt.Sprintf("the source changed meanwhile, from %q to %q", asked.Message.String(), s.Message.String())
	case was != "" && was != project.Fingerprint(now):
		return "conflict", fmt.Sprintf("the text changed here meanwhile, to %q; it came back as %q", textOf(now), e.Message.String())
	case broken != nil:
		return "refused", broken.Rule + ": " + broken.Message
	}
	return "merged", ""
}

// merge plans a text in the culture's file.
func (t *Takeback) merge(m *catalog.Member, e *catalog.Entry) {
	s := t.source.Catalog.Find(e.ID())
	holder := t.family.Home(m, e.ID(), e.Message.Choice != nil)
	change := format.Change{Op: format.Set, Culture: m.Culture, Key: e.Key, Message: &e.Message, Source: &s.Message, After: t.family.Neighbour(m, e.Key)}
	if t.family.HoldsStates() {
		state := catalog.Done
		if e.State == catalog.Draft || e.State == catalog.Moved {
			state = e.State
		}
		change.State = &state
	}
	if t.changes[holder] == nil {
		t.order = append(t.order, holder)
	}
	t.changes[holder] = append(t.changes[holder], change)
}

// handed returns the fingerprint of a text when it was handed out, or "".
func handed(r *project.Record, key string, tag culture.Tag) string { return r.Of(key).Handed[tag] }

func textOf(e *catalog.Entry) string {
	if e == nil {
		return ""
	}
	return e.Message.String()
}

// sameText reports whether the source that stood in an exchange file is the
// one that is here. A format that holds less than ours says less of it.
func sameText(asked, s *catalog.Entry) bool {
	asked.Message.Complete(s.Message.Arguments())
	if asked.Message.Main().String() != s.Message.Main().String() {
		return false
	}
	if asked.Message.Choice == nil || s.Message.Choice == nil {
		return true
	}
	for _, v := range asked.Message.Choice.Variants {
		for _, own := range s.Message.Choice.Variants {
			if slices.Equal(v.Keys, own.Keys) && v.Pattern.String() != own.Pattern.String() {
				return false
			}
		}
	}
	return true
}

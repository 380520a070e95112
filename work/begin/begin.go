// Package begin starts a new culture: its files in the shape of each family, its
// place in zelvik.yaml and in the manifests that list cultures.
package begin

import (
	"cmp"
	"path/filepath"
	"slices"

	"zelvik/catalog"
	"zelvik/catalog/status"
	"zelvik/culture"
	"zelvik/format/numbered"
	"zelvik/message"
	"zelvik/project"
	"zelvik/verify"
	"zelvik/work/convert"
	"zelvik/work/level"
	"zelvik/work/level/memory"
)

// Options say what the texts begin as.
type Options struct {
	Fill level.Fill
	// Memory has the texts for level.FillDraft.
	Memory *memory.Memory
}

// Begun is the plan of a new culture.
type Begun struct {
	*convert.Conversion
	// Kept are the families that have the culture, Left those that were left as they
	// are, and why; Declared are the files that name the culture now.
	Kept, Left, Declared []string
}

// least is the least percentage of a match that a text begins as.
const least = 90

// Culture plans the files of a culture in every family that does not have it.
func Culture(w *project.Workspace, tag culture.Tag, o Options) (*Begun, error) {
	b := &Begun{Conversion: &convert.Conversion{}}
	if err := w.Recall(); err != nil {
		return nil, err
	}
	for _, f := range w.Families {
		source := f.SourceMember()
		switch {
		case source == nil:
			b.Left = append(b.Left, project.Sourceless(f))
			continue
		case f.Member(tag) != nil:
			b.Kept = append(b.Kept, f.Name)
			continue
		}
		if damage := f.File(source).Damaged(); damage != nil {
			b.Left = append(b.Left, project.Refuse(damage).Error())
			continue
		}
		made, err := o.catalog(w, f, tag)
		if err != nil {
			return nil, err
		}
		if f.Format.Holds.Many && len(made.Entries) == 0 {
			b.Left = append(b.Left, f.Name+" holds all cultures in one file; "+tag.Name()+" stands there with its first text")
			continue
		}
		if err := b.AddCulture(f, made, ""); err != nil {
			return nil, err
		}
	}
	w.SaveLedgers(&b.Plan)
	return b, b.declare(w, tag)
}

// catalog makes the texts that a family's new culture begins with, and tells the
// ledger of copies and drafts that the file does not mark.
func (o Options) catalog(w *project.Workspace, f *project.Family, tag culture.Tag) (*catalog.Catalog, error) {
	made, own := &catalog.Catalog{Culture: tag}, verify.NoFile(tag)
	record, err := w.Record(f)
	if err != nil {
		return nil, err
	}
	source := f.SourceMember().Catalog
	for i := range source.Entries {
		s := &source.Entries[i]
		if s.Product != "" || status.Of(&f.Family, own, s, nil, w.Config.Verify.Names) != status.Missing {
			continue
		}
		e := *s
		e.State, e.Offset, e.Note = catalog.Missing, -1, ""
		line := record.Of(s.Key)
		line.Source = cmp.Or(line.Source, project.Fingerprint(s))
		var match *memory.Match
		if o.Fill == level.FillDraft {
			match = o.Memory.Find(s, tag, least)
		}
		switch {
		case match != nil:
			e.Message, e.State = match.Text, catalog.Draft
			line.Drafts = line.Drafts.With(tag, project.Fingerprint(&e))
		case o.Fill == level.FillNone, o.Fill == level.FillDraft:
			continue
		case o.Fill == level.FillEmpty, f.Format.Holds.Bilingual: // the source stands beside it
			e.Message = message.Message{}
		default:
			if e.Message.Choice != nil {
				e.Message = numbered.Shape(e.Message, tag)
			}
			line.Copies = line.Copies.With(tag, project.Fingerprint(&e))
		}
		if !f.HoldsStates() {
			record.Put(line)
			e.State = catalog.Unstated
		}
		made.Add(e)
	}
	return made, nil
}

// declare plans the culture's name in the configuration and in the manifests of
// the project.
func (b *Begun) declare(w *project.Workspace, tag culture.Tag) error {
	at := filepath.Join(w.Config.Dir(), project.ConfigName)
	if w.Disk.There(at) {
		old, err := w.Disk.Read(at)
		if err != nil {
			return err
		}
		if text, ok := configured(string(old), tag); ok {
			b.Add(at, old, []byte(text))
			b.Declared = append(b.Declared, at)
		}
	}
	found, err := manifests(w, tag)
	if err != nil {
		return err
	}
	for _, m := range found {
		b.Add(m.path, m.old, m.fresh)
		b.Declared = append(b.Declared, m.path)
	}
	slices.Sort(b.Declared)
	return nil
}

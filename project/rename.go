package project

import (
	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/finding"
	"zelvik/format"
)

// Renaming is the plan of a key's renaming.
type Renaming struct {
	Plan
	Losses []catalog.Loss
	// Mentions are places that may refer to the key, and are left as they are.
	Mentions []Mention
}

// Rename plans a key's new name in every culture of the families that have it,
// and in the layouts and the code that refer to it, as far as that is certain.
func (w *Workspace) Rename(old, fresh string) (*Renaming, error) {
	r := &Renaming{}
	var families []*Family
	for _, f := range w.Families {
		has := false
		for _, m := range f.Members {
			if m.Catalog.Find(fresh) != nil {
				return nil, usage("%s has the key %s already; choose another name", m.Path, fresh)
			}
			has = has || m.Catalog.Find(old) != nil
		}
		if !has {
			continue
		}
		families = append(families, f)
		if err := r.family(f, old, fresh); err != nil {
			return nil, err
		}
		record, err := w.ledger(f)
		if err != nil {
			return nil, err
		}
		record.rename(old, fresh)
	}
	if families == nil {
		var keys []string
		for _, f := range w.Families {
			for _, m := range f.Members {
				for i := range m.Catalog.Entries {
					keys = append(keys, m.Catalog.Entries[i].Key)
				}
			}
		}
		if nearest := finding.Nearest(old, keys); nearest != "" {
			return nil, usage("no file has the key %s; %s was probably meant", old, nearest)
		}
		return nil, usage("no file has the key %s; zelvik table lists the keys", old)
	}
	if err := r.refer(w, families, old, fresh); err != nil {
		return nil, err
	}
	w.saveLedgers(&r.Plan)
	return r, nil
}

// family plans the change of each file once, whatever cultures it holds.
func (r *Renaming) family(f *Family, old, fresh string) error {
	seen := map[*File]bool{}
	for i, m := range f.Members {
		file := f.Files[i]
		for _, holder := range []*File{file, file.Companion} {
			if holder == nil || seen[holder] {
				continue
			}
			seen[holder] = true
			tag, has := culture.Tag(""), false
			for _, c := range holder.Document.Catalogs() {
				if !has && c.Find(old) != nil {
					tag, has = c.Culture, true
				}
			}
			if !has {
				continue
			}
			data, losses, err := holder.Document.Edit([]format.Change{{Op: format.Rename, Culture: tag, Key: old, NewKey: fresh}})
			if err != nil {
				return &FileError{holder.Path, err.Error(), "rename it by hand"}
			}
			for j := range losses {
				losses[j].Path, losses[j].Culture = holder.Path, m.Culture
			}
			r.Losses = append(r.Losses, losses...)
			r.Add(holder.Path, holder.data, data)
		}
	}
	return nil
}

package refer

import (
	"slices"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/files"
	"zelvik/finding"
	"zelvik/format"
	"zelvik/project"
)

// Renaming is the plan of a key's renaming.
type Renaming struct {
	files.Plan
	Losses []catalog.Loss
	// Mentions are places that may refer to the key, and are left as they are.
	Mentions []Mention
}

// Rename plans a key's new name in every culture of the families that have it,
// and in the layouts and the code that refer to it, as far as that is certain.
func Rename(w *project.Workspace, old, fresh string) (*Renaming, error) {
	r := &Renaming{}
	var families []*project.Family
	for _, f := range w.Families {
		has := false
		for _, m := range f.Members {
			if m.Catalog.Find(fresh) != nil {
				return nil, project.Usage("%s has the key %s already; choose another name", m.Path, fresh)
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
		record, err := w.Record(f)
		if err != nil {
			return nil, err
		}
		record.Rename(old, fresh)
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
			return nil, project.Usage("no file has the key %s; %s was probably meant", old, nearest)
		}
		return nil, project.Usage("no file has the key %s; zelvik table lists the keys", old)
	}
	if err := r.refer(w, families, old, fresh); err != nil {
		return nil, err
	}
	w.SaveLedgers(&r.Plan)
	return r, nil
}

// family plans the change of each file once, whatever cultures it holds.
func (r *Renaming) family(f *project.Family, old, fresh string) error {
	seen := map[*project.File]bool{}
	for i, m := range f.All() {
		file := f.Files[i]
		for _, holder := range file.All() {
			if seen[holder] {
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
			data, losses, err := renameAll(holder, tag, old, fresh)
			if err != nil {
				return err
			}
			if err := holder.ReadBack([]format.Change{{Op: format.Rename, Key: old, NewKey: fresh}}, data, losses); err != nil {
				return err
			}
			for j := range losses {
				losses[j].Path, losses[j].Culture = holder.Path, m.Culture
			}
			r.Losses = append(r.Losses, losses...)
			r.Add(holder.Path, holder.Data, data)
		}
	}
	return nil
}

// renameAll renames a key in a file: in some formats once for all cultures, in
// others each culture has it by itself.
func renameAll(file *project.File, first culture.Tag, old, fresh string) ([]byte, []catalog.Loss, error) {
	document, tag := file.Document, first
	for turn := 0; ; turn++ {
		data, losses, err := document.Edit([]format.Change{{Op: format.Rename, Culture: tag, Key: old, NewKey: fresh}})
		if err != nil {
			return nil, nil, &files.Error{Path: file.Path, Text: err.Error(), Fix: "rename it by hand"}
		}
		document, _ = file.Format.Parse(data)
		left := slices.IndexFunc(document.Catalogs(), func(c *catalog.Catalog) bool { return c.Find(old) != nil && c.Culture != tag })
		if left < 0 || turn > len(document.Catalogs()) {
			return data, losses, nil
		}
		tag = document.Catalogs()[left].Culture
	}
}

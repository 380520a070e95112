package project

import (
	"io/fs"
	"os"
	"path/filepath"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/finding"
	"zelvik/format"
)

// Renaming is the plan of a key's renaming.
type Renaming struct {
	Plan
	Losses []catalog.Loss
}

// Rename plans a key's new name in every culture of the families that have it,
// and in Android's layouts and manifest.
func (w *Workspace) Rename(old, fresh string) (*Renaming, error) {
	r := &Renaming{}
	found := false
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
		found = true
		if err := r.family(f, old, fresh); err != nil {
			return nil, err
		}
		if f.Format.Name == "android" {
			if err := r.layouts(f.Dir, old, fresh); err != nil {
				return nil, err
			}
		}
	}
	if !found {
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

// layouts replaces references to a string in the XML files of the resources
// beside the catalogs, and in the manifest above them.
func (r *Renaming) layouts(res, old, fresh string) error {
	dir := filepath.FromSlash(res)
	var files []string
	_ = filepath.WalkDir(dir, func(at string, d fs.DirEntry, err error) error {
		if err == nil && d.Type().IsRegular() && filepath.Ext(at) == ".xml" && !strings.HasPrefix(filepath.Base(filepath.Dir(at)), "values") {
			files = append(files, at)
		}
		return nil
	})
	if manifest := filepath.Join(filepath.Dir(dir), "AndroidManifest.xml"); exists(manifest) {
		files = append(files, manifest)
	}
	for _, at := range files {
		data, err := os.ReadFile(at)
		if err != nil {
			return ReadError(at, err)
		}
		text := string(data)
		changed := replaceName(text, "@string/"+old, "@string/"+fresh)
		changed = replaceName(changed, "@plurals/"+old, "@plurals/"+fresh)
		if changed != text {
			r.Add(at, data, []byte(changed))
		}
	}
	return nil
}

func exists(path string) bool {
	_, err := os.Stat(path)
	return err == nil
}

// replaceName replaces a name where it ends there, and not as the beginning of
// a longer one.
func replaceName(text, old, fresh string) string {
	var out strings.Builder
	for {
		at := strings.Index(text, old)
		if at < 0 {
			return out.String() + text
		}
		end := at + len(old)
		out.WriteString(text[:at])
		if end < len(text) && (text[end] == '_' || text[end] == '.' || text[end] >= '0' && text[end] <= '9' || text[end]|0x20 >= 'a' && text[end]|0x20 <= 'z') {
			out.WriteString(text[at:end])
		} else {
			out.WriteString(fresh)
		}
		text = text[end:]
	}
}

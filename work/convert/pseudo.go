package convert

import (
	"bytes"
	"path/filepath"
	"regexp"
	"slices"
	"sync"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/format"
	"zelvik/project"
)

// Pseudo plans a pseudo-culture of every family, beside it or below out.
func Pseudo(w *project.Workspace, tag culture.Tag, make func(*catalog.Catalog) *catalog.Catalog, out string) (*Conversion, error) {
	c := &Conversion{}
	for _, f := range w.Families {
		source := f.SourceMember()
		if source == nil {
			return nil, project.Usage("%s has no file in the source culture %s; name it in zelvik.yaml", f.Name, f.Source)
		}
		if damage := f.File(source).Damaged(); damage != nil {
			return nil, project.Refuse(damage)
		}
		if err := c.AddCulture(f, make(source.Catalog), out); err != nil {
			return nil, err
		}
	}
	return c, nil
}

// AddCulture plans the file of a culture that a family does not have, beside its
// others or below out: a catalog with texts in the source's format and shape. In a
// file that holds all cultures it becomes one of them.
func (c *Conversion) AddCulture(f *project.Family, made *catalog.Catalog, out string) error {
	source := f.SourceMember()
	file, tag := f.File(source), made.Culture
	if f.Format.Holds.Many {
		return c.intoAll(f, file, made, out)
	}
	dir := f.Dir
	if out != "" {
		dir = out
	}
	if f.Format.Holds.Items { // the file takes the shape of the source's
		if added, err := c.addLike(f, file, source.Catalog, made, f.PathOf(dir, tag)); err != nil || added {
			return err
		}
	}
	wr := &writer{conversion: c, target: f.Format}
	companion := ""
	if f.Format.Companion != nil {
		companion = f.Format.Companion.Path(dir, f.Table, tag, false)
	}
	from, path, src := []project.Holding{{File: file, Catalog: made}}, f.PathOf(dir, tag), source.Catalog
	if f.Format.Holds.Bilingual {
		from, src = []project.Holding{{File: file, Catalog: source.Catalog}, from[0]}, nil
	}
	r := wr.compose(from, src, path, companion)
	r.losses = nil // it is in the same format and loses nothing that is shown
	wr.include(r)
	return nil
}

// addLike plans a file that is the source's with other texts. It is false where
// that would have texts of other cultures, or say that it is of another.
func (c *Conversion) addLike(f *project.Family, file *project.File, source, made *catalog.Catalog, path string) (bool, error) {
	var changes []format.Change
	for i := range source.Entries {
		e := &source.Entries[i]
		change := format.Change{Op: format.Remove, Culture: source.Culture, Key: e.Key}
		if own := made.Near(i, e.ID()); own != nil {
			change.Op, change.Message = format.Set, &own.Message
		}
		changes = append(changes, change)
	}
	data, _, err := file.Edit(changes)
	if err != nil {
		return false, err
	}
	again, _ := f.Format.Parse(data)
	if holdings := again.Catalogs(); len(holdings) != 1 || holdings[0].Culture != "" && holdings[0].Culture != made.Culture {
		return false, nil
	}
	c.Add(path, nil, data)
	c.Files = append(c.Files, project.Converted{From: file.Path, Path: path, Format: f.Format.Name, Culture: made.Culture, Entries: len(made.Entries)})
	return true, nil
}

// apart reports whether the cultures of a family have a file each, though one
// could hold them all.
func apart(f *project.Family) bool {
	return slices.ContainsFunc(f.Files, func(file *project.File) bool { return file != f.Files[0] })
}

// tail returns a file of its own for what an edit has put after the end of a file of
// resources: with that file's beginning, up to its first language.
func tail(before, after []byte) ([]byte, bool) {
	fresh, ok := bytes.CutPrefix(after, before)
	if !ok || len(fresh) == 0 {
		return nil, false
	}
	head := language().FindIndex(before)
	if head == nil {
		return nil, false
	}
	return slices.Concat(before[:head[0]], bytes.TrimLeft(fresh, "\r\n")), true
}

var language = sync.OnceValue(func() *regexp.Regexp { return regexp.MustCompile(`(?mi)^[ \t]*LANGUAGE\b`) })

// intoAll plans a culture more in a file that holds all of them.
func (c *Conversion) intoAll(f *project.Family, file *project.File, made *catalog.Catalog, out string) error {
	path, old := file.Path, file.Data
	if out != "" {
		path, old = filepath.FromSlash(f.Format.Path(filepath.ToSlash(out), f.Table, made.Culture, true)), nil
	}
	var changes []format.Change
	for i := range made.Entries {
		e := &made.Entries[i]
		change := format.Change{Op: format.Set, Culture: made.Culture, Key: e.Key, Message: &e.Message}
		if e.State != catalog.Unstated && f.HoldsStates() {
			change.State = &e.State
		}
		changes = append(changes, change)
	}
	data, _, err := file.Edit(changes)
	if err != nil {
		return err
	}
	if path == file.Path && apart(f) {
		if own, ok := tail(file.Data, data); ok {
			path = f.PathOf(f.Dir, made.Culture)
			old, data = nil, own
		}
	}
	c.Add(path, old, data)
	c.Files = append(c.Files, project.Converted{From: file.Path, Path: path, Format: f.Format.Name, Culture: made.Culture, Entries: len(made.Entries)})
	return nil
}

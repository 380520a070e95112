package project

import (
	"fmt"
	"path"
	"path/filepath"
	"runtime"
	"slices"
	"strings"
	"sync"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/files"
	"zelvik/finding"
	"zelvik/format"
	toolkits "zelvik/toolkit/all"
)

// Family is a family of files of one format.
type Family struct {
	catalog.Family
	Format *format.Format
	// Files are the members' files, in the members' order, and then the twins'.
	Files []*File
	// Others are the cultures of its files that the options left out.
	Others []culture.Tag
	// Dir and Table are what the files' names share.
	Dir, Table string
	// Misnamed are files that would belong to it under another name.
	Misnamed []*File
	// stateless says that its files have no room for the states that their
	// format holds: spreadsheets without a column for them.
	stateless bool
	disk      *files.Disk
}

// File returns the file of a member.
func (f *Family) File(m *catalog.Member) *File {
	for i := range f.Files {
		if f.at(i) == m {
			return f.Files[i]
		}
	}
	return nil
}

// at returns the member or twin of a file by its number.
func (f *Family) at(i int) *catalog.Member {
	if i < len(f.Members) {
		return f.Members[i]
	}
	return f.Twins[i-len(f.Members)]
}

// All are the members and the twins, in the order of their files.
func (f *Family) All() []*catalog.Member { return slices.Concat(f.Members, f.Twins) }

// HoldsStates reports whether the family's files hold states.
func (f *Family) HoldsStates() bool { return f.Format.Holds.States && !f.stateless }

// Options say which files are looked at.
type Options struct {
	// From names the format of the files, "" to detect it.
	From string
	// Source is the source culture, "" to find it out.
	Source culture.Tag
	// Cultures limits the cultures, nil for all.
	Cultures []culture.Tag

	// Disk is where files are read.
	Disk *files.Disk

	// Exact keeps to the files that are named; else a file stands for its family.
	Exact bool

	// beside leaves out what cannot be in a family whose files share this folder.
	beside string

	// Files locks what is read until it is written, for commands that change
	// it; nil for those that only read.
	Files *files.Session

	// config gives formats to its places; it may be nil.
	config *Config
}

// Group makes families of files.
func Group(files []*File, o Options) []*Family {
	type id struct {
		format     *format.Format
		dir, table string
	}
	families := map[id]*Family{}
	var order []id
	for _, file := range files {
		if file.Location.Aside {
			continue
		}
		key := id{file.Format, file.Location.Dir, file.Location.Table}
		if file.Location.Part {
			key.table = ""
		}
		if _, ext := NearExtension(file.Path); ext != "" { // the table's name may be in the wrong case, too
			for _, other := range order {
				if other.format == key.format && other.dir == key.dir && strings.EqualFold(other.table, key.table) {
					key = other
				}
			}
		}
		f := families[key]
		if f == nil {
			f = &Family{Format: file.Format, Dir: key.dir, Table: key.table}
			f.Name, f.Family.Format = path.Join(key.dir, key.table), file.Format.Name
			families[key] = f
			order = append(order, key)
		}
		f.Files = append(f.Files, file)
	}
	list := make([]*Family, len(order))
	for i, key := range order {
		if list[i] = families[key]; key.table == "" {
			list[i].gather()
		}
	}
	adopt(list)
	list = slices.DeleteFunc(list, func(f *Family) bool { return len(f.Files) == 0 })
	for _, f := range list {
		f.settle(o)
	}
	return list
}

// gather makes one of the files of each folder: the one that is called as the
// format's usual table or as the most, with the others as its parts.
func (f *Family) gather() {
	names := map[string]int{}
	for _, file := range f.Files {
		names[file.Location.Table]++
	}
	for name, n := range names {
		if f.Table == "" || name == f.Format.Table || f.Table != f.Format.Table && (n > names[f.Table] || n == names[f.Table] && name < f.Table) {
			f.Table = name
		}
	}
	f.Name = path.Join(f.Dir, f.Table)
	type folder struct {
		tag     culture.Tag
		neutral bool
	}
	first := map[folder]*File{}
	kept := f.Files[:0:0]
	slices.SortStableFunc(f.Files, func(a, b *File) int { return compareBool(b.Location.Table == f.Table, a.Location.Table == f.Table) })
	for _, file := range f.Files {
		at := folder{file.Location.Culture, file.Location.Neutral}
		if main := first[at]; main != nil && !file.misnamed() && filepath.Dir(main.Path) == filepath.Dir(file.Path) {
			main.Parts = append(main.Parts, file)
			continue
		}
		if !file.misnamed() {
			first[at] = file
		}
		kept = append(kept, file)
	}
	f.Files = kept
	for _, file := range f.Files {
		file.tellDoubles()
	}
}

// tellDoubles reports keys that stand in two parts: the platform refuses them.
func (f *File) tellDoubles() {
	if f.Parts == nil {
		return
	}
	seen := map[string]*File{}
	for _, one := range append([]*File{f}, f.Parts...) {
		for i := range one.Document.Catalogs()[0].Entries {
			e := &one.Document.Catalogs()[0].Entries[i]
			if _, index, ok := catalog.SplitArrayKey(e.Key); ok && index > 0 {
				continue
			}
			if other := seen[e.ID()]; other != nil && other != one {
				line, column := one.At(e.Offset)
				one.Findings = append(one.Findings, finding.Finding{Rule: "key-duplicate", Severity: finding.Error, Path: one.Path, Line: line, Column: column, Key: e.Key,
					Message: fmt.Sprintf("the key %s stands in %s, too", e.Key, other.Path), Fix: "remove one of them"})
			}
			seen[e.ID()] = one
		}
	}
}

// Home returns the file of a member in which a key stands, or in which it belongs
// where it is new: a plural in the companion, where there is one, any text in the
// file of the table that has it in the source.
func (f *Family) Home(m *catalog.Member, id string, choice bool) *File {
	file, source := f.File(m), f.SourceMember()
	switch {
	case m.Catalog.Find(id) != nil:
		return file.Holder(id)
	case choice && file.Companion != nil:
		return file.Companion
	case source == nil || source == m || file.Parts == nil:
		return file
	}
	table := f.File(source).Holder(id).Location.Table
	for _, one := range file.All() {
		if one.Location.Table == table {
			return one
		}
	}
	return file
}

// neutral reports whether a file has no culture in its name.
func neutral(f *File) bool { return f.Location.Neutral }

// Answers reports whether a culture is one of those asked for or a parent of
// one, which answers where it has no text.
func Answers(tag culture.Tag, asked []culture.Tag) bool {
	return slices.ContainsFunc(asked, func(t culture.Tag) bool { return t == tag || slices.Contains(t.Parents(), tag) })
}

func compareBool(a, b bool) int {
	if a == b {
		return 0
	}
	if a {
		return 1
	}
	return -1
}

// misnamed reports whether the platform would not find the file.
func (f *File) misnamed() bool {
	if _, ext := NearExtension(f.Path); ext != "" {
		return true
	}
	return f.Location.Misnamed != "" || f.Location.Unknown != nil
}

// GuessSource takes the culture that the neutral file states, English where it
// states none or there is an English file, else the culture with most texts; where
// several have as many, a regional English.
func (f *Family) GuessSource() culture.Tag {
	most, best := -1, culture.Tag("en")
	for _, file := range f.Files {
		if file.Location.Neutral || len(file.Document.Catalogs()) > 1 {
			if tag := f.neutralLanguage(file); tag != "" {
				return tag
			}
			if tag := file.Document.Catalogs()[0].Culture; tag != "" {
				return tag
			}
			return "en"
		}
	}
	for _, file := range f.Files { // English before the count, plain English before all
		tag := file.Location.Culture
		n := len(file.Document.Catalogs()[0].Entries)
		switch {
		case tag == "en":
			return tag
		case tag == "" || file.misnamed() || best.Base() == "en" && most >= 0 && tag.Base() != "en":
		case n > most, tag.Base() == "en" && best.Base() != "en", tag == "en-US" && n >= most*9/10:
			most, best = n, tag
		}
	}
	return best
}

// neutralLanguage returns the culture of a file without one, as the project around it
// states it; "" where it does not.
func (f *Family) neutralLanguage(file *File) culture.Tag {
	for _, t := range toolkits.Toolkits {
		if t.Neutral != nil && slices.Contains(t.Catalogs, f.Format.Name) {
			return t.Neutral(f.disk, filepath.Dir(file.Path))
		}
	}
	return ""
}

// CompleteAll gives names, positions and types to the placeholders of all
// members, from the source. It runs once per family.
func (f *Family) CompleteAll() {
	source := f.SourceMember()
	if source != nil {
		source.Catalog.Complete(nil)
	}
	for _, m := range f.Members {
		m.Catalog.At("") // make the indexes before they are shared
		if file := f.File(m); source != nil && file != nil && m != source && f.File(source) != nil {
			file.like = f.File(source).Document
		}
	}
	var wait sync.WaitGroup
	limit := make(chan struct{}, runtime.GOMAXPROCS(0))
	for _, m := range f.Members {
		if m == source {
			continue
		}
		wait.Go(func() {
			limit <- struct{}{}
			defer func() { <-limit }()
			if source == nil {
				m.Catalog.Complete(nil)
			} else {
				m.Catalog.Complete(source.Catalog)
			}
		})
	}
	wait.Wait()
}

// Neighbour returns the key after which a new entry goes: the nearest one above
// it in the source that the culture has; the key itself where it goes last.
func (f *Family) Neighbour(m *catalog.Member, key string) string {
	source := f.SourceMember()
	if source == nil {
		return key // it goes last
	}
	for i := source.Catalog.At(key) - 1; i >= 0; i-- {
		if k := source.Catalog.Entries[i].Key; m.Catalog.Find(k) != nil {
			return k
		}
	}
	if source.Catalog.At(key) < 0 {
		return key // not there: it goes last
	}
	return ""
}

// Regional reports whether the family has a parent of the culture beside the
// source: then its file holds only what differs, and the parent answers for
// the rest.
func (f *Family) Regional(m *catalog.Member) bool {
	return slices.ContainsFunc(m.Culture.Parents(), func(tag culture.Tag) bool {
		parent := f.Member(tag)
		return parent != nil && parent.Culture != f.Source
	})
}

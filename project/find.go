package project

import (
	"io/fs"
	"path"
	"path/filepath"
	"runtime"
	"slices"
	"strings"

	"golang.org/x/sync/errgroup"

	"zelvik/files"
	"zelvik/format"
	"zelvik/format/all"
)

// Skipped are folders that hold copies and no sources.
var Skipped = map[string]bool{"node_modules": true, "build": true, "bin": true, "obj": true, "vendor": true, "DerivedData": true, "Pods": true}

// ExchangeName is the file in a folder of what was handed to translators: no family
// is looked for there, unless somebody names it.
const ExchangeName = "zelvik-exchange.txt"

// Find lists the string files at the paths: files as they are, folders
// searched, patterns expanded. Order is stable.
func Find(disk *files.Disk, paths []string, from string) ([]string, error) {
	var found, doubtful []string
	for _, p := range paths {
		info, err := disk.Stat(p)
		if err != nil && strings.ContainsAny(p, "*?[{") {
			matches, err := disk.Glob(p)
			if err != nil {
				return nil, Usage("%s: %v", p, err)
			}
			if len(matches) == 0 {
				return nil, Usage("%s: no file fits this pattern; check it, or name a folder", p)
			}
			found = append(found, matches...)
			continue
		}
		if err != nil {
			return nil, files.ReadError(p, err)
		}
		if !info.IsDir() {
			found = append(found, p)
			continue
		}
		err = disk.Walk(p, func(at string, d fs.DirEntry, err error) error {
			switch {
			case err != nil:
				return files.ReadError(at, err)
			case d.IsDir() && at != p && (Skipped[d.Name()] || strings.HasPrefix(d.Name(), ".") || disk.There(filepath.Join(at, ExchangeName))):
				return filepath.SkipDir
			case d.Type().IsRegular():
				switch candidate(disk, at, from) {
				case format.Yes:
					found = append(found, at)
				case format.Maybe:
					doubtful = append(doubtful, at)
				}
			}
			return nil
		})
		if err != nil {
			return nil, err
		}
	}
	found = append(found, related(found, doubtful)...)
	slices.Sort(found)
	return slices.Compact(found), nil
}

// related returns the doubtful files that belong to a family of which another
// member is sure, as messages.properties does beside messages_de.properties.
func related(sure, doubtful []string) []string {
	if len(doubtful) == 0 {
		return nil
	}
	known := map[string]bool{}
	id := func(at string) string {
		name := filepath.ToSlash(at)
		f, _ := all.Detect(name, nil)
		if f == nil {
			return ""
		}
		return f.Name + " " + f.Locate(name).Family()
	}
	// other is the family of a source that is called so: lang/base/app.json, lang/base.json.
	other := func(at string) string {
		name := filepath.ToSlash(at)
		f, _ := all.Detect(name, nil)
		if f == nil {
			return ""
		}
		switch l := f.Locate(name); {
		case called(l.Table):
			return f.Name + " " + path.Join(l.Dir, f.Table)
		case called(path.Base(l.Dir)):
			return f.Name + " " + path.Join(path.Dir(l.Dir), l.Table)
		}
		return ""
	}
	for _, at := range sure {
		known[id(at)] = true
	}
	return slices.DeleteFunc(doubtful, func(at string) bool { return !known[id(at)] && !known[other(at)] })
}

// candidate says how surely a file in a searched folder is a string file, by
// its name, or where the name leaves it open by its first bytes.
func candidate(disk *files.Disk, at, from string) format.Fit {
	name := filepath.ToSlash(at)
	if f, fit := all.Detect(name, nil); f != nil && f.Name == "mo" {
		return format.No // it is made of a file that counts
	} else if f != nil {
		if fit == format.Maybe {
			if data := disk.Head(at, HeadSize); len(data) > 0 {
				f, fit = all.Detect(name, data)
				if len(data) == HeadSize && fit == format.Maybe && f.Locate(name).Part { // colours and styles may come before the texts
					if whole, err := disk.Read(at); err == nil {
						f, fit = all.Detect(name, whole)
					}
				}
				if f == nil {
					return format.No // TypeScript, say, and no translation source of Qt's
				}
			}
		}
		if asked, _ := all.Named(from); asked != nil && f.Name != asked.Name && f.Companion != asked && asked.Companion != f {
			return format.No
		}
		if fit == format.Maybe && (path.Base(name) == f.Table+path.Ext(name) || from != "") {
			return format.Yes
		}
		return fit
	}
	if f, _ := NearExtension(at); f != nil && (from == "" || f.Name == from) {
		return format.Yes
	}
	if filepath.Ext(at) == ".xml" && strings.HasPrefix(path.Base(path.Dir(name)), "values") {
		if _, fit := all.Detect(name, disk.Head(at, HeadSize)); fit == format.Yes {
			return fit
		}
	}
	return format.No
}

// HeadSize is how many bytes of a file are looked at to find its format.
const HeadSize = 2048

// Families reads the string files at the paths and groups them.
func Families(paths []string, o Options) ([]*Family, error) {
	if _, err := all.Named(o.From); o.From != "" && err != nil {
		return nil, &UsageError{err.Error()}
	}
	var found []string
	named := map[string]string{}
	for _, p := range paths {
		stated := []string{o.From}
		if o.From == "" {
			stated = o.config.formatsOf(p)
		}
		for _, from := range stated {
			at, err := Find(o.Disk, []string{p}, from)
			if err != nil {
				return nil, err
			}
			if o.beside != "" {
				at = slices.DeleteFunc(at, func(one string) bool { return !mayJoin(o.beside, one) })
			}
			for _, one := range at {
				if _, known := named[one]; known {
					continue
				}
				if named[one] = from; o.From == "" && from == "" { // a place inside of a folder that was named
					named[one] = o.config.formatsOf(one)[0]
				}
			}
			found = append(found, at...)
		}
	}
	slices.Sort(found)
	found = slices.Compact(found)
	files := make([]*File, len(found))
	var group errgroup.Group
	group.SetLimit(runtime.GOMAXPROCS(0))
	for i, p := range found {
		group.Go(func() error {
			named := named[p]
			if near, _ := NearExtension(p); near != nil && named == "" {
				named = near.Name
			}
			if f, _ := all.Named(named); f != nil && f.Companion != nil && slices.Contains(f.Companion.Extensions, filepath.Ext(p)) {
				named = f.Companion.Name
			}
			file, err := Open(o.Disk, p, named)
			files[i] = file
			return err
		})
	}
	if err := group.Wait(); err != nil {
		return nil, err
	}
	return slices.DeleteFunc(Group(files, o), func(f *Family) bool { return len(f.Files) > 0 && named[f.Files[0].Path] == "" && f.unlike() }), nil
}

// mayJoin reports whether a file can be in a family whose files share a folder, as
// far as names tell it: see adopt for those that lie deeper.
func mayJoin(folder, at string) bool {
	f, _ := all.Detect(filepath.ToSlash(at), nil)
	if f == nil {
		return true
	}
	dir := path.Clean(f.Locate(filepath.ToSlash(at)).Dir)
	folder = path.Clean(filepath.ToSlash(folder))
	return dir == folder || around(dir) == folder
}

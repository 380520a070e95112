package project

import (
	"path/filepath"
	"strings"

	"zelvik/culture"
)

// PathOf returns the path of a family's file for a culture, named as its siblings
// are: locale/fr/LC_MESSAGES/app.po has locale/en_XA/LC_MESSAGES/app.po beside it.
func (f *Family) PathOf(dir string, tag culture.Tag) string {
	plain := filepath.FromSlash(f.Format.Path(dir, f.Table, tag, false))
	if dir != f.Dir {
		return plain
	}
	for _, m := range f.Members {
		if m.Neutral || m.Culture == "" {
			continue
		}
		at := filepath.ToSlash(m.Path)
		for _, spell := range spellings {
			old := spell(m.Culture)
			if old == m.Culture.Base() && tag != culture.Tag(tag.Base()) && !strings.Contains(filepath.ToSlash(plain), spell(tag)) {
				continue // the sibling does not show how regions are spelled
			}
			i := strings.LastIndex(at, old)
			if i < 0 || i > 0 && wordChar(at[i-1]) || i+len(old) < len(at) && wordChar(at[i+len(old)]) {
				continue
			}
			here := f.Format.Locate(at)
			for _, path := range []string{at[:i] + spell(tag) + at[i+len(old):], everywhere(at, old, spell(tag))} {
				there := f.Format.Locate(path)
				if there.Culture == tag && there.Misnamed == "" && here.Culture == m.Culture && (there.Family() == here.Family() || there.Table == strings.ReplaceAll(here.Table, old, spell(tag))) {
					return filepath.FromSlash(path)
				}
			}
		}
	}
	return plain
}

// everywhere spells a culture otherwise wherever it is a word of a path:
// values-de/values-de.xml.
func everywhere(path, old, fresh string) string {
	out := ""
	for {
		i := strings.Index(path, old)
		if i < 0 {
			return out + path
		}
		if i > 0 && wordChar(path[i-1]) || i+len(old) < len(path) && wordChar(path[i+len(old)]) {
			out, path = out+path[:i+len(old)], path[i+len(old):]
			continue
		}
		out, path = out+path[:i]+fresh, path[i+len(old):]
	}
}

// spellings are the ways in which files and folders spell cultures.
var spellings = []func(culture.Tag) string{
	func(t culture.Tag) string { return strings.ReplaceAll(string(t), "-", "_") },
	func(t culture.Tag) string { return string(t) },
	func(t culture.Tag) string { return strings.ToLower(string(t)) },
}

func wordChar(c byte) bool { return c >= '0' && c <= '9' || c|0x20 >= 'a' && c|0x20 <= 'z' }

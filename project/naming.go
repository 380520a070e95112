package project

import (
	"path/filepath"
	"strings"

	"zelvik/culture"
)

// PathOf gives the path of a family's file for a culture, named as its siblings
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
			if old == m.Culture.Base() && !strings.Contains(filepath.ToSlash(plain), spell(tag)) {
				continue // the sibling does not show how regions are spelled
			}
			i := strings.LastIndex(at, old)
			if i < 0 || i > 0 && wordChar(at[i-1]) || i+len(old) < len(at) && wordChar(at[i+len(old)]) {
				continue
			}
			path := at[:i] + spell(tag) + at[i+len(old):]
			there, here := f.Format.Locate(path), f.Format.Locate(at)
			if there.Culture == tag && there.Family() == here.Family() && here.Culture == m.Culture {
				return filepath.FromSlash(path)
			}
		}
	}
	return plain
}

// spellings are the ways in which files and folders spell cultures.
var spellings = []func(culture.Tag) string{
	func(t culture.Tag) string { return strings.ReplaceAll(string(t), "-", "_") },
	func(t culture.Tag) string { return string(t) },
	func(t culture.Tag) string { return strings.ToLower(string(t)) },
}

func wordChar(c byte) bool { return c >= '0' && c <= '9' || c|0x20 >= 'a' && c|0x20 <= 'z' }

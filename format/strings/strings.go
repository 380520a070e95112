// Package strings reads and writes Apple's .strings tables: the old property
// list form with quoted keys and values, in UTF-8 or UTF-16. Plurals of a
// family stand in a .stringsdict beside it.
package strings

import (
	"path"
	"regexp"
	"strings"
	"sync"

	"zelvik/culture"
	"zelvik/format"
	"zelvik/format/stringsdict"
)

// Format is the format "strings".
var Format = &format.Format{
	Name:       "strings",
	Title:      "Apple strings table; plurals stand beside it",
	Files:      "de.lproj/Localizable.strings",
	Extensions: []string{".strings"},
	Table:      "Localizable",
	Companion:  stringsdict.Format,
	Holds:      holds,
	Recognise:  recognise,
	Locate:     locate,
	Path:       filePath,
	Parse:      parse,
	Message:    readFaults,
	Compose:    compose,
}

func recognise(p string, head []byte) format.Fit {
	if strings.EqualFold(path.Ext(p), ".strings") {
		return format.Yes
	}
	if assignment().Match(head) {
		return format.Maybe
	}
	return format.No
}

// assignment is how the lines of a table look.
var assignment = sync.OnceValue(func() *regexp.Regexp {
	return regexp.MustCompile(`(?m)^\s*"(?:[^"\\]|\\.)*"\s*=\s*"(?:[^"\\]|\\.)*"\s*;`)
})

func locate(p string) format.Location { return stringsdict.LocateIn(p, "strings") }

func filePath(dir, table string, tag culture.Tag, neutral bool) string {
	return path.Join(dir, string(tag)+".lproj", table+".strings")
}

var holds = format.Abilities{Zero: true, Types: true, Notes: true}

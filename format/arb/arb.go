// Package arb reads and writes Application Resource Bundles: JSON with ICU
// messages and metadata beside them (ARB specification), as Flutter uses them.
package arb

import (
	"path"
	"strings"

	"zelvik/culture"
	"zelvik/format"
	"zelvik/message/icu"
)

// Format is the format "arb".
var Format = &format.Format{
	Name:       "arb",
	Title:      "Application Resource Bundle",
	Files:      "app_de.arb",
	Extensions: []string{".arb"},
	Table:      "app",
	Holds:      holds,
	Recognise:  recognise,
	Locate:     locate,
	Path:       filePath,
	Parse:      parse,
	Message:    icu.Parse,
	Compose:    compose,
}

var holds = format.Abilities{
	Plurals: true, Exact: true, Ordinals: true, Selects: true, Several: true, Names: true, Samples: true, Types: true, Notes: true,
}

func recognise(p string, head []byte) format.Fit {
	switch {
	case strings.EqualFold(path.Ext(p), ".arb"):
		return format.Yes
	case strings.Contains(string(head), `"@@locale"`):
		return format.Maybe
	}
	return format.No
}

// locate takes the longest ending of the name that is a culture: app_pt_BR.arb.
func locate(p string) format.Location {
	name := strings.TrimSuffix(path.Base(p), path.Ext(p))
	location := format.Location{Dir: path.Dir(p), Table: name, Neutral: true}
	var unknown *culture.UnknownError
	for i := 0; i < len(name); i++ {
		if i > 0 && name[i-1] != '_' && name[i-1] != '-' || i == 0 && len(name) > 3 && name[2] != '_' && name[2] != '-' {
			continue
		}
		suffix := name[i:]
		tag, err := culture.Parse(suffix)
		if err == nil && (len(tag.Base()) == 2 || i > 0 && tag.Known()) {
			location.Table, location.Culture, location.Neutral = strings.TrimRight(name[:i], "_-"), tag, false
			if location.Table == "" {
				location.Table = "app"
			}
			return location
		}
		if bad, ok := err.(*culture.UnknownError); ok && i > 0 && (len(suffix) == 2 || len(suffix) == 5 && bad.Meant != "") {
			unknown = bad
			location.Table, location.Neutral = strings.TrimRight(name[:i], "_-"), false
			break
		}
	}
	if unknown != nil {
		location.Unknown = unknown
		if location.Culture = unknown.Meant; unknown.Meant != "" {
			location.Meant = filePath(location.Dir, location.Table, unknown.Meant, false)
		}
	}
	return location
}

func filePath(dir, table string, tag culture.Tag, neutral bool) string {
	return path.Join(dir, table+"_"+strings.ReplaceAll(string(tag), "-", "_")+".arb")
}

// Package qt reads and writes Qt's translation sources (TS 2.1): XML with
// contexts of messages, a source and a translation in one file.
package qt

import (
	"path"
	"strings"

	"zelvik/culture"
	"zelvik/format"
	"zelvik/message"
)

// Format is the format "qt".
var Format = &format.Format{
	Name:       "qt",
	Title:      "Qt translation source",
	Files:      "app_de.ts",
	Extensions: []string{".ts"},
	Table:      "app",
	Template:   true,
	Holds:      holds,
	NameCounts: true,
	Recognise:  recognise,
	Locate:     locate,
	Path: func(dir, table string, tag culture.Tag, _ bool) string {
		return path.Join(dir, table+"_"+strings.ReplaceAll(string(tag), "-", "_")+".ts")
	},
	Parse: parse,
	Message: func(text string) (message.Message, []message.Fault) {
		return message.Message{Pattern: read(text)}, nil
	},
	Compose: format.Alone(join),
	Join:    join,
}

var holds = format.Abilities{Plurals: true, Notes: true, States: true, Bilingual: true}

// recognise looks into the file: the ending is TypeScript's, too.
func recognise(p string, head []byte) format.Fit {
	named := strings.EqualFold(path.Ext(p), ".ts")
	text := string(head)
	switch {
	case strings.HasSuffix(strings.ToLower(p), ".d.ts"): // TypeScript's, with types such as <TState>
		return format.No
	case strings.Contains(text, "<TS>") || strings.Contains(text, "<TS ") || strings.Contains(text, "<!DOCTYPE TS"):
		if named {
			return format.Yes
		}
		return format.Maybe
	case named && len(head) == 0:
		return format.Maybe
	}
	return format.No
}

// locate takes the longest ending of the name that is a culture: app_pt_BR.ts.
func locate(p string) format.Location {
	location, ok := format.InName(p, "app", "_.-", culture.ParsePOSIX)
	if ok {
		return location
	}
	name := location.Table
	for i := 1; i < len(name)-1; i++ {
		suffix := name[i+1:]
		if strings.IndexByte("_.-", name[i]) < 0 || len(suffix) != 2 && (len(suffix) != 5 || suffix[2] != '_') {
			continue
		}
		_, err := culture.Parse(suffix)
		if unknown, ok := err.(*culture.UnknownError); ok && unknown.Meant != "" {
			location.Table, location.Neutral, location.Unknown, location.Culture = name[:i], false, unknown, unknown.Meant
			location.Meant = path.Join(location.Dir, location.Table+"_"+strings.ReplaceAll(string(unknown.Meant), "-", "_")+".ts")
			return location
		}
	}
	return location
}

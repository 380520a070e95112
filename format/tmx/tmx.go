// Package tmx reads and writes translation memories in TMX 1.4b: units with a
// text in each culture.
package tmx

import (
	"path"
	"strings"

	"zelvik/culture"
	"zelvik/format"
	"zelvik/message"
	"zelvik/message/loose"
)

// Format is the format "tmx".
var Format = &format.Format{
	Name:       "tmx",
	Title:      "Translation memory (TMX 1.4b)",
	Files:      "memory.tmx",
	Extensions: []string{".tmx"},
	Table:      "memory",
	Holds:      holds,
	Recognise: func(p string, head []byte) format.Fit {
		switch {
		case strings.Contains(string(head), "{%") || strings.Contains(string(head), `="{{`): // a template of one
			return format.No
		case strings.EqualFold(path.Ext(p), ".tmx"):
			return format.Yes
		case strings.Contains(string(head), "<tmx "):
			return format.Maybe
		}
		return format.No
	},
	Locate: func(p string) format.Location {
		return format.Location{Dir: path.Dir(p), Table: strings.TrimSuffix(path.Base(p), path.Ext(p)), Neutral: true}
	},
	Path:    func(dir, table string, _ culture.Tag, _ bool) string { return path.Join(dir, table+".tmx") },
	Parse:   parse,
	Message: func(text string) (message.Message, []message.Fault) { return loose.Of(text).Parse(text) },
	Compose: format.Alone(join),
	Join:    join,
}

var holds = format.Abilities{
	Plurals: true, Zero: true, Exact: true, Ordinals: true, Selects: true, Several: true, Names: true, Types: true, Markup: true,
	Notes: true, Many: true,
}

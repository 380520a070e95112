// Package xcstrings reads and writes Apple's string catalogs: JSON with all
// cultures of a table in one file.
package xcstrings

import (
	"path"
	"strings"

	"zelvik/culture"
	"zelvik/format"
	"zelvik/message"
	"zelvik/message/printf"
)

// Format is the format "xcstrings".
var Format = &format.Format{
	Name:       "xcstrings",
	Title:      "Apple string catalog",
	Files:      "Localizable.xcstrings",
	Extensions: []string{".xcstrings"},
	Table:      "Localizable",
	Holds:      holds,
	Recognise: func(p string, head []byte) format.Fit {
		switch {
		case strings.EqualFold(path.Ext(p), ".xcstrings"):
			return format.Yes
		case strings.Contains(string(head), `"sourceLanguage"`) && strings.Contains(string(head), `"strings"`):
			return format.Maybe
		}
		return format.No
	},
	Locate: func(p string) format.Location {
		return format.Location{Dir: path.Dir(p), Table: strings.TrimSuffix(path.Base(p), path.Ext(p)), Neutral: true}
	},
	Path:  func(dir, table string, _ culture.Tag, _ bool) string { return path.Join(dir, table+".xcstrings") },
	Parse: parse,
	Message: func(text string) (message.Message, []message.Fault) {
		p, faults := printf.Foundation.Parse(text)
		return message.Message{Pattern: p}, faults
	},
	Compose: format.Alone(join),
	Join:    join,
}

var holds = format.Abilities{Plurals: true, Zero: true, Several: true, Types: true, Notes: true, States: true, Fixed: true, Many: true}

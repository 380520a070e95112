// Package qt knows Qt's forms, and the builds that list translations.
package qt

import (
	"strings"

	"zelvik/culture"
	"zelvik/format"
	"zelvik/format/xmlscan"
	"zelvik/language"
	"zelvik/toolkit"
)

// Toolkit is Qt.
var Toolkit = &toolkit.Toolkit{
	Name:   "Qt",
	Layout: language.Ending(".ui"),
	Source: &language.Kind{
		Name: "Qt form", Layout: true, Formats: []string{"qt"},
		Matches: language.Ending(".ui"),
		Texts:   texts,
		LookUps: []language.LookUp{{Formats: []string{"qt"}, Pattern: `<string\b[^>]*\bid="(KEY)`}},
	},
	Lists: []*toolkit.List{
		{File: "CMakeLists.txt", All: `(?s)(.*)`, Item: translation, Gap: " ", Blank: true, Spell: underscored},
		{File: "*.pr[oi]", All: `(?s)(.*)`, Item: translation, Gap: " ", Blank: true, Spell: underscored},
	},
}

// translation is the name of a file of translations.
const translation = `[\w./${}\\-]*?[\w}]_([a-z]{2,3}(?:_[A-Za-z0-9]+)*)\.ts\b`

// underscored spells a culture as the names of the files do.
func underscored(tag culture.Tag) string { return strings.ReplaceAll(string(tag), "-", "_") }

// texts finds the <string>s of properties. Qt translates them by
// themselves; in a catalog of ids they need an id.
func texts(p, text string, o language.Options) []language.Text {
	var list []language.Text
	property, widget := "", ""
	for s := xmlscan.New(text); s.Next(); {
		if s.Kind != xmlscan.Start {
			continue
		}
		switch s.Name {
		case "widget", "action":
			widget, _ = s.Value("name")
		case "property", "attribute":
			property, _ = s.Value("name")
		case "string":
			notr, _ := s.Value("notr")
			if _, has := s.Value("id"); has || notr == "true" || s.Lone {
				continue
			}
			from, at := s.To, s.From+len("<string")
			end := strings.IndexByte(text[from:], '<')
			if end <= 0 {
				continue
			}
			value := s.Unescape(from, from+end)
			if !language.Human(value, true) || property == "styleSheet" || property == "objectName" {
				continue
			}
			found := language.Text{From: from, To: from + end, Text: value, Where: property + " of " + widget, Screen: language.Screen(p), ID: widget, Certain: true}
			found.Reference = func(key string) string { return `<string id="` + key + `">` }
			found.With = func(key string) []format.Replacement {
				return []format.Replacement{{Start: at, End: at, Text: ` id="` + xmlscan.EscapeAttribute(key) + `"`}}
			}
			if !o.ByID {
				found.Reference = func(string) string { return "the text itself" }
				found.With = func(string) []format.Replacement { return nil }
			}
			list = append(list, found)
		}
	}
	return list
}

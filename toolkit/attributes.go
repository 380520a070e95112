package toolkit

import (
	"path"
	"regexp"
	"strings"
	"sync"

	"zelvik/format"
	"zelvik/format/xmlscan"
	"zelvik/language"
)

// Attributes are the attributes of a layout in XML that hold texts.
type Attributes struct {
	// Prefixes are those of the names, "" for names without one; Names are the names,
	// separated by spaces.
	Prefixes []string
	Names    string

	once sync.Once
	re   *regexp.Regexp
}

// Holds reports whether an attribute holds texts.
func (a *Attributes) Holds(name string) bool {
	a.once.Do(func() {
		a.re = regexp.MustCompile("^(" + strings.Join(a.Prefixes, "|") + ")(" + strings.ReplaceAll(a.Names, " ", "|") + ")$")
	})
	return a.re.MatchString(name)
}

// Texts makes a finder of texts in attributes, for toolkits whose files ask for a key
// in the attribute's value. ID names the attribute with the element's name, asks
// reports whether a value asks for a key already, and ask spells how.
func (a *Attributes) Texts(id string, asks func(value string) bool, ask func(key string) string) func(string, string, language.Options) []language.Text {
	return func(p, text string, _ language.Options) []language.Text {
		var list []language.Text
		for s := xmlscan.New(text); s.Next(); {
			if s.Kind != xmlscan.Start {
				continue
			}
			name, _ := s.Value(id)
			for _, at := range s.Attributes {
				value := s.Unescape(at.ValueFrom, at.ValueTo)
				if !a.Holds(at.Name) || asks(value) || !language.Human(value, true) {
					continue
				}
				list = append(list, language.Text{
					From: at.ValueFrom, To: at.ValueTo, Text: value, Where: at.Name + " of " + s.Name, Screen: language.Screen(p), ID: path.Base(name), Certain: true,
					Reference: ask,
					With: func(key string) []format.Replacement {
						return []format.Replacement{{Start: at.ValueFrom, End: at.ValueTo, Text: xmlscan.EscapeAttribute(ask(key))}}
					},
				})
			}
		}
		return list
	}
}

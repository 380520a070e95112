// Package all is the list of languages that accessors are generated in. Adding
// a language is adding its package and its line here.
package all

import (
	"fmt"
	"strings"

	"zelvik/accessor"
	"zelvik/accessor/cpp"
	"zelvik/accessor/csharp"
	"zelvik/accessor/dart"
	"zelvik/accessor/golang"
	"zelvik/accessor/java"
	"zelvik/accessor/kotlin"
	"zelvik/accessor/swift"
	"zelvik/accessor/typescript"
)

// Languages are all languages.
var Languages = []*accessor.Language{
	kotlin.Language,
	java.Language,
	swift.Language,
	csharp.Language,
	dart.Language,
	typescript.Language,
	cpp.Language,
	golang.Language,
}

// Names are the names of all languages.
func Names() []string {
	var names []string
	for _, l := range Languages {
		names = append(names, l.Name)
	}
	return names
}

// Named returns the language with a name; the error lists the names.
func Named(name string) (*accessor.Language, error) {
	for _, l := range Languages {
		if l.Name == name {
			return l, nil
		}
	}
	return nil, fmt.Errorf("%q is no language for accessors; there are %s", name, strings.Join(Names(), ", "))
}

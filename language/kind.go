package language

import (
	"strings"

	"zelvik/files"
)

// Kind is a kind of files: those of a language, or a toolkit's layouts.
type Kind struct {
	// Name is the language's or the toolkit's, for people.
	Name string
	// Layout says that it is a layout, in which a text in a place for texts is one
	// without doubt.
	Layout bool
	// Formats are those of the catalogs that its texts belong in, best first.
	Formats []string
	// Matches reports whether texts are looked for in a file, by its slash-separated
	// path.
	Matches func(path string) bool
	// Texts finds the texts in a file; nil where none are looked for.
	Texts func(path, text string, o Options) []Text
	// Namespace returns the namespace of the class that is made of a catalog in a folder,
	// as the project around it tells; nil where texts need none.
	Namespace func(disk *files.Disk, dir string) string
	// Glued finds the places that join a text of a catalog with something else; nil
	// where none are looked for.
	Glued func(text string) []Glued

	// Refers reports whether a file may ask for keys; nil for as Matches. Mark is what
	// stands in each that does, "" for nothing in particular.
	Refers func(path string) bool
	Mark   string
	// LookUps are the ways in which a file asks for a key.
	LookUps []LookUp
	// Accessor names the language of the accessors that a file may call; "" for none.
	Accessor string
	// Quoted says that a key between quotes may be meant as one, too.
	Quoted bool
}

// MayRefer reports whether a file of the kind may ask for keys.
func (k *Kind) MayRefer(path string) bool {
	if k.Refers != nil {
		return k.Refers(path)
	}
	return k.Matches != nil && k.Matches(path)
}

// Call is how accessors are called: on something that is called as their type is, with
// TYPE for its name and CALL for the member's.
var Call = LookUp{Pattern: `(?i:\b\w*TYPE\w*)(?:\.of)?(?:\([^()]*\))?[?!]?(?:\.|->)(CALL)`}

// LookUp is a way to ask for a key that nothing else is spelled as.
type LookUp struct {
	// Formats are those of the catalogs that are asked so; nil for any.
	Formats []string
	// Pattern is a regular expression whose first group is the key. It holds KEY for
	// the key as it is, NAME for the key as a name in code, and TABLE for the base name
	// of the catalog's files.
	Pattern string
}

// Named reports whether the key is a name in code there.
func (l *LookUp) Named() bool { return !strings.Contains(l.Pattern, "KEY") }

// Options say what is known of the catalog that texts go to.
type Options struct {
	// Table is the base name of the catalog's files: the class of .NET resources.
	Table string
	// Namespace is that of the class.
	Namespace string
	// ByID says that the catalog's keys are ids, and not the texts themselves.
	ByID bool
}

// Ending makes a Matches of the endings of names.
func Ending(endings ...string) func(string) bool {
	return func(p string) bool {
		for _, e := range endings {
			if strings.HasSuffix(p, e) {
				return true
			}
		}
		return false
	}
}

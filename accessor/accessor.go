// Package accessor says what is generated for a family, once for all
// languages: members with typed parameters, the texts of all cultures, plural
// rules and fallback chains. The packages below spell it, each in its language.
package accessor

import (
	"bytes"
	"fmt"
	"slices"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/finding"
	"zelvik/message"
)

// Type is the name of the type with the members where none is asked for.
const Type = "Wording"

// Options say how a family's accessors are generated.
type Options struct {
	// Package is the package, namespace or module.
	Package string
	// Hidden keeps the types from being seen outside its package or module.
	Hidden bool
	// Command is named in the header line: the command that makes the accessors again.
	Command string
	// Bundles leaves the texts of all cultures but the source out of the code:
	// they are written as bundle files, which the application loads.
	Bundles bool
	// Binding adds a file that ties the switch to what the language's
	// interfaces observe.
	Binding bool
	// Cases adds a file of tests, for the application's own toolchain.
	Cases bool
	// CasesOut is the folder of that file, as a slash path from the folder of the
	// sources; "" is beside them.
	CasesOut string
	// Sources is how an import in CasesOut names the folder of the sources, with a
	// slash at its end: "../src/", or "package:pier/".
	Sources string
	// Plain leaves out what older compilers do not read, such as C#'s annotations of
	// what can be null.
	Plain bool
}

// Part is a family of an application, whose texts get a type of their own.
type Part struct {
	Family *catalog.Family
	// Type is the name of the type with the members; From is named in the header
	// line: the folder of the family.
	Type, From string
	// Gone are entries that the source does not have any more, by culture; their
	// members stay, marked as deprecated.
	Gone []Gone
}

// Gone is a key that the source does not have any more, and its texts as ICU
// messages.
type Gone struct {
	Key   string
	Texts map[culture.Tag]string
}

// Language is a language that accessors are generated in.
type Language struct {
	// Name is what --language takes; Title is for people.
	Name, Title string
	// Package is the package where none is asked for, "" where the language needs none.
	Package string
	// PackagePattern says in words what a package name looks like.
	PackagePattern string
	// ValidPackage reports whether a package name can be spelled.
	ValidPackage func(name string) bool
	// Own says that the platform's own formatter prints a placeholder as it is spelled
	// in the catalog, and how that formatter is to be given it: alone, as its first
	// argument. It is "" where the placeholder is written by its type and style.
	Own func(p *message.Placeholder) string
	// Syntax names the syntax of such spellings, for bundles.
	Syntax string
	// Prints reports whether the code writes numbers and dates of a style. Where it
	// does not, the member takes a text.
	Prints func(p *message.Placeholder) bool
	// Beside says that tests lie beside what they test, and nowhere else.
	Beside bool
	// Sources returns how imports name the folder of the sources from everywhere; ""
	// where they name it by its path. The folder is absolute, read reads a file.
	Sources func(folder string, read func(path string) ([]byte, error)) string
	// Member joins the words of a key to the name of a member.
	Member func(words []string) string
	// Generate spells the model: files by name, relative to the folder of the
	// sources, in the package's folder where the language has such.
	Generate func(m *Model) map[string][]byte
}

// Model is what to generate: one switch, and a type for each catalog.
type Model struct {
	Options
	// From is what the accessors are made of.
	From     string
	Catalogs []*Catalog
	// Cultures are all cultures of the catalogs, the source first.
	Cultures []Culture
	Source   culture.Tag
	// Scripts are the likely scripts of the cultures' languages, for choosing a
	// culture by a reader's preferences: "zh-TW" to "Hant", "zh" to "Hans".
	Scripts []Script
	// Parents are the explicit parents of Unicode's locale data that lie
	// between a possible preference and a supported culture.
	Parents []Parent
	// Aliases are codes of languages that stand for others.
	Aliases []Parent
	// codes and patterns are the currencies and the skeletons and patterns of dates in
	// the texts, sorted.
	codes, patterns []string
	language        *Language
}

// Script is a tag and its likely script.
type Script struct{ Tag, Script string }

// Parent is a tag and its explicit parent.
type Parent struct{ Tag, Parent string }

// Culture is a supported culture.
type Culture struct {
	Tag       culture.Tag
	OwnName   string
	Direction string
	// Fallback are the cultures asked in order, this one first, the source last.
	Fallback []culture.Tag
	// Kin says that the source is the culture itself or a parent of it, so that
	// no text is missing where the source answers.
	Kin      bool
	Cardinal culture.Rules
	Ordinal  culture.Rules
}

// Catalog is the texts of one family, and the type that they are read by.
type Catalog struct {
	Type string
	// Number counts the catalogs from 0.
	Number  int
	Members []Member
	// Lists are the arrays of texts, as their platforms have them.
	Lists []List
	// Texts are ICU messages by culture and member; "" where the culture has none, and
	// no row where none is compiled in.
	Texts [][]string
	// Findings are names that clash or cannot be spelled, and styles that the language
	// does not write.
	Findings []finding.Finding
	model    *Model
}

// Member is one accessor.
type Member struct {
	Key string
	// Words are the key's words in lower case, which each language joins in
	// its own way; Name is what the language made of them.
	Words      []string
	Name       string
	Note, Text string
	Parameters []Parameter
	// Gone says that the source does not have the key any more.
	Gone bool
}

// List is an array of texts, whose members are days[0], days[1] and so on.
type List struct {
	Name  string
	Items []*Member
}

// Calls are the members' names, with what a language writes before and after each.
func (l List) Calls(before, after string) []string {
	calls := make([]string, len(l.Items))
	for i, m := range l.Items {
		calls[i] = before + m.Name + after
	}
	return calls
}

// Parameter is one argument of a member.
type Parameter struct {
	// Key is the placeholder's name in the messages; Words its words, Name the
	// language's spelling.
	Key    string
	Words  []string
	Name   string
	Type   message.Type
	Sample string
	// Spelling is the first one in the source that the platform prints; Own says that
	// one is printed otherwise than a whole number is.
	Spelling string
	Own      bool
	// Cases are what the source selects by, but for other.
	Cases []string
	// Unprinted is the style that the language cannot write, so that the member takes
	// a text; "" where it can.
	Unprinted string
}

// Keys are the members' keys, in order.
func (c *Catalog) Keys() []string {
	keys := make([]string, len(c.Members))
	for i := range c.Members {
		keys[i] = c.Members[i].Key
	}
	return keys
}

// Plain reports whether there is a member without parameters.
func (c *Catalog) Plain() bool {
	return slices.ContainsFunc(c.Members, func(m Member) bool { return len(m.Parameters) == 0 && !m.Gone })
}

// Row is the texts of a culture; all are "" where none is compiled in.
func (c *Catalog) Row(culture int) []string {
	if c.Texts[culture] == nil {
		return make([]string, len(c.Members))
	}
	return c.Texts[culture]
}

// Generated reports whether a file is one that accessors made: code that says
// so in its first lines, or a bundle.
func Generated(data []byte) bool {
	head := data[:min(len(data), 400)]
	if bytes.HasPrefix(bytes.TrimSpace(head), []byte("{")) {
		return bytes.Contains(head, []byte(`"culture"`)) && bytes.Contains(head, []byte(`"texts"`))
	}
	lines := bytes.SplitN(head, []byte("\n"), 4)
	return slices.ContainsFunc(lines[:min(len(lines), 3)], func(line []byte) bool { return bytes.Contains(line, []byte("enerated by zelvik")) })
}

// MadeOf returns what a generated file says that it is made of; "" where it does not.
func MadeOf(data []byte) string {
	_, rest, _ := bytes.Cut(data[:min(len(data), 400)], []byte("enerated by zelvik from "))
	family, _, found := bytes.Cut(rest, []byte(". Do not edit"))
	if !found {
		return ""
	}
	return string(family)
}

// Header is the line that every generated file begins with.
func (m *Model) Header(language string) string {
	command := m.Command
	if command == "" {
		command = fmt.Sprintf("zelvik accessors %s --language %s", strings.ReplaceAll(m.From, ", ", " "), language)
	}
	return fmt.Sprintf("Generated by zelvik from %s. Do not edit; run: %s", m.From, strings.ReplaceAll(command, "\n", " "))
}

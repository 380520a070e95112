// Package status says how far the text of a key has come in a culture: whether
// it is missing, a copy, a draft or whole, and whether a parent answers instead.
// It is the one place that decides this; what a ledger knows of texts has been
// put into their states by then.
package status

import (
	"slices"
	"strings"
	"unicode"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/message"
)

// Status is how far a text has come.
type Status uint8

// The statuses.
const (
	Whole    Status = iota // it has a text, or is the source
	Exempt                 // it has none and needs none: an address, a number, a name, what is not translated
	Answered               // it has none of its own, and a parent's answers
	Missing                // it has none, and no parent answers
	Empty                  // it is empty where the source is not
	Waiting                // it was put there to be translated, and nobody has touched it
	Copied                 // it is the source's own text, and no name, number or address
	Draft                  // a machine made it, and nobody has looked at it
	Moved                  // the source changed after it
	Orphan                 // the source has no such key
)

// Lacks reports whether the reader meets no text of their own language.
func (s Status) Lacks() bool { return s == Missing || s == Empty || s == Waiting }

// Wanting reports whether a text is to be made: there is none, or a copy.
func (s Status) Wanting() bool { return s.Lacks() || s == Copied }

// Open reports whether somebody has to translate the text or look at it.
func (s Status) Open() bool { return s.Wanting() || s == Draft || s == Moved }

// Of returns the status of a key in a member of a family. Source and own are the
// entries in the source and in the member, nil where there is none; names are
// words that stay as they are in every culture.
func Of(f *catalog.Family, m *catalog.Member, source, own *catalog.Entry, names []string) Status {
	s := Uncompared(f, m, source, own, names)
	if s == Whole && own != nil && own.State != catalog.Done && m.Culture != f.Source && Same(f, m, source, own, names) {
		return Copied
	}
	return s
}

// Uncompared is Of for those who do not ask for copies: one counts as whole, so that
// no texts are compared.
func Uncompared(f *catalog.Family, m *catalog.Member, source, own *catalog.Entry, names []string) Status {
	switch {
	case source == nil:
		return Orphan
	case m.Culture == f.Source:
		return Whole
	case own == nil:
		return without(f, m, source, names)
	case own.State == catalog.Missing:
		return Waiting
	case own.Message.Empty() && !source.Message.Empty() && own.Reference == "":
		if f.Format == "json" && (strings.Contains(own.Key, " ") || f.KeyedByText()) { // the key shows instead
			return without(f, m, source, names)
		}
		return Empty
	case own.State == catalog.Moved:
		return Moved
	case own.State == catalog.Draft:
		return Draft
	}
	return Whole
}

// without is Of where the member has no entry.
func without(f *catalog.Family, m *catalog.Member, source *catalog.Entry, names []string) Status {
	switch {
	case source.Fixed || source.Reference != "" || source.Message.Empty() || Stays(source.Message, names):
		return Exempt
	case Listed(f, m.Catalog, source.Key):
		return Exempt
	case Parent(f, m, source.ID()) != nil:
		return Answered
	}
	return Missing
}

// Listed reports whether a catalog has a list in place of the text with this key, or
// a text in place of the list: programs that read JSON take either, and a language has
// more names for a thing than another.
func Listed(f *catalog.Family, c *catalog.Catalog, key string) bool {
	if f.Format != "json" {
		return false
	}
	if name, end, ok := strings.Cut(key, "["); ok {
		return strings.TrimLeft(end, "0123456789") == "]" && c.Find(name) != nil
	}
	return c.Find(key+"[0]") != nil
}

// Parent returns the entry of the nearest parent of a member's culture that has
// the key; nil where none has.
func Parent(f *catalog.Family, m *catalog.Member, id string) *catalog.Entry {
	for tag := m.Culture.Parent(); tag != ""; tag = tag.Parent() {
		if p := f.Member(tag); p != nil {
			if e := p.Catalog.Find(id); e != nil {
				return e
			}
		}
	}
	return nil
}

// Stays reports whether a text is the same in every culture: an address, a
// number, or one of the project's names.
func Stays(m message.Message, names []string) bool {
	text := m.String()
	return slices.Contains(names, text) || !strings.ContainsAny(text, " \t\n") && strings.Contains(text, "://") ||
		m.Choice == nil && !m.HasPlaceholders() && !strings.ContainsFunc(text, unicode.IsLetter)
}

// Same reports whether a translation is the source's own text, and has words
// that are to be translated.
func Same(f *catalog.Family, m *catalog.Member, source, own *catalog.Entry, names []string) bool {
	if source.Fixed || own.Reference != "" {
		return false
	}
	text := own.Message.String()
	if text == "" || text != source.Message.String() || slices.Contains(names, text) {
		return false
	}
	if m.Culture.Pseudo() || m.Culture.Base() == f.Source.Base() {
		return false
	}
	return translatable(own.Message, m.Culture.Script() != f.Source.Script(), names) && !f.Kept(source.ID()) &&
		!culture.OwnNamed(text) && culture.OfKey(own.Key) == "" // a menu of languages has them in their own words
}

// translatable reports whether a text has words that a translator would not
// leave: two words of which one is no name by its look, or in another script
// one such word. Addresses, codes and capitalised names are left.
func translatable(m message.Message, otherScript bool, names []string) bool {
	words, plain, capitals := 0, 0, 0
	for word := range strings.FieldsSeq(m.Main().Literal()) {
		if strings.Contains(word, "://") || strings.Contains(word, "@") || strings.Contains(word, "www.") {
			continue
		}
		word = strings.TrimFunc(word, func(r rune) bool { return !unicode.IsLetter(r) })
		if len([]rune(word)) < 3 || slices.ContainsFunc(names, func(name string) bool { return strings.Contains(name, word) }) {
			continue
		}
		words++
		if strings.ToLower(word) == word {
			plain++
		} else if strings.ToUpper(word) != word {
			capitals++
		}
	}
	return plain > 0 && (words > 1 || otherScript) || otherScript && words == 1 && capitals == 1
}

package memory

import (
	"strings"
	"unicode"
	"unicode/utf8"

	"zelvik/catalog"
	"zelvik/culture"
)

// Glossary holds terms that are always translated in the same way.
type Glossary struct {
	terms map[culture.Tag][]Term
}

// Term is a word or name of the source, and what it is in a culture: the same
// where it stays.
type Term struct{ Source, Target string }

// Add takes the terms of a catalog: texts of the source and of a culture.
func (g *Glossary) Add(source, target *catalog.Catalog, tag culture.Tag) {
	if g.terms == nil {
		g.terms = map[culture.Tag][]Term{}
	}
	for i := range source.Entries {
		e := &source.Entries[i]
		if t := target.Find(e.ID()); t != nil && !t.Message.Empty() && !e.Message.Empty() {
			g.terms[tag] = append(g.terms[tag], Term{e.Message.String(), t.Message.String()})
		}
	}
}

// In lists the terms that a text has, in the glossary's order.
func (g *Glossary) In(text string, tag culture.Tag) []Term {
	if g == nil {
		return nil
	}
	var list []Term
	for _, t := range g.terms[tag] {
		if hasWord(text, t.Source) {
			list = append(list, t)
		}
	}
	return list
}

// Whole gives the term that is all of a text, in whatever case.
func (g *Glossary) Whole(text string, tag culture.Tag) (Term, bool) {
	if g != nil {
		for _, t := range g.terms[tag] {
			if strings.EqualFold(t.Source, strings.TrimSpace(text)) {
				return t, true
			}
		}
	}
	return Term{}, false
}

// Missing lists the terms of a source text that its translation does not have.
// Endings may differ: the translation has a term where a word begins as it
// does.
func (g *Glossary) Missing(source, translation string, tag culture.Tag) []Term {
	var list []Term
	for _, t := range g.In(source, tag) {
		if !strings.Contains(strings.ToLower(translation), strings.ToLower(stem(t.Target))) {
			list = append(list, t)
		}
	}
	return list
}

// stem is what of a word stays when its ending changes: all but two letters of
// a long one. Texts of scripts without endings of this kind are not cut.
func stem(word string) string {
	if n := utf8.RuneCountInString(word); n < 6 || strings.ContainsFunc(word, func(r rune) bool {
		return r > unicode.MaxLatin1 && !unicode.In(r, unicode.Latin, unicode.Cyrillic, unicode.Greek)
	}) {
		return word
	}
	runes := []rune(word)
	return string(runes[:len(runes)-2])
}

// hasWord reports whether a text has a word or a sequence of words, in whatever
// case and not as a part of a longer word.
func hasWord(text, word string) bool {
	text, word = strings.ToLower(text), strings.ToLower(word)
	for from := 0; word != ""; {
		i := strings.Index(text[from:], word)
		if i < 0 {
			return false
		}
		start, end := from+i, from+i+len(word)
		before, _ := utf8.DecodeLastRuneInString(text[:start])
		after, _ := utf8.DecodeRuneInString(text[end:])
		if !unicode.IsLetter(before) && !unicode.IsLetter(after) {
			return true
		}
		from = end
	}
	return false
}

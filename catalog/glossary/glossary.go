// Package glossary reads the terms that a project has agreed on, from a table
// (CSV) or a TermBase eXchange file (TBX, ISO 30042), and finds the texts that
// do not keep to them.
package glossary

import (
	"bytes"
	"encoding/csv"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"iter"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"zelvik/catalog"
	"zelvik/culture"
)

// Term is what one thing is called, by culture. Several words for it stand in the
// order of the file.
type Term map[culture.Tag][]string

// In returns the words for it in a culture, its own or those of a parent.
func (t Term) In(tag culture.Tag) []string {
	for _, at := range append([]culture.Tag{tag}, tag.Parents()...) {
		if words := t[at]; words != nil {
			return words
		}
	}
	return nil
}

// Read reads a glossary: TBX where the file begins as XML does, else CSV. Errors
// give the line.
func Read(data []byte) ([]Term, error) {
	data = bytes.TrimPrefix(data, []byte("\xef\xbb\xbf"))
	if bytes.HasPrefix(bytes.TrimSpace(data), []byte("<")) {
		return readTBX(data)
	}
	return readCSV(data)
}

// readCSV reads a table whose first row names cultures; the words of a cell are
// separated by "|". Other columns, such as notes, are passed over.
func readCSV(data []byte) ([]Term, error) {
	r := csv.NewReader(bytes.NewReader(data))
	r.FieldsPerRecord, r.TrimLeadingSpace = -1, true
	if first, _, _ := bytes.Cut(data, []byte("\n")); bytes.Count(first, []byte(";")) > bytes.Count(first, []byte(",")) {
		r.Comma = ';'
	}
	rows, err := r.ReadAll()
	var wrong *csv.ParseError
	if errors.As(err, &wrong) {
		return nil, fmt.Errorf("line %d: %w", wrong.Line, wrong.Err)
	}
	if len(rows) == 0 {
		return nil, errors.New("line 1: the file is empty; its first row names cultures: en,de,fr")
	}
	var columns []culture.Tag
	known := 0
	for _, cell := range rows[0] {
		tag, err := culture.Parse(strings.TrimSpace(cell))
		if err != nil || !tag.Known() {
			tag = ""
		} else {
			known++
		}
		columns = append(columns, tag)
	}
	if known < 2 {
		return nil, errors.New("line 1: the first row has to name two cultures or more: en,de,fr")
	}
	var terms []Term
	for _, row := range rows[1:] {
		term := Term{}
		for i, cell := range row {
			if i >= len(columns) || columns[i] == "" {
				continue
			}
			for word := range strings.SplitSeq(cell, "|") {
				if word = strings.TrimSpace(word); word != "" {
					term[columns[i]] = append(term[columns[i]], word)
				}
			}
		}
		if len(term) > 1 {
			terms = append(terms, term)
		}
	}
	return terms, nil
}

// readTBX reads the terms of every entry, in the elements of TBX 2 and of TBX 3
// (termEntry, langSet, tig; conceptEntry, langSec, termSec). A term that is
// deprecated or superseded is none.
func readTBX(data []byte) ([]Term, error) {
	decoder := xml.NewDecoder(bytes.NewReader(data))
	var terms []Term
	var term Term
	var tag culture.Tag
	var word string
	refused := false
	for {
		token, err := decoder.Token()
		if errors.Is(err, io.EOF) {
			return terms, nil
		}
		if err != nil {
			line, _ := decoder.InputPos()
			return nil, fmt.Errorf("line %d: the file is no good TBX: %w", line, err)
		}
		switch token := token.(type) {
		case xml.StartElement:
			switch token.Name.Local {
			case "termEntry", "conceptEntry":
				term = Term{}
			case "langSet", "langSec":
				tag = ""
				for _, a := range token.Attr {
					if a.Name.Local == "lang" {
						if tag, err = culture.Parse(a.Value); err != nil {
							line, _ := decoder.InputPos()
							return nil, fmt.Errorf("line %d: %w", line, err)
						}
					}
				}
			case "tig", "ntig", "termSec":
				word, refused = "", false
			case "term":
				if err := decoder.DecodeElement(&word, &token); err != nil {
					line, _ := decoder.InputPos()
					return nil, fmt.Errorf("line %d: the file is no good TBX: %w", line, err)
				}
			case "termNote", "administrativeStatus", "normativeAuthorization":
				var status string
				if err := decoder.DecodeElement(&status, &token); err == nil {
					refused = refused || strings.Contains(status, "deprecated") || strings.Contains(status, "superseded")
				}
			}
		case xml.EndElement:
			switch token.Name.Local {
			case "tig", "ntig", "termSec":
				if word = strings.Join(strings.Fields(word), " "); word != "" && !refused && tag != "" && term != nil {
					term[tag] = append(term[tag], word)
				}
			case "termEntry", "conceptEntry":
				if len(term) > 1 {
					terms = append(terms, term)
				}
				term = nil
			}
		}
	}
}

// Glossary holds what things are called. A nil one holds nothing.
type Glossary struct {
	// Source is the culture of the texts that are translated.
	Source culture.Tag
	terms  []Term
}

// Pair is a word or name of the source, and the words for it in a culture: the
// same where it stays.
type Pair struct {
	Source  string
	Targets []string
}

// Target is the first of the words.
func (p Pair) Target() string { return p.Targets[0] }

// Include takes terms.
func (g *Glossary) Include(terms []Term) { g.terms = append(g.terms, terms...) }

// Add takes the terms of a catalog: texts of the source and of a culture.
func (g *Glossary) Add(source, target *catalog.Catalog, tag culture.Tag) {
	for i := range source.Entries {
		e := &source.Entries[i]
		if t := target.Find(e.ID()); t != nil && !t.Message.Empty() && !e.Message.Empty() {
			g.terms = append(g.terms, Term{g.Source: {e.Message.String()}, tag: {t.Message.String()}})
		}
	}
}

// pairs yields the terms that have words in a culture.
func (g *Glossary) pairs(tag culture.Tag) iter.Seq[Pair] {
	return func(yield func(Pair) bool) {
		if g == nil {
			return
		}
		for _, t := range g.terms {
			if targets := t.In(tag); targets != nil {
				for _, word := range t.In(g.Source) {
					if !yield(Pair{word, targets}) {
						return
					}
				}
			}
		}
	}
}

// In lists the terms that a text has, in the glossary's order.
func (g *Glossary) In(text string, tag culture.Tag) []Pair {
	var list []Pair
	folded := ""
	for p := range g.pairs(tag) {
		if folded == "" {
			folded = strings.ToLower(text)
		}
		if hasWord(folded, strings.ToLower(p.Source)) {
			list = append(list, p)
		}
	}
	return list
}

// Whole returns the term that is all of a text, in whatever case.
func (g *Glossary) Whole(text string, tag culture.Tag) (Pair, bool) {
	for p := range g.pairs(tag) {
		if strings.EqualFold(p.Source, strings.TrimSpace(text)) {
			return p, true
		}
	}
	return Pair{}, false
}

// Missing lists the terms of a source text that its translation does not have.
// Endings may differ: the translation has a term where words begin as it does.
func (g *Glossary) Missing(source, translation string, tag culture.Tag) []Pair {
	var list []Pair
	folded := strings.ToLower(translation)
	for _, p := range g.In(source, tag) {
		if !slices.ContainsFunc(p.Targets, func(word string) bool { return hasStems(folded, strings.ToLower(word)) }) {
			list = append(list, p)
		}
	}
	return list
}

// hasWord reports whether a text has a word or a sequence of words, not as a part of
// a longer word but for an English plural.
func hasWord(text, word string) bool {
	for at := 0; word != ""; {
		i := strings.Index(text[at:], word)
		if i < 0 {
			return false
		}
		from, to := at+i, at+i+len(word)
		before, _ := utf8.DecodeLastRuneInString(text[:from])
		after, _ := utf8.DecodeRuneInString(text[to:])
		plural, _ := utf8.DecodeRuneInString(strings.TrimPrefix(strings.TrimPrefix(text[to:], "e"), "s"))
		if !unicode.IsLetter(before) && (!unicode.IsLetter(after) || !unicode.IsLetter(plural)) {
			return true
		}
		at = to
	}
	return false
}

// hasStems reports whether a text has the beginning of every word of a term, which
// may stand in a compound.
func hasStems(text, term string) bool {
	for word := range strings.FieldsSeq(term) {
		if !strings.Contains(text, stem(word)) {
			return false
		}
	}
	return true
}

// stem is how a word begins in most of its forms: three fifths of it, three letters
// at least. Words of scripts without endings of this kind are not cut.
func stem(word string) string {
	letters := []rune(word)
	if slices.ContainsFunc(letters, func(r rune) bool {
		return r > unicode.MaxLatin1 && !unicode.In(r, unicode.Latin, unicode.Cyrillic, unicode.Greek)
	}) {
		return word
	}
	return string(letters[:min(len(letters), max(3, (len(letters)*3+4)/5))])
}

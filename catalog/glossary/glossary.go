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
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"zelvik/culture"
)

// Term is what one thing is called, by culture. Several words for it stand in the
// order of the file.
type Term map[culture.Tag][]string

// In gives the words for it in a culture, its own or those of a parent.
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
// parted by "|". Other columns, such as notes, are passed over.
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

// Broken gives the first term that a source text has and its translation does
// not keep to, with the word in the source; false where all are kept. Words are
// compared without their endings, so that an inflected one counts.
func Broken(terms []Term, from culture.Tag, source string, to culture.Tag, translation string) (term Term, word string, broken bool) {
	if len(terms) == 0 {
		return nil, "", false
	}
	source, translation = fold(source), fold(translation)
	for _, t := range terms {
		wanted := t.In(to)
		if wanted == nil {
			continue
		}
		for _, word := range t.In(from) {
			if !has(source, fold(word), true) {
				continue
			}
			if slices.ContainsFunc(wanted, func(w string) bool { return has(translation, fold(w), false) }) {
				break
			}
			return t, word, true
		}
	}
	return nil, "", false
}

func fold(text string) string { return strings.ToLower(text) }

// has reports whether a text has a term. Exactly asks for whole words, with no more
// than an English plural; else words may be inflected and compounded.
func has(text, term string, exactly bool) bool {
	if exactly {
		for at := 0; ; {
			i := strings.Index(text[at:], term)
			if i < 0 {
				return false
			}
			from, to := at+i, at+i+len(term)
			before, _ := utf8.DecodeLastRuneInString(text[:from])
			rest := strings.TrimPrefix(strings.TrimPrefix(text[to:], "es"), "s")
			after, _ := utf8.DecodeRuneInString(rest)
			plain, _ := utf8.DecodeRuneInString(text[to:])
			if !letter(before) && (!letter(after) || !letter(plain)) {
				return true
			}
			at = to
		}
	}
	for word := range strings.FieldsSeq(term) {
		if !strings.Contains(text, stem(word)) {
			return false
		}
	}
	return true
}

func letter(r rune) bool { return r != utf8.RuneError && (unicode.IsLetter(r) || unicode.IsDigit(r)) }

// stem is how a word begins in most of its forms: three fifths of it, three letters
// at least.
func stem(word string) string {
	letters := []rune(word)
	return string(letters[:min(len(letters), max(3, (len(letters)*3+4)/5))])
}

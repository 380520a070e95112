package verify

import (
	"fmt"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"zelvik/catalog"
	"zelvik/finding"
	"zelvik/message"
)

var lengthOver = &Rule{
	Name: "length-over", Severity: finding.Error,
	Doc:     "A text is longer than its entry allows.",
	Why:     "What shows it has room for that many characters: a display, a message of a phone network, a field of a database.",
	Example: `maxwidth="12" size-unit="char" and the text Abfahrtszeiten`,
	Fix:     "Shorten the text, or allow more.",
	Catalog: func(f *Family, m *catalog.Member, report Report) {
		source := f.SourceMember()
		limited := false
		for i := 0; source != nil && source != m && i < len(source.Catalog.Entries) && !limited; i++ {
			limited = source.Catalog.Entries[i].Limit > 0
		}
		for i := range m.Catalog.Entries {
			e := &m.Catalog.Entries[i]
			limit := e.Limit
			if limit == 0 && limited {
				if s := source.Catalog.Near(i, e.ID()); s != nil {
					limit = s.Limit
				}
			}
			if limit == 0 {
				continue
			}
			for _, pattern := range e.Message.Patterns() {
				if n := utf8.RuneCountInString(pattern.Literal()); n > limit {
					report(e, fmt.Sprintf("the text has %d characters, and %d are allowed: %q", n, limit, short(e.Message)), "")
					break
				}
			}
		}
	},
}

var termBroken = &Rule{
	Name: "term-broken", Severity: finding.Warning,
	Doc:     "A term of the glossary is translated otherwise.",
	Why:     "One thing has two names, and readers look for the second one.",
	Example: "pier is Anleger in the glossary, and Steg in a text",
	Fix:     "Use the term, or add the word to the glossary, after |.",
	Pair: func(p *Pair, report Report) {
		if p.Family.Terms == nil || !comparable(p) || p.Status.Wanting() {
			return
		}
		for _, term := range p.Family.Terms.Missing(p.Source.Message.Main().Literal(), everyForm(p.Entry.Message), p.Member.Culture) {
			report(p.Entry, fmt.Sprintf("the glossary has %q for %q: %q", strings.Join(term.Targets, " or "), term.Source, short(p.Entry.Message)), "")
			return
		}
	},
}

// everyForm joins the texts of all forms.
func everyForm(m message.Message) string {
	var forms []string
	for _, p := range m.Patterns() {
		forms = append(forms, p.Literal())
	}
	return strings.Join(forms, "\n")
}

// twoMeanings are words of English that mean a thing or a state and an act alike, so
// that many languages have two words for them.
const twoMeanings = ` address archive back board book change charge check clear close contact copy end exit export file filter fine free home import left light like link lock log mail mark match may march none off on open order park pass play point post present press print record report request reserve return review right ring run scale second set share sort start stop store support test tip transfer turn type update view visit watch work `

// pieces are function words that do not end or begin a text of their own.
const pieces = ` a an the of by and or to in at for with from on is are was has have `

// oneOf reports whether a word is one of a list, which has blanks around each.
func oneOf(list, word string) bool { return word != "" && strings.Contains(list, " "+word+" ") }

var noteMissing = &Rule{
	Name: "note-missing", Severity: finding.Advice,
	Doc:     "A source text that can mean two things has no note for the translator.",
	Why:     "Translators see the word alone: the button Open and the state Open are two words in most languages.",
	Example: `"book": "Book"`,
	Fix:     `Say what it is: zelvik set KEY TEXT --note "..."`,
	Catalog: func(f *Family, m *catalog.Member, report Report) {
		if m.Culture != f.Source || f.Source.Base() != "en" || !f.Notes {
			return
		}
		for i := range m.Catalog.Entries {
			e := &m.Catalog.Entries[i]
			if e.Note != "" || e.Fixed || e.Reference != "" || e.Message.Choice != nil || !bareKey(e) {
				continue
			}
			if why := ambiguous(e.Message.Main()); why != "" {
				report(e, fmt.Sprintf("%q %s, and there is no note", short(e.Message), why), "")
			}
		}
	},
}

// bareKey reports whether a key says no more than its text: "book" for Book says
// less than "button_book".
func bareKey(e *catalog.Entry) bool {
	letters := func(text string) string {
		return strings.Map(func(r rune) rune {
			if unicode.IsLetter(r) || unicode.IsDigit(r) {
				return unicode.ToLower(r)
			}
			return -1
		}, text)
	}
	return letters(e.Key) == letters(e.Message.Main().String())
}

// ambiguous says why nobody can translate a text without being told what it is.
func ambiguous(p message.Pattern) string {
	placeholders := 0
	for _, part := range p {
		if _, ok := part.(*message.Placeholder); ok {
			placeholders++
		}
	}
	word := strings.TrimRight(strings.TrimSpace(p.Literal()), ".:…!?")
	switch {
	case placeholders == 0 && oneOf(twoMeanings, strings.ToLower(word)):
		return "is a thing or a state, and an act"
	case placeholders > 1 && oneOf(pieces, strings.ToLower(word)):
		return "does not say what it joins"
	}
	return ""
}

var sentencePieces = &Rule{
	Name: "sentence-pieces", Severity: finding.Advice,
	Doc:     "A text is a piece of a sentence, to be joined with others.",
	Why:     "Other languages put the pieces in another order, and decline what stands beside them.",
	Example: `"Sent by " before a name`,
	Fix:     "Make one text of the whole sentence, with a placeholder for what is put in.",
	Catalog: func(f *Family, m *catalog.Member, report Report) {
		if m.Culture != f.Source || f.Source.Base() != "en" {
			return
		}
		for i := range m.Catalog.Entries {
			e := &m.Catalog.Entries[i]
			if e.Fixed || e.Reference != "" || e.Message.Choice != nil || len(e.Message.Pattern) == 0 {
				continue
			}
			if where := piece(e.Message.Pattern); where != "" {
				report(e, fmt.Sprintf("the text %s: %q", where, e.Message.Pattern.String()), "")
			}
		}
	},
}

// piece says how a text is one of a sentence.
func piece(p message.Pattern) string {
	first, _ := p[0].(message.Text)
	last, _ := p[len(p)-1].(message.Text)
	begins, ends := strings.Fields(string(first)), strings.Fields(string(last))
	switch {
	case len(p) == 1 && len(begins) == 1 && slices.Contains([]string{"of", "by", "at", "with", "from"}, begins[0]):
		return "is a joining word alone"
	case len(ends) > 0 && strings.HasSuffix(string(last), " ") && oneOf(pieces, ends[len(ends)-1]) && lettersBefore(p, ends):
		return fmt.Sprintf("ends with %q and a space", ends[len(ends)-1])
	case len(ends) > 1 && !strings.Contains(string(last), ", ") && (ends[len(ends)-1] == "the" || ends[len(ends)-1] == "a" || ends[len(ends)-1] == "an" || ends[len(ends)-1] == "of"):
		return fmt.Sprintf("ends with %q", ends[len(ends)-1])
	case len(begins) > 0 && strings.HasPrefix(string(first), " ") && oneOf(pieces, begins[0]):
		return fmt.Sprintf("begins with a space and %q", begins[0])
	}
	return ""
}

// lettersBefore reports whether a text says something beside its last word.
func lettersBefore(p message.Pattern, ends []string) bool {
	return len(p) > 1 || len(ends) > 1 || strings.ContainsFunc(ends[0], unicode.IsLetter)
}

package verify

import (
	"fmt"
	"slices"
	"strings"
	"sync"
	"unicode"
	"unicode/utf8"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/finding"
	"zelvik/message"
)

var scriptUnexpected = &Rule{
	Name: "script-unexpected", Severity: finding.Error,
	Doc:     "A text is written in a script that its culture does not use.",
	Why:     "Two files were swapped, or a text was pasted into the wrong one.",
	Example: "a Cyrillic text in values-pl/strings.xml",
	Fix:     "Put the text into the file of its own culture.",
	Catalog: func(f *Family, m *catalog.Member, report Report) {
		if m.Culture.Pseudo() {
			return
		}
		expected := scripts(m.Culture)
		if expected == nil || !m.Culture.Known() { // nobody knows how it is written
			return
		}
		if other := usual(m); other != nil {
			expected = other
		}
		latin := slices.Contains(expected, unicode.Latin)
		type stranger struct {
			e      *catalog.Entry
			script string
		}
		var strangers []stranger
		for i := range m.Catalog.Entries {
			e := &m.Catalog.Entries[i]
			if e.Fixed || e.Reference != "" || plainASCII(e.Message) && latin {
				continue
			}
			own, other, name := count(e.Message, expected)
			if other > own && language(f, e) {
				continue
			}
			if name == "Latin" && !latin {
				// Names and codes in Latin letters are usual everywhere; a sentence that
				// is not the source's is not.
				source, _ := f.Lookup(e.ID(), f.Source)
				if own > 0 || other < 12 || !sentence(e.Message) || source != nil && takenOver(e.Message, source.Message) || !m.Culture.Counted() { // of languages that little is known of, not even the script is sure
					continue
				}
			} else if other <= own || disguised(e.Message) || name == "Greek" && other == 1 || m.Culture != f.Source && lettersOf(f, e, name) {
				continue
			}
			strangers = append(strangers, stranger{e, name})
		}
		var found []string
		for _, s := range strangers {
			if !slices.Contains(found, s.script) {
				found = append(found, s.script)
			}
		}
		if len(found) > 2 && len(strangers) > 20 {
			report(m, fmt.Sprintf("%d of %d texts are in %s letters: the file holds more than one culture, in a place where they are not looked for", len(strangers), len(m.Catalog.Entries), strings.Join(found, ", ")),
				"put each culture into a file of its own")
			return
		}
		if len(strangers) > 20 && len(strangers)*3 > len(m.Catalog.Entries) {
			report(m, fmt.Sprintf("%d of %d texts are in %s letters, which %s does not use: %q", len(strangers), len(m.Catalog.Entries), strangers[0].script, m.Culture.Name(), short(strangers[0].e.Message)),
				"name the script in the culture, or put the texts into the file of their own culture")
			return
		}
		for _, s := range strangers {
			var about any = s.e
			if m.Culture == f.Source && utf8.RuneCountInString(s.e.Message.String()) < 8 { // the name of something from there
				about = mild{s.e}
			}
			report(about, fmt.Sprintf("the text is in %s letters, which %s does not use: %q", s.script, m.Culture.Name(), short(s.e.Message)), "")
		}
	},
}

// disguised reports whether a text has Greek and Cyrillic letters: no language has,
// and texts that are made to try an interface have.
func disguised(m message.Message) bool {
	greek, cyrillic := 0, 0
	for _, r := range m.String() {
		if unicode.Is(unicode.Greek, r) {
			greek++
		} else if unicode.Is(unicode.Cyrillic, r) {
			cyrillic++
		}
	}
	return greek > 1 && cyrillic > 1
}

// lettersOf reports whether the letters of a script in a text are the source's: signs
// such as the Greek ones of units and of mathematics.
func lettersOf(f *Family, e *catalog.Entry, script string) bool {
	source, _ := f.Lookup(e.ID(), f.Source)
	table := unicode.Scripts[script]
	if source == nil || table == nil {
		return false
	}
	in := source.Message.String()
	return !strings.ContainsFunc(e.Message.String(), func(r rune) bool { return unicode.Is(table, r) && !strings.ContainsRune(in, r) })
}

// language reports whether a text is the name of a language, which menus of languages
// have in its own letters.
func language(f *Family, e *catalog.Entry) bool {
	if culture.OwnNamed(e.Message.String()) {
		return true
	}
	if keyed := culture.OfKey(e.Key); keyed != "" {
		own, other, _ := count(e.Message, scripts(keyed))
		return own > other
	}
	source, _ := f.Lookup(e.ID(), f.Source)
	if source == nil {
		return false
	}
	_, known := culture.Called(source.Message.String())
	return known
}

// sentence reports whether a text has words that are no names: two in small letters.
func sentence(m message.Message) bool {
	for _, pattern := range m.Marked().Patterns() {
		small := 0
		for word := range strings.FieldsSeq(pattern.Literal()) {
			first, _ := utf8.DecodeRuneInString(strings.TrimLeftFunc(word, unicode.IsPunct))
			if unicode.IsLower(first) && !strings.ContainsAny(word, "_/@") {
				small++
			}
		}
		if small >= 2 {
			return true
		}
	}
	return false
}

// takenOver reports whether every form of a text has the words of one of its
// source's.
func takenOver(m, source message.Message) bool {
	m, source = m.Marked(), source.Marked()
	for _, pattern := range m.Patterns() {
		same := false
		for _, s := range source.Patterns() {
			same = same || s.Literal() == pattern.Literal()
		}
		if !same {
			return false
		}
	}
	return true
}

func plainASCII(m message.Message) bool {
	for _, pattern := range m.Patterns() {
		for _, part := range pattern {
			if text, ok := part.(message.Text); ok {
				for i := 0; i < len(text); i++ {
					if text[i] >= 0x80 {
						return false
					}
				}
			}
		}
	}
	return true
}

// usual returns the script that nearly all of a file is in, where its culture names
// none and its language is written in that one, too: Serbian is in Latin letters
// as well. It is nil where that is not so.
func usual(m *catalog.Member) []*unicode.RangeTable {
	for _, script := range m.Culture.Scripts() {
		expected := scripts(culture.Tag(m.Culture.Base() + "-" + script))
		if expected == nil {
			continue
		}
		inside, outside := 0, 0
		for i := 0; i < len(m.Catalog.Entries); i += 1 + len(m.Catalog.Entries)/1000 { // enough to know
			if own, other, _ := count(m.Catalog.Entries[i].Message, expected); own > other {
				inside++
			} else if other > own {
				outside++
			}
		}
		if inside > 3*outside {
			return expected
		}
	}
	return nil
}

// scripts returns the Unicode scripts that a culture's script is made of (UAX
// #24); nil where that is not known.
func scripts(tag culture.Tag) []*unicode.RangeTable {
	switch code := tag.Script(); code {
	case "Jpan":
		return []*unicode.RangeTable{unicode.Han, unicode.Hiragana, unicode.Katakana}
	case "Hans", "Hant", "Hani":
		return []*unicode.RangeTable{unicode.Han, unicode.Bopomofo}
	case "Kore":
		return []*unicode.RangeTable{unicode.Hangul, unicode.Han}
	default:
		if name, ok := byCode[code]; ok {
			return []*unicode.RangeTable{unicode.Scripts[name]}
		}
	}
	return nil
}

// byCode names the scripts of ISO 15924 that living cultures use as Go's
// tables do.
var byCode = map[string]string{
	"Latn": "Latin", "Cyrl": "Cyrillic", "Grek": "Greek", "Arab": "Arabic", "Hebr": "Hebrew", "Deva": "Devanagari",
	"Beng": "Bengali", "Guru": "Gurmukhi", "Gujr": "Gujarati", "Orya": "Oriya", "Taml": "Tamil", "Telu": "Telugu",
	"Knda": "Kannada", "Mlym": "Malayalam", "Sinh": "Sinhala", "Thai": "Thai", "Laoo": "Lao", "Mymr": "Myanmar",
	"Khmr": "Khmer", "Tibt": "Tibetan", "Ethi": "Ethiopic", "Geor": "Georgian", "Armn": "Armenian", "Mong": "Mongolian",
}

// eastAsian are the scripts that are reported as one.
var eastAsian = []string{"Han", "Hiragana", "Katakana", "Hangul"}

// letters returns the script of every letter of the basic plane, as a number in
// scriptNames; 0 for what is no letter, or of a script that is not told.
var letters = sync.OnceValue(func() *[1 << 16]uint8 {
	table := &[1 << 16]uint8{}
	for n, name := range scriptNames {
		if n == 0 {
			continue
		}
		for _, r := range unicode.Scripts[name].R16 {
			for c := uint32(r.Lo); c <= uint32(r.Hi); c += uint32(r.Stride) {
				if unicode.IsLetter(rune(c)) {
					table[c] = uint8(n)
				}
			}
		}
	}
	return table
})

// scriptNames are the scripts that are told apart, from 1.
var scriptNames = func() []string {
	list := append([]string{""}, eastAsian...)
	for _, name := range byCode {
		list = append(list, name)
	}
	slices.Sort(list[1:])
	return list
}()

// count counts the letters in the expected scripts and in others, and names
// the commonest other script.
func count(m message.Message, expected []*unicode.RangeTable) (own, other int, name string) {
	var counts [64]int
	table := letters()
	for _, pattern := range m.Patterns() {
		for _, part := range pattern {
			text, ok := part.(message.Text)
			if !ok {
				continue
			}
			for _, r := range text {
				switch {
				case r < 1<<16:
					counts[table[r]]++
				case unicode.Is(unicode.Han, r):
					counts[slices.Index(scriptNames, "Han")]++
				}
			}
		}
	}
	asian := 0
	for n, letters := range counts {
		switch {
		case letters == 0 || n == 0:
		case slices.Contains(expected, unicode.Scripts[scriptNames[n]]):
			own += letters
		case slices.Contains(eastAsian, scriptNames[n]):
			asian += letters
		case letters > other:
			other, name = letters, scriptNames[n]
		}
	}
	if asian > other {
		other, name = asian, "East Asian"
	}
	return own, other, name
}

package verify

import (
	"fmt"
	"slices"
	"strings"
	"sync"
	"unicode"
	"unicode/utf8"

	"zelvik/catalog"
	"zelvik/catalog/status"
	"zelvik/culture"
	"zelvik/finding"
	"zelvik/message"
)

var keyOrphan = &Rule{
	Name: "key-orphan", Severity: finding.Warning,
	Doc:     "A translation has a key that the source does not have.",
	Why:     "It is a leftover, or the source forgot it, and other cultures show nothing there.",
	Example: "values-de/strings.xml has old_title, values/strings.xml has not",
	Fix:     "Remove it, or add it to the source.",
	Catalog: func(f *Family, m *catalog.Member, report Report) {
		source := f.SourceMember()
		if source == nil || m == source {
			return
		}
		orphans := 0
		for i := range m.Catalog.Entries {
			e := &m.Catalog.Entries[i]
			if source.Catalog.Near(i, e.ID()) != nil || status.Listed(f.Family, source.Catalog, e.Key) || longer(f, source.Catalog, e.Key) {
				continue
			}
			fix := ""
			if orphans++; orphans > mostSlips {
			} else if near := nearKey(source.Catalog, e.Key); near != "" {
				fix = near + " was probably meant"
				if strings.EqualFold(near, e.Key) {
					fix = "the source spells it " + near + "; keys that differ by case are two"
				}
			}
			report(e, "the source has no key "+e.Key, fix)
		}
	},
}

// mostSlips is up to how many keys of a file are looked for by what is like
// them. With more, the file is another one, and no slip.
const mostSlips = 50

// nearKey looks for a key that differs by a slip, in catalogs of a size where
// that is quick.
func nearKey(c *catalog.Catalog, key string) string {
	if len(c.Entries) > 5000 {
		return ""
	}
	keys := make([]string, len(c.Entries))
	for i := range c.Entries {
		keys[i] = c.Entries[i].Key
	}
	return finding.Nearest(key, keys)
}

// longer reports whether a key is an item more of a list that the source has, or one
// of the numbered plurals of its text: languages have different numbers of forms.
func longer(f *Family, source *catalog.Catalog, key string) bool {
	if f.Format != "json" {
		return false
	}
	if name, _, ok := catalog.SplitArrayKey(key); ok {
		return source.Find(catalog.ArrayKey(name, 0)) != nil
	}
	stem := strings.TrimRight(key, "0123456789")
	if stem = strings.TrimSuffix(stem, "_"); stem == key {
		stem = strings.TrimSuffix(key, "_plural")
	}
	return stem != key && (source.Find(stem) != nil || source.Find(strings.TrimSuffix(stem, "_plural")) != nil)
}

var textMissing = &Rule{
	Name: "text-missing", Severity: finding.Warning,
	Doc:     "A culture has no text for a key, nor has a parent that may answer for it.",
	Why:     "The reader sees the source language in the middle of their own.",
	Example: "boarding_title is in values/ and not in values-fi/",
	Fix:     "Translate it: zelvik set KEY TEXT --culture TAG",
	Family: func(f *Family, report Report) {
		source := f.SourceMember()
		if source == nil {
			return
		}
		var thin []*catalog.Member // are told as a whole
		lacks := map[*catalog.Member][]*catalog.Entry{}
		for _, m := range f.Members {
			if m == source || m.Culture.Pseudo() {
				continue
			}
			of := 0
			for i := range source.Catalog.Entries {
				s := &source.Catalog.Entries[i]
				switch status.Uncompared(f.Family, m, s, m.Catalog.Near(i, s.ID()), f.Names) {
				case status.Exempt:
					continue
				case status.Missing:
					if !parentTold(f, m) {
						lacks[m] = append(lacks[m], s)
					}
				case status.Waiting:
					lacks[m] = append(lacks[m], s)
				}
				of++
			}
			if n := len(lacks[m]); n > mostLacking && n*2 > of {
				thin = append(thin, m)
				report(m, fmt.Sprintf("%s has %d of %d texts", m.Culture.Name(), of-n, of), "zelvik draft fills them, zelvik handoff gives them to a translator")
			}
		}
		for i := range source.Catalog.Entries {
			s := &source.Catalog.Entries[i]
			about := lacking{source: s}
			var names []string
			for _, m := range f.Members {
				if !slices.Contains(thin, m) && len(lacks[m]) > 0 && lacks[m][0] == s {
					about.members, names = append(about.members, m), append(names, m.Culture.Name())
					lacks[m] = lacks[m][1:]
				}
			}
			if names != nil {
				report(about, fmt.Sprintf("%s (%q) has no text in %s", s.Key, short(s.Message), strings.Join(names, ", ")), "")
			}
		}
	},
}

// mostLacking is up to how many missing texts of a culture are told one by one,
// whatever part of it they are.
const mostLacking = 10

var cultureAbsent = &Rule{
	Name: "culture-absent", Severity: finding.Error,
	Doc:     "A culture that zelvik.yaml names has no file in a family.",
	Why:     "Its readers see the source language, and nothing tells that somebody should translate.",
	Example: "cultures: [de, fr] beside values/ and values-de/",
	Fix:     "Make its files: zelvik begin TAG",
	Family: func(f *Family, report Report) {
		var names []string
		for _, tag := range f.Absent() {
			names = append(names, fmt.Sprintf("%s (%s)", tag.Name(), tag))
		}
		if names != nil {
			report(f.Name, "zelvik.yaml names cultures that have no file here: "+strings.Join(names, ", "), "")
		}
	},
}

// Absent gives the cultures that the family is to have and has not.
func (f *Family) Absent() (list []culture.Tag) {
	for _, tag := range f.Cultures {
		misnamed := func(m Misnamed) bool { return m.Culture == tag } // that is told
		if f.Member(tag) == nil && !f.Partial && !slices.ContainsFunc(f.Misnamed, misnamed) {
			list = append(list, tag)
		}
	}
	return list
}

// parentTold reports whether a parent of a culture is in the family: what it
// lacks is told there, and once.
func parentTold(f *Family, m *catalog.Member) bool {
	return slices.ContainsFunc(m.Culture.Parents(), func(tag culture.Tag) bool {
		return tag != f.Source && f.Member(tag) != nil
	})
}

// short gives the beginning of a message, spelled as its file does.
func short(m message.Message) string {
	var whole strings.Builder
	for _, part := range m.Main() {
		switch part := part.(type) {
		case message.Text:
			whole.WriteString(string(part))
		case *message.Placeholder:
			whole.WriteString(spelled(part))
		case *message.Markup:
			whole.WriteString(part.String())
		}
	}
	text := []rune(whole.String())
	if len(text) > 40 {
		return string(text[:39]) + "…"
	}
	return string(text)
}

var textEmpty = &Rule{
	Name: "text-empty", Severity: finding.Warning,
	Doc:     "A translation is empty where the source is not.",
	Why:     "An empty text does not fall back: the label is blank.",
	Example: `<string name="boarding_title"></string>`,
	Fix:     "Translate it, or remove the entry so that it falls back.",
	Pair: func(p *Pair, report Report) {
		if p.Status == status.Empty {
			report(p.Entry, "the text is empty; the source says "+fmt.Sprintf("%q", short(p.Source.Message)), "")
		}
	},
}

var textMoved = &Rule{
	Name: "text-moved", Severity: finding.Warning,
	Doc:     "The source changed after this was translated.",
	Why:     "The translation says what the source said before.",
	Example: `"Harbour map" became "Chart of the harbour", and the German text is still "Hafenplan"`,
	Fix:     "Translate it anew, or say that it still fits: zelvik set KEY --state done --culture TAG",
	Pair: func(p *Pair, report Report) {
		if p.Status == status.Moved {
			report(p.Entry, fmt.Sprintf("the source changed after the translation; now it says %q", short(p.Source.Message)), "")
		}
	},
}

var textDraft = &Rule{
	Name: "text-draft", Severity: finding.Advice,
	Doc:     "A machine made this translation, and nobody has looked at it yet.",
	Why:     "Memories and services get gender, tone and names wrong.",
	Example: "zelvik draft filled boarding_title in Finnish",
	Fix:     "Read it; then change it, or say that it is right: zelvik set KEY --state done --culture TAG",
	Pair: func(p *Pair, report Report) {
		if p.Status == status.Draft {
			report(p.Entry, fmt.Sprintf("a draft that nobody has looked at: %q", short(p.Entry.Message)), "")
		}
	},
}

var textCopied = &Rule{
	Name: "text-copied", Severity: finding.Warning,
	Doc:     "A translation is the same as the source, and it is no name, number or address.",
	Why:     "A file that was copied to be translated was left as it is.",
	Example: `values-fi/strings.xml: <string name="delay_title">Your sailing is late</string>`,
	Fix:     "Translate it; mark names in zelvik.yaml under verify: names.",
	Pair: func(p *Pair, report Report) {
		if p.Status == status.Copied {
			var about any = p.Entry
			if len(strings.Fields(p.Entry.Message.Main().Literal())) == 1 { // perhaps a name, or a word that people have taken over
				about = mild{p.Entry}
			}
			report(about, fmt.Sprintf("the text is the source's own: %q", short(p.Entry.Message)), "")
		}
	},
}

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

// usual gives the script that nearly all of a file is in, where its culture names
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

// scripts gives the Unicode scripts that a culture's script is made of (UAX
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

// eastAsian are the scripts that are told as one.
var eastAsian = []string{"Han", "Hiragana", "Katakana", "Hangul"}

// letters gives the script of every letter of the basic plane, as a number in
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

package verify

import (
	_ "embed"
	"fmt"
	"math/bits"
	"slices"
	"strings"
	"sync"

	"zelvik/catalog"
	"zelvik/catalog/status"
	"zelvik/culture"
	"zelvik/finding"
	"zelvik/message"
)

//go:embed words.txt
var wordTable string

// vocabulary is what is known of function words: the languages of each, a bit a
// language, and the number of the word.
type vocabulary struct {
	languages []string
	words     map[string]word
}

type word struct {
	in     uint64
	number uint16
}

var functionWords = sync.OnceValue(func() *vocabulary {
	v := &vocabulary{words: map[string]word{}}
	for line := range strings.Lines(wordTable) {
		fields := strings.Fields(line)
		if len(fields) == 0 || fields[0] == "#" {
			continue
		}
		bit := uint64(1) << len(v.languages)
		v.languages = append(v.languages, fields[0])
		for _, text := range fields[1:] {
			known, ok := v.words[text]
			if !ok {
				known.number = uint16(len(v.words))
			}
			known.in |= bit
			v.words[text] = known
		}
	}
	return v
})

var languageSuspect = &Rule{
	Name: "language-suspect", Severity: finding.Warning,
	Doc:     "The words of a text belong to another language than that of its culture.",
	Why:     "A file was copied or a text pasted into the wrong place, and its readers do not understand it.",
	Example: `app_sv.arb with "Avgangen er forsinket, og vi gir beskjed her"`,
	Fix:     "Put in the text of its culture.",
	Catalog: func(f *Family, m *catalog.Member, report Report) {
		if m.Culture == f.Source || m.Culture.Pseudo() || !speaks(m.Culture.Base()) {
			return
		}
		source := f.SourceMember()
		type suspect struct {
			e        *catalog.Entry
			language string
		}
		var suspects []suspect
		read := 0
		for i := range m.Catalog.Entries {
			e := &m.Catalog.Entries[i]
			language, sure := languageOf(e.Message, m.Culture.Base())
			if sure {
				read++
			}
			if language == "" || e.Fixed || e.Reference != "" {
				continue
			}
			if source != nil {
				s := source.Catalog.Near(i, e.ID())
				if s == nil || status.Of(f.Family, m, s, e, f.Names).Open() {
					continue // a text that is to be looked at is reported by that
				}
			}
			suspects = append(suspects, suspect{e, language})
		}
		if len(suspects) > 5 && len(suspects)*2 > read {
			count := map[string]int{}
			most := ""
			for _, s := range suspects {
				if count[s.language]++; count[s.language] > count[most] {
					most = s.language
				}
			}
			report(m, fmt.Sprintf("the file is said to be %s, and its texts look like %s: %q", m.Culture.Name(), culture.Tag(most).Name(), short(suspects[0].e.Message)), "rename the file, or put in the texts of its culture")
			return
		}
		for _, s := range suspects {
			report(s.e, fmt.Sprintf("the text looks like %s, not %s: %q", culture.Tag(s.language).Name(), m.Culture.Name(), short(s.e.Message)), "")
		}
	},
}

// kin are languages that share so many words that a text of one passes for another.
var kin = [][]string{{"sr", "hr", "bs", "sh", "cnr", "me"}, {"nb", "nn", "no", "da"}, {"id", "ms"}, {"gl", "pt"}, {"cs", "sk"}, {"ca", "oc"}, {"bg", "mk"}, {"nl", "af"}}

func related(a, b string) bool {
	return slices.ContainsFunc(kin, func(group []string) bool { return slices.Contains(group, a) && slices.Contains(group, b) })
}

// speaks reports whether the words of a language are known.
func speaks(language string) bool {
	return strings.Contains(wordTable, "\n"+language+" ")
}

// languageOf returns the language that a text is in where it is surely not in its own:
// it has four different words of the other, and hardly one of its own. Sure says that
// the text has words to go by.
func languageOf(m message.Message, own string) (language string, sure bool) {
	pattern := m.Main()
	spaces := 0
	for _, part := range pattern {
		if text, ok := part.(message.Text); ok {
			spaces += strings.Count(string(text), " ")
		}
	}
	if spaces < 5 {
		return "", false
	}
	v := functionWords()
	at := slices.Index(v.languages, own)
	var score [64]int
	var seen [32]uint64
	words := 0
	var room [32]byte
	for _, part := range pattern {
		text, ok := part.(message.Text)
		if !ok {
			continue
		}
		for from := 0; from < len(text); {
			// A word is letters and apostrophes; bytes of other scripts count as such.
			length, lower := 0, room[:0]
			for from+length < len(text) {
				c := text[from+length]
				if c >= 'A' && c <= 'Z' {
					c |= 0x20
				}
				if c < 'a' && c != '\'' || c > 'z' && c < 0x80 {
					break
				}
				if length++; len(lower) < len(room) {
					lower = append(lower, c)
				}
			}
			if from += length + 1; length == 0 {
				continue
			}
			words++
			known, ok := v.words[string(lower)]
			if !ok || seen[known.number/64]&(1<<(known.number%64)) != 0 {
				continue
			}
			seen[known.number/64] |= 1 << (known.number % 64)
			for in := known.in; in != 0; in &= in - 1 {
				score[bits.TrailingZeros64(in)]++
			}
			if score[at] > 2 { // it is in its language
				return "", true
			}
		}
	}
	if words < 6 {
		return "", false
	}
	most := 0
	for l, n := range score[:len(v.languages)] {
		if n > 0 && related(v.languages[l], own) {
			return "", true
		}
		if n > most {
			language, most = v.languages[l], n
		}
	}
	if score[at]*4 > most || most < 4 || most*4 < words {
		return "", most > 1
	}
	return language, true
}

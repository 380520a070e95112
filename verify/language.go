package verify

import (
	_ "embed"
	"fmt"
	"slices"
	"strings"
	"sync"
	"unicode"

	"zelvik/catalog"
	"zelvik/catalog/status"
	"zelvik/culture"
	"zelvik/finding"
	"zelvik/message"
)

//go:embed words.txt
var wordTable string

// functionWords gives the languages that a word is common in.
var functionWords = sync.OnceValue(func() map[string][]string {
	words := map[string][]string{}
	for line := range strings.Lines(wordTable) {
		fields := strings.Fields(line)
		if len(fields) == 0 || fields[0] == "#" {
			continue
		}
		for _, word := range fields[1:] {
			if !slices.Contains(words[word], fields[0]) {
				words[word] = append(words[word], fields[0])
			}
		}
	}
	return words
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
			if e.Fixed || e.Reference != "" {
				continue
			}
			if source != nil {
				s := source.Catalog.Near(i, e.ID())
				if s == nil || status.Of(f.Family, m, s, e, f.Names).Open() {
					continue // a text that is to be looked at is told by that
				}
			}
			language, sure := languageOf(e.Message, m.Culture.Base())
			if sure {
				read++
			}
			if language != "" {
				suspects = append(suspects, suspect{e, language})
			}
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
var kin = [][]string{{"sr", "hr", "bs", "sh", "cnr", "me"}, {"nb", "nn", "no", "da"}, {"id", "ms"}, {"gl", "pt"}, {"cs", "sk"}, {"ca", "oc"}, {"bg", "mk"}}

func related(a, b string) bool {
	return slices.ContainsFunc(kin, func(group []string) bool { return slices.Contains(group, a) && slices.Contains(group, b) })
}

// speaks reports whether the words of a language are known.
func speaks(language string) bool {
	return strings.Contains(wordTable, "\n"+language+" ")
}

// languageOf gives the language that a text is in where it is surely not in its own:
// it has four different words of the other, and hardly one of its own. Sure says that
// the text has words to go by.
func languageOf(m message.Message, own string) (language string, sure bool) {
	table := functionWords()
	score := map[string]int{}
	seen := map[string]bool{}
	words := 0
	for word := range strings.FieldsFuncSeq(m.Main().Literal(), func(r rune) bool { return !unicode.IsLetter(r) && r != '\'' && r != '’' }) {
		words++
		if word = strings.ToLower(word); seen[word] {
			continue
		}
		seen[word] = true
		for _, l := range table[word] {
			score[l]++
		}
	}
	if words < 6 {
		return "", false
	}
	most := 0
	for l, n := range score {
		if n > most || n == most && l < language {
			language, most = l, n
		}
	}
	for l, n := range score {
		if n > 0 && related(l, own) {
			return "", true
		}
	}
	if score[own]*4 > most || most < 4 || most*4 < words {
		return "", most > 1
	}
	return language, true
}

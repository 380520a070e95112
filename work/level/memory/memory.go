// Package memory is a translation memory: texts that were translated before,
// found again when the same or nearly the same text is to be translated.
package memory

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
	"unicode"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/message"
)

// Memory holds translations by culture.
type Memory struct {
	cultures map[culture.Tag]*store
}

// Unit is one translation.
type Unit struct {
	Key            string
	Source, Target message.Message
	// Origin is the file or family it was read from.
	Origin string

	// shape is the source as it is compared, tokens its words.
	shape  string
	tokens []string
}

// Match is what was found for a text.
type Match struct {
	// Percent is how much of the source is the same: 100 for all of it.
	Percent int
	// Text is the translation, with the placeholders of the text that was asked
	// for.
	Text message.Message
	Unit *Unit
}

// store holds the units of a culture, by shape and by word.
type store struct {
	units   []*Unit
	exact   map[string][]*Unit
	byWord  map[string][]int32
	counted []int32 // scratch: how many words a unit shares
}

// Add remembers the translations of a catalog: entries with a text of their
// own that is no draft.
func (m *Memory) Add(source, target *catalog.Catalog, tag culture.Tag, origin string) {
	if m.cultures == nil {
		m.cultures = map[culture.Tag]*store{}
	}
	s := m.cultures[tag]
	if s == nil {
		s = &store{exact: map[string][]*Unit{}, byWord: map[string][]int32{}}
		m.cultures[tag] = s
	}
	for i := range target.Entries {
		t := &target.Entries[i]
		e := source.Find(t.ID())
		if e == nil || e.Message.Empty() || t.Message.Empty() || t.State == catalog.Draft || t.State == catalog.Moved || t.State == catalog.Missing {
			continue
		}
		u := &Unit{Key: t.Key, Source: e.Message, Target: t.Message, Origin: origin}
		u.shape, u.tokens = shape(e.Message)
		s.exact[u.shape] = append(s.exact[u.shape], u)
		for _, word := range distinct(u.tokens) {
			s.byWord[word] = append(s.byWord[word], int32(len(s.units)))
		}
		s.units = append(s.units, u)
	}
}

// Len counts the translations into a culture.
func (m *Memory) Len(tag culture.Tag) int {
	if s := m.cultures[tag]; s != nil {
		return len(s.units)
	}
	return 0
}

// Find returns the best translation of an entry, of at least so many percent;
// nil where there is none. Of several as good, one of the same key comes first,
// then the one that was remembered first.
func (m *Memory) Find(e *catalog.Entry, tag culture.Tag, least int) *Match {
	s := m.cultures[tag]
	if s == nil || e.Message.Empty() {
		return nil
	}
	asked, tokens := shape(e.Message)
	if found := best(s.exact[asked], e); found != nil {
		if text, ok := adapt(found, e.Message, tag); ok {
			return &Match{100, text, found}
		}
	}
	if len(tokens) < 2 { // one word is the same or another
		return nil
	}
	var match *Match
	for _, u := range s.near(tokens, least) {
		percent := alike(tokens, u.tokens)
		if percent < least || match != nil && percent <= match.Percent {
			continue
		}
		if text, ok := adapt(u, e.Message, tag); ok {
			match = &Match{percent, text, u}
		}
	}
	return match
}

// best picks the unit with the entry's key, else the first.
func best(units []*Unit, e *catalog.Entry) *Unit {
	for _, u := range units {
		if u.Key == e.Key {
			return u
		}
	}
	if len(units) > 0 {
		return units[0]
	}
	return nil
}

// most is how many units are compared word by word for one text.
const most = 64

// near returns the units that share most words with a text, as many as could be
// so alike.
func (s *store) near(tokens []string, least int) []*Unit {
	if len(s.counted) < len(s.units) {
		s.counted = make([]int32, len(s.units))
	}
	var touched []int32
	for _, word := range distinct(tokens) {
		list := s.byWord[word]
		if len(list) > 4096 && len(tokens) > 3 { // a word of every other text says little
			continue
		}
		for _, n := range list {
			if s.counted[n] == 0 {
				touched = append(touched, n)
			}
			s.counted[n]++
		}
	}
	var list []*Unit
	slices.SortFunc(touched, func(a, b int32) int { return cmp.Or(cmp.Compare(s.counted[b], s.counted[a]), cmp.Compare(a, b)) })
	for _, n := range touched {
		u := s.units[n]
		if shorter, longer := min(len(tokens), len(u.tokens)), max(len(tokens), len(u.tokens)); len(list) < most && shorter*100 >= least*longer {
			list = append(list, u)
		}
	}
	for _, n := range touched {
		s.counted[n] = 0
	}
	return list
}

func distinct(tokens []string) []string {
	list := slices.Clone(tokens)
	slices.Sort(list)
	return slices.Compact(list)
}

// shape returns a message as it is compared, placeholders by their number alone,
// and its words.
func shape(m message.Message) (string, []string) {
	var out strings.Builder
	var tokens []string
	arguments := m.Arguments()
	for keys, pattern := range m.Patterns() {
		for _, key := range keys {
			out.WriteString("\x00" + key)
		}
		out.WriteByte(0)
		for _, part := range pattern {
			switch part := part.(type) {
			case message.Text:
				out.WriteString(string(part))
				tokens = append(tokens, words(string(part))...)
			case *message.Markup:
				out.WriteString(part.String())
				tokens = append(tokens, part.String())
			case *message.Placeholder:
				number := 1 + slices.IndexFunc(arguments, func(a message.Placeholder) bool { return a.Same(part) })
				token := fmt.Sprintf("\x01%d", number)
				if part.Type.Number() {
					token += "#"
				}
				out.WriteString(token)
				tokens = append(tokens, "\x01")
			}
		}
	}
	return out.String(), tokens
}

// words parts a text into words in lower case, numbers, and signs.
func words(text string) []string {
	var list []string
	word := strings.Builder{}
	flush := func() {
		if text := word.String(); text != "" {
			if strings.Trim(text, "0123456789") == "" { // numbers are put in anew
				text = "0"
			}
			list = append(list, text)
			word.Reset()
		}
	}
	for _, r := range text {
		switch {
		case unicode.IsLetter(r) || unicode.IsDigit(r) || unicode.IsMark(r) || r == '\'' || r == '’':
			word.WriteRune(unicode.ToLower(r))
		case unicode.IsSpace(r):
			flush()
		default:
			flush()
			list = append(list, string(r))
		}
	}
	flush()
	return list
}

// alike returns how much of two lists of words is the same in percent: 100 less
// the share of the longer that has to be changed (Levenshtein). It is never
// 100, since the texts are not the same.
func alike(a, b []string) int {
	row := make([]int, len(b)+1)
	for j := range row {
		row[j] = j
	}
	for i, x := range a {
		corner := row[0]
		row[0] = i + 1
		for j, y := range b {
			cost := corner
			if x != y {
				cost++
			}
			corner = row[j+1]
			row[j+1] = min(cost, row[j]+1, corner+1)
		}
	}
	longer := max(len(a), len(b))
	return min(99, 100*(longer-row[len(b)])/longer)
}

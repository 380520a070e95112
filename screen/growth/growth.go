// Package growth says how much longer translations are than their source: by
// published guidance, and as a project's own translations are.
package growth

import (
	"cmp"
	"math"
	"slices"
	"unicode/utf8"

	"zelvik/catalog"
	"zelvik/culture"
)

// guidance is the lower end of the ranges that the W3C's article on text size
// in translation gives for English, by the number of characters: texts of up
// to ten grow to 200 to 300 %, and so on.
var guidance = []struct {
	upTo   int
	factor float64
}{{10, 2}, {20, 1.8}, {30, 1.6}, {50, 1.4}, {70, 1.51}, {math.MaxInt, 1.3}}

// Guidance is the factor by which a text of so many characters is likely to
// grow.
func Guidance(characters int) float64 {
	for _, row := range guidance {
		if characters <= row.upTo {
			return row.factor
		}
	}
	return 1
}

// Stats are the growth of one culture's own translations, as factors of the
// source's length in characters.
type Stats struct {
	Culture culture.Tag `json:"culture"`
	// Texts is how many were compared.
	Texts  int     `json:"texts"`
	Median float64 `json:"median"`
	// Ninth is the 90th percentile: nine of ten texts grow no more.
	Ninth    float64 `json:"ninth"`
	Worst    float64 `json:"worst"`
	WorstKey string  `json:"worstKey"`
}

// Measured is the growth of a project's translations by culture, in the order
// of their tags.
type Measured []Stats

// least is how many texts it takes to say how a culture grows.
const least = 10

// Measure compares the translations of families with their sources. Texts that
// are not to be translated, empty ones and copies do not count, nor do sources
// of fewer than three characters.
func Measure(families []*catalog.Family) Measured {
	type ratio struct {
		factor float64
		key    string
	}
	ratios := map[culture.Tag][]ratio{}
	for _, f := range families {
		source := f.SourceMember()
		if source == nil {
			continue
		}
		for _, m := range f.Members {
			if m == source || m.Culture.Pseudo() {
				continue
			}
			for i := range m.Catalog.Entries {
				e := &m.Catalog.Entries[i]
				s := source.Catalog.Find(e.ID())
				if s == nil || s.Fixed {
					continue
				}
				have, from := e.Message.Main().String(), s.Message.Main().String()
				length := utf8.RuneCountInString(from)
				if length < 3 || have == "" || have == from {
					continue
				}
				ratios[m.Culture] = append(ratios[m.Culture], ratio{float64(utf8.RuneCountInString(have)) / float64(length), e.Key})
			}
		}
	}
	var list Measured
	for tag, of := range ratios {
		slices.SortFunc(of, func(a, b ratio) int { return cmp.Or(cmp.Compare(a.factor, b.factor), cmp.Compare(a.key, b.key)) })
		at := func(share float64) float64 { return round(of[int(share*float64(len(of)-1)+0.5)].factor) }
		worst := of[len(of)-1]
		list = append(list, Stats{tag, len(of), at(0.5), at(0.9), round(worst.factor), worst.key})
	}
	slices.SortFunc(list, func(a, b Stats) int { return cmp.Compare(a.Culture, b.Culture) })
	return list
}

func round(n float64) float64 { return math.Round(n*100) / 100 }

// Of is the growth to expect of a culture's translation of a source text: the
// greater of the guidance for its length and the 90th percentile of the
// culture's own translations, where there are enough.
func (m Measured) Of(tag culture.Tag, source string) float64 {
	factor := Guidance(utf8.RuneCountInString(source))
	for _, s := range m {
		if s.Culture == tag && s.Texts >= least {
			factor = max(factor, s.Ninth)
		}
	}
	return factor
}

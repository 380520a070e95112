package text

import (
	"bufio"
	"bytes"
	"compress/gzip"
	_ "embed"
	"slices"
	"strings"
	"sync"
	"unicode"
)

// Thai has no spaces between words, so that where a line may end is a matter
// of knowing them: 26,383 words of ICU.
//
//go:embed data/thai.txt.gz
var thaiFile []byte

// lexicon are words, and how long the longest is, in characters.
type lexicon struct {
	words   map[string]bool
	longest int
}

var thai = sync.OnceValue(func() lexicon {
	l := lexicon{words: map[string]bool{}}
	unzipped, err := gzip.NewReader(bytes.NewReader(thaiFile))
	if err != nil {
		panic(err) // the list is embedded
	}
	lines := bufio.NewScanner(unzipped)
	for lines.Scan() {
		if word := lines.Text(); !strings.HasPrefix(word, "#") {
			l.words[word] = true
			l.longest = max(l.longest, len([]rune(word)))
		}
	}
	return l
})

// thaiWords returns the places in a text at which a Thai word begins after
// another one: of all ways to part a stretch into words, the one with the
// fewest characters that belong to none, and then the fewest words.
func thaiWords(text []rune) []int {
	var starts []int
	for from := 0; from < len(text); {
		if !unicode.Is(unicode.Thai, text[from]) {
			from++
			continue
		}
		to := from
		for to < len(text) && unicode.Is(unicode.Thai, text[to]) {
			to++
		}
		for _, at := range thai().part(text[from:to]) {
			starts = append(starts, from+at)
		}
		from = to
	}
	return starts
}

// unknown is what a character that belongs to no word costs, in words.
const unknown = 100

func (l lexicon) part(run []rune) []int {
	cost, before := make([]int, len(run)+1), make([]int, len(run)+1)
	known := make([]bool, len(run)+1)
	for end := 1; end <= len(run); end++ {
		cost[end], before[end] = cost[end-1]+unknown, end-1
		if end < len(run) && joined(run[end-1], run[end]) {
			continue // nothing ends here
		}
		for start := max(0, end-l.longest); start < end; start++ {
			if c := cost[start] + 1; c < cost[end] && l.words[string(run[start:end])] {
				cost[end], before[end], known[end] = c, start, true
			}
		}
	}
	var starts []int
	for end := len(run); end > 0; end = before[end] {
		start := before[end]
		if start > 0 && (known[end] || known[start]) && !joined(run[start-1], run[start]) {
			starts = append(starts, start)
		}
	}
	slices.Reverse(starts)
	return starts
}

// joined reports whether two Thai characters cannot be split: a mark stays
// with its letter, a vowel that is written first with what follows.
func joined(a, b rune) bool {
	return unicode.Is(unicode.Mn, b) || a >= 'เ' && a <= 'ไ' || b == 'ะ' || b == 'า' || b == 'ำ' || b == 'ๅ' || b == 'ๆ' || b == 'ฯ'
}

// Package finding is the ground floor: what a check reports, how grave it is
// and where it stands. Nothing here knows about formats, rules or terminals.
package finding

import (
	"cmp"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"sync"
	"unicode/utf8"
)

// Severity says how grave a finding is. Greater is graver.
type Severity int8

// The severities, mildest first. Never is no severity of a finding: as a
// threshold it lies above them all.
const (
	Advice Severity = iota + 1
	Warning
	Error
	Never
)

var severityNames = map[Severity]string{Advice: "advice", Warning: "warning", Error: "error", Never: "never"}

// String returns the name used in options and reports.
func (s Severity) String() string { return severityNames[s] }

// MarshalJSON writes the severity as its name.
func (s Severity) MarshalJSON() ([]byte, error) { return json.Marshal(s.String()) }

// UnmarshalJSON reads the severity from its name.
func (s *Severity) UnmarshalJSON(data []byte) error {
	var name string
	if err := json.Unmarshal(data, &name); err != nil {
		return err
	}
	parsed, err := ParseSeverity(name)
	*s = parsed
	return err
}

// ParseSeverity reads a severity or threshold by name. The error lists the
// names there are.
func ParseSeverity(name string) (Severity, error) {
	for severity, spelled := range severityNames {
		if name == spelled {
			return severity, nil
		}
	}
	return 0, fmt.Errorf("%q is no severity; choose error, warning, advice or never", name)
}

// Finding is one thing worth telling. Fields that do not apply stay zero and
// are left out of JSON.
type Finding struct {
	Rule     string   `json:"rule"`
	Severity Severity `json:"severity"`
	Path     string   `json:"path,omitempty"`
	// Line and Column count from 1; Column counts characters, not bytes.
	Line    int    `json:"line,omitempty"`
	Column  int    `json:"column,omitempty"`
	Key     string `json:"key,omitempty"`
	Culture string `json:"culture,omitempty"`
	// Message is one sentence that says what is wrong.
	Message string `json:"message"`
	// Fix says what to do about it.
	Fix string `json:"fix,omitempty"`

	// Screen findings also carry where they stand and who shares them.
	Screen   string   `json:"screen,omitempty"`
	Box      string   `json:"box,omitempty"`
	Pixels   int      `json:"pixels,omitempty"`
	Cultures []string `json:"cultures,omitempty"`
}

// Place returns path, line and column in the form that editors and terminals
// turn into a link: path:line:column, as far as they are known.
func (f Finding) Place() string {
	place := f.Path
	if f.Line > 0 {
		place += fmt.Sprintf(":%d", f.Line)
		if f.Column > 0 {
			place += fmt.Sprintf(":%d", f.Column)
		}
	}
	return place
}

// Sort puts findings into the order of reading: by path, place, rule, key and
// culture. The order is total, so that output is the same on every run.
func Sort(findings []Finding) {
	slices.SortStableFunc(findings, func(a, b Finding) int {
		return cmp.Or(
			strings.Compare(a.Path, b.Path), cmp.Compare(a.Line, b.Line), cmp.Compare(a.Column, b.Column),
			strings.Compare(a.Rule, b.Rule), strings.Compare(a.Key, b.Key),
			strings.Compare(a.Culture, b.Culture), strings.Compare(a.Message, b.Message),
		)
	})
}

// Lines turns byte offsets of a text into lines and columns. The zero value
// is not usable; make one with NewLines.
type Lines struct {
	data   string
	once   sync.Once
	starts []int
}

// NewLines prepares the positions of data. The work is done at the first call
// of At, because most files have no finding.
func NewLines(data string) *Lines { return &Lines{data: data} }

// At returns the line and the column, both from 1, of the byte at offset. A
// line ends with LF, CR LF or a lone CR; columns count characters. Several
// goroutines may ask at once.
func (l *Lines) At(offset int) (line, column int) {
	l.once.Do(l.find)
	offset = min(max(offset, 0), len(l.data))
	at, exact := slices.BinarySearch(l.starts, offset)
	if !exact {
		at--
	}
	prefix := strings.TrimPrefix(l.data[l.starts[at]:offset], "\uFEFF")
	return at + 1, utf8.RuneCountInString(prefix) + 1
}

// find finds the beginnings of the lines.
func (l *Lines) find() {
	l.starts = append(make([]int, 0, strings.Count(l.data, "\n")+1), 0)
	if strings.IndexByte(l.data, '\r') < 0 {
		for at := 0; ; {
			end := strings.IndexByte(l.data[at:], '\n')
			if end < 0 {
				return
			}
			at += end + 1
			l.starts = append(l.starts, at)
		}
	}
	for i := 0; i < len(l.data); i++ {
		if c := l.data[i]; c == '\n' || c == '\r' && (i+1 == len(l.data) || l.data[i+1] != '\n') {
			l.starts = append(l.starts, i+1)
		}
	}
}

// Quoted writes a word so that a shell takes it as one: as it is where it has
// nothing that means something there, else in single quotes.
func Quoted(word string) string {
	plain := func(r rune) bool {
		return r >= '0' && r <= '9' || r|0x20 >= 'a' && r|0x20 <= 'z' || strings.ContainsRune("_-./:@%+=,", r)
	}
	if word != "" && word[0] != '-' && !strings.ContainsFunc(word, func(r rune) bool { return !plain(r) }) {
		return word
	}
	return "'" + strings.ReplaceAll(word, "'", `'\''`) + "'"
}

// Nearest returns the candidate most like word, or "" when none is close: at
// most a third of its letters differ (Damerau-Levenshtein distance, upper and
// lower case being the same). It takes the time of a few letters for each
// candidate that is far.
func Nearest(word string, candidates []string) string {
	s := []rune(strings.ToLower(word))
	best, nearest := max(1, len(s)/3)+1, ""
	letters := lettersOf(s)
	var rows [3][]int
	for _, candidate := range candidates {
		if len(candidate) < len(s)-best || len(candidate) > 4*(len(s)+best) {
			continue // a letter has one to four bytes
		}
		t := []rune(strings.ToLower(candidate))
		if d := len(t) - len(s); d >= best || -d >= best || apart(letters, lettersOf(t)) >= best {
			continue
		}
		for i := range rows {
			if len(rows[i]) <= len(t) {
				rows[i] = make([]int, len(t)+16)
			}
		}
		if d := distance(s, t, best, rows); d < best {
			if best, nearest = d, candidate; best == 0 {
				break
			}
		}
	}
	return nearest
}

// lettersOf counts the letters of a word, some under one number.
func lettersOf(word []rune) (counts [32]int8) {
	for _, r := range word {
		if counts[r%32] < 100 {
			counts[r%32]++
		}
	}
	return counts
}

// apart returns the least number of changes that turn one count of letters into
// another: each changes two counts at most.
func apart(a, b [32]int8) int {
	more, less := 0, 0
	for i := range a {
		if d := int(a[i]) - int(b[i]); d > 0 {
			more += d
		} else {
			less -= d
		}
	}
	return max(more, less)
}

// distance counts insertions, deletions, substitutions and swaps of
// neighbours that turn s into t; it gives up at a bound.
func distance(s, t []rune, bound int, rows [3][]int) int {
	before, last, row := rows[0], rows[1], rows[2]
	for j := range len(t) + 1 {
		last[j] = j
	}
	for i := 1; i <= len(s); i++ {
		row[0] = i
		least := i
		for j := 1; j <= len(t); j++ {
			cost := 1
			if s[i-1] == t[j-1] {
				cost = 0
			}
			row[j] = min(last[j]+1, row[j-1]+1, last[j-1]+cost)
			if i > 1 && j > 1 && s[i-1] == t[j-2] && s[i-2] == t[j-1] {
				row[j] = min(row[j], before[j-2]+1)
			}
			least = min(least, row[j])
		}
		if least > bound {
			return bound + 1 // rows grow, but for a swap, by one
		}
		before, last, row = last, row, before
	}
	return last[len(t)]
}

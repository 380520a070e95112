package culture

import (
	"strings"
	"sync"
	"unicode/utf8"
)

// Symbols say how a culture writes numbers (UTS #35, number patterns).
type Symbols struct {
	Zero                          rune
	Decimal, Group, Minus         string
	DecimalPattern, PercentFormat string
	// Currency is the pattern of amounts, LetterCurrency the one where the sign
	// has a letter next to the number.
	Currency, LetterCurrency string
	// CurrencyDecimal and CurrencyGroup are the marks of amounts, "" where they
	// are those of numbers.
	CurrencyDecimal, CurrencyGroup string
	// FirstGroup is how many digits must stand before the first group mark.
	FirstGroup int
}

var symbols = sync.OnceValue(func() map[string]Symbols {
	table := map[string]Symbols{}
	for row := range rows("numbers.txt", "\t") {
		zero, _ := utf8.DecodeRuneInString(row[1])
		table[row[0]] = Symbols{zero, row[2], row[3], row[4], row[6], strings.Replace(row[7], "%", row[5], 1), row[9], row[10], row[11], row[12], int(row[8][0] - '0')}
	}
	return table
})

// Symbols returns the culture's number symbols; English ones where none are known.
func (t Tag) Symbols() Symbols {
	for tag := t; tag != ""; tag = tag.Parent() {
		if found, ok := symbols()[string(tag)]; ok {
			return found
		}
	}
	return symbols()["en"]
}

// Format writes a decimal number given as ASCII digits ("-1234.50") with the
// culture's digits and marks; group says whether thousands are set apart.
func (s Symbols) Format(number string, group bool) string {
	number, negative := strings.CutPrefix(number, "-")
	whole, fraction, hasFraction := strings.Cut(number, ".")
	var out strings.Builder
	if negative {
		out.WriteString(s.Minus)
	}
	primary, secondary := s.groups()
	for i, digit := range whole {
		left := len(whole) - i
		if group && i > 0 && len(whole) >= primary+s.FirstGroup &&
			(left == primary || left > primary && (left-primary)%secondary == 0) {
			out.WriteString(s.Group)
		}
		out.WriteRune(s.digit(digit))
	}
	if hasFraction {
		out.WriteString(s.Decimal)
		for _, digit := range fraction {
			out.WriteRune(s.digit(digit))
		}
	}
	return out.String()
}

// Percent writes a share that was already multiplied by 100: "12.5" gives
// "12,5 %" in German.
func (s Symbols) Percent(number string, group bool) string {
	pattern := s.PercentFormat
	start := strings.IndexAny(pattern, "#0,.")
	end := strings.LastIndexAny(pattern, "#0,.")
	if start < 0 {
		return s.Format(number, group)
	}
	return pattern[:start] + s.Format(number, group) + pattern[end+1:]
}

func (s Symbols) digit(ascii rune) rune {
	if ascii < '0' || ascii > '9' {
		return ascii
	}
	return s.Zero + ascii - '0'
}

// groups returns the sizes of the last group and of those before it: 3 and 3 in
// most cultures, 3 and 2 in Hindi ("#,##,##0").
func (s Symbols) groups() (primary, secondary int) {
	whole, _, _ := strings.Cut(s.DecimalPattern, ".")
	parts := strings.Split(whole, ",")
	primary = len(parts[len(parts)-1])
	secondary = primary
	if len(parts) > 2 {
		secondary = len(parts[len(parts)-2])
	}
	return primary, max(secondary, 1)
}

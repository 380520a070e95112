package culture

import (
	"strings"
	"sync"
)

// Dates say how a culture writes dates and times of the Gregorian calendar, in
// the patterns of UTS #35.
type Dates struct {
	// Short and Long are the months as they stand in a date; ShortAlone and
	// LongAlone as they stand alone, empty where that is the same.
	Short, Long, ShortAlone, LongAlone []string
	// ShortDays and LongDays begin with Sunday; those that stand alone are
	// empty where they are the same.
	ShortDays, LongDays, ShortDaysAlone, LongDaysAlone []string
	// Periods are the halves of the day. Parts are its parts by the hour at
	// which they begin ("05=清晨"), where a pattern of times asks for them.
	Periods, Parts []string
	// Date and Time are the patterns of the lengths full, long, medium, short.
	Date, Time []string
	// Fields are the patterns by fields: "yMMMd" gives "d. MMM y" in German.
	Fields map[string]string
}

var dates = sync.OnceValue(func() map[string]Dates {
	list := func(text string) []string {
		if text == "" {
			return nil
		}
		return strings.Split(text, "|")
	}
	table := map[string]Dates{}
	for row := range rows("dates.txt", "\t") {
		d := Dates{Short: list(row[1]), Long: list(row[2]), ShortAlone: list(row[3]), LongAlone: list(row[4]), ShortDays: list(row[5]),
			LongDays: list(row[6]), Periods: list(row[7]), Date: list(row[8]), Time: list(row[9]), Fields: map[string]string{},
			ShortDaysAlone: list(row[11]), LongDaysAlone: list(row[12]), Parts: list(row[13])}
		for _, field := range list(row[10]) {
			name, pattern, _ := strings.Cut(field, "=")
			d.Fields[name] = pattern
		}
		table[row[0]] = d
	}
	return table
})

// Dates returns the culture's way with dates; the English one where none is known.
func (t Tag) Dates() Dates {
	for tag := t; tag != ""; tag = tag.Parent() {
		if found, ok := dates()[string(tag)]; ok {
			return found
		}
	}
	return dates()["en"]
}

var currencies = sync.OnceValue(func() map[string]string {
	table := map[string]string{}
	for row := range rows("currencies.txt", "\t") {
		if row[0] == "digits" {
			table["digits "+row[1]] = row[2]
			continue
		}
		for pair := range strings.SplitSeq(row[2], "|") {
			code, sign, _ := strings.Cut(pair, "=")
			table[row[1]+" "+code] = sign
		}
	}
	return table
})

// CurrencySign is what a culture writes for a currency of ISO 4217, the code
// where it has no sign of its own: "€" for EUR in most cultures.
func (t Tag) CurrencySign(code string) string {
	for tag := t; tag != ""; tag = tag.Parent() {
		if sign, ok := currencies()[string(tag)+" "+code]; ok {
			return sign
		}
	}
	return code
}

// CurrencyDigits is how many decimals amounts of a currency have.
func CurrencyDigits(code string) int {
	if digits, ok := currencies()["digits "+code]; ok {
		return int(digits[0] - '0')
	}
	return 2
}

// Pattern returns the pattern with these fields ("yMMMd", "jm"), which may be in
// their long form (UTS #35, skeletons); that of a medium date where none fits.
func (d Dates) Pattern(skeleton string) string {
	hour := "h"
	if strings.Contains(strings.Join(d.Time, ""), "H") {
		hour = "H"
	}
	skeleton = strings.ReplaceAll(skeleton, "j", hour)
	if i := strings.IndexAny(skeleton, "HhKk"); i > 0 {
		return d.byFields(skeleton[:i]) + " " + d.byFields(skeleton[i:])
	}
	return d.byFields(skeleton)
}

func (d Dates) byFields(fields string) string {
	if found, ok := d.Fields[fields]; ok {
		return found
	}
	narrow := strings.NewReplacer("yyyy", "y", "EEEE", "E", "MMMM", "MMM", "MMM", "MMM", "MM", "M", "dd", "d", "HH", "H", "hh", "h", "mm", "m", "ss", "s").Replace(fields)
	found, ok := d.Fields[narrow]
	if !ok {
		return d.Date[2]
	}
	if strings.Contains(fields, "EEEE") {
		found = strings.NewReplacer("ccc", "cccc", "EEE", "EEEE", "E", "EEEE").Replace(found)
	}
	if strings.Contains(fields, "MMMM") {
		found = strings.NewReplacer("MMM", "MMMM", "LLL", "LLLL").Replace(found)
	}
	return found
}

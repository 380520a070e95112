package accessor

import (
	"bytes"
	"encoding/json"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"

	"zelvik/culture"
	"zelvik/message"
)

// Locale is how a culture writes numbers, amounts and dates, for languages
// whose standard library does not know. Lists are joined by "|".
type Locale struct {
	Tag string
	culture.Symbols
	// Signs are the currencies of the family's texts: "EUR=€|JPY=¥".
	Signs string
	// The months, days and patterns as in culture.Dates; empty where no member
	// takes a date or a time.
	Short, Long, ShortAlone, LongAlone, ShortDays, LongDays, ShortDaysAlone, LongDaysAlone, Periods, Parts, Date, Time, Fields string
}

var currencyCode = sync.OnceValue(func() *regexp.Regexp {
	return regexp.MustCompile(`::[^}]*currency/([A-Z]{3})`)
})

// Locales are the tables of all cultures, in their order.
func (m *Model) Locales() []Locale {
	times := m.Takes(message.Date, message.Time)
	list := make([]Locale, 0, len(m.Cultures))
	for _, c := range m.Cultures {
		l := Locale{Tag: string(c.Tag), Symbols: c.Tag.Symbols()}
		var signs []string
		for _, code := range m.codes {
			if sign := c.Tag.CurrencySign(code); sign != code {
				signs = append(signs, code+"="+sign)
			}
		}
		l.Signs = strings.Join(signs, "|")
		if times {
			d := c.Tag.Dates()
			join := func(parts []string) string { return strings.Join(parts, "|") }
			l.Short, l.Long, l.ShortAlone, l.LongAlone = join(d.Short), join(d.Long), join(d.ShortAlone), join(d.LongAlone)
			l.ShortDaysAlone, l.LongDaysAlone, l.Parts = join(d.ShortDaysAlone), join(d.LongDaysAlone), join(d.Parts)
			l.ShortDays, l.LongDays, l.Periods, l.Date, l.Time = join(d.ShortDays), join(d.LongDays), join(d.Periods), join(d.Date), join(d.Time)
			var fields []string
			for name, pattern := range d.Fields {
				fields = append(fields, name+"="+pattern)
			}
			slices.Sort(fields)
			l.Fields = join(fields)
		}
		list = append(list, l)
	}
	return list
}

var skeleton = sync.OnceValue(func() *regexp.Regexp {
	return regexp.MustCompile(`, *(?:date|time), *::([A-Za-z]+) *\}`)
})

// gather lists what an expression finds in the texts, sorted.
func (m *Model) gather(mark string, expression *regexp.Regexp) []string {
	var list []string
	for _, c := range m.Cultures {
		for _, text := range c.Texts {
			if !strings.Contains(text, mark) {
				continue
			}
			for _, found := range expression.FindAllStringSubmatch(text, -1) {
				list = append(list, found[1])
			}
		}
	}
	slices.Sort(list)
	return slices.Compact(list)
}

// Patterns are, by culture, the patterns of the skeletons that the texts use,
// for platforms that do not know them: "yMMMd=d. MMM y". Each is spelled as the
// platform does.
func (m *Model) Patterns(spell func(pattern string) string) []string {
	var list []string
	for _, c := range m.Cultures {
		var parts []string
		for _, skeleton := range m.skeletons {
			parts = append(parts, skeleton+"="+spell(c.Tag.Dates().Pattern(skeleton)))
		}
		list = append(list, strings.Join(parts, "|"))
	}
	return list
}

// Digits are the currencies of the family's texts that have not two decimals:
// "JPY=0".
func (m *Model) Digits() string {
	var list []string
	for _, code := range m.codes {
		if digits := culture.CurrencyDigits(code); digits != 2 {
			list = append(list, code+"="+string(rune('0'+digits)))
		}
	}
	return strings.Join(list, "|")
}

// Takes reports whether a member has a parameter of one of these types.
func (m *Model) Takes(types ...message.Type) bool {
	for _, member := range m.Members {
		for _, p := range member.Parameters {
			if slices.Contains(types, p.Type) {
				return true
			}
		}
	}
	return false
}

// Bundle is the file that a culture's texts are loaded from while the
// application runs: its tag and direction, the source culture, and the texts by
// key as ICU messages.
type Bundle struct {
	Culture   culture.Tag       `json:"culture"`
	Direction string            `json:"direction"`
	Source    culture.Tag       `json:"source"`
	Texts     map[string]string `json:"texts"`
}

// bundles writes the bundle of each culture but the source, in folder bundles,
// and leaves their texts out of the model.
func (m *Model) bundles() map[string][]byte {
	files := map[string][]byte{}
	for i := range m.Cultures {
		c := &m.Cultures[i]
		if c.Tag == m.Source {
			continue
		}
		b := Bundle{Culture: c.Tag, Direction: c.Direction, Source: m.Source, Texts: map[string]string{}}
		for n, text := range c.Texts {
			if text != "" {
				b.Texts[m.Members[n].Key] = text
			}
		}
		var data bytes.Buffer
		encoder := json.NewEncoder(&data)
		encoder.SetEscapeHTML(false)
		encoder.SetIndent("", "  ")
		if err := encoder.Encode(b); err != nil {
			panic(err) // strings always marshal
		}
		files["bundles/"+string(c.Tag)+".bundle.json"] = data.Bytes()
		c.Texts = nil
	}
	return files
}

// Files spells the model in a language: files by name, relative to the folder
// of the sources.
func (l *Language) Files(m *Model) map[string][]byte {
	bundles := map[string][]byte{}
	if m.Bundles {
		bundles = m.bundles()
	}
	files := l.Generate(m)
	for name, data := range bundles {
		files[name] = data
	}
	return files
}

// Columns are lists by culture, in their order, in a language's literals.
type Columns struct {
	Tags, OwnNames   []string
	RightToLeft, Kin []string
}

// Columns writes the lists by culture.
func (m *Model) Columns(literal func(string) string) Columns {
	var c Columns
	for _, known := range m.Cultures {
		c.Tags, c.OwnNames = append(c.Tags, literal(string(known.Tag))), append(c.OwnNames, literal(known.OwnName))
		c.RightToLeft, c.Kin = append(c.RightToLeft, strconv.FormatBool(known.Direction == "rtl")), append(c.Kin, strconv.FormatBool(known.Kin))
	}
	return c
}

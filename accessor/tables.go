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

var datePattern = sync.OnceValue(func() *regexp.Regexp {
	return regexp.MustCompile(`, *(?:date|time), *((?:::)?[^'{}|=]+?) *\}`)
})

// gather lists what an expression finds in the texts, sorted.
func (m *Model) gather(mark string, expression *regexp.Regexp) []string {
	var list []string
	for _, c := range m.Catalogs {
		for _, text := range slices.Concat(c.Texts...) {
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

// Patterns are, by culture, the patterns of the skeletons and the patterns that the
// texts use, for platforms that do not know them: "yMMMd=d. MMM y". Each is spelled as
// the platform does.
func (m *Model) Patterns(spell func(pattern string) string) []string {
	var list []string
	for _, c := range m.Cultures {
		var parts []string
		for _, style := range m.patterns {
			if skeleton, ok := strings.CutPrefix(style, "::"); ok {
				parts = append(parts, skeleton+"="+spell(c.Tag.Dates().Pattern(skeleton)))
			} else if message.Style(style).Length() == "" {
				parts = append(parts, style+"="+spell(style))
			}
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
	return slices.ContainsFunc(m.Catalogs, func(c *Catalog) bool { return c.Takes(types...) })
}

// Takes reports whether a member has a parameter of one of these types.
func (c *Catalog) Takes(types ...message.Type) bool {
	return slices.ContainsFunc(c.Members, func(member Member) bool {
		return slices.ContainsFunc(member.Parameters, func(p Parameter) bool { return slices.Contains(types, p.Type) })
	})
}

// Tabled reports whether a style is written by tables of Locales: what is common, with
// patterns of digits alone.
func Tabled(p *message.Placeholder) bool {
	pattern, skeleton, custom := p.Style.Custom()
	if custom && !skeleton && p.Type.Number() {
		return digits().MatchString(pattern)
	}
	return Common(p)
}

var digits = sync.OnceValue(func() *regexp.Regexp { return regexp.MustCompile(`^[#,0]*[#0](\.[0#]+)?$`) })

// Bundle is the file that a culture's texts are loaded from while the
// application runs, whether the culture was compiled in or not.
type Bundle struct {
	Culture   culture.Tag `json:"culture"`
	Name      string      `json:"name"` // in the culture's own language
	Direction string      `json:"direction"`
	Source    culture.Tag `json:"source"`
	// Type is the type that reads the texts.
	Type string `json:"type"`
	// Syntax says in which syntax the placeholders are that stand in quotes in the
	// texts, which are ICU messages: "icu" where none does.
	Syntax string            `json:"syntax"`
	Texts  map[string]string `json:"texts"`
	// Plurals and Ordinals are the culture's plural rules by category, as UTS #35
	// writes them.
	Plurals  map[string]string `json:"plurals,omitempty"`
	Ordinals map[string]string `json:"ordinals,omitempty"`
}

// bundles writes the bundle of each catalog in each culture but the source, in folder
// bundles, and leaves their texts out of the model.
func (m *Model) bundles() map[string][]byte {
	files := map[string][]byte{}
	for _, catalog := range m.Catalogs {
		for i, c := range m.Cultures {
			if c.Tag == m.Source || catalog.Texts[i] == nil {
				continue
			}
			b := Bundle{Culture: c.Tag, Name: c.OwnName, Direction: c.Direction, Source: m.Source, Type: catalog.Type,
				Syntax: "icu", Texts: map[string]string{}, Plurals: ruled(c.Cardinal), Ordinals: ruled(c.Ordinal)}
			for n, text := range catalog.Texts[i] {
				if text != "" {
					b.Texts[catalog.Members[n].Key] = text
				}
				if m.language.Syntax != "" && strings.Contains(text, ", '") {
					b.Syntax = m.language.Syntax
				}
			}
			var data bytes.Buffer
			encoder := json.NewEncoder(&data)
			encoder.SetEscapeHTML(false)
			encoder.SetIndent("", "  ")
			if err := encoder.Encode(b); err != nil {
				panic(err) // strings always marshal
			}
			name := string(c.Tag)
			if catalog.Number > 0 {
				name = catalog.Type + "." + name
			}
			files["bundles/"+name+".bundle.json"] = data.Bytes()
			catalog.Texts[i] = nil
		}
	}
	return files
}

// ruled are plural rules by category.
func ruled(rules culture.Rules) map[string]string {
	texts := map[string]string{}
	for _, rule := range rules {
		texts[rule.Category] = rule.Condition.String()
	}
	return texts
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

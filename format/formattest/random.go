package formattest

import (
	"fmt"
	"math/rand/v2"
	"strings"

	"golang.org/x/tools/txtar"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/message"
)

// Family makes the catalogs of a random family of nasty texts, the source first: those
// of a seed and a number are always the same. Styles are spellings of placeholders by
// the format they are spelled in, as Styles reads them, and read reads a text of one.
func Family(seed, number, size int, styles map[string][]string, read func(format, text string) message.Message) []*catalog.Catalog {
	m := &maker{Rand: rand.New(rand.NewPCG(uint64(seed), uint64(number))), styles: styles, read: read}
	return m.family(size)
}

// Styles reads the styles of placeholders from an archive of tables.
func Styles(path string) (map[string][]string, error) {
	archive, err := txtar.ParseFile(path)
	if err != nil {
		return nil, err
	}
	styles := map[string][]string{}
	for _, file := range archive.Files {
		for line := range strings.Lines(string(file.Data)) {
			if line = strings.TrimSpace(line); strings.Count(line, "{")+strings.Count(line, "%") == 1 {
				styles[file.Name] = append(styles[file.Name], strings.ReplaceAll(line, `\u00a4`, "¤"))
			}
		}
	}
	return styles, nil
}

// maker makes random families of nasty texts.
type maker struct {
	*rand.Rand
	styles map[string][]string
	read   func(format, text string) message.Message
	// all says that a pattern has all arguments, as a source has those that its
	// translations have.
	all bool
}

func one[T any](m *maker, list ...T) T { return list[m.IntN(len(list))] }

var nastyTexts = strings.Split(`a|Deck|é|😀|العربية|ß| |  |\n|\t|"|'|''|\|\\|\n|<|>|&|&amp;|&lt;b>|<b|</|/>|<x>|]]>|<!--|-->|{|}|{{|}}|{x}|{0}|'{'|%|%%|100%|50% off|%d|%1|%n|$|${x}|:|:x|@|@x|?|#|#{|=|=1+1|;|//|/*|*/|--|_|&F|...|\u200f|…|`+"`|~|^|[|]|(|)|0|1", "|")

var unescaped = strings.NewReplacer(`\n`, "\n", `\t`, "\t", `\u200f`, "\u200f")

func (m *maker) text() message.Text {
	var out strings.Builder
	for range 1 + m.IntN(5) {
		out.WriteString(unescaped.Replace(one(m, nastyTexts...)))
		if m.IntN(2) == 0 {
			out.WriteString(one(m, "word", " ", "Fähre "))
		}
	}
	return message.Text(out.String())
}

// placeholder makes one of an argument, in a syntax of some platform or in none.
func (m *maker) placeholder(position int) *message.Placeholder {
	name := one(m, "", "", fmt.Sprintf("arg%d", position), []string{"name", "harbour", "price"}[position-1])
	switch m.IntN(4) {
	case 0:
		return &message.Placeholder{Name: name, Position: position}
	case 1:
		return &message.Placeholder{Name: name, Position: position, Type: message.Integer}
	}
	platform := one(m, "resx", "android", "strings", "json", "properties", "po")
	read := m.read(platform, "x "+one(m, m.styles[platform]...))
	for p := range read.Placeholders() {
		p.Name, p.Position = name, position
		if m.IntN(2) == 0 || p.Syntax != message.ICU {
			p.Spelling, p.Syntax = "", message.Nowhere
		}
		return p
	}
	return &message.Placeholder{Name: name, Position: position}
}

// pattern makes a pattern with some of the arguments.
func (m *maker) pattern(arguments []*message.Placeholder) message.Pattern {
	return m.some(arguments, m.all)
}

func (m *maker) some(arguments []*message.Placeholder, all bool) message.Pattern {
	var p message.Pattern
	bold := m.IntN(5) == 0
	if m.IntN(5) > 0 {
		p = p.Add(m.text())
	}
	if bold {
		p = p.Add(&message.Markup{Tag: "b"})
	}
	for _, i := range m.Perm(len(arguments)) {
		if all || m.IntN(5) > 0 || len(arguments) == 1 {
			again := *arguments[i]
			p = p.Add(&again)
			if m.IntN(3) > 0 {
				p = p.Add(m.text())
			}
		}
	}
	if bold {
		p = p.Add(message.Text("x")).Add(&message.Markup{Tag: "b", Role: message.Close})
	}
	if len(p) == 0 {
		p = p.Add(message.Text("empty"))
	}
	return p
}

// message makes a message that all cultures of an entry have.
func (m *maker) message(cultures []culture.Tag) []message.Message {
	kind, first := m.IntN(8), 1
	if kind < 2 { // the count is argument 1
		first = 2
	}
	var arguments []*message.Placeholder
	for i := range m.IntN(3) {
		arguments = append(arguments, m.placeholder(first+i))
	}
	out := make([]message.Message, len(cultures))
	for i, tag := range cultures {
		m.all = i == 0
		switch kind {
		case 0, 1: // a plural
			count := &message.Placeholder{Name: "count", Position: 1, Type: message.Integer}
			out[i] = m.choice(message.Plural, count, tag, arguments)
		case 2:
			if len(arguments) > 0 {
				out[i] = message.Message{Pattern: m.pattern(arguments)}
			} else {
				vehicle := &message.Placeholder{Name: "vehicle", Position: 1}
				choice := &message.Choice{Selectors: []message.Selector{{Argument: *vehicle, Kind: message.Select}}}
				for _, key := range []string{"car", "bike", "other"} {
					choice.Variants = append(choice.Variants, message.Variant{Keys: []string{key}, Pattern: m.pattern(nil)})
				}
				out[i].Choice = choice
			}
		case 3:
			if len(arguments) > 0 {
				out[i] = message.Message{Pattern: m.pattern(arguments)}
				break
			}
			out[i] = m.choice(message.Ordinal, &message.Placeholder{Name: "place", Position: 1, Type: message.Integer}, tag, nil)
		default:
			out[i] = message.Message{Pattern: m.pattern(arguments)}
		}
	}
	return out
}

func (m *maker) choice(kind message.Kind, count *message.Placeholder, tag culture.Tag, arguments []*message.Placeholder) message.Message {
	rules := tag.Cardinal()
	if kind == message.Ordinal {
		rules = tag.Ordinal()
	}
	choice := &message.Choice{Selectors: []message.Selector{{Argument: *count, Kind: kind}}}
	keys := rules.Categories()
	if kind == message.Plural && m.IntN(4) == 0 {
		keys = append([]string{"=0"}, keys...)
	}
	for _, key := range keys {
		p := m.pattern(arguments)
		if m.IntN(4) > 0 {
			again := *count
			p = p.Add(message.Text(" ")).Add(&again)
		}
		choice.Variants = append(choice.Variants, message.Variant{Keys: []string{key}, Pattern: p})
	}
	return message.Message{Choice: choice}
}

func (m *maker) key(n int) string {
	return one(m, fmt.Sprintf("key%d", n), fmt.Sprintf("key%d", n), fmt.Sprintf("menu.file.k%d", n), fmt.Sprintf("a b%d", n), fmt.Sprintf("a-b%d", n),
		fmt.Sprintf("a_b%d", n), fmt.Sprintf("Key%d!", n), fmt.Sprintf("@k%d", n), fmt.Sprintf("%d", n), fmt.Sprintf("ключ%d", n), fmt.Sprintf("k%d_one", n),
		fmt.Sprintf(`q"%d`, n), fmt.Sprintf("<k%d>", n), fmt.Sprintf("k=%d", n), fmt.Sprintf("k:%d", n), fmt.Sprintf("#k%d", n), fmt.Sprintf(" k%d", n), fmt.Sprintf("Ctx::k%d", n),
		one(m, "class", "new", "for", "int")+strings.Repeat("_", n%3))
}

// family makes catalogs of one table, the source first.
func (m *maker) family(size int) []*catalog.Catalog {
	cultures := []culture.Tag{"en", one[culture.Tag](m, "ar", "pl", "de", "ja", "fr")}
	list := []*catalog.Catalog{{Culture: cultures[0]}, {Culture: cultures[1]}}
	for n := range size {
		e := catalog.Entry{Key: m.key(n), Offset: -1}
		if list[0].Find(e.Key) != nil {
			continue
		}
		if m.IntN(3) == 0 {
			e.Note = string(m.text())
		}
		if m.IntN(9) == 0 {
			e.Limit = 10 + m.IntN(40)
		}
		e.Fixed = m.IntN(15) == 0
		messages := m.message(cultures)
		for i, c := range list {
			if i > 0 && (e.Fixed || m.IntN(10) == 0) {
				continue
			}
			own := e
			own.Message = messages[i]
			if i > 0 {
				own.State = one(m, catalog.Unstated, catalog.Draft, catalog.Moved, catalog.Done)
				own.Note = ""
			}
			c.Add(own)
		}
	}
	Settle(list)
	return list
}

// Settle completes catalogs, the first of which is the source.
func Settle(list []*catalog.Catalog) {
	for i, c := range list {
		if i == 0 {
			c.Complete(nil)
		} else {
			c.Complete(list[0])
		}
	}
}

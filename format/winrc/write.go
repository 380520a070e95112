package winrc

import (
	"fmt"
	"slices"
	"strings"

	"zelvik/catalog"
	"zelvik/format"
	"zelvik/internal/fast"
	"zelvik/message"
	"zelvik/message/printf"
)

// writer writes tables and tells what it could not say.
type writer struct {
	format.Teller
	newline string
}

// join writes a table for each culture, in UTF-8 as the first line says.
// Names of texts are those of resource.h, which the program has.
func join(catalogs []*catalog.Catalog) ([]byte, []catalog.Loss) {
	w := &writer{newline: "\n"}
	out := []byte("#pragma code_page(65001)\n#include \"resource.h\"\n")
	taken := newNames(len(catalogs[0].Entries))
	for _, c := range catalogs {
		w.Catalog, w.Entry = c, nil
		language, sub, exact, ok := numbersOf(c.Culture)
		if !ok && c.Culture != "" {
			w.Lose("culture", "the culture "+string(c.Culture)+", for which Windows has no number", "nothing; its texts are left out")
			continue
		}
		if !exact && c.Culture != "" {
			w.Lose("culture", "that the texts are for "+string(c.Culture), "the language without its region")
		}
		out = append(fast.Make[byte](len(out)+64+len(c.Entries)*80), out...)
		out = fmt.Appendf(out, "\nLANGUAGE %d, %d\n\nSTRINGTABLE\nBEGIN\n", language, sub)
		names := make([]string, len(c.Entries))
		for i := range c.Entries {
			if e := &c.Entries[i]; e.Product == "" {
				names[i] = taken.of(e.Key)
			}
		}
		second := &writer{newline: w.newline}
		second.Catalog = c
		out, _ = format.Append(out, len(c.Entries), format.Options{}, w, second, func(w *writer, out []byte, from, to int) ([]byte, bool) {
			for i := from; i < to; i++ {
				if e := &c.Entries[i]; w.Unheld(e, "resource scripts", holds) {
					w.named(e.Key, names[i])
					out = append(w.entry(out, c, e, names[i], "    "), w.newline...)
				}
			}
			return out, true
		})
		w.Losses = append(w.Losses, second.Losses...)
		out = append(out, "END\n"...)
	}
	return out, w.Losses
}

// entry writes the comment and line of an entry, without its line end.
func (w *writer) entry(out []byte, c *catalog.Catalog, e *catalog.Entry, name, indent string) []byte {
	if e.Note != "" {
		for line := range strings.SplitSeq(w.Comment(e.Note), "\n") {
			out = append(out, strings.TrimRight(indent+"// "+w.line(line), " ")+w.newline...)
		}
	}
	out = append(append(append(out, indent...), name...), ' ')
	return appendQuoted(out, w.text(w.Resolved(c, e).Message))
}

// line keeps a backslash at the end of a comment's line from taking in the next
// one.
func (w *writer) line(line string) string {
	if line = strings.TrimRight(line, " "); strings.HasSuffix(line, `\`) {
		w.Lose("note", "the backslash at the end of a line of the note", "a full stop after it")
		return line + "."
	}
	return line
}

// name returns the key as a name in C, or as the number that it is.
func (w *writer) name(key string) string {
	name := newNames(0).of(key)
	w.named(key, name)
	return name
}

// named tells where a key became another name.
func (w *writer) named(key, name string) {
	if name != key {
		w.Lose("key", fmt.Sprintf("the key %q, which is no name in C", key), "it is "+name)
	}
}

// names are the names that keys have taken.
type names struct {
	numbers *catalog.Numbers
	list    []taken
}

type taken struct{ name, key string }

func newNames(size int) *names {
	return &names{catalog.NewNumbers(size), make([]taken, 0, size)}
}

// take takes a name for a key; it is false where another key has it.
func (n *names) take(name, key string) bool {
	holder := n.numbers.Add(len(n.list), catalog.Hash(name, ""), func(i int) bool { return n.list[i].name == name })
	if holder < 0 {
		n.list = append(n.list, taken{name, key})
		return true
	}
	return n.list[holder].key == key
}

// of returns a key's name, and takes it.
func (n *names) of(key string) string {
	name := key
	if !plainName(key) {
		name = strings.Map(func(r rune) rune {
			if nameRune(r) {
				return r
			}
			return '_'
		}, key)
		if numberOf(key) < 0 && (name == "" || name[0] <= '9') {
			name = "IDS_" + name
		}
	}
	switch {
	case len(name) > len("STRINGTABLE"):
	case slices.Contains([]string{"BEGIN", "END", "STRINGTABLE", "LANGUAGE", "L"}, strings.ToUpper(name)):
		name = "IDS_" + name
	}
	for i := 2; !n.take(name, key); i++ {
		name = strings.TrimRight(name, "0123456789") + fmt.Sprint(i)
	}
	return name
}

func nameRune(r rune) bool {
	return r == '_' || r >= '0' && r <= '9' || r|0x20 >= 'a' && r|0x20 <= 'z'
}

// plainName reports whether a key is a name in C as it stands.
func plainName(key string) bool {
	for i := range len(key) {
		if !nameRune(rune(key[i])) {
			return false
		}
	}
	return key != "" && key[0] > '9'
}

// value spells a message as a string in quotes.
func (w *writer) value(m message.Message) string { return string(appendQuoted(nil, w.text(m))) }

// text spells a message.
func (w *writer) text(m message.Message) string {
	if m.Choice != nil {
		s := m.Choice.Selectors[0]
		w.Lose(s.Kind.String(), "the variants over {"+s.Argument.Name+"}", "the text of the variant other")
	}
	return w.Told(printf.Windows.Write(m.Main(), printf.Numbered(m), false))
}

// appendQuoted writes a string in double quotes, which are doubled inside.
func appendQuoted(out []byte, text string) []byte {
	return format.AppendQuoted(out, text, escapes, `\x%04x`)
}

var escapes = map[byte]string{'"': `""`, '\\': `\\`, '\n': `\n`, '\t': `\t`, '\r': `\r`, '\b': `\a`, 0x7F: "\x7f"}

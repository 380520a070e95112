package winrc

import (
	"cmp"
	"errors"
	"fmt"
	"slices"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/format"
	"zelvik/message"
	"zelvik/message/printf"
	"zelvik/pages"
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
		out = append(pages.Make[byte](len(out)+64+len(c.Entries)*80), out...)
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
		w.Lose("note", "the backslash at the end of a line of the note", "a full stop behind it")
		return line + "."
	}
	return line
}

// name gives the key as a name in C, or as the number that it is.
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

// of gives a key's name, and takes it.
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
	return format.AppendQuoted(out, text, func(out []byte, c byte) []byte {
		switch c {
		case '"':
			return append(out, `""`...)
		case '\\':
			return append(out, `\\`...)
		case '\n':
			return append(out, `\n`...)
		case '\t':
			return append(out, `\t`...)
		case 0x7F:
			return append(out, c)
		case '\r':
			return append(out, `\r`...)
		case '\b':
			return append(out, `\a`...)
		}
		return fmt.Appendf(out, `\x%04x`, c)
	})
}

// Edit makes changes; see format.Document.
func (d *document) Edit(changes []format.Change) ([]byte, []catalog.Loss, error) {
	e := &editor{document: d, Editor: format.NewEditor(d.Text())}
	e.w = writer{newline: e.Newline}
	if err := e.Make(changes, e.change); err != nil {
		return nil, nil, err
	}
	if err := e.place(); err != nil {
		return nil, nil, err
	}
	out, err := d.text.Patch(e.Replacements)
	return out, e.w.Losses, err
}

type editor struct {
	*document
	format.Editor
	w      writer
	copies []*copied
}

// copied is a menu or dialog that a culture gets as its own, with its geometry.
type copied struct {
	block
	to   culture.Tag
	with []format.Replacement // in the block's text
}

// caption puts a text of a menu or dialog into the culture's own copy of it; it
// is false where the key is none of such a text.
func (e *editor) caption(c format.Change, tag culture.Tag) bool {
	for _, source := range e.catalogs {
		s, ok := e.slot(source.Culture, c.Key)
		if !ok || !s.fixed {
			continue
		}
		for _, b := range e.blocks {
			if s.key.from < b.from || s.key.from >= b.to {
				continue
			}
			i := slices.IndexFunc(e.copies, func(have *copied) bool { return have.block == b && have.to == tag })
			if i < 0 {
				i = len(e.copies)
				e.copies = append(e.copies, &copied{b, tag, nil})
			}
			from := s.value.from
			if e.Src[from] != '"' { // L"..."
				from++
			}
			e.copies[i].with = append(e.copies[i].with, format.Replacement{Start: from - b.from, End: s.value.to - b.from, Text: e.w.value(*c.Message)})
			return true
		}
	}
	return false
}

// place writes the copies, each behind what its culture has.
func (e *editor) place() error {
	texts, ends := map[culture.Tag]string{}, map[culture.Tag]int{}
	var order []culture.Tag
	for _, c := range e.copies {
		text, err := format.Patch([]byte(e.Src[c.from:c.block.to]), c.with)
		if err != nil {
			return err
		}
		if _, known := texts[c.to]; !known {
			order = append(order, c.to)
		}
		texts[c.to] += e.Newline + string(text) + e.Newline
	}
	for _, t := range e.tables {
		ends[t.tag] = max(ends[t.tag], t.end+len("END"))
		if strings.HasPrefix(e.Src[t.end:], "}") {
			ends[t.tag] = t.end + 1
		}
	}
	for _, b := range e.blocks {
		ends[b.tag] = max(ends[b.tag], b.to)
	}
	for _, tag := range order {
		if end := ends[tag]; end > 0 {
			e.Replace(end, end, e.Newline+strings.TrimSuffix(texts[tag], e.Newline))
		} else if err := e.section(tag, strings.TrimPrefix(texts[tag], e.Newline)); err != nil {
			return err
		}
	}
	return nil
}

var errControl = errors.New("it belongs to a menu or dialog; edit that in the file")

func (e *editor) change(c format.Change) error {
	tag := cmp.Or(c.Culture, e.catalogs[0].Culture)
	s, ok := e.slot(tag, c.Key)
	e.w.Entry = &catalog.Entry{Key: c.Key, Offset: s.key.from}
	switch {
	case !ok && c.Op == format.Set:
		return e.insert(c, tag)
	case !ok:
		return format.ErrNoEntry
	case s.fixed && c.Op != format.Set:
		return errControl
	case c.Op == format.Remove:
		from := s.key.from
		if s.noteFrom >= 0 {
			from = s.noteFrom
		}
		e.Remove(from, s.value.to)
		return nil
	case c.Op == format.Rename:
		e.Replace(s.key.from, s.key.to, e.w.name(c.NewKey))
		return nil
	}
	if c.Message != nil {
		text := e.w.value(*c.Message)
		from := s.value.from
		if e.Src[from] != '"' { // L"..."
			from++
		}
		e.Splice(from, s.value.to, text, func(raw string) string {
			p := &parser{src: raw, Reader: format.NewReader(raw)}
			text := ""
			for p.next() {
				if p.kind != str {
					return raw
				}
				text += p.text()
			}
			return string(appendQuoted(nil, text))
		})
	}
	if c.Note != nil {
		e.note(s, *c.Note)
	}
	return nil
}

// note changes, adds or removes the comment before an entry.
func (e *editor) note(s slot, note string) {
	if s.fixed {
		e.w.Lose("note", "the note", "none; controls have no notes")
		return
	}
	indent := e.Indent(s.key.from)
	var lines []string
	for line := range strings.SplitSeq(e.w.Comment(note), "\n") {
		lines = append(lines, strings.TrimRight("// "+e.w.line(line), " "))
	}
	text := strings.Join(lines, e.Newline+indent)
	switch {
	case s.noteFrom >= 0 && note == "":
		e.Remove(s.noteFrom, s.noteTo)
	case s.noteFrom >= 0:
		e.Replace(s.noteFrom, s.noteTo, text)
	case note != "" && strings.TrimSpace(e.Src[strings.LastIndexByte(e.Src[:s.key.from], '\n')+1:s.key.from]) == "":
		e.Replace(s.key.from, s.key.from, text+e.Newline+indent)
	case note != "":
		e.Replace(s.key.from, s.key.from, e.Newline+indent+text+e.Newline+indent)
	}
}

// insert adds a text behind its neighbour, or at the end of the culture's last
// table; a culture without a table gets one.
func (e *editor) insert(c format.Change, tag culture.Tag) error {
	if c.Message == nil {
		return format.ErrNoEntry
	}
	entry := catalog.Entry{Key: c.Key, Message: *c.Message}
	if c.Note != nil {
		entry.Note = *c.Note
	}
	if e.caption(c, tag) {
		return nil
	}
	name := e.w.name(c.Key)
	if after, ok := e.slot(tag, c.After); ok && !after.fixed {
		indent := e.Indent(after.key.from)
		text := string(e.w.entry(nil, nil, &entry, name, indent))
		e.Replace(after.value.to, after.value.to, e.Newline+text)
		return nil
	}
	for i := len(e.tables) - 1; i >= 0; i-- {
		if t := e.tables[i]; t.tag == tag {
			at, indent := t.to, "    "
			if c.After == "" {
				at = t.begin
			}
			text := string(e.w.entry(nil, nil, &entry, name, indent))
			e.Replace(at, at, e.Newline+text)
			if t.entries == 0 || c.After == "" {
				if rest := strings.TrimLeft(e.Src[at:], " \t\r"); !strings.HasPrefix(rest, "\n") && rest != "" {
					e.Replace(at, at, e.Newline+indent)
				}
			}
			return nil
		}
	}
	text := string(e.w.entry(nil, nil, &entry, name, "    "))
	return e.section(tag, "STRINGTABLE"+e.Newline+"BEGIN"+e.Newline+text+e.Newline+"END"+e.Newline)
}

// section adds statements at the end of the file, under a culture's LANGUAGE.
func (e *editor) section(tag culture.Tag, text string) error {
	language, sub, exact, ok := numbersOf(tag)
	for _, c := range e.catalogs {
		if l, s, _, _ := numbersOf(c.Culture); !exact && c.Culture != "" && l == language && s == sub {
			ok = false // its texts would be those of another culture
		}
	}
	if !ok && tag != "" {
		return errors.New("Windows has no number for the culture " + string(tag))
	}
	text = fmt.Sprintf("%sLANGUAGE %d, %d%s%s", e.Newline, language, sub, e.Newline, text)
	if e.Src != "" && !strings.HasSuffix(e.Src, "\n") {
		text = e.Newline + text
	}
	e.Replace(len(e.Src), len(e.Src), text)
	return nil
}

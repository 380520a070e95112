package po

import (
	"fmt"
	"slices"
	"strings"

	"zelvik/catalog"
	"zelvik/format"
	"zelvik/format/numbered"
	"zelvik/internal/fast"
	"zelvik/message"
	"zelvik/message/printf"
)

// writer writes entries and tells what it could not say.
type writer struct {
	format.Teller
	newline string
	// width is where long texts are wrapped, 0 for nowhere.
	width int
	forms numbered.Forms
	// spell spells a pattern.
	spell spelling
	// target is the translation's catalog, nil in a template.
	target *catalog.Catalog
}

// join writes a template of one catalog, or a source and its translation.
func join(catalogs []*catalog.Catalog) ([]byte, []catalog.Loss) {
	source := catalogs[0]
	w := &writer{newline: "\n", spell: printf.C.Write}
	pluralForms := ""
	if len(catalogs) > 1 {
		w.target = catalogs[1]
		w.forms, pluralForms = numbered.Own(w.target.Culture), header(w.target.Culture)
	}
	out := fast.Make[byte](256 + len(source.Entries)*128)
	keyed := isKeyed(catalogs)
	out = w.header(out, pluralForms, keyed)
	second := *w
	out, _ = format.Append(out, len(source.Entries), format.Options{}, w, &second, func(w *writer, out []byte, from, to int) ([]byte, bool) {
		for i := from; i < to; i++ {
			out = w.entry(out, source, i, keyed)
		}
		return out, true
	})
	w.Losses = append(w.Losses, second.Losses...)
	if w.target != nil {
		w.Strays(source, w.target)
	}
	return out, w.Losses
}

// isKeyed reports whether any key is something else than the text it stands
// for, so that contexts have to hold the keys.
func isKeyed(catalogs []*catalog.Catalog) bool {
	source := catalogs[0]
	for i := range source.Entries {
		e := &source.Entries[i]
		text, _ := printf.C.Write(first(e.Message), printf.Numbered(e.Message), e.Message.Choice != nil && shown(e.Message))
		if plain := e.Message.Pattern.String(); e.Message.Choice == nil && e.Key == plain {
			continue
		}
		if e.Key != text && !strings.HasSuffix(e.Key, "|"+text) {
			return true
		}
	}
	return false
}

// first returns the pattern that a singular is written from.
func first(m message.Message) message.Pattern {
	if m.Choice == nil {
		return m.Pattern
	}
	for _, key := range []string{"one", "=1"} {
		for _, v := range m.Choice.Variants {
			if v.Keys[0] == key && !slices.ContainsFunc(v.Keys[1:], func(k string) bool { return k != message.Default }) {
				return v.Pattern
			}
		}
	}
	return m.Main()
}

// header writes the entry with the empty text.
func (w *writer) header(out []byte, pluralForms string, keyed bool) []byte {
	var lines []string
	if w.target != nil {
		lines = append(lines, "Language: "+strings.ReplaceAll(string(w.target.Culture), "-", "_"))
	}
	lines = append(lines, "MIME-Version: 1.0", "Content-Type: text/plain; charset=UTF-8", "Content-Transfer-Encoding: 8bit")
	if pluralForms != "" {
		lines = append(lines, "Plural-Forms: "+pluralForms)
	}
	if keyed {
		lines = append(lines, keysHeader+": msgctxt")
	}
	out = append(out, "msgid \"\"\nmsgstr \"\"\n"...)
	for _, line := range lines {
		out = append(appendQuoted(out, line+"\n"), '\n')
	}
	return out
}

// entry writes entry number i of the source with the blank line before it.
func (w *writer) entry(out []byte, source *catalog.Catalog, i int, keyed bool) []byte {
	e := &source.Entries[i]
	w.Catalog = source
	if !w.Unheld(e, ".po files", holds) {
		return out
	}
	t := w.target.Near(i, e.ID())
	resolved := w.Resolved(source, e)
	id, plural := w.source(resolved.Message)
	out = append(out, w.newline...)
	if t != nil && t.Note != "" && t.Note != e.Note {
		out = w.comment(out, "# ", t.Note)
	}
	if e.Note != "" {
		out = w.comment(out, "#. ", e.Note)
	}
	flags := w.flags(id, plural, shown(resolved.Message), t)
	if len(flags) > 0 {
		out = append(append(out, "#, "+strings.Join(flags, ", ")...), w.newline...)
	}
	read := syntaxOf(flags, id, plural)
	w.misread(read, resolved.Message, id, plural)
	if context, ok := contextOf(e.Key, id, keyed); ok {
		out = w.field(out, "msgctxt", context)
	}
	out = w.field(out, "msgid", id)
	if plural == "" {
		text := ""
		if t != nil {
			w.Catalog = w.target
			w.Marked(t)
			text = w.ended(id, w.text(w.Resolved(w.target, t).Message))
			w.misread(read, t.Message, text)
		}
		return w.field(out, "msgstr", text)
	}
	plural = w.ended(id, plural)
	out = w.field(out, "msgid_plural", plural)
	texts := make([]string, max(w.forms.Count, 2))
	if w.target != nil {
		texts = texts[:w.forms.Count]
	}
	if t != nil {
		w.Catalog = w.target
		w.Marked(t)
		texts = w.fill(w.Resolved(w.target, t).Message)
		w.misread(syntaxOf(flags, id, plural, texts...), t.Message, texts...)
	}
	for i, text := range texts {
		out = w.field(out, fmt.Sprintf("msgstr[%d]", i), w.ended(id, text))
	}
	return out
}

// ended gives a text the line ends at its beginning and its end that msgid has: msgfmt
// refuses a file in which they differ.
func (w *writer) ended(id, text string) string {
	if text == "" || id == "" {
		return text
	}
	if strings.HasPrefix(id, "\n") != strings.HasPrefix(text, "\n") {
		w.Lose("character", "what line end it begins with", "that of the source, as msgfmt refuses others")
		if text = strings.TrimLeft(text, "\n"); strings.HasPrefix(id, "\n") {
			text = "\n" + text
		}
	}
	if strings.HasSuffix(id, "\n") != strings.HasSuffix(text, "\n") {
		w.Lose("character", "what line end it ends with", "that of the source, as msgfmt refuses others")
		if text = strings.TrimRight(text, "\n"); strings.HasSuffix(id, "\n") {
			text += "\n"
		}
	}
	return text
}

// contextOf returns the context that makes a key of a text.
func contextOf(key, id string, keyed bool) (string, bool) {
	switch {
	case keyed:
		return key, true
	case key == id:
		return "", false
	}
	return strings.CutSuffix(key, "|"+id)
}

// source returns the singular and plural of a source text; the plural is empty
// where there is none.
func (w *writer) source(m message.Message) (id, plural string) {
	if m.Choice == nil || m.Choice.Selectors[0].Kind != message.Plural {
		return w.text(m), ""
	}
	forced := shown(m)
	w.reduced(m)
	for _, v := range m.Choice.Variants {
		if key := v.Keys[0]; key != "one" && key != message.Default && !strings.HasPrefix(key, "=") {
			w.Lose("plural", "the form "+key+" of the source", "msgid_plural, as msgid holds the form one alone")
		}
	}
	id = w.spelled(first(m), m, forced)
	plural = w.spelled(m.Main(), m, forced)
	if plural == "" {
		plural = id
	}
	return id, plural
}

// shown reports whether any form shows a placeholder, so that all are format
// strings.
func shown(m message.Message) bool {
	for _, pattern := range m.Patterns() {
		for _, part := range pattern {
			if _, ok := part.(*message.Placeholder); ok {
				return true
			}
		}
	}
	return false
}

// text spells a message without plurals.
func (w *writer) text(m message.Message) string {
	if m.Choice != nil {
		s := m.Choice.Selectors[0]
		w.Lose(s.Kind.String(), "the variants over {"+s.Argument.Name+"}", "the text of the variant other")
	}
	return w.spelled(m.Main(), m, false)
}

// spelled spells one pattern of a message. What signs are no placeholder the
// flags say, or misread tells.
func (w *writer) spelled(p message.Pattern, m message.Message, forced bool) string {
	text, losses := w.spell(p, printf.Numbered(m), forced)
	return w.Told(text, slices.DeleteFunc(losses, isEscape))
}

func isEscape(l message.Loss) bool { return l.Kind == "escape" }

// reduced tells what of a choice has no place among numbered forms.
func (w *writer) reduced(m message.Message) {
	w.Told("", numbered.Reduced(m))
	s := m.Choice.Selectors[0]
	shown := false
	for _, pattern := range m.Patterns() {
		for _, part := range pattern {
			if p, ok := part.(*message.Placeholder); ok && p.Same(&s.Argument) {
				shown = true
			}
		}
	}
	switch {
	case !shown && s.Argument.Name != "count" && s.Argument.Name != "":
		w.Lose("name", "the name of the count {"+s.Argument.Name+"}, which is not shown", "count")
	case !m.CountsFirst():
		w.Lose("position", "that {"+s.Argument.Name+"} is counted", "what the forms show first")
	}
}

// fill spells a translation into the forms.
func (w *writer) fill(m message.Message) []string {
	forced := m.Choice != nil && m.Choice.Selectors[0].Kind == message.Plural && shown(m)
	texts, losses := w.forms.Fill(m, func(p message.Pattern) (string, []message.Loss) {
		return w.spell(p, printf.Numbered(m), forced)
	})
	w.Told("", slices.DeleteFunc(losses, isEscape))
	return texts
}

// misread reports a translation that would not be read as it is meant, such as
// one with a percent sign where the source has no placeholder.
func (w *writer) misread(s *syntax, m message.Message, texts ...string) {
	for _, text := range texts {
		if strings.IndexByte(text, '{') < 0 && strings.IndexByte(text, '%') < 0 {
			continue
		}
		read, _ := s.read(text)
		if shows := read.Pattern.Shown(); read.Choice == nil && !slices.ContainsFunc(slices.Collect(m.Shown()), func(meant string) bool { return meant == shows }) {
			w.Lose("escape", "which signs in the text are a placeholder, as the source has other ones", "they read as characters, or as a placeholder")
			return
		}
	}
}

// flags returns the flags of an entry.
func (w *writer) flags(id, plural string, formatted bool, t *catalog.Entry) []string {
	var flags []string
	if t != nil && (t.State == catalog.Draft || t.State == catalog.Moved) {
		flags = append(flags, "fuzzy")
		if t.State == catalog.Moved {
			w.Entry = t
			w.Lose("state", "that the source changed after the translation", "fuzzy")
		}
	}
	if formatted && (printf.C.Formatted(id) || printf.C.Formatted(plural)) {
		flags = append(flags, "c-format")
	} else if !formatted && (misread(id) || misread(plural)) {
		flags = append(flags, "no-c-format")
	}
	return flags
}

func (w *writer) comment(out []byte, mark, note string) []byte {
	for line := range strings.SplitSeq(w.Comment(note), "\n") {
		out = append(append(out, strings.TrimRight(mark+line, " ")...), w.newline...)
	}
	return out
}

// field writes a keyword and its text: on one line, or a line of the file for
// each of the text, as gettext's own tools do.
func (w *writer) field(out []byte, word, text string) []byte {
	out = append(append(out, word...), ' ')
	out = w.strings(out, text, len(word)+1)
	return append(out, w.newline...)
}

func (w *writer) strings(out []byte, text string, column int) []byte {
	at := strings.IndexByte(text, '\n')
	long := w.width > 0 && len([]rune(text))+column+2 > w.width
	if (at < 0 || at == len(text)-1) && !long {
		return appendQuoted(out, text)
	}
	out = append(out, `""`...)
	for line := range strings.SplitAfterSeq(text, "\n") {
		if line == "" {
			continue
		}
		for _, piece := range w.wrap(line) {
			out = appendQuoted(append(out, w.newline...), piece)
		}
	}
	return out
}

// wrap parts a line after spaces so that the pieces fit.
func (w *writer) wrap(line string) []string {
	if w.width == 0 || len([]rune(line))+2 <= w.width {
		return []string{line}
	}
	var pieces []string
	start, size, space := 0, 0, -1
	for i, r := range line {
		if size+2 > w.width-2 && space > start {
			pieces = append(pieces, line[start:space])
			size = len([]rune(line[space:i]))
			start = space
		}
		size++
		if r == ' ' {
			space = i + 1
		}
	}
	return append(pieces, line[start:])
}

// appendQuoted writes a string in double quotes with C's escapes.
func appendQuoted(out []byte, text string) []byte {
	return format.AppendQuoted(out, text, escapes, `\%03o`)
}

var escapes = map[byte]string{'"': `\"`, '\\': `\\`, '\n': `\n`, '\t': `\t`, '\r': `\r`}

package properties

import (
	"fmt"
	"strings"
	"unicode/utf16"
	"unicode/utf8"

	"zelvik/catalog"
	"zelvik/format"
	"zelvik/internal/fast"
	"zelvik/message/icu"
	"zelvik/message/loose"
	"zelvik/message/printf"
)

// writer writes entries and tells what it could not say.
type writer struct {
	format.Teller
	escaped bool
	newline string
	// sign parts key and value.
	sign string
	// printf says that the file's texts are format strings.
	printf bool
}

// compose writes a file in ASCII, which every version of Java reads alike.
func compose(c *catalog.Catalog, o format.Options) ([]byte, []catalog.Loss) {
	first, second := newWriter(c), newWriter(c)
	out, on := format.Append(fast.Make[byte](o.Room(len(c.Entries)*96)), len(c.Entries), o, first, second, func(w *writer, out []byte, from, to int) ([]byte, bool) {
		for i := from; i < to; i++ {
			var on bool
			if out, on = o.Flush(out); !on {
				return nil, false
			}
			if e := &c.Entries[i]; w.Unheld(e, ".properties files", holds) {
				out = w.entry(out, w.Resolved(c, e))
				out = append(out, w.newline...)
			}
		}
		return out, true
	})
	if !on {
		return nil, nil
	}
	return out, append(first.Losses, second.Losses...)
}

func newWriter(c *catalog.Catalog) *writer {
	w := &writer{escaped: true, newline: "\n", sign: "="}
	w.Catalog = c
	return w
}

// entry writes the comment and the line of an entry, without its line end.
func (w *writer) entry(out []byte, e *catalog.Entry) []byte {
	if e.Note != "" {
		out = append(out, w.note(e.Note)...)
		out = append(out, w.newline...)
	}
	out = w.escape(out, e.Key, true)
	out = append(out, w.sign...)
	return w.behind(out, w.sign, w.value(e))
}

// after writes a value after what parts it from its key; where that is white
// space alone, a sign that the value begins with would be taken for it.
func (w *writer) behind(out []byte, sign, value string) []byte {
	if value != "" && (value[0] == '=' || value[0] == ':') && !strings.ContainsAny(sign, "=:") {
		out = append(out, '\\')
	}
	return w.escape(out, value, false)
}

// note writes a comment, a line a line.
func (w *writer) note(note string) string {
	text := "# " + strings.ReplaceAll(w.Comment(note), "\n", w.newline+"# ")
	if !w.escaped {
		return text
	}
	var out []byte
	for _, r := range text { // comments have no escapes, but people read these
		out = w.char(out, r)
	}
	return string(out)
}

// value spells the message: a pattern where something in it varies.
func (w *writer) value(e *catalog.Entry) string {
	m := e.Message
	if text, ok := m.Plain("{%'"); ok {
		return text
	}
	if w.printf && m.Choice == nil {
		return w.Told(printf.Java.Write(m.Pattern, printf.Numbered(m), false))
	}
	if m.Choice == nil && expressive(m.Pattern) {
		return w.Told(loose.Single.Write(m))
	}
	if m.Choice == nil && !m.HasPlaceholders() {
		text := m.Pattern.String()
		if again, _ := read(text); again.Choice != nil || again.Pattern.Shown() != text {
			w.Lose("escape", "that the braces or percent signs in the text are no placeholder", "they read as one")
		}
		return text
	}
	text := w.Told(icu.Writer{Numbered: true, Java: true}.Write(m))
	for p := range m.Placeholders() {
		if !p.MadeName() && p.Position > 0 && !(p.Name == "count" && m.Choice != nil) {
			w.Lose("name", "the name of the placeholder {"+p.Name+"}", "its position; the ledger of a family keeps the name")
		}
	}
	return text
}

// escape writes a key or a value.
func (w *writer) escape(out []byte, text string, key bool) []byte {
	special := &inValue
	if key {
		special = &inKey
	}
	for i := 0; i < len(text); {
		from := i
		for i < len(text) && !special[text[i]] && (i > 0 || text[0] != ' ' && !key) {
			i++
		}
		if out = append(out, text[from:i]...); i == len(text) {
			break
		}
		r, size := utf8.DecodeRuneInString(text[i:])
		switch {
		case r == '\\':
			out = append(out, `\\`...)
		case r == '\n':
			out = append(out, `\n`...)
		case r == '\r':
			out = append(out, `\r`...)
		case r == '\t':
			out = append(out, `\t`...)
		case r == '\f':
			out = append(out, `\f`...)
		case r == ' ' && (key || i == 0), key && (r == '=' || r == ':'), key && i == 0 && (r == '#' || r == '!'):
			out = append(out, '\\', byte(r))
		case r < ' ' || r == 0x7F || r == 0x85 || r == 0x2028:
			out = fmt.Appendf(out, `\u%04X`, r)
		default:
			out = w.char(out, r)
		}
		i += size
	}
	return out
}

// inValue and inKey are the bytes that do not always stand for themselves.
var inValue, inKey = func() (value, key [256]bool) {
	for c := range 256 {
		value[c] = c < ' ' || c >= 0x7F || c == '\\'
		key[c] = value[c] || c == ' ' || c == '=' || c == ':'
	}
	return value, key
}()

func (w *writer) char(out []byte, r rune) []byte {
	switch {
	case r < 0x7F || !w.escaped:
		return append(out, string(r)...)
	case r > 0xFFFF:
		high, low := utf16.EncodeRune(r)
		return fmt.Appendf(out, `\u%04X\u%04X`, high, low)
	}
	return fmt.Appendf(out, `\u%04X`, r)
}

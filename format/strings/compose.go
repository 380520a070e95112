package strings

import (
	"slices"
	"strings"

	"zelvik/catalog"
	"zelvik/format"
	"zelvik/format/stringsdict"
	"zelvik/internal/fast"
	"zelvik/message"
	"zelvik/message/printf"
)

// composer writes entries and notes what it could not say.
type composer struct {
	format.Teller
}

func compose(c *catalog.Catalog, o format.Options) ([]byte, []catalog.Loss) {
	first, second := &composer{}, &composer{}
	out, on := format.Append(fast.Make[byte](o.Room(64+len(c.Entries)*96)), len(c.Entries), o, first, second, func(w *composer, out []byte, from, to int) ([]byte, bool) {
		return w.entries(out, c, o, from, to)
	})
	if !on {
		return nil, nil
	}
	return out, append(first.Losses, second.Losses...)
}

// entries writes entries; a note has a blank line before it unless nothing is
// above.
func (w *composer) entries(out []byte, c *catalog.Catalog, o format.Options, from, to int) ([]byte, bool) {
	elsewhere := func(e *catalog.Entry) bool { return o.Beside && stringsdict.Plural(e.Message) }
	first := !slices.ContainsFunc(c.Entries[:from], func(e catalog.Entry) bool { return !elsewhere(&e) && e.Product == "" })
	for i := from; i < to; i++ {
		var on bool
		if out, on = o.Flush(out); !on {
			return nil, false
		}
		e := &c.Entries[i]
		if elsewhere(e) || !w.Unheld(e, ".strings files", holds) {
			continue
		}
		if !first && e.Note != "" {
			out = append(out, '\n')
		}
		first = false
		if e.Note != "" {
			out = append(append(append(out, "/* "...), w.comment(e.Note)...), " */\n"...)
		}
		out = append(appendQuoted(out, e.Key), " = "...)
		out = append(appendQuoted(out, w.value(c, e)), ";\n"...)
	}
	return out, true
}

func (w *composer) comment(note string) string {
	if strings.Contains(note, "*/") {
		w.Lose("note", "the end of a comment inside the note", "it is written * /")
		note = strings.ReplaceAll(note, "*/", "* /")
	}
	return strings.ReplaceAll(w.Comment(note), "\n", "\n   ")
}

// value returns the text of an entry.
func (w *composer) value(c *catalog.Catalog, e *catalog.Entry) string {
	m := w.Resolved(c, e).Message
	if m.Choice != nil {
		w.Lose(m.Choice.Selectors[0].Kind.String(), "the variants over {"+m.Choice.Selectors[0].Argument.Name+"}", "the text of the variant other")
	}
	return w.pattern(m.Main(), printf.Numbered(m))
}

func (w *composer) pattern(p message.Pattern, numbered bool) string {
	text, losses := printf.Foundation.Write(p, numbered, false)
	return w.Told(text, losses)
}

// appendQuoted writes a string in double quotes.
func appendQuoted(out []byte, text string) []byte {
	return format.AppendQuoted(out, text, escapes, `\U%04x`)
}

var escapes = map[byte]string{'"': `\"`, '\\': `\\`, '\n': `\n`, '\t': `\t`, '\r': `\r`, 0x7F: "\x7f"}

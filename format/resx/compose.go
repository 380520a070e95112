package resx

import (
	"fmt"
	"strings"

	"zelvik/catalog"
	"zelvik/format"
	"zelvik/format/doc"
	"zelvik/format/xmlscan"
	"zelvik/internal/fast"
	"zelvik/message/composite"
	"zelvik/message/icu"
)

// head is the least that .NET's own reader asks for.
const head = `<?xml version="1.0" encoding="utf-8"?>
<root>
  <resheader name="resmimetype">
    <value>text/microsoft-resx</value>
  </resheader>
  <resheader name="version">
    <value>2.0</value>
  </resheader>
  <resheader name="reader">
    <value>System.Resources.ResXResourceReader, System.Windows.Forms, Version=4.0.0.0, Culture=neutral, PublicKeyToken=b77a5c561934e089</value>
  </resheader>
  <resheader name="writer">
    <value>System.Resources.ResXResourceWriter, System.Windows.Forms, Version=4.0.0.0, Culture=neutral, PublicKeyToken=b77a5c561934e089</value>
  </resheader>
`

// composer writes values and notes what it could not say.
type composer struct {
	format.Teller
}

func compose(c *catalog.Catalog, o format.Options) ([]byte, []catalog.Loss) {
	out := fast.Make[byte](o.Room(len(head) + len(c.Entries)*160))
	out = append(out, head...)
	doubles := inOtherCase(c)
	first, second := &composer{}, &composer{}
	first.Catalog, second.Catalog = c, c
	out, on := format.Append(out, len(c.Entries), o, first, second, func(w *composer, out []byte, from, to int) ([]byte, bool) {
		for i := from; i < to; i++ {
			var on bool
			if out, on = o.Flush(out); !on {
				return nil, false
			}
			e := &c.Entries[i]
			if !w.Unheld(e, ".resx files", holds) {
				continue
			}
			if other, double := doubles[i]; double {
				w.Lose("key", fmt.Sprintf("the key %q, which .NET takes for %q", e.Key, other), "nothing; the first of them is kept")
				continue
			}
			out = w.data(out, c, e, "  ", "\n")
		}
		return out, true
	})
	if !on {
		return nil, nil
	}
	return append(out, "</root>\n"...), append(first.Losses, second.Losses...)
}

// inOtherCase finds the entries whose key is an earlier one but for the case
// of its letters, by number, with that key.
func inOtherCase(c *catalog.Catalog) map[int]string {
	seen := catalog.NewNumbers(len(c.Entries))
	doubles := map[int]string{}
	for i := range c.Entries {
		e := &c.Entries[i]
		if e.Product != "" {
			continue
		}
		lower := strings.ToLower(e.Key)
		if other := seen.Add(i, catalog.Hash(lower, ""), func(n int) bool { return strings.ToLower(c.Entries[n].Key) == lower }); other >= 0 {
			doubles[i] = c.Entries[other].Key
		}
	}
	return doubles
}

// data writes one entry.
func (w *composer) data(out []byte, c *catalog.Catalog, e *catalog.Entry, indent, newline string) []byte {
	out = format.Put(out, indent, `<data name="`, xmlscan.EscapeAttribute(e.Key), `" xml:space="preserve">`, newline)
	out = format.Put(out, indent, indent, "<value>", xmlscan.EscapeText(w.value(c, e)), "</value>", newline)
	if e.Note != "" {
		out = format.Put(out, indent, indent, "<comment>", xmlscan.EscapeText(doc.Legal(&w.Teller, e.Note)), "</comment>", newline)
	}
	return format.Put(out, indent, "</data>", newline)
}

// value spells a message: a composite format string, or an ICU message where
// there is a choice.
func (w *composer) value(c *catalog.Catalog, e *catalog.Entry) string {
	m := w.Resolved(c, e).Message
	if text, ok := m.Plain("{"); ok {
		return doc.Legal(&w.Teller, text)
	}
	text := ""
	if m.Choice != nil {
		text = w.Told(icu.Writer{Numbered: true}.Write(m))
	} else {
		text = w.Told(composite.Write(m.Pattern, m.HasPlaceholders()))
	}
	for p := range m.Placeholders() {
		if !p.MadeName() && !(p.Name == "count" && m.Choice != nil) {
			w.Lose("name", "the name of the placeholder {"+p.Name+"}", "its position; the ledger of a family keeps the name")
		}
	}
	if m.Choice == nil && !m.HasPlaceholders() && (composite.Formatted(text) || icu.LooksChosen(text)) {
		w.Lose("escape", "that the braces in the text are no placeholder", "they read as one")
	}
	return doc.Legal(&w.Teller, text)
}

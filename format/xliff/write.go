package xliff

import (
	"fmt"
	"strconv"
	"strings"

	"zelvik/catalog"
	"zelvik/format"
	"zelvik/format/doc"
	"zelvik/format/inline"
	"zelvik/format/xmlscan"
	"zelvik/internal/fast"
	"zelvik/message"
)

// writer writes units and tells what it could not say.
type writer struct {
	format.Teller
	newline string
	second  bool
	form    inline.Form
	// codes are those of the source, which a translation repeats.
	codes []inline.Code
}

// A file says that its placeholders are inline codes and nothing else is one: by
// the tool that made it (version 1.2), or in its metadata (version 2).
const tool, codes = "tool-id", "zelvik-codes"

// join writes a source, and its translation where there is one.
func join(catalogs []*catalog.Catalog, second bool) ([]byte, []catalog.Loss) {
	w := &writer{newline: "\n", second: second, form: inline.Form{Coded: true}}
	source := catalogs[0]
	var target *catalog.Catalog
	if len(catalogs) > 1 {
		target = catalogs[1]
	}
	limited := false
	for _, c := range catalogs {
		for i := range c.Entries {
			limited = limited || c.Entries[i].Limit > 0
		}
	}
	out := fast.Make[byte](512 + len(source.Entries)*200)
	out = append(out, `<?xml version="1.0" encoding="UTF-8"?>`+"\n"...)
	indent := "      "
	tags := [2]string{`source-language="` + string(source.Culture) + `"`, ""}
	if target != nil {
		tags[1] = ` target-language="` + string(target.Culture) + `"`
	}
	if second {
		indent = "    "
		out = append(out, `<xliff version="2.1" xmlns="urn:oasis:names:tc:xliff:document:2.0"`...)
		if limited {
			out = append(out, ` xmlns:slr="urn:oasis:names:tc:xliff:sizerestriction:2.0"`...)
		}
		out = append(out, ` srcLang="`+string(source.Culture)+`"`...)
		if target != nil {
			out = append(out, ` trgLang="`+string(target.Culture)+`"`...)
		}
		out = append(out, ">\n  <file id=\"f1\">\n"...)
		out = append(out, `    <mda:metadata xmlns:mda="urn:oasis:names:tc:xliff:metadata:2.0"><mda:metaGroup><mda:meta type="`+codes+`">yes</mda:meta></mda:metaGroup></mda:metadata>`+"\n"...)
		if limited {
			out = append(out, "    <slr:profiles generalProfile=\"xliff:codepoints\"/>\n"...)
		}
	} else {
		out = append(out, `<xliff version="1.2" xmlns="urn:oasis:names:tc:xliff:document:1.2">`+"\n"...)
		out = append(out, `  <file original="messages" datatype="plaintext" `+tool+`="`+codes+`" `+tags[0]+tags[1]+">\n    <header><tool tool-id=\""+codes+"\" tool-name=\"zelvik\"/></header>\n    <body>\n"...)
	}
	rest := &writer{newline: w.newline, second: second, form: inline.Form{Coded: true}}
	out, _ = format.Append(out, len(source.Entries), format.Options{}, w, rest, func(w *writer, out []byte, from, to int) ([]byte, bool) {
		return w.units(out, catalogs, from, to, indent), true
	})
	w.Losses = append(w.Losses, rest.Losses...)
	if target != nil {
		w.Strays(source, target)
	}
	if !second {
		out = append(out, "    </body>\n"...)
	}
	return append(out, "  </file>\n</xliff>\n"...), w.Losses
}

// units writes entries, which are numbered from the first of the source on.
func (w *writer) units(out []byte, catalogs []*catalog.Catalog, from, to int, indent string) []byte {
	source := catalogs[0]
	var target *catalog.Catalog
	if len(catalogs) > 1 {
		target = catalogs[1]
	}
	number := from
	for i := range source.Entries[:from] {
		if source.Entries[i].Product != "" { // is left out
			number--
		}
	}
	for i := from; i < to; i++ {
		e := &source.Entries[i]
		w.Catalog, w.Source = source, e.Message.Choice != nil // codes have numbers
		if !w.Unheld(e, "XLIFF files", holds) {
			continue
		}
		number++
		out = w.unit(out, source, i, target, number, indent)
	}
	return out
}

// unit writes entry number i of the source as the unit of a number.
func (w *writer) unit(out []byte, source *catalog.Catalog, i int, target *catalog.Catalog, number int, indent string) []byte {
	e := &source.Entries[i]
	key := doc.Legal(&w.Teller, e.Key)
	t := target.Near(i, e.ID())
	inner := indent + "  "
	note := doc.Legal(&w.Teller, e.Note)
	w.codes = nil
	resolved := w.Resolved(source, e)
	text := w.content(resolved.Message)
	translation, state := "", ""
	if t != nil {
		w.Catalog, w.Entry = target, t
		if t.Note != "" && t.Note != e.Note {
			w.Lose("note", "the translator's note", "none; a unit has those of the developer")
		}
		translation = w.content(w.Resolved(target, t).Message)
		state = w.state(t)
	}
	if w.second {
		out = strconv.AppendInt(format.Put(out, indent, `<unit id="u`), int64(number), 10)
		out = format.Put(out, `" name="`, xmlscan.EscapeAttribute(key), `"`)
		if e.Fixed {
			out = append(out, ` translate="no"`...)
		}
		if e.Limit > 0 {
			out = fmt.Appendf(out, ` slr:sizeRestriction="%d"`, e.Limit)
		}
		out = format.Put(out, ">", w.newline)
		if note != "" {
			out = format.Put(out, inner, "<notes>", w.newline, inner, "  <note>", xmlscan.EscapeText(note), "</note>", w.newline, inner, "</notes>", w.newline)
		}
		out = format.Put(out, inner, "<segment")
		if state != "" {
			out = format.Put(out, ` state="`, state, `"`)
		}
		out = format.Put(out, ">", w.newline, inner, "  <source", space(text), ">", text, "</source>", w.newline)
		if t != nil {
			out = format.Put(out, inner, "  <target", space(translation), ">", translation, "</target>", w.newline)
		}
		return format.Put(out, inner, "</segment>", w.newline, indent, "</unit>", w.newline)
	}
	out = strconv.AppendInt(format.Put(out, indent, `<trans-unit id="`), int64(number), 10)
	out = format.Put(out, `" resname="`, xmlscan.EscapeAttribute(key), `"`)
	if e.Fixed {
		out = append(out, ` translate="no"`...)
	}
	if e.Limit > 0 {
		out = fmt.Appendf(out, ` maxwidth="%d" size-unit="char"`, e.Limit)
	}
	spaced := text
	if t != nil {
		spaced += translation
	}
	out = format.Put(out, space(spaced), ">", w.newline, inner, "<source>", text, "</source>", w.newline)
	if t != nil {
		out = format.Put(out, inner, "<target")
		if state != "" {
			out = format.Put(out, ` state="`, state, `"`)
		}
		out = format.Put(out, ">", translation, "</target>", w.newline)
	}
	if note != "" {
		out = format.Put(out, inner, "<note>", xmlscan.EscapeText(note), "</note>", w.newline)
	}
	return format.Put(out, indent, "</trans-unit>", w.newline)
}

// space asks readers to keep white space where a text depends on it.
func space(text string) string {
	if strings.TrimSpace(text) != text || strings.Contains(text, "  ") || strings.IndexByte(text, '\n') >= 0 || strings.IndexByte(text, '\t') >= 0 {
		return ` xml:space="preserve"`
	}
	return ""
}

// state returns the version's word, "" for none.
func (w *writer) state(e *catalog.Entry) string {
	switch e.State {
	case catalog.Missing, catalog.Draft:
		if w.second {
			return "initial"
		}
		return "needs-review-translation"
	case catalog.Moved:
		if w.second {
			w.Lose("state", "that the source changed after the translation", "initial")
			return "initial"
		}
		return "needs-adaptation"
	case catalog.Done:
		return "translated"
	}
	return ""
}

// text writes literal text. Version 2 has an element for characters that XML
// cannot hold.
func (w *writer) text(text string) string {
	if xmlscan.Legal(text) || !w.second {
		return xmlscan.EscapeText(doc.Legal(&w.Teller, text))
	}
	var out strings.Builder
	for _, r := range text {
		if xmlscan.Legal(string(r)) {
			out.WriteString(xmlscan.EscapeText(string(r)))
		} else {
			fmt.Fprintf(&out, `<cp hex="%04X"/>`, r)
		}
	}
	return out.String()
}

// content writes a message.
func (w *writer) content(m message.Message) string {
	writer := inline.Writer{Text: w.text, Placeholder: w.placeholder, Tag: w.tag, Codes: w.codes}
	return writer.Content(w.form, &w.Teller, m)
}

// placeholder writes a code, with the sample for what is shown in its place.
func (w *writer) placeholder(id, spelled, sample string) string {
	if sample = doc.Legal(&w.Teller, sample); sample == spelled {
		sample = ""
	}
	if w.second {
		if sample != "" {
			sample = ` disp="` + xmlscan.EscapeAttribute(sample) + `"`
		}
		return `<ph id="` + id + `" equiv="` + xmlscan.EscapeAttribute(spelled) + `"` + sample + `/>`
	}
	if sample != "" {
		sample = ` equiv-text="` + xmlscan.EscapeAttribute(sample) + `"`
	}
	return `<ph id="` + id + `"` + sample + `>` + xmlscan.EscapeText(spelled) + "</ph>"
}

// tag writes a code for a tag.
func (w *writer) tag(role message.Role, id, native string, closed bool) string {
	native = doc.Legal(&w.Teller, native)
	attribute, text := xmlscan.EscapeAttribute(native), xmlscan.EscapeText(native)
	switch {
	case role == message.Open && closed && w.second:
		return `<sc id="` + id + `" equiv="` + attribute + `"/>`
	case role == message.Open && w.second:
		return `<sc id="` + id + `" isolated="yes" equiv="` + attribute + `"/>`
	case closed && w.second:
		return `<ec startRef="` + id + `" equiv="` + attribute + `"/>`
	case w.second:
		return `<ec id="m0" isolated="yes" equiv="` + attribute + `"/>`
	case role == message.Open && closed:
		return `<bpt id="` + id + `">` + text + "</bpt>"
	case role == message.Open:
		return `<it id="` + id + `" pos="open">` + text + "</it>"
	case closed:
		return `<ept id="` + id + `">` + text + "</ept>"
	}
	return `<it id="m0" pos="close">` + text + "</it>"
}

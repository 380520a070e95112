package android

import (
	"errors"
	"strings"

	"zelvik/catalog"
	"zelvik/format"
	"zelvik/format/doc"
	"zelvik/format/xmlscan"
	"zelvik/message"
	"zelvik/message/printf"
)

// Edit makes changes; see format.Document.
func (d *document) Edit(changes []format.Change) ([]byte, []catalog.Loss, error) {
	e := &editor{document: d, Editor: doc.NewEditor(d.Coded)}
	e.w.line = e.Newline
	if err := e.Make(changes, &e.w.Teller, e); err != nil {
		return nil, nil, err
	}
	if e.w.xliff && !d.xliff && d.rootName >= 0 {
		e.Replace(d.rootName, d.rootName, " "+xliffNamespace)
	}
	return e.Done(&e.w.Teller)
}

type editor struct {
	*document
	doc.Editor
	w composer
}

// Find returns the number of an entry.
func (e *editor) Find(c format.Change) (number, offset int) {
	if number = e.Catalog.At(c.Key); number >= 0 {
		offset = e.Catalog.Entries[number].Offset
	}
	return number, offset
}

// Remove takes out an entry with its note.
func (e *editor) Remove(i int, _ format.Change) error {
	el, err := e.element(i)
	if err != nil {
		return err
	}
	from, to := int(e.notes[i]), el.To
	if el.Name == "item" {
		from = el.From
	} else if t, ok := e.trailOf(i); ok {
		to = t.to
	}
	e.Cut(from, to)
	return nil
}

// Rename changes the attribute that is the name.
func (e *editor) Rename(i int, c format.Change) error {
	el, err := e.element(i)
	if err != nil {
		return err
	}
	e.Replace(el.nameFrom, el.nameTo, e.w.name(c.NewKey))
	return nil
}

// Set changes note and text.
func (e *editor) Set(i int, c format.Change) error {
	el, err := e.element(i)
	if err != nil {
		return err
	}
	if c.Note != nil && *c.Note != e.Catalog.Entries[i].Note {
		if err := e.note(i, *c.Note); err != nil {
			return err
		}
	}
	if c.Message != nil {
		return e.set(i, el, *c.Message)
	}
	return nil
}

// part is an element and its places.
type part struct {
	xmlscan.Token
	// To is after the end tag; 0 where there is none.
	To                     int
	nameFrom, nameTo       int
	contentFrom, contentTo int
	items                  []part
	quantity               string
	lone, unformatted      bool
}

// element reads the element of an entry once more, for its places.
func (e *editor) element(i int) (part, error) { return e.partAt(e.Catalog.Entries[i].Offset) }

func (e *editor) partAt(offset int) (part, error) {
	s := xmlscan.New(e.Src)
	s.Seek(offset)
	if !s.Next() || s.Kind != xmlscan.Start {
		return part{}, format.ErrDamaged
	}
	el := places(s)
	if el.To == 0 {
		return el, format.ErrDamaged
	}
	return el, nil
}

func places(s *xmlscan.Scanner) part {
	el := part{Token: s.Token, lone: s.Lone, contentFrom: s.To, contentTo: s.To}
	for _, a := range s.Attributes {
		switch a.Name {
		case "name":
			el.nameFrom, el.nameTo = a.ValueFrom, a.ValueTo
		case "quantity":
			el.quantity, _ = s.Value("quantity")
		case "formatted":
			value, _ := s.Value("formatted")
			el.unformatted = value == "false"
		}
	}
	if s.Lone {
		el.To = s.To
		return el
	}
	depth := len(s.Open)
	for s.Next() {
		if s.Kind == xmlscan.Start && s.Name == "item" {
			el.items = append(el.items, places(s))
		}
		if s.Kind == xmlscan.End && len(s.Open) < depth {
			el.contentTo, el.To = s.From, s.To
			return el
		}
	}
	return el
}

// set replaces an entry's message.
func (e *editor) set(i int, el part, m message.Message) error {
	entry, w := &e.Catalog.Entries[i], &e.w
	w.out = w.out[:0]
	w.Entry = &catalog.Entry{Key: entry.Key, Message: m, Offset: entry.Offset}
	isPlural := m.Choice != nil && m.Choice.Selectors[0].Kind == message.Plural
	if isPlural != (el.Name == "plurals") || el.lone {
		if el.Name == "item" {
			return errors.New("an item of an array cannot have plural forms")
		}
		changed := *entry
		changed.Message, changed.Reference = m, ""
		w.element(&changed, e.Indent(el.From))
		e.Replace(el.From, el.To, strings.TrimLeft(string(w.out), " \t"))
		return nil
	}
	if !isPlural {
		e.formatted(el, m.Main())
		w.pattern(m.Main(), printf.Numbered(m), hasPlaceholder(m.Main()))
		e.content(el, string(w.out), printf.Numbered(m), hasPlaceholder(m.Main()))
		return nil
	}
	variants := w.variants(w.Entry)
	var patterns []message.Pattern
	for _, v := range variants {
		patterns = append(patterns, v.Pattern)
	}
	numbered, formatted := printf.Numbered(m), anyPlaceholder(patterns)
	e.formatted(el, patterns...)
	kept := map[string]part{}
	for _, item := range el.items {
		kept[item.quantity] = item
	}
	last := el.contentFrom
	for _, v := range variants {
		w.out = w.out[:0]
		w.pattern(v.Pattern, numbered, formatted)
		if item, ok := kept[v.Keys[0]]; ok {
			e.content(item, string(w.out), numbered, formatted)
			last = item.To
			delete(kept, v.Keys[0])
			continue
		}
		indent := e.Indent(el.From) + "    "
		if len(el.items) > 0 {
			indent = e.Indent(el.items[0].From)
		}
		e.Replace(last, last, e.Newline+indent+`<item quantity="`+v.Keys[0]+`">`+string(w.out)+"</item>")
	}
	for _, item := range el.items {
		if _, gone := kept[item.quantity]; gone {
			e.Cut(item.From, item.To)
		}
	}
	return nil
}

// formatted sees to it that patterns without placeholders which look like
// format strings are not taken for such, and that those with placeholders are.
func (e *editor) formatted(el part, patterns ...message.Pattern) {
	if !e.w.unformatted(patterns) {
		return
	}
	if !el.unformatted && el.Name != "item" {
		end := el.Token.To - len(">")
		e.Replace(end, end, ` formatted="false"`)
	}
}

// content replaces an element's content in the style it had: in a CDATA
// section, in quotes, or plain. Numbered and formatted are as the writer's for it.
func (e *editor) content(el part, escaped string, numbered, formatted bool) {
	raw := e.Src[el.contentFrom:el.contentTo]
	trimmed := strings.TrimSpace(raw)
	inside := strings.NewReplacer("&lt;", "<", "&amp;", "&", "&gt;", ">").Replace(escaped)
	switch {
	case strings.HasPrefix(trimmed, "<![CDATA[") && strings.HasSuffix(trimmed, "]]>") && !strings.Contains(inside, "]]>") && !strings.Contains(escaped, "xliff:g"):
		escaped = "<![CDATA[" + inside + "]]>"
	case len(trimmed) > 1 && trimmed[0] == '"' && trimmed[len(trimmed)-1] == '"' && !strings.Contains(escaped, "<"):
		escaped = `"` + strings.NewReplacer(`\'`, "'", `\u0020`, " ").Replace(escaped) + `"`
	}
	e.Splice(el.contentFrom, el.contentTo, escaped, func(raw string) string {
		d, _ := parse([]byte("<resources " + xliffNamespace + `><string name="k">` + raw + "</string></resources>"))
		if entries := d.Catalogs()[0].Entries; len(entries) == 1 {
			w := composer{Teller: format.Teller{Entry: &entries[0]}, line: e.Newline}
			w.pattern(entries[0].Message.Main(), numbered, formatted)
			return string(w.out)
		}
		return raw
	})
}

// note changes, adds or removes the comment before an entry.
func (e *editor) note(i int, note string) error {
	entry, from := &e.Catalog.Entries[i], int(e.notes[i])
	indent := e.Indent(from)
	text := e.w.comment(note, indent)
	open := strings.HasPrefix(e.Src[from:], "<!--")
	if open && !strings.Contains(e.Src[from:entry.Offset], "-->") {
		return format.ErrDamaged
	}
	trail, trails := e.trailOf(i)
	if trails && (open || note == "" || strings.Contains(text, "\n")) {
		before := strings.TrimRight(e.Src[:trail.from], " \t")
		e.Replace(len(before), trail.to, "")
	} else if trails {
		from, open = trail.from, true
	}
	switch {
	case open && note == "":
		e.Cut(from, e.comments(from))
	case open:
		inner := e.Src[from+4 : from+strings.Index(e.Src[from:], "-->")]
		if first, last := from+4+len(inner)+3, e.comments(from); last > first {
			e.Replace(first, last, "")
		}
		left := inner[:len(inner)-len(strings.TrimLeft(inner, " \t\r\n"))]
		right := inner[len(strings.TrimRight(inner, " \t\r\n")):]
		e.Replace(from+4+len(left), from+4+max(len(inner)-len(right), len(left)), text)
	case note != "":
		e.Replace(from, from, "<!-- "+text+" -->"+e.Newline+indent)
	}
	return nil
}

// comments returns the end of the comments that begin at an offset with nothing
// but white space between them.
func (e *editor) comments(from int) int {
	end := from
	for at := from; strings.HasPrefix(e.Src[at:], "<!--"); {
		size := strings.Index(e.Src[at:], "-->")
		if size < 0 {
			break
		}
		end = at + size + len("-->")
		at = len(e.Src) - len(strings.TrimLeft(e.Src[end:], " \t\r\n"))
	}
	return end
}

// trailOf returns the comment after the element of an entry on its line.
func (e *editor) trailOf(i int) (t trail, ok bool) {
	for last := i; last < len(e.notes) && len(e.trails) > 0 && (last == i || e.elementStart(last) == e.elementStart(i)); last++ {
		if t, ok = e.trails[last]; ok {
			return t, t.first <= i
		}
	}
	return trail{}, false
}

// Insert adds an entry after its neighbour.
func (e *editor) Insert(c format.Change, entry *catalog.Entry) error {
	if _, _, ok := catalog.SplitArrayKey(c.Key); ok {
		return errors.New("items are added to an array by hand")
	}
	after := e.Catalog.At(c.After)
	if after < 0 && c.After != "" && len(e.notes) > 0 {
		after = len(e.notes) - 1
	}
	to := 0
	if after >= 0 {
		el, err := e.partAt(e.elementStart(after))
		if to = el.To; err != nil {
			return err
		}
		if t, ok := e.trailOf(after); ok {
			to = t.to
		}
	}
	gap, ok := e.Gap(c, after, len(e.notes), func(i int) doc.Span {
		if i == 0 && after < 0 {
			return doc.Span{From: int(e.notes[0])}
		}
		return doc.Span{From: e.elementStart(i), To: to}
	}, e.rootEnd, "    ")
	if !ok {
		return errors.New("the file has no <resources>")
	}
	e.w.out = e.w.out[:0]
	e.w.note(entry.Note, gap.Indent)
	e.w.element(entry, gap.Indent)
	e.Put(gap, string(e.w.out))
	return nil
}

// elementStart returns where the top element of an entry stands.
func (e *editor) elementStart(i int) int {
	if at, ok := e.arrays[i]; ok {
		return at
	}
	return e.Catalog.Entries[i].Offset
}

package android

import (
	"errors"
	"strings"

	"zelvik/catalog"
	"zelvik/format"
	"zelvik/format/xmlscan"
	"zelvik/message"
	"zelvik/message/printf"
)

// editor collects replacements in a document's text.
type editor struct {
	*document
	format.Editor
	xliff bool
}

// Edit makes changes; see format.Document.
func (d *document) Edit(changes []format.Change) ([]byte, []catalog.Loss, error) {
	e := &editor{document: d, Editor: format.NewEditor(d.Text())}
	if err := e.Make(changes, e.change); err != nil {
		return nil, nil, err
	}
	if e.xliff && !d.xliff {
		if at := strings.Index(e.Src, "<resources"); at >= 0 {
			at += len("<resources")
			e.Replace(at, at, " "+xliffNamespace)
		}
	}
	out, err := d.text.Patch(e.Replacements)
	return out, e.Losses, err
}

// find gives the index of the entry with the key, or -1.
func (e *editor) find(key string) int {
	return e.catalog.At(key)
}

func (e *editor) change(c format.Change) error {
	i := e.find(c.Key)
	switch {
	case c.Op == format.Set && i < 0:
		return e.insert(c)
	case i < 0:
		return format.ErrNoEntry
	}
	entry := &e.catalog.Entries[i]
	el := e.element(entry.Offset)
	if el.To == 0 {
		return format.ErrDamaged
	}
	switch c.Op {
	case format.Remove:
		e.remove(i, el)
		return nil
	case format.Rename:
		w := &composer{Teller: format.Teller{Entry: entry}}
		e.Replace(el.nameFrom, el.nameTo, w.name(c.NewKey))
		e.Losses = append(e.Losses, w.Losses...)
		return nil
	}
	if c.Note != nil && *c.Note != entry.Note {
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
	// To is behind the end tag; 0 where there is none.
	To                     int
	nameFrom, nameTo       int
	contentFrom, contentTo int
	items                  []part
	quantity               string
	lone, unformatted      bool
}

// element reads the element at an offset once more, for its places.
func (e *editor) element(offset int) part {
	s := xmlscan.New(e.Src)
	s.Seek(offset)
	if !s.Next() || s.Kind != xmlscan.Start {
		return part{}
	}
	return places(s)
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
	entry := &e.catalog.Entries[i]
	w := e.composer(entry)
	defer func() { e.finish(w) }()
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
		e.formatted(el, w, m.Main())
		w.pattern(m.Main(), printf.Numbered(m), hasPlaceholder(m.Main()))
		e.content(el, string(w.out), printf.Numbered(m), hasPlaceholder(m.Main()))
		return nil
	}
	w.Entry = &catalog.Entry{Key: entry.Key, Message: m}
	variants := w.variants(w.Entry)
	var patterns []message.Pattern
	for _, v := range variants {
		patterns = append(patterns, v.Pattern)
	}
	numbered, formatted := printf.Numbered(m), anyPlaceholder(patterns)
	e.formatted(el, w, patterns...)
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
			e.Remove(item.From, item.To)
		}
	}
	return nil
}

// formatted sees to it that patterns without placeholders which look like
// format strings are not taken for such, and that those with placeholders are.
func (e *editor) formatted(el part, w *composer, patterns ...message.Pattern) {
	looks := false
	for _, p := range patterns {
		if hasPlaceholder(p) {
			return
		}
		looks = looks || printf.Java.Formatted(p.Literal())
	}
	if !looks {
		return
	}
	w.Lose("escape", "that the % in the text is no placeholder", "it reads as one")
	if !el.unformatted && el.Name != "item" { // or the compiler asks for numbers
		end := el.Token.To - len(">")
		e.Replace(end, end, ` formatted="false"`)
	}
}

func (e *editor) composer(entry *catalog.Entry) *composer {
	return &composer{Teller: format.Teller{Entry: entry}, line: e.Newline}
}

func (e *editor) finish(w *composer) {
	e.Losses = append(e.Losses, w.Losses...)
	e.xliff = e.xliff || w.xliff
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
			w := e.composer(&entries[0])
			w.pattern(entries[0].Message.Main(), numbered, formatted)
			return string(w.out)
		}
		return raw
	})
}

// note changes, adds or removes the comment before an entry.
func (e *editor) note(i int, note string) error {
	entry := &e.catalog.Entries[i]
	from := int(e.notes[i])
	if name, _, ok := catalog.SplitArrayKey(entry.Key); ok {
		// The note of an array stands before the array itself.
		if at := strings.LastIndex(e.Src[:entry.Offset], "<string-array"); at >= 0 && strings.Contains(e.Src[at:entry.Offset], name) {
			if from == entry.Offset {
				from = at
			}
		}
	}
	w := e.composer(entry)
	indent := e.Indent(from)
	text := w.comment(note, indent)
	e.Losses = append(e.Losses, w.Losses...)
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
		e.Remove(from, e.comments(from))
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

// comments gives the end of the comments that begin at an offset with nothing
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

// trailOf gives the comment behind the element of an entry on its line.
func (e *editor) trailOf(i int) (t trail, ok bool) {
	for last := i; last < len(e.notes) && len(e.trails) > 0 && (last == i || e.elementStart(last) == e.elementStart(i)); last++ {
		if t, ok = e.trails[last]; ok {
			return t, t.first <= i
		}
	}
	return trail{}, false
}

// remove takes out an entry with its note.
func (e *editor) remove(i int, el part) {
	from, to := int(e.notes[i]), el.To
	if el.Name == "item" {
		from = el.From
	} else if t, ok := e.trailOf(i); ok {
		to = t.to
	}
	e.Remove(from, to)
}

// insert adds an entry behind its neighbour.
func (e *editor) insert(c format.Change) error {
	if c.Message == nil {
		return format.ErrNoEntry
	}
	if _, _, ok := catalog.SplitArrayKey(c.Key); ok {
		return errors.New("items are added to an array by hand")
	}
	entry := catalog.Entry{Key: c.Key, Message: *c.Message}
	if c.Note != nil {
		entry.Note = *c.Note
	}
	at, before := e.gap(c.After)
	if at < 0 {
		return errors.New("the file has no <resources>")
	}
	w := e.composer(&entry)
	indent := "    "
	if n := len(e.catalog.Entries); n > 0 {
		indent = e.Indent(e.elementStart(n - 1))
		if i := e.find(c.After); i >= 0 {
			indent = e.Indent(e.elementStart(i))
		}
	}
	w.note(entry.Note, indent)
	w.element(&entry, indent)
	e.finish(w)
	text := string(w.out)
	if before { // at the beginning of a line
		text += e.Newline
	} else {
		text = e.Newline + text
	}
	e.Replace(at, at, text)
	return nil
}

// elementStart gives where the top element of an entry stands.
func (e *editor) elementStart(i int) int {
	entry := &e.catalog.Entries[i]
	if _, _, ok := catalog.SplitArrayKey(entry.Key); ok {
		if at := strings.LastIndex(e.Src[:entry.Offset], "<string-array"); at >= 0 {
			return at
		}
	}
	return entry.Offset
}

// gap gives where a new entry goes, and whether that is before a line instead
// of behind one.
func (e *editor) gap(after string) (at int, before bool) {
	if i := e.find(after); i >= 0 {
		if el := e.element(e.elementStart(i)); el.To > 0 {
			if t, ok := e.trailOf(i); ok {
				return t.to, false
			}
			return el.To, false
		}
	}
	if after == "" && len(e.catalog.Entries) > 0 {
		from := min(int(e.notes[0]), e.elementStart(0))
		return strings.LastIndexByte(e.Src[:from], '\n') + 1, true
	}
	end := -1
	for s := xmlscan.New(e.Src); s.Next(); {
		if s.Kind == xmlscan.End && s.Name == "resources" {
			end = s.From
		}
	}
	if end < 0 {
		return -1, false
	}
	start := strings.LastIndexByte(e.Src[:end], '\n') + 1
	if strings.TrimSpace(e.Src[start:end]) == "" {
		return start, true
	}
	return end, false
}

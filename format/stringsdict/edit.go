package stringsdict

import (
	"strings"

	"zelvik/catalog"
	"zelvik/format"
	"zelvik/format/plist"
	"zelvik/format/xmlscan"
)

// Edit makes changes; see format.Document.
func (d *document) Edit(changes []format.Change) ([]byte, []catalog.Loss, error) {
	e := &editor{document: d, src: d.Text(), newline: "\n", tab: "\t"}
	if strings.Contains(e.src, "\r\n") {
		e.newline = "\r\n"
	}
	if len(d.root.Members) > 0 {
		if indent := e.indent(d.root.Members[0].From); indent != "" {
			e.tab = indent
		}
	}
	for _, c := range changes {
		if err := e.change(c); err != nil {
			return nil, nil, &format.EditError{Key: c.Key, Err: err}
		}
	}
	out, err := d.text.Patch(e.replacements)
	return out, e.losses, err
}

type editor struct {
	*document
	src, newline, tab string
	replacements      []format.Replacement
	losses            []catalog.Loss
}

func (e *editor) replace(from, to int, text string) {
	e.replacements = append(e.replacements, format.Replacement{Start: from, End: to, Text: text})
}

func (e *editor) indent(offset int) string {
	start := strings.LastIndexByte(e.src[:offset], '\n') + 1
	line := e.src[start:offset]
	return line[:len(line)-len(strings.TrimLeft(line, " \t"))]
}

func (e *editor) composer(entry *catalog.Entry) *composer {
	return &composer{tab: e.tab, newline: e.newline, entry: entry}
}

func (e *editor) change(c format.Change) error {
	m := e.root.Find(c.Key)
	switch {
	case m == nil && c.Op == format.Set && c.Message != nil:
		return e.insert(c)
	case m == nil:
		return format.ErrNoEntry
	}
	entry := catalog.Entry{Key: c.Key, Offset: m.From}
	w := e.composer(&entry)
	defer func() { e.losses = append(e.losses, w.losses...) }()
	switch c.Op {
	case format.Remove:
		from := m.From
		if m.NoteFrom >= 0 {
			from = m.NoteFrom
		}
		e.remove(from, m.Value.To)
		return nil
	case format.Rename:
		e.replace(m.KeyFrom, m.KeyTo, xmlscan.EscapeText(c.NewKey))
		return nil
	}
	if c.Note != nil && *c.Note != m.Note {
		e.note(m, *c.Note)
	}
	if c.Message != nil {
		entry.Message = *c.Message
		e.set(m, w)
	}
	return nil
}

// set replaces an entry's forms one by one where the shape stays, else whole.
func (e *editor) set(m *plist.Member, w *composer) {
	indent := e.indent(m.From)
	if !Plural(w.entry.Message) {
		text := xmlscan.EscapeText(w.pattern(w.entry.Message.Main(), 0, true))
		if wide := widest(m); wide != nil {
			if !w.entry.Message.HasPlaceholders() { // then it is no format string
				text = strings.ReplaceAll(text, "%%", "%")
			}
			e.replace(wide.Value.ContentFrom, wide.Value.ContentTo, text)
		} else if m.Value.Kind == plist.String {
			e.replace(m.Value.ContentFrom, m.Value.ContentTo, text)
		} else {
			e.replace(m.Value.From, m.Value.To, "<dict>"+e.newline+indent+e.tab+"<key>"+formatKey+"</key>"+e.newline+indent+e.tab+"<string>"+text+"</string>"+e.newline+indent+"</dict>")
		}
		return
	}
	selectors, variants := w.reduce(w.entry.Message.Choice)
	_, name, position, _, ok := variable(e.top(m))
	box := m.Value.Find(name)
	if !ok || box == nil || len(selectors) != 1 || strings.TrimSpace(strings.Replace(e.top(m), "%#@"+name+"@", "", 1)) != "" && position == 0 {
		w.dict(w.entry, indent)
		e.replace(m.Value.From, m.Value.To, strings.TrimSpace(w.out.String()))
		return
	}
	last := 0
	for _, v := range box.Value.Members {
		if strings.HasPrefix(v.Key, "NSString") {
			last = v.Value.To
		}
	}
	kept := map[string]bool{}
	for _, v := range variants {
		kept[v.Keys[0]] = true
		text := xmlscan.EscapeText(w.pattern(v.Pattern, selectors[0].Argument.Position, false))
		if old := box.Value.Find(v.Keys[0]); old != nil {
			if e.src[old.Value.ContentFrom:old.Value.ContentTo] != text {
				e.replace(old.Value.ContentFrom, old.Value.ContentTo, text)
			}
			last = old.Value.To
			continue
		}
		inner := e.newline + indent + e.tab + e.tab
		e.replace(last, last, inner+"<key>"+v.Keys[0]+"</key>"+inner+"<string>"+text+"</string>")
	}
	for _, v := range box.Value.Members {
		if !strings.HasPrefix(v.Key, "NSString") && !kept[v.Key] {
			e.remove(v.From, v.Value.To)
		}
	}
}

// top gives the format text of an entry.
func (e *editor) top(m *plist.Member) string {
	if top := m.Value.Find(formatKey); top != nil {
		return top.Value.Text
	}
	return ""
}

func (e *editor) note(m *plist.Member, note string) {
	indent := e.indent(m.From)
	for strings.Contains(note, "--") {
		note = strings.ReplaceAll(note, "--", "- -")
	}
	switch {
	case m.NoteFrom >= 0 && note == "":
		e.remove(m.NoteFrom, m.NoteTo)
	case m.NoteFrom >= 0:
		e.replace(m.NoteFrom, m.NoteTo, "<!-- "+note+" -->")
	case note != "":
		e.replace(m.From, m.From, "<!-- "+note+" -->"+e.newline+indent)
	}
}

func (e *editor) remove(from, to int) {
	start := strings.LastIndexByte(e.src[:from], '\n') + 1
	end := to
	for end < len(e.src) && strings.IndexByte(" \t\r", e.src[end]) >= 0 {
		end++
	}
	if strings.TrimSpace(e.src[start:from]) == "" && end < len(e.src) && e.src[end] == '\n' {
		from, to = start, end+1
	}
	e.replace(from, to, "")
}

func (e *editor) insert(c format.Change) error {
	entry := catalog.Entry{Key: c.Key, Message: *c.Message}
	if c.Note != nil {
		entry.Note = *c.Note
	}
	w := e.composer(&entry)
	indent := e.tab
	if Plural(entry.Message) {
		w.member(&entry, indent)
	} else {
		w.text(&entry)
	}
	e.losses = append(e.losses, w.losses...)
	text := w.out.String()
	if after := e.root.Find(c.After); after != nil {
		e.replace(after.Value.To, after.Value.To, e.newline+strings.TrimRight(text, "\r\n"))
		return nil
	}
	at := e.root.ContentTo
	if c.After == "" && len(e.root.Members) > 0 {
		at = e.root.Members[0].From
		if e.root.Members[0].NoteFrom >= 0 {
			at = e.root.Members[0].NoteFrom
		}
	}
	at -= len(e.indent(at))
	e.replace(at, at, text)
	return nil
}

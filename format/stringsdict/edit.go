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
	e := &editor{document: d, Editor: format.NewEditor(d.Text()), tab: "\t"}
	if len(d.root.Members) > 0 {
		if indent := e.Indent(d.root.Members[0].From); indent != "" {
			e.tab = indent
		}
	}
	if err := e.Make(changes, e.change); err != nil {
		return nil, nil, err
	}
	out, err := d.text.Patch(e.Replacements)
	return out, e.Losses, err
}

type editor struct {
	*document
	format.Editor
	tab string
}

func (e *editor) composer(entry *catalog.Entry) *composer {
	return &composer{tab: e.tab, newline: e.Newline, Teller: format.Teller{Entry: entry}}
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
	defer func() { e.Losses = append(e.Losses, w.Losses...) }()
	switch c.Op {
	case format.Remove:
		from := m.From
		if m.NoteFrom >= 0 {
			from = m.NoteFrom
		}
		e.Remove(from, m.Value.To)
		return nil
	case format.Rename:
		e.Replace(m.KeyFrom, m.KeyTo, xmlscan.EscapeText(c.NewKey))
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

// splice replaces the text of a string, as it was spelled where it stays.
func (e *editor) splice(v plist.Value, text string) {
	e.Splice(v.ContentFrom, v.ContentTo, text, func(raw string) string { return xmlscan.Respell(raw, xmlscan.EscapeText) })
}

// set replaces an entry's forms one by one where the shape stays, else whole.
func (e *editor) set(m *plist.Member, w *composer) {
	indent := e.Indent(m.From)
	if !Plural(w.Entry.Message) {
		text := xmlscan.EscapeText(w.pattern(w.Entry.Message.Main(), 0, true))
		if wide := widest(m); wide != nil {
			if !w.Entry.Message.HasPlaceholders() { // then it is no format string
				text = strings.ReplaceAll(text, "%%", "%")
			}
			e.splice(wide.Value, text)
		} else if m.Value.Kind == plist.String {
			e.splice(m.Value, text)
		} else {
			e.Replace(m.Value.From, m.Value.To, "<dict>"+e.Newline+indent+e.tab+"<key>"+formatKey+"</key>"+e.Newline+indent+e.tab+"<string>"+text+"</string>"+e.Newline+indent+"</dict>")
		}
		return
	}
	_, variables, losses := Split(w.Entry.Message)
	_, name, position, _, ok := variable(e.top(m))
	box := m.Value.Find(name)
	if !ok || box == nil || len(variables) != 1 || strings.TrimSpace(strings.Replace(e.top(m), "%#@"+name+"@", "", 1)) != "" && position == 0 {
		w.dict(w.Entry, indent)
		e.Replace(m.Value.From, m.Value.To, strings.TrimSpace(string(w.out)))
		return
	}
	for _, l := range losses {
		w.Lose(l.Kind, l.Lost, l.Instead)
	}
	last := 0
	for _, v := range box.Value.Members {
		if strings.HasPrefix(v.Key, "NSString") {
			last = v.Value.To
		}
	}
	kept := map[string]bool{}
	for _, f := range variables[0].Forms {
		kept[f.Category] = true
		text := xmlscan.EscapeText(f.Text)
		if old := box.Value.Find(f.Category); old != nil {
			e.splice(old.Value, text)
			last = old.Value.To
			continue
		}
		inner := e.Newline + indent + e.tab + e.tab
		e.Replace(last, last, inner+"<key>"+f.Category+"</key>"+inner+"<string>"+text+"</string>")
	}
	for _, v := range box.Value.Members {
		if !strings.HasPrefix(v.Key, "NSString") && !kept[v.Key] {
			e.Remove(v.From, v.Value.To)
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
	indent := e.Indent(m.From)
	for strings.Contains(note, "--") {
		note = strings.ReplaceAll(note, "--", "- -")
	}
	switch {
	case m.NoteFrom >= 0 && note == "":
		e.Remove(m.NoteFrom, m.NoteTo)
	case m.NoteFrom >= 0:
		e.Replace(m.NoteFrom, m.NoteTo, "<!-- "+note+" -->")
	case note != "":
		e.Replace(m.From, m.From, "<!-- "+note+" -->"+e.Newline+indent)
	}
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
	e.Losses = append(e.Losses, w.Losses...)
	text := string(w.out)
	if after := e.root.Find(c.After); after != nil {
		e.Replace(after.Value.To, after.Value.To, e.Newline+strings.TrimRight(text, "\r\n"))
		return nil
	}
	at := e.root.ContentTo
	if c.After == "" && len(e.root.Members) > 0 {
		at = e.root.Members[0].From
		if e.root.Members[0].NoteFrom >= 0 {
			at = e.root.Members[0].NoteFrom
		}
	}
	at -= len(e.Indent(at))
	e.Replace(at, at, text)
	return nil
}

package stringsdict

import (
	"errors"
	"strings"

	"zelvik/catalog"
	"zelvik/format"
	"zelvik/format/doc"
	"zelvik/format/plist"
	"zelvik/format/xmlscan"
)

// Edit makes changes; see format.Document.
func (d *document) Edit(changes []format.Change) ([]byte, []catalog.Loss, error) {
	e := &editor{document: d, Editor: doc.NewEditor(d.Coded), tab: "\t"}
	if len(d.root.Members) > 0 {
		if indent := e.Indent(d.root.Members[0].From); indent != "" {
			e.tab = indent
		}
	}
	e.w = composer{tab: e.tab, newline: e.Newline}
	return e.Apply(changes, &e.w.Teller, e)
}

type editor struct {
	*document
	doc.Editor
	w   composer
	tab string
}

// Find returns the number of a member.
func (e *editor) Find(c format.Change) (number, offset int) {
	if number = e.Catalog.At(c.Key); number >= 0 {
		offset = e.root.Members[number].From
	}
	return number, offset
}

// place spans a member with its note.
func (e *editor) place(i int) doc.Span {
	m := &e.root.Members[i]
	if m.NoteFrom >= 0 {
		return doc.Span{From: m.NoteFrom, To: m.Value.To}
	}
	return doc.Span{From: m.From, To: m.Value.To}
}

// Remove takes out an entry with its note.
func (e *editor) Remove(i int, _ format.Change) error {
	e.Cut(e.place(i).From, e.place(i).To)
	return nil
}

// Rename changes the key.
func (e *editor) Rename(i int, c format.Change) error {
	e.Replace(e.root.Members[i].KeyFrom, e.root.Members[i].KeyTo, xmlscan.EscapeText(c.NewKey))
	return nil
}

// Set changes note and text.
func (e *editor) Set(i int, c format.Change) error {
	m := &e.root.Members[i]
	if c.Note != nil && *c.Note != m.Note {
		e.note(m, *c.Note)
	}
	if c.Message != nil {
		e.w.Entry.Message = *c.Message
		e.set(m, &e.w)
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
		w.out = w.out[:0]
		w.dict(w.Entry, indent)
		e.Replace(m.Value.From, m.Value.To, strings.TrimSpace(string(w.out)))
		return
	}
	w.Told("", losses)
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
			e.Cut(v.From, v.Value.To)
		}
	}
}

// top returns the format text of an entry.
func (e *editor) top(m *plist.Member) string {
	if top := m.Value.Find(formatKey); top != nil {
		return top.Value.Text
	}
	return ""
}

func (e *editor) note(m *plist.Member, note string) {
	indent := e.Indent(m.From)
	note = e.w.XMLComment(note)
	switch {
	case m.NoteFrom >= 0 && note == "":
		e.Cut(m.NoteFrom, m.NoteTo)
	case m.NoteFrom >= 0:
		e.Replace(m.NoteFrom, m.NoteTo, "<!-- "+note+" -->")
	case note != "":
		e.Replace(m.From, m.From, "<!-- "+note+" -->"+e.Newline+indent)
	}
}

// Insert adds an entry after its neighbour.
func (e *editor) Insert(c format.Change, entry *catalog.Entry) error {
	gap, ok := e.Gap(c, e.Catalog.At(c.After), len(e.root.Members), e.place, e.root.ContentTo, e.tab)
	if !ok {
		return errors.New("the file has no <dict>")
	}
	e.w.out = e.w.out[:0]
	if Plural(entry.Message) {
		e.w.member(entry, e.tab)
	} else {
		e.w.text(entry)
	}
	e.Put(gap, string(e.w.out))
	return nil
}

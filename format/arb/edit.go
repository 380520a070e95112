package arb

import (
	"fmt"
	"slices"
	"strings"

	"zelvik/catalog"
	"zelvik/format"
	"zelvik/format/jsonscan"
	"zelvik/message"
)

// Edit makes changes; see format.Document.
func (d *document) Edit(changes []format.Change) ([]byte, []catalog.Loss, error) {
	e := &editor{document: d, Editor: format.NewEditor(d.Text())}
	if err := e.Make(changes, e.change); err != nil {
		return nil, nil, err
	}
	out, err := d.text.Patch(e.Replacements)
	return out, e.Losses, err
}

type editor struct {
	*document
	format.Editor
}

// find gives the index in the object's members of the entry with the key, or -1.
func (e *editor) find(key string) int {
	if i := e.catalog.At(key); i >= 0 {
		return int(e.members[i])
	}
	return -1
}

// about gives the index of the metadata of the member at i, or -1.
func (e *editor) about(i int) int {
	for j := range e.root.Members {
		if e.root.Members[j].Key == "@"+e.root.Members[i].Key {
			return j
		}
	}
	return -1
}

func (e *editor) indent() string {
	if len(e.root.Members) > 0 {
		from := e.root.Members[0].KeyFrom
		start := strings.LastIndexByte(e.Src[:from], '\n') + 1
		if line := e.Src[start:from]; strings.TrimSpace(line) == "" {
			return line
		}
	}
	return "  "
}

func (e *editor) change(c format.Change) error {
	i := e.find(c.Key)
	switch {
	case c.Op == format.Set && i < 0:
		return e.insert(c)
	case i < 0:
		return format.ErrNoEntry
	}
	m := &e.root.Members[i]
	about := e.about(i)
	entry := e.catalog.Find(c.Key)
	w := &composer{Teller: format.Teller{Entry: entry}}
	defer func() { e.Losses = append(e.Losses, w.Losses...) }()
	switch c.Op {
	case format.Remove:
		if about == i+1 {
			e.remove(i, about)
		} else {
			e.remove(i, i)
			if about >= 0 {
				e.remove(about, about)
			}
		}
		return nil
	case format.Rename:
		key := w.key(c.NewKey, map[string]string{})
		e.Replace(m.KeyFrom, m.KeyTo, jsonscan.Quote(key))
		if about >= 0 {
			e.Replace(e.root.Members[about].KeyFrom, e.root.Members[about].KeyTo, jsonscan.Quote("@"+key))
		}
		return nil
	}
	if c.Message != nil {
		changed := catalog.Entry{Key: c.Key, Message: *c.Message, Offset: entry.Offset}
		e.Splice(m.Value.From, m.Value.To, e.quote(m.Value, w.value(nil, &changed)), func(raw string) string {
			if v, faults := jsonscan.Parse(raw); len(faults) == 0 && v.Kind == jsonscan.String {
				return e.quote(m.Value, v.Text)
			}
			return raw
		})
	}
	var added []jsonscan.Field
	if c.Note != nil && *c.Note != entry.Note {
		if about < 0 && *c.Note != "" {
			added = append(added, jsonscan.Field{Key: "description", Value: jsonscan.Str(*c.Note)})
		} else {
			e.note(m, about, *c.Note)
		}
	}
	if c.Message != nil && e.described() {
		added = append(added, e.declare(about, *c.Message, w)...)
	}
	if about < 0 && added != nil {
		own := jsonscan.NewEditor(&e.Editor, &e.root)
		own.Insert(&e.root, i, "@"+m.Key, jsonscan.Dict(added...))
	}
	return nil
}

// described reports whether the file describes its entries, as that of the
// source does.
func (e *editor) described() bool {
	return slices.ContainsFunc(e.root.Members, func(m jsonscan.Member) bool {
		return strings.HasPrefix(m.Key, "@") && !strings.HasPrefix(m.Key, "@@") && m.Value.Kind == jsonscan.Object
	})
}

// declare describes the placeholders of a new message that have a type and are
// not described yet: in the metadata that is there, else it gives the members
// of what is to be put there.
func (e *editor) declare(about int, m message.Message, w *composer) []jsonscan.Field {
	var box, declared *jsonscan.Value
	if about >= 0 {
		box = &e.root.Members[about].Value
		declared = box.Find("placeholders")
	}
	var list []jsonscan.Field
	for _, p := range m.Arguments() {
		if p.Name == "" || p.Type == message.String && p.Style == "" || declared != nil && declared.Index(p.Name) >= 0 {
			continue
		}
		d := w.declared(&p)
		fields := []jsonscan.Field{{Key: "type", Value: jsonscan.Str(d.Type)}}
		if d.Format != "" {
			fields = append(fields, jsonscan.Field{Key: "format", Value: jsonscan.Str(d.Format)})
		}
		if d.Custom != nil {
			fields = append(fields, jsonscan.Field{Key: "isCustomDateFormat", Value: jsonscan.Str("true")})
		}
		if d.Optional != nil {
			fields = append(fields, jsonscan.Field{Key: "optionalParameters", Value: jsonscan.Tree{Text: parameters(d.Optional)}})
		}
		list = append(list, jsonscan.Field{Key: p.Name, Value: jsonscan.Dict(fields...)})
	}
	own := jsonscan.NewEditor(&e.Editor, &e.root)
	switch {
	case list == nil:
		return nil
	case declared != nil && declared.Kind == jsonscan.Object:
		for _, field := range list {
			own.Insert(declared, len(declared.Members)-1, field.Key, field.Value)
		}
		return nil
	case box != nil:
		own.Insert(box, len(box.Members)-1, "placeholders", jsonscan.Dict(list...))
		return nil
	}
	return []jsonscan.Field{{Key: "placeholders", Value: jsonscan.Dict(list...)}}
}

// quote writes a string in the style of the one it replaces: characters beyond
// ASCII are escaped where the old text escaped them.
func (e *editor) quote(old jsonscan.Value, text string) string {
	out := jsonscan.Quote(text)
	raw := e.Src[old.From:old.To]
	if !strings.Contains(raw, `\u`) || strings.ContainsFunc(raw, func(r rune) bool { return r > 0x7E }) {
		return out
	}
	return jsonscan.QuoteASCII(text)
}

// note changes the description, or adds metadata for it.
func (e *editor) note(m *jsonscan.Member, about int, note string) {
	indent := e.indent()
	if about < 0 {
		if note != "" {
			e.Replace(m.Value.To, m.Value.To, ","+e.Newline+indent+jsonscan.Quote("@"+m.Key)+": {"+e.Newline+
				indent+indent+`"description": `+jsonscan.Quote(note)+e.Newline+indent+"}")
		}
		return
	}
	box := &e.root.Members[about].Value
	if old := box.Find("description"); old != nil {
		e.Replace(old.From, old.To, jsonscan.Quote(note))
		return
	}
	row := e.Newline + indent + indent + `"description": ` + jsonscan.Quote(note)
	if len(box.Members) > 0 {
		row += ","
	} else {
		row += e.Newline + indent
	}
	e.Replace(box.From+1, box.From+1, row)
}

// remove takes out members first to last with one of the commas around them.
func (e *editor) remove(first, last int) {
	members := e.root.Members
	from, to := members[first].KeyFrom, members[last].Value.To
	switch {
	case last+1 < len(members):
		to = members[last+1].KeyFrom
	case first > 0:
		from = members[first-1].Value.To
	}
	e.Replace(from, to, "")
}

func (e *editor) insert(c format.Change) error {
	if c.Message == nil {
		return format.ErrNoEntry
	}
	if e.Src[e.root.From:e.root.To] == "" || e.Src[e.root.From] != '{' {
		return fmt.Errorf("the file is no JSON object")
	}
	entry := catalog.Entry{Key: c.Key, Message: *c.Message}
	w := &composer{Teller: format.Teller{Entry: &entry}}
	taken := map[string]string{}
	for i := range e.root.Members {
		taken[e.root.Members[i].Key] = e.root.Members[i].Key
	}
	key := w.key(c.Key, taken)
	indent := e.indent()
	text := jsonscan.Quote(key) + ": " + jsonscan.Quote(w.value(nil, &entry))
	if c.Note != nil && *c.Note != "" || key != c.Key {
		var rows []string
		if key != c.Key {
			rows = append(rows, jsonscan.Quote(originalKey)+": "+jsonscan.Quote(c.Key))
		}
		if c.Note != nil && *c.Note != "" {
			rows = append(rows, `"description": `+jsonscan.Quote(*c.Note))
		}
		inner := e.Newline + indent + indent
		text += "," + e.Newline + indent + jsonscan.Quote("@"+key) + ": {" + inner + strings.Join(rows, ","+inner) + e.Newline + indent + "}"
	}
	e.Losses = append(e.Losses, w.Losses...)
	members := e.root.Members
	if len(members) == 0 {
		e.Replace(e.root.From+1, e.root.To-1, e.Newline+indent+text+e.Newline)
		return nil
	}
	after := len(members) - 1
	if i := e.find(c.After); i >= 0 {
		after = i
		if about := e.about(i); about == i+1 {
			after = about
		}
	} else if c.After == "" && len(e.members) > 0 {
		at := members[e.members[0]].KeyFrom
		e.Replace(at, at, text+","+e.Newline+indent)
		return nil
	}
	e.Replace(members[after].Value.To, members[after].Value.To, ","+e.Newline+indent+text)
	return nil
}

package arb

import (
	"errors"
	"slices"
	"strings"

	"zelvik/catalog"
	"zelvik/format"
	"zelvik/format/jsonscan"
	"zelvik/message"
)

// Edit makes changes; see format.Document.
func (d *document) Edit(changes []format.Change) ([]byte, []catalog.Loss, error) {
	e := &editor{document: d, Editor: jsonscan.NewEditor(d.Coded, &d.root)}
	return e.Apply(changes, &e.w.Teller, e)
}

type editor struct {
	*document
	jsonscan.Editor
	w composer
}

// Find returns the index of an entry among the object's members.
func (e *editor) Find(c format.Change) (number, offset int) {
	number = e.member(c.Key)
	if number >= 0 {
		offset = e.root.Members[number].KeyFrom
	}
	return number, offset
}

func (e *editor) member(key string) int {
	if i := e.Catalog.At(key); i >= 0 {
		return int(e.members[i])
	}
	return -1
}

// about returns the index of the metadata of the member at i, or -1.
func (e *editor) about(i int) int {
	for j := range e.root.Members {
		if e.root.Members[j].Key == "@"+e.root.Members[i].Key {
			return j
		}
	}
	return -1
}

// Remove takes out a member with its metadata.
func (e *editor) Remove(i int, _ format.Change) error {
	gone := []int{i}
	if about := e.about(i); about >= 0 {
		gone = append(gone, about)
	}
	e.Drop(&e.root, gone...)
	return nil
}

// Rename changes the key, and that of the metadata.
func (e *editor) Rename(i int, c format.Change) error {
	key := e.w.key(c.NewKey, map[string]string{})
	e.Replace(e.root.Members[i].KeyFrom, e.root.Members[i].KeyTo, jsonscan.Quote(key))
	if about := e.about(i); about >= 0 {
		e.Replace(e.root.Members[about].KeyFrom, e.root.Members[about].KeyTo, jsonscan.Quote("@"+key))
	}
	return nil
}

// Set changes text and metadata.
func (e *editor) Set(i int, c format.Change) error {
	m, about := &e.root.Members[i], e.about(i)
	if c.Message != nil {
		e.SetText(&m.Value, e.w.value(nil, &catalog.Entry{Key: c.Key, Message: *c.Message, Offset: m.KeyFrom}))
	}
	var added []jsonscan.Field
	if c.Note != nil && *c.Note != e.Catalog.Find(c.Key).Note {
		added = append(added, e.note(about, *c.Note)...)
	}
	if c.Message != nil && e.described() {
		added = append(added, e.declare(about, *c.Message)...)
	}
	if about < 0 && added != nil {
		e.Editor.Insert(&e.root, i, "@"+m.Key, jsonscan.Dict(added...))
	}
	return nil
}

// note changes the description, or gives the member that does where there is no
// metadata.
func (e *editor) note(about int, note string) []jsonscan.Field {
	if about < 0 {
		if note == "" {
			return nil
		}
		return []jsonscan.Field{{Key: "description", Value: jsonscan.Str(note)}}
	}
	box := &e.root.Members[about].Value
	if old := box.Find("description"); old != nil {
		e.SetText(old, note)
	} else {
		e.Editor.Insert(box, -1, "description", jsonscan.Str(note))
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
func (e *editor) declare(about int, m message.Message) []jsonscan.Field {
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
		d := e.w.declared(&p)
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
	switch {
	case list == nil:
		return nil
	case declared != nil && declared.Kind == jsonscan.Object:
		for _, field := range list {
			e.Editor.Insert(declared, len(declared.Members)-1, field.Key, field.Value)
		}
		return nil
	case box != nil:
		e.Editor.Insert(box, len(box.Members)-1, "placeholders", jsonscan.Dict(list...))
		return nil
	}
	return []jsonscan.Field{{Key: "placeholders", Value: jsonscan.Dict(list...)}}
}

// Insert adds an entry after its neighbour, with metadata where it needs some.
func (e *editor) Insert(c format.Change, entry *catalog.Entry) error {
	if e.root.Kind != jsonscan.Object {
		return errors.New("the file is no JSON object")
	}
	taken := map[string]string{}
	for i := range e.root.Members {
		taken[e.root.Members[i].Key] = e.root.Members[i].Key
	}
	key := e.w.key(c.Key, taken)
	after := len(e.root.Members) - 1
	if i := e.member(c.After); i >= 0 {
		after = i
		if about := e.about(i); about == i+1 {
			after = about
		}
	} else if c.After == "" && len(e.members) > 0 {
		after = int(e.members[0]) - 1
	}
	e.Editor.Insert(&e.root, after, key, jsonscan.Str(e.w.value(nil, entry)))
	var about []jsonscan.Field
	if key != c.Key {
		about = append(about, jsonscan.Field{Key: originalKey, Value: jsonscan.Str(c.Key)})
	}
	if entry.Note != "" {
		about = append(about, jsonscan.Field{Key: "description", Value: jsonscan.Str(entry.Note)})
	}
	if about != nil {
		e.Editor.Insert(&e.root, after, "@"+key, jsonscan.Dict(about...))
	}
	return nil
}

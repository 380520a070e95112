package json

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/format"
	"zelvik/format/jsonscan"
	"zelvik/message"
)

// spells reports whether any text of the file has a placeholder.
func (d *document) spells() bool {
	for _, c := range d.List {
		for i := range c.Entries {
			if c.Entries[i].Message.HasPlaceholders() {
				return true
			}
		}
	}
	return false
}

// place is where an entry stands: the names of the levels, [0] for an item of an
// array, and how its text or texts stand there.
type place struct {
	path []string
	kind kind
}

// placeOf returns the place of a key.
func (d *document) placeOf(key string) (place, bool) {
	if d.shape == inner {
		return place{}, false
	}
	for n, c := range d.List {
		i := c.At(key)
		if i < 0 {
			continue
		}
		s := &d.slots[n][i]
		path, ok := down(d.roots[n], s.parent, key, s.item)
		return place{path, s.kind}, ok
	}
	return place{}, false
}

// down returns the names that lead from an object to the one in which the rest of a
// key stands.
func down(v, parent *jsonscan.Value, key string, item bool) ([]string, bool) {
	if v == parent && !item {
		return []string{key}, true
	}
	for i := range v.Members {
		m := &v.Members[i]
		rest, ok := strings.CutPrefix(key, m.Key)
		switch {
		case !ok:
		case m.Value.Kind == jsonscan.Object && strings.HasPrefix(rest, "."):
			if path, ok := down(&m.Value, parent, rest[1:], item); ok {
				return append([]string{m.Key}, path...), true
			}
		case &m.Value == parent && item && strings.HasPrefix(rest, "["):
			return []string{m.Key, rest}, true
		}
	}
	return nil, false
}

// growth is a new level below an object that is there. Until all of it is known a
// mark keeps its place.
type growth struct {
	at    *jsonscan.Value
	key   string
	mark  string
	value jsonscan.Tree
}

// grow writes the new levels.
func (e *editor) grow() {
	for _, g := range e.grown {
		for i := range e.Replacements {
			if r := &e.Replacements[i]; strings.Contains(r.Text, g.mark) {
				r.Text = strings.Replace(r.Text, g.mark, string(e.Layout.Append(nil, g.value, e.Indented(g.at.From)+e.Layout.Indent)), 1)
				break
			}
		}
	}
}

// Insert adds an entry as it stands in the source's file, or else as the file's
// own entries do: after its neighbour where that stands on the same level, at
// the end of the level that its key names, or on a new level.
func (e *editor) Insert(c format.Change, _ *catalog.Entry) error {
	n := e.n
	if n < 0 {
		return e.newCulture(c)
	}
	root := e.roots[n]
	if root.Kind != jsonscan.Object {
		return errObject
	}
	p, known := place{}, false
	if like, ok := c.Like.(*document); ok {
		p, known = like.placeOf(c.Key)
	}
	if !known && e.wrapped(n) {
		p.kind = wrapped
	}
	if c.Note != nil && *c.Note != "" && p.kind != wrapped {
		e.w.Lose("note", "the note", "none; JSON catalogs hold no notes")
	}
	if e.shape == inner {
		text := e.value(p.kind, c)
		if i := root.Index(c.Key); i >= 0 {
			v := &root.Members[i].Value
			e.Editor.Insert(v, len(v.Members)-1, string(e.List[n].Culture), text)
			return nil
		}
		e.Editor.Insert(root, e.after(n, root, c), c.Key, jsonscan.Dict(jsonscan.Field{Key: string(e.List[n].Culture), Value: text}))
		return nil
	}
	if !known {
		p.path = e.guess(n, c.Key)
	}
	at, path := root, p.path
	for len(path) > 1 { // down the levels that are there
		level := at.Find(path[0])
		if level == nil || level.Kind != jsonscan.Object || categories(level) != nil {
			break
		}
		at, path = level, path[1:]
	}
	if len(path) == 2 && strings.HasPrefix(path[1], "[") {
		if list := at.Find(path[0]); list != nil && list.Kind == jsonscan.Array {
			return e.item(list, path[1], e.value(p.kind, c))
		}
	}
	if len(path) == 1 {
		after := e.after(n, at, c)
		for _, f := range e.fields(path[0], p.kind, c) {
			e.Editor.Insert(at, after, f.Key, f.Value)
		}
		return nil
	}
	i := slices.IndexFunc(e.grown, func(g *growth) bool { return g.at == at && g.key == path[0] })
	if i < 0 {
		i = len(e.grown)
		g := &growth{at: at, key: path[0], mark: fmt.Sprintf("\x00%d\x00", i)}
		e.grown = append(e.grown, g)
		e.Editor.Insert(at, e.after(n, at, c), g.key, jsonscan.Tree{Text: g.mark})
	}
	value := &e.grown[i].value
	for path = path[1:]; len(path) > 1; path = path[1:] {
		j := slices.IndexFunc(value.Members, func(f jsonscan.Field) bool { return f.Key == path[0] })
		if j < 0 {
			j = len(value.Members)
			value.Members = append(value.Members, jsonscan.Field{Key: path[0]})
		}
		value = &value.Members[j].Value
	}
	if strings.HasPrefix(path[0], "[") {
		value.Items = append(value.Items, e.value(p.kind, c))
		return nil
	}
	value.Members = append(value.Members, e.fields(path[0], p.kind, c)...)
	return nil
}

// guess returns the place of a key by the levels that the file has.
func (e *editor) guess(n int, key string) []string {
	at, name := e.roots[n], key
	var path []string
	for { // down the levels that are there
		head, rest, ok := strings.Cut(name, ".")
		if !ok {
			break
		}
		level := at.Find(head)
		if level == nil || level.Kind != jsonscan.Object || categories(level) != nil {
			break
		}
		at, name, path = level, rest, append(path, head)
	}
	if rest := strings.Split(name, "."); e.nested(n) && len(rest) > 1 && !slices.Contains(rest, "") && at.Find(rest[0]) == nil {
		return append(path, rest...)
	}
	return append(path, name)
}

// item adds to an array what comes next in it.
func (e *editor) item(list *jsonscan.Value, index string, value jsonscan.Tree) error {
	n, err := strconv.Atoi(strings.Trim(index, "[]"))
	added := 0
	for _, r := range e.Replacements {
		if len(list.Items) > 0 && r.Start == list.Items[len(list.Items)-1].To && r.End == r.Start {
			added++
		}
	}
	if err != nil || n != len(list.Items)+added || len(list.Items) == 0 {
		return errItem
	}
	last := list.Items[len(list.Items)-1]
	gap := ""
	if len(list.Items) > 1 {
		between := e.Src[list.Items[len(list.Items)-2].To:last.From]
		gap = between[strings.IndexByte(between, ',')+1:]
	} else {
		gap = e.Src[list.From+1 : last.From]
	}
	e.Replace(last.To, last.To, ","+gap+string(e.Layout.Append(nil, value, e.Indented(last.From))))
	return nil
}

// value returns the text of a new entry, or the object that holds it.
func (e *editor) value(k kind, c format.Change) jsonscan.Tree {
	m := *c.Message
	if k == object && plural(m, message.Plural) {
		var forms []jsonscan.Field
		for _, v := range m.Choice.Variants {
			forms = append(forms, jsonscan.Field{Key: v.Keys[0], Value: e.form(m, v.Pattern)})
		}
		return jsonscan.Dict(forms...)
	}
	text := jsonscan.Str(e.w.text(&catalog.Entry{Message: m}))
	if k != wrapped {
		return text
	}
	fields := []jsonscan.Field{{Key: "message", Value: text}}
	if c.Note != nil && *c.Note != "" {
		fields = append(fields, jsonscan.Field{Key: "description", Value: jsonscan.Str(*c.Note)})
	}
	return jsonscan.Dict(fields...)
}

// fields returns the members that make up a new entry: one, or one for each form.
func (e *editor) fields(name string, k kind, c format.Change) []jsonscan.Field {
	m := *c.Message
	what := message.Plural
	if k == ordinal {
		what = message.Ordinal
	}
	if k != suffix && k != ordinal && k != older || !plural(m, what) {
		return []jsonscan.Field{{Key: name, Value: e.value(k, c)}}
	}
	var list []jsonscan.Field
	for _, v := range m.Choice.Variants {
		key := v.Keys[0]
		switch {
		case k == older && key == culture.One:
			key = name
		case k == older && key == culture.Other:
			key = name + "_plural"
		case k == older || !slices.Contains(culture.Categories, key):
			e.w.Lose("plural", "the form "+key, "the form other")
			continue
		case k == ordinal:
			key = name + "_ordinal_" + key
		default:
			key = name + "_" + key
		}
		list = append(list, jsonscan.Field{Key: key, Value: e.form(m, v.Pattern)})
	}
	return list
}

func (e *editor) form(m message.Message, p message.Pattern) jsonscan.Tree {
	return jsonscan.Str(e.w.text(&catalog.Entry{Message: message.Message{Pattern: m.Bare(p)}}))
}

// plural reports whether a message is a choice of one kind over one number.
func plural(m message.Message, kind message.Kind) bool {
	return m.Choice != nil && len(m.Choice.Selectors) == 1 && m.Choice.Selectors[0].Kind == kind
}

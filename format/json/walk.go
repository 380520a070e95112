package json

import (
	"slices"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/format/jsonscan"
	"zelvik/internal/fast"
	"zelvik/message"
)

// walk goes through a part of a file and gathers entries and their places.
type walk struct {
	*parser
	entries []catalog.Entry
	slots   []slot
}

// add keeps an entry.
func (w *walk) add(key string, offset int, note string, s slot) {
	w.entries = fast.Append(w.entries, catalog.Entry{Key: key, Note: note, Offset: offset})
	w.slots = fast.Append(w.slots, s)
}

// object reads an object.
func (w *walk) object(v *jsonscan.Value, path string) {
	w.members(v, w.groups(v), path, 0, len(v.Members))
}

// members reads members of an object that has groups. The key of a group is
// where the first of its members is.
func (w *walk) members(v *jsonscan.Value, groups map[int]*group, path string, from, to int) {
	for i := from; i < to; i++ {
		m := &v.Members[i]
		if about(v, m) || path == "" && (m.Key == "$schema" || m.Key == "@metadata" && m.Value.Kind == jsonscan.Object) { // who translated it, in the latter
			continue
		}
		key := path + m.Key
		if g := groups[i]; g != nil {
			if i == slices.Min(g.at) {
				w.add(path+g.key, m.KeyFrom, "", slot{parent: v, plural: g, kind: g.kind})
			}
			continue
		}
		s := slot{parent: v, index: int32(i), value: &m.Value}
		switch m.Value.Kind {
		case jsonscan.String:
			w.add(key, m.KeyFrom, "", s)
		case jsonscan.Array:
			w.array(&m.Value, key)
		case jsonscan.Object:
			w.member(m, key, s)
		}
	}
}

// about reports whether a member describes the file ("@@locale") or the key that
// it is named after ("@key").
func about(v *jsonscan.Value, m *jsonscan.Member) bool {
	if len(m.Key) == 0 || m.Key[0] != '@' {
		return false
	}
	return strings.HasPrefix(m.Key, "@@") || m.Value.Kind == jsonscan.Object && v.Index(m.Key[1:]) >= 0
}

// member reads an object: another level, or one entry.
func (w *walk) member(m *jsonscan.Member, key string, s slot) {
	v := &m.Value
	if w.shape == inner {
		if i := v.Index(w.tag); i >= 0 {
			w.add(key, m.KeyFrom, "", slot{parent: v, index: int32(i), value: &v.Members[i].Value})
		}
		return
	}
	if text := v.Find("message"); text != nil && text.Kind == jsonscan.String {
		note := ""
		if d := v.Find("description"); d != nil {
			note = d.Text
		}
		s.kind = wrapped
		w.add(key, m.KeyFrom, note, s)
		return
	}
	if forms := categories(v); forms != nil {
		s.kind, s.plural = object, &group{forms: forms}
		w.add(key, m.KeyFrom, "", s)
		return
	}
	w.object(v, key+".")
}

// categories returns the forms of an object that holds plural categories, among
// them other, and nothing else.
func categories(v *jsonscan.Value) []form {
	var forms []form
	for i := range v.Members {
		m := &v.Members[i]
		if m.Value.Kind != jsonscan.String || !slices.Contains(culture.Categories, m.Key) && !strings.HasPrefix(m.Key, "=") {
			return nil
		}
		forms = append(forms, form{m.Key, &m.Value})
	}
	if v.Find(message.Default) == nil {
		return nil
	}
	return forms
}

// group are the keys of one plural.
type group struct {
	key   string
	at    []int
	forms []form
	kind  kind
}

// groups finds plurals that are spread over keys with a category after an
// underscore; there must be one for other.
func (p *parser) groups(v *jsonscan.Value) map[int]*group {
	if p.shape == inner || !spread(v) {
		return nil
	}
	places := make(map[string]int, len(v.Members))
	for i := range v.Members {
		places[v.Members[i].Key] = i
	}
	index := func(key string) int {
		if i, ok := places[key]; ok {
			return i
		}
		return -1
	}
	text := func(key string) *jsonscan.Value {
		if i := index(key); i >= 0 && v.Members[i].Value.Kind == jsonscan.String {
			return &v.Members[i].Value
		}
		return nil
	}
	sibling := func(base string) bool { // "order_other" alone is a key like any other
		return slices.ContainsFunc(culture.Categories[:5], func(category string) bool { return index(base+"_"+category) >= 0 })
	}
	var found map[int]*group
	byKey := map[string]*group{}
	for i := range v.Members {
		key := v.Members[i].Key
		at := strings.LastIndexByte(key, '_')
		if at <= 0 || v.Members[i].Value.Kind != jsonscan.String || index(key) != i {
			continue
		}
		base, category := key[:at], key[at+1:]
		k := suffix
		switch {
		case slices.Contains(culture.Categories, category):
			if text(base+"_other") == nil || category == "other" && !sibling(base) {
				continue
			}
			if before, ok := strings.CutSuffix(base, "_ordinal"); ok && before != "" {
				k = ordinal
			}
		case category == "plural" && text(base) != nil && text(base+"_other") == nil:
			k = older
		default:
			continue
		}
		g := byKey[base]
		if g == nil {
			g = &group{key: base, kind: k}
			if k == ordinal {
				g.key = strings.TrimSuffix(base, "_ordinal")
			}
			byKey[base] = g
		}
		if found == nil {
			found = map[int]*group{}
		}
		if k == older {
			one := index(base)
			g.at = []int{one, i}
			g.forms = []form{{culture.One, &v.Members[one].Value}, {culture.Other, &v.Members[i].Value}}
			found[one] = g
		} else {
			g.at = append(g.at, i)
			g.forms = append(g.forms, form{category, &v.Members[i].Value})
		}
		found[i] = g
	}
	for _, g := range byKey { // a key that stands for itself as well is no plural
		if g.kind == ordinal && text(g.key+"_other") != nil || g.kind != older && g.kind != ordinal && index(g.key) >= 0 {
			for _, i := range g.at {
				delete(found, i)
			}
		}
	}
	return found
}

// spread reports whether a key ends as those of spread plurals do.
func spread(v *jsonscan.Value) bool {
	for i := range v.Members {
		key := v.Members[i].Key
		if at := strings.LastIndexByte(key, '_'); at > 0 {
			switch key[at+1:] {
			case "zero", "one", "two", "few", "many", "other", "plural":
				return true
			}
		}
	}
	return false
}

// array reads the texts of an array.
func (w *walk) array(v *jsonscan.Value, name string) {
	for i := range v.Items {
		item := &v.Items[i]
		key := catalog.ArrayKey(name, i)
		switch item.Kind {
		case jsonscan.String:
			w.add(key, item.From, "", slot{parent: v, value: item, item: true})
		case jsonscan.Object:
			w.object(item, key+".")
		case jsonscan.Array:
			w.array(item, key)
		}
	}
}

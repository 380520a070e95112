package json

import (
	"cmp"
	"errors"
	"slices"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/format"
	"zelvik/format/doc"
	"zelvik/format/jsonscan"
	"zelvik/message"
)

// Edit makes changes; see format.Document.
func (d *document) Edit(changes []format.Change) ([]byte, []catalog.Loss, error) {
	e := &editor{document: d, Editor: jsonscan.NewEditor(d.Coded, &d.root)}
	e.w.spelling = d.spelling
	if like := doc.Like[*document](changes); like != nil && !d.spells() {
		e.w.spelling = like.spelling
	}
	if err := e.Make(changes, &e.w.Teller, e); err != nil {
		return nil, nil, err
	}
	e.grow()
	return e.Done(&e.w.Teller)
}

type editor struct {
	*document
	jsonscan.Editor
	w     writer
	grown []*growth
	// n is the number of the catalog that a change is for, -1 for a new culture.
	n int
}

// which returns the number of the catalog that a change is for.
func (e *editor) which(c format.Change) int {
	for i, own := range e.List {
		if own.Culture == c.Culture {
			return i
		}
	}
	if c.Culture == "" || len(e.List) == 1 {
		return 0
	}
	return -1
}

// Find returns the number of an entry in the catalog that the change is for.
func (e *editor) Find(c format.Change) (number, offset int) {
	if e.n = e.which(c); e.n < 0 {
		return -1, 0
	}
	if number = e.List[e.n].At(c.Key); number >= 0 {
		offset = e.List[e.n].Entries[number].Offset
	}
	return number, offset
}

// Remove takes out the members of an entry.
func (e *editor) Remove(i int, c format.Change) error {
	s := e.slots[e.n][i]
	switch {
	case e.doubled(s):
		return errDouble
	case s.item:
		return errItem
	case e.shape == inner && len(s.parent.Members) == 1: // no key without a text
		e.Drop(&e.root, e.root.Index(c.Key))
	default:
		e.Drop(s.parent, s.at()...)
	}
	return nil
}

// Set changes text and note.
func (e *editor) Set(i int, c format.Change) error {
	s := e.slots[e.n][i]
	if e.doubled(s) {
		return errDouble
	}
	if c.Message != nil {
		e.set(s, *c.Message)
	}
	if c.Note == nil || *c.Note == e.List[e.n].Entries[i].Note {
		return nil
	}
	if s.kind != wrapped {
		e.w.Lose("note", "the note", "none; JSON catalogs hold no notes")
		return nil
	}
	switch old := s.value.Index("description"); {
	case old >= 0 && *c.Note == "":
		e.Drop(s.value, old)
	case old >= 0:
		e.SetText(&s.value.Members[old].Value, *c.Note)
	default:
		e.Editor.Insert(s.value, s.value.Index("message"), "description", jsonscan.Str(*c.Note))
	}
	return nil
}

var (
	errItem   = errors.New("it is an item of an array, whose others would move; edit the array in the file")
	errDouble = errors.New("its key stands twice, and programs read the last one; remove one of them first")
	errObject = errors.New("the file is no JSON object")
)

// doubled reports whether the members that make up an entry stand twice.
func (e *editor) doubled(s slot) bool {
	if !e.double || s.item || s.kind == suffix || s.kind == ordinal || s.kind == older {
		return false
	}
	times := 0
	for i := range s.parent.Members {
		if s.parent.Members[i].Key == s.parent.Members[s.index].Key {
			times++
		}
	}
	return times > 1
}

// newCulture adds a text in a culture that the file does not have yet.
func (e *editor) newCulture(c format.Change) error {
	switch {
	case e.shape != inner:
		return errors.New("the file has no texts in " + string(c.Culture) + "; add the culture to it first")
	}
	i := e.root.Index(c.Key)
	if i < 0 {
		return format.ErrNoEntry
	}
	v := &e.root.Members[i].Value
	e.w.Entry = &catalog.Entry{Key: c.Key}
	e.Editor.Insert(v, len(v.Members)-1, string(c.Culture), jsonscan.Str(e.w.text(&catalog.Entry{Message: *c.Message})))
	return nil
}

// set changes the text or the forms where they stand.
func (e *editor) set(s slot, m message.Message) {
	switch s.kind {
	case plain:
		e.SetText(s.value, e.w.text(&catalog.Entry{Message: m}))
	case wrapped:
		e.SetText(s.value.Find("message"), e.w.text(&catalog.Entry{Message: m}))
	default:
		e.forms(s, m)
	}
}

// forms changes the forms of a plural one by one.
func (e *editor) forms(s slot, m message.Message) {
	choice := m.Choice
	fits := choice != nil && len(choice.Selectors) == 1 && (choice.Selectors[0].Kind == message.Plural) == (s.kind != ordinal) && choice.Selectors[0].Kind != message.Select
	if !fits { // one text, as ICU writes it
		text := e.w.text(&catalog.Entry{Message: m})
		if s.kind == object {
			e.Replace(s.value.From, s.value.To, e.Layout.Quote(text))
			return
		}
		first := &s.parent.Members[s.at()[0]]
		base, _, _ := cutLast(first.Key)
		if s.kind == ordinal {
			base = strings.TrimSuffix(base, "_ordinal")
		}
		if s.kind != older {
			e.Replace(first.KeyFrom, first.KeyTo, e.Layout.Quote(base))
		}
		e.SetText(&first.Value, text)
		e.Drop(s.parent, s.at()[1:]...)
		return
	}
	parent := s.parent
	if s.kind == object {
		parent = s.value
	}
	kept := map[string]bool{}
	last := -1
	for _, v := range choice.Variants {
		key := v.Keys[0]
		text := e.w.text(&catalog.Entry{Message: message.Message{Pattern: m.Bare(v.Pattern)}})
		i := slices.IndexFunc(s.forms(), func(f form) bool { return f.category == key })
		if i >= 0 {
			kept[key] = true
			e.SetText(s.forms()[i].value, text)
			if s.kind == object {
				last = parent.Index(key)
			} else {
				last = s.at()[i]
			}
			continue
		}
		if s.kind == older || !slices.Contains(culture.Categories, key) && s.kind != object {
			e.w.Lose("plural", "the form "+key, "the form other")
			continue
		}
		name := key
		if s.kind != object {
			base, _, _ := cutLast(parent.Members[s.at()[0]].Key)
			name = base + "_" + key
			if last < 0 {
				last = s.at()[0] - 1
			}
		}
		e.Editor.Insert(parent, last, name, jsonscan.Str(text))
	}
	var gone []int
	for i, f := range s.forms() {
		if kept[f.category] {
			continue
		}
		if s.kind == object {
			gone = append(gone, parent.Index(f.category))
		} else if s.kind != older {
			gone = append(gone, s.at()[i])
		}
	}
	if len(gone) > 0 && len(gone) < len(parent.Members) {
		e.Drop(parent, gone...)
	}
}

func cutLast(key string) (before, after string, ok bool) {
	at := strings.LastIndexByte(key, '_')
	if at < 0 {
		return key, "", false
	}
	return key[:at], key[at+1:], true
}

// Rename changes the names of an entry's members where the new key stands on
// the same level, else moves them.
func (e *editor) Rename(number int, c format.Change) error {
	s := e.slots[e.n][number]
	if e.doubled(s) {
		return errDouble
	}
	if s.item {
		return errItem
	}
	if e.shape == inner {
		i := e.root.Index(c.Key)
		m := &e.root.Members[i]
		e.Replace(m.KeyFrom, m.KeyTo, e.Layout.Quote(c.NewKey))
		return nil
	}
	first := s.parent.Members[s.at()[0]].Key
	own := first
	if s.kind == suffix || s.kind == ordinal {
		own, _, _ = cutLast(first)
		if s.kind == ordinal {
			own = strings.TrimSuffix(own, "_ordinal")
		}
	}
	path := strings.TrimSuffix(c.Key, own)
	name, ok := strings.CutPrefix(c.NewKey, path)
	if !ok || name == "" || path == "" && strings.Contains(c.NewKey, ".") && !strings.Contains(own, ".") {
		if s.kind != plain {
			return errors.New("it cannot be moved to another level; edit it in the file")
		}
		m := e.List[e.n].Find(c.Key).Message
		e.Drop(s.parent, s.at()...)
		return e.Insert(format.Change{Key: c.NewKey, Message: &m, After: "\x00"}, e.w.Entry)
	}
	for _, i := range s.at() {
		m := &s.parent.Members[i]
		e.Replace(m.KeyFrom, m.KeyTo, e.Layout.Quote(name+strings.TrimPrefix(m.Key, own)))
	}
	return nil
}

// nested reports whether the file has levels.
func (e *editor) nested(n int) bool {
	return slices.ContainsFunc(e.slots[n], func(s slot) bool { return s.parent != e.roots[n] && !s.item })
}

// wrapped reports whether the file's texts stand in objects with their notes.
func (e *editor) wrapped(n int) bool {
	return len(e.slots[n]) > 0 && e.slots[n][0].kind == wrapped
}

// after returns the index in an object after which a new entry goes.
func (e *editor) after(n int, at *jsonscan.Value, c format.Change) int {
	if i := e.List[e.n].At(c.After); i >= 0 && c.After != "" {
		s := e.slots[n][i]
		if e.shape == inner {
			return at.Index(c.After)
		}
		if s.parent == at && len(s.at()) > 0 {
			return slices.MaxFunc(s.at(), func(a, b int) int { return cmp.Compare(a, b) })
		}
	} else if c.After == "" && at == e.roots[n] {
		for i := range at.Members { // after what belongs to the file
			if m := &at.Members[i]; !strings.HasPrefix(m.Key, "$") && !strings.HasPrefix(m.Key, "@") {
				return i - 1
			}
		}
	}
	return len(at.Members) - 1
}

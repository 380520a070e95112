package xcstrings

import (
	"cmp"
	"slices"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/format"
	"zelvik/format/jsonscan"
	"zelvik/format/stringsdict"
)

// Edit makes changes; see format.Document.
func (d *document) Edit(changes []format.Change) ([]byte, []catalog.Loss, error) {
	e := &editor{document: d, Editor: jsonscan.NewEditor(d.Coded, &d.root), strs: d.root.Find("strings")}
	e.Layout.Spread = true
	return e.Apply(changes, &e.w.Teller, e)
}

type editor struct {
	*document
	jsonscan.Editor
	w writer
	// strs is the object that holds the keys, nil for none.
	strs *jsonscan.Value
	// indices are the places of keys in it.
	indices map[string]int
}

// find returns the place of a key, or -1.
func (e *editor) find(key string) int {
	if e.strs == nil {
		return -1
	}
	if strs := e.strs; e.indices == nil {
		e.indices = make(map[string]int, len(strs.Members))
		for i := range strs.Members {
			if _, double := e.indices[strs.Members[i].Key]; !double {
				e.indices[strs.Members[i].Key] = i
			}
		}
	}
	if i, ok := e.indices[key]; ok {
		return i
	}
	return -1
}

func (e *editor) tag(c format.Change) culture.Tag { return cmp.Or(c.Culture, e.List[0].Culture) }

// Find returns the index of a key.
func (e *editor) Find(c format.Change) (number, offset int) {
	if number = e.find(c.Key); number >= 0 {
		offset = e.strs.Members[number].KeyFrom
	}
	return number, offset
}

// Insert adds a key with its text in a culture.
func (e *editor) Insert(c format.Change, entry *catalog.Entry) error {
	if e.strs == nil || e.strs.Kind != jsonscan.Object {
		return format.ErrNoEntry
	}
	own := &catalog.Catalog{Culture: e.tag(c)}
	own.Add(*entry)
	catalogs := []*catalog.Catalog{own}
	if own.Culture != e.List[0].Culture {
		catalogs = []*catalog.Catalog{{Culture: e.List[0].Culture}, own}
	}
	e.Editor.Insert(e.strs, e.after(c), c.Key, e.w.entry(catalogs, c.Key, 0))
	return nil
}

// Rename changes a key.
func (e *editor) Rename(i int, c format.Change) error {
	e.Replace(e.strs.Members[i].KeyFrom, e.strs.Members[i].KeyTo, e.Layout.Quote(c.NewKey))
	return nil
}

// Set changes comment, text and state.
func (e *editor) Set(i int, c format.Change) error {
	m := &e.strs.Members[i]
	if m.Value.Kind != jsonscan.Object {
		return format.ErrDamaged
	}
	if c.Note != nil {
		e.field(&m.Value, "comment", *c.Note)
	}
	if c.Message != nil || c.State != nil {
		e.set(m, string(e.tag(c)), c, e.w.Entry)
	}
	return nil
}

// after returns the place after which a new key goes: its sorted place where
// the file is sorted, else after its neighbour.
func (e *editor) after(c format.Change) int {
	members := e.strs.Members
	if c.After == "" {
		return -1
	}
	if i := e.find(c.After); i >= 0 {
		return i
	}
	if slices.IsSortedFunc(members, func(a, b jsonscan.Member) int { return compare(a.Key, b.Key) }) {
		i, _ := slices.BinarySearchFunc(members, c.Key, func(m jsonscan.Member, key string) int { return compare(m.Key, key) })
		return i - 1
	}
	return len(members) - 1
}

// Remove takes out a key, or in a culture that is not the source its text.
func (e *editor) Remove(at int, c format.Change) error {
	if c.Culture == "" || c.Culture == e.List[0].Culture {
		e.Drop(e.strs, at)
		return nil
	}
	localizations := e.strs.Members[at].Value.Find("localizations")
	if localizations == nil {
		return format.ErrNoEntry
	}
	i := localizations.Index(string(c.Culture))
	if i < 0 {
		return format.ErrNoEntry
	}
	e.Drop(localizations, i)
	return nil
}

// field sets, adds or removes a text member of an object whose members are
// sorted.
func (e *editor) field(object *jsonscan.Value, key, text string) {
	i := object.Index(key)
	switch {
	case i >= 0 && text == "":
		e.Drop(object, i)
	case i >= 0:
		e.SetText(&object.Members[i].Value, text)
	case text != "":
		e.Editor.Insert(object, sorted(object, key), key, jsonscan.Str(text))
	}
}

// sorted returns the index after which a key goes among sorted ones.
func sorted(object *jsonscan.Value, key string) int {
	i := 0
	for i < len(object.Members) && object.Members[i].Key < key {
		i++
	}
	return i - 1
}

// set changes the text of a key in a culture: what is in place is changed
// piece by piece, anything else is written anew.
func (e *editor) set(m *jsonscan.Member, tag string, c format.Change, entry *catalog.Entry) {
	localizations := m.Value.Find("localizations")
	var own *jsonscan.Value
	if localizations != nil {
		own = localizations.Find(tag)
		for i := range e.List { // spelled otherwise, as zh_Hans
			if own == nil && string(e.List[i].Culture) == tag {
				for j := range localizations.Members {
					if strings.EqualFold(strings.ReplaceAll(localizations.Members[j].Key, "_", "-"), tag) {
						own = &localizations.Members[j].Value
					}
				}
			}
		}
	}
	if c.Message == nil {
		if own != nil {
			entry.State = *c.State
			e.states(own, e.w.state(entry))
		}
		return
	}
	entry.Message = *c.Message
	if c.State != nil {
		entry.State = *c.State
	}
	if own != nil && e.patch(own, c, entry) {
		return
	}
	value := e.w.localization(entry)
	switch {
	case own != nil:
		e.Replace(own.From, own.To, string(e.Layout.Append(nil, value, e.Indented(own.From))))
	case localizations != nil:
		e.Editor.Insert(localizations, sorted(localizations, tag), tag, value)
	default:
		e.Editor.Insert(&m.Value, sorted(&m.Value, "localizations"), "localizations", jsonscan.Dict(jsonscan.Field{Key: tag, Value: value}))
	}
}

// states sets the states of all units in a localization.
func (e *editor) states(v *jsonscan.Value, state string) {
	for i := range v.Members {
		m := &v.Members[i]
		if m.Key == "stringUnit" {
			e.field(&m.Value, "state", state)
		} else if m.Value.Kind == jsonscan.Object {
			e.states(&m.Value, state)
		}
	}
}

// patch changes the text, or the forms of the plural, that stand there; false
// where the shape changes with the message.
func (e *editor) patch(own *jsonscan.Value, c format.Change, entry *catalog.Entry) bool {
	unit, variations := own.Find("stringUnit"), own.Find("variations")
	if own.Find("substitutions") != nil {
		return false
	}
	if !stringsdict.Plural(entry.Message) {
		if unit == nil || variations != nil || unit.Find("value") == nil {
			return false
		}
		e.units(unit, c, entry, e.w.text(entry.Message))
		return true
	}
	if variations == nil || variations.Find("plural") == nil || len(entry.Message.Arguments()) > 1 {
		return false
	}
	_, variables, losses := stringsdict.Split(entry.Message)
	if len(variables) != 1 {
		return false
	}
	e.w.Told("", losses)
	forms := variations.Find("plural")
	var gone []int
	for i := range forms.Members {
		if !slices.ContainsFunc(variables[0].Forms, func(f stringsdict.Form) bool { return f.Category == forms.Members[i].Key }) {
			gone = append(gone, i)
		}
	}
	if len(gone) == len(forms.Members) {
		return false
	}
	for _, f := range variables[0].Forms {
		i := forms.Index(f.Category)
		if i < 0 {
			value := jsonscan.Dict(e.w.newUnit(e.w.state(entry), f.Text))
			e.Editor.Insert(forms, e.placeFor(forms, f.Category, gone), f.Category, value)
			continue
		}
		if unit := forms.Members[i].Value.Find("stringUnit"); unit != nil && unit.Find("value") != nil {
			e.units(unit, c, entry, f.Text)
		} else {
			e.Replace(forms.Members[i].Value.From, forms.Members[i].Value.To, string(e.Layout.Append(nil, jsonscan.Dict(e.w.newUnit(e.w.state(entry), f.Text)), e.Indented(forms.Members[i].KeyFrom))))
		}
	}
	e.Drop(forms, gone...)
	return true
}

// placeFor returns the index after which a category goes, never one that is
// taken out.
func (e *editor) placeFor(forms *jsonscan.Value, category string, gone []int) int {
	i := sorted(forms, category)
	for i >= 0 && slices.Contains(gone, i) {
		i--
	}
	return i
}

// units changes text and state of a unit. A text that was not there yet is
// there now.
func (e *editor) units(unit *jsonscan.Value, c format.Change, entry *catalog.Entry, text string) {
	e.SetText(unit.Find("value"), text)
	state := unit.Find("state")
	switch {
	case c.State != nil:
		e.field(unit, "state", e.w.state(entry))
	case state != nil && state.Text == "new" && text != "":
		e.SetText(state, "translated")
	}
}

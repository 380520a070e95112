package merge

import (
	"slices"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/format"
	"zelvik/message"
)

// sides are the three versions of one culture.
type sides struct {
	*merger
	tag                culture.Tag
	base, ours, theirs *catalog.Catalog
	want               map[string]catalog.Entry
	// ourNames and theirNames are the new keys of entries that a side renamed.
	ourNames, theirNames map[string]string
}

// merge decides every entry.
func (s *sides) merge() {
	s.ourNames, s.theirNames = renames(s.base, s.ours), renames(s.base, s.theirs)
	named := map[string]bool{} // keys that are the new name of another
	for _, names := range []map[string]string{s.ourNames, s.theirNames} {
		for _, name := range names {
			named[name] = true
		}
	}
	for i := range s.base.Entries {
		s.known(&s.base.Entries[i])
	}
	for i := range s.ours.Entries {
		o := &s.ours.Entries[i]
		if s.base.Find(o.ID()) == nil && !named[o.ID()] && s.ours.At(o.ID()) == i {
			s.fresh(o, s.theirs.Find(o.ID()))
		}
	}
	for i := range s.theirs.Entries {
		t := &s.theirs.Entries[i]
		if s.base.Find(t.ID()) == nil && !named[t.ID()] && s.ours.Find(t.ID()) == nil && s.theirs.At(t.ID()) == i {
			s.fresh(nil, t)
		}
	}
}

// renames finds the entries that a side renamed: one is gone, and one with the
// same text, which no other has, is new.
func renames(base, side *catalog.Catalog) map[string]string {
	fresh := map[string][]string{}
	for i := range side.Entries {
		if e := &side.Entries[i]; base.Find(e.ID()) == nil {
			fresh[text(e.Message)] = append(fresh[text(e.Message)], e.ID())
		}
	}
	names := map[string]string{}
	if len(fresh) == 0 {
		return names
	}
	gone := map[string][]string{}
	for i := range base.Entries {
		if e := &base.Entries[i]; side.Find(e.ID()) == nil && !e.Message.Empty() {
			gone[text(e.Message)] = append(gone[text(e.Message)], e.ID())
		}
	}
	for said, old := range gone {
		if len(old) == 1 && len(fresh[said]) == 1 {
			names[old[0]] = fresh[said][0]
		}
	}
	return names
}

// side returns what a side made of an entry of the base, and its key there.
func side(c *catalog.Catalog, names map[string]string, id string) (*catalog.Entry, string) {
	if name, ok := names[id]; ok {
		return c.Find(name), name
	}
	return c.Find(id), id
}

// known decides an entry that the base has.
func (s *sides) known(b *catalog.Entry) {
	if s.base.Find(b.ID()) != b { // a second one with the same key
		return
	}
	o, ourID := side(s.ours, s.ourNames, b.ID())
	t, theirID := side(s.theirs, s.theirNames, b.ID())
	id := ourID
	if ourID == b.ID() {
		id = theirID
	}
	switch {
	case o == nil && t == nil:
	case o == nil && s.unchanged(b, t, theirID):
		s.fromOurs = append(s.fromOurs, format.Change{Op: format.Remove, Culture: s.tag, Key: theirID})
	case t == nil && s.unchanged(b, o, ourID):
		s.into = append(s.into, format.Change{Op: format.Remove, Culture: s.tag, Key: ourID})
	case o == nil: // removed here, edited there: what was edited stays
		s.put(theirID, *t)
		s.into = append(s.into, s.added(s.theirs, t))
		s.conflict(Conflict{Key: t.Key, What: "removed here", Base: b.Message.String(), Theirs: t.Message.String()}, nil)
	case t == nil:
		s.put(ourID, *o)
		s.fromOurs = append(s.fromOurs, s.added(s.ours, o))
		s.conflict(Conflict{Key: o.Key, What: "removed there", Base: b.Message.String(), Ours: o.Message.String()}, nil)
	default:
		if ourID != b.ID() && theirID != b.ID() && ourID != theirID {
			s.conflict(Conflict{Key: o.Key, What: "renamed", Base: b.Key, Ours: o.Key, Theirs: t.Key}, nil)
			id = ourID
		}
		s.both(b, o, t, id)
	}
}

// unchanged reports whether a side has an entry as the base has it.
func (s *sides) unchanged(b, e *catalog.Entry, id string) bool { return id == b.ID() && same(b, e) }

// fresh decides an entry that the base does not have; one of the two may be
// nil.
func (s *sides) fresh(o, t *catalog.Entry) {
	switch {
	case o == nil:
		s.put(t.ID(), *t)
		s.into = append(s.into, s.added(s.theirs, t))
	case t == nil:
		s.put(o.ID(), *o)
		s.fromOurs = append(s.fromOurs, s.added(s.ours, o))
	default:
		s.both(&catalog.Entry{Key: o.Key}, o, t, o.ID())
	}
}

// keep keeps an entry that stays because of a conflict in another culture.
func (s *sides) keep(c Conflict) {
	from, into := s.theirs, &s.into
	if c.What == "removed there" {
		from, into = s.ours, &s.fromOurs
	}
	e := from.Find(c.Key)
	if _, stays := s.want[c.Key]; stays || e == nil {
		return
	}
	s.put(c.Key, *e)
	*into = append(*into, s.added(from, e))
	gone := func(change format.Change) bool {
		return change.Op == format.Remove && change.Key == c.Key && change.Culture == s.tag
	}
	s.into, s.fromOurs = slices.DeleteFunc(s.into, gone), slices.DeleteFunc(s.fromOurs, gone)
}

// both decides an entry that both sides have.
func (s *sides) both(b, o, t *catalog.Entry, id string) {
	merged := *o
	said, ok := mergeMessages(b.Message, o.Message, t.Message)
	if !ok {
		what := "edited"
		if b.Message.Empty() {
			what = "added"
		}
		said = o.Message
		s.conflict(Conflict{Key: merged.Key, What: what, Base: b.Message.String(), Ours: o.Message.String(), Theirs: t.Message.String()}, t)
	}
	merged.Message = said
	if b.Note != t.Note && o.Note == b.Note {
		merged.Note = t.Note
	} else if b.Note != t.Note && o.Note != t.Note && o.Note != b.Note {
		merged.Note = joined(o.Note, t.Note)
	}
	if o.State == b.State {
		merged.State = t.State
	} else if t.State != b.State && t.State != o.State { // the one that asks for more work
		merged.State = min(o.State, t.State)
	}
	if o.Fixed == b.Fixed {
		merged.Fixed = t.Fixed
	}
	if o.Limit == b.Limit {
		merged.Limit = t.Limit
	}
	if o.Reference == b.Reference {
		merged.Reference = t.Reference
	}
	s.put(id, merged)
	s.into = append(s.into, s.between(o, &merged, id)...)
	s.fromOurs = append(s.fromOurs, s.between(t, &merged, id)...)
}

// joined puts two notes under one another.
func joined(ours, theirs string) string {
	if ours == "" || theirs == "" {
		return ours + theirs
	}
	return ours + "\n" + theirs
}

func (s *sides) put(id string, e catalog.Entry) { s.want[id] = e }

// between returns the changes that make one entry the other.
func (s *sides) between(from, to *catalog.Entry, id string) []format.Change {
	var list []format.Change
	if from.ID() != id {
		list = append(list, format.Change{Op: format.Rename, Culture: s.tag, Key: from.Key, NewKey: id})
	}
	change := format.Change{Culture: s.tag, Key: from.Key}
	if text(from.Message) != text(to.Message) {
		change.Message = &to.Message
	}
	if from.Note != to.Note {
		change.Note = &to.Note
	}
	if from.State != to.State {
		change.State = &to.State
	}
	if change.Message != nil || change.Note != nil || change.State != nil {
		list = append([]format.Change{change}, list...)
	}
	return list
}

// added returns the change that adds an entry after its neighbour.
func (s *sides) added(from *catalog.Catalog, e *catalog.Entry) format.Change {
	change := format.Change{Culture: s.tag, Key: e.Key, Message: &e.Message}
	if e.Note != "" {
		change.Note = &e.Note
	}
	if e.State != catalog.Unstated {
		change.State = &e.State
	}
	other := s.ours
	if from == s.ours {
		other = s.theirs
	}
	for i := from.At(e.ID()) - 1; i >= 0; i-- {
		if id := from.Entries[i].ID(); other.Find(id) != nil || s.base.Find(id) == nil {
			change.After = from.Entries[i].Key
			break
		}
	}
	return change
}

func (s *sides) conflict(c Conflict, theirs *catalog.Entry) {
	c.Culture = s.tag
	s.conflicts = append(s.conflicts, c)
	s.marks = append(s.marks, mark{c, theirs})
}

// mergeMessages merges two versions of a message; those of a choice are merged
// variant by variant.
func mergeMessages(b, o, t message.Message) (message.Message, bool) {
	bt, ot, tt := text(b), text(o), text(t)
	switch {
	case ot == tt, bt == tt:
		return o, true
	case bt == ot:
		return t, true
	case b.Choice == nil || o.Choice == nil || t.Choice == nil || !slices.Equal(selectors(o), selectors(t)) || !slices.Equal(selectors(o), selectors(b)):
		return o, false
	}
	variants := func(m message.Message) map[string]message.Pattern {
		list := map[string]message.Pattern{}
		for keys, p := range m.Patterns() {
			list[key(keys)] = p
		}
		return list
	}
	bv, tv := variants(b), variants(t)
	merged := &message.Choice{Selectors: o.Choice.Selectors}
	seen := map[string]bool{}
	for keys, p := range o.Patterns() {
		k := key(keys)
		seen[k] = true
		was, known := bv[k]
		their, have := tv[k]
		switch {
		case known && !have && spelled(was) == spelled(p): // removed there
			continue
		case !known && !have, known && have && spelled(was) == spelled(their), have && spelled(p) == spelled(their):
		case known && have && spelled(was) == spelled(p):
			p = their
		default:
			return o, false
		}
		merged.Variants = append(merged.Variants, message.Variant{Keys: keys, Pattern: p})
	}
	for keys, p := range t.Patterns() {
		if k := key(keys); !seen[k] {
			was, known := bv[k]
			if known && spelled(was) != spelled(p) {
				return o, false // removed here, edited there
			}
			if !known {
				at := len(merged.Variants)
				for at > 0 && slices.Equal(merged.Variants[at-1].Keys, []string{message.Default}) && !slices.Equal(keys, []string{message.Default}) {
					at--
				}
				merged.Variants = slices.Insert(merged.Variants, at, message.Variant{Keys: keys, Pattern: p})
			}
		}
	}
	return message.Message{Choice: merged}, true
}

func key(keys []string) string {
	joined := ""
	for _, k := range keys {
		joined += k + "\x00"
	}
	return joined
}

func spelled(p message.Pattern) string { return text(message.Message{Pattern: p}) }

func selectors(m message.Message) []string {
	var list []string
	for _, s := range m.Choice.Selectors {
		list = append(list, s.Kind.String()+s.Argument.Ident())
	}
	return list
}

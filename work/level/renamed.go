package level

import (
	"zelvik/catalog"
	"zelvik/project"
)

// sayings finds the source's entries by what is said under them, so that looking
// for the new name of a key takes no longer in a large family: by the text in
// each culture, and by the fingerprint of the source's own.
type sayings struct {
	byText  map[*catalog.Member]map[string][]int
	byPrint map[string][]int
	// renamed are the old keys that have been followed, with their new names.
	renamed map[string]string
}

func newSayings(f *project.Family) *sayings {
	s := &sayings{byText: map[*catalog.Member]map[string][]int{}, byPrint: map[string][]int{}}
	source := f.SourceMember()
	for _, m := range f.Members {
		texts := make(map[string][]int, len(source.Catalog.Entries))
		for i := range source.Catalog.Entries {
			if e := m.Catalog.Near(i, source.Catalog.Entries[i].ID()); e != nil {
				text := e.Message.String()
				texts[text] = append(texts[text], i)
			}
		}
		s.byText[m] = texts
	}
	for i := range source.Catalog.Entries {
		print := project.Fingerprint(&source.Catalog.Entries[i])
		s.byPrint[print] = append(s.byPrint[print], i)
	}
	return s
}

// renamed returns the key that an entry without a source was probably renamed
// to: a key that this culture lacks and whose source text is the one that the
// old key had, or under which another culture of the family, one that was
// reconciled already, says the same as under the old key, or which the source
// has with the very text that is copied here.
func (r *reconciliation) renamed(f *project.Family, record *project.Record, m *catalog.Member, e *catalog.Entry) string {
	text := e.Message.String()
	if text == "" {
		return ""
	}
	if r.sayings == nil {
		r.sayings = map[*project.Family]*sayings{}
	}
	if r.sayings[f] == nil {
		r.sayings[f] = newSayings(f)
	}
	source, said := f.SourceMember(), r.sayings[f]
	best := len(source.Catalog.Entries)
	first := func(places []int, also func(*catalog.Entry) bool) {
		for _, i := range places {
			if s := &source.Catalog.Entries[i]; i < best && m.Catalog.Find(s.ID()) == nil && (also == nil || also(s)) {
				best = i
			}
			if i >= best {
				return
			}
		}
	}
	if to := said.renamed[e.Key]; to != "" && m.Catalog.Find(to) == nil { // what one culture's text went to, the others' go to as well
		return to
	}
	if was := record.Of(e.Key).Source; was != "" {
		first(said.byPrint[was], func(s *catalog.Entry) bool { return record.Of(s.Key).Source == "" })
	}
	for _, other := range f.Members {
		if other == m {
			continue
		}
		same := text
		if old := other.Catalog.Find(e.ID()); old != nil && other != source {
			same = old.Message.String()
		}
		first(said.byText[other][same], nil)
	}
	if best == len(source.Catalog.Entries) {
		return ""
	}
	to := source.Catalog.Entries[best].Key
	if said.renamed == nil {
		said.renamed = map[string]string{}
	}
	said.renamed[e.Key] = to
	return to
}

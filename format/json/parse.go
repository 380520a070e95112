package json

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/finding"
	"zelvik/format"
	"zelvik/format/charset"
	"zelvik/format/doc"
	"zelvik/format/jsonscan"
	"zelvik/internal/fast"
	"zelvik/message"
	"zelvik/message/loose"
)

// document is a file that was read.
type document struct {
	doc.Many
	root jsonscan.Value
	// roots are the objects that hold the catalogs' texts; where cultures
	// stand inside every key there is one for all of them.
	roots []*jsonscan.Value
	// slots are the places of the entries, by catalog.
	slots [][]slot
	shape shape
	// spelling is how placeholders are written.
	spelling loose.Spelling
	// double says that a key stands twice.
	double bool
}

// shape is where a file has its cultures.
type shape uint8

const (
	single shape = iota // one culture
	outer               // {"en": {...}, "de": {...}}
	inner               // {"key": {"en": "...", "de": "..."}}
)

// kind is how an entry's text or texts stand.
type kind uint8

const (
	plain   kind = iota
	object       // {"one": "...", "other": "..."}
	suffix       // "key_one", "key_other"
	ordinal      // "key_ordinal_one", "key_ordinal_other"
	older        // "key", "key_plural"
	wrapped      // {"message": "...", "description": "..."}
)

// slot is the place of an entry.
type slot struct {
	parent *jsonscan.Value
	// value is the text, or the object with the forms.
	value *jsonscan.Value
	// plural is what it has where it is a plural.
	plural *group
	// index is the place of its member in the parent.
	index int32
	kind  kind
	// item says that the text stands in an array.
	item bool
}

// at returns the indices of the slot's members in the parent, in order: none for
// an item, one, or one for each form.
func (s *slot) at() []int {
	switch {
	case s.item:
		return nil
	case s.kind == suffix || s.kind == ordinal || s.kind == older:
		return s.plural.at
	}
	return []int{int(s.index)}
}

// forms returns the forms of a plural.
func (s *slot) forms() []form {
	if s.plural == nil {
		return nil
	}
	return s.plural.forms
}

type form struct {
	category string
	value    *jsonscan.Value
}

type parser struct {
	*document
	format.Reader
	// guessed says that texts are taken for format strings as most of them look so.
	guessed bool
	// tag is the culture whose texts are read in the shape inner.
	tag string
}

func parse(data []byte) (format.Document, []finding.Finding) { return parseAs(data, nil) }

// parseAs reads a file whose placeholders are spelled in a settled way; nil
// finds it out.
func parseAs(data []byte, settled *loose.Spelling) (format.Document, []finding.Finding) {
	p := &parser{document: &document{Many: doc.Many{Coded: charset.Decode(data)}}}
	p.List, p.slots, p.roots = []*catalog.Catalog{{}}, [][]slot{nil}, []*jsonscan.Value{&p.root}
	ok := false
	if p.Reader, p.root, ok = jsonscan.Open(p.Coded, data, "a .json file"); !ok {
		return p.document, p.Done()
	}
	if settled != nil {
		p.spelling = *settled
	} else {
		p.spelling = p.votes().Best()
		p.guessed = p.spelling == loose.Printf || p.spelling == loose.Apple
	}
	p.cultures()
	return p.document, p.Done()
}

// votes counts how the texts of the file spell placeholders.
func (p *parser) votes() (sum loose.Votes) {
	members := p.root.Members
	var rest loose.Votes
	fast.Halves(len(members), func(from, to int) {
		for i := from; i < to && !sum.Settled(); i++ {
			count(&sum, &members[i].Value)
		}
	}, func(from, to int) {
		for i := from; i < to && !rest.Settled(); i++ {
			count(&rest, &members[i].Value)
		}
	})
	for i := range p.root.Items {
		count(&sum, &p.root.Items[i])
	}
	sum.Add(rest)
	return sum
}

// count looks at all texts for how they spell placeholders.
func count(votes *loose.Votes, v *jsonscan.Value) {
	if v.Kind == jsonscan.String {
		votes.Count(v.Text)
	}
	for i := range v.Members {
		count(votes, &v.Members[i].Value)
	}
	for i := range v.Items {
		count(votes, &v.Items[i])
	}
}

// cultures finds out where the file has its cultures, and reads each.
func (p *parser) cultures() {
	tags := func(v *jsonscan.Value) int {
		n := 0
		for i := range v.Members {
			if _, ok := tagOf(v.Members[i].Key); !ok {
				return 0
			}
			if sure(v.Members[i].Key) {
				n++
			}
		}
		return n
	}
	all := func(kinds ...jsonscan.Kind) bool {
		return !slices.ContainsFunc(p.root.Members, func(m jsonscan.Member) bool { return !slices.Contains(kinds, m.Value.Kind) })
	}
	p.roots = []*jsonscan.Value{&p.root}
	switch {
	case tags(&p.root) > 0 && all(jsonscan.Object):
		p.shape = outer
		p.List, p.roots, p.slots = nil, nil, nil
		members := make([]*jsonscan.Member, len(p.root.Members))
		for i := range members {
			members[i] = &p.root.Members[i]
		}
		slices.SortStableFunc(members, func(a, b *jsonscan.Member) int { return sourceFirst(a.Key, b.Key) })
		for _, m := range members {
			tag, _ := tagOf(m.Key)
			p.read(&catalog.Catalog{Culture: tag}, &m.Value)
		}
	case len(p.root.Members) > 0 && all(jsonscan.Object) && p.innerTags() != nil:
		p.shape = inner
		p.List, p.roots, p.slots = nil, nil, nil
		for _, name := range p.innerTags() {
			tag, _ := tagOf(name)
			p.tag = name
			p.read(&catalog.Catalog{Culture: tag}, &p.root)
		}
	default:
		p.tellDeeper(tags)
		c := p.List[0]
		if v := p.root.Find("@@locale"); v != nil {
			c.Culture, _ = tagOf(v.Text)
		}
		p.List, p.roots, p.slots = nil, nil, nil
		p.read(c, &p.root)
	}
}

// tellDeeper reports cultures that stand below a key of the root, where they are not
// looked for.
func (p *parser) tellDeeper(tags func(*jsonscan.Value) int) {
	for i := range p.root.Members {
		m := &p.root.Members[i]
		if len(m.Value.Members) < 2 || tags(&m.Value) < 2 || m.Value.Members[0].Value.Kind != jsonscan.Object {
			continue
		}
		var names []string
		for j := range m.Value.Members[:min(3, len(m.Value.Members))] {
			names = append(names, m.Value.Members[j].Key)
		}
		p.Warn("culture-unknown", m.KeyFrom, m.Key, fmt.Sprintf("the cultures %s stand below the key %s, where they are not looked for", strings.Join(names, ", "), m.Key),
			"put them at the top of the file, or each into a file of its own")
	}
}

// sure reports whether a key that is a culture's code can hardly be anything else:
// codes of three letters alone are words as well, such as nav.
func sure(key string) bool { return len(key) != 3 }

// innerTags returns the cultures that stand inside the keys, nil where that is
// not the file's shape: every value an object of texts whose keys are cultures.
func (p *parser) innerTags() []string {
	var names []string
	for i := range p.root.Members {
		v := &p.root.Members[i].Value
		if len(v.Members) == 0 {
			return nil
		}
		for j := range v.Members {
			m := &v.Members[j]
			if _, ok := tagOf(m.Key); !ok || m.Value.Kind != jsonscan.String {
				return nil
			}
			if !slices.Contains(names, m.Key) {
				names = append(names, m.Key)
			}
		}
	}
	if len(names) < 2 || !slices.ContainsFunc(names, sure) {
		return nil
	}
	slices.SortStableFunc(names, sourceFirst)
	return names
}

// sourceFirst puts English, from which most projects translate, before the
// others; those keep to the alphabet.
func sourceFirst(a, b string) int {
	rank := func(name string) string {
		if name == "en" || strings.HasPrefix(name, "en-") || strings.HasPrefix(name, "en_") {
			return ""
		}
		return name
	}
	return strings.Compare(rank(a), rank(b))
}

// read reads the texts below an object into a catalog.
func (p *parser) read(c *catalog.Catalog, root *jsonscan.Value) {
	n := len(root.Members)
	entries, slots := fast.Make[catalog.Entry](n), fast.Make[slot](n)
	groups := p.groups(root)
	first := &walk{parser: p, entries: entries[: 0 : n/2], slots: slots[: 0 : n/2]}
	second := &walk{parser: p, entries: entries[n/2 : n/2], slots: slots[n/2 : n/2]}
	fast.Halves(n, func(from, to int) { first.members(root, groups, "", from, to) }, func(from, to int) { second.members(root, groups, "", from, to) })
	c.Entries = fast.Joined(entries, n/2, first.entries, second.entries)
	list := fast.Joined(slots, n/2, first.slots, second.slots)
	double := map[int]bool{}
	p.AddAll(c, func(number int) { double[number] = true })
	if len(double) > 0 {
		p.double = true
		kept := list
		list = nil
		for i := range kept {
			if !double[i] {
				list = append(list, kept[i])
			}
		}
	}
	p.Parallel(len(list), func(r *format.Reader, from, to int) {
		for i := from; i < to; i++ {
			c.Entries[i].Message = p.message(r, c.Entries[i].Key, &list[i])
		}
	})
	p.List, p.roots, p.slots = append(p.List, c), append(p.roots, root), append(p.slots, list)
}

// message reads the text or the forms at a slot.
func (p *parser) message(r *format.Reader, key string, s *slot) message.Message {
	v := s.value
	switch s.kind {
	case plain:
	case wrapped:
		v = v.Find("message")
	default:
		return p.choice(s.forms(), s.kind == ordinal)
	}
	m, faults := p.spelling.Parse(v.Text)
	if len(faults) > 0 && p.guessed { // it is no format string, though others are
		return message.Plain(v.Text)
	}
	r.InText(faults, true, v.From+1, key)
	return m
}

// choice makes a plural of forms.
func (p *parser) choice(forms []form, ordinal bool) message.Message {
	choice := &message.Choice{}
	for _, f := range forms {
		m, _ := p.spelling.Parse(f.value.Text)
		choice.Variants = append(choice.Variants, message.Variant{Keys: []string{f.category}, Pattern: m.Main()})
	}
	slices.SortStableFunc(choice.Variants, func(a, b message.Variant) int {
		return cmp.Compare(slices.Index(culture.Categories, a.Keys[0]), slices.Index(culture.Categories, b.Keys[0]))
	})
	m := message.Message{Choice: choice}
	m.CountFirst()
	if ordinal {
		choice.Selectors[0].Kind = message.Ordinal
	}
	return m
}

package message

import (
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"
)

// Factored is a choice over several arguments taken apart into a text in which
// each of them has a place of its own: "{0} with {1}".
type Factored struct {
	// Parts are the stretches of the text, in order.
	Parts []FactoredPart
	// Forms are each selector's own variants, of one key.
	Forms [][]Variant
}

// FactoredPart is a stretch of the text: a pattern, or the place of a selector.
type FactoredPart struct {
	Pattern  Pattern
	Selector int // -1 for a pattern
}

// token is a word, a space, a placeholder or a tag.
type token struct {
	text string
	part Part
}

func (t token) same(o token) bool {
	if p, ok := t.part.(*Placeholder); ok {
		q, ok := o.part.(*Placeholder)
		return ok && p.Same(q) && p.Spelling == q.Spelling
	}
	return t.text == o.text && (t.part == nil) == (o.part == nil)
}

// tokens takes a pattern apart.
func tokens(p Pattern) (list []token) {
	for _, part := range p {
		switch part := part.(type) {
		case Text:
			text := string(part)
			for text != "" {
				first, _ := utf8.DecodeRuneInString(text)
				space := unicode.IsSpace(first)
				n := strings.IndexFunc(text, func(r rune) bool { return unicode.IsSpace(r) != space })
				if n < 0 {
					n = len(text)
				}
				list, text = append(list, token{text: text[:n]}), text[n:]
			}
		case *Markup:
			list = append(list, token{part.String(), part})
		default:
			list = append(list, token{"", part})
		}
	}
	return list
}

func untokened(list []token) (p Pattern) {
	for _, t := range list {
		if t.part != nil {
			p = p.Add(t.part)
		} else {
			p = p.Add(Text(t.text))
		}
	}
	return p
}

// factoring is a choice that is taken apart.
type factoring struct {
	*Choice
	// base are the tokens of the variant other of all selectors.
	base []token
	// cores are the stretches of base that depend on each selector, and order the
	// selectors as they stand in it.
	cores []stretch
	order []int
	// keys are each selector's keys, forms the tokens of its core under them.
	keys  [][]string
	forms []map[string][]token
}

// stretch is from one token up to another.
type stretch struct{ from, to int }

// Factor takes a choice over several plurals apart where each stands in a stretch
// of its own, so that the text is the product of them; false where it is not.
func (c *Choice) Factor() (Factored, bool) {
	n := len(c.Selectors)
	if n < 2 || slices.ContainsFunc(c.Selectors, func(s Selector) bool { return s.Kind != Plural }) {
		return Factored{}, false
	}
	f := &factoring{Choice: c, cores: make([]stretch, n), keys: make([][]string, n), forms: make([]map[string][]token, n)}
	others := slices.Repeat([]string{Default}, n)
	at := slices.IndexFunc(c.Variants, func(v Variant) bool { return slices.Equal(v.Keys, others) })
	if at < 0 {
		return Factored{}, false
	}
	f.base = tokens(c.Variants[at].Pattern)
	for i := range n {
		if !f.selector(i, others) {
			return Factored{}, false
		}
		f.order = append(f.order, i)
	}
	slices.SortFunc(f.order, func(a, b int) int { return f.cores[a].from - f.cores[b].from })
	for k := 1; k < n; k++ {
		if f.cores[f.order[k]].from < f.cores[f.order[k-1]].to {
			return Factored{}, false
		}
	}
	if !f.product() {
		return Factored{}, false
	}
	return f.factored(), true
}

// selector finds the core of a selector, and its forms, in the variants in which
// all others are other.
func (f *factoring) selector(i int, others []string) bool {
	base := f.base
	var along [][]token
	for _, v := range f.Variants {
		rest := slices.Clone(v.Keys)
		rest[i] = Default
		if slices.Equal(rest, others) {
			f.keys[i], along = append(f.keys[i], v.Keys[i]), append(along, tokens(v.Pattern))
		}
	}
	before, behind := len(base), len(base)
	for _, t := range along {
		b, e := shared(t, base)
		before, behind = min(before, b), min(behind, e)
	}
	core := stretch{before, len(base) - min(behind, len(base)-before)}
	for at, t := range base { // the number belongs to what it counts
		if p, ok := t.part.(*Placeholder); ok && p.Same(&f.Selectors[i].Argument) {
			core.from, core.to = min(core.from, at), max(core.to, at+1)
		}
	}
	f.cores[i], f.forms[i] = core, map[string][]token{}
	for k, key := range f.keys[i] {
		end := len(along[k]) - (len(base) - core.to)
		if end < core.from {
			return false
		}
		f.forms[i][key] = along[k][core.from:end]
	}
	return core.from < core.to
}

// shared counts the tokens that two lists have in common at their beginnings and
// at their ends.
func shared(a, b []token) (first, last int) {
	for first < len(a) && first < len(b) && a[first].same(b[first]) {
		first++
	}
	for last < len(a) && last < len(b) && a[len(a)-1-last].same(b[len(b)-1-last]) {
		last++
	}
	return first, last
}

// product reports whether every combination of keys is there and is what its
// forms make.
func (f *factoring) product() bool {
	count := 1
	for _, keys := range f.keys {
		count *= len(keys)
	}
	if count != len(f.Variants) {
		return false
	}
	for _, v := range f.Variants {
		var made []token
		at := 0
		for _, i := range f.order {
			form, ok := f.forms[i][v.Keys[i]]
			if !ok {
				return false
			}
			made = append(append(made, f.base[at:f.cores[i].from]...), form...)
			at = f.cores[i].to
		}
		if made = append(made, f.base[at:]...); untokened(made).Shown() != v.Pattern.Shown() {
			return false
		}
	}
	return true
}

func (f *factoring) factored() Factored {
	out := Factored{Forms: make([][]Variant, len(f.keys))}
	between := func(from, to int) {
		if p := untokened(f.base[from:to]); len(p) > 0 {
			out.Parts = append(out.Parts, FactoredPart{p, -1})
		}
	}
	at := 0
	for _, i := range f.order {
		between(at, f.cores[i].from)
		out.Parts = append(out.Parts, FactoredPart{nil, i})
		at = f.cores[i].to
		for _, key := range f.keys[i] {
			out.Forms[i] = append(out.Forms[i], Variant{[]string{key}, untokened(f.forms[i][key])})
		}
	}
	between(at, len(f.base))
	return out
}

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

// Factor takes a choice over several plurals apart where each stands in a stretch
// of its own, so that the text is the product of them; false where it is not.
func (c *Choice) Factor() (Factored, bool) {
	n := len(c.Selectors)
	if n < 2 || slices.ContainsFunc(c.Selectors, func(s Selector) bool { return s.Kind != Plural }) {
		return Factored{}, false
	}
	find := func(keys []string) []token {
		for i := range c.Variants {
			if slices.Equal(c.Variants[i].Keys, keys) {
				return tokens(c.Variants[i].Pattern)
			}
		}
		return nil
	}
	others := slices.Repeat([]string{Default}, n)
	base := find(others)
	if base == nil {
		return Factored{}, false
	}
	type stretch struct{ from, to int }
	cores, keys := make([]stretch, n), make([][]string, n)
	forms := make([]map[string][]token, n)
	for i := range n {
		var along [][]token
		for _, v := range c.Variants {
			rest := slices.Clone(v.Keys)
			rest[i] = Default
			if slices.Equal(rest, others) {
				keys[i], along = append(keys[i], v.Keys[i]), append(along, tokens(v.Pattern))
			}
		}
		before, behind := len(base), len(base)
		for _, t := range along {
			b, e := 0, 0
			for b < len(t) && b < len(base) && t[b].same(base[b]) {
				b++
			}
			for e < len(t) && e < len(base) && t[len(t)-1-e].same(base[len(base)-1-e]) {
				e++
			}
			before, behind = min(before, b), min(behind, e)
		}
		if before+behind > len(base) {
			behind = len(base) - before
		}
		core := stretch{before, len(base) - behind}
		for at, t := range base { // the number belongs to what it counts
			if p, ok := t.part.(*Placeholder); ok && p.Same(&c.Selectors[i].Argument) {
				core.from, core.to = min(core.from, at), max(core.to, at+1)
			}
		}
		if core.from == core.to {
			return Factored{}, false
		}
		cores[i], forms[i] = core, map[string][]token{}
		for k, key := range keys[i] {
			t := along[k]
			if end := len(t) - (len(base) - core.to); end >= core.from {
				forms[i][key] = t[core.from:end]
			} else {
				return Factored{}, false
			}
		}
	}
	order := make([]int, n)
	for i := range order {
		order[i] = i
	}
	slices.SortFunc(order, func(a, b int) int { return cores[a].from - cores[b].from })
	for k := 1; k < n; k++ {
		if cores[order[k]].from < cores[order[k-1]].to {
			return Factored{}, false
		}
	}
	count := 1
	for i := range n {
		count *= len(keys[i])
	}
	if count != len(c.Variants) {
		return Factored{}, false
	}
	for _, v := range c.Variants { // every combination is what its forms make
		var made []token
		at := 0
		for _, i := range order {
			form, ok := forms[i][v.Keys[i]]
			if !ok {
				return Factored{}, false
			}
			made = append(append(made, base[at:cores[i].from]...), form...)
			at = cores[i].to
		}
		if made = append(made, base[at:]...); untokened(made).Shown() != v.Pattern.Shown() {
			return Factored{}, false
		}
	}
	f := Factored{Forms: make([][]Variant, n)}
	at := 0
	for _, i := range order {
		if p := untokened(base[at:cores[i].from]); len(p) > 0 {
			f.Parts = append(f.Parts, FactoredPart{p, -1})
		}
		f.Parts = append(f.Parts, FactoredPart{nil, i})
		at = cores[i].to
		for _, key := range keys[i] {
			f.Forms[i] = append(f.Forms[i], Variant{[]string{key}, untokened(forms[i][key])})
		}
	}
	if p := untokened(base[at:]); len(p) > 0 {
		f.Parts = append(f.Parts, FactoredPart{p, -1})
	}
	return f, true
}

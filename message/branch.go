package message

import (
	"slices"
	"strings"
)

// Branch is a variant that is being made: its keys may be "" or missing where
// any will do. Readers of nested choices build messages from branches.
type Branch = Variant

// MaxVariants bounds the matrix that nested choices multiply out to.
const MaxVariants = 1000

// Times continues every outer branch with every inner one that can be true
// with it. It stops soon after MaxVariants branches; the caller tells.
func Times(outer, inner []Branch) []Branch {
	if len(outer) == 1 && len(outer[0].Keys) == 0 && len(outer[0].Pattern) == 0 && len(inner) <= MaxVariants {
		return inner // what begins a message
	}
	var out []Branch
	for _, a := range outer {
		for _, b := range inner {
			keys, ok := both(a.Keys, b.Keys, outer, inner)
			if !ok || len(out) > MaxVariants {
				continue
			}
			pattern := slices.Clone(a.Pattern)
			for _, part := range b.Pattern {
				pattern = pattern.Add(part)
			}
			out = append(out, Branch{keys, pattern})
		}
	}
	return out
}

// Under puts branches under the condition that a selector has a key.
func Under(selector int, key string, inner []Branch) []Branch {
	here := make([]string, selector+1)
	here[selector] = key
	if len(inner) == 1 && len(inner[0].Keys) == 0 {
		inner[0].Keys = here
		return inner
	}
	var out []Branch
	for _, b := range inner {
		if keys, ok := both(here, b.Keys, nil, inner); ok {
			out = append(out, Branch{keys, b.Pattern})
		}
	}
	return out
}

// Chosen makes the message of all branches, which become its variants.
func Chosen(selectors []Selector, branches []Branch) Message {
	if len(selectors) == 0 {
		if len(branches) == 0 {
			return Message{}
		}
		return Message{Pattern: branches[0].Pattern}
	}
	for n := range branches {
		b := &branches[n]
		if len(b.Keys) == len(selectors) && !slices.Contains(b.Keys, "") {
			continue
		}
		keys := make([]string, len(selectors))
		for i := range keys {
			if keys[i] = at(b.Keys, i); keys[i] == "" {
				keys[i] = Default
			}
		}
		b.Keys = keys
	}
	return Message{Choice: &Choice{Selectors: selectors, Variants: branches}}
}

// both joins two conditions. Where they ask different keys of one selector,
// "other" gives way to a key that its own choice does not have.
func both(a, b []string, as, bs []Branch) ([]string, bool) {
	keys := make([]string, max(len(a), len(b)))
	for i := range keys {
		x, y := at(a, i), at(b, i)
		switch {
		case x == "" || x == y:
			keys[i] = y
		case y == "" || y == Default && !has(bs, i, x):
			keys[i] = x
		case x == Default && !has(as, i, y):
			keys[i] = y
		default:
			return nil, false
		}
	}
	return keys, true
}

func at(keys []string, i int) string {
	if i < len(keys) {
		return keys[i]
	}
	return ""
}

func has(branches []Branch, i int, key string) bool {
	return slices.ContainsFunc(branches, func(b Branch) bool { return at(b.Keys, i) == key })
}

// Bare returns a form of a choice with its plain count as text, without the type
// that standing in a plural says already.
func (m Message) Bare(p Pattern) Pattern {
	if m.Choice == nil {
		return p
	}
	counted := &m.Choice.Selectors[0].Argument
	out := make(Pattern, len(p))
	for i, part := range p {
		if count, ok := part.(*Placeholder); ok && count.Same(counted) && count.Type == Integer && count.Style == "" {
			plain := *count
			plain.Type = String
			part = &plain
		}
		out[i] = part
	}
	return out
}

// CountFirst makes a choice count the argument that it shows, for formats that
// do not say which it is: the first whole number by position; where none is
// typed as one, the one placeholder there is, or one whose name says so; else
// a count that is not shown.
func (m Message) CountFirst() {
	best := Placeholder{Name: "count", Type: Integer}
	var only *Placeholder
	several := false
	for _, pattern := range m.Patterns() {
		for _, part := range pattern {
			p, ok := part.(*Placeholder)
			if !ok {
				continue
			}
			if p.Type == Integer && (best.Position == 0 || p.Position < best.Position) && (p.Position > 0 || p.Name != "") {
				best.Position, best.Name = p.Position, p.Name
				if p.Name == "" {
					best.Name = "count"
				}
			}
			several = several || only != nil && !same(only, p)
			if only == nil || counts[p.Name] {
				only = p
			}
		}
	}
	if best.Position == 0 && best.Name == "count" && only != nil && (!several || counts[only.Name]) && only.Type == String && only.Style == "" {
		best.Position = only.Position
		if only.Name != "" {
			best.Name = only.Name
		}
		for p := range m.Placeholders() {
			if same(only, p) && p != only {
				p.Type = Integer
			}
		}
		only.Type = Integer
	}
	if best.Position > 0 && best.Name == "count" {
		for p := range m.Placeholders() {
			if p.Position == best.Position && p.Name == "" {
				p.Name = best.Name
			}
		}
	}
	m.Choice.Selectors = []Selector{{Argument: best}}
}

// CountAs makes a translation's plural count what its source counts, where
// nothing but its forms said what that is: a form such as "one day in {place}"
// shows something else.
func (m Message) CountAs(source Message) {
	if m.Choice == nil || source.Choice == nil || len(m.Choice.Selectors) != 1 || len(source.Choice.Selectors) != 1 {
		return
	}
	own, counted := &m.Choice.Selectors[0], &source.Choice.Selectors[0]
	if own.Kind != Plural || counted.Kind != Plural || own.Argument.Syntax != Nowhere || same(&own.Argument, &counted.Argument) {
		return
	}
	for p := range m.Placeholders() {
		if p == &own.Argument || !same(p, &own.Argument) {
			continue
		}
		if p.Name == "count" { // for want of a better count
			p.Name = ""
		}
		if p.Type == Integer && p.Style == "" && !p.spelledInteger() {
			p.Type = String
		}
	}
	own.Argument = Placeholder{Name: counted.Argument.Name, Position: counted.Argument.Position, Type: counted.Argument.Type}
}

// spelledInteger reports whether a spelling says by itself that it is a whole
// number: %d, %1!d!, {0, number, integer}.
func (p *Placeholder) spelledInteger() bool {
	text := p.Spelling
	if p.Wrapped {
		text, _, _ = strings.Cut(text[strings.IndexByte(text, '>')+1:], "<")
	}
	text = strings.TrimRight(text, "!}")
	return text != "" && (strings.IndexByte("diuDU", text[len(text)-1]) >= 0 && text[0] == '%' || strings.Contains(text, "number"))
}

// CountsFirst reports whether CountFirst would find the count that the choice has,
// were its forms all that is known of it.
func (m Message) CountsFirst() bool {
	again := Message{Choice: &Choice{}}
	for _, v := range m.Choice.Variants {
		p := slices.Clone(v.Pattern)
		for i, part := range p {
			if placeholder, ok := part.(*Placeholder); ok {
				copied := *placeholder
				p[i] = &copied
			}
		}
		again.Choice.Variants = append(again.Choice.Variants, Variant{v.Keys, p})
	}
	again.CountFirst()
	own, found := &m.Choice.Selectors[0].Argument, &again.Choice.Selectors[0].Argument
	if found.Position > 0 && own.Position > 0 {
		return found.Position == own.Position
	}
	return found.Position == 0 || found.Name == own.Name
}

// counts are names that say that an argument counts.
var counts = map[string]bool{"count": true, "n": true, "num": true, "number": true, "total": true, "quantity": true}

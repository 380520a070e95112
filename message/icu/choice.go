package icu

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"zelvik/message"
)

// over reads what a choice is over: the comma after its kind, and the offset.
func (p *parser) over(argument message.Placeholder, kind string) (message.Selector, *message.Fault) {
	s := message.Selector{Argument: argument, Kind: message.Plural}
	if !p.is(',') {
		return s, p.fault("a "+kind+" without variants", "write {"+name(&argument)+", "+kind+", other {...}}")
	}
	p.at++
	p.space()
	switch kind {
	case "select":
		s.Kind = message.Select
		return s, nil
	case "selectordinal":
		s.Kind = message.Ordinal
	}
	s.Argument.Type = message.Integer
	if strings.HasPrefix(p.text[p.at:], "offset:") {
		p.at += len("offset:")
		p.space()
		digits := p.key()
		n, err := strconv.Atoi(digits)
		if err != nil {
			return s, p.fault(fmt.Sprintf("%q is no offset", digits), "write offset:1")
		}
		s.Offset = n
	}
	return s, nil
}

// choice reads the variants of a plural, selectordinal or select.
func (p *parser) choice(argument message.Placeholder, kind string) ([]message.Branch, *message.Fault) {
	s, fault := p.over(argument, kind)
	if fault != nil {
		return nil, fault
	}
	index := p.selector(s)
	selected := p.selected
	defer func() { p.selected = selected }()
	if p.selected++; s.Kind != message.Select {
		p.counted, p.selected = append(p.counted, index), 0
		defer func() { p.counted = p.counted[:len(p.counted)-1] }()
	}
	out := make([]message.Branch, 0, 3)
	var few [6]string
	seen := few[:0]
	var keys []string // for the branches to share
	for {
		p.space()
		if p.is('}') {
			p.at++
			if len(out) == 0 {
				return nil, p.fault("a "+kind+" without variants", "add other {...}")
			}
			return out, nil
		}
		start := p.at
		key := p.key()
		p.space()
		if key == "" || !p.is('{') {
			p.at = start
			if start >= len(p.text) {
				return nil, p.fault("a "+kind+" that is not closed", "add }")
			}
			return nil, p.fault(fmt.Sprintf("a variant of the %s without a text in braces", kind), "write "+cmpOther(key)+" {...}")
		}
		if s.Kind != message.Select && !slices.Contains(categories, key) && !(strings.HasPrefix(key, "=") && number(key[1:])) {
			p.at = start
			return nil, p.fault(fmt.Sprintf("%q is no plural category", key), "use zero, one, two, few, many, other or an exact =1")
		}
		if slices.Contains(seen, key) {
			p.at = start
			return nil, p.fault(fmt.Sprintf("the variant %s stands twice", key), "remove one of them")
		}
		seen = append(seen, key)
		p.at++
		opened := p.at - 1
		p.others[index] = p.others[index] || key == message.Default
		if pattern, ok := p.flat(); ok && p.is('}') && p.depth < maxDepth {
			p.at++
			if len(keys) <= index {
				keys = make([]string, 2*(index+1))
			}
			here := keys[: index+1 : index+1]
			keys = keys[index+1:]
			here[index] = key
			out = append(out, message.Branch{Keys: here, Pattern: pattern})
			continue
		}
		p.at = opened + 1
		inner, err := p.sequence()
		if err != nil {
			return nil, err
		}
		if !p.is('}') {
			p.at = opened
			return nil, p.fault("a brace that is not closed", "add }")
		}
		p.at++
		if out = append(out, message.Under(index, key, inner)...); len(out) > message.MaxVariants {
			return nil, p.tooMany()
		}
	}
}

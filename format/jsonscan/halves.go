package jsonscan

import (
	"strings"

	"zelvik/internal/fast"
)

// few is how many members tell how long the others are.
const few = 64

// halves reads a large document on both cores: the second half begins with a
// member of some object, at the first key in a line of its own, and closes
// objects that only the first half knows. It is nil where the document is
// small, has a fault, or does not let itself be split; then it is read whole.
func halves(data string) *Value {
	if len(data) < fast.Large {
		return nil
	}
	middle := len(data) / 2
	for tries := 0; ; tries++ {
		line := strings.IndexByte(data[middle:], '\n')
		if line < 0 || tries == 20 {
			return nil
		}
		middle += line + 1
		middle += len(data[middle:]) - len(strings.TrimLeft(data[middle:], " \t"))
		if middle < len(data) && data[middle] == '"' {
			break
		}
	}
	first := &parser{data: data[:middle], stop: middle, size: len(data), spare: len(data) / 16}
	second := &parser{data: data, at: middle, size: len(data), spare: len(data) / 16}
	var rest []Value // the ends of objects, the innermost first
	var root Value
	fast.Both(func() {
		first.space()
		if first.at < middle && data[first.at] == '{' {
			root = first.value()
		}
	}, func() { rest = second.ends() })
	if !first.stopped || len(first.faults)+len(second.faults) > 0 || rest == nil {
		return nil
	}
	var open []*Value
	for v := &root; v.To == 0; v = &v.Members[len(v.Members)-1].Value {
		open = append(open, v)
		if len(v.Members) == 0 {
			break
		}
	}
	if len(open) != len(rest) {
		return nil
	}
	for i, end := range rest {
		v := open[len(open)-1-i]
		v.Members, v.To = append(v.Members, end.Members...), end.To
	}
	return &root
}

// ends reads members up to the end of their object, then what follows in the
// object around it, up to the end of the document; nil where there is a fault.
func (p *parser) ends() []Value {
	var list []Value
	for {
		var v Value
		p.members(&v, p.at)
		v.To = p.at
		list = append(list, v)
		if p.space(); len(p.faults) > 0 {
			return nil
		}
		if p.at >= len(p.data) {
			return list
		}
		switch p.data[p.at] {
		case ',':
			p.at++
			if p.space(); p.at < len(p.data) && p.data[p.at] == '}' {
				return nil
			}
		case '}': // the object around it ends, too
		default:
			return nil
		}
	}
}

package message

import (
	"slices"
	"strconv"
	"strings"
)

// Arguments lists the message's arguments, each once, in the order of their
// positions, then of first appearance. Types, styles and samples come from the
// first placeholder that states them.
func (m Message) Arguments() []Placeholder { return m.AppendArguments(nil) }

// AppendArguments is Arguments for a caller that uses one buffer for many
// messages.
func (m Message) AppendArguments(list []Placeholder) []Placeholder {
	for p := range m.Placeholders() {
		at := -1
		for i := range list {
			if same(&list[i], p) {
				at = i
				break
			}
		}
		if at < 0 {
			at = len(list)
			list = append(list, Placeholder{Name: p.Name, Position: p.Position, Type: p.Type, Style: p.Style, Sample: p.Sample, Syntax: p.Syntax})
		}
		known := &list[at]
		if known.Name == "" {
			known.Name = p.Name
		}
		if known.Sample == "" {
			known.Sample = p.Sample
		}
		if known.Type == String {
			known.Type = p.Type
		}
		if known.Style == "" {
			known.Style = p.Style
		}
		if known.Spelling == "" && p.Syntax == Declared {
			known.Syntax, known.Spelling = Declared, p.Spelling
		}
	}
	// Stable insertion by position; arguments without one keep their place.
	for i := 1; i < len(list); i++ {
		for j := i; j > 0 && list[j].Position > 0 && list[j-1].Position > list[j].Position; j-- {
			list[j], list[j-1] = list[j-1], list[j]
		}
	}
	return list
}

// Same reports whether two placeholders stand for one argument: their positions
// are the same, or where one has none their names.
func (p *Placeholder) Same(q *Placeholder) bool { return same(p, q) }

func same(a, b *Placeholder) bool {
	switch {
	case a.Position > 0 && b.Position > 0:
		return a.Position == b.Position
	case a.Name == "" || b.Name == "": // {1} is {arg2}
		return a.Position > 0 && numberOf(b.Name) == a.Position || b.Position > 0 && numberOf(a.Name) == b.Position
	}
	return a.Name == b.Name
}

// Complete gives every placeholder of the message both a name and a position,
// so that any syntax can spell it. Both come from the arguments of the source
// message where it is given; what is still unnamed becomes arg1, arg2 by
// position; what has no position is numbered in the order of appearance.
// Missing types, styles and samples are taken over as well.
func (m Message) Complete(source []Placeholder) {
	if !m.HasPlaceholders() {
		return
	}
	known := source
	if source == nil {
		if m.nameAlike() {
			return
		}
		var room [4]Placeholder
		known = m.AppendArguments(room[:0])
	}
	var few [8]int
	taken := few[:0] // messages have few arguments: lists are found in faster than maps
	for i := range known {
		taken = append(taken, known[i].Position)
	}
	type place struct {
		name     string
		position int
	}
	var rooms [4]place
	places := rooms[:0]
	take := func(p *Placeholder, n int) int {
		taken, places = append(taken, n), append(places, place{p.Name, n})
		return n
	}
	free := 1
	number := func(p *Placeholder) int {
		for _, known := range places {
			if known.name == p.Name {
				return known.position
			}
		}
		if n := numberOf(p.Name); n > 0 && !slices.Contains(taken, n) { // arg2, as a made name says
			return take(p, n)
		}
		for slices.Contains(taken, free) {
			free++
		}
		return take(p, free)
	}
	for i := range known {
		if known[i].Position == 0 {
			known[i].Position = number(&known[i])
		}
	}
	m.nameCount(known)
	for p := range m.Placeholders() {
		for i := range known {
			k := &known[i]
			if !same(k, p) {
				continue
			}
			if p.Name == "" || k.Name != "" && p.Position > 0 && !p.Syntax.Named() { // where positions count, a name is for people
				p.Name = k.Name
			}
			if p.Position == 0 {
				p.Position = k.Position
			}
			if p.Style == "" && (p.Type == String || p.Type == Integer && k.Type == Integer && p.Syntax == ICU && strings.IndexByte(p.Spelling, ',') < 0) {
				p.Type, p.Style = k.Type, k.Style
				if k.Syntax == Declared && p.Syntax == ICU {
					p.Syntax, p.Spelling = Declared, k.Spelling
				}
			}
			if p.Sample == "" {
				p.Sample = k.Sample
			}
			break
		}
		if p.Position == 0 {
			p.Position = number(p)
		}
		if p.Name == "" {
			p.Name = madeName(p.Position)
		}
	}
}

// nameCount names the argument of a message's only plural "count" where it has
// no name.
func (m Message) nameCount(known []Placeholder) {
	if m.Choice == nil {
		return
	}
	var counted *Placeholder
	for i := range m.Choice.Selectors {
		s := &m.Choice.Selectors[i]
		if s.Kind == Plural {
			if counted != nil {
				return
			}
			counted = &s.Argument
		}
	}
	if counted == nil || counted.Name != "" || counted.Position == 0 {
		return
	}
	for i := range known {
		if known[i].Name == "count" || known[i].Position == counted.Position && known[i].Name != "" {
			return
		}
	}
	for p := range m.Placeholders() {
		if p.Name == "count" {
			return
		}
	}
	for p := range m.Placeholders() {
		if p.Position == counted.Position && p.Name == "" {
			p.Name = "count"
		}
	}
}

// numberOf returns N of a made name argN, else 0.
func numberOf(name string) int {
	digits, ok := strings.CutPrefix(name, "arg")
	n, err := strconv.Atoi(digits)
	if !ok || err != nil || n > 99 {
		return 0
	}
	return n
}

// mostLooks bounds how often placeholders of a message are held against one
// another: a message of a thousand is none that a person wrote.
const mostLooks = 1_000_000

// nameAlike does the work of Complete without a source where every placeholder
// has a position, as most have: it makes no copies. It is false where there is
// more to do.
func (m Message) nameAlike() bool {
	for p := range m.Placeholders() {
		if p.Position == 0 {
			return false
		}
	}
	m.nameCount(nil)
	looked := 0
	for p := range m.Placeholders() {
		if p.Name != "" && (p.Type != String || p.Style != "") {
			continue
		}
		for q := range m.Placeholders() {
			if looked++; looked > mostLooks {
				break
			}
			if q.Position == p.Position && p.Name == "" {
				p.Name = q.Name
			}
			if q.Position == p.Position && p.Type == String && p.Style == "" {
				p.Type, p.Style = q.Type, q.Style
			}
		}
		if p.Name == "" {
			p.Name = madeName(p.Position)
		}
	}
	return true
}

// Placed reports whether the positions of the arguments are those that Complete
// would give them by their names and order of appearance, so that a syntax of
// names alone does not lose them.
func (m Message) Placed() bool {
	var few [8]string
	seen := few[:0]
	var places [8]int
	taken, free := places[:0], 1
	for p := range m.Placeholders() {
		if slices.Contains(seen, p.Name) {
			continue
		}
		seen = append(seen, p.Name)
		n := numberOf(p.Name)
		if n == 0 || slices.Contains(taken, n) {
			for slices.Contains(taken, free) {
				free++
			}
			n = free
		}
		if taken = append(taken, n); p.Position != n {
			return false
		}
	}
	return true
}

var madeNames = [...]string{"arg0", "arg1", "arg2", "arg3", "arg4", "arg5", "arg6", "arg7", "arg8", "arg9"}

func madeName(position int) string {
	if position < len(madeNames) {
		return madeNames[position]
	}
	return "arg" + strconv.Itoa(position)
}

// MadeName reports whether Complete made the name: argN at position N.
func (p *Placeholder) MadeName() bool {
	return p.Name == "" || strings.HasPrefix(p.Name, "arg") && p.Name == madeName(p.Position)
}

package text

import (
	"slices"

	"golang.org/x/text/unicode/bidi"
)

// The bidirectional algorithm (UAX #9). Character classes come from
// golang.org/x/text/unicode/bidi; the algorithm is ours because that package
// gives no levels and takes no paragraph direction.

// maxEmbedding is max_depth of UAX #9 BD2.
const maxEmbedding = 125

// Levels returns the embedding level of every character of a paragraph. Base is
// the paragraph level: 0 left to right, 1 right to left, -1 to take it from the
// text (P2, P3). Characters that rule X9 removes get the level before them.
func Levels(text []rune, base int) []uint8 {
	p := &paragraph{text: text, classes: make([]bidi.Class, len(text)), levels: make([]uint8, len(text))}
	for i, r := range text {
		properties, _ := bidi.LookupRune(r)
		p.classes[i] = properties.Class()
	}
	p.original = slices.Clone(p.classes)
	p.matchIsolates()
	if base < 0 {
		base = p.firstStrong(0, len(text), 0)
	}
	p.base = uint8(base)
	p.explicit()
	for _, sequence := range p.sequences() {
		p.weak(sequence)
		p.brackets(sequence)
		p.neutral(sequence)
		p.implicit(sequence)
	}
	p.trailing()
	return p.levels
}

type paragraph struct {
	text              []rune
	original, classes []bidi.Class
	levels            []uint8
	base              uint8
	// match pairs isolate initiators with their PDI and back; -1 for none.
	match []int
}

func isolate(c bidi.Class) bool { return c == bidi.LRI || c == bidi.RLI || c == bidi.FSI }

// removed tells the characters that X9 leaves out.
func removed(c bidi.Class) bool {
	switch c {
	case bidi.LRE, bidi.RLE, bidi.LRO, bidi.RLO, bidi.PDF, bidi.BN:
		return true
	}
	return false
}

// matchIsolates pairs isolates (BD9).
func (p *paragraph) matchIsolates() {
	p.match = make([]int, len(p.text))
	var open []int
	for i, c := range p.classes {
		p.match[i] = -1
		switch {
		case isolate(c):
			open = append(open, i)
		case c == bidi.PDI && len(open) > 0:
			from := open[len(open)-1]
			open = open[:len(open)-1]
			p.match[from], p.match[i] = i, from
		case c == bidi.B:
			open = nil
		}
	}
}

// firstStrong finds the level by the first strong character outside isolates.
func (p *paragraph) firstStrong(from, to, otherwise int) int {
	for i := from; i < to; i++ {
		switch c := p.original[i]; {
		case c == bidi.L:
			return 0
		case c == bidi.R || c == bidi.AL:
			return 1
		case isolate(c):
			if p.match[i] < 0 {
				return otherwise
			}
			i = p.match[i]
		case c == bidi.B:
			return otherwise
		}
	}
	return otherwise
}

// status is an entry of the directional status stack (X1).
type status struct {
	level    uint8
	override bidi.Class // ON for neutral
	isolate  bool
}

// overriding returns the class that an embedding's text is taken for; ON for its own.
func overriding(c bidi.Class) bidi.Class {
	switch c {
	case bidi.RLO:
		return bidi.R
	case bidi.LRO:
		return bidi.L
	}
	return bidi.ON
}

// explicit applies X1 to X8.
func (p *paragraph) explicit() {
	stack := []status{{p.base, bidi.ON, false}}
	overflowIsolates, overflowEmbeddings, validIsolates := 0, 0, 0
	// push opens a level, where it is not too deep.
	push := func(rtl bool, override bidi.Class, isolate bool) bool {
		level := int(stack[len(stack)-1].level) + 1
		if rtl == (level%2 == 0) {
			level++
		}
		if level > maxEmbedding || overflowIsolates > 0 || overflowEmbeddings > 0 {
			return false
		}
		stack = append(stack, status{uint8(level), override, isolate})
		return true
	}
	// settle gives a character the level and the override that are open.
	settle := func(i int) {
		top := stack[len(stack)-1]
		p.levels[i] = top.level
		if top.override != bidi.ON && p.classes[i] != bidi.BN {
			p.classes[i] = top.override
		}
	}
	for i, c := range p.classes {
		top := stack[len(stack)-1]
		switch c {
		case bidi.RLE, bidi.LRE, bidi.RLO, bidi.LRO:
			p.levels[i] = top.level
			if !push(c == bidi.RLE || c == bidi.RLO, overriding(c), false) && overflowIsolates == 0 {
				overflowEmbeddings++
			}
		case bidi.RLI, bidi.LRI, bidi.FSI:
			settle(i)
			rtl := c == bidi.RLI
			if c == bidi.FSI {
				end := p.match[i]
				if end < 0 {
					end = len(p.text)
				}
				rtl = p.firstStrong(i+1, end, 0) == 1
			}
			if push(rtl, bidi.ON, true) {
				validIsolates++
			} else {
				overflowIsolates++
			}
		case bidi.PDI:
			if overflowIsolates > 0 {
				overflowIsolates--
			} else if validIsolates > 0 {
				overflowEmbeddings = 0
				for !stack[len(stack)-1].isolate {
					stack = stack[:len(stack)-1]
				}
				stack = stack[:len(stack)-1]
				validIsolates--
			}
			settle(i)
		case bidi.PDF:
			p.levels[i] = top.level
			if overflowIsolates > 0 {
				break
			}
			if overflowEmbeddings > 0 {
				overflowEmbeddings--
			} else if !top.isolate && len(stack) > 1 {
				stack = stack[:len(stack)-1]
			}
		case bidi.B:
			p.levels[i] = p.base
			stack = stack[:1]
			overflowIsolates, overflowEmbeddings, validIsolates = 0, 0, 0
		default:
			settle(i)
		}
	}
}

// sequence is an isolating run sequence (BD13): the places of its characters,
// without those that X9 removes, and the classes before and after it.
type sequence struct {
	at         []int
	level      uint8
	start, end bidi.Class
}

// sequences applies X9 and X10.
func (p *paragraph) sequences() []*sequence {
	var runs [][]int
	runOf := make([]int, len(p.text))
	last := -1
	for i := range p.text {
		runOf[i] = -1
		if removed(p.original[i]) {
			continue
		}
		if last < 0 || p.levels[last] != p.levels[i] {
			runs = append(runs, nil)
		}
		n := len(runs) - 1
		runs[n] = append(runs[n], i)
		runOf[i] = n
		last = i
	}
	var list []*sequence
	for _, run := range runs {
		if first := run[0]; p.original[first] == bidi.PDI && p.match[first] >= 0 {
			continue // it goes on a sequence that began before
		}
		s := &sequence{level: p.levels[run[0]]}
		for {
			s.at = append(s.at, run...)
			end := run[len(run)-1]
			if !isolate(p.original[end]) || p.match[end] < 0 || runOf[p.match[end]] < 0 {
				break
			}
			run = runs[runOf[p.match[end]]]
		}
		p.edges(s)
		list = append(list, s)
	}
	return list
}

// edges finds sos and eos of a sequence.
func (p *paragraph) edges(s *sequence) {
	before, after := p.base, p.base
	for i := s.at[0] - 1; i >= 0; i-- {
		if !removed(p.original[i]) {
			before = p.levels[i]
			break
		}
	}
	end := s.at[len(s.at)-1]
	if !isolate(p.original[end]) || p.match[end] >= 0 {
		for i := end + 1; i < len(p.text); i++ {
			if !removed(p.original[i]) {
				after = p.levels[i]
				break
			}
		}
	}
	s.start, s.end = direction(max(before, s.level)), direction(max(after, s.level))
}

func direction(level uint8) bidi.Class {
	if level%2 == 1 {
		return bidi.R
	}
	return bidi.L
}

// weak applies W1 to W7.
func (p *paragraph) weak(s *sequence) {
	c := func(i int) bidi.Class { return p.classes[s.at[i]] }
	set := func(i int, class bidi.Class) { p.classes[s.at[i]] = class }
	previous := s.start
	for i := range s.at { // W1
		if c(i) == bidi.NSM {
			if previous == bidi.PDI || isolate(previous) {
				set(i, bidi.ON)
			} else {
				set(i, previous)
			}
		}
		previous = c(i)
	}
	strong := s.start
	for i := range s.at { // W2, W3
		switch c(i) {
		case bidi.L, bidi.R, bidi.AL:
			strong = c(i)
		case bidi.EN:
			if strong == bidi.AL {
				set(i, bidi.AN)
			}
		}
	}
	for i := range s.at {
		if c(i) == bidi.AL {
			set(i, bidi.R)
		}
	}
	for i := 1; i+1 < len(s.at); i++ { // W4
		before, after := c(i-1), c(i+1)
		switch {
		case c(i) == bidi.ES && before == bidi.EN && after == bidi.EN:
			set(i, bidi.EN)
		case c(i) == bidi.CS && before == after && (before == bidi.EN || before == bidi.AN):
			set(i, before)
		}
	}
	for i := 0; i < len(s.at); i++ { // W5
		if c(i) != bidi.ET {
			continue
		}
		end := i
		for end < len(s.at) && c(end) == bidi.ET {
			end++
		}
		if i > 0 && c(i-1) == bidi.EN || end < len(s.at) && c(end) == bidi.EN {
			for j := i; j < end; j++ {
				set(j, bidi.EN)
			}
		}
		i = end - 1
	}
	for i := range s.at { // W6
		switch c(i) {
		case bidi.ES, bidi.ET, bidi.CS:
			set(i, bidi.ON)
		}
	}
	strong = s.start
	for i := range s.at { // W7
		switch c(i) {
		case bidi.L, bidi.R:
			strong = c(i)
		case bidi.EN:
			if strong == bidi.L {
				set(i, bidi.L)
			}
		}
	}
}

// strength returns the direction a character has for the neutrals beside it.
func strength(c bidi.Class) bidi.Class {
	switch c {
	case bidi.L:
		return bidi.L
	case bidi.R, bidi.EN, bidi.AN:
		return bidi.R
	}
	return bidi.ON
}

// brackets applies N0.
func (p *paragraph) brackets(s *sequence) {
	type opening struct {
		closer rune
		at     int
	}
	type pair struct{ from, to int }
	var stack []opening
	var pairs []pair
scan:
	for i, at := range s.at {
		if p.classes[at] != bidi.ON {
			continue
		}
		r := canonicalBracket(p.text[at])
		if closer, ok := closers[r]; ok {
			if len(stack) == 63 {
				pairs = nil
				break
			}
			stack = append(stack, opening{closer, i})
			continue
		}
		for j := len(stack) - 1; j >= 0; j-- {
			if stack[j].closer == r {
				pairs = append(pairs, pair{stack[j].at, i})
				stack = stack[:j]
				continue scan
			}
		}
	}
	slices.SortFunc(pairs, func(a, b pair) int { return a.from - b.from })
	own := direction(s.level)
	for _, pair := range pairs {
		found, opposite := false, false
		for i := pair.from + 1; i < pair.to; i++ {
			switch d := strength(p.classes[s.at[i]]); d {
			case own:
				found = true
			case bidi.ON:
			default:
				opposite = true
			}
		}
		set := own
		switch {
		case found:
		case opposite:
			before := s.start
			for i := pair.from - 1; i >= 0; i-- {
				if d := strength(p.classes[s.at[i]]); d != bidi.ON {
					before = d
					break
				}
			}
			if before != own {
				set = before
			}
		default:
			continue
		}
		for _, end := range []int{pair.from, pair.to} {
			p.classes[s.at[end]] = set
			for i := end + 1; i < len(s.at) && p.original[s.at[i]] == bidi.NSM; i++ {
				p.classes[s.at[i]] = set
			}
		}
	}
}

// neutral applies N1 and N2.
func (p *paragraph) neutral(s *sequence) {
	for i := 0; i < len(s.at); i++ {
		if strength(p.classes[s.at[i]]) != bidi.ON {
			continue
		}
		end := i
		for end < len(s.at) && strength(p.classes[s.at[end]]) == bidi.ON {
			end++
		}
		before, after := s.start, s.end
		if i > 0 {
			before = strength(p.classes[s.at[i-1]])
		}
		if end < len(s.at) {
			after = strength(p.classes[s.at[end]])
		}
		set := direction(s.level)
		if before == after {
			set = before
		}
		for j := i; j < end; j++ {
			p.classes[s.at[j]] = set
		}
		i = end - 1
	}
}

// implicit applies I1 and I2.
func (p *paragraph) implicit(s *sequence) {
	for _, at := range s.at {
		switch c := p.classes[at]; {
		case s.level%2 == 0 && c == bidi.R:
			p.levels[at]++
		case s.level%2 == 0 && (c == bidi.AN || c == bidi.EN):
			p.levels[at] += 2
		case s.level%2 == 1 && (c == bidi.L || c == bidi.EN || c == bidi.AN):
			p.levels[at]++
		}
	}
}

// trailing applies L1 to the paragraph as one line, and gives removed
// characters the level before them.
func (p *paragraph) trailing() {
	for i, c := range p.original {
		if removed(c) {
			p.levels[i] = p.base
			if i > 0 {
				p.levels[i] = p.levels[i-1]
			}
		}
	}
	reset := true
	for i := len(p.text) - 1; i >= 0; i-- {
		switch c := p.original[i]; {
		case c == bidi.B || c == bidi.S:
			reset = true
			p.levels[i] = p.base
		case c == bidi.WS || isolate(c) || c == bidi.PDI || removed(c):
			if reset {
				p.levels[i] = p.base
			}
		default:
			reset = false
		}
	}
}

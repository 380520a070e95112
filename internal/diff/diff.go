// Package diff finds the lines in which two texts differ, in time that grows
// with their length: lines that each text has once are matched first (as in a
// patience sort), and only what is left between them is compared line by line.
package diff

import (
	"hash/maphash"
	"slices"
	"strings"
)

// Change is a stretch of lines of one text in whose place the other has
// others; either may be empty. Lines count from 0.
type Change struct{ AFrom, ATo, BFrom, BTo int }

// Split parts a text into lines with their ends.
func Split(text []byte) []string {
	list := make([]string, 0, len(text)/40+1)
	whole := string(text)
	for line := range strings.Lines(whole) {
		list = append(list, line)
	}
	return list
}

// Lines lists the changes from one text's lines to another's, in order.
func Lines(a, b []string) []Change {
	c := &comparison{a: a, b: b, x: hashes(a), y: hashes(b)}
	c.section(0, len(a), 0, len(b))
	return c.changes
}

var seed = maphash.MakeSeed()

func hashes(lines []string) []uint64 {
	list := make([]uint64, len(lines))
	for i, line := range lines {
		list[i] = maphash.String(seed, line)
	}
	return list
}

type comparison struct {
	a, b    []string
	x, y    []uint64
	changes []Change
}

func (c *comparison) same(i, j int) bool { return c.x[i] == c.y[j] && c.a[i] == c.b[j] }

// few is how many lines are compared each with each.
const few = 600

// section compares a stretch of each text.
func (c *comparison) section(aFrom, aTo, bFrom, bTo int) {
	for aFrom < aTo && bFrom < bTo && c.same(aFrom, bFrom) {
		aFrom, bFrom = aFrom+1, bFrom+1
	}
	for aFrom < aTo && bFrom < bTo && c.same(aTo-1, bTo-1) {
		aTo, bTo = aTo-1, bTo-1
	}
	if aFrom == aTo || bFrom == bTo {
		if aFrom < aTo || bFrom < bTo {
			c.changes = append(c.changes, Change{aFrom, aTo, bFrom, bTo})
		}
		return
	}
	anchors := c.anchors(aFrom, aTo, bFrom, bTo)
	switch {
	case anchors == nil && aTo-aFrom+bTo-bFrom > few:
		c.changes = append(c.changes, Change{aFrom, aTo, bFrom, bTo})
	case anchors == nil:
		c.each(aFrom, aTo, bFrom, bTo)
	default:
		for _, at := range append(anchors, [2]int{aTo, bTo}) {
			c.section(aFrom, at[0], bFrom, at[1])
			aFrom, bFrom = at[0], at[1] // the anchor itself is trimmed at the head of the next
		}
	}
}

// each compares lines each with each: what is left are the changes between the
// longest common row of lines.
func (c *comparison) each(aFrom, aTo, bFrom, bTo int) {
	n, m := aTo-aFrom, bTo-bFrom
	longest := make([]uint16, (n+1)*(m+1)) // of the rows after i and j
	at := func(i, j int) int { return i*(m+1) + j }
	for i := n - 1; i >= 0; i-- {
		for j := m - 1; j >= 0; j-- {
			if c.same(aFrom+i, bFrom+j) {
				longest[at(i, j)] = longest[at(i+1, j+1)] + 1
			} else {
				longest[at(i, j)] = max(longest[at(i+1, j)], longest[at(i, j+1)])
			}
		}
	}
	for i, j := 0, 0; i < n || j < m; {
		from := Change{aFrom + i, 0, bFrom + j, 0}
		for (i < n || j < m) && (i == n || j == m || !c.same(aFrom+i, bFrom+j)) {
			if j == m || i < n && longest[at(i+1, j)] >= longest[at(i, j+1)] {
				i++
			} else {
				j++
			}
		}
		if from.ATo, from.BTo = aFrom+i, bFrom+j; from.AFrom < from.ATo || from.BFrom < from.BTo {
			c.changes = append(c.changes, from)
		}
		for i < n && j < m && c.same(aFrom+i, bFrom+j) {
			i, j = i+1, j+1
		}
	}
}

// anchors returns the longest row of lines that stand once in each stretch and in
// the same order in both.
func (c *comparison) anchors(aFrom, aTo, bFrom, bTo int) [][2]int {
	type place struct{ a, b int32 } // from 1; -1 for several
	places := make(map[uint64]place, aTo-aFrom)
	for i := aFrom; i < aTo; i++ {
		p := places[c.x[i]]
		if p.a = int32(i + 1); places[c.x[i]].a != 0 {
			p.a = -1
		}
		places[c.x[i]] = p
	}
	var pairs [][2]int
	for j := bFrom; j < bTo; j++ {
		if p, ok := places[c.y[j]]; ok {
			if p.b != 0 {
				p.b = -1
			} else {
				p.b = int32(j + 1)
			}
			places[c.y[j]] = p
		}
	}
	for j := bFrom; j < bTo; j++ {
		if p := places[c.y[j]]; p.a > 0 && p.b == int32(j+1) && c.a[p.a-1] == c.b[j] {
			pairs = append(pairs, [2]int{int(p.a - 1), j})
		}
	}
	if pairs == nil {
		return nil
	}
	// The longest rising row of places in a (patience sort).
	var piles []int // by length less one, the pair at the end of the best row
	before := make([]int, len(pairs))
	for n, pair := range pairs {
		at, _ := slices.BinarySearchFunc(piles, pair[0], func(n, a int) int { return pairs[n][0] - a })
		if before[n] = -1; at > 0 {
			before[n] = piles[at-1]
		}
		if at == len(piles) {
			piles = append(piles, n)
		} else {
			piles[at] = n
		}
	}
	row := make([][2]int, len(piles))
	for n, i := piles[len(piles)-1], len(piles)-1; n >= 0; n, i = before[n], i-1 {
		row[i] = pairs[n]
	}
	return row
}

package catalog

import (
	"hash/maphash"

	"zelvik/pages"
)

// Numbers finds the numbers of things, counted from 0, by their keys: open
// addressing, holding numbers and halves of hashes. It takes a third of a map's
// time and memory for the 100,000 entries of a large catalog (BenchmarkIndex).
// It is in two parts, told apart by a bit of the hash, so that two goroutines
// can fill it at once.
type Numbers struct {
	parts [2]part
}

// seed is the same for all of a run.
var seed = maphash.MakeSeed()

// Hash gives what a key is looked up by. A reader that computes it while the
// key is at hand saves fetching all keys again.
func Hash(key, product string) uint64 {
	h := maphash.String(seed, key)
	if product != "" {
		h ^= maphash.String(seed, product) * 31
	}
	return h
}

type part struct {
	slots []slot
	used  int
}

// slot holds a number from 1, 0 for none, and half of the hash, so that few keys
// are looked at.
type slot struct {
	number int32
	hash   uint32
}

// NewNumbers makes room for so many.
func NewNumbers(size int) *Numbers {
	n := room(size)
	slots := pages.Make[slot](2 * n)[:2*n]
	return &Numbers{[2]part{{slots: slots[:n:n]}, {slots: slots[n:]}}}
}

// room gives the power of two that holds half of so many entries loosely.
func room(size int) int {
	n := 16
	for n < size {
		n *= 2
	}
	return n
}

// Len is how many numbers there are.
func (x *Numbers) Len() int { return x.parts[0].used + x.parts[1].used }

// Find gives the number of a key, or -1; is tells whether the key of a number
// is the one.
func (x *Numbers) Find(hash uint64, is func(number int) bool) int {
	n, _ := x.parts[hash>>63].probe(hash, is)
	return n
}

// Add puts a number in and gives -1, or the number that the key has already,
// which stays.
func (x *Numbers) Add(number int, hash uint64, is func(number int) bool) int {
	return x.parts[hash>>63].add(number, hash, is)
}

// probe gives the number of a key, or -1 and the slot that it would have.
func (p *part) probe(hash uint64, is func(number int) bool) (n int, at uint32) {
	mask := uint32(len(p.slots) - 1)
	i := uint32(hash) & mask
	for ; p.slots[i].number != 0; i = (i + 1) & mask {
		if n := int(p.slots[i].number - 1); p.slots[i].hash == uint32(hash) && is(n) {
			return n, i
		}
	}
	return -1, i
}

func (p *part) add(number int, hash uint64, is func(number int) bool) int {
	if p.used*2 >= len(p.slots) {
		p.grow()
	}
	first, at := p.probe(hash, is)
	if first < 0 {
		p.slots[at] = slot{int32(number + 1), uint32(hash)}
		p.used++
	}
	return first
}

func (p *part) grow() {
	old := p.slots
	p.slots = make([]slot, 2*len(old))
	mask := uint32(len(p.slots) - 1)
	for _, s := range old {
		if s.number == 0 {
			continue
		}
		i := s.hash & mask
		for p.slots[i].number != 0 {
			i = (i + 1) & mask
		}
		p.slots[i] = s
	}
}

package catalog

import (
	"cmp"
	"hash/maphash"
	"slices"
	"sync"
)

// index finds entries by ID: open addressing, holding entries' numbers from 1.
// It takes a third of a map's time and memory for the 100,000 entries of a
// large catalog (BenchmarkIndex). It is in two parts, told apart by a bit of
// the hash, so that two goroutines can fill it at once.
type index struct {
	parts [2]part
}

// seed is the same for all indexes of a run.
var seed = maphash.MakeSeed()

// Hash gives what an index looks an entry up by. A reader that computes it
// while the key is at hand saves Index from fetching all keys again.
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

// slot holds an entry's number from 1, 0 for none, and half of its hash, so
// that few entries are looked at.
type slot struct {
	number int32
	hash   uint32
}

func newIndex(size int) *index {
	x := &index{}
	for i := range x.parts {
		x.parts[i].slots = make([]slot, room(size))
	}
	return x
}

// room gives the power of two that holds half of so many entries loosely.
func room(size int) int {
	n := 16
	for n < size {
		n *= 2
	}
	return n
}

// find gives the number of the entry with key and product, or -1.
func (x *index) find(entries []Entry, key, product string) int {
	hash := Hash(key, product)
	n, _ := x.parts[hash>>63].probe(entries, key, product, hash)
	return n
}

// add puts entry number n in and gives -1, or the number of an entry with the
// same ID, which stays.
func (x *index) add(entries []Entry, n int) int {
	hash := Hash(entries[n].Key, entries[n].Product)
	return x.parts[hash>>63].add(entries, n, hash)
}

// probe gives the number of the entry with key and product, or -1 and the slot
// that it would have.
func (p *part) probe(entries []Entry, key, product string, hash uint64) (n int, at uint64) {
	mask := uint64(len(p.slots) - 1)
	i := hash & mask
	for ; p.slots[i].number != 0; i = (i + 1) & mask {
		if p.slots[i].hash != uint32(hash>>31) {
			continue
		}
		if e := &entries[p.slots[i].number-1]; e.Key == key && e.Product == product {
			return int(p.slots[i].number - 1), i
		}
	}
	return -1, i
}

func (p *part) add(entries []Entry, n int, hash uint64) int {
	if p.used*2 >= len(p.slots) {
		p.grow(entries)
	}
	first, at := p.probe(entries, entries[n].Key, entries[n].Product, hash)
	if first < 0 {
		p.slots[at] = slot{int32(n + 1), uint32(hash >> 31)}
		p.used++
	}
	return first
}

func (p *part) grow(entries []Entry) {
	old := p.slots
	p.slots = make([]slot, 2*len(old))
	mask := uint64(len(p.slots) - 1)
	for _, s := range old {
		if s.number == 0 {
			continue
		}
		e := &entries[s.number-1]
		i := Hash(e.Key, e.Product) & mask
		for p.slots[i].number != 0 {
			i = (i + 1) & mask
		}
		p.slots[i] = s
	}
}

// halves does two halves of a work, side by side in a large catalog.
func (c *Catalog) halves(work func(half int)) {
	if len(c.Entries) <= 5000 {
		work(0)
		work(1)
		return
	}
	var wait sync.WaitGroup
	wait.Go(func() { work(0) })
	work(1)
	wait.Wait()
}

// Index makes the index of all entries at once, the two parts side by side in
// a large catalog, and calls f for every entry that has the ID of an earlier
// one, with that one's number. Hashes are those of the entries, or nil.
func (c *Catalog) Index(hashes []uint64, f func(first int, e *Entry)) {
	if hashes == nil {
		hashes = make([]uint64, len(c.Entries))
		c.halves(func(half int) {
			from, to := half*len(hashes)/2, (half+1)*len(hashes)/2
			for i := from; i < to; i++ {
				hashes[i] = Hash(c.Entries[i].Key, c.Entries[i].Product)
			}
		})
	}
	x := newIndex(len(c.Entries))
	type double struct{ first, n int }
	var doubles [2][]double
	c.halves(func(half int) {
		for n, hash := range hashes {
			if hash>>63 != uint64(half) {
				continue
			}
			if first := x.parts[half].add(c.Entries, n, hash); first >= 0 {
				doubles[half] = append(doubles[half], double{first, n})
			}
		}
	})
	c.index = x
	all := append(doubles[0], doubles[1]...)
	slices.SortFunc(all, func(a, b double) int { return cmp.Compare(a.n, b.n) })
	for _, d := range all {
		f(d.first, &c.Entries[d.n])
	}
}

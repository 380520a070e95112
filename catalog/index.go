package catalog

import (
	"math/bits"

	"zelvik/internal/fast"
)

// add puts an entry into an index.
func (c *Catalog) add(x *Numbers, number int, hash uint64) (first int) {
	return x.Add(number, hash, func(other int) bool {
		e, o := &c.Entries[number], &c.Entries[other]
		return e.Key == o.Key && e.Product == o.Product
	})
}

// Doubles calls f for every entry that has the ID of an earlier one, with that
// one's number. Hashes are those of the entries. It makes no index: two bits for
// each part of the hashes tell the few that may be alike, and those alone are
// compared.
func (c *Catalog) Doubles(hashes []uint64, f func(first int, e *Entry)) {
	size := 1 << bits.Len(uint(len(hashes)/2)) // words of 64 bits, 32 bits for an entry
	once, twice := make([]uint64, size), make([]uint64, size)
	mask := uint64(size - 1)
	for _, hash := range hashes {
		word, bit := hash>>6&mask, uint64(1)<<(hash&63)
		twice[word] |= once[word] & bit
		once[word] |= bit
	}
	few := NewNumbers(0)
	found := false
	for n, hash := range hashes {
		if twice[hash>>6&mask]>>(hash&63)&1 == 0 {
			continue
		}
		if first := c.add(few, n, hash); first >= 0 {
			found = true
			f(first, &c.Entries[n])
		}
	}
	c.single = 0
	if !found {
		c.single = len(c.Entries)
	}
}

// makeIndex makes the index of all entries at once, the two parts side by side in
// a large catalog.
func (c *Catalog) makeIndex() *Numbers {
	hashes := make([]uint64, len(c.Entries))
	hash := func(from, to int) {
		for i := from; i < to; i++ {
			hashes[i] = Hash(c.Entries[i].Key, c.Entries[i].Product)
		}
	}
	fast.Halves(len(hashes), hash, hash)
	x := NewNumbers(len(c.Entries))
	fill := func(part uint64) {
		for n, hash := range hashes {
			if hash>>63 == part {
				c.add(x, n, hash)
			}
		}
	}
	if len(hashes) < fast.Many {
		fill(0)
		fill(1)
	} else {
		fast.Both(func() { fill(0) }, func() { fill(1) })
	}
	return x
}

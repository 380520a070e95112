package catalog

import (
	"cmp"
	"slices"
	"sync"
)

// add puts an entry into an index.
func (c *Catalog) add(x *Numbers, number int, hash uint64) (first int) {
	return x.Add(number, hash, func(other int) bool {
		e, o := &c.Entries[number], &c.Entries[other]
		return e.Key == o.Key && e.Product == o.Product
	})
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
	x := NewNumbers(len(c.Entries))
	type double struct{ first, n int }
	var doubles [2][]double
	c.halves(func(half int) {
		for n, hash := range hashes {
			if hash>>63 != uint64(half) {
				continue
			}
			if first := c.add(x, n, hash); first >= 0 {
				doubles[half] = append(doubles[half], double{first, n})
			}
		}
	})
	c.index.Store(x)
	all := append(doubles[0], doubles[1]...)
	slices.SortFunc(all, func(a, b double) int { return cmp.Compare(a.n, b.n) })
	for _, d := range all {
		f(d.first, &c.Entries[d.n])
	}
}

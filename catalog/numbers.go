package catalog

import "hash/maphash"

// Numbers finds the numbers of things, counted from 0, by the hashes of their
// keys. It is in two parts, told apart by a bit of the hash, so that two
// goroutines can fill it at once.
type Numbers struct {
	parts [2]map[uint64]int32
}

// seed is the same for all of a run.
var seed = maphash.MakeSeed()

// Hash returns what a key is looked up by. A reader that computes it while the
// key is at hand saves fetching all keys again.
func Hash(key, product string) uint64 {
	h := maphash.String(seed, key)
	if product != "" {
		h ^= maphash.String(seed, product) * 31
	}
	return h
}

// NewNumbers makes room for so many.
func NewNumbers(size int) *Numbers {
	return &Numbers{[2]map[uint64]int32{make(map[uint64]int32, size/2), make(map[uint64]int32, size/2)}}
}

// Len is how many numbers there are.
func (x *Numbers) Len() int { return len(x.parts[0]) + len(x.parts[1]) }

// Find returns the number of a key, or -1; is tells whether the key of a number
// is the one. Where two keys have one hash, the second stands after it.
func (x *Numbers) Find(hash uint64, is func(number int) bool) int {
	part := x.parts[hash>>63]
	for {
		n, ok := part[hash]
		if !ok {
			return -1
		}
		if is(int(n)) {
			return int(n)
		}
		hash++
	}
}

// Add puts a number in and gives -1, or the number that the key has already,
// which stays.
func (x *Numbers) Add(number int, hash uint64, is func(number int) bool) int {
	part := x.parts[hash>>63]
	for {
		n, ok := part[hash]
		if !ok {
			part[hash] = int32(number)
			return -1
		}
		if is(int(n)) {
			return int(n)
		}
		hash++
	}
}

package xcstrings

import (
	"cmp"
	"encoding/binary"
	"slices"
	"strings"

	"zelvik/internal/fast"
)

// order returns the numbers of keys in the order of the platform's editor, which
// sorts without regard to case, and whether they stood so.
func order(keys []string) (numbers []int32, sorted bool) {
	list, room := fast.Make[sortKey](len(keys))[:len(keys)], fast.Make[sortKey](len(keys))[:len(keys)]
	half := func(from, to int) {
		for i := from; i < to; i++ {
			list[i] = newSortKey(keys[i], int32(i))
		}
	}
	fast.Halves(len(list), half, half)
	compare := func(a, b sortKey) int {
		for i, word := range a.begin {
			if word != b.begin[i] {
				return cmp.Compare(word, b.begin[i])
			}
		}
		return compare(keys[a.number], keys[b.number])
	}
	numbers = make([]int32, 0, len(keys))
	take := func(k sortKey) { numbers = append(numbers, k.number) }
	sorted = slices.IsSortedFunc(list, compare)
	half = func(from, to int) { spread(list[from:to], room[from:to], 0, compare) }
	if !sorted {
		fast.Halves(len(list), half, half)
	}
	a, b := list[:len(list)/2], list[len(list)/2:]
	if len(list) < 2 || compare(a[len(a)-1], b[0]) <= 0 {
		a, b = list, nil
	}
	for len(a) > 0 && len(b) > 0 {
		if compare(a[0], b[0]) <= 0 {
			take(a[0])
			a = a[1:]
		} else {
			take(b[0])
			b = b[1:]
		}
	}
	for _, k := range a {
		take(k)
	}
	for _, k := range b {
		take(k)
	}
	return numbers, sorted
}

// spread sorts a list whose keys are the same before a byte: it is spread over
// room by that byte, and each part by the next; short ones are compared. Keys have
// a word or two in common, over which comparing goes again and again: this takes a
// third of its time.
func spread(list, room []sortKey, at int, compare func(a, b sortKey) int) {
	const short = 24
	for {
		if len(list) <= short || at == len(list[0].begin)*8 {
			slices.SortFunc(list, compare)
			return
		}
		word, shift := at/8, 56-at%8*8
		var ends [256]int
		for i := range list {
			ends[byte(list[i].begin[word]>>shift)]++
		}
		at++
		if ends[byte(list[0].begin[word]>>shift)] == len(list) {
			continue
		}
		sum := 0
		for c, n := range ends {
			ends[c] = sum
			sum += n
		}
		for i := range list {
			c := byte(list[i].begin[word] >> shift)
			room[ends[c]] = list[i]
			ends[c]++
		}
		copy(list, room)
		from := 0
		for _, to := range ends {
			if to-from > 1 {
				spread(list[from:to], room[from:to], at, compare)
			}
			from = to
		}
		return
	}
}

// sortKey is the beginning of a key in small letters, so that few keys are
// compared whole, and its number.
type sortKey struct {
	begin  [3]uint64
	number int32
}

func newSortKey(key string, number int32) sortKey {
	k := sortKey{begin: words(key), number: number}
	if (k.begin[0]|k.begin[1]|k.begin[2])&eightBytes(0x80) != 0 {
		k.begin = words(strings.ToLower(key))
		return k
	}
	for i, word := range k.begin { // eight letters at once: A to Z get the bit of small ones
		capital := (word + eightBytes(0x80-'A')) &^ (word + eightBytes(0x7F-'Z')) & eightBytes(0x80)
		k.begin[i] = word | capital>>2
	}
	return k
}

// words returns the first 24 bytes, which compare as the text does.
func words(text string) (words [3]uint64) {
	var bytes [24]byte
	copy(bytes[:], text)
	for i := range words {
		words[i] = binary.BigEndian.Uint64(bytes[8*i:])
	}
	return words
}

// eightBytes returns a word of eight times the same byte.
func eightBytes(c byte) uint64 { return uint64(c) * 0x0101010101010101 }

// compare compares keys without regard to case, and where they are the same
// then with it.
func compare(a, b string) int {
	if c := strings.Compare(strings.ToLower(a), strings.ToLower(b)); c != 0 {
		return c
	}
	return strings.Compare(a, b)
}

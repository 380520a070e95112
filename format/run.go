package format

import "math/bits"

// Run returns the length of the run that text begins with, up to the first byte
// that is a or b, or a control character below U+0020: eight bytes are looked
// at together. It is the length of the text where there is none of them.
func Run[T string | []byte](text T, a, b byte) int {
	const ones = 0x0101010101010101
	first, second := uint64(a)*ones, uint64(b)*ones
	i := 0
	for ; i+8 <= len(text); i += 8 {
		w := text[i : i+8]
		word := uint64(w[0]) | uint64(w[1])<<8 | uint64(w[2])<<16 | uint64(w[3])<<24 | uint64(w[4])<<32 | uint64(w[5])<<40 | uint64(w[6])<<48 | uint64(w[7])<<56
		// The highest bit of each byte that is zero, as of one below 0x20, is set by
		// borrowing from it; bytes above the lowest such may be wrong, which is why
		// the lowest counts.
		x, y := word^first, word^second
		if stops := ((x-ones)&^x | (y-ones)&^y | (word-0x20*ones)&^word) & (0x80 * ones); stops != 0 {
			return i + bits.TrailingZeros64(stops)/8
		}
	}
	for ; i < len(text); i++ {
		if c := text[i]; c == a || c == b || c < 0x20 {
			break
		}
	}
	return i
}

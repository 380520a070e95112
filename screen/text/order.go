package text

import (
	"slices"
	"unicode"
)

// Order returns the visual order of stretches with these levels: the index of
// the stretch that stands first from the left, and so on (L2).
func Order(levels []uint8) []int {
	order := make([]int, len(levels))
	highest, lowest := uint8(0), uint8(255)
	for i, level := range levels {
		order[i] = i
		highest = max(highest, level)
		if level%2 == 1 {
			lowest = min(lowest, level)
		}
	}
	for level := highest; level >= lowest && level > 0; level-- {
		for i := 0; i < len(order); i++ {
			end := i
			for end < len(order) && levels[order[end]] >= level {
				end++
			}
			if end > i {
				slices.Reverse(order[i:end])
				i = end
			}
		}
	}
	return order
}

func canonicalBracket(r rune) rune {
	switch r {
	case 0x2329:
		return 0x3008
	case 0x232A:
		return 0x3009
	}
	return r
}

// closers are the paired brackets (Unicode 15, BidiBrackets.txt).
var closers = func() map[rune]rune {
	table := map[rune]rune{}
	pairs := []rune("()[]{}༺༻༼༽᚛᚜⁅⁆⁽⁾₍₎⌈⌉⌊⌋❨❩❪❫❬❭❮❯❰❱❲❳❴❵⟅⟆⟦⟧⟨⟩⟪⟫⟬⟭⟮⟯⦃⦄⦅⦆⦇⦈⦉⦊⦋⦌⦍⦐⦏⦎⦑⦒⦓⦔⦕⦖⦗⦘⧘⧙⧚⧛⧼⧽⸢⸣⸤⸥⸦⸧⸨⸩⹕⹖⹗⹘⹙⹚⹛⹜〈〉《》「」『』【】〔〕〖〗〘〙〚〛﹙﹚﹛﹜﹝﹞（）［］｛｝｟｠｢｣")
	for i := 0; i+1 < len(pairs); i += 2 {
		table[pairs[i]] = pairs[i+1]
	}
	return table
}()

// Visual returns a text as it is seen from left to right in a paragraph of a
// base level (0 from left to right, 1 from right to left), without the
// characters that only say how to order it.
func Visual(text string, base int) string {
	runes := []rune(text)
	levels := Levels(runes, base)
	var out []rune
	for _, i := range Order(levels) {
		if r := runes[i]; !unicode.Is(unicode.Bidi_Control, r) {
			out = append(out, r)
		}
	}
	return string(out)
}

package doc

import (
	"unicode/utf16"
	"unicode/utf8"
)

// Control returns the control character that a letter stands for after a
// backslash, as in C: n, t, r, a, b, f, v.
func Control(letter byte) (c byte, ok bool) {
	switch letter {
	case 'n':
		return '\n', true
	case 't':
		return '\t', true
	case 'r':
		return '\r', true
	case 'a':
		return '\a', true
	case 'b':
		return '\b', true
	case 'f':
		return '\f', true
	case 'v':
		return '\v', true
	}
	return 0, false
}

// Octal reads the one to three octal digits that a text begins with, as C does;
// size is 0 where there are none.
func Octal(text string) (n rune, size int) {
	for size < len(text) && size < 3 && text[size] >= '0' && text[size] <= '7' {
		n = n<<3 | rune(text[size]-'0')
		size++
	}
	return n, size
}

// Hexadecimal reads up to most hexadecimal digits that a text begins with; of
// more than 16 the last count.
func Hexadecimal(text string, most int) (n uint64, size int) {
	for size < len(text) && size < most {
		c := text[size]
		switch {
		case c >= '0' && c <= '9':
			n = n<<4 | uint64(c-'0')
		case c|0x20 >= 'a' && c|0x20 <= 'f':
			n = n<<4 | uint64(c|0x20-'a'+10)
		default:
			return n, size
		}
		size++
	}
	return n, size
}

// UTF16 reads the four hexadecimal digits after a \u, and where they are the
// first half of a pair the second with its \u. Size is 0 where they are not
// there; half of a pair alone is U+FFFD, and half says so.
func UTF16(text string) (r rune, size int, half bool) {
	n, digits := Hexadecimal(text, 4)
	if digits < 4 {
		return 0, 0, false
	}
	if r = rune(n); !utf16.IsSurrogate(r) {
		return r, 4, false
	}
	if len(text) >= 10 && text[4] == '\\' && text[5]|0x20 == 'u' {
		if low, digits := Hexadecimal(text[6:], 4); digits == 4 {
			if pair := utf16.DecodeRune(r, rune(low)); pair != utf8.RuneError {
				return pair, 10, false
			}
		}
	}
	return utf8.RuneError, 4, true
}

package message

// Control reports whether a character is shown as nothing, or steers what is
// shown: C0, DEL and C1 (Unicode's category Cc), line and paragraph separators,
// and the controls of the bidirectional algorithm (UAX #9, table 4).
func Control(r rune) bool {
	return r < 0x20 || r >= 0x7f && r < 0xa0 || r == 0x061c || r >= 0x200e && r <= 0x200f || r >= 0x2028 && r <= 0x202e || r >= 0x2066 && r <= 0x2069
}

package xmlscan

import "strings"

// EscapeText writes text as element content.
func EscapeText(text string) string {
	if plain(text) || !has(text, inText) {
		return text
	}
	return textEscaper.Replace(text)
}

// EscapeAttribute writes text as a value in double quotes.
func EscapeAttribute(text string) string {
	if strings.IndexByte(text, '"') < 0 && plain(text) || !has(text, inText|inAttribute) {
		return text
	}
	return attributeEscaper.Replace(text)
}

var (
	textEscaper      = strings.NewReplacer("&", "&amp;", "<", "&lt;", ">", "&gt;", "\r", "&#13;")
	attributeEscaper = strings.NewReplacer("&", "&amp;", "<", "&lt;", ">", "&gt;", `"`, "&quot;", "\r", "&#13;", "\n", "&#10;", "\t", "&#9;")
)

// The kinds of bytes that are escaped in text, and in an attribute besides.
const (
	inText = 1 << iota
	inAttribute
)

var escaped = [256]uint8{'&': inText, '<': inText, '>': inText, '\r': inText, '"': inAttribute, '\n': inAttribute, '\t': inAttribute}

// has reports whether a byte of the text is of a kind.
func has(text string, kind uint8) bool {
	for i := range len(text) {
		if escaped[text[i]]&kind != 0 {
			return true
		}
	}
	return false
}

// Legal reports whether XML 1.0 can hold the text: no control character but
// tab and line ends (XML 1.0, production Char).
func Legal(text string) bool {
	if plain(text) {
		return true
	}
	for i := range len(text) {
		switch c := text[i]; {
		case c < 0x20 && c != '\t' && c != '\n' && c != '\r':
			return false
		case c == 0xEF && (strings.HasPrefix(text[i:], "\uFFFE") || strings.HasPrefix(text[i:], "\uFFFF")):
			return false
		}
	}
	return true
}

// plain reports whether all of the text stands for itself in an element: there is
// no &, < or >, no control character and nothing that begins like U+FFFE. Most
// texts are, and eight bytes of them are looked at together, as in format.Run.
func plain(text string) bool {
	const ones = 0x0101010101010101
	i := 0
	for ; i+8 <= len(text); i += 8 {
		w := text[i : i+8]
		word := uint64(w[0]) | uint64(w[1])<<8 | uint64(w[2])<<16 | uint64(w[3])<<24 | uint64(w[4])<<32 | uint64(w[5])<<40 | uint64(w[6])<<48 | uint64(w[7])<<56
		amp, angle, far := word^'&'*ones, (word|2*ones)^'>'*ones, word^0xEF*ones // < and > differ in one bit
		if ((amp-ones)&^amp|(angle-ones)&^angle|(far-ones)&^far|(word-0x20*ones)&^word)&(0x80*ones) != 0 {
			return false
		}
	}
	for ; i < len(text); i++ {
		if c := text[i]; c == '&' || c|2 == '>' || c == 0xEF || c < 0x20 {
			return false
		}
	}
	return true
}

// Respell spells the text between the tags of a piece of XML as escape does, and
// leaves the tags as they stand. A piece with a CDATA section, a comment or
// something wrong in it stays whole.
func Respell(raw string, escape func(text string) string) string {
	if strings.IndexByte(raw, '<') < 0 {
		return escape(New(raw).Unescape(0, len(raw)))
	}
	var out strings.Builder
	s := New(raw)
	for s.Next() {
		switch s.Kind {
		case Text:
			out.WriteString(escape(s.Unescape(s.From, s.To)))
		case Start, End:
			out.WriteString(raw[s.From:s.To])
		default:
			return raw
		}
	}
	if len(s.Faults) > 0 {
		return raw
	}
	return out.String()
}

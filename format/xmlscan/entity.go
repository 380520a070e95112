package xmlscan

import (
	"fmt"
	"strconv"
	"strings"
	"unicode/utf8"
)

var predefined = map[string]string{"lt": "<", "gt": ">", "amp": "&", "quot": `"`, "apos": "'"}

// Unescape decodes the entities in a stretch of the document and reports those
// that are none; these stay as they stand. Line ends become LF, but for those
// that are spelled as entities.
func (s *Scanner) Unescape(from, to int) string {
	raw := s.data[from:to]
	if strings.IndexByte(raw, '&') < 0 {
		return LineEnds(raw)
	}
	var out strings.Builder
	out.Grow(len(raw))
	for i := 0; i < len(raw); {
		if raw[i] == '\r' {
			if !strings.HasPrefix(raw[i+1:], "\n") {
				out.WriteByte('\n')
			}
			i++
			continue
		}
		if raw[i] != '&' {
			out.WriteByte(raw[i])
			i++
			continue
		}
		text, size := s.Entity(raw[i:])
		if size == 0 {
			s.fault(from+i, "an & that begins no entity", "write &amp;")
			out.WriteByte('&')
			i++
			continue
		}
		if text == "" {
			s.fault(from+i, fmt.Sprintf("the entity %s is not known to XML", raw[i:i+size]), "write the character itself or a number such as &#160;")
			text = raw[i : i+size]
		}
		out.WriteString(text)
		i += size
	}
	return out.String()
}

// Entity decodes the entity that raw begins with. Size 0 means that there is
// none, an empty text that it is not known.
func (s *Scanner) Entity(raw string) (text string, size int) {
	end := strings.IndexByte(raw[:min(len(raw), 64)], ';')
	if end < 2 {
		return "", 0
	}
	name := raw[1:end]
	if name[0] == '#' {
		digits, base := name[1:], 10
		if strings.HasPrefix(digits, "x") {
			digits, base = digits[1:], 16
		}
		n, err := strconv.ParseUint(digits, base, 32)
		if err != nil || n == 0 || n > utf8.MaxRune || n >= 0xD800 && n < 0xE000 {
			return "", end + 1
		}
		return string(rune(n)), end + 1
	}
	for i := 0; i < len(name); i++ {
		if !nameByte(name[i]) {
			return "", 0
		}
	}
	if text, ok := predefined[name]; ok {
		return text, end + 1
	}
	return s.Entities[name], end + 1
}

package terminal

import (
	"bytes"
	"fmt"
	"io"
	"math/rand/v2"
	"strings"
	"unicode/utf8"

	"zelvik/message"
)

// sign is a number that stands in every colour sequence of this run, between
// the printer and the screen: what comes from files cannot know it, so that no
// sequence of theirs passes.
var sign = fmt.Sprintf("\x1b[%d;", 100_000+rand.Uint32N(900_000))

// safe is a writer for people: colour sequences of our own pass, all other
// control characters are shown as \u001b. Line ends and tabs are kept.
type safe struct{ io.Writer }

// Write writes data; it gives its length, whatever was written for it.
func (s safe) Write(data []byte) (int, error) {
	if !suspicious(data) {
		return s.Writer.Write(data)
	}
	_, err := s.Writer.Write(cleaned(data))
	return len(data), err
}

// suspicious reports whether data may hold control characters: C0, DEL, or the
// lead bytes of the others.
func suspicious(data []byte) bool {
	for _, c := range data {
		if c < 0x20 && c != '\n' && c != '\t' || c >= 0x7f {
			return true
		}
	}
	return false
}

func cleaned(data []byte) []byte {
	out := make([]byte, 0, len(data)+32)
	for len(data) > 0 {
		if bytes.HasPrefix(data, []byte(sign)) {
			out, data = append(out, "\x1b["...), data[len(sign):]
			continue
		}
		r, size := utf8.DecodeRune(data)
		switch {
		case r != '\n' && r != '\t' && message.Control(r):
			out = fmt.Appendf(out, `\u%04x`, r)
		case r == utf8.RuneError && size == 1:
			out = append(out, "\uFFFD"...)
		default:
			out = append(out, data[:size]...)
		}
		data = data[size:]
	}
	return out
}

// Visible makes the control characters of a text visible, line ends and tabs as
// signs of their own, so that it stays on its line.
func Visible(s string) string {
	if !suspicious([]byte(s)) && !strings.ContainsAny(s, "\n\t") {
		return s
	}
	var out strings.Builder
	for i, r := range s {
		switch {
		case strings.HasPrefix(s[i:], sign), r == utf8.RuneError && !utf8.ValidString(s[i:min(i+1, len(s))]) && s[i] >= utf8.RuneSelf:
			out.WriteRune(r)
		case r == '\n':
			out.WriteString("⏎")
		case r == '\r' && strings.HasPrefix(s[i+1:], "\n"):
		case r == '\t':
			out.WriteString("⇥")
		case message.Control(r):
			fmt.Fprintf(&out, `\u%04x`, r)
		default:
			out.WriteRune(r)
		}
	}
	return out.String()
}

// Passed lets the colours pass of what another printer printed.
func Passed(text string) string { return strings.ReplaceAll(text, "\x1b[", sign) }

// EscapeJSON spells the control characters in JSON as escapes, which
// encoding/json leaves as they are: DEL, C1, and those of the bidirectional
// algorithm. They stand in strings alone.
func EscapeJSON(data []byte) []byte {
	var out []byte
	from := 0
	for i := 0; i < len(data); {
		if data[i] < 0x7f {
			i++
			continue
		}
		r, size := utf8.DecodeRune(data[i:])
		if message.Control(r) {
			out = fmt.Appendf(append(out, data[from:i]...), `\u%04x`, r)
			from = i + size
		}
		i += size
	}
	if from == 0 {
		return data
	}
	return append(out, data[from:]...)
}

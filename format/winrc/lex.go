package winrc

import (
	"fmt"
	"slices"
	"strings"

	"zelvik/format/doc"
)

// next reads the next token; preprocessor lines and comments are skipped, but
// a comment on lines of its own is remembered.
func (p *parser) next() bool {
	p.comment, p.note = "", doc.Nowhere
	for p.at < len(p.src) {
		c := p.src[p.at]
		switch {
		case c == ' ' || c == '\t' || c == '\r' || c == '\n' || c == ',' || c == '\f':
			p.at++
		case c == '#' && p.lineStart():
			p.comment, p.note = "", doc.Nowhere
			p.line()
		case strings.HasPrefix(p.src[p.at:], "//"):
			own, from := p.lineStart(), p.at
			p.line()
			p.remember(own, from, p.at, strings.TrimSpace(p.src[from+2:p.at]))
		case strings.HasPrefix(p.src[p.at:], "/*"):
			own, from := p.lineStart(), p.at
			end := strings.Index(p.src[p.at+2:], "*/")
			if end < 0 {
				p.Damaged(from, "", "a comment that is not closed", "add */")
				p.at = len(p.src)
				break
			}
			p.at += end + 4
			p.remember(own, from, p.at, strings.TrimSpace(p.src[from+2:p.at-2]))
		case c == '"' || (c == 'L' || c == 'l') && strings.HasPrefix(p.src[p.at+1:], `"`):
			p.string()
			return true
		case wordByte(c):
			from := p.at
			for p.at < len(p.src) && wordByte(p.src[p.at]) {
				p.at++
			}
			p.token = token{word, from, p.at, p.src[from:p.at]}
			return true
		default:
			p.token = token{sign, p.at, p.at + 1, p.src[p.at : p.at+1]}
			p.at++
			return true
		}
	}
	p.token = token{kind: eof, from: p.at, to: p.at}
	return false
}

func (p *parser) remember(own bool, from, to int, text string) {
	if !own {
		return
	}
	if !p.note.There() {
		p.note.From, p.comment = from, text
	} else {
		p.comment += "\n" + text
	}
	p.note.To = to
	// A blank line parts the comment from what follows.
	rest := strings.TrimLeft(p.src[to:], " \t\r")
	if rest, ok := strings.CutPrefix(rest, "\n"); ok && strings.HasPrefix(strings.TrimLeft(rest, " \t\r"), "\n") {
		p.note, p.comment = doc.Nowhere, ""
	}
}

func wordByte(c byte) bool {
	return c == '_' || c >= '0' && c <= '9' || c|0x20 >= 'a' && c|0x20 <= 'z' || c >= 0x80 || c == '.'
}

// lineStart reports whether nothing stands before the current place on its
// line.
func (p *parser) lineStart() bool {
	start := strings.LastIndexByte(p.src[:p.at], '\n') + 1
	return strings.TrimSpace(p.src[start:p.at]) == ""
}

// line skips the rest of the line; a backslash at its end takes in the next.
func (p *parser) line() {
	for p.at < len(p.src) && p.src[p.at] != '\n' {
		if p.src[p.at] == '\\' && strings.HasPrefix(strings.TrimLeft(p.src[p.at+1:], "\r"), "\n") {
			p.at += strings.IndexByte(p.src[p.at:], '\n')
		}
		p.at++
	}
	for p.at > 0 && p.src[p.at-1] == '\r' {
		p.at--
		break
	}
}

// string reads a string: "" is a quote, and there are C's escapes.
func (p *parser) string() {
	from := p.at
	if p.src[p.at] != '"' {
		p.at++
	}
	p.at++
	var out strings.Builder
	for p.at < len(p.src) {
		c := p.src[p.at]
		switch {
		case c == '"' && strings.HasPrefix(p.src[p.at+1:], `"`):
			out.WriteByte('"')
			p.at += 2
		case c == '"':
			p.at++
			p.token = token{str, from, p.at, out.String()}
			return
		case c == '\\':
			p.escape(&out)
		case c == '\n' || c == '\r':
			p.Damaged(from, "", "a quote that is not closed", `add "; a line break in a text is \n`)
			p.token = token{str, from, p.at, out.String()}
			return
		default:
			out.WriteByte(c)
			p.at++
		}
	}
	p.Damaged(from, "", "a quote that is not closed", `add "`)
	p.token = token{str, from, p.at, out.String()}
}

func (p *parser) escape(out *strings.Builder) {
	at := p.at + 1
	if at >= len(p.src) {
		p.at = at
		return
	}
	c := p.src[at]
	p.at = at + 1
	switch c {
	case 'n':
		out.WriteByte('\n')
	case 't':
		out.WriteByte('\t')
	case 'r':
		out.WriteByte('\r')
	case 'a':
		out.WriteByte('\b') // as the resource compiler does
	case '\\':
		out.WriteByte('\\')
	case '"': // "\""" and "\"" are both seen
		out.WriteByte('"')
		if strings.HasPrefix(p.src[p.at:], `"`) && strings.Count(restOfLine(p.src[p.at:]), `"`)%2 == 0 {
			p.at++
		}
	case '\r', '\n': // the text goes on in the next line
		if c == '\r' && strings.HasPrefix(p.src[p.at:], "\n") {
			p.at++
		}
	case 'x', 'X':
		n, size := doc.Hexadecimal(p.src[p.at:], 4)
		if size == 0 {
			p.wrong(p.at-2, `\x without hexadecimal digits`, `write \\ for a backslash`)
			out.WriteString(`\x`)
			return
		}
		out.WriteRune(rune(n))
		p.at += size
	default:
		if n, size := doc.Octal(p.src[at:]); size > 0 {
			out.WriteRune(n)
			p.at = at + size
			return
		}
		p.wrong(at-1, fmt.Sprintf(`\%c is no escape`, c), `write \\ for a backslash`)
		out.WriteByte('\\')
		out.WriteByte(c)
	}
}

// wrong reports an escape in a text that is shown.
func (p *parser) wrong(offset int, text string, fix string) {
	if p.shown {
		p.Report("escape-wrong", offset, "", text, fix)
	}
}

func restOfLine(text string) string {
	line, _, _ := strings.Cut(text, "\n")
	return line
}

func (p *parser) is(words ...string) bool {
	return p.kind == word && slices.ContainsFunc(words, func(w string) bool { return strings.EqualFold(p.text(), w) }) ||
		p.kind == sign && slices.Contains(words, p.text())
}

func (p *parser) text() string { return p.token.text }

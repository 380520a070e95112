package strings

import (
	"fmt"
	"strings"
	"unicode/utf8"

	"zelvik/catalog"
	"zelvik/finding"
	"zelvik/format"
	"zelvik/format/charset"
	"zelvik/format/doc"
	"zelvik/format/plist"
	"zelvik/internal/fast"
	"zelvik/message"
	"zelvik/message/printf"
)

// document is a table that was read.
type document struct {
	doc.One
	slots []doc.Slot
	// property says that the file is a property list of another form, which
	// is read and not edited.
	property bool
}

type parser struct {
	*document
	src string
	at  int
	format.Reader
	texts    []format.Spelled
	note     string
	noteFrom int
	noteTo   int
}

func parse(data []byte) (format.Document, []finding.Finding) {
	p := &parser{document: &document{One: doc.NewOne(data)}, noteFrom: -1}
	p.src = p.Text()
	p.Reader = format.NewReader(p.src)
	switch {
	case plist.IsBinary(data):
		p.Coded = &charset.Text{Bad: -1}
		p.binary(data)
		return p.document, p.Done()
	case charset.Binary(data):
		p.Damaged(0, "", "the file is binary, no text", "give a .strings file")
		return p.document, p.Done()
	}
	p.Coded.Faults(p.Report, "save it as UTF-8")
	head := strings.TrimLeft(p.src[:min(len(p.src), 400)], " \t\r\n")
	if strings.HasPrefix(head, "<?xml") || strings.HasPrefix(head, "<!DOCTYPE plist") || strings.HasPrefix(head, "<plist") {
		p.xml()
	} else {
		p.run()
		p.Texts(p.Catalog.Entries, p.texts, false, readFaults)
	}
	return p.document, p.Done()
}

// binary and xml read the other forms of property lists.
func (p *parser) binary(data []byte) {
	p.property = true
	pairs, err := plist.Binary(data)
	if err != nil {
		p.Damaged(0, "", "the binary property list is damaged: "+err.Error(), "write it again from its source")
	}
	for _, pair := range pairs {
		p.Catalog.Add(catalog.Entry{Key: pair.Key, Message: read(pair.Text)})
	}
}

func (p *parser) xml() {
	p.property = true
	root, faults := plist.Parse(p.src)
	for _, f := range faults {
		p.Damaged(f.Offset, "", f.Text, f.Fix)
	}
	for _, m := range root.Members {
		if m.Value.Kind == plist.String {
			p.Catalog.Add(catalog.Entry{Key: m.Key, Message: read(m.Value.Text), Offset: m.From})
		}
	}
}

// run reads the old form: comments and key = value;.
func (p *parser) run() {
	braces := 0
	for {
		p.space()
		if p.at >= len(p.src) {
			if braces > 0 {
				p.Damaged(p.at, "", "a brace that is not closed", "add }")
			}
			return
		}
		switch c := p.src[p.at]; c {
		case '{':
			braces++
			p.at++
			continue
		case '}':
			if braces--; braces < 0 {
				braces = 0
				p.Damaged(p.at, "", "a closing brace without an opening one", "remove it")
			}
			p.at++
			continue
		case ';':
			p.Damaged(p.at, "", "a semicolon too many", "remove it")
			p.at++
			continue
		}
		p.entry()
		p.note, p.noteFrom = "", -1
	}
}

// space skips white space and comments and keeps the last comment as a note:
// a blank line after it parts it from the entry.
func (p *parser) space() {
	breaks := 0
	for p.at < len(p.src) {
		switch c := p.src[p.at]; {
		case c == '\n':
			if breaks++; breaks > 1 {
				p.note, p.noteFrom = "", -1
			}
			p.at++
		case c == ' ' || c == '\t' || c == '\r' || c == '\f' || c == '\v':
			p.at++
		case c == 0xE2 && (strings.HasPrefix(p.src[p.at:], "\u2028") || strings.HasPrefix(p.src[p.at:], "\u2029")):
			p.at += 3
		case strings.HasPrefix(p.src[p.at:], "/*"):
			end := strings.Index(p.src[p.at+2:], "*/")
			if end < 0 {
				p.Damaged(p.at, "", "a comment that is not closed", "add */")
				p.at = len(p.src)
				return
			}
			p.comment(p.at, p.at+2+end+2, p.src[p.at+2:p.at+2+end])
			breaks = 0
		case strings.HasPrefix(p.src[p.at:], "//"):
			end := strings.IndexByte(p.src[p.at:], '\n')
			if end < 0 {
				end = len(p.src) - p.at
			}
			p.comment(p.at, p.at+end, strings.TrimRight(p.src[p.at+2:p.at+end], "\r"))
			breaks = 0
		default:
			return
		}
	}
}

func (p *parser) comment(from, to int, text string) {
	text = strings.TrimSpace(text)
	if strings.Contains(text, "\n") {
		rows := strings.Split(text, "\n")
		for i := range rows {
			rows[i] = strings.TrimSpace(rows[i])
		}
		text = strings.Join(rows, "\n")
	}
	if p.noteFrom >= 0 {
		p.note += "\n" + text
	} else {
		p.note, p.noteFrom = text, from
	}
	p.noteTo = to
	p.at = to
}

// bare reports whether a byte may stand in an unquoted string.
func bare(c byte) bool {
	return c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c >= '0' && c <= '9' || strings.IndexByte("_$/:.-", c) >= 0 || c >= 0x80
}

// word reads a quoted or bare string at the current place and gives its span
// and text; ok is false when there is none.
func (p *parser) word(next byte) (from, to int, text string, ok bool) {
	from = p.at
	if p.at >= len(p.src) {
		return from, from, "", false
	}
	if p.src[p.at] != '"' {
		for p.at < len(p.src) && bare(p.src[p.at]) && !strings.HasPrefix(p.src[p.at:], "/*") && !strings.HasPrefix(p.src[p.at:], "//") {
			p.at++
		}
		return from, p.at, p.src[from:p.at], p.at > from
	}
	end := quoteEnd(p.src, from+1)
	// A quote that runs over a line and is not followed by what belongs after
	// it was not closed on its own line.
	inside := p.src[from:]
	if end >= 0 {
		inside = p.src[from:end]
	}
	line := strings.IndexByte(inside, '\n')
	if end < 0 || line >= 0 && !p.follows(end+1, next) {
		stop := len(p.src)
		if line >= 0 {
			stop = from + line
		}
		p.Damaged(from, "", "a quote that is not closed", `add "`)
		p.at = stop
		raw := strings.TrimRight(p.src[from+1:stop], " \t\r")
		return from, stop, p.unescape(strings.TrimSuffix(raw, ";"), from+1), true
	}
	p.at = end + 1
	return from, p.at, p.unescape(p.src[from+1:end], from+1), true
}

// quoteEnd returns the place of the closing quote, or -1.
func quoteEnd(src string, at int) int {
	for at < len(src) {
		i := strings.IndexAny(src[at:], `"\`)
		if i < 0 {
			return -1
		}
		if src[at+i] == '"' {
			return at + i
		}
		at += i + 2
	}
	return -1
}

// follows reports whether the byte, or the end of the file, comes next.
func (p *parser) follows(at int, c byte) bool {
	rest := strings.TrimLeft(p.src[at:], " \t\r\n")
	return rest == "" || rest[0] == c || strings.HasPrefix(rest, "/*") || c == ';' && rest[0] == '}'
}

// line skips to the end of the line.
func (p *parser) line() {
	if end := strings.IndexByte(p.src[p.at:], '\n'); end >= 0 {
		p.at += end
	} else {
		p.at = len(p.src)
	}
}

// entry reads key = value; at the current place.
func (p *parser) entry() {
	s := doc.Slot{Whole: doc.Span{From: p.at}, Note: doc.Nowhere}
	note := p.note
	if p.noteFrom >= 0 {
		s.Note = doc.Span{From: p.noteFrom, To: p.noteTo}
	}
	keyFrom, keyTo, key, ok := p.word('=')
	if !ok {
		p.Damaged(p.at, "", fmt.Sprintf("%q where a key belongs", firstRune(p.src[p.at:])), "put keys and texts in double quotes")
		p.line()
		return
	}
	s.Key = doc.Span{From: keyFrom, To: keyTo}
	p.blank()
	value := key
	switch {
	case p.at < len(p.src) && p.src[p.at] == '=':
		p.at++
		p.blank()
		from, to, text, ok := p.word(';')
		if !ok {
			p.Damaged(p.at, key, fmt.Sprintf("the text of %q is missing", key), `write "..." after the =`)
			p.line()
			return
		}
		s.Value = doc.Span{From: from, To: to}
		value = text
	case p.at < len(p.src) && p.src[p.at] == ';':
		s.Value = doc.Span{From: keyTo, To: keyTo}
	default:
		p.Damaged(p.at, key, fmt.Sprintf("a = is missing after the key %q", key), `write "key" = "text";`)
		p.line()
		return
	}
	end := p.at
	p.blank()
	if p.at < len(p.src) && p.src[p.at] == ';' {
		p.at++
		end = p.at
	} else {
		p.Damaged(end, key, fmt.Sprintf("a semicolon is missing after the text of %q", key), "add ;")
		p.at = end
	}
	s.Whole.To = end
	note = p.trail(&s, generated(note))
	p.Once(key, key, keyFrom)
	p.Catalog.Entries = fast.Append(p.Catalog.Entries, catalog.Entry{Key: key, Note: note, Offset: keyFrom})
	p.texts = fast.Append(p.texts, format.Spelled{Text: value, Offset: s.Value.From})
	p.slots = fast.Append(p.slots, s)
}

// trail reads a comment after an entry, at the end of its line, as part of its
// note.
func (p *parser) trail(s *doc.Slot, note string) string {
	from := p.at
	for from < len(p.src) && (p.src[from] == ' ' || p.src[from] == '\t') {
		from++
	}
	comment := p.src[from:]
	size, text := 0, ""
	switch {
	case strings.HasPrefix(comment, "//"):
		line, _, _ := strings.Cut(comment, "\n")
		line = strings.TrimRight(line, " \t\r")
		size, text = len(line), line[2:]
	case strings.HasPrefix(comment, "/*"):
		inner, rest, ok := strings.Cut(comment[2:], "*/")
		if rest = strings.TrimLeft(rest, " \t\r"); !ok || strings.IndexByte(inner, '\n') >= 0 || rest != "" && rest[0] != '\n' {
			return note
		}
		size, text = len(inner)+4, inner
	default:
		return note
	}
	s.Trail = doc.Span{From: from, To: from + size}
	p.at = s.Trail.To
	if text = strings.TrimSpace(text); note == "" {
		return text
	}
	return note + "\n" + text
}

// generated drops the comment that Apple's extraction writes where there is none.
func generated(note string) string {
	if note == "No comment provided by engineer." {
		return ""
	}
	return note
}

func firstRune(text string) string {
	_, size := utf8.DecodeRuneInString(text)
	return text[:size]
}

// blank skips white space and comments inside an entry.
func (p *parser) blank() {
	note, from, to := p.note, p.noteFrom, p.noteTo
	p.space()
	p.note, p.noteFrom, p.noteTo = note, from, to
}

// read makes a message of a decoded value.
func read(text string) message.Message {
	m, _ := readFaults(text)
	return m
}

func readFaults(text string) (message.Message, []message.Fault) {
	p, faults := printf.Foundation.Parse(text)
	return message.Message{Pattern: p}, faults
}

// unescape decodes backslash escapes (property list syntax: C escapes, octal,
// \U and four hexadecimal digits).
func (p *parser) unescape(raw string, from int) string {
	if strings.IndexByte(raw, '\\') < 0 {
		return raw
	}
	var out strings.Builder
	for i := 0; i < len(raw); i++ {
		if raw[i] != '\\' {
			out.WriteByte(raw[i])
			continue
		}
		if i++; i >= len(raw) {
			out.WriteByte('\\')
			break
		}
		c := raw[i]
		if control, ok := doc.Control(c); ok {
			out.WriteByte(control)
			continue
		}
		switch c {
		case '"', '\'', '\\', '\n', '?':
			out.WriteByte(c)
		case 'U', 'u':
			r, size, _ := doc.UTF16(raw[i+1:])
			if size == 0 {
				p.Report("escape-wrong", from+i-1, "", fmt.Sprintf(`\%c without four hexadecimal digits`, c), `write \U00e9 or the character itself`)
				out.WriteByte(c)
				continue
			}
			out.WriteRune(r)
			i += size
		case '0', '1', '2', '3', '4', '5', '6', '7':
			n, size := doc.Octal(raw[i:])
			out.WriteRune(n)
			i += size - 1
		default:
			p.Report("escape-wrong", from+i-1, "", fmt.Sprintf(`\%s is no escape`, firstRune(raw[i:])), `write \\ for a backslash`)
			i--
			_, size := utf8.DecodeRuneInString(raw[i+1:])
			out.WriteString(raw[i+1 : i+1+size])
			i += size
		}
	}
	return out.String()
}

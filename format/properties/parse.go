package properties

import (
	"strings"
	"unicode/utf8"

	"zelvik/catalog"
	"zelvik/finding"
	"zelvik/format"
	"zelvik/format/charset"
	"zelvik/format/doc"
	"zelvik/internal/fast"
)

// document is a properties file that was read.
type document struct {
	doc.One
	slots []doc.Slot
	// escaped says that characters beyond ASCII are written as \uXXXX.
	escaped bool
}

type parser struct {
	*document
	format.Reader
	src   string
	at    int
	texts []format.Spelled
}

func parse(data []byte) (format.Document, []finding.Finding) {
	text := charset.Decode(data)
	if text.Encoding == charset.UTF8 && text.Bad >= 0 && !charset.Binary(data) {
		text = charset.DecodeIn(data, "iso-8859-1") // what Properties.load takes a stream of bytes for
	}
	p := &parser{document: &document{One: doc.One{Coded: text, Catalog: &catalog.Catalog{}}}}
	p.src = p.Text()
	p.Reader = format.NewReader(p.src)
	if charset.Binary(data) {
		p.Damaged(0, "", "the file is binary, no text", "give a .properties file")
		return p.document, p.Done()
	}
	text.Faults(p.Report, "save it as UTF-8")
	p.escaped = text.Encoding == charset.Page || !strings.ContainsFunc(p.src, func(r rune) bool { return r >= utf8.RuneSelf })
	if text.BOM && text.Encoding == charset.UTF8 {
		p.escaped = false
	}
	p.lines()
	p.Texts(p.Catalog.Entries, p.texts, true, read)
	return p.document, p.Done()
}

// lines goes through the file.
func (p *parser) lines() {
	comment := doc.Nowhere
	var note []string
	for p.at < len(p.src) {
		start := p.at
		p.blankOver() // Java takes a continued line with nothing in it for none
		if p.at >= len(p.src) {
			return
		}
		switch c := p.src[p.at]; {
		case c == '\n' || c == '\r':
			p.lineEnd()
			comment, note = doc.Nowhere, nil
		case c == '#' || c == '!':
			if !comment.There() {
				comment.From = start
			}
			end := p.at
			for end < len(p.src) && p.src[end] != '\n' && p.src[end] != '\r' {
				end++
			}
			note = append(note, p.comment(p.src[p.at:end]))
			p.at, comment.To = end, end
			p.lineEnd()
		default:
			p.entry(doc.Slot{Note: comment, Whole: doc.Span{From: p.at}}, strings.TrimSpace(strings.Join(note, "\n")))
			comment, note = doc.Nowhere, nil
		}
	}
}

// comment returns the text of a comment's line. In a file that escapes characters
// comments have them escaped, too, though Java does not read them.
func (p *parser) comment(line string) string {
	line = strings.TrimSpace(strings.TrimLeft(line, "#!"))
	if !p.escaped || !strings.Contains(line, `\u`) {
		return line
	}
	inner := &parser{document: &document{}, Reader: format.NewReader(line), src: line}
	var out strings.Builder
	for inner.at < len(line) {
		if digits, ok := strings.CutPrefix(line[inner.at:], `\u`); ok && hasUTF16(digits) {
			inner.at += 2
			inner.unicode(&out, "")
			continue
		}
		out.WriteByte(line[inner.at])
		inner.at++
	}
	return out.String()
}

func (p *parser) blank() {
	for p.at < len(p.src) && strings.IndexByte(" \t\f", p.src[p.at]) >= 0 {
		p.at++
	}
}

func (p *parser) lineEnd() {
	if strings.HasPrefix(p.src[p.at:], "\r\n") {
		p.at += 2
	} else if p.at < len(p.src) {
		p.at++
	}
}

// entry reads key and value, over continued lines.
func (p *parser) entry(s doc.Slot, note string) {
	key := p.read(" \t\f=:", "")
	s.Key = doc.Span{From: s.Whole.From, To: p.at}
	p.blankOver()
	if p.at < len(p.src) && (p.src[p.at] == '=' || p.src[p.at] == ':') {
		p.at++
		p.blankOver()
	}
	s.Value.From = p.at
	value := p.read("", key)
	s.Whole.To, s.Value.To = p.at, p.at
	p.lineEnd()
	p.Once(key, key, s.Whole.From)
	p.Catalog.Entries = fast.Append(p.Catalog.Entries, catalog.Entry{Key: key, Note: note, Offset: s.Whole.From})
	p.texts = fast.Append(p.texts, format.Spelled{Text: value, Offset: s.Value.From})
	p.slots = fast.Append(p.slots, s)
}

// blankOver skips white space, and line ends that a backslash takes away.
func (p *parser) blankOver() {
	for {
		p.blank()
		if !p.continued() {
			return
		}
	}
}

// continued skips a backslash with its line end and the white space that the
// next line begins with.
func (p *parser) continued() bool {
	if p.at+1 >= len(p.src) || p.src[p.at] != '\\' || p.src[p.at+1] != '\n' && p.src[p.at+1] != '\r' {
		return false
	}
	p.at++
	p.lineEnd()
	p.blank()
	return true
}

// read reads up to a character of stops or the line end, and decodes escapes.
func (p *parser) read(stops, key string) string {
	start := p.at
	for p.at < len(p.src) && p.src[p.at] != '\\' && p.src[p.at] != '\n' && p.src[p.at] != '\r' && strings.IndexByte(stops, p.src[p.at]) < 0 {
		p.at++
	}
	if p.at >= len(p.src) || p.src[p.at] != '\\' {
		return p.src[start:p.at]
	}
	var out strings.Builder
	out.WriteString(p.src[start:p.at])
	for p.at < len(p.src) {
		c := p.src[p.at]
		if c == '\n' || c == '\r' || strings.IndexByte(stops, c) >= 0 {
			break
		}
		if c != '\\' {
			out.WriteByte(c)
			p.at++
			continue
		}
		if p.continued() {
			continue
		}
		p.at++
		if p.at >= len(p.src) {
			break
		}
		c = p.src[p.at]
		p.at++
		switch c {
		case 'n':
			out.WriteByte('\n')
		case 't':
			out.WriteByte('\t')
		case 'r':
			out.WriteByte('\r')
		case 'f':
			out.WriteByte('\f')
		case 'u':
			p.unicode(&out, key)
		default:
			out.WriteByte(c)
		}
	}
	return out.String()
}

// unicode reads the digits of \uXXXX, and a second half of a pair.
func (p *parser) unicode(out *strings.Builder, key string) {
	r, size, half := doc.UTF16(p.src[p.at:])
	if size == 0 {
		p.Damaged(p.at-2, key, `\u without four hexadecimal digits, which Java refuses to load`, `write \u00e9 or the character itself`)
		out.WriteString(`\u`)
		return
	}
	if half {
		p.Report("escape-wrong", p.at-2, key, "half a character, of two that make one", `write both halves, \ud83d\ude00, or the character itself`)
	}
	p.at += size
	out.WriteRune(r)
}

func hasUTF16(digits string) bool {
	_, size, _ := doc.UTF16(digits)
	return size > 0
}

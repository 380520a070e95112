package android

import (
	"fmt"
	"strconv"
	"strings"

	"zelvik/format/xmlscan"
	"zelvik/message"
	"zelvik/message/printf"
)

// span is the content of an element.
type span struct {
	from, to int
	// plain says that no tag, comment or CDATA section is in it; percent that
	// there may be placeholders.
	plain, percent bool
}

// content reads up to the end tag of the element just begun.
func (p *parser) content(name string) span {
	s := span{from: p.To, to: p.To, plain: true}
	end := strings.IndexByte(p.src[s.from:], '<')
	if end >= 0 && p.Shut(s.from+end, name) {
		s.to = s.from + end
	} else {
		s.plain = false
		for depth := len(p.Open); len(p.Open) >= depth && p.Next(); {
			s.to = p.From
			if p.Kind == xmlscan.Start && (p.Name == "string" || p.Name == "plurals" || p.Name == "string-array" || p.Name == "item") {
				// The end tag is missing: the next element has begun.
				p.Back()
				p.Close(name)
				break
			}
			if p.Kind != xmlscan.End {
				s.to = p.To
			}
		}
	}
	s.percent = strings.IndexByte(p.src[s.from:s.to], '%') >= 0
	return s
}

// special marks the bytes that keep a raw value from being its own text.
var special = func() (table [256]bool) {
	for _, c := range "\\\"'&<\t\n\r" {
		table[c] = true
	}
	return table
}()

// plainText returns raw itself when decoding would change nothing.
func plainText(raw string) (string, bool) {
	space := true
	for i := 0; i < len(raw); i++ {
		c := raw[i]
		if special[c] || c == ' ' && space {
			return "", false
		}
		space = c == ' '
	}
	return raw, raw == "" || !space
}

// decoder turns content into a pattern as Android's resource compiler does:
// entities first, then white space is folded outside quotes, and backslash
// escapes are read.
type decoder struct {
	*parser
	key     string
	reader  *printf.Reader
	pattern message.Pattern
	out     []byte
	// gap says that white space was seen and not yet written; begun that
	// something was written before it; spaced that it was a folded space.
	gap, begun, spaced, quoted bool
	quoteAt                    int
}

func (d *decoder) decode(s span) message.Pattern {
	raw, simple := "", false
	for s.to > s.from && strings.IndexByte(" \t\r\n", d.src[s.to-1]) >= 0 { // goes before quotes and escapes are read
		s.to--
	}
	if s.plain {
		raw, simple = plainText(d.src[s.from:s.to])
	}
	switch {
	case simple:
		d.pattern = d.reader.Read(d.room(4), raw)
	case s.plain:
		d.text(s.from, s.to, false)
	default:
		d.nested(s)
	}
	d.flush()
	if d.quoted {
		d.Report("escape-wrong", d.quoteAt, d.key, "a quote that is not closed", `write \" for a quote that is shown`)
	}
	for _, f := range d.reader.Faults {
		d.Report(f.Rule, s.from, d.key, f.Text, f.Fix)
	}
	return d.pattern
}

// group is an element of the content that is open.
type group struct {
	tag  xmlscan.Token
	at   int // length of the pattern before it
	g    bool
	name string
	eg   string
}

// nested decodes content with tags in it.
func (d *decoder) nested(s span) {
	inner := xmlscan.New(d.src[:s.to])
	inner.Entities = d.Entities
	inner.Seek(s.from)
	var open []group
	for inner.Next() {
		switch inner.Kind {
		case xmlscan.Text:
			d.text(inner.From, inner.To, false)
		case xmlscan.CDATA:
			d.text(inner.InnerFrom, inner.InnerTo, true)
		case xmlscan.Start:
			d.space()
			d.flush()
			g := group{tag: inner.Token, at: len(d.pattern)}
			if _, local, ok := strings.Cut(inner.Name, ":"); ok && local == "g" {
				g.g = true
				g.name, _ = inner.Value("id")
				g.eg, _ = inner.Value("example")
			}
			attributes := strings.TrimSuffix(strings.TrimSuffix(d.src[inner.From+1+len(inner.Name):inner.To], ">"), "/")
			tag := &message.Markup{Role: message.Open, Tag: inner.Name, Attributes: attributes, Spelling: d.src[inner.From:inner.To]}
			if inner.Lone {
				tag.Role = message.Lone
			}
			d.pattern = d.pattern.Add(tag)
			d.begun = d.begun || !g.g // the text begins inside of xliff:g
			if !inner.Lone {
				open = append(open, g)
			}
		case xmlscan.End:
			if len(open) > 0 && !open[len(open)-1].g { // after xliff:g the text goes on, or has ended
				d.space()
			}
			d.flush()
			if len(open) == 0 {
				continue
			}
			g := open[len(open)-1]
			open = open[:len(open)-1]
			if g.g && d.wrap(g, inner.To) {
				continue
			}
			d.pattern = d.pattern.Add(&message.Markup{Role: message.Close, Tag: inner.Name, Spelling: d.src[inner.From:inner.To]})
		}
	}
}

// wrap makes <xliff:g id="name" example="Ana">%1$s</xliff:g> one placeholder;
// false when there is something else in it.
func (d *decoder) wrap(g group, end int) bool {
	if len(d.pattern) != g.at+2 {
		return false
	}
	p, ok := d.pattern[g.at+1].(*message.Placeholder)
	if !ok {
		return false
	}
	if identifier(g.name) {
		p.Name = g.name
	}
	p.Sample, p.Wrapped, p.Spelling = g.eg, true, d.src[g.tag.From:end]
	d.pattern = append(d.pattern[:g.at], p)
	return true
}

func identifier(name string) bool {
	for i := 0; i < len(name); i++ {
		c := name[i]
		if !(c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c == '_' || i > 0 && c >= '0' && c <= '9') {
			return false
		}
	}
	return name != ""
}

// space writes the white space that is due.
func (d *decoder) space() {
	if d.gap && d.begun {
		d.out = append(d.out, ' ')
		d.spaced = true
	}
	d.gap = false
}

func (d *decoder) flush() {
	if len(d.out) > 0 {
		d.pattern = d.reader.Read(d.pattern, string(d.out))
		d.out = d.out[:0]
		d.begun = true
	}
}

// put writes a decoded character.
func (d *decoder) put(text string) {
	if d.gap && !d.spaced && (d.begun || len(d.out) > 0) {
		d.out = append(d.out, ' ')
	}
	d.gap, d.begun, d.spaced = false, true, false
	d.out = append(d.out, text...)
}

// text decodes a stretch of characters. In a CDATA section an ampersand is
// itself; all else is as outside of it.
func (d *decoder) text(from, to int, cdata bool) {
	for i := from; i < to; {
		c := d.src[i]
		text, size := d.src[i:i+1], 1
		if c == '&' && !cdata {
			text, size = d.Entity(d.src[i:to])
			if size == 0 || text == "" {
				if size == 0 {
					size = 1
				}
				d.Damaged(i, d.key, fmt.Sprintf("%s is no entity that XML knows", d.src[i:i+size]), "write &amp; for an ampersand, or the character itself")
				text = d.src[i : i+size]
			}
		}
		switch {
		case len(text) == 1 && strings.Contains(" \t\r\n", text):
			if d.quoted {
				if text == "\r" && i+1 < to && d.src[i+1] == '\n' {
					break
				}
				d.put(text)
			} else {
				d.gap = true
			}
		case text == `"`:
			d.quoted, d.quoteAt = !d.quoted, i
			if d.gap { // a quote ends the folding
				d.put("")
			}
			d.begun = true
		case text == "'":
			if !d.quoted {
				d.Report("escape-wrong", i, d.key, "an apostrophe without a backslash", `write \'`)
			}
			d.put(text)
		case text == `\`:
			size += d.escape(i+size, to)
		default:
			if size == 1 { // take the whole plain run
				for i+size < to && !special[d.src[i+size]] && d.src[i+size] != ' ' {
					size++
				}
				text = d.src[i : i+size]
			}
			d.put(text)
		}
		i += size
	}
}

// escape reads what follows a backslash and gives its size.
func (d *decoder) escape(i, to int) int {
	if i >= to {
		d.put("")
		d.Report("escape-wrong", i-1, d.key, "a backslash at the end", `write \\ for a backslash, \u0020 for a space`)
		return 0
	}
	switch c := d.src[i]; c {
	case 'n':
		d.put("\n")
	case 't':
		d.put("\t")
	case '\'', '"', '\\', '@', '?', '#':
		d.put(string(rune(c)))
	case ' ':
		d.put(" ")
	case '\n', '\r':
		d.put("\n")
		if strings.HasPrefix(d.src[i:to], "\r\n") {
			return 2
		}
	case 'u':
		if i+5 <= to {
			if n, err := strconv.ParseUint(d.src[i+1:i+5], 16, 32); err == nil {
				d.unicode(rune(n), i, to)
				if utf16High(rune(n)) && i+11 <= to && d.src[i+5] == '\\' && d.src[i+6] == 'u' {
					return 11
				}
				return 5
			}
		}
		d.Report("escape-wrong", i-1, d.key, `\u without four hexadecimal digits`, `write \u00e9 or the character itself`)
		d.put("u")
	case '&':
		text, size := d.Entity(d.src[i:to])
		d.put(text)
		return max(size, 1)
	default:
		d.Report("escape-wrong", i-1, d.key, fmt.Sprintf(`\%c is no escape`, c), `write \\ for a backslash`)
		if c >= 0x80 { // never split a character
			d.put("")
			return 0
		}
		d.put(string(rune(c)))
	}
	return 1
}

func utf16High(r rune) bool { return r >= 0xD800 && r < 0xDC00 }

// unicode writes \uXXXX, joining surrogates.
func (d *decoder) unicode(r rune, i, to int) {
	if utf16High(r) && i+11 <= to && d.src[i+5] == '\\' && d.src[i+6] == 'u' {
		if low, err := strconv.ParseUint(d.src[i+7:i+11], 16, 32); err == nil && low >= 0xDC00 && low < 0xE000 {
			r = (r-0xD800)<<10 + rune(low) - 0xDC00 + 0x10000
		}
	}
	if r >= 0xD800 && r < 0xE000 {
		r = 0xFFFD
	}
	d.put(string(r))
}

// escapeText writes literal text as a resource value. First says that it
// begins the value, last that it ends it: outer spaces need an escape there.
func escapeText(out []byte, text string, first, last bool) []byte {
	clean := true
	for i := 0; i < len(text); i++ {
		if c := text[i]; special[c] || c == '>' || c == '@' || c == '?' || c < ' ' || c == ' ' && (i == 0 || i == len(text)-1 || text[i-1] == ' ') {
			clean = false
			break
		}
	}
	if clean {
		return append(out, text...)
	}
	for i := 0; i < len(text); i++ {
		switch c := text[i]; c {
		case '\\', '\'', '"':
			out = append(out, '\\', c)
		case '\n':
			out = append(out, `\n`...)
		case '\t':
			out = append(out, `\t`...)
		case '&':
			out = append(out, "&amp;"...)
		case '<':
			out = append(out, "&lt;"...)
		case '>':
			if strings.HasSuffix(text[:i], "]]") {
				out = append(out, "&gt;"...)
			} else {
				out = append(out, c)
			}
		case '@', '?':
			if first && i == 0 {
				out = append(out, '\\')
			}
			out = append(out, c)
		case ' ':
			if first && i == 0 || last && i == len(text)-1 || i > 0 && text[i-1] == ' ' {
				out = append(out, `\u0020`...)
			} else {
				out = append(out, c)
			}
		default:
			if c < ' ' {
				out = fmt.Appendf(out, `\u%04x`, c)
			} else {
				out = append(out, c)
			}
		}
	}
	return out
}

// read makes a message of a text as a person types it: placeholders as in
// Java, tags as markup.
func read(text string) (message.Message, []message.Fault) {
	reader := printf.Reader{Dialect: printf.Java, Formatted: printf.Java.Formatted(text)}
	var out message.Pattern
	for _, part := range message.SplitMarkup(nil, text) {
		if text, ok := part.(message.Text); ok {
			out = reader.Read(out, string(text))
		} else {
			out = out.Add(part)
		}
	}
	return message.Message{Pattern: out}, reader.Faults
}

// Package jsonscan reads JSON into a tree with byte positions, tolerates the
// comments that editors allow, goes on after a fault and says precisely what
// is wrong.
package jsonscan

import (
	"fmt"
	"strconv"
	"strings"
	"unicode/utf16"

	"zelvik/format"
	"zelvik/format/charset"
	"zelvik/format/doc"
	"zelvik/internal/fast"
)

// Kind is the kind of a value.
type Kind uint8

// The kinds of values.
const (
	Null Kind = iota
	Bool
	Number
	String
	Array
	Object
)

// Value is one value and where it stands; offsets count bytes.
type Value struct {
	Kind     Kind
	From, To int
	// Text is a string's decoded text, or a number or literal as spelled.
	Text string
	// Members are an object's, in order; Items an array's.
	Members []Member
	Items   []Value
}

// Member is one key and value of an object.
type Member struct {
	Key            string
	KeyFrom, KeyTo int
	Value          Value
}

// Fault is something wrong in the document.
type Fault struct {
	// Mild says that the document is read all the same.
	Mild      bool
	Offset    int
	Text, Fix string
}

// Tell reports the faults of a document.
func Tell(r *format.Reader, faults []Fault) {
	for _, f := range faults {
		if f.Mild {
			r.Report("escape-wrong", f.Offset, "", f.Text, f.Fix)
		} else {
			r.Damaged(f.Offset, "", f.Text, f.Fix)
		}
	}
}

// Open begins to read a file and gives the value at its top. It is false, and
// told, where the data is no text: give says what to give instead.
func Open(text *charset.Text, data []byte, give string) (r format.Reader, root Value, ok bool) {
	src := text.String()
	r = format.NewReader(src)
	if charset.Binary(data) {
		r.Damaged(0, "", "the file is binary, no JSON text", "give "+give)
		return r, root, false
	}
	text.Faults(r.Report, "save it as UTF-8")
	root, faults := Parse(src)
	Tell(&r, faults)
	if root.Kind != Object && len(faults) == 0 {
		r.Damaged(root.From, "", "the file is no JSON object", `write {"key": "text"}`)
	}
	return r, root, true
}

// Find returns the last member with the key, which is the one that counts, or nil.
func (v *Value) Find(key string) *Value {
	for i := len(v.Members) - 1; i >= 0; i-- {
		if v.Members[i].Key == key {
			return &v.Members[i].Value
		}
	}
	return nil
}

// Index returns the place of the last member with the key, or -1.
func (v *Value) Index(key string) int {
	for i := len(v.Members) - 1; i >= 0; i-- {
		if v.Members[i].Key == key {
			return i
		}
	}
	return -1
}

const maxDepth = 200

type parser struct {
	data   string
	at     int
	depth  int
	faults []Fault
	// stop is where the first of two halves ends, 0 for nowhere; stopped says
	// that it came there, between two members.
	stop    int
	stopped bool
	// size is how long the document is, and spare for how many members there
	// may be room before they are read.
	size, spare int
	// stack holds the members of the objects that are being read, and slab is
	// what they are kept in: objects are many and mostly small.
	stack, slab []Member
}

// Parse reads a document, which is UTF-8 without a byte order mark.
func Parse(data string) (Value, []Fault) {
	if v := halves(data); v != nil {
		return *v, nil
	}
	p := &parser{data: data, size: len(data), spare: len(data) / 16}
	p.space()
	if p.at >= len(data) {
		p.fault(0, "the file is empty", "write {}")
		return Value{Kind: Null, From: p.at, To: p.at}, p.faults
	}
	v := p.value()
	p.space()
	if p.at < len(data) && len(p.faults) == 0 {
		p.fault(p.at, "something follows the end of the document", "remove it")
	}
	return v, p.faults
}

func (p *parser) fault(offset int, text, fix string) {
	if len(p.faults) < 1000 {
		p.faults = append(p.faults, Fault{false, offset, text, fix})
	}
}

// space skips white space and comments.
func (p *parser) space() {
	for p.at < len(p.data) {
		switch p.data[p.at] {
		case ' ', '\t', '\n', '\r':
			p.at++
			continue
		case '/':
			end := -1
			if rest := p.data[p.at:]; strings.HasPrefix(rest, "//") {
				end = strings.IndexByte(rest, '\n')
			} else if strings.HasPrefix(rest, "/*") {
				if end = strings.Index(rest[2:], "*/"); end >= 0 {
					end += 4
				}
			} else {
				return
			}
			if end < 0 {
				end = len(p.data) - p.at
			}
			p.at += end
			continue
		}
		return
	}
}

func (p *parser) value() Value {
	if p.depth++; p.depth > maxDepth {
		p.fault(p.at, fmt.Sprintf("values nested more than %d deep", maxDepth), "flatten the document")
		p.at = len(p.data)
		return Value{From: p.at, To: p.at}
	}
	defer func() { p.depth-- }()
	v := Value{From: p.at}
	if p.at >= len(p.data) {
		p.fault(p.at, "a value is missing at the end of the file", "add it")
		v.To = p.at
		return v
	}
	switch c := p.data[p.at]; c {
	case '{':
		v.Kind = Object
		p.object(&v)
	case '[':
		v.Kind = Array
		p.array(&v)
	case '"':
		v.Kind = String
		v.Text = p.str()
	default:
		for p.at < len(p.data) && strings.IndexByte(" \t\r\n,:{}[]\"/", p.data[p.at]) < 0 {
			p.at++
		}
		v.Text = p.data[v.From:p.at]
		switch {
		case v.Text == "null":
		case v.Text == "true" || v.Text == "false":
			v.Kind = Bool
		case number(v.Text):
			v.Kind = Number
		case v.Text == "":
			p.fault(p.at, fmt.Sprintf("%q where a value belongs", string(rune(c))), "write a value in quotes")
		default:
			p.fault(v.From, fmt.Sprintf("%q is no JSON value", v.Text), "put text in double quotes")
		}
	}
	if !p.stopped {
		v.To = p.at
	}
	return v
}

func number(text string) bool {
	if text == "" || strings.Trim(text, "0123456789+-.eE") != "" {
		return false
	}
	_, err := strconv.ParseFloat(text, 64)
	return err == nil
}

func (p *parser) object(v *Value) {
	start := p.at
	p.at++
	p.members(v, start)
}

// members reads the members of an object that begins at start, from after its
// brace or one of its commas.
func (p *parser) members(v *Value, start int) {
	base := len(p.stack)
	p.each(v, start, base)
	if n := len(p.stack) - base; n > 0 {
		if len(p.slab) < n {
			p.slab = make([]Member, 512)
		}
		copy(p.slab, p.stack[base:])
		v.Members, p.slab = p.slab[:n:n], p.slab[n:]
		p.stack = p.stack[:base]
	}
}

// each reads members onto the stack, and into the object where they are many.
func (p *parser) each(v *Value, start, base int) {
	from, comma := p.at, -1
	none := func() bool { return len(v.Members) == 0 && len(p.stack) == base }
	for {
		p.space()
		if p.stop > 0 && p.at == p.stop && (comma >= 0 || none()) {
			p.stopped = true
			return
		}
		if p.at >= len(p.data) {
			p.fault(start, "a brace that is not closed", "add }")
			return
		}
		switch c := p.data[p.at]; c {
		case '}':
			if comma >= 0 {
				p.fault(comma, "a comma before the closing brace", "remove it")
			}
			p.at++
			return
		case ',':
			p.fault(p.at, "a comma too many", "remove it")
			p.at++
			continue
		case '"':
		default:
			p.fault(p.at, fmt.Sprintf("%q where a key in quotes belongs", string(rune(c))), "put the key in double quotes")
			before := p.at
			if c == ']' || c == ':' || c == '\'' {
				p.at++
			} else if p.value(); p.at == before {
				p.at++
			}
			continue
		}
		if comma < 0 && !none() {
			p.fault(p.at, "a comma is missing before this key", "add , after the value above")
		}
		m := Member{KeyFrom: p.at}
		m.Key = p.str()
		m.KeyTo = p.at
		p.space()
		if p.at < len(p.data) && p.data[p.at] == ':' {
			p.at++
		} else {
			p.fault(p.at, fmt.Sprintf("a colon is missing after the key %q", m.Key), "add :")
		}
		p.space()
		m.Value = p.value()
		if v.Members == nil {
			p.stack = append(p.stack, m)
		} else {
			v.Members = append(v.Members, m)
		}
		if len(p.stack)-base == few { // room for the others, if they are as long as these
			n := (p.size - p.at) * few / (p.at - from)
			n += n / 8
			if n = min(n, p.spare); n < few {
				n = few
			}
			p.spare -= n
			v.Members = append(fast.Make[Member](n+few), p.stack[base:]...)
			p.stack = p.stack[:base]
		}
		if p.stopped {
			return
		}
		p.space()
		comma = -1
		if p.at < len(p.data) && p.data[p.at] == ',' {
			comma = p.at
			p.at++
		}
	}
}

func (p *parser) array(v *Value) {
	start := p.at
	p.at++
	for {
		p.space()
		if p.at >= len(p.data) {
			p.fault(start, "a bracket that is not closed", "add ]")
			return
		}
		switch p.data[p.at] {
		case ']':
			p.at++
			return
		case ',':
			p.at++
			continue
		case '}':
			p.fault(start, "a bracket that is not closed", "add ]")
			return
		}
		before := p.at
		v.Items = append(v.Items, p.value())
		if p.at == before {
			p.at++
		}
	}
}

// str reads a string; one without its closing quote ends with the line.
func (p *parser) str() string {
	start := p.at
	p.at++
	from := p.at
	plain := true
	for p.at < len(p.data) {
		if p.at += format.Run(p.data[p.at:], '"', '\\'); p.at >= len(p.data) {
			break
		}
		switch c := p.data[p.at]; {
		case c == '"':
			raw := p.data[from:p.at]
			p.at++
			if plain {
				return raw
			}
			return p.unescape(raw, from)
		case c == '\\':
			plain = false
			p.at += 2
			continue
		case c == '\n' || c == '\r':
			p.fault(start, "a quote that is not closed", `add "`)
			return strings.TrimRight(p.data[from:p.at], ", ")
		case c < 0x20 && c != '\t':
			p.fault(p.at, fmt.Sprintf("the control character U+%04X in a string", c), fmt.Sprintf(`write \u%04x`, c))
		}
		p.at++
	}
	p.at = len(p.data)
	p.fault(start, "a quote that is not closed", `add "`)
	return p.data[min(from, p.at):]
}

func (p *parser) unescape(raw string, from int) string {
	var out strings.Builder
	out.Grow(len(raw))
	for i := 0; i < len(raw); i++ {
		if raw[i] != '\\' {
			out.WriteByte(raw[i])
			continue
		}
		i++
		switch c := raw[i]; c {
		case '"', '\\', '/':
			out.WriteByte(c)
		case 'b':
			out.WriteByte('\b')
		case 'f':
			out.WriteByte('\f')
		case 'n':
			out.WriteByte('\n')
		case 'r':
			out.WriteByte('\r')
		case 't':
			out.WriteByte('\t')
		case 'u':
			r, size, half := doc.UTF16(raw[i+1:])
			if size == 0 {
				p.fault(from+i-1, `\u without four hexadecimal digits`, `write \u00e9 or the character itself`)
				out.WriteString(`\u`)
				continue
			}
			if half {
				p.faults = append(p.faults, Fault{true, from + i - 1, "half a character, of two that make one", `write both halves, \ud83d\ude00, or the character itself`})
			}
			i += size
			out.WriteRune(r)
		default:
			p.fault(from+i-1, fmt.Sprintf(`\%c is no escape`, c), `write \\ for a backslash`)
			out.WriteByte('\\')
			out.WriteByte(c)
		}
	}
	return out.String()
}

const hexDigits = "0123456789abcdef"

// Quote writes a string as JSON: only what must be escaped is.
func Quote(text string) string { return string(AppendQuote(nil, text)) }

// AppendQuote appends text as a JSON string.
func AppendQuote[T string | []byte](out []byte, text T) []byte {
	out = append(out, '"')
	for {
		n := format.Run(text, '"', '\\')
		if out = append(out, text[:n]...); n == len(text) {
			return append(out, '"')
		}
		c := text[n]
		text = text[n+1:]
		switch c {
		case '"', '\\':
			out = append(out, '\\', c)
		case '\n':
			out = append(out, '\\', 'n')
		case '\t':
			out = append(out, '\\', 't')
		case '\r':
			out = append(out, '\\', 'r')
		default:
			out = append(out, '\\', 'u', '0', '0', hexDigits[c>>4], hexDigits[c&15])
		}
	}
}

// QuoteASCII writes a string as JSON with every character beyond ASCII escaped.
func QuoteASCII(text string) string {
	return escapeASCII(Quote(text))
}

func escapeASCII(quoted string) string {
	var out strings.Builder
	for _, r := range quoted {
		switch {
		case r < 0x7F:
			out.WriteRune(r)
		case r > 0xFFFF:
			high, low := utf16.EncodeRune(r)
			fmt.Fprintf(&out, `\u%04x\u%04x`, high, low)
		default:
			fmt.Fprintf(&out, `\u%04x`, r)
		}
	}
	return out.String()
}

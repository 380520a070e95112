// Package xmlscan reads XML as a stream of tokens with byte positions, goes on
// after a fault, and says precisely what is wrong. It expands no entity by
// itself, reads nothing from outside, and bounds nesting.
//
// It is our own because the spans of names, attribute values and content are
// what byte-faithful editing is made of, and because a reader has to carry on
// after a missing bracket as if a person had fixed it (see ARCHITECTURE.md).
package xmlscan

import (
	"fmt"
	"strings"
)

// Kind is the kind of a token.
type Kind uint8

// The kinds of tokens.
const (
	EOF Kind = iota
	Start
	End
	Text
	CDATA
	Comment
	Instruction
	Doctype
)

// Token is one piece of the document. Offsets count strings.
type Token struct {
	Kind Kind
	// From and To span the whole token.
	From, To int
	// Name is the element's name or the instruction's target.
	Name string
	// Lone says that a start tag closes itself.
	Lone bool
	// Attributes are a start tag's; they are valid until the next token.
	Attributes []Attribute
	// Inner spans the content of a comment or CDATA section.
	InnerFrom, InnerTo int
}

// Attribute is one attribute of a start tag.
type Attribute struct {
	Name string
	// From and To span it with the name; ValueFrom and ValueTo the value
	// between its quotes.
	From, To, ValueFrom, ValueTo int
}

// Fault is something wrong in the document.
type Fault struct {
	Offset    int
	Text, Fix string
}

// maxDepth bounds nesting, maxAttributes the attributes of one tag.
const maxDepth, maxAttributes = 256, 1000

// Scanner goes through a document.
type Scanner struct {
	data string
	at   int
	// Token is the current token.
	Token
	Faults []Fault
	// Open are the elements around the current place, outermost first.
	Open []Element
	// Entities are what the document's own DOCTYPE declares.
	Entities map[string]string
}

// Element is an element that was opened and not yet closed.
type Element struct {
	Name string
	From int
}

// New starts at the beginning of data, which is UTF-8 without a byte order mark.
func New(data string) *Scanner {
	return &Scanner{data: data}
}

func (s *Scanner) fault(offset int, text, fix string) {
	if len(s.Faults) < 1000 {
		s.Faults = append(s.Faults, Fault{offset, text, fix})
	}
}

// Next goes to the next token; false at the end. At the end elements that are
// still open are reported.
func (s *Scanner) Next() bool {
	s.Token = Token{From: s.at, Attributes: s.Attributes[:0]}
	if s.at >= len(s.data) {
		for i := len(s.Open) - 1; i >= 0; i-- {
			s.fault(s.Open[i].From, fmt.Sprintf("<%s> is not closed", s.Open[i].Name), fmt.Sprintf("add </%s>", s.Open[i].Name))
		}
		s.Open = nil
		s.To = s.at
		return false
	}
	if s.data[s.at] != '<' {
		s.text()
		return true
	}
	rest := s.data[s.at:]
	switch {
	case len(rest) > 1 && nameStart(rest[1]):
		s.start()
	case len(rest) > 2 && rest[1] == '/' && nameStart(rest[2]):
		s.end()
	case strings.HasPrefix(rest, "<!--"):
		s.until(Comment, 4, "-->", "a comment that is not closed", "add -->")
	case strings.HasPrefix(rest, "<![CDATA["):
		s.until(CDATA, 9, "]]>", "a CDATA section that is not closed", "add ]]>")
	case strings.HasPrefix(rest, "<?"):
		s.until(Instruction, 2, "?>", "a processing instruction that is not closed", "add ?>")
		s.Name, _, _ = strings.Cut(s.data[s.InnerFrom:s.InnerTo], " ")
	case strings.HasPrefix(rest, "<!"):
		s.doctype()
	default:
		s.fault(s.at, "a bare < in text", "write &lt;")
		s.at++
		s.text()
		s.From--
	}
	return true
}

func (s *Scanner) text() {
	s.Kind = Text
	s.From = s.at
	if end := strings.IndexByte(s.data[s.at:], '<'); end >= 0 {
		s.at += end
	} else {
		s.at = len(s.data)
	}
	s.To = s.at
}

// until reads a token that ends with a mark. Without the mark the rest of the
// line is taken.
func (s *Scanner) until(kind Kind, head int, mark, text, fix string) {
	s.Kind = kind
	s.InnerFrom = s.at + head
	end := strings.Index(s.data[s.InnerFrom:], mark)
	if end < 0 {
		s.fault(s.at, text, fix)
		if end = strings.IndexByte(s.data[s.InnerFrom:], '\n'); end < 0 {
			end = len(s.data) - s.InnerFrom
		}
		mark = ""
	}
	s.InnerTo = s.InnerFrom + end
	s.at = s.InnerTo + len(mark)
	s.To = s.at
}

// doctype reads <!DOCTYPE ...> and the general entities it declares.
func (s *Scanner) doctype() {
	s.Kind = Doctype
	i := s.at + 2
	depth := 0
	for ; i < len(s.data); i++ {
		switch s.data[i] {
		case '"', '\'':
			if end := strings.IndexByte(s.data[i+1:], s.data[i]); end >= 0 {
				i += end + 1
			}
		case '[':
			depth++
		case ']':
			depth--
		case '>':
			if depth <= 0 {
				s.at = i + 1
				s.To = s.at
				s.declare(s.data[s.From:s.To])
				return
			}
		}
	}
	s.fault(s.From, "a document type that is not closed", "add >")
	s.at = len(s.data)
	s.To = s.at
}

// declare notes <!ENTITY name "value">. References inside values are left
// alone, so nothing multiplies.
func (s *Scanner) declare(doctype string) {
	for {
		_, rest, ok := strings.Cut(doctype, "<!ENTITY")
		if !ok {
			return
		}
		doctype = rest
		rest = strings.TrimLeft(rest, " \t\r\n")
		name, rest, ok := strings.Cut(rest, " ")
		if rest = strings.TrimLeft(rest, " \t\r\n"); !ok || rest == "" || rest[0] != '"' && rest[0] != '\'' {
			continue
		}
		if value, _, ok := strings.Cut(rest[1:], rest[:1]); ok {
			if s.Entities == nil {
				s.Entities = map[string]string{}
			}
			s.Entities[name] = value
		}
	}
}

func nameStart(c byte) bool {
	return c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c == '_' || c == ':' || c >= 0x80
}

func nameByte(c byte) bool {
	return nameStart(c) || c >= '0' && c <= '9' || c == '-' || c == '.'
}

func space(c byte) bool { return c == ' ' || c == '\n' || c == '\t' || c == '\r' }

// name reads a name at i.
func (s *Scanner) name(i int) (string, int) {
	start := i
	for i < len(s.data) && nameByte(s.data[i]) {
		i++
	}
	return s.data[start:i], i
}

// start reads a start tag.
func (s *Scanner) start() {
	s.Kind = Start
	i := 0
	s.Name, i = s.name(s.at + 1)
	for {
		for i < len(s.data) && space(s.data[i]) {
			i++
		}
		if i >= len(s.data) {
			s.fault(s.From, fmt.Sprintf("the tag <%s is not closed", s.Name), "add >")
			break
		}
		c := s.data[i]
		if c == '>' {
			i++
			break
		}
		if c == '/' && i+1 < len(s.data) && s.data[i+1] == '>' {
			s.Lone = true
			i += 2
			break
		}
		if c == '<' {
			s.fault(s.From, fmt.Sprintf("the tag <%s is not closed", s.Name), "add >")
			break
		}
		if !nameStart(c) {
			s.fault(i, fmt.Sprintf("%q in the tag <%s>", string(rune(c)), s.Name), "remove it")
			i++
			continue
		}
		i = s.attribute(i)
	}
	s.at = i
	s.To = i
	if s.Lone {
		return
	}
	if len(s.Open) >= maxDepth {
		s.fault(s.From, fmt.Sprintf("elements nested more than %d deep", maxDepth), "flatten the document")
		s.at = len(s.data)
		return
	}
	s.Open = append(s.Open, Element{s.Name, s.From})
}

// attribute reads one attribute at i and gives the place after it.
func (s *Scanner) attribute(i int) int {
	a := Attribute{From: i}
	a.Name, i = s.name(i)
	j := i
	for j < len(s.data) && space(s.data[j]) {
		j++
	}
	if j >= len(s.data) || s.data[j] != '=' {
		s.fault(a.From, fmt.Sprintf("the attribute %s has no value", a.Name), fmt.Sprintf(`write %s="..."`, a.Name))
		return i
	}
	j++
	for j < len(s.data) && space(s.data[j]) {
		j++
	}
	if j >= len(s.data) || s.data[j] != '"' && s.data[j] != '\'' {
		s.fault(a.From, fmt.Sprintf("the value of %s has no quotes", a.Name), fmt.Sprintf(`write %s="..."`, a.Name))
		a.ValueFrom = j
		for j < len(s.data) && !space(s.data[j]) && s.data[j] != '>' && s.data[j] != '<' && s.data[j] != '/' {
			j++
		}
		a.ValueTo, a.To = j, j
		s.Attributes = append(s.Attributes, a)
		return j
	}
	quote := s.data[j]
	a.ValueFrom = j + 1
	end := strings.IndexByte(s.data[a.ValueFrom:], quote)
	if end < 0 || strings.IndexByte(s.data[a.ValueFrom:a.ValueFrom+end], '<') >= 0 {
		// The quote is missing: the value ends where the tag does.
		s.fault(j, fmt.Sprintf("the value of %s has no closing quote", a.Name), "add "+string(quote))
		end = strings.IndexAny(s.data[a.ValueFrom:], "<>\n")
		if end < 0 {
			end = len(s.data) - a.ValueFrom
		}
		a.ValueTo = a.ValueFrom + end
		a.To = a.ValueTo
	} else {
		a.ValueTo = a.ValueFrom + end
		a.To = a.ValueTo + 1
	}
	if len(s.Attributes) >= maxAttributes {
		if len(s.Attributes) == maxAttributes {
			s.fault(a.From, fmt.Sprintf("a tag has more than %d attributes", maxAttributes), "remove some")
			s.Attributes = append(s.Attributes, a)
		}
		return a.To
	}
	for i := range s.Attributes {
		if s.Attributes[i].Name == a.Name {
			s.fault(a.From, fmt.Sprintf("the attribute %s stands twice", a.Name), "remove one of them")
			break
		}
	}
	s.Attributes = append(s.Attributes, a)
	return a.To
}

// end reads an end tag and closes what it closes.
func (s *Scanner) end() {
	s.Kind = End
	i := 0
	s.Name, i = s.name(s.at + 2)
	for i < len(s.data) && space(s.data[i]) {
		i++
	}
	if i < len(s.data) && s.data[i] == '>' {
		i++
	} else {
		s.fault(s.From, fmt.Sprintf("the end tag </%s is not closed", s.Name), "add >")
	}
	s.at = i
	s.To = i
	for at := len(s.Open) - 1; at >= 0; at-- {
		if s.Open[at].Name == s.Name {
			for _, lost := range s.Open[at+1:] {
				s.fault(lost.From, fmt.Sprintf("<%s> is not closed before </%s>", lost.Name, s.Name), fmt.Sprintf("add </%s>", lost.Name))
			}
			s.Open = s.Open[:at]
			return
		}
	}
	s.fault(s.From, fmt.Sprintf("</%s> closes nothing", s.Name), "remove it")
}

// Close pops the innermost element, for a reader that knows that it ended
// though its end tag is missing, and reports the fault.
func (s *Scanner) Close(name string) {
	for len(s.Open) > 0 {
		last := s.Open[len(s.Open)-1]
		s.Open = s.Open[:len(s.Open)-1]
		s.fault(last.From, fmt.Sprintf("<%s> is not closed", last.Name), fmt.Sprintf("add </%s>", last.Name))
		if last.Name == name {
			return
		}
	}
}

// Back undoes the start tag just read, so that Next reads it again.
func (s *Scanner) Back() {
	s.at = s.From
	if !s.Lone && len(s.Open) > 0 {
		s.Open = s.Open[:len(s.Open)-1]
	}
}

// Shut closes the innermost element, which has this name, where its end tag
// stands at an offset without anything odd in it, and goes on after it; false
// where that is not so.
func (s *Scanner) Shut(offset int, name string) bool {
	end := offset + len("</") + len(name)
	if end >= len(s.data) || s.data[offset:offset+2] != "</" || s.data[offset+2:end] != name || s.data[end] != '>' {
		return false
	}
	s.Open = s.Open[:len(s.Open)-1]
	s.Kind, s.From, s.To = End, offset, end+1
	s.at = end + 1
	return true
}

// Skip goes to the end of the element just begun.
func (s *Scanner) Skip() {
	if s.Lone {
		return
	}
	for depth := len(s.Open); len(s.Open) >= depth && s.Next(); {
	}
}

// LineEnds makes all line ends LF, as XML does (XML 1.0, 2.11).
func LineEnds(text string) string {
	if strings.IndexByte(text, '\r') < 0 {
		return text
	}
	return strings.ReplaceAll(strings.ReplaceAll(text, "\r\n", "\n"), "\r", "\n")
}

// Tag reads the start tag that stands in a stretch of a document.
func Tag(src string, from, to int) *Scanner {
	s := New(src[:to])
	s.Seek(from)
	s.Next()
	return s
}

// SetAttribute returns what to replace, and by what, so that the start tag in a
// stretch of a document has an attribute with a value, or none of that name
// where the value is "". The value is spelled as XML does already.
func SetAttribute(src string, from, to int, name, value string) (start, end int, text string) {
	tag := Tag(src, from, to)
	for _, a := range tag.Attributes {
		switch {
		case a.Name != name:
		case value != "":
			return a.ValueFrom, a.ValueTo, value
		default:
			for start = a.From; space(src[start-1]); start-- {
			}
			return start, a.To, ""
		}
	}
	if start = from + 1 + len(tag.Name); value != "" {
		text = " " + name + `="` + value + `"`
	}
	return start, start, text
}

// Raw returns a stretch of the document as it stands.
func (s *Scanner) Raw(from, to int) string { return s.data[from:to] }

// Seek goes on reading at offset, where the reader knows how things stand.
func (s *Scanner) Seek(offset int) { s.at = offset }

// Value returns the decoded value of an attribute of the current start tag and
// whether it is there.
func (s *Scanner) Value(name string) (string, bool) {
	for _, a := range s.Attributes {
		if a.Name == name {
			return s.Unescape(a.ValueFrom, a.ValueTo), true
		}
	}
	return "", false
}

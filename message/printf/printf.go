// Package printf reads and writes the placeholders of format strings in the
// tradition of C: those of java.util.Formatter, which Android uses, and those
// of Apple's Foundation.
//
// A text without any placeholder is not a format string for these platforms:
// it is shown as it stands, so a lone or doubled percent sign in it is text.
package printf

import (
	"fmt"
	"strconv"
	"strings"

	"zelvik/message"
)

// Dialect is one platform's flavour of format strings.
type Dialect struct {
	syntax message.Syntax
	// conversions are the letters that may end a placeholder, beside %.
	conversions string
	// lengths are the C length modifiers the dialect knows, longest first.
	lengths []string
	// grouping is the flag that sets thousands apart.
	grouping byte
	text     string
	integer  string
}

// The dialects.
var (
	Java       = &Dialect{message.Java, "bBhHsScCdoxXeEfgGaAtTn", nil, ',', "s", "d"}
	Foundation = &Dialect{message.Foundation, "@dDiuUxXoOfFeEgGcCsSpaA", lengths, '\'', "@", "lld"}
	// C is that of C's printf with the names of Python's: %s, %2$d, %(name)s.
	C = &Dialect{message.C, "diuxXofFeEgGcCsSpaAr", append([]string{"I64", "I32", "w"}, lengths...), '\'', "s", "d"}
	// Windows is that of the Windows message functions beside C's: %1!s!.
	Windows = &Dialect{message.Windows, C.conversions, C.lengths, '\'', "s", "d"}
)

var lengths = []string{"hh", "ll", "h", "l", "q", "L", "z", "t", "j"}

// spec is one placeholder taken apart.
type spec struct {
	size, position   int
	flags            string
	width, precision int // -1 where there is none
	length           string
	conversion       byte
	date             byte   // the letter after t
	name             string // of Python's %(name)s
}

// scan reads the placeholder at the beginning of text, which begins with a
// percent sign.
func (d *Dialect) scan(text string) (s spec, ok bool) {
	s.width, s.precision = -1, -1
	i := 1
	number := func() int {
		start := i
		for i < len(text) && text[i] >= '0' && text[i] <= '9' && i-start < 6 {
			i++
		}
		if start == i {
			return -1
		}
		n, _ := strconv.Atoi(text[start:i])
		return n
	}
	switch n := number(); {
	case n > 0 && i < len(text) && text[i] == '$':
		s.position = n
		i++
	case n > 0 && d == Windows && i < len(text) && text[i] == '!':
		return d.scanInsert(text, i, n)
	case n > 0 && d == Windows && text[1] != '0':
		if s, ok := C.scan(text); ok { // %5d is as wide as five digits
			return s, true
		}
		return d.scanInsert(text, i, n)
	default:
		i = 1
	}
	if d == C && i < len(text) && text[i] == '(' {
		end := strings.IndexByte(text[i:], ')')
		if end < 2 || strings.ContainsAny(text[i+1:i+end], "( %\n") {
			return s, false
		}
		s.name = text[i+1 : i+end]
		i += end + 1
	}
	start := i
	for i < len(text) && strings.IndexByte("-+#0(", text[i]) >= 0 || i < len(text) && text[i] == d.grouping || d == C && i == start && strings.HasPrefix(text[i:], " ") {
		i++
	}
	s.flags = text[start:i]
	s.width = number()
	if i < len(text) && text[i] == '.' {
		i++
		if s.precision = number(); s.precision < 0 {
			return s, false
		}
	}
	for _, length := range d.lengths {
		if strings.HasPrefix(text[i:], length) {
			s.length = length
			i += len(length)
			break
		}
	}
	if i >= len(text) || strings.IndexByte(d.conversions, text[i]) < 0 {
		return s, false
	}
	// A flag that fills needs a width; without one it is punctuation: "5%-Rabatt".
	if s.width < 0 && s.precision < 0 && strings.ContainsAny(s.flags, "-0") {
		return s, false
	}
	s.conversion = text[i]
	i++
	// C takes a space for a flag, which translators put there. Before a word it is
	// one: "50 % discount".
	if strings.HasPrefix(s.flags, " ") && (strings.IndexByte("dsif", s.conversion) < 0 || i < len(text) && wordByte(text[i])) {
		return s, false
	}
	if d == Java && (s.conversion == 't' || s.conversion == 'T') {
		if i >= len(text) || strings.IndexByte("HIklMSLNpzZsQBbhAaCYyjmdeRTrDFc", text[i]) < 0 {
			return s, false
		}
		s.date = text[i]
		i++
	}
	s.size = i
	return s, true
}

// scanInsert reads the rest of an insert such as %1!-8s!, whose format C's
// scan knows. A lone %1 is an insert, too.
func (d *Dialect) scanInsert(text string, i, position int) (s spec, ok bool) {
	s = spec{position: position, width: -1, precision: -1, conversion: 's', size: i}
	if i >= len(text) || text[i] != '!' {
		return s, position < 100
	}
	end := strings.IndexByte(text[i+1:], '!')
	if end < 0 {
		return s, false
	}
	inner, ok := C.scan("%" + text[i+1:i+1+end])
	if !ok || inner.size != end+1 {
		return s, false
	}
	inner.position, inner.size = position, i+end+2
	return inner, true
}

// plain sets the type of the commonest placeholders, which have no style.
func (s *spec) plain(p *message.Placeholder) bool {
	if s.flags != "" || s.width >= 0 || s.precision >= 0 {
		return false
	}
	switch s.conversion {
	case 'd':
		p.Type = message.Integer
		return true
	case 's', '@':
		return true
	}
	return false
}

// Formatted reports whether the text has a placeholder and so is a format
// string.
func (d *Dialect) Formatted(text string) bool {
	for {
		at := strings.IndexByte(text, '%')
		if at < 0 {
			return false
		}
		text = text[at:]
		if s, ok := d.scan(text); ok && s.conversion != 'n' {
			return true
		}
		text = text[min(len(text), 1+btoi(strings.HasPrefix(text, "%%"))):]
	}
}

func wordByte(c byte) bool {
	return c >= '0' && c <= '9' || c|0x20 >= 'a' && c|0x20 <= 'z' || c >= 0x80
}

func btoi(b bool) int {
	if b {
		return 1
	}
	return 0
}

// Reader reads the texts of one pattern, part by part; it counts unnumbered
// placeholders across them.
type Reader struct {
	Dialect *Dialect
	// Formatted says that the whole pattern is a format string.
	Formatted bool
	next      int
	made      []message.Placeholder
	// Faults are what was wrong; offsets count in the text of the Read call.
	Faults []message.Fault
}

// Read appends the parts of text to the pattern.
func (r *Reader) Read(p message.Pattern, text string) message.Pattern {
	if !r.Formatted {
		return p.Add(message.Text(text))
	}
	all, literal := text, 0 // up to which a % is one
	var escaped []byte      // texts with signs that were escaped, joined once
	for {
		at := strings.IndexByte(text[literal:], '%')
		if at < 0 {
			return p.Add(message.Text(escaped)).Add(message.Text(text))
		}
		at += literal
		s, ok := spec{}, strings.HasPrefix(text[at:], "%%")
		if !ok {
			if s, ok = r.Dialect.scan(text[at:]); !ok {
				r.Faults = append(r.Faults, message.Fault{
					Offset: len(all) - len(text) + at, Rule: "escape-wrong",
					Text: "a single % in a text with placeholders", Fix: "write %% for a percent sign",
				})
				literal = at + 1
				continue
			}
		}
		before := text[:at]
		text, literal = text[at:], 0
		switch {
		case s.size == 0:
			escaped = append(append(escaped, before...), '%')
			text = text[2:]
			continue
		case s.conversion == 'n':
			escaped = append(append(escaped, before...), '\n')
		default:
			p = p.Add(message.Text(escaped)).Add(message.Text(before)).Add(r.placeholder(s, text[:s.size]))
			escaped = escaped[:0]
		}
		text = text[s.size:]
	}
}

// Reset makes the reader ready for another pattern.
func (r *Reader) Reset(formatted bool) {
	r.Formatted, r.next, r.Faults = formatted, 0, nil
}

func (r *Reader) placeholder(s spec, spelling string) *message.Placeholder {
	if len(r.made) == cap(r.made) { // placeholders are cut from larger pieces
		r.made = make([]message.Placeholder, 0, min(2*cap(r.made)+1, 256))
	}
	r.made = append(r.made, message.Placeholder{Name: s.name, Position: s.position, Spelling: spelling, Syntax: r.Dialect.syntax})
	p := &r.made[len(r.made)-1]
	if p.Position == 0 && p.Name == "" {
		r.next++
		p.Position = r.next
	}
	if s.plain(p) {
		return p
	}
	var words []string
	upper := ""
	if s.conversion >= 'A' && s.conversion <= 'Z' && strings.IndexByte("DUOCS", s.conversion) < 0 {
		upper = "upper"
	}
	fraction := s.precision
	if fraction < 0 && strings.IndexByte("fFeE", s.conversion) >= 0 {
		fraction = 6
	}
	switch s.conversion {
	case 'd', 'D', 'i', 'u', 'U':
		p.Type = message.Integer
	case 'x', 'X':
		p.Type, words = message.Integer, []string{"hex", upper}
	case 'o', 'O':
		p.Type, words = message.Integer, []string{"octal"}
	case 'f', 'F':
		p.Type, words = message.Decimal, []string{message.FractionWord(fraction)}
	case 'e', 'E', 'g', 'G', 'a', 'A':
		kind := map[byte]string{'e': "scientific", 'g': "general", 'a': "hexfloat"}[s.conversion|0x20]
		p.Type, words = message.Decimal, []string{message.FractionWord(fraction), kind, upper}
	case 't', 'T':
		p.Type = message.Date
		if strings.IndexByte("HIklMSLNpzZRTr", s.date) >= 0 {
			p.Type = message.Time
		}
		p.Style = message.Style("=%" + string(s.conversion) + string(s.date))
		return p
	case 'c', 'C':
		words = []string{"char"}
	case 'b', 'B':
		words = []string{"boolean", upper}
	case 'h', 'H':
		words = []string{"hash", upper}
	case 'p':
		words = []string{"pointer"}
	case 'r':
		words = []string{"repr"}
	case 'S':
		if r.Dialect == Java {
			words = []string{"upper"}
		}
	}
	p.Style = message.NewStyle(r.flagged(s, p.Type, words)...)
	return p
}

// flagged adds to the words of a style those of flags, width and precision.
func (r *Reader) flagged(s spec, kind message.Type, words []string) []string {
	if kind == message.String && s.precision >= 0 {
		words = append(words, fmt.Sprintf("most=%d", s.precision))
	}
	if strings.IndexByte(s.flags, r.Dialect.grouping) >= 0 {
		words = append([]string{"group"}, words...)
	}
	for _, flag := range flagWords {
		if strings.IndexByte(s.flags, flag.sign) >= 0 {
			words = append(words, flag.word)
		}
	}
	if s.width > 0 {
		if strings.Contains(s.flags, "0") {
			words = append(words, fmt.Sprintf("zero=%d", s.width))
		} else {
			words = append(words, fmt.Sprintf("width=%d", s.width))
		}
		if strings.Contains(s.flags, "-") {
			words = append(words, "left")
		}
	}
	return words
}

// Parse reads a text.
func (d *Dialect) Parse(text string) (message.Pattern, []message.Fault) {
	if strings.IndexByte(text, '%') < 0 {
		return message.Pattern(nil).Add(message.Text(text)), nil
	}
	r := Reader{Dialect: d, Formatted: d.Formatted(text)}
	return r.Read(nil, text), r.Faults
}

// Write writes a pattern, and tells what it could not say. Forced says that it
// is a format string though no placeholder is in it, as one form of a plural.
func (d *Dialect) Write(p message.Pattern, numbered, forced bool) (string, []message.Loss) {
	var losses []message.Loss
	formatted := forced
	for _, part := range p {
		if _, ok := part.(*message.Placeholder); ok {
			formatted = true
		}
	}
	if len(p) == 1 && !formatted {
		if text, ok := p[0].(message.Text); ok && strings.IndexByte(string(text), '%') < 0 {
			return string(text), nil
		}
	}
	var room [256]byte
	out := room[:0]
	speller := d.Speller(p, numbered)
	for _, part := range p {
		switch part := part.(type) {
		case message.Text:
			text := string(part)
			if formatted {
				text = Escape(text)
			} else if d.Formatted(text) {
				losses = append(losses, message.Loss{Kind: "escape", Lost: "that the % in the text is no placeholder", Instead: "it reads as one"})
			}
			out = append(out, text...)
		case *message.Markup:
			out = append(out, part.String()...)
		case *message.Placeholder:
			text, more := speller.Spell(part)
			losses = append(losses, more...)
			if !part.MadeName() && part.Position > 0 && !(part.Name == "count" && forced) && !strings.Contains(text, "("+part.Name+")") {
				losses = append(losses, message.Loss{Kind: "name", Lost: "the name of the placeholder {" + part.Name + "}", Instead: "its position; the ledger of a family keeps the name"})
			}
			out = append(out, text...)
		}
	}
	return string(out), losses
}

// Numbered reports whether the placeholders of a message need their positions
// written: when there is more than one in a pattern, or the one is not the
// first argument.
func Numbered(m message.Message) bool {
	for _, pattern := range m.Patterns() {
		count := 0
		for _, part := range pattern {
			if p, ok := part.(*message.Placeholder); ok {
				count++
				if count > 1 || p.Position > 1 {
					return true
				}
			}
		}
	}
	return false
}

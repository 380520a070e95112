package printf

import (
	"strconv"
	"strings"

	"zelvik/message"
)

// Escape writes literal text into a format string.
func Escape(text string) string { return strings.ReplaceAll(text, "%", "%%") }

// flagWords are the flags that the Style vocabulary has words for.
var flagWords = []struct {
	sign byte
	word string
}{{'+', "sign"}, {'#', "alternate"}, {'(', "accounting"}}

// letterWords are the conversions that words of a style ask for, by type.
var letterWords = map[message.Type]map[string]string{
	message.Integer: {"hex": "x", "octal": "o"},
	message.Decimal: {"scientific": "e", "general": "g", "hexfloat": "a"},
	message.String:  {"char": "c", "boolean": "b", "hash": "h", "pointer": "p", "repr": "r"},
}

// Spell writes a placeholder, numbered when asked, and tells what it could not
// say. A spelling of the same dialect is kept; so is one of C's, as exchange
// files have it, where it means the same in the dialect.
func (d *Dialect) Spell(p *message.Placeholder, numbered bool) (string, []message.Loss) {
	if d.keeps(p) {
		return p.Spelling, nil
	}
	style := p.Style
	if style == "" && (p.Type == message.String || p.Type == message.Integer) { // most are
		conversion := d.text
		if p.Type == message.Integer {
			conversion = d.integer
		}
		return d.placed(p, numbered, conversion), nil
	}
	conversion, precision := d.text, ""
	_, most, fraction := style.Fraction()
	switch p.Type {
	case message.Integer:
		conversion = d.integer
	case message.Decimal:
		if conversion = "f"; fraction && most != 6 {
			precision = "." + strconv.Itoa(most)
		}
	case message.Date, message.Time:
		if pattern, _, ok := style.Custom(); ok && d == Java && strings.HasPrefix(pattern, "%") {
			return d.placed(p, numbered, pattern[1:]), nil
		}
	}
	for word, letter := range letterWords[p.Type] {
		if style.Has(word) && strings.Contains(d.conversions, letter) {
			conversion = letter
		}
	}
	if most := style.Value("most"); most > 0 && p.Type == message.String {
		precision = "." + strconv.Itoa(most)
	}
	if style.Has("upper") && strings.Contains(d.conversions, strings.ToUpper(conversion)) {
		conversion = strings.ToUpper(conversion)
	}
	flags := ""
	if style.Has("left") {
		flags = "-"
	}
	for _, flag := range flagWords {
		if style.Has(flag.word) && (d == Java || flag.sign != '(') {
			flags += string(flag.sign)
		}
	}
	if style.Has("group") {
		flags += string(d.grouping)
	}
	width := style.Value("width")
	if zero := style.Value("zero"); zero > 0 {
		flags, width = flags+"0", zero
	}
	if width > 0 {
		flags += strconv.Itoa(width)
	}
	text := d.placed(p, numbered, flags+precision+conversion)
	return text, p.Lost(d.Read(text))
}

// placed gives the format of a placeholder its percent sign, and its position
// where it is to be numbered.
func (d *Dialect) placed(p *message.Placeholder, numbered bool, format string) string {
	switch {
	case d == C && p.Position <= 0 && p.Name != "":
		return "%(" + p.Name + ")" + format
	case !numbered || p.Position <= 0:
		return "%" + format
	case d == Windows:
		return "%" + strconv.Itoa(p.Position) + "!" + format + "!"
	}
	return "%" + strconv.Itoa(p.Position) + "$" + format
}

// Read reads a text that is one placeholder and nothing else; nil where it is
// none.
func (d *Dialect) Read(text string) *message.Placeholder {
	if text == "" || text[0] != '%' {
		return nil
	}
	s, ok := d.scan(text)
	if !ok || s.size != len(text) || s.conversion == 'n' {
		return nil
	}
	return (&Reader{Dialect: d}).placeholder(s, text)
}

// Speller writes the placeholders of one pattern: all with their positions, or
// all without.
type Speller struct {
	d        *Dialect
	numbered bool
	// all says that spellings that are kept get their positions, too.
	all bool
}

// Speller decides how the placeholders of a pattern are numbered. Spellings that
// take the next argument are kept where it is theirs.
func (d *Dialect) Speller(p message.Pattern, numbered bool) Speller {
	s := Speller{d, numbered, false}
	kept, count, next, inTurn, theirs := true, 0, 0, true, true
	bare := false
	for _, part := range p {
		placeholder, ok := part.(*message.Placeholder)
		if !ok {
			continue
		}
		count++
		inTurn = inTurn && placeholder.Position == count
		switch {
		case !d.keeps(placeholder):
			kept = false
		case unnumbered(placeholder.Spelling):
			next++
			bare, theirs = true, theirs && placeholder.Position == next
		}
	}
	switch {
	case !bare || kept && theirs:
	case inTurn:
		s.numbered = false
	default:
		s.all = numbered
	}
	return s
}

// Spell is that of the dialect.
func (s Speller) Spell(p *message.Placeholder) (string, []message.Loss) {
	text, losses := s.d.Spell(p, s.numbered)
	if s.all && p.Position > 0 && unnumbered(text) {
		text = s.d.placed(p, true, text[1:])
	}
	return text, losses
}

// keeps reports whether a placeholder is spelled as it was.
func (d *Dialect) keeps(p *message.Placeholder) bool {
	return p.Spelling != "" && !p.Wrapped && (p.Syntax == d.syntax || p.Syntax == message.C && p.Spelling[0] == '%' && d.means(p))
}

// means reports whether a placeholder's spelling says in the dialect what it
// said where it comes from.
func (d *Dialect) means(p *message.Placeholder) bool {
	q := d.Read(p.Spelling)
	return q != nil && q.Type == p.Type && q.Style == p.Style && (q.Name != "" || q.Position == p.Position || unnumbered(p.Spelling))
}

// unnumbered reports whether a spelling takes the next argument.
func unnumbered(spelling string) bool {
	return !strings.ContainsAny(spelling, "$!(") && strings.Trim(spelling[1:], "0123456789") != ""
}

// Package icu reads and writes ICU messages: {name}, {n, number, integer},
// plural, selectordinal and select, nested in any depth, with # and apostrophe
// quoting (ICU's DOUBLE_OPTIONAL mode: an apostrophe quotes only before a
// character that has a meaning). Nested choices are flattened into the
// message tree's matrix on reading and nested again on writing.
package icu

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"zelvik/message"
)

// maxDepth bounds how deep choices may stand in one another.
const maxDepth = 20

// parser walks over one message.
type parser struct {
	text string
	at   int
	// selectors are the message's selectors in order of appearance; others
	// say whether they have a default variant.
	selectors []message.Selector
	others    []bool
	// counted are the plural arguments around the current place, innermost
	// last: # stands for it.
	counted []int
	// selected counts the selects inside the innermost of them; shown are the # in those.
	selected int
	shown    []int
	depth    int
	// java says that the text is a pattern of java.text.MessageFormat; bare
	// are the apostrophes in it that stand alone.
	java bool
	bare []int
}

// Simple reports whether the text has no character with a meaning to ICU.
func Simple(text string) bool {
	for i := 0; i < len(text); i++ {
		if c := text[i]; c == '{' || c == '}' || c == '\'' {
			return false
		}
	}
	return true
}

// Parse reads a message. On a fault the message is the text as it stands, and
// the fault says where and why.
func Parse(text string) (message.Message, []message.Fault) {
	if Simple(text) {
		return message.Plain(text), nil
	}
	return parse(&parser{text: text})
}

func parse(p *parser) (message.Message, []message.Fault) {
	if pattern, ok := p.flat(); ok && p.at == len(p.text) {
		return message.Message{Pattern: pattern}, nil
	}
	p.at = 0
	branches, err := p.sequence()
	if err == nil && p.at < len(p.text) {
		err = p.fault("a closing brace without an opening one", "quote it as '}'")
	}
	if err != nil {
		return message.Plain(p.text), []message.Fault{*err}
	}
	faults := p.missing()
	slices.Sort(p.shown)
	for _, at := range slices.Compact(p.shown) { // some were read twice
		faults = append(faults, message.Fault{Offset: at, Rule: "escape-wrong", Text: "a # inside a select, which is shown as it stands though a plural is around it",
			Fix: "write the argument in braces"})
	}
	return message.Chosen(p.selectors, branches), faults
}

// LooksChosen reports whether a text that is not known to be an ICU message
// has a plural or select in it, so that it can be taken for one.
func LooksChosen(text string) bool {
	for rest := text; ; {
		at := strings.IndexByte(rest, '{')
		if at < 0 {
			return false
		}
		rest = rest[at+1:]
		end := 0
		for end < len(rest) && rest[end] != ',' && rest[end] != '{' && rest[end] != '}' {
			end++
		}
		if end == len(rest) || rest[end] != ',' {
			continue
		}
		kind, after, ok := strings.Cut(rest[end+1:], ",")
		if !ok {
			return false
		}
		switch strings.TrimSpace(kind) {
		case "plural", "select", "selectordinal":
			if strings.IndexByte(after, '{') >= 0 {
				return true
			}
		}
	}
}

func (p *parser) fault(text, fix string) *message.Fault {
	return &message.Fault{Offset: p.at, Rule: "file-damaged", Text: text, Fix: fix}
}

func (p *parser) tooMany() *message.Fault {
	return p.fault(fmt.Sprintf("choices that multiply out to more than %d variants", message.MaxVariants), "split the message")
}

// missing reports selectors without a default variant.
func (p *parser) missing() []message.Fault {
	var faults []message.Fault
	for i, s := range p.selectors {
		if !p.others[i] {
			faults = append(faults, message.Fault{Rule: "select-gap",
				Text: fmt.Sprintf("the %s over %s has no other variant", s.Kind, name(&s.Argument)),
				Fix:  "add other {...}, which applies when no variant does"})
		}
	}
	return faults
}

// sequence reads parts up to a closing brace or the end.
func (p *parser) sequence() ([]message.Branch, *message.Fault) {
	if p.depth++; p.depth > maxDepth {
		return nil, p.fault("choices nested too deep", "split the message")
	}
	defer func() { p.depth-- }()
	if pattern, ok := p.flat(); ok {
		return []message.Branch{{Pattern: pattern}}, nil
	}
	var branches []message.Branch // none as long as nothing was read
	var literal strings.Builder
	add := func(part message.Part) {
		if branches == nil {
			branches = []message.Branch{{}}
		}
		for i := range branches {
			branches[i].Pattern = branches[i].Pattern.Add(part)
		}
	}
	flush := func() {
		if literal.Len() > 0 {
			add(message.Text(literal.String()))
			literal.Reset()
		}
	}
	for p.at < len(p.text) {
		c := p.text[p.at]
		switch {
		case c == '\'':
			p.apostrophe(&literal)
		case c == '#' && len(p.counted) > 0:
			flush()
			add(p.hash())
			p.at++
		case c == '}':
			flush()
			return some(branches), nil
		case c == '{':
			flush()
			inner, err := p.argument()
			if err != nil {
				return nil, err
			}
			if len(inner) == 1 && len(inner[0].Keys) == 0 {
				add(inner[0].Pattern[0])
				continue
			}
			if branches == nil && len(inner) <= message.MaxVariants {
				branches = inner
				continue
			}
			if branches = message.Times(some(branches), inner); len(branches) > message.MaxVariants {
				return nil, p.tooMany()
			}
		default:
			end := p.at + 1
			for end < len(p.text) && p.text[end] != '\'' && p.text[end] != '#' && p.text[end] != '{' && p.text[end] != '}' {
				end++
			}
			literal.WriteString(p.text[p.at:end])
			p.at = end
		}
	}
	flush()
	return some(branches), nil
}

// some returns the branches, an empty one where there are none.
func some(branches []message.Branch) []message.Branch {
	if branches == nil {
		return []message.Branch{{}}
	}
	return branches
}

// flat reads what most sequences are, text and arguments that are no choices,
// up to a closing brace or the end. Where there is more to it than that, or
// something wrong, it is false and the parser stands where it stood.
func (p *parser) flat() (message.Pattern, bool) {
	var pattern message.Pattern
	start, from := p.at, p.at
	hash := len(p.counted) > 0
	for ; p.at < len(p.text); p.at++ {
		switch c := p.text[p.at]; {
		case c == '}':
			return pattern.Add(message.Text(p.text[from:p.at])), true
		case c == '\'':
			if next := p.at + 1; !p.java && (next == len(p.text) || !(p.text[next] == '\'' || p.text[next] == '{' || p.text[next] == '}' || p.text[next] == '#' && hash)) {
				continue
			}
			p.at = start
			return nil, false
		case c == '{':
			text := p.text[from:p.at]
			argument := p.simple()
			if argument == nil {
				p.at = start
				return nil, false
			}
			if pattern == nil { // with room for the arguments and the text around them
				next, _, _ := strings.Cut(p.text[p.at:], "}")
				pattern = make(message.Pattern, 0, 3+2*strings.Count(next, "{"))
			}
			pattern, from = append(pattern.Add(message.Text(text)), argument), p.at
			p.at--
		case c == '#' && hash:
			pattern = append(pattern.Add(message.Text(p.text[from:p.at])), p.hash())
			from = p.at + 1
		}
	}
	return pattern.Add(message.Text(p.text[from:])), true
}

// hash is the placeholder that # stands for.
func (p *parser) hash() *message.Placeholder {
	s := &p.selectors[p.counted[len(p.counted)-1]]
	if p.selected > 0 {
		p.shown = append(p.shown, p.at)
	}
	return &message.Placeholder{Name: s.Argument.Name, Position: s.Argument.Position, Type: message.Integer, Style: "group", Spelling: "#", Syntax: message.ICU}
}

// simple reads {name} or {name, type, style}, at whose opening brace the parser
// stands; nil where it is a choice or something is wrong with it.
func (p *parser) simple() *message.Placeholder {
	start := p.at
	p.at++
	id := p.word()
	if !argumentName(id) {
		return nil
	}
	kind := ""
	if p.is(',') {
		p.at++
		switch kind = p.word(); kind {
		case "", "plural", "selectordinal", "select", "choice":
			return nil
		}
	}
	argument := &message.Placeholder{Name: id, Syntax: message.ICU}
	if id[0] <= '9' {
		if n, err := strconv.Atoi(id); err == nil {
			argument.Name, argument.Position = "", n+1
		}
	}
	if kind != "" {
		style := ""
		if p.is(',') {
			p.at++
			style = strings.TrimSpace(p.style())
		}
		if !p.is('}') || !readStyle(argument, kind, style) {
			return nil
		}
	} else if c := len(p.counted); c > 0 && p.is('}') {
		if s := &p.selectors[p.counted[c-1]].Argument; s.Name == argument.Name && s.Position == argument.Position {
			argument.Type = message.Integer
		}
	}
	if !p.is('}') {
		return nil
	}
	p.at++
	if argument.Spelling == "" { // else it has one of another syntax
		argument.Spelling = p.text[start:p.at]
	}
	return argument
}

// apostrophe reads a doubled apostrophe, a quoted stretch, or a plain one.
func (p *parser) apostrophe(literal *strings.Builder) {
	p.at++
	rest := p.text[p.at:]
	if strings.HasPrefix(rest, "'") {
		literal.WriteByte('\'')
		p.at++
		return
	}
	if rest == "" || !(rest[0] == '{' || rest[0] == '}' || rest[0] == '#' && len(p.counted) > 0) {
		p.bare = append(p.bare, p.at-1)
		literal.WriteByte('\'')
		return
	}
	for p.at < len(p.text) {
		c := p.text[p.at]
		p.at++
		if c == '\'' {
			if p.at >= len(p.text) || p.text[p.at] != '\'' {
				return
			}
			p.at++
		}
		literal.WriteByte(c)
	}
}

// word reads up to a comma or brace and trims white space.
func (p *parser) word() string {
	from := p.at
	for p.at < len(p.text) && p.text[p.at] != ',' && p.text[p.at] != '{' && p.text[p.at] != '}' {
		p.at++
	}
	return strings.TrimSpace(p.text[from:p.at])
}

// key reads up to white space or a brace.
func (p *parser) key() string {
	from := p.at
	for p.at < len(p.text) && strings.IndexByte(" \t\r\n{}", p.text[p.at]) < 0 {
		p.at++
	}
	return strings.TrimSpace(p.text[from:p.at])
}

func (p *parser) is(c byte) bool { return p.at < len(p.text) && p.text[p.at] == c }

func (p *parser) space() {
	for p.at < len(p.text) && strings.IndexByte(" \t\r\n\u200e\u200f", p.text[p.at]) >= 0 {
		p.at++
	}
}

// argument reads {...}, at whose opening brace the parser stands.
func (p *parser) argument() ([]message.Branch, *message.Fault) {
	start := p.at
	if argument := p.simple(); argument != nil {
		return []message.Branch{{Pattern: message.Pattern{argument}}}, nil
	}
	p.at = start + 1
	id := p.word()
	if !argumentName(id) {
		p.at = start
		return nil, p.fault(fmt.Sprintf("%q is no argument name", id), "name the argument with letters, digits and _, or quote the brace as '{'")
	}
	argument := message.Placeholder{Name: id, Syntax: message.ICU}
	if id[0] <= '9' {
		if n, err := strconv.Atoi(id); err == nil {
			argument.Name, argument.Position = "", n+1
		}
	}
	if !p.is(',') {
		p.at = start
		return nil, p.fault("a brace that is not closed", "add }")
	}
	p.at++
	kind := p.word()
	switch kind {
	case "plural", "selectordinal", "select":
		return p.choice(argument, kind)
	}
	style := ""
	if p.is(',') {
		p.at++
		style = p.style()
	}
	if !p.is('}') {
		p.at = start
		return nil, p.fault("a brace that is not closed", "add }")
	}
	p.at++
	argument.Spelling = p.text[start:p.at]
	if p.java && kind == "choice" {
		return p.limits(argument, style)
	}
	p.at = start
	return nil, p.fault(fmt.Sprintf("%q is no argument type", kind), "use number, date, time, plural, select or selectordinal")
}

// style reads the text of a simple argument's style, in which quotes and
// nested braces may stand.
func (p *parser) style() string {
	start, depth := p.at, 0
	for p.at < len(p.text) {
		switch p.text[p.at] {
		case '\'':
			if end := strings.IndexByte(p.text[p.at+1:], '\''); end >= 0 {
				p.at += end + 1
			}
		case '{':
			depth++
		case '}':
			if depth == 0 {
				return p.text[start:p.at]
			}
			depth--
		}
		p.at++
	}
	return p.text[start:]
}

func argumentName(id string) bool {
	for i := 0; i < len(id); i++ {
		if c := id[i]; c <= ' ' || c < 0x80 && unnamed[c] {
			return false
		}
	}
	return id != ""
}

// unnamed are the characters that no argument's name has.
var unnamed = func() (set [0x80]bool) {
	for _, c := range "'\"#<>|,:;()[]!?*+=/\\&%$@^`~" {
		set[c] = true
	}
	return set
}()

var categories = []string{"zero", "one", "two", "few", "many", "other"}

func cmpOther(key string) string {
	if key == "" {
		return message.Default
	}
	return key
}

func number(text string) bool {
	_, err := strconv.ParseFloat(text, 64)
	return err == nil
}

// selector returns the index of the selector, a new one where it is not known.
func (p *parser) selector(s message.Selector) int {
	for i, known := range p.selectors {
		if known.Argument.Name == s.Argument.Name && known.Argument.Position == s.Argument.Position && known.Kind == s.Kind && known.Offset == s.Offset {
			return i
		}
	}
	p.selectors = append(p.selectors, s)
	p.others = append(p.others, false)
	return len(p.selectors) - 1
}

// name is how ICU spells the argument.
func name(p *message.Placeholder) string {
	if p.Name != "" {
		return p.Name
	}
	return strconv.Itoa(p.Position - 1)
}

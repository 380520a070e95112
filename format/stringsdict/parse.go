package stringsdict

import (
	"fmt"
	"slices"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/finding"
	"zelvik/format"
	"zelvik/format/charset"
	"zelvik/format/plist"
	"zelvik/message"
	"zelvik/message/printf"
)

// The keys of the format (Apple, "Stringsdict file format").
const (
	formatKey = "NSStringLocalizedFormatKey"
	specKey   = "NSStringFormatSpecTypeKey"
	valueKey  = "NSStringFormatValueTypeKey"
	pluralKey = "NSStringPluralRuleType"
	widthKey  = "NSStringVariableWidthRuleType"
)

// document is a property list that was read.
type document struct {
	text    *charset.Text
	catalog *catalog.Catalog
	root    plist.Value
}

// Catalogs gives the file's one catalog.
func (d *document) Catalogs() []*catalog.Catalog { return []*catalog.Catalog{d.catalog} }

// Text gives the file as UTF-8.
func (d *document) Text() string { return d.text.String() }

type parser struct {
	*document
	lines    *finding.Lines
	findings []finding.Finding
}

func parse(data []byte) (format.Document, []finding.Finding) {
	p := &parser{document: &document{text: charset.Decode(data), catalog: &catalog.Catalog{}}}
	src := p.Text()
	p.lines = finding.NewLines(src)
	if charset.Binary(data) {
		p.report("file-damaged", 0, "", "the file is binary, no XML property list", "convert it to XML")
		return p.document, p.findings
	}
	if p.text.Bad >= 0 {
		p.report("file-damaged", p.text.Bad, "", "the file is not valid "+p.text.Encoding.String(), "save it as UTF-8")
	}
	root, faults := plist.Parse(src)
	p.root = root
	for _, f := range faults {
		p.report("file-damaged", f.Offset, "", f.Text, f.Mend)
	}
	seen := map[string]int{}
	for i := range root.Members {
		m := &root.Members[i]
		if at, double := seen[m.Key]; double {
			line, _ := p.lines.At(at)
			p.report("key-duplicate", m.From, m.Key, fmt.Sprintf("the key %s stands twice; first in line %d", m.Key, line), "remove one of them")
		}
		seen[m.Key] = m.From
		e := catalog.Entry{Key: m.Key, Message: p.message(m), Note: m.Note, Offset: m.From}
		if widest(m) != nil {
			e.Unread = "the texts for narrower screens"
		}
		p.catalog.Entries = append(p.catalog.Entries, e)
	}
	finding.Sort(p.findings)
	return p.document, p.findings
}

func (p *parser) report(rule string, offset int, key, text, mend string) {
	if len(p.findings) > 1000 {
		return
	}
	line, column := p.lines.At(offset)
	p.findings = append(p.findings, finding.Finding{Rule: rule, Severity: finding.Error, Line: line, Column: column, Key: key, Message: text, Mend: mend})
}

// reader follows the variables of one entry.
type reader struct {
	*parser
	member    *plist.Member
	selectors []message.Selector
	depth     int
}

func (p *parser) message(m *plist.Member) message.Message {
	if m.Value.Kind == plist.String {
		return literal(m.Value.Text)
	}
	top := m.Value.Find(formatKey)
	if widest := widest(m); widest != nil {
		return literal(widest.Value.Text)
	}
	if top == nil {
		p.report("file-damaged", m.From, m.Key, "the entry has no "+formatKey, "add it with the text, such as %#@count@")
		return message.Message{}
	}
	r := &reader{parser: p, member: m}
	branches := r.expand(top.Value.Text, 0, top.From)
	return message.Chosen(r.selectors, branches)
}

// widest gives the text for the widest screens of an entry that has texts for
// several, or nil. The others stay where they are.
func widest(m *plist.Member) *plist.Member {
	width := m.Value.Find(widthKey)
	if width == nil || m.Value.Find(formatKey) != nil {
		return nil
	}
	if n := len(width.Value.Members); n > 0 {
		return &width.Value.Members[n-1]
	}
	return nil
}

func literal(text string) message.Message {
	r := printf.Reader{Dialect: printf.Foundation, Formatted: printf.Foundation.Formatted(text)}
	return message.Message{Pattern: r.Read(nil, text)}
}

// expand reads a format text in which %#@name@ stands for a variable. Position
// is the argument that an unnumbered placeholder means, 0 at the top, where
// they count up.
func (r *reader) expand(text string, position, offset int) []message.Branch {
	branches := []message.Branch{{}}
	if r.depth++; r.depth > 10 {
		r.report("file-damaged", offset, r.member.Key, "variables that refer to one another too deep", "flatten them")
		return branches
	}
	defer func() { r.depth-- }()
	next := 0
	for {
		before, name, explicit, rest, ok := variable(text)
		formatted := printf.Reader{Dialect: printf.Foundation, Formatted: true}
		var p message.Pattern
		p = formatted.Read(p, before)
		for _, part := range p {
			if placeholder, ok := part.(*message.Placeholder); ok && !strings.Contains(placeholder.Spelling, "$") {
				if position > 0 {
					placeholder.Position = position
					placeholder.Name = r.name(position)
				} else {
					next++
					placeholder.Position = next
				}
			}
		}
		branches = message.Times(branches, []message.Branch{{Pattern: p}})
		if !ok {
			return branches
		}
		text = rest
		at := explicit
		if at == 0 && position > 0 {
			at = position
		} else if at == 0 {
			next++
			at = next
		}
		branches = message.Times(branches, r.variable(name, at, offset))
	}
}

// name gives the name of the variable at a position.
func (r *reader) name(position int) string {
	for _, s := range r.selectors {
		if s.Argument.Position == position {
			return s.Argument.Name
		}
	}
	return ""
}

// variable cuts a text at its first %#@name@ or %2$#@name@.
func variable(text string) (before, name string, position int, rest string, ok bool) {
	for at := 0; ; {
		i := strings.Index(text[at:], "#@")
		if i < 0 {
			return text, "", 0, "", false
		}
		i += at
		end := strings.IndexByte(text[i+2:], '@')
		start := i
		if start > 0 && text[start-1] == '$' {
			start--
			for start > 0 && text[start-1] >= '0' && text[start-1] <= '9' {
				start--
			}
			for _, c := range text[start : i-1] {
				position = position*10 + int(c-'0')
			}
		}
		if end < 0 || start == 0 || text[start-1] != '%' {
			at, position = i+2, 0
			continue
		}
		return text[:start-1], text[i+2 : i+2+end], position, text[i+2+end+1:], true
	}
}

// variable gives the branches of one variable.
func (r *reader) variable(name string, position, offset int) []message.Branch {
	m := r.member.Value.Find(name)
	if m == nil || m.Value.Kind != plist.Dict {
		r.report("file-damaged", offset, r.member.Key, fmt.Sprintf("the variable %s is not described", name), fmt.Sprintf("add <key>%s</key> with its forms", name))
		return []message.Branch{{Pattern: message.Pattern{&message.Placeholder{Name: name, Position: position, Syntax: message.Foundation, Spelling: "%#@" + name + "@"}}}}
	}
	if spec := m.Value.Find(specKey); spec != nil && spec.Value.Text != pluralKey {
		r.report("file-damaged", spec.From, r.member.Key, fmt.Sprintf("%q is no rule type", spec.Value.Text), "write "+pluralKey)
	}
	// A variable named after another's case ("bikes__one") counts the same.
	plain, _, _ := strings.Cut(name, "__")
	index := slices.IndexFunc(r.selectors, func(s message.Selector) bool { return s.Argument.Position == position })
	if index < 0 {
		index = len(r.selectors)
		argument := message.Placeholder{Name: plain, Position: position, Type: message.Integer, Syntax: message.Foundation}
		r.selectors = append(r.selectors, message.Selector{Argument: argument})
	}
	var out []message.Branch
	for _, variant := range m.Value.Members {
		if strings.HasPrefix(variant.Key, "NSString") {
			continue
		}
		if !slices.Contains(culture.Categories, variant.Key) {
			r.report("file-damaged", variant.From, r.member.Key, fmt.Sprintf("%q is no plural category", variant.Key), "use zero, one, two, few, many or other")
			continue
		}
		out = append(out, message.Under(index, variant.Key, r.expand(variant.Value.Text, position, variant.From))...)
	}
	if m.Value.Find(message.Default) == nil {
		r.report("select-gap", m.From, r.member.Key, fmt.Sprintf("the variable %s has no form other", name), "add <key>other</key>")
	}
	if len(out) == 0 {
		out = []message.Branch{{}}
	}
	return out
}

package stringsdict

import (
	"fmt"
	"strings"

	"zelvik/catalog"
	"zelvik/finding"
	"zelvik/format"
	"zelvik/format/charset"
	"zelvik/format/doc"
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
	doc.One
	root plist.Value
}

type parser struct {
	*document
	format.Reader
}

func parse(data []byte) (format.Document, []finding.Finding) {
	p := &parser{document: &document{One: doc.NewOne(data)}}
	src := p.Text()
	p.Reader = format.NewReader(src)
	if charset.Binary(data) {
		p.Damaged(0, "", "the file is binary, no XML property list", "convert it to XML")
		return p.document, p.Done()
	}
	p.Coded.Faults(p.Report, "save it as UTF-8")
	root, faults := plist.Parse(src)
	p.root = root
	for _, f := range faults {
		p.Damaged(f.Offset, "", f.Text, f.Fix)
	}
	for i := range root.Members {
		m := &root.Members[i]
		p.Once(m.Key, m.Key, m.From)
		e := catalog.Entry{Key: m.Key, Message: p.message(m), Note: m.Note, Offset: m.From}
		if widest(m) != nil {
			e.Unread = "the texts for narrower screens"
		}
		p.Catalog.Entries = append(p.Catalog.Entries, e)
	}
	return p.document, p.Done()
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
		p.Damaged(m.From, m.Key, "the entry has no "+formatKey, "add it with the text, such as %#@count@")
		return message.Message{}
	}
	x := &Expander{
		Find: func(name string) (Variable, bool) { return p.variable(m, name) },
		Report: func(rule string, offset int, text, fix string) {
			p.Report(rule, offset, m.Key, text, fix)
		},
	}
	return x.Message(top.Value.Text, top.From)
}

// variable reads the description of a variable.
func (p *parser) variable(entry *plist.Member, name string) (Variable, bool) {
	m := entry.Value.Find(name)
	if m == nil || m.Value.Kind != plist.Dict {
		return Variable{}, false
	}
	if spec := m.Value.Find(specKey); spec != nil && spec.Value.Text != pluralKey {
		p.Damaged(spec.From, entry.Key, fmt.Sprintf("%q is no rule type", spec.Value.Text), "write "+pluralKey)
	}
	v := Variable{Name: name, Offset: m.From}
	for _, form := range m.Value.Members {
		if !strings.HasPrefix(form.Key, "NSString") {
			v.Forms = append(v.Forms, Form{form.Key, form.Value.Text, form.From})
		}
	}
	return v, true
}

// widest returns the text for the widest screens of an entry that has texts for
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

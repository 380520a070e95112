package resx

import (
	"strings"

	"zelvik/catalog"
	"zelvik/finding"
	"zelvik/format"
	"zelvik/format/doc"
	"zelvik/format/xmlscan"
	"zelvik/internal/fast"
	"zelvik/message"
	"zelvik/message/composite"
	"zelvik/message/icu"
)

// document is a resource file that was read.
type document struct {
	doc.One
	slots []slot
	// rootEnd is where </root> stands, -1 where it does not.
	rootEnd int
}

// slot says where the pieces of an entry stand.
type slot struct {
	place          doc.Span
	startTo        int // after the start tag
	name           doc.Span
	value, comment doc.Element
}

type parser struct {
	*document
	doc.XML
	texts []format.Spelled
}

func parse(data []byte) (format.Document, []finding.Finding) {
	p := &parser{document: &document{One: doc.NewOne(data), rootEnd: -1}}
	ok := false
	if p.XML, ok = doc.NewXML(p.Coded, data, "a .resx file"); !ok {
		return p.document, p.Done()
	}
	root := false
	for p.Next() {
		switch {
		case p.Kind == xmlscan.Start && p.Name == "root":
			root = true
		case p.Kind == xmlscan.Start && p.Name == "data":
			p.data()
		case p.Kind == xmlscan.Start && len(p.Open) > 1:
			p.Skip()
		case p.Kind == xmlscan.End && p.Name == "root":
			p.rootEnd = p.From
		}
	}
	p.Texts(p.Catalog.Entries, p.texts, false, read)
	return p.document, p.End(root, "root", "write <root></root> around the data")
}

// data reads one <data>. Only texts become entries: what has a type that is no
// string, or a mimetype, is a file, an image or layout, and names beginning
// with >> describe forms.
func (p *parser) data() {
	s := slot{startTo: p.To, value: doc.NoElement, comment: doc.NoElement}
	key := ""
	named := false
	for _, a := range p.Attributes {
		if a.Name == "name" {
			s.name = doc.Span{From: a.ValueFrom, To: a.ValueTo}
			key, named = p.Unescape(a.ValueFrom, a.ValueTo), true
		}
	}
	if !named {
		p.Damaged(p.From, "", "<data> without a name", `add name="..."`)
	}
	kind, typed := p.Value("type")
	_, mime := p.Value("mimetype")
	if p.Lone {
		return
	}
	value, note := "", ""
	p.Between = func() { p.Damaged(p.From, key, "text inside <data> but outside <value>", "put it into <value>") }
	odd := func() string { return p.Bare(key) }
	s.place = p.Inside(func() {
		switch p.Name {
		case "value":
			value, s.value = p.Characters(odd, "data", "value", "comment")
		case "comment":
			note, s.comment = p.Characters(odd, "data", "value", "comment")
		default:
			p.Skip()
		}
	}, "data").Whole
	if !named {
		return
	}
	p.Once(strings.ToLower(key), key, s.place.From)
	if typed && !strings.HasPrefix(kind, "System.String") || mime || strings.HasPrefix(key, ">>") {
		return
	}
	offset := s.place.From
	if s.value.There() {
		offset = s.value.Content.From
	}
	p.Catalog.Entries = fast.Append(p.Catalog.Entries, catalog.Entry{Key: key, Note: strings.TrimSpace(note), Offset: s.place.From})
	p.texts = fast.Append(p.texts, format.Spelled{Text: value, Offset: offset})
	p.slots = fast.Append(p.slots, s)
}

// read makes a message of a value: an ICU message where a plural or select is
// in it, else a composite format string.
func read(value string) (message.Message, []message.Fault) {
	if strings.IndexByte(value, '{') < 0 {
		return message.Plain(value), nil
	}
	if icu.LooksChosen(value) {
		return icu.Parse(value)
	}
	p, faults := composite.Parse(value)
	return message.Message{Pattern: p}, faults
}

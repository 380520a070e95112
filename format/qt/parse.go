package qt

import (
	"strconv"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/finding"
	"zelvik/format"
	"zelvik/format/doc"
	"zelvik/format/numbered"
	"zelvik/format/xmlscan"
	"zelvik/message"
)

// document is a translation source that was read.
type document struct {
	doc.Pair
	slots []slot
	forms numbered.Forms
	// contextEnd and rootEnd are where a message may be added when no neighbour
	// is known: the end tag of the last context, and of TS; -1 for nowhere.
	contextEnd, rootEnd int
	// alone says that source and translation are in one culture.
	alone bool
}

// slot says where the pieces of a message stand.
type slot struct {
	place               doc.Element
	id                  doc.Span // the value of the attribute
	source, translation element
	extra, translator   element
	comment             element
	context             string
	shorter             bool      // it has texts for less room
	forms               []element // numerusform
	numerus             bool
	kind                string // the translation's type
}

// element is the place of an element and its text.
type element struct {
	doc.Element
	text string
}

var nowhere = element{Element: doc.NoElement}

type parser struct {
	*document
	doc.XML
	context string
}

func parse(data []byte) (format.Document, []finding.Finding) {
	p := &parser{document: &document{Pair: doc.NewPair(data), contextEnd: -1, rootEnd: -1, forms: formsOf("")}}
	ok := false
	if p.XML, ok = doc.NewXML(p.Coded, data, "a .ts file"); !ok {
		return p.document, p.Done()
	}
	root := false
	for p.Next() {
		switch {
		case p.Kind == xmlscan.Start && p.Name == "TS":
			root = true
			p.head()
		case p.Kind == xmlscan.Start && p.Name == "context":
			p.context = ""
		case p.Kind == xmlscan.Start && p.Name == "name":
			p.context = p.element().text
		case p.Kind == xmlscan.Start && p.Name == "message":
			p.message()
		case p.Kind == xmlscan.End && p.Name == "context":
			p.contextEnd = p.From
		case p.Kind == xmlscan.End && p.Name == "TS":
			p.rootEnd = p.From
		}
	}
	p.catalogs()
	return p.document, p.End(root, "TS", `write <TS version="2.1"></TS> around the contexts`)
}

// head reads the attributes of TS.
func (p *parser) head() {
	for name, c := range map[string]*catalog.Catalog{"language": p.Target, "sourcelanguage": p.Source} {
		value, ok := p.Value(name)
		if !ok || value == "" {
			continue
		}
		tag, err := culture.ParsePOSIX(value)
		if err != nil {
			p.Report("culture-unknown", p.From, "", err.Error(), "write the culture in "+name)
			continue
		}
		c.Culture = tag
	}
	p.forms = formsOf(p.Target.Culture)
}

// element reads the element just begun: its text, in which <byte value="x1b"/>
// stands for a control character.
func (p *parser) element() element {
	text, el := p.Characters(func() string {
		if p.Name != "byte" {
			return p.Bare("")
		}
		value, _ := p.Value("value")
		if !p.Lone {
			p.Skip()
		}
		return byteOf(value)
	}, "message", "context", "translation", "source")
	return element{el, text}
}

// byteOf reads the number of a control character: "x1b" or "27".
func byteOf(value string) string {
	base := 10
	if strings.HasPrefix(value, "x") {
		value, base = value[1:], 16
	}
	n, err := strconv.ParseUint(value, base, 8)
	if err != nil {
		return ""
	}
	return string(rune(n))
}

// message reads one message. Obsolete and vanished ones are kept untouched and
// not offered.
func (p *parser) message() {
	s := slot{id: doc.Nowhere, source: nowhere, translation: nowhere, extra: nowhere, translator: nowhere, comment: nowhere}
	id := ""
	for _, a := range p.Attributes {
		if a.Name == "id" {
			s.id = doc.Span{From: a.ValueFrom, To: a.ValueTo}
			id = p.Unescape(a.ValueFrom, a.ValueTo)
		}
	}
	numerus, _ := p.Value("numerus")
	s.numerus = numerus == "yes"
	if p.Lone {
		return
	}
	s.place = p.Inside(func() {
		switch p.Name {
		case "source":
			s.source = p.element()
		case "comment":
			s.comment = p.element()
		case "extracomment":
			s.extra = p.element()
		case "translatorcomment":
			s.translator = p.element()
		case "translation":
			p.translation(&s)
		default:
			p.Skip()
		}
	}, "message", "context")
	p.add(s, id)
}

// translation reads the element with its forms or length variants, of which
// the first, longest one counts.
func (p *parser) translation(s *slot) {
	s.kind, _ = p.Value("type")
	if variants, _ := p.Value("variants"); variants == "yes" || s.numerus {
		s.translation = p.longest(s)
	} else {
		s.translation = p.element()
	}
}

// longest reads an element that holds the forms of a translation, or texts of
// several lengths.
func (p *parser) longest(s *slot) (e element) {
	first := true
	e.Element = p.Inside(func() {
		switch p.Name {
		case "numerusform":
			if v, _ := p.Value("variants"); v == "yes" {
				s.forms = append(s.forms, p.longest(s))
			} else {
				s.forms = append(s.forms, p.element())
			}
		case "lengthvariant":
			v := p.element()
			if first {
				e.text = v.text
			}
			s.shorter = s.shorter || !first
			first = false
		default:
			p.Skip()
		}
	})
	return e
}

// add keeps a message under its key: its id, or its context and source, with
// the comment that tells it from others.
func (p *parser) add(s slot, id string) {
	if s.kind == "vanished" || s.kind == "obsolete" {
		p.Target.Obsolete++
		return
	}
	key := id
	if !s.id.There() {
		s.context = p.context
		key = s.key(s.source.text, s.comment.text)
	}
	if !s.source.There() && !s.id.There() {
		p.Damaged(s.place.Whole.From, "", "<message> without <source>", "add <source>...</source>")
		return
	}
	if !p.Once(key, key, s.place.Whole.From) {
		return
	}
	p.Index[key] = len(p.slots)
	p.slots = append(p.slots, s)
	p.Source.Add(catalog.Entry{Key: key, Note: s.extra.text, Offset: s.place.Whole.From})
}

// catalogs makes the entries of both sides.
func (p *parser) catalogs() {
	p.alone = p.Target.Culture == p.Source.Culture && p.Target.Culture != "" || p.Target.Culture == "" && !p.translated()
	for i := range p.slots {
		s := &p.slots[i]
		e := &p.Source.Entries[i]
		e.Message = p.read(s, s.source.text, nil)
		if !s.translated() {
			continue
		}
		t := catalog.Entry{Key: e.Key, Note: s.translator.text, State: catalog.Done, Offset: s.place.Whole.From}
		if s.kind == "unfinished" {
			t.State = catalog.Draft
		}
		t.Message = p.read(s, s.translation.text, s.forms)
		if s.shorter {
			t.Unread = "the shorter texts for less room"
		}
		if p.alone {
			e.Message = t.Message
			continue
		}
		p.Target.Add(t)
	}
	if p.alone {
		p.Target = nil
	}
}

// key makes the key of a message without an id.
func (s *slot) key(source, comment string) string {
	key := s.context + "::" + source
	if comment != "" {
		key += "@" + comment
	}
	return key
}

func (p *parser) translated() bool {
	for i := range p.slots {
		if p.slots[i].translated() {
			return true
		}
	}
	return false
}

func (s *slot) translated() bool {
	for _, f := range s.forms {
		if f.text != "" {
			return true
		}
	}
	return s.translation.text != ""
}

// read makes a message of a text, or of the forms where it counts.
func (p *parser) read(s *slot, text string, forms []element) message.Message {
	if !s.numerus {
		return message.Message{Pattern: read(text)}
	}
	var m message.Message
	if forms == nil {
		m = message.Message{Choice: &message.Choice{Variants: []message.Variant{{Keys: []string{message.Default}, Pattern: read(text)}}}}
	} else {
		m = p.forms.Choice(func(form int) message.Pattern {
			if form < len(forms) {
				return read(forms[form].text)
			}
			return nil
		})
	}
	m.Choice.Selectors = []message.Selector{{Argument: message.Placeholder{Name: "count", Type: message.Integer, Syntax: message.Marker}}}
	return m
}

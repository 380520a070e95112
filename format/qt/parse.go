package qt

import (
	"fmt"
	"strconv"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/finding"
	"zelvik/format"
	"zelvik/format/charset"
	"zelvik/format/numbered"
	"zelvik/format/xmlscan"
	"zelvik/message"
)

// document is a translation source that was read.
type document struct {
	text           *charset.Text
	source, target *catalog.Catalog
	slots          []slot
	index          map[string]int
	forms          numbered.Forms
	// lastEnd is where a message may be added when no neighbour is known: the
	// end tag of the last context, or of TS; -1 for nowhere.
	contextEnd, rootEnd int
	// alone says that source and translation are in one culture.
	alone bool
}

// span is a stretch of the text; from is -1 where it is not there.
type span struct{ from, to int }

// slot says where the pieces of a message stand: whole elements and their
// contents.
type slot struct {
	message, start      span // the element; its start tag
	id                  span // the value of the attribute
	source, translation element
	extra, translator   element
	comment             element
	context             string
	shorter             bool      // it has texts for less room
	forms               []element // numerusform
	numerus             bool
	kind                string // the translation's type
}

// element is the place of an element, of its start tag and of its content.
type element struct {
	whole, start, content span
	text                  string
	lone                  bool
}

var nowhere = element{whole: span{-1, -1}}

// Catalogs gives the source and the translation; in a file whose source is in
// the same culture, the one catalog of both.
func (d *document) Catalogs() []*catalog.Catalog {
	if d.target == nil {
		return []*catalog.Catalog{d.source}
	}
	return []*catalog.Catalog{d.source, d.target}
}

// Text gives the file as UTF-8.
func (d *document) Text() string { return d.text.String() }

type parser struct {
	*document
	format.Reader
	*xmlscan.Scanner
	src     string
	context string
}

func parse(data []byte) (format.Document, []finding.Finding) {
	p := &parser{document: &document{text: charset.Decode(data), source: &catalog.Catalog{}, target: &catalog.Catalog{}, index: map[string]int{}, contextEnd: -1, rootEnd: -1}}
	p.src = p.document.Text()
	p.Reader = format.NewReader(p.src)
	p.Scanner = xmlscan.New(p.src)
	p.forms = formsOf("")
	if charset.Binary(data) {
		p.Damaged(0, "", "the file is binary, no XML text", "give a .ts file")
		return p.document, p.Done()
	}
	p.text.Faults(p.Report, "save it as UTF-8")
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
	if !root {
		p.Damaged(0, "", "the file has no <TS>", `write <TS version="2.1"></TS> around the contexts`)
	}
	for _, f := range p.Faults {
		p.Damaged(f.Offset, "", f.Text, f.Mend)
	}
	p.catalogs()
	return p.document, p.Done()
}

// head reads the attributes of TS.
func (p *parser) head() {
	for name, c := range map[string]*catalog.Catalog{"language": p.target, "sourcelanguage": p.source} {
		value, ok := p.Value(name)
		if !ok || value == "" {
			continue
		}
		tag, err := culture.Parse(value)
		if err != nil {
			p.Report("culture-unknown", p.From, "", err.Error(), "write the culture in "+name)
			continue
		}
		c.Culture = tag
	}
	p.forms = formsOf(p.target.Culture)
}

// element reads the element just begun: its text, in which <byte value="x1b"/>
// stands for a control character.
func (p *parser) element() element {
	e := element{whole: span{p.From, p.To}, start: span{p.From, p.To}, content: span{p.To, p.To}, lone: p.Lone}
	if p.Lone {
		return e
	}
	name := p.Name
	var out strings.Builder
	depth := len(p.Open)
	for p.Next() && len(p.Open) >= depth {
		switch {
		case p.Kind == xmlscan.Text:
			out.WriteString(p.Unescape(p.From, p.To))
		case p.Kind == xmlscan.CDATA:
			out.WriteString(xmlscan.LineEnds(p.src[p.InnerFrom:p.InnerTo]))
		case p.Kind == xmlscan.Start && p.Name == "byte":
			value, _ := p.Value("value")
			out.WriteString(byteOf(value))
			if !p.Lone {
				p.Skip()
			}
		case p.Kind == xmlscan.Start && (p.Name == "message" || p.Name == "context" || p.Name == "translation" || p.Name == "source"):
			p.Back()
			p.Close(name)
			e.content.to, e.whole.to = p.From, p.From
			e.text = out.String()
			return e
		case p.Kind == xmlscan.Start:
			p.Damaged(p.From, "", fmt.Sprintf("the tag <%s> stands bare in a text", p.Name), "write &lt; for <")
			p.Skip()
		}
	}
	e.content.to, e.whole.to = p.From, p.To
	e.text = out.String()
	return e
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
	s := slot{message: span{p.From, p.To}, start: span{p.From, p.To}, id: span{-1, -1}, source: nowhere, translation: nowhere, extra: nowhere, translator: nowhere, comment: nowhere}
	id := ""
	for _, a := range p.Attributes {
		if a.Name == "id" {
			s.id = span{a.ValueFrom, a.ValueTo}
			id = p.Unescape(a.ValueFrom, a.ValueTo)
		}
	}
	numerus, _ := p.Value("numerus")
	s.numerus = numerus == "yes"
	if p.Lone {
		return
	}
	depth := len(p.Open)
	for p.Next() && len(p.Open) >= depth {
		if p.Kind != xmlscan.Start {
			continue
		}
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
		case "message", "context":
			p.Back()
			p.Close("message")
			s.message.to = p.From
			p.add(s, id)
			return
		default:
			p.Skip()
		}
	}
	s.message.to = p.To
	p.add(s, id)
}

// translation reads the element with its forms or length variants, of which
// the first, longest one counts.
func (p *parser) translation(s *slot) {
	s.kind, _ = p.Value("type")
	variants, _ := p.Value("variants")
	if !s.numerus && variants != "yes" {
		s.translation = p.element()
		return
	}
	e := element{whole: span{p.From, p.To}, start: span{p.From, p.To}, content: span{p.To, p.To}, lone: p.Lone}
	if !p.Lone {
		depth := len(p.Open)
		first := true
		for p.Next() && len(p.Open) >= depth {
			switch {
			case p.Kind == xmlscan.Start && p.Name == "numerusform":
				if v, _ := p.Value("variants"); v == "yes" {
					s.shorter = true
					whole := element{whole: span{p.From, p.To}, start: span{p.From, p.To}, content: span{p.To, p.To}}
					depth := len(p.Open)
					for p.Next() && len(p.Open) >= depth {
						if p.Kind == xmlscan.Start && p.Name == "lengthvariant" {
							if v := p.element(); whole.text == "" {
								whole.text = v.text
							}
						}
					}
					whole.content.to, whole.whole.to = p.From, p.To
					s.forms = append(s.forms, whole)
					continue
				}
				s.forms = append(s.forms, p.element())
			case p.Kind == xmlscan.Start && p.Name == "lengthvariant":
				v := p.element()
				if first {
					e.text = v.text
				}
				s.shorter = s.shorter || !first
				first = false
			case p.Kind == xmlscan.Start:
				p.Skip()
			}
		}
		e.content.to, e.whole.to = p.From, p.To
	}
	s.translation = e
}

// add keeps a message under its key: its id, or its context and source, with
// the comment that tells it from others.
func (p *parser) add(s slot, id string) {
	if s.kind == "vanished" || s.kind == "obsolete" {
		p.target.Obsolete++
		return
	}
	key := id
	if s.id.from < 0 {
		s.context = p.context
		key = s.key(s.source.text, s.comment.text)
	}
	if s.source.whole.from < 0 && s.id.from < 0 {
		p.Damaged(s.message.from, "", "<message> without <source>", "add <source>...</source>")
		return
	}
	if !p.Once(key, key, s.message.from) {
		return
	}
	p.index[key] = len(p.slots)
	p.slots = append(p.slots, s)
	p.source.Add(catalog.Entry{Key: key, Note: s.extra.text, Offset: s.message.from})
}

// catalogs makes the entries of both sides.
func (p *parser) catalogs() {
	p.alone = p.target.Culture == p.source.Culture && p.target.Culture != "" || p.target.Culture == "" && !p.translated()
	for i := range p.slots {
		s := &p.slots[i]
		e := &p.source.Entries[i]
		e.Message = p.read(s, s.source.text, nil)
		if !s.translated() {
			continue
		}
		t := catalog.Entry{Key: e.Key, Note: s.translator.text, State: catalog.Done, Offset: s.message.from}
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
		p.target.Add(t)
	}
	if p.alone {
		p.target = nil
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

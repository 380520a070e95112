package resx

import (
	"fmt"
	"strings"

	"zelvik/catalog"
	"zelvik/finding"
	"zelvik/format"
	"zelvik/format/charset"
	"zelvik/format/xmlscan"
	"zelvik/message"
	"zelvik/message/composite"
	"zelvik/message/icu"
	"zelvik/pages"
)

// document is a resource file that was read.
type document struct {
	text    *charset.Text
	catalog *catalog.Catalog
	slots   []slot
	// rootEnd is where </root> stands, -1 where it does not.
	rootEnd int
}

// slot says where the pieces of an entry stand; comment is -1 where there is
// none.
type slot struct {
	from, to, nameFrom, nameTo int
	valueFrom, valueTo         int
	commentFrom, commentTo     int
	// commentElement spans the whole comment element.
	commentElement, commentElementTo int
	// valueElementTo is behind </value>.
	valueElement, valueElementTo int
}

// Catalogs gives the file's one catalog.
func (d *document) Catalogs() []*catalog.Catalog { return []*catalog.Catalog{d.catalog} }

// Text gives the file as UTF-8.
func (d *document) Text() string { return d.text.String() }

type parser struct {
	*document
	*xmlscan.Scanner
	src string
	format.Reader
	texts []format.Spelled
}

func parse(data []byte) (format.Document, []finding.Finding) {
	p := &parser{document: &document{text: charset.Decode(data), catalog: &catalog.Catalog{}, rootEnd: -1}}
	p.src = p.document.Text()
	p.Scanner = xmlscan.New(p.src)
	p.Reader = format.NewReader(p.src)
	if charset.Binary(data) {
		p.Damaged(0, "", "the file is binary, no XML text", "give a .resx file")
		return p.document, p.Done()
	}
	p.text.Faults(p.Report, "save it as UTF-8")
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
	p.Texts(p.catalog.Entries, p.texts, false, read)
	if !root {
		p.Damaged(0, "", "the file has no <root>", "write <root></root> around the data")
	}
	for _, f := range p.Faults {
		p.Damaged(f.Offset, "", f.Text, f.Mend)
	}
	return p.document, p.Done()
}

// data reads one <data>. Only texts become entries: what has a type that is no
// string, or a mimetype, is a file, an image or layout, and names beginning
// with >> describe forms.
func (p *parser) data() {
	s := slot{from: p.From, commentFrom: -1, valueFrom: -1}
	key := ""
	named := false
	for _, a := range p.Attributes {
		if a.Name == "name" {
			s.nameFrom, s.nameTo = a.ValueFrom, a.ValueTo
			key, named = p.Unescape(a.ValueFrom, a.ValueTo), true
		}
	}
	kind, typed := p.Value("type")
	_, mime := p.Value("mimetype")
	from := p.From
	if p.Lone {
		if !named {
			p.Damaged(from, "", "<data> without a name", `add name="..."`)
		}
		return
	}
	value, note := "", ""
	offset := from
	depth := len(p.Open)
	for p.Next() && len(p.Open) >= depth {
		if p.Kind != xmlscan.Start {
			if p.Kind == xmlscan.Text && strings.TrimSpace(p.src[p.From:p.To]) != "" {
				p.Damaged(p.From, key, "text inside <data> but outside <value>", "put it into <value>")
			}
			continue
		}
		switch p.Name {
		case "value":
			s.valueElement = p.From
			value, s.valueFrom, s.valueTo, offset = p.textOf(key)
			s.valueElementTo = p.To
		case "comment":
			s.commentElement = p.From
			note, s.commentFrom, s.commentTo, _ = p.textOf(key)
			s.commentElementTo = p.To
		case "data":
			// The end tag is missing: the next entry has begun.
			p.Back()
			p.Close("data")
			s.to = p.From
			p.entry(s, key, named, typed && !strings.HasPrefix(kind, "System.String") || mime, value, note, offset)
			return
		default:
			p.Skip()
		}
	}
	s.to = p.To
	p.entry(s, key, named, typed && !strings.HasPrefix(kind, "System.String") || mime, value, note, offset)
}

func (p *parser) entry(s slot, key string, named, other bool, value, note string, offset int) {
	if !named {
		p.Damaged(s.from, "", "<data> without a name", `add name="..."`)
		return
	}
	p.Once(strings.ToLower(key), key, s.from)
	if other || strings.HasPrefix(key, ">>") {
		return
	}
	p.catalog.Entries = pages.Append(p.catalog.Entries, catalog.Entry{Key: key, Note: strings.TrimSpace(note), Offset: s.from})
	p.texts = pages.Append(p.texts, format.Spelled{Text: value, Offset: offset})
	p.slots = pages.Append(p.slots, s)
}

// textOf reads the text of the element just begun and its span.
func (p *parser) textOf(key string) (text string, from, to int, offset int) {
	name := p.Name
	start := p.To
	if p.Lone {
		return "", p.From, p.To, p.From
	}
	if end := strings.IndexByte(p.src[start:], '<'); end >= 0 && strings.HasPrefix(p.src[start+end:], "</"+name) {
		text = p.Unescape(start, start+end)
		p.Seek(start + end)
		p.Next()
		return text, start, (start + end), start
	}
	var out strings.Builder
	depth := len(p.Open)
	end := start
	for p.Next() && len(p.Open) >= depth {
		switch p.Kind {
		case xmlscan.Text:
			out.WriteString(p.Unescape(p.From, p.To))
		case xmlscan.CDATA:
			out.WriteString(xmlscan.LineEnds(p.src[p.InnerFrom:p.InnerTo]))
		case xmlscan.Start:
			if p.Name == "data" || p.Name == "value" || p.Name == "comment" {
				p.Back()
				p.Close(name)
				return out.String(), start, end, start
			}
			p.Damaged(p.From, key, fmt.Sprintf("the tag <%s> stands bare in a text", p.Name), "write &lt; for <")
			p.Skip()
		}
		end = p.To
	}
	return out.String(), start, p.From, start
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

package tmx

import (
	"fmt"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/finding"
	"zelvik/format"
	"zelvik/format/charset"
	"zelvik/format/inline"
	"zelvik/format/xmlscan"
	"zelvik/message"
	"zelvik/message/loose"
	"zelvik/pages"
)

// document is a memory that was read.
type document struct {
	text     *charset.Text
	catalogs []*catalog.Catalog
	units    []unit
	index    map[string]int
	form     inline.Form
	bodyEnd  int
}

type span struct{ from, to int }

// unit is one <tu>.
type unit struct {
	whole, start span
	// id is the value of tuid; from is -1 where there is none.
	id       span
	note     element
	noteText string
	variants []variant
	key      string
}

// variant is one <tuv>.
type variant struct {
	tag   culture.Tag
	whole span
	seg   element
	parts []inline.Part
}

// element is the place of an element and its content; from is -1 where it is
// not there.
type element struct {
	whole, content span
	lone           bool
}

// Catalogs gives the cultures' catalogs, the source first.
func (d *document) Catalogs() []*catalog.Catalog { return d.catalogs }

// Text gives the file as UTF-8.
func (d *document) Text() string { return d.text.String() }

type parser struct {
	*document
	format.Reader
	*xmlscan.Scanner
	src string
	// known are the cultures that variants have named.
	known map[string]culture.Tag
}

func parse(data []byte) (format.Document, []finding.Finding) {
	p := &parser{document: &document{text: charset.Decode(data), catalogs: []*catalog.Catalog{{}}, index: map[string]int{}, bodyEnd: -1}}
	p.src = p.document.Text()
	p.Reader, p.known = format.NewReader(p.src), map[string]culture.Tag{}
	p.Scanner = xmlscan.New(p.src)
	if charset.Binary(data) {
		p.Damaged(0, "", "the file is binary, no XML text", "give a .tmx file")
		return p.document, p.Done()
	}
	p.text.Faults(p.Report, "save it as UTF-8")
	root := false
	for p.Next() {
		switch {
		case p.Kind == xmlscan.Start && p.Name == "tmx":
			root = true
		case p.Kind == xmlscan.Start && p.Name == "header":
			if from, _ := p.Value("o-tmf"); from == codes {
				p.form.Coded = true
			}
			if lang, ok := p.Value("srclang"); ok && lang != "*all*" {
				if tag, err := culture.Parse(lang); err == nil {
					p.catalogs[0].Culture = tag
				} else {
					p.Report("culture-unknown", p.From, "", err.Error(), "write the culture in srclang")
				}
			}
			p.Skip()
		case p.Kind == xmlscan.Start && p.Name == "tu":
			p.unit()
		case p.Kind == xmlscan.End && p.Name == "body":
			p.bodyEnd = p.From
		}
	}
	if !root {
		p.Damaged(0, "", "the file has no <tmx>", `write <tmx version="1.4"> around the header and body`)
	}
	for _, f := range p.Faults {
		p.Damaged(f.Offset, "", f.Text, f.Mend)
	}
	p.messages()
	return p.document, p.Done()
}

// unit reads one unit. Properties are kept.
func (p *parser) unit() {
	u := unit{whole: span{p.From, p.To}, start: span{p.From, p.To}, id: span{-1, -1}, note: element{whole: span{-1, -1}}}
	for _, a := range p.Attributes {
		if a.Name == "tuid" {
			u.id, u.key = span{a.ValueFrom, a.ValueTo}, p.Unescape(a.ValueFrom, a.ValueTo)
		}
	}
	if p.Lone {
		return
	}
	note := ""
	depth := len(p.Open)
	for p.Next() && len(p.Open) >= depth {
		if p.Kind != xmlscan.Start {
			continue
		}
		switch p.Name {
		case "note":
			at := element{whole: span{p.From, p.To}, content: span{p.To, p.To}, lone: p.Lone}
			text := p.plainText()
			at.content.to, at.whole.to = p.From, p.To
			if u.note.whole.from < 0 {
				u.note, note = at, strings.TrimSpace(text)
			}
		case "tuv":
			p.variant(&u)
		case "tu":
			p.Back()
			p.Close("tu")
			u.whole.to = p.From
			p.add(u, note)
			return
		default:
			p.Skip()
		}
	}
	u.whole.to = p.To
	p.add(u, note)
}

func (p *parser) variant(u *unit) {
	v := variant{whole: span{p.From, p.To}, seg: element{whole: span{-1, -1}}}
	lang, ok := p.Value("xml:lang")
	if !ok {
		lang, ok = p.Value("lang")
	}
	tag, known := p.known[lang]
	var err error
	if !known {
		if tag, err = culture.Parse(lang); err == nil {
			p.known[lang] = tag
		}
	}
	switch {
	case !ok:
		p.Damaged(p.From, u.key, "<tuv> without xml:lang", `add xml:lang="de"`)
	case err != nil:
		p.Report("culture-unknown", p.From, u.key, err.Error(), "write a culture that exists")
	}
	v.tag = tag
	if p.Lone {
		return
	}
	depth := len(p.Open)
	for p.Next() && len(p.Open) >= depth {
		if p.Kind != xmlscan.Start {
			continue
		}
		switch p.Name {
		case "seg":
			v.parts, v.seg = p.content()
		case "tuv", "tu":
			p.Back()
			p.Close("tuv")
			v.whole.to = p.From
			p.keep(u, v, err == nil && ok)
			return
		default:
			p.Skip()
		}
	}
	v.whole.to = p.To
	p.keep(u, v, err == nil && ok)
}

func (p *parser) keep(u *unit, v variant, known bool) {
	if v.seg.whole.from < 0 {
		p.Damaged(v.whole.from, u.key, "<tuv> without <seg>", "add <seg>...</seg>")
		return
	}
	if known {
		u.variants = append(u.variants, v)
	}
}

// add keeps a unit under its id, or the text of its source. A memory may hold
// one source several times; the later ones are numbered.
func (p *parser) add(u unit, note string) {
	if len(u.variants) == 0 {
		return
	}
	if u.id.from < 0 {
		u.key = p.sourceText(&u)
		for n := 2; ; n++ {
			if _, taken := p.index[u.key]; !taken {
				break
			}
			u.key = fmt.Sprintf("%s#%d", strings.TrimSuffix(u.key, fmt.Sprintf("#%d", n-1)), n)
		}
	}
	if !p.Once(u.key, u.key, u.whole.from) {
		return
	}
	p.index[u.key] = len(p.units)
	u.noteText = note
	p.units = pages.Append(p.units, u)
}

// sourceText gives the text by which a unit without an id is known.
func (p *parser) sourceText(u *unit) string {
	best := &u.variants[0]
	for i := range u.variants {
		if u.variants[i].tag == p.catalogs[0].Culture {
			best = &u.variants[i]
		}
	}
	var out strings.Builder
	for _, part := range best.parts {
		if part.Code != nil {
			out.WriteString(part.Code.Equiv)
		}
		out.WriteString(part.Text)
	}
	return out.String()
}

func (p *parser) plainText() string {
	if p.Lone {
		return ""
	}
	var out strings.Builder
	depth := len(p.Open)
	for p.Next() && len(p.Open) >= depth {
		switch p.Kind {
		case xmlscan.Text:
			out.WriteString(p.Unescape(p.From, p.To))
		case xmlscan.CDATA:
			out.WriteString(xmlscan.LineEnds(p.src[p.InnerFrom:p.InnerTo]))
		}
	}
	return out.String()
}

// content reads the segment just begun.
func (p *parser) content() ([]inline.Part, element) {
	at := element{whole: span{p.From, p.To}, content: span{p.To, p.To}, lone: p.Lone}
	if p.Lone {
		return nil, at
	}
	var parts []inline.Part
	text := func(s string) { parts = inline.AddText(parts, s) }
	depth := len(p.Open)
	for p.Next() && len(p.Open) >= depth {
		switch p.Kind {
		case xmlscan.Text:
			text(p.Unescape(p.From, p.To))
		case xmlscan.CDATA:
			text(xmlscan.LineEnds(p.src[p.InnerFrom:p.InnerTo]))
		case xmlscan.Start:
			if p.Name == "hi" { // a stretch that is marked, not a code
				continue
			}
			if p.Name == "seg" || p.Name == "tuv" || p.Name == "tu" {
				p.Back()
				p.Close("seg")
				at.content.to, at.whole.to = p.From, p.From
				return parts, at
			}
			parts = append(parts, inline.Part{Code: p.code()})
		}
	}
	at.content.to, at.whole.to = p.From, p.To
	return parts, at
}

// code reads the inline element just begun.
func (p *parser) code() *inline.Code {
	p.form.Coded = true
	c := &inline.Code{Name: p.Name, Role: message.Lone}
	from := p.From
	for _, name := range []string{"x", "i"} {
		if v, ok := p.Value(name); ok && c.ID == "" {
			c.ID = v
		}
	}
	c.Kind, _ = p.Value("type")
	switch p.Name {
	case "bpt":
		c.Role = message.Open
	case "ept":
		c.Role = message.Close
	case "it":
		c.Role = message.Open
		if pos, _ := p.Value("pos"); pos == "end" {
			c.Role = message.Close
		}
	}
	c.Equiv = p.plainText()
	c.Raw = p.src[from:p.To]
	return c
}

// messages makes the catalogs, once it is known how the file writes
// placeholders.
func (p *parser) messages() {
	if !p.form.Coded {
		var votes loose.Votes
		for i := range p.units {
			for _, v := range p.units[i].variants {
				for _, part := range v.parts {
					votes.Count(part.Text)
				}
			}
		}
		p.form.Spelling = votes.Best()
	}
	byTag := map[culture.Tag]*catalog.Catalog{}
	if p.catalogs[0].Culture == "" && len(p.units) > 0 {
		p.catalogs[0].Culture = p.units[0].variants[0].tag
	}
	byTag[p.catalogs[0].Culture] = p.catalogs[0]
	p.catalogs[0].Grow(len(p.units))
	type text struct { // of an entry
		catalog *catalog.Catalog
		number  int
		variant *variant
	}
	texts := pages.Make[text](len(p.units))
	for i := range p.units {
		u := &p.units[i]
		for j := range u.variants {
			v := &u.variants[j]
			c := byTag[v.tag]
			if c == nil {
				c = &catalog.Catalog{Culture: v.tag}
				byTag[v.tag] = c
				p.catalogs = append(p.catalogs, c)
			}
			e := catalog.Entry{Key: u.key, Offset: v.whole.from}
			if j == 0 {
				e.Note = u.noteText
			}
			if first := c.Add(e); first >= 0 {
				c.Entries = c.Entries[:len(c.Entries)-1]
				continue
			}
			texts = pages.Append(texts, text{c, len(c.Entries) - 1, v})
		}
	}
	p.Parallel(len(texts), func(r *format.Reader, from, to int) {
		for _, t := range texts[from:to] {
			e := &t.catalog.Entries[t.number]
			e.Message = p.form.Read(r, e.Key, t.variant.seg.content.from, t.variant.parts)
		}
	})
	sortTags(p.catalogs[1:])
}

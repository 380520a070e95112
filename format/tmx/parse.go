package tmx

import (
	"fmt"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/finding"
	"zelvik/format"
	"zelvik/format/charset"
	"zelvik/format/doc"
	"zelvik/format/inline"
	"zelvik/format/xmlscan"
	"zelvik/internal/fast"
	"zelvik/message"
	"zelvik/message/loose"
)

// document is a memory that was read.
type document struct {
	doc.Many
	units []unit
	index map[string]int
	form  inline.Form
	// bodyEnd is where </body> stands, -1 where it does not.
	bodyEnd int
}

// unit is one <tu>.
type unit struct {
	place doc.Element
	// id is the value of tuid.
	id       doc.Span
	note     doc.Element
	noteText string
	variants []variant
	key      string
}

// variant is one <tuv>.
type variant struct {
	tag   culture.Tag
	place doc.Element
	seg   doc.Element
	parts []inline.Part
}

type parser struct {
	*document
	doc.XML
	// known are the cultures that variants have named.
	known map[string]culture.Tag
}

func parse(data []byte) (format.Document, []finding.Finding) {
	p := &parser{document: &document{Many: doc.Many{Coded: charset.Decode(data), List: []*catalog.Catalog{{}}}, index: map[string]int{}, bodyEnd: -1}, known: map[string]culture.Tag{}}
	ok := false
	if p.XML, ok = doc.NewXML(p.Coded, data, "a .tmx file"); !ok {
		return p.document, p.Done()
	}
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
					p.List[0].Culture = tag
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
	p.messages()
	return p.document, p.End(root, "tmx", `write <tmx version="1.4"> around the header and body`)
}

// unit reads a unit.
func (p *parser) unit() {
	u := unit{id: doc.Nowhere, note: doc.NoElement}
	for _, a := range p.Attributes {
		if a.Name == "tuid" {
			u.id, u.key = doc.Span{From: a.ValueFrom, To: a.ValueTo}, p.Unescape(a.ValueFrom, a.ValueTo)
		}
	}
	u.place = p.Inside(func() {
		switch p.Name {
		case "note":
			if text, at := p.plainText(); !u.note.There() {
				u.note, u.noteText = at, strings.TrimSpace(text)
			}
		case "tuv":
			p.variant(&u)
		default:
			p.Skip()
		}
	}, "tu")
	p.add(u)
}

// variant reads the text in one culture.
func (p *parser) variant(u *unit) {
	v := variant{seg: doc.NoElement}
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
	v.place = p.Inside(func() {
		if p.Name == "seg" {
			v.parts, v.seg = p.content()
		} else {
			p.Skip()
		}
	}, "tuv", "tu")
	if !v.seg.There() {
		p.Damaged(v.place.Whole.From, u.key, "<tuv> without <seg>", "add <seg>...</seg>")
	} else if err == nil && ok {
		u.variants = append(u.variants, v)
	}
}

// add keeps a unit under its id, or the text of its source. A memory may hold
// one source several times; the later ones are numbered.
func (p *parser) add(u unit) {
	if len(u.variants) == 0 {
		return
	}
	if !u.id.There() {
		u.key = p.sourceText(&u)
		for n := 2; ; n++ {
			if _, taken := p.index[u.key]; !taken {
				break
			}
			u.key = fmt.Sprintf("%s#%d", strings.TrimSuffix(u.key, fmt.Sprintf("#%d", n-1)), n)
		}
	}
	if !p.Once(u.key, u.key, u.place.Whole.From) {
		return
	}
	p.index[u.key] = len(p.units)
	p.units = fast.Append(p.units, u)
}

// sourceText returns the text by which a unit without an id is known.
func (p *parser) sourceText(u *unit) string {
	best := &u.variants[0]
	for i := range u.variants {
		if u.variants[i].tag == p.List[0].Culture {
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

// plainText reads the text of the element just begun.
func (p *parser) plainText() (string, doc.Element) {
	return p.Characters(func() string { return "" })
}

// content reads the segment just begun.
func (p *parser) content() ([]inline.Part, doc.Element) {
	at := p.Begun()
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
			text(xmlscan.LineEnds(p.Src[p.InnerFrom:p.InnerTo]))
		case xmlscan.Start:
			if p.Name == "hi" { // a stretch that is marked, not a code
				continue
			}
			if p.Name == "seg" || p.Name == "tuv" || p.Name == "tu" {
				p.Back()
				p.Close("seg")
				at.Content.To, at.Whole.To = p.From, p.From
				return parts, at
			}
			parts = append(parts, inline.Part{Code: p.code()})
		}
	}
	at.Content.To, at.Whole.To = p.From, p.To
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
	c.Equiv, _ = p.plainText()
	c.Raw = p.Src[from:p.To]
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
	if p.List[0].Culture == "" && len(p.units) > 0 {
		p.List[0].Culture = p.units[0].variants[0].tag
	}
	byTag[p.List[0].Culture] = p.List[0]
	p.List[0].Grow(len(p.units))
	type text struct { // of an entry
		catalog *catalog.Catalog
		number  int
		variant *variant
	}
	texts := fast.Make[text](len(p.units))
	for i := range p.units {
		u := &p.units[i]
		for j := range u.variants {
			v := &u.variants[j]
			c := byTag[v.tag]
			if c == nil {
				c = &catalog.Catalog{Culture: v.tag}
				byTag[v.tag] = c
				p.List = append(p.List, c)
			}
			e := catalog.Entry{Key: u.key, Offset: v.place.Whole.From}
			if j == 0 {
				e.Note = u.noteText
			}
			if first := c.Add(e); first >= 0 {
				c.Entries = c.Entries[:len(c.Entries)-1]
				continue
			}
			texts = fast.Append(texts, text{c, len(c.Entries) - 1, v})
		}
	}
	p.Parallel(len(texts), func(r *format.Reader, from, to int) {
		for _, t := range texts[from:to] {
			e := &t.catalog.Entries[t.number]
			e.Message = p.form.Read(r, e.Key, t.variant.seg.Content.From, t.variant.parts)
		}
	})
	sortTags(p.List[1:])
}

package xliff

import (
	"strconv"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/finding"
	"zelvik/format"
	"zelvik/format/charset"
	"zelvik/format/inline"
	"zelvik/format/xmlscan"
	"zelvik/message/loose"
	"zelvik/pages"
)

// document is a file that was read.
type document struct {
	text           *charset.Text
	source, target *catalog.Catalog
	units          []unit
	index          map[string]int
	// second says that the file is of version 2.
	second bool
	form   inline.Form
	// bodyEnd is where a unit may be added when no neighbour is known, -1 for
	// nowhere.
	bodyEnd int
}

// span is a stretch of the text.
type span struct{ from, to int }

// element is the place of an element, of its start tag and its content; whole
// begins at -1 where it is not there.
type element struct {
	whole, start, content span
	lone                  bool
}

var nowhere = element{whole: span{-1, -1}}

// unit is one <trans-unit> or <unit>.
type unit struct {
	whole, start   span
	name           span // the value of the attribute that is the key
	id             string
	source, target element
	segment        element // of version 2
	segments       int
	notes          []element
	allNotes       element // <notes> of version 2
	state          string
	data           map[string]string
	sourceParts    []inline.Part
	targetParts    []inline.Part
}

// Catalogs gives the source, and the translation where the file has one.
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
	src      string
	original string
}

func parse(data []byte) (format.Document, []finding.Finding) {
	p := &parser{document: &document{text: charset.Decode(data), source: &catalog.Catalog{}, target: &catalog.Catalog{}, index: map[string]int{}, bodyEnd: -1}}
	p.src = p.document.Text()
	p.Reader = format.NewReader(p.src)
	p.Scanner = xmlscan.New(p.src)
	if charset.Binary(data) {
		p.Damaged(0, "", "the file is binary, no XML text", "give an .xlf file")
		return p.document, p.Done()
	}
	p.text.Faults(p.Report, "save it as UTF-8")
	root, targeted := false, false
	for p.Next() {
		switch {
		case p.Kind == xmlscan.Start && p.Name == "xliff":
			root = true
			version, _ := p.Value("version")
			p.second = strings.HasPrefix(version, "2")
			p.tag("srcLang", p.source)
			targeted = p.tag("trgLang", p.target) || targeted
		case p.Kind == xmlscan.Start && p.Name == "file":
			if by, _ := p.Value(tool); by == codes {
				p.form.Coded = true
			}
			p.tag("source-language", p.source)
			targeted = p.tag("target-language", p.target) || targeted
			if p.original, _ = p.Value("original"); p.original == "" {
				p.original, _ = p.Value("id")
			}
		case p.Kind == xmlscan.Start && (p.Name == "trans-unit" || p.Name == "unit"):
			p.unit()
		case p.Kind == xmlscan.Start && p.Name == "mda:meta": // of version 2
			kind, _ := p.Value("type")
			p.form.Coded = p.form.Coded || kind == codes
		case p.Kind == xmlscan.Start && (p.Name == "header" || p.Name == "skeleton" || p.Name == "bin-unit"):
			p.Skip()
		case p.Kind == xmlscan.End && (p.Name == "body" || p.second && p.Name == "file"):
			p.bodyEnd = p.From
		}
	}
	if !root {
		p.Damaged(0, "", "the file has no <xliff>", `write <xliff version="1.2"> around the files`)
	}
	for _, f := range p.Faults {
		p.Damaged(f.Offset, "", f.Text, f.Mend)
	}
	p.messages()
	if !targeted && len(p.target.Entries) == 0 {
		p.target = nil
	}
	return p.document, p.Done()
}

// tag reads a culture from an attribute.
func (p *parser) tag(name string, c *catalog.Catalog) bool {
	value, ok := p.Value(name)
	if !ok || value == "" {
		return false
	}
	tag, err := culture.Parse(value)
	if err != nil {
		p.Report("culture-unknown", p.From, "", err.Error(), "write the culture in "+name)
		return true
	}
	if c.Culture == "" {
		c.Culture = tag
	}
	return true
}

// begun gives the element whose start tag was just read.
func (p *parser) begun() element {
	return element{whole: span{p.From, p.To}, start: span{p.From, p.To}, content: span{p.To, p.To}, lone: p.Lone}
}

// unit reads one unit.
func (p *parser) unit() {
	u := unit{whole: span{p.From, p.To}, start: span{p.From, p.To}, name: span{-1, -1}, source: nowhere, target: nowhere, segment: nowhere, allNotes: nowhere, data: map[string]string{}}
	e := catalog.Entry{Offset: p.From}
	key := ""
	for _, a := range p.Attributes {
		value := p.Unescape(a.ValueFrom, a.ValueTo)
		switch a.Name {
		case "id":
			u.id = value
			if u.name.from < 0 {
				key, u.name = value, span{a.ValueFrom, a.ValueTo}
			}
		case "resname", "name":
			if value != "" {
				key, u.name = value, span{a.ValueFrom, a.ValueTo}
			}
		case "translate":
			e.Fixed = value == "no"
		case "approved":
			if value == "yes" {
				u.state = "final"
			}
		case "maxwidth":
			if unit, _ := p.Value("size-unit"); unit == "char" {
				e.Limit = number(value)
			}
		case "slr:sizeRestriction":
			e.Limit = number(value[strings.IndexByte(value, ',')+1:])
		}
	}
	if p.Lone {
		return
	}
	name, depth := p.Name, len(p.Open)
	var notes []string
	for p.Next() && len(p.Open) >= depth {
		if p.Kind != xmlscan.Start {
			continue
		}
		switch p.Name {
		case "source":
			parts, at := p.content(&u)
			u.sourceParts = append(u.sourceParts, parts...)
			if u.source.whole.from < 0 {
				u.source = at
			}
		case "target":
			if state, ok := p.Value("state"); ok && u.state == "" {
				u.state = state
			}
			parts, at := p.content(&u)
			u.targetParts = append(u.targetParts, parts...)
			if u.target.whole.from < 0 {
				u.target = at
			}
		case "segment", "ignorable":
			if p.Name == "segment" {
				u.segments++
				if u.segment.whole.from < 0 {
					u.segment = p.begun()
				}
				if state, ok := p.Value("state"); ok && u.state == "" {
					u.state = state
				}
			}
		case "notes":
			u.allNotes = p.begun()
		case "note":
			at := p.begun()
			text := p.plainText()
			at.content.to, at.whole.to = p.From, p.To
			u.notes = append(u.notes, at)
			if text = strings.TrimSpace(text); text != extracted {
				notes = append(notes, text)
			}
		case "data":
			id, _ := p.Value("id")
			u.data[id] = p.plainText()
		case "originalData":
		case "trans-unit", "unit":
			p.Back()
			p.Close(name)
			u.whole.to = p.From
			p.add(u, e, key, notes)
			return
		default: // alternatives, matches and other modules are kept
			p.Skip()
		}
		if u.segment.whole.from >= 0 && u.segments == 1 {
			u.segment.content.to = p.To
		}
	}
	u.whole.to = p.To
	p.add(u, e, key, notes)
}

// extracted is the note that Apple's extraction writes where there is none.
const extracted = "No comment provided by engineer."

func number(text string) int {
	n, err := strconv.Atoi(strings.TrimSpace(text))
	if err != nil || n < 0 {
		return 0
	}
	return n
}

func (p *parser) add(u unit, e catalog.Entry, key string, notes []string) {
	if u.source.whole.from < 0 {
		p.Damaged(u.whole.from, key, "a unit without <source>", "add <source>...</source>")
		return
	}
	if key == "" {
		p.Damaged(u.whole.from, "", "a unit without an id", `add id="..."`)
		return
	}
	if _, double := p.index[key]; double && p.original != "" {
		key = p.original + "#" + key // the same id in another <file>
	}
	if !p.Once(key, key, u.whole.from) {
		return
	}
	e.Key, e.Note = key, strings.Join(notes, "\n")
	p.index[key] = len(p.units)
	p.units = pages.Append(p.units, u)
	p.source.Add(e)
}

// mostNamed is up to how many parts of a source are looked through for what a
// code of its translation is.
const mostNamed = 500

// messages makes messages of what was read, once it is known how the file
// writes placeholders.
func (p *parser) messages() {
	if !p.form.Coded {
		var votes loose.Votes
		for i := range p.units {
			for _, part := range p.units[i].sourceParts {
				votes.Count(part.Text)
			}
			for _, part := range p.units[i].targetParts {
				votes.Count(part.Text)
			}
		}
		p.form.Spelling = votes.Best()
	}
	targets := make([]int32, len(p.units)) // the numbers of their entries from 1, 0 for none
	for i := range p.units {
		u, e := &p.units[i], &p.source.Entries[i]
		if u.target.whole.from < 0 || len(u.targetParts) == 0 {
			continue
		}
		p.target.Add(catalog.Entry{Key: e.Key, Offset: u.target.whole.from, Fixed: e.Fixed, Limit: e.Limit, State: stateOf(u.state)})
		targets[i] = int32(len(p.target.Entries))
		for _, t := range u.targetParts {
			for _, s := range u.sourceParts[:min(len(u.sourceParts), mostNamed)] {
				if t.Code != nil && s.Code != nil {
					t.Code.Named(s.Code)
				}
			}
		}
	}
	p.Parallel(len(p.units), func(r *format.Reader, from, to int) {
		for i := from; i < to; i++ {
			u, e := &p.units[i], &p.source.Entries[i]
			e.Message = p.form.Read(r, e.Key, u.source.content.from, u.sourceParts)
			if n := targets[i]; n > 0 {
				p.target.Entries[n-1].Message = p.form.Read(r, e.Key, u.target.content.from, u.targetParts)
			}
		}
	})
}

// states are the words of both versions for how far a translation has come.
var states = map[string]catalog.State{
	"new": catalog.Draft, "needs-translation": catalog.Draft, "needs-review-translation": catalog.Draft, "needs-review-l10n": catalog.Draft,
	"needs-review-adaptation": catalog.Draft, "needs-l10n": catalog.Draft, "needs-adaptation": catalog.Moved,
	"translated": catalog.Done, "signed-off": catalog.Done, "final": catalog.Done,
	"initial": catalog.Draft, "reviewed": catalog.Done,
}

func stateOf(word string) catalog.State { return states[word] }

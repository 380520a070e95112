package xliff

import (
	"strconv"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/finding"
	"zelvik/format"
	"zelvik/format/doc"
	"zelvik/format/inline"
	"zelvik/format/xmlscan"
	"zelvik/internal/fast"
	"zelvik/message/loose"
)

// document is a file that was read.
type document struct {
	doc.Pair
	units []unit
	// second says that the file is of version 2.
	second bool
	form   inline.Form
	// bodyEnd is where a unit may be added when no neighbour is known, -1 for
	// nowhere.
	bodyEnd int
}

// unit is one <trans-unit> or <unit>.
type unit struct {
	place          doc.Element
	name           doc.Span // the value of the attribute that is the key
	id             string
	source, target doc.Element
	segment        doc.Element // of version 2
	segments       int
	notes          []doc.Element
	allNotes       doc.Element // <notes> of version 2
	state          string
	data           map[string]string
	sourceParts    []inline.Part
	targetParts    []inline.Part
}

type parser struct {
	*document
	doc.XML
	original string
	// keys are those of units by their ids, where the file's names do not count.
	keys map[string]string
}

func parse(data []byte, keys map[string]string) (format.Document, []finding.Finding) {
	p := &parser{document: &document{Pair: doc.NewPair(data), bodyEnd: -1}, keys: keys}
	ok := false
	if p.XML, ok = doc.NewXML(p.Coded, data, "an .xlf file"); !ok {
		return p.document, p.Done()
	}
	root, targeted := false, false
	for p.Next() {
		switch {
		case p.Kind == xmlscan.Start && p.Name == "xliff":
			root = true
			version, _ := p.Value("version")
			p.second = strings.HasPrefix(version, "2")
			p.tag("srcLang", p.Source)
			targeted = p.tag("trgLang", p.Target) || targeted
		case p.Kind == xmlscan.Start && p.Name == "file":
			if by, _ := p.Value(tool); by == codes {
				p.form.Coded = true
			}
			p.tag("source-language", p.Source)
			targeted = p.tag("target-language", p.Target) || targeted
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
	p.messages()
	if !targeted && len(p.Target.Entries) == 0 {
		p.Target = nil
	}
	return p.document, p.End(root, "xliff", `write <xliff version="1.2"> around the files`)
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

// unit reads one unit.
func (p *parser) unit() {
	u := unit{name: doc.Nowhere, source: doc.NoElement, target: doc.NoElement, segment: doc.NoElement, allNotes: doc.NoElement, data: map[string]string{}}
	e := catalog.Entry{Offset: p.From}
	key := p.attributes(&u, &e)
	if p.Lone {
		return
	}
	var notes []string
	u.place = p.Inside(func() {
		switch p.Name {
		case "source":
			parts, at := p.content(&u)
			u.sourceParts = append(u.sourceParts, parts...)
			if !u.source.There() {
				u.source = at
			}
		case "target":
			if state, ok := p.Value("state"); ok && u.state == "" {
				u.state = state
			}
			parts, at := p.content(&u)
			u.targetParts = append(u.targetParts, parts...)
			if !u.target.There() {
				u.target = at
			}
		case "segment":
			if u.segments++; u.segments == 1 {
				u.segment = p.Begun()
			}
			if state, ok := p.Value("state"); ok && u.state == "" {
				u.state = state
			}
		case "notes":
			u.allNotes = p.Begun()
		case "note":
			text, at := p.plainText()
			u.notes = append(u.notes, at)
			if text = strings.TrimSpace(text); text != extracted {
				notes = append(notes, text)
			}
		case "data":
			id, _ := p.Value("id")
			u.data[id], _ = p.plainText()
		case "ignorable", "originalData":
		default: // alternatives, matches and other modules are kept
			p.Skip()
		}
	}, "trans-unit", "unit")
	p.add(u, e, key, notes)
}

// attributes reads those of a unit, and gives its key.
func (p *parser) attributes(u *unit, e *catalog.Entry) (key string) {
	for _, a := range p.Attributes {
		value := p.Unescape(a.ValueFrom, a.ValueTo)
		switch a.Name {
		case "id":
			u.id = value
			if known := p.keys[value]; known != "" {
				key, u.name = known, doc.Span{From: a.ValueFrom, To: a.ValueTo}
			} else if !u.name.There() {
				key, u.name = value, doc.Span{From: a.ValueFrom, To: a.ValueTo}
			}
		case "resname", "name":
			if value != "" && p.keys[u.id] == "" {
				key, u.name = value, doc.Span{From: a.ValueFrom, To: a.ValueTo}
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
	return key
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
	if !u.source.There() {
		p.Damaged(u.place.Whole.From, key, "a unit without <source>", "add <source>...</source>")
		return
	}
	if key == "" {
		p.Damaged(u.place.Whole.From, "", "a unit without an id", `add id="..."`)
		return
	}
	if _, double := p.Index[key]; double && p.original != "" {
		key = p.original + "#" + key // the same id in another <file>
	}
	if !p.Once(key, key, u.place.Whole.From) {
		return
	}
	e.Key, e.Note = key, strings.Join(notes, "\n")
	p.Index[key] = len(p.units)
	p.units = fast.Append(p.units, u)
	p.Source.Add(e)
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
		u, e := &p.units[i], &p.Source.Entries[i]
		if !u.target.There() || len(u.targetParts) == 0 {
			continue
		}
		p.Target.Add(catalog.Entry{Key: e.Key, Offset: u.target.Whole.From, Fixed: e.Fixed, Limit: e.Limit, State: stateOf(u.state)})
		targets[i] = int32(len(p.Target.Entries))
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
			u, e := &p.units[i], &p.Source.Entries[i]
			e.Message = p.form.Read(r, e.Key, u.source.Content.From, u.sourceParts)
			if n := targets[i]; n > 0 {
				p.Target.Entries[n-1].Message = p.form.Read(r, e.Key, u.target.Content.From, u.targetParts)
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

package xcstrings

import (
	"cmp"
	"slices"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/finding"
	"zelvik/format"
	"zelvik/format/charset"
	"zelvik/format/doc"
	"zelvik/format/jsonscan"
	"zelvik/format/stringsdict"
	"zelvik/internal/fast"
	"zelvik/message"
	"zelvik/message/printf"
)

// document is a string catalog that was read.
type document struct {
	doc.Many
	root jsonscan.Value
}

type parser struct {
	*document
	format.Reader
	source    culture.Tag
	byCulture map[string]*catalog.Catalog
	// pending are the entries whose texts are still to be read.
	pending []pending
	// keys is how many there are, for the catalogs to have room.
	keys int
}

// pending is the number of an entry, and the localization that its texts stand
// in, nil where the key is the text.
type pending struct {
	catalog *catalog.Catalog
	number  int
	value   *jsonscan.Value
	stale   bool
}

func parse(data []byte) (format.Document, []finding.Finding) {
	p := &parser{document: &document{Many: doc.Many{Coded: charset.Decode(data)}}, byCulture: map[string]*catalog.Catalog{}, source: "en"}
	p.List = []*catalog.Catalog{{Culture: p.source}}
	ok := false
	if p.Reader, p.root, ok = jsonscan.Open(p.Coded, data, "an .xcstrings file"); !ok {
		return p.document, p.Done()
	}
	whole := len(p.Findings) == 0
	if v := p.root.Find("sourceLanguage"); v != nil {
		if tag, err := culture.Parse(v.Text); err == nil {
			p.source = tag
			p.List[0].Culture = tag
		} else {
			p.Report("culture-unknown", v.From, "", err.Error(), "write the culture of the source texts")
		}
		p.byCulture[v.Text] = p.List[0]
	} else if whole {
		p.Damaged(p.root.From, "", "the file has no sourceLanguage", `write "sourceLanguage" : "en"`)
	}
	strs := p.root.Find("strings")
	if strs == nil {
		if whole {
			p.Damaged(p.root.From, "", "the file has no strings", `write "strings" : {}`)
		}
		return p.document, p.Done()
	}
	p.keys = len(strs.Members)
	p.pending = fast.Make[pending](p.keys)
	p.List[0].Grow(p.keys)
	for i := range strs.Members {
		p.entry(&strs.Members[i])
	}
	p.Parallel(len(p.pending), func(r *format.Reader, from, to int) {
		part := *p
		part.Reader = *r
		for _, w := range p.pending[from:to] {
			e := &w.catalog.Entries[w.number]
			if w.value == nil {
				pattern, _ := printf.Foundation.Parse(e.Key)
				e.Message = message.Message{Pattern: pattern}
				continue
			}
			part.localization(e, w.value)
			if w.stale && w.catalog != p.List[0] && e.State == catalog.Done {
				e.State = catalog.Moved
			}
		}
		*r = part.Reader
	})
	slices.SortFunc(p.List[1:], func(a, b *catalog.Catalog) int { return cmp.Compare(a.Culture, b.Culture) })
	return p.document, p.Done()
}

// entry reads one key in all cultures.
func (p *parser) entry(m *jsonscan.Member) {
	if !p.Once(m.Key, m.Key, m.KeyFrom) {
		return
	}
	common := catalog.Entry{Key: m.Key, Offset: m.KeyFrom}
	if v := m.Value.Find("comment"); v != nil {
		common.Note = v.Text
	}
	if v := m.Value.Find("shouldTranslate"); v != nil && v.Text == "false" {
		common.Fixed = true
	}
	stale := false
	if v := m.Value.Find("extractionState"); v != nil && v.Text == "stale" {
		stale = true
	}
	localizations := m.Value.Find("localizations")
	inSource := false
	if localizations != nil {
		for i := range localizations.Members {
			l := &localizations.Members[i]
			c := p.culture(l)
			if c == nil {
				continue
			}
			if len(l.Value.Members) == 0 || l.Value.Find("stringSet") != nil { // nothing yet, or phrases for the assistant, which stay as they are
				continue
			}
			e := common
			e.Offset = l.KeyFrom
			if c == p.List[0] {
				inSource = true
				e.Offset = m.KeyFrom
			} else {
				e.Note = ""
			}
			c.Add(e)
			p.pending = fast.Append(p.pending, pending{c, len(c.Entries) - 1, &l.Value, stale})
		}
	}
	if !inSource { // the key is the text
		p.List[0].Add(common)
		p.pending = fast.Append(p.pending, pending{p.List[0], len(p.List[0].Entries) - 1, nil, false})
	}
}

// culture returns the catalog of a localization, a new one for a culture that
// appears for the first time; nil where it is none.
func (p *parser) culture(m *jsonscan.Member) *catalog.Catalog {
	if c, known := p.byCulture[m.Key]; known {
		return c
	}
	tag, err := culture.Parse(m.Key)
	if err != nil {
		p.Report("culture-unknown", m.KeyFrom, "", err.Error(), "write a culture that exists")
		p.byCulture[m.Key] = nil
		return nil
	}
	c := &catalog.Catalog{Culture: tag}
	p.List = append(p.List, c)
	p.byCulture[m.Key] = c
	return c
}

// states are the words of the format for how far a translation has come.
var states = map[string]catalog.State{"new": catalog.Missing, "translated": catalog.Done, "needs_review": catalog.Draft, "stale": catalog.Moved}

// localization reads an entry's texts in one culture.
func (p *parser) localization(e *catalog.Entry, v *jsonscan.Value) {
	variations := v.Find("variations")
	substitutions := v.Find("substitutions")
	if variations != nil {
		e.Message = p.variations(e, variations)
		return
	}
	text := p.unit(e, v)
	if substitutions == nil {
		pattern, faults := printf.Foundation.Parse(text.Text)
		for _, f := range faults {
			p.Report(f.Rule, text.From, e.Key, f.Text, f.Fix)
		}
		e.Message = message.Message{Pattern: pattern}
		return
	}
	x := &stringsdict.Expander{
		Find: func(name string) (stringsdict.Variable, bool) {
			return p.substitution(e, substitutions.Find(name), name)
		},
		Report: func(rule string, offset int, text, fix string) {
			p.Report(rule, offset, e.Key, text, fix)
		},
	}
	e.Message = x.Message(text.Text, text.From)
}

// unit reads a stringUnit: its text, and the least of the states of the
// entry's units.
func (p *parser) unit(e *catalog.Entry, v *jsonscan.Value) *jsonscan.Value {
	unit := v.Find("stringUnit")
	if unit == nil {
		p.Damaged(v.From, e.Key, "a localization without a stringUnit", `add "stringUnit" : {"state" : "new", "value" : ""}`)
		return &jsonscan.Value{From: v.From, To: v.From}
	}
	if s := unit.Find("state"); s != nil {
		state, known := states[s.Text]
		if known && (e.State == catalog.Unstated || state < e.State) {
			e.State = state
		}
	}
	text := unit.Find("value")
	if text == nil || text.Kind != jsonscan.String {
		p.Damaged(unit.From, e.Key, "a stringUnit without a value", `add "value" : "..."`)
		return &jsonscan.Value{From: unit.From, To: unit.From}
	}
	return text
}

// variations reads plural forms, or those of the device that stands for all.
func (p *parser) variations(e *catalog.Entry, v *jsonscan.Value) message.Message {
	if device := v.Find("device"); device != nil && len(device.Members) > 0 {
		chosen := device.Find("other")
		if chosen == nil {
			chosen = &device.Members[0].Value
		}
		e.Unread = "the texts for other devices"
		if inner := chosen.Find("variations"); inner != nil {
			return p.variations(e, inner)
		}
		pattern, _ := printf.Foundation.Parse(p.unit(e, chosen).Text)
		return message.Message{Pattern: pattern}
	}
	forms := v.Find("plural")
	if forms == nil || len(forms.Members) == 0 {
		p.Damaged(v.From, e.Key, "variations without plural or device", `add "plural" : {"other" : ...}`)
		return message.Message{}
	}
	variable := p.forms(e, forms, nil)
	x := &stringsdict.Expander{
		Find: func(string) (stringsdict.Variable, bool) { return variable, true },
		Report: func(rule string, offset int, text, fix string) {
			p.Report(rule, offset, e.Key, strings.ReplaceAll(text, "the variable count", "the text"), fix)
		},
	}
	return x.Message("%#@count@", forms.From)
}

// forms reads the texts of the plural categories. In those of a substitution
// %arg stands for its number, which the specifier spells.
func (p *parser) forms(e *catalog.Entry, v *jsonscan.Value, specifier *jsonscan.Value) stringsdict.Variable {
	variable := stringsdict.Variable{Offset: v.From}
	for i := range v.Members {
		m := &v.Members[i]
		text := p.unit(e, &m.Value)
		spelled := text.Text
		if specifier != nil {
			spelled = strings.ReplaceAll(spelled, "%arg", "%"+specifier.Text)
		}
		variable.Forms = append(variable.Forms, stringsdict.Form{Category: m.Key, Text: spelled, Offset: text.From})
	}
	slices.SortStableFunc(variable.Forms, func(a, b stringsdict.Form) int { // the file sorts them by letters
		return slices.Index(culture.Categories, a.Category) - slices.Index(culture.Categories, b.Category)
	})
	return variable
}

// substitution reads the variable that %#@name@ stands for.
func (p *parser) substitution(e *catalog.Entry, v *jsonscan.Value, name string) (stringsdict.Variable, bool) {
	if v == nil {
		return stringsdict.Variable{}, false
	}
	forms := &jsonscan.Value{From: v.From}
	if variations := v.Find("variations"); variations != nil {
		if device := variations.Find("device"); device != nil && len(device.Members) > 0 {
			e.Unread = "the texts for other devices"
			chosen := device.Find("other")
			if chosen == nil {
				chosen = &device.Members[0].Value
			}
			if variations = chosen.Find("variations"); variations == nil {
				variations = device
			}
		}
		if plural := variations.Find("plural"); plural != nil {
			forms = plural
		}
	}
	specifier := v.Find("formatSpecifier")
	if specifier == nil {
		specifier = &jsonscan.Value{Text: "lld"}
	}
	variable := p.forms(e, forms, specifier)
	variable.Name, variable.Type = name, specifier.Text
	if n := v.Find("argNum"); n != nil && n.Kind == jsonscan.Number && len(n.Text) < 3 {
		for _, c := range n.Text {
			variable.Position = variable.Position*10 + int(c-'0')
		}
	}
	return variable, true
}

package winrc

import (
	"cmp"
	"fmt"
	"regexp"
	"slices"
	"strings"
	"sync"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/finding"
	"zelvik/format"
	"zelvik/format/charset"
	"zelvik/format/doc"
	"zelvik/internal/fast"
	"zelvik/message"
	"zelvik/message/printf"
)

// document is a script that was read.
type document struct {
	doc.Many
	slots  map[*catalog.Catalog][]slot // of the entries
	tables []table
	blocks []block
}

// block is a menu or dialog, from its name to its END.
type block struct {
	tag      culture.Tag
	from, to int
}

// slot returns the place of a text.
func (d *document) slot(tag culture.Tag, key string) (slot, bool) {
	for _, c := range d.List {
		if c.Culture == tag {
			if i := c.At(key); i >= 0 {
				return d.slots[c][i], true
			}
		}
	}
	return slot{}, false
}

// slot is the place of an entry.
type slot struct {
	key, value token
	note       doc.Span // a comment on lines of its own
	// fixed says that it belongs to a menu or dialog.
	fixed bool
	table int
}

// table is a STRINGTABLE: its language and where its last entry ends.
type table struct {
	tag     culture.Tag
	begin   int // after BEGIN
	end, to int // END; after the last entry
	entries int
}

// kind is the kind of a token.
type kind uint8

const (
	eof kind = iota
	word
	str
	sign
)

// token is a word, a string or a sign.
type token struct {
	kind     kind
	from, to int
	text     string
}

type parser struct {
	// shown says that strings are texts; elsewhere they are paths and data.
	shown bool
	*document
	format.Reader
	src string
	at  int
	token
	// comment is the last comment on lines of its own before the token.
	comment string
	note    doc.Span
	tag     culture.Tag
	byTag   map[culture.Tag]*catalog.Catalog
	// counts are how often a control's key has come.
	counts map[string]int
}

var codePage = sync.OnceValue(func() *regexp.Regexp {
	return regexp.MustCompile(`(?m)^[ \t]*#[ \t]*pragma[ \t]+code_page[ \t]*\([ \t]*(\d+)[ \t]*\)`)
})

// parts returns the code pages of a script. That of western Europe is the one
// before the first that is named, unless all of the script is in that one.
func parts(data []byte) []charset.Part {
	list := []charset.Part{{From: 0, Page: "1252"}}
	for _, m := range codePage().FindAllSubmatchIndex(data, -1) {
		list = append(list, charset.Part{From: m[1], Page: string(data[m[2]:m[3]])})
	}
	if len(list) == 2 && list[1].Page != "65001" {
		list[0].Page = list[1].Page
	}
	return list
}

func parse(data []byte) (format.Document, []finding.Finding) {
	text := charset.Decode(data)
	if text.Encoding == charset.UTF8 && text.Bad >= 0 && !charset.Binary(data) {
		text = charset.DecodeParts(data, parts(data))
	}
	p := &parser{document: &document{Many: doc.Many{Coded: text, List: []*catalog.Catalog{{}}}, slots: map[*catalog.Catalog][]slot{}}, byTag: map[culture.Tag]*catalog.Catalog{}, note: doc.Nowhere, counts: map[string]int{}}
	p.src = p.Text()
	p.Reader = format.NewReader(p.src)
	if charset.Binary(data) {
		p.Damaged(0, "", "the file is binary, no script", "give an .rc file; compiled .res files are not read")
		return p.document, p.Done()
	}
	text.Faults(p.Report, "save it as UTF-8 or UTF-16")
	p.List = nil
	p.script()
	if len(p.List) == 0 {
		p.List = []*catalog.Catalog{{}}
	}
	for _, c := range p.List {
		texts := make([]format.Spelled, len(p.slots[c]))
		for i := range texts {
			value := &p.slots[c][i].value
			texts[i] = format.Spelled{Text: value.text, Offset: value.from}
		}
		p.Texts(c.Entries, texts, false, read)
	}
	slices.SortFunc(p.List[1:], func(a, b *catalog.Catalog) int { return cmp.Compare(a.Culture, b.Culture) })
	return p.document, p.Done()
}

// script goes through the statements.
func (p *parser) script() {
	previous := token{}
	for p.next() {
		switch {
		case p.is("LANGUAGE"):
			p.language()
		case p.is("STRINGTABLE"):
			p.shown = true
			p.stringTable()
		case p.is("MENU", "MENUEX", "DIALOG", "DIALOGEX") && previous.kind == word:
			p.shown = true
			p.captions(previous)
		}
		p.shown = false
		previous = p.token
	}
}

// read reads a text.
func read(text string) (message.Message, []message.Fault) {
	pattern, faults := printf.Windows.Parse(text)
	return message.Message{Pattern: pattern}, faults
}

// language reads what stands after LANGUAGE.
func (p *parser) language() {
	from := p.from
	p.next()
	language := p.text()
	p.next()
	tag, ok := tagOf(language, p.text())
	if !ok {
		p.Report("culture-unknown", from, "", fmt.Sprintf("LANGUAGE %s, %s is not known", language, p.text()), "write a language of winnt.h")
	}
	p.tag = tag
}

// catalog returns the catalog of the current language.
func (p *parser) catalog() *catalog.Catalog {
	c := p.byTag[p.tag]
	if c == nil {
		c = &catalog.Catalog{Culture: p.tag}
		p.byTag[p.tag] = c
		p.List = append(p.List, c)
	}
	return c
}

func (p *parser) add(key string, s slot, note string) {
	c := p.catalog()
	if p.Add(c, catalog.Entry{Key: key, Note: note, Offset: s.key.from}) {
		p.slots[c] = fast.Append(p.slots[c], s)
	}
}

// stringTable reads a table. A LANGUAGE between its head and BEGIN is for it
// alone.
func (p *parser) stringTable() {
	outer := p.tag
	from := p.from
	for p.next() && !p.is("BEGIN", "{") {
		if p.is("LANGUAGE") {
			p.language()
		}
		if p.kind == str || p.is("END", "}") {
			break
		}
	}
	if !p.is("BEGIN", "{") {
		p.Damaged(from, "", "a STRINGTABLE without BEGIN", "write BEGIN before its texts")
		p.tag = outer
		return
	}
	t := table{tag: p.tag, begin: p.to, to: p.to}
	number := len(p.tables)
	closed := false
	for p.next() {
		if p.is("END", "}") {
			closed = true
			break
		}
		if p.is("STRINGTABLE") || p.kind == str || p.kind == sign {
			if p.is("STRINGTABLE") {
				break
			}
			p.Damaged(p.from, "", fmt.Sprintf("%s where the number of a text belongs", p.src[p.from:p.to]), "write the text's number or name before it")
			continue
		}
		s := slot{key: p.token, note: p.note, table: number}
		note := p.comment
		p.next()
		for p.kind == sign && strings.IndexByte("+-|()*", p.text()[0]) >= 0 || p.kind == word && p.at > s.key.to && strings.IndexByte("+-|(*", p.src[p.from-1]) >= 0 {
			s.key.to, s.key.text = p.to, p.src[s.key.from:p.to] // a number that is worked out: IDS_FIRST + 1
			p.next()
		}
		if p.kind != str {
			p.Damaged(s.key.from, s.key.text, "the text of "+s.key.text+" is missing", "write it in double quotes")
			if p.is("END", "}") {
				closed = true
				break
			}
			continue
		}
		s.value = p.token
		at := p.at
		for p.next() && p.kind == str { // strings one after the other are one text
			s.value.to, s.value.text = p.to, s.value.text+p.text()
			at = p.at
		}
		p.at = at
		t.to = s.value.to
		t.entries++
		p.add(s.key.text, s, note)
	}
	if !closed {
		p.Damaged(from, "", "a STRINGTABLE that is not closed", "add END")
	}
	t.end = p.from
	p.tables = append(p.tables, t)
	p.catalog()
	p.tag = outer
}

// controls are the statements whose first string is a text that is shown.
var controls = []string{"LTEXT", "RTEXT", "CTEXT", "PUSHBUTTON", "DEFPUSHBUTTON", "GROUPBOX", "CHECKBOX", "AUTOCHECKBOX", "RADIOBUTTON",
	"AUTORADIOBUTTON", "STATE3", "AUTO3STATE", "PUSHBOX", "CONTROL", "MENUITEM", "POPUP"}

// captions reads the texts of a menu or dialog. Their keys are its name with
// the control's number, or with what it is.
func (p *parser) captions(named token) {
	from, name := p.from, named.text
	depth, popups := 0, 0
	for {
		if !p.next() {
			p.Damaged(from, "", "the menu or dialog "+name+" is not closed", "add END")
			return
		}
		switch {
		case p.is("BEGIN", "{"):
			depth++
		case p.is("END", "}"):
			if depth--; depth <= 0 {
				p.blocks = append(p.blocks, block{p.tag, named.from, p.to})
				return
			}
		case p.is("STRINGTABLE") && depth == 0:
			p.at = p.from
			return
		case p.is("CAPTION"):
			at := p.token
			if p.next() && p.kind == str {
				p.caption(name+".CAPTION", slot{key: at, value: p.token, note: doc.Nowhere, fixed: true})
			}
		case p.is(controls...):
			statement := strings.ToUpper(p.text())
			if !p.next() || p.kind != str {
				continue
			}
			s := slot{key: p.token, value: p.token, note: doc.Nowhere, fixed: true}
			if statement == "POPUP" {
				popups++
				p.caption(fmt.Sprintf("%s.POPUP%d", name, popups), s)
				continue
			}
			if p.next() && p.kind == word {
				p.caption(name+"."+p.text(), s)
			}
		}
	}
}

// caption adds a text that is shown; the numbers of static texts are not
// their own, so they are counted.
func (p *parser) caption(key string, s slot) {
	id := string(p.tag) + "\x00" + key
	p.counts[id]++
	if n := p.counts[id]; n > 1 {
		key = fmt.Sprintf("%s#%d", key, n)
	}
	if strings.TrimSpace(s.value.text) != "" {
		p.add(key, s, "")
	}
}

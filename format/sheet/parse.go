package sheet

import (
	"bytes"
	"slices"
	"strconv"
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
	"zelvik/message/loose"
)

// document is a table that was read.
type document struct {
	doc.Many // Coded is nil for a workbook
	data     []byte
	rows     []row
	sep      byte
	book     *book // of a workbook; nil for a text
	columns  columns
	groups   []group
	spelling loose.Spelling
	// byKey are the groups, for edits.
	byKey func() map[string][]int
}

// group is a key and its rows: one, or one for each form of a plural.
type group struct {
	key  string
	rows []int
}

// rowsOf returns the rows of a key.
func (d *document) rowsOf(key string) (rows []int, ok bool) {
	rows, ok = d.byKey()[key]
	return rows, ok
}

// columns says what stands in which column; -1 where there is none.
type columns struct {
	key, form, note, limit, translate int
	cultures                          []column
}

// column is a culture's texts, and where it has one the column of its states.
type column struct {
	tag       culture.Tag
	at, state int
}

// words are what people write over the columns.
var words = map[string][]string{
	"key":       {"key", "keys", "id", "identifier", "name", "string id", "string_id", "stringid", "label", "msgid"},
	"form":      {"plural", "form", "quantity", "category", "plural form"},
	"note":      {"note", "notes", "comment", "comments", "description", "context"},
	"limit":     {"limit", "max", "maxlength", "max length", "maximum", "max chars"},
	"translate": {"translate", "translatable"},
	"source":    {"source", "source text", "text", "value", "string", "message", "default", "original"},
}

// names are the languages' names in English and in themselves.
var names = sync.OnceValue(func() map[string]culture.Tag {
	known := map[string]culture.Tag{}
	for _, code := range culture.Languages() {
		if len(code) > 3 {
			continue
		}
		tag := culture.Tag(code)
		for _, name := range []string{tag.OwnName(), tag.Name()} {
			if name != "" && name != code {
				known[strings.ToLower(name)] = tag
			}
		}
	}
	return known
})

// tagOf reads what stands over a culture's column: "de", "de-CH", "German" or
// "German (de)".
func tagOf(head string) (culture.Tag, bool) {
	head = strings.TrimSpace(head)
	if tag, err := culture.Parse(head); err == nil && tag.Known() && len(tag.Base()) <= 3 && head != "" && !slices.Contains(words["key"], strings.ToLower(head)) {
		return tag, true
	}
	if open := strings.LastIndexAny(head, "(["); open > 0 && strings.ContainsAny(head[len(head)-1:], ")]") {
		if tag, err := culture.Parse(head[open+1 : len(head)-1]); err == nil {
			return tag, true
		}
	}
	if len(head) < 3 {
		return "", false
	}
	tag, ok := names()[strings.ToLower(head)]
	return tag, ok
}

// ordinary are words over the columns of other tables that are tags of languages,
// too: one alone says nothing.
var ordinary = []string{"to", "as", "am", "is", "in", "so", "an", "or", "be", "do", "my", "id"}

// columnsOf reads the first row.
func columnsOf(head []string) columns {
	c := columns{-1, -1, -1, -1, -1, nil}
	source := -1
	places := map[string]*int{"key": &c.key, "form": &c.form, "note": &c.note, "limit": &c.limit, "translate": &c.translate, "source": &source}
next:
	for i, text := range head {
		plain := strings.ToLower(strings.TrimSpace(text))
		for what, list := range words {
			if *places[what] < 0 && slices.Contains(list, plain) {
				*places[what] = i
				continue next
			}
		}
		if before, ok := strings.CutSuffix(plain, " state"); ok {
			if tag, err := culture.Parse(before); err == nil {
				for j := range c.cultures {
					if c.cultures[j].tag == tag {
						c.cultures[j].state = i
					}
				}
				continue
			}
		}
		if tag, ok := tagOf(text); ok && !slices.ContainsFunc(c.cultures, func(k column) bool { return k.tag == tag }) {
			c.cultures = append(c.cultures, column{tag, i, -1})
		}
	}
	if len(c.cultures) == 1 && source < 0 && slices.Contains(ordinary, strings.ToLower(strings.TrimSpace(head[c.cultures[0].at]))) {
		c.cultures = nil // from, to
	}
	english := slices.ContainsFunc(c.cultures, func(k column) bool { return k.tag.Base() == "en" })
	if source >= 0 && !english { // from which most projects translate
		c.cultures = slices.Insert(c.cultures, 0, column{"en", source, -1})
	}
	if c.key < 0 && len(c.cultures) > 0 && c.cultures[0].at > 0 && !slices.Contains([]int{c.form, c.note, c.limit, c.translate}, 0) {
		c.key = 0 // a column without a name before the cultures
	}
	return c
}

type parser struct {
	*document
	format.Reader
}

func parse(data []byte) (format.Document, []finding.Finding) {
	p := &parser{document: &document{data: data, Many: doc.Many{Coded: &charset.Text{Bad: -1}, List: []*catalog.Catalog{{}}}}}
	p.byKey = sync.OnceValue(func() map[string][]int {
		known := make(map[string][]int, len(p.groups))
		for _, g := range p.groups {
			known[g.key] = g.rows
		}
		return known
	})
	if bytes.HasPrefix(data, []byte("PK\x03\x04")) {
		p.Reader = format.NewReader("")
		book, rows, err := openBook(data)
		if err != nil {
			p.Damaged(0, "", "the workbook cannot be read: "+err.Error(), "save it again as .xlsx")
			return p.document, p.Done()
		}
		p.rows, p.book = rows, book
	} else {
		p.Coded = charset.Decode(data)
		if p.Coded.Encoding == charset.UTF8 && p.Coded.Bad >= 0 && !charset.Binary(data) {
			p.Coded = charset.DecodeIn(data, "windows-1252") // as spreadsheets save by themselves
		}
		p.Reader = format.NewReader(p.Text())
		if charset.Binary(data) {
			p.Damaged(0, "", "the file is binary, no table", "give a .csv, .tsv or .xlsx file")
			return p.document, p.Done()
		}
		p.Coded.Faults(p.Report, "save it as UTF-8")
		p.rows, p.sep = scan(p.Text(), func(f fault) { p.Damaged(f.offset, "", f.text, f.fix) })
	}
	if len(p.rows) == 0 {
		p.Damaged(0, "", "the table is empty", "write a first row such as key,note,en,de")
		return p.document, p.Done()
	}
	p.columns = columnsOf(p.rows[0].cells)
	if p.columns.key < 0 || len(p.columns.cultures) == 0 {
		p.Damaged(0, "", "the first row names no key and no culture", "write a first row such as key,note,en,de")
		return p.document, p.Done()
	}
	p.List = nil
	for _, c := range p.columns.cultures {
		p.List = append(p.List, &catalog.Catalog{Culture: c.tag})
	}
	p.gather()
	var votes, others loose.Votes
	count := func(votes *loose.Votes, from, to int) {
		for i := from; i < to && !votes.Settled(); i++ {
			for _, c := range p.columns.cultures {
				votes.Count(p.at(i+1, c.at))
			}
		}
	}
	fast.Halves(len(p.rows)-1, func(from, to int) { count(&votes, from, to) }, func(from, to int) { count(&others, from, to) })
	votes.Add(others)
	p.spelling = votes.Best()
	p.entries()
	return p.document, p.Done()
}

// entries reads the texts of all groups, in two halves at once where there are
// many.
func (p *parser) entries() {
	n := len(p.groups)
	rooms := make([][]catalog.Entry, len(p.List))
	first, second := make([][]catalog.Entry, len(rooms)), make([][]catalog.Entry, len(rooms))
	for i := range rooms {
		room := fast.Make[catalog.Entry](n)
		rooms[i], first[i], second[i] = room, room[:0:n/2], room[n/2:n/2]
	}
	p.Parallel(n, func(r *format.Reader, from, to int) {
		lists := first
		if from > 0 {
			lists = second
		}
		for _, g := range p.groups[from:to] {
			p.entry(r, lists, g)
		}
	})
	for i, c := range p.List {
		c.Entries = fast.Joined(rooms[i], n/2, first[i], second[i])
	}
}

// at returns the text of a cell, "" where the row is shorter.
func (d *document) at(r, c int) string {
	if c < 0 || c >= len(d.rows[r].cells) {
		return ""
	}
	text := d.rows[r].cells[c]
	if d.book == nil {
		text = unguard(text)
	}
	if strings.IndexByte(text, '\r') >= 0 {
		text = strings.ReplaceAll(strings.ReplaceAll(text, "\r\n", "\n"), "\r", "\n")
	}
	return text
}

// offset returns where a row begins.
func (d *document) offset(r int) int { return max(d.rows[r].from, 0) }

// gather finds the rows of each key: one, or one for each form of a plural. A
// row without a key goes on with the plural above it.
func (p *parser) gather() {
	last := ""
	p.groups = fast.Make[group](len(p.rows))
	index := catalog.NewNumbers(len(p.rows))
	numbers := make([]int, len(p.rows)) // of the rows, for the groups to share
	hashes := make([]uint64, len(p.rows))
	p.Parallel(len(p.rows), func(_ *format.Reader, from, to int) {
		for i := from; i < to; i++ {
			numbers[i], hashes[i] = i, catalog.Hash(p.at(i, p.columns.key), "")
		}
	})
	for i := 1; i < len(p.rows); i++ {
		key, form := p.at(i, p.columns.key), p.at(i, p.columns.form)
		hash := hashes[i]
		if key == "" && form != "" {
			key, hash = last, catalog.Hash(last, "")
		}
		if key == "" {
			continue
		}
		is := func(n int) bool { return p.groups[n].key == key }
		at := len(p.groups) - 1
		if at < 0 || key != last || !is(at) {
			at = index.Find(hash, is)
		}
		known := at >= 0
		var rows []int
		if known {
			rows = p.groups[at].rows
		}
		if known && (form == "" || slices.ContainsFunc(rows, func(r int) bool { return p.at(r, p.columns.form) == form || p.at(r, p.columns.form) == "" })) {
			p.Once(key, key, p.offset(rows[0]))
			p.Once(key, key, p.offset(i))
			continue
		}
		if form != "" && !slices.Contains(culture.Categories, form) && !exact(form) {
			p.Damaged(p.offset(i), key, strconv.Quote(form)+" is no plural form", "write zero, one, two, few, many, other or an exact =1")
			continue
		}
		if known && i-rows[0] == len(rows) { // right below
			p.groups[at].rows = numbers[rows[0] : i+1 : i+1]
		} else if known {
			p.groups[at].rows = append(rows, i)
		} else {
			if strings.IndexByte(key, 0) >= 0 {
				p.Damaged(p.offset(i), key, "a zero character in a key", "remove it")
			}
			index.Add(len(p.groups), hash, is)
			p.groups = append(p.groups, group{key, numbers[i : i+1 : i+1]})
		}
		last = key
	}
}

func exact(form string) bool {
	_, err := strconv.ParseUint(strings.TrimPrefix(form, "="), 10, 32)
	return strings.HasPrefix(form, "=") && err == nil
}

// entry reads a key in all cultures.
func (p *parser) entry(r *format.Reader, lists [][]catalog.Entry, g group) {
	rows := g.rows
	first := rows[0]
	plural := p.at(first, p.columns.form) != ""
	note := p.at(first, p.columns.note)
	limit, fixed := 0, false
	if text := p.at(first, p.columns.limit); text != "" {
		n, err := strconv.Atoi(strings.TrimSpace(text))
		if err == nil && n > 0 {
			limit = n
		}
	}
	switch strings.ToLower(strings.TrimSpace(p.at(first, p.columns.translate))) {
	case "no", "false", "0":
		fixed = true
	}
	for i, c := range p.columns.cultures {
		if !slices.ContainsFunc(rows, func(r int) bool { return p.at(r, c.at) != "" }) {
			continue
		}
		e := catalog.Entry{Key: g.key, Offset: p.offset(first), Note: note, Limit: limit, Fixed: fixed}
		if word := p.at(first, c.state); word != "" {
			e.State, _ = catalog.ParseState(word)
		}
		if !plural {
			rows = rows[:1]
		}
		e.Message = p.message(r, g.key, rows, c.at)
		lists[i] = fast.Append(lists[i], e)
		note = "" // it stands with the first culture that has a text
	}
}

// message reads the text of one row, or the forms of several.
func (p *parser) message(r *format.Reader, key string, rows []int, column int) message.Message {
	read := func(row int) message.Message {
		m, faults := p.spelling.Carried(p.at(row, column))
		r.InText(faults, true, p.offset(row), key)
		return m
	}
	if p.at(rows[0], p.columns.form) == "" {
		return read(rows[0])
	}
	choice := &message.Choice{}
	for _, row := range rows {
		if p.at(row, column) != "" {
			choice.Variants = append(choice.Variants, message.Variant{Keys: []string{p.at(row, p.columns.form)}, Pattern: read(row).Main()})
		}
	}
	slices.SortStableFunc(choice.Variants, func(a, b message.Variant) int {
		return slices.Index(culture.Categories, a.Keys[0]) - slices.Index(culture.Categories, b.Keys[0])
	})
	m := message.Message{Choice: choice}
	m.CountFirst()
	return m
}

package winrc

import (
	"cmp"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/finding"
	"zelvik/format"
	"zelvik/format/charset"
	"zelvik/message"
	"zelvik/message/printf"
	"zelvik/pages"
)

// document is a script that was read.
type document struct {
	text     *charset.Text
	catalogs []*catalog.Catalog
	slots    map[*catalog.Catalog][]slot // of the entries
	tables   []table
}

// slot gives the place of a text.
func (d *document) slot(tag culture.Tag, key string) (slot, bool) {
	for _, c := range d.catalogs {
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
	key, value       token
	noteFrom, noteTo int // a comment on lines of its own; -1 for none
	// fixed says that it belongs to a menu or dialog.
	fixed bool
	table int
}

// table is a STRINGTABLE: its language and where its last entry ends.
type table struct {
	tag     culture.Tag
	begin   int // behind BEGIN
	end, to int // END; behind the last entry
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

// Catalogs gives the cultures' catalogs, the first language first.
func (d *document) Catalogs() []*catalog.Catalog { return d.catalogs }

// Text gives the file as UTF-8.
func (d *document) Text() string { return d.text.String() }

type parser struct {
	*document
	format.Reader
	src string
	at  int
	token
	// comment is the last comment on lines of its own before the token.
	comment          string
	noteFrom, noteTo int
	tag              culture.Tag
	byTag            map[culture.Tag]*catalog.Catalog
	// counts are how often a control's key has come.
	counts map[string]int
}

var codePage = regexp.MustCompile(`(?m)^[ \t]*#[ \t]*pragma[ \t]+code_page[ \t]*\([ \t]*(\d+)[ \t]*\)`)

// parts gives the code pages of a script. That of western Europe is the one
// before the first that is named, unless all of the script is in that one.
func parts(data []byte) []charset.Part {
	list := []charset.Part{{From: 0, Page: "1252"}}
	for _, m := range codePage.FindAllSubmatchIndex(data, -1) {
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
	p := &parser{document: &document{text: text, catalogs: []*catalog.Catalog{{}}, slots: map[*catalog.Catalog][]slot{}}, byTag: map[culture.Tag]*catalog.Catalog{}, noteFrom: -1, counts: map[string]int{}}
	p.src = p.Text()
	p.Reader = format.NewReader(p.src)
	if charset.Binary(data) {
		p.Damaged(0, "", "the file is binary, no script", "give an .rc file; compiled .res files are not read")
		return p.document, p.Done()
	}
	text.Faults(p.Report, "save it as UTF-8 or UTF-16")
	p.catalogs = nil
	p.script()
	if len(p.catalogs) == 0 {
		p.catalogs = []*catalog.Catalog{{}}
	}
	for _, c := range p.catalogs {
		texts := make([]format.Spelled, len(p.slots[c]))
		for i := range texts {
			value := &p.slots[c][i].value
			texts[i] = format.Spelled{Text: value.text, Offset: value.from}
		}
		p.Texts(c.Entries, texts, false, read)
	}
	slices.SortFunc(p.catalogs[1:], func(a, b *catalog.Catalog) int { return cmp.Compare(a.Culture, b.Culture) })
	return p.document, p.Done()
}

// next reads the next token; preprocessor lines and comments are skipped, but
// a comment on lines of its own is remembered.
func (p *parser) next() bool {
	p.comment, p.noteFrom = "", -1
	for p.at < len(p.src) {
		c := p.src[p.at]
		switch {
		case c == ' ' || c == '\t' || c == '\r' || c == '\n' || c == ',' || c == '\f':
			p.at++
		case c == '#' && p.lineStart():
			p.comment, p.noteFrom = "", -1
			p.line()
		case strings.HasPrefix(p.src[p.at:], "//"):
			own, from := p.lineStart(), p.at
			p.line()
			p.remember(own, from, p.at, strings.TrimSpace(p.src[from+2:p.at]))
		case strings.HasPrefix(p.src[p.at:], "/*"):
			own, from := p.lineStart(), p.at
			end := strings.Index(p.src[p.at+2:], "*/")
			if end < 0 {
				p.Damaged(from, "", "a comment that is not closed", "add */")
				p.at = len(p.src)
				break
			}
			p.at += end + 4
			p.remember(own, from, p.at, strings.TrimSpace(p.src[from+2:p.at-2]))
		case c == '"' || (c == 'L' || c == 'l') && strings.HasPrefix(p.src[p.at+1:], `"`):
			p.string()
			return true
		case wordByte(c):
			from := p.at
			for p.at < len(p.src) && wordByte(p.src[p.at]) {
				p.at++
			}
			p.token = token{word, from, p.at, p.src[from:p.at]}
			return true
		default:
			p.token = token{sign, p.at, p.at + 1, p.src[p.at : p.at+1]}
			p.at++
			return true
		}
	}
	p.token = token{kind: eof, from: p.at, to: p.at}
	return false
}

func (p *parser) remember(own bool, from, to int, text string) {
	if !own {
		return
	}
	if p.noteFrom < 0 {
		p.noteFrom, p.comment = from, text
	} else {
		p.comment += "\n" + text
	}
	p.noteTo = to
	// A blank line parts the comment from what follows.
	rest := strings.TrimLeft(p.src[to:], " \t\r")
	if rest, ok := strings.CutPrefix(rest, "\n"); ok && strings.HasPrefix(strings.TrimLeft(rest, " \t\r"), "\n") {
		p.noteFrom, p.comment = -1, ""
	}
}

func wordByte(c byte) bool {
	return c == '_' || c >= '0' && c <= '9' || c|0x20 >= 'a' && c|0x20 <= 'z' || c >= 0x80 || c == '.'
}

// lineStart reports whether nothing stands before the current place on its
// line.
func (p *parser) lineStart() bool {
	start := strings.LastIndexByte(p.src[:p.at], '\n') + 1
	return strings.TrimSpace(p.src[start:p.at]) == ""
}

// line skips the rest of the line; a backslash at its end takes in the next.
func (p *parser) line() {
	for p.at < len(p.src) && p.src[p.at] != '\n' {
		if p.src[p.at] == '\\' && strings.HasPrefix(strings.TrimLeft(p.src[p.at+1:], "\r"), "\n") {
			p.at += strings.IndexByte(p.src[p.at:], '\n')
		}
		p.at++
	}
	for p.at > 0 && p.src[p.at-1] == '\r' {
		p.at--
		break
	}
}

// string reads a string: "" is a quote, and there are C's escapes.
func (p *parser) string() {
	from := p.at
	if p.src[p.at] != '"' {
		p.at++
	}
	p.at++
	var out strings.Builder
	for p.at < len(p.src) {
		c := p.src[p.at]
		switch {
		case c == '"' && strings.HasPrefix(p.src[p.at+1:], `"`):
			out.WriteByte('"')
			p.at += 2
		case c == '"':
			p.at++
			p.token = token{str, from, p.at, out.String()}
			return
		case c == '\\':
			p.escape(&out)
		case c == '\n' || c == '\r':
			p.Damaged(from, "", "a quote that is not closed", `add "; a line break in a text is \n`)
			p.token = token{str, from, p.at, out.String()}
			return
		default:
			out.WriteByte(c)
			p.at++
		}
	}
	p.Damaged(from, "", "a quote that is not closed", `add "`)
	p.token = token{str, from, p.at, out.String()}
}

func (p *parser) escape(out *strings.Builder) {
	at := p.at + 1
	if at >= len(p.src) {
		p.at = at
		return
	}
	c := p.src[at]
	p.at = at + 1
	switch c {
	case 'n':
		out.WriteByte('\n')
	case 't':
		out.WriteByte('\t')
	case 'r':
		out.WriteByte('\r')
	case 'a':
		out.WriteByte('\b') // as the resource compiler does
	case '\\':
		out.WriteByte('\\')
	case '"': // "\""" and "\"" are both seen
		out.WriteByte('"')
		if strings.HasPrefix(p.src[p.at:], `"`) && strings.Count(restOfLine(p.src[p.at:]), `"`)%2 == 0 {
			p.at++
		}
	case '\r', '\n': // the text goes on in the next line
		if c == '\r' && strings.HasPrefix(p.src[p.at:], "\n") {
			p.at++
		}
	case 'x', 'X':
		end := p.at
		for end < len(p.src) && end < p.at+4 && strings.IndexByte("0123456789abcdefABCDEF", p.src[end]) >= 0 {
			end++
		}
		n, err := strconv.ParseUint(p.src[p.at:end], 16, 32)
		if err != nil {
			p.Report("escape-wrong", p.at-2, "", `\x without hexadecimal digits`, `write \\ for a backslash`)
			out.WriteString(`\x`)
			return
		}
		out.WriteRune(rune(n))
		p.at = end
	default:
		if c >= '0' && c <= '7' {
			end := at
			for end < len(p.src) && end < at+3 && p.src[end] >= '0' && p.src[end] <= '7' {
				end++
			}
			n, _ := strconv.ParseUint(p.src[at:end], 8, 32)
			out.WriteRune(rune(n))
			p.at = end
			return
		}
		p.Report("escape-wrong", at-1, "", fmt.Sprintf(`\%c is no escape`, c), `write \\ for a backslash`)
		out.WriteByte('\\')
		out.WriteByte(c)
	}
}

func restOfLine(text string) string {
	line, _, _ := strings.Cut(text, "\n")
	return line
}

func (p *parser) is(words ...string) bool {
	return p.kind == word && slices.ContainsFunc(words, func(w string) bool { return strings.EqualFold(p.text(), w) }) ||
		p.kind == sign && slices.Contains(words, p.text())
}

func (p *parser) text() string { return p.token.text }

// script goes through the statements.
func (p *parser) script() {
	previous := token{}
	for p.next() {
		switch {
		case p.is("LANGUAGE"):
			p.language()
		case p.is("STRINGTABLE"):
			p.stringTable()
		case p.is("MENU", "MENUEX", "DIALOG", "DIALOGEX") && previous.kind == word:
			p.captions(previous.text)
		}
		previous = p.token
	}
}

// read reads a text.
func read(text string) (message.Message, []message.Fault) {
	pattern, faults := printf.Windows.Parse(text)
	return message.Message{Pattern: pattern}, faults
}

// language reads what stands behind LANGUAGE.
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

// catalog gives the catalog of the current language.
func (p *parser) catalog() *catalog.Catalog {
	c := p.byTag[p.tag]
	if c == nil {
		c = &catalog.Catalog{Culture: p.tag}
		p.byTag[p.tag] = c
		p.catalogs = append(p.catalogs, c)
	}
	return c
}

func (p *parser) add(key string, s slot, note string) {
	c := p.catalog()
	if p.Add(c, catalog.Entry{Key: key, Note: note, Offset: s.key.from}) {
		p.slots[c] = pages.Append(p.slots[c], s)
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
		s := slot{key: p.token, noteFrom: p.noteFrom, noteTo: p.noteTo, table: number}
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
		for p.next() && p.kind == str { // strings one behind the other are one text
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
func (p *parser) captions(name string) {
	from := p.from
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
				return
			}
		case p.is("STRINGTABLE") && depth == 0:
			p.at = p.from
			return
		case p.is("CAPTION"):
			at := p.token
			if p.next() && p.kind == str {
				p.caption(name+".CAPTION", slot{key: at, value: p.token, noteFrom: -1, fixed: true})
			}
		case p.is(controls...):
			statement := strings.ToUpper(p.text())
			if !p.next() || p.kind != str {
				continue
			}
			s := slot{key: p.token, value: p.token, noteFrom: -1, fixed: true}
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

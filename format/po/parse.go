package po

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"

	"zelvik/catalog"
	"zelvik/finding"
	"zelvik/format"
	"zelvik/format/charset"
	"zelvik/format/doc"
	"zelvik/format/numbered"
	"zelvik/internal/fast"
)

// keysHeader is a header of our own: "X-Keys: msgctxt" says that the context
// of an entry is its key. Without it the text itself is the key.
const keysHeader = "X-Keys"

// document is a catalog that was read.
type document struct {
	doc.Pair // its index is made once an edit asks
	blocks   []block
	// keyed says that contexts are keys.
	keyed bool
	forms numbered.Forms
	// header is the block of the header, -1 for none.
	header int
}

// field is the place of a keyword with its strings; from is -1 where it is not
// there.
type field struct {
	from, to int
	text     string
}

// block is one entry.
type block struct {
	from, to              int // the first comment or keyword; after the last string
	context, id, plural   field
	texts                 forms
	flags                 []string
	flagsFrom, flagsTo    int // the line of flags, without its line end
	previousFrom          int // the lines of the previous text
	previousTo            int
	note, translatorsNote comment
	key                   string
}

// forms are the texts of an entry by the number after msgstr, few and in no
// order.
type forms []numberedField

type numberedField struct {
	number int
	field
}

// at returns the form with a number.
func (f forms) at(number int) (field, bool) {
	for i := range f {
		if f[i].number == number {
			return f[i].field, true
		}
	}
	return field{}, false
}

// comment is a run of comment lines of one kind.
type comment struct {
	from, to int
	text     string
}

// At returns the number of the block with a key, -1 where there is none.
func (d *document) At(key string) int {
	if d.Index == nil {
		d.Index = make(map[string]int, len(d.blocks))
		for i := range d.blocks {
			if _, double := d.Index[d.blocks[i].key]; !double && i != d.header {
				d.Index[d.blocks[i].key] = i
			}
		}
	}
	return d.Pair.At(key)
}

type parser struct {
	*document
	format.Reader
	src string
	at  int
}

var charsetHeader = sync.OnceValue(func() *regexp.Regexp {
	return regexp.MustCompile(`(?i)Content-Type:[^\n"]*charset=([A-Za-z0-9_.:-]+)`)
})

func parse(data []byte) (format.Document, []finding.Finding) {
	text := charset.Decode(data)
	named := ""
	if m := charsetHeader().FindSubmatch(data[:min(len(data), 8192)]); m != nil && text.Encoding == charset.UTF8 {
		named = string(m[1])
		text = charset.DecodeIn(data, named)
	}
	p := &parser{document: &document{Pair: doc.Pair{Coded: text, Source: &catalog.Catalog{}, Target: &catalog.Catalog{}}, header: -1}}
	p.src = p.Text()
	p.Reader = format.NewReader(p.src)
	if charset.Binary(data) {
		p.Damaged(0, "", "the file is binary, no text", "give a .po file; compiled .mo files are written only")
		return p.document, p.Done()
	}
	if named != "" && named != "CHARSET" && !charset.Known(named) {
		p.Damaged(0, "", fmt.Sprintf("the header names the encoding %s, which is not known", named), "write charset=UTF-8")
	}
	text.Faults(p.Report, "save it as UTF-8 and say so in the header")
	if !p.halves() {
		p.read()
	}
	p.head()
	p.catalogs()
	return p.document, p.Done()
}

// read reads the blocks that are left.
func (p *parser) read() {
	for p.at < len(p.src) {
		p.block()
	}
}

// halves reads the blocks of a large file on both cores: it is split after
// the blank line that ends an entry. It is false where there is no such place,
// or where something is wrong; then nothing is read.
func (p *parser) halves() bool {
	if len(p.src) < fast.Large {
		return false
	}
	middle := len(p.src) / 2
	for tries := 0; ; tries++ {
		at := strings.Index(p.src[middle:], "\n\n")
		if at < 0 || tries == 100 {
			return false
		}
		middle += at
		last := p.src[strings.LastIndexByte(p.src[:middle], '\n')+1 : middle]
		if middle += 2; strings.HasPrefix(last, "msgstr") || strings.HasPrefix(last, `"`) {
			break
		}
	}
	half := func(r format.Reader, src string, at int) *parser {
		return &parser{document: &document{Pair: doc.Pair{Target: &catalog.Catalog{}}}, Reader: r, src: src, at: at}
	}
	first, second := half(p.Reader, p.src[:middle], 0), half(format.NewReader(p.src), p.src, middle)
	fast.Both(first.read, second.read)
	if len(first.Findings)+len(second.Findings) > 0 {
		return false
	}
	p.blocks = append(append(fast.Make[block](len(first.blocks)+len(second.blocks)), first.blocks...), second.blocks...)
	p.Target.Obsolete, p.at = first.Target.Obsolete+second.Target.Obsolete, len(p.src)
	return true
}

// line returns the line at the current place, without its end.
func (p *parser) line() string {
	end := p.at
	for end < len(p.src) && p.src[end] != '\n' && p.src[end] != '\r' {
		end++
	}
	return p.src[p.at:end]
}

// next goes after the line at the current place.
func (p *parser) next() {
	p.at += len(p.line())
	if strings.HasPrefix(p.src[p.at:], "\r\n") {
		p.at += 2
	} else if p.at < len(p.src) {
		p.at++
	}
}

// block reads comments and keywords of one entry.
func (p *parser) block() {
	none := field{from: -1, to: -1}
	b := block{from: -1, context: none, id: none, plural: none, flagsFrom: -1, previousFrom: -1,
		note: comment{from: -1}, translatorsNote: comment{from: -1}}
	for p.at < len(p.src) {
		line := p.line()
		trimmed := strings.TrimLeft(line, " \t")
		start := p.at
		switch {
		case trimmed == "":
			if b.from >= 0 && b.id.from < 0 { // comments that belong to no entry
				b.from = -1
				b.note, b.translatorsNote, b.flagsFrom, b.previousFrom, b.flags = comment{from: -1}, comment{from: -1}, -1, -1, nil
			}
			p.next()
			if b.id.from >= 0 {
				p.finish(b)
				return
			}
		case trimmed[0] == '#':
			if len(b.texts) > 0 { // no blank line parts the entries
				p.finish(b)
				return
			}
			if strings.HasPrefix(trimmed, "#~") {
				if strings.HasPrefix(strings.TrimLeft(trimmed[2:], " "), "msgid ") {
					p.Target.Obsolete++
				}
				if b.id.from < 0 {
					b.from = -1
					b.note, b.translatorsNote, b.flagsFrom, b.previousFrom, b.flags = comment{from: -1}, comment{from: -1}, -1, -1, nil
				}
				p.next()
				continue
			}
			if b.from < 0 {
				b.from = start
			}
			p.comment(&b, trimmed, start, start+len(line))
			p.next()
		default:
			if !p.keyword(&b, trimmed, start+len(line)-len(trimmed)) {
				p.finish(b)
				return
			}
		}
	}
	p.finish(b)
}

func (p *parser) comment(b *block, line string, from, to int) {
	add := func(c *comment, text string) {
		text = strings.TrimSpace(text)
		if c.from < 0 {
			*c = comment{from, to, text}
			return
		}
		c.to, c.text = to, c.text+"\n"+text
	}
	switch {
	case strings.HasPrefix(line, "#."):
		add(&b.note, line[2:])
	case strings.HasPrefix(line, "#,"):
		for flag := range strings.SplitSeq(line[2:], ",") {
			b.flags = append(b.flags, strings.TrimSpace(flag))
		}
		b.flagsFrom, b.flagsTo = from, to
	case strings.HasPrefix(line, "#|"):
		if b.previousFrom < 0 {
			b.previousFrom = from
		}
		b.previousTo = to
	case strings.HasPrefix(line, "#:"):
	default:
		add(&b.translatorsNote, line[1:])
	}
}

// keyword reads one keyword with its strings; false where it begins the next
// entry.
func (p *parser) keyword(b *block, line string, start int) bool {
	word := line
	if end := strings.IndexAny(line, " \t\""); end >= 0 {
		word = line[:end]
	}
	begins := word == "msgctxt" || word == "msgid" && (b.id.from >= 0 || len(b.texts) > 0)
	if begins && (len(b.texts) > 0 || word == "msgctxt" && b.id.from >= 0) {
		return false
	}
	index := 0
	switch {
	case word == "msgctxt" || word == "msgid" || word == "msgid_plural" || word == "msgstr":
	case strings.HasPrefix(word, "msgstr[") && strings.HasSuffix(word, "]"):
		n, err := strconv.Atoi(word[len("msgstr[") : len(word)-1])
		if err != nil || n < 0 || n > 99 {
			p.Damaged(start, "", fmt.Sprintf("%s is no form", word), "number the forms from msgstr[0]")
			n = 99
		}
		index = n
	case word == "domain": // a file for several programs
		p.next()
		return true
	case strings.HasPrefix(word, "\"") || word == "":
		p.Damaged(start, "", "a string that belongs to no keyword", "write msgid or msgstr before it")
		p.next()
		return true
	default:
		p.Damaged(start, "", fmt.Sprintf("%q is no keyword", word), "write msgctxt, msgid, msgid_plural or msgstr; comments begin with #")
		p.next()
		return true
	}
	if b.from < 0 {
		b.from = start
	}
	f := p.strings(start, word)
	b.to = f.to
	switch word {
	case "msgctxt":
		b.context = f
	case "msgid":
		b.id = f
	case "msgid_plural":
		b.plural = f
	default:
		if b.id.from < 0 {
			p.Damaged(start, "", word+" without msgid", "write msgid before it")
		}
		if _, double := b.texts.at(index); double {
			p.Damaged(start, b.id.text, word+" stands twice", "remove one of them")
			b.texts = slices.DeleteFunc(b.texts, func(other numberedField) bool { return other.number == index })
		}
		b.texts = append(b.texts, numberedField{index, f})
	}
	return true
}

// strings reads the strings after a keyword, which may go on over lines.
func (p *parser) strings(start int, word string) field {
	f := field{from: start, to: start + len(word)}
	var out strings.Builder
	p.at = f.to
	any, simple := false, false
	for {
		at := p.at
		for at < len(p.src) && strings.IndexByte(" \t", p.src[at]) >= 0 {
			at++
		}
		if at >= len(p.src) || p.src[at] != '"' {
			if rest := p.line(); strings.TrimSpace(rest) != "" {
				p.Damaged(at, "", "something that is no string after "+word, "put the text in double quotes")
			} else if !any {
				p.Damaged(f.from, "", word+" without a text", `write ""`)
			}
			p.next()
			return f
		}
		first := !any
		any = true
		if plain, end := p.plain(at); end > 0 && first {
			f.text, f.to = plain, end
			simple = true
		} else {
			if simple {
				out.WriteString(f.text)
				simple = false
			}
			f.to = p.quoted(at, &out)
			f.text = out.String()
		}
		p.at = f.to
		rest := strings.TrimSpace(p.line())
		if strings.HasPrefix(rest, `"`) {
			continue
		}
		if rest != "" {
			p.Damaged(p.at, "", "something after the closing quote", `write \" for a quote in the text`)
		}
		// The next line goes on where it begins with a quote.
		p.next()
		ahead := strings.TrimLeft(p.line(), " \t")
		if !strings.HasPrefix(ahead, "\"") {
			return f
		}
	}
}

// plain returns the string at an offset, and the place after it, where it has no
// escapes and is closed in its line.
func (p *parser) plain(at int) (string, int) {
	size := strings.IndexByte(p.src[at+1:], '"')
	if size < 0 {
		return "", 0
	}
	text := p.src[at+1 : at+1+size]
	if strings.IndexByte(text, '\\') >= 0 || strings.IndexByte(text, '\n') >= 0 || strings.IndexByte(text, '\r') >= 0 {
		return "", 0
	}
	return text, at + size + 2
}

// quoted decodes the string at an offset and gives the place after it.
func (p *parser) quoted(at int, out *strings.Builder) int {
	for i := at + 1; i < len(p.src); i++ {
		switch c := p.src[i]; c {
		case '"':
			return i + 1
		case '\n', '\r':
			p.Damaged(at, "", "a quote that is not closed", `add "`)
			return i
		case '\\':
			i++
			if i >= len(p.src) {
				break
			}
			e := p.src[i]
			if c, ok := doc.Control(e); ok {
				out.WriteByte(c)
				continue
			}
			switch e {
			case '"', '\\', '\'', '?':
				out.WriteByte(e)
			case 'x':
				n, size := doc.Hexadecimal(p.src[i+1:], len(p.src)) // as many as there are, as in C
				if size == 0 {
					p.Report("escape-wrong", i-1, "", `\x without hexadecimal digits`, `write \\ for a backslash`)
					out.WriteString(`\x`)
					continue
				}
				out.WriteByte(byte(n))
				i += size
			case '\n', '\r':
				p.Damaged(at, "", "a quote that is not closed", `add "`)
				return i
			default:
				if n, size := doc.Octal(p.src[i:]); size > 0 {
					out.WriteByte(byte(n))
					i += size - 1
					continue
				}
				p.Report("escape-wrong", i-1, "", fmt.Sprintf(`\%c is no escape`, e), `write \\ for a backslash`)
				out.WriteByte('\\')
				out.WriteByte(e)
			}
		default:
			out.WriteByte(c)
		}
	}
	p.Damaged(at, "", "a quote that is not closed", `add "`)
	return len(p.src)
}

func (p *parser) finish(b block) {
	switch {
	case b.id.from < 0:
		if b.context.from >= 0 {
			p.Damaged(b.context.from, "", "msgctxt without msgid", "write msgid after it")
		}
		return
	case len(b.texts) == 0:
		p.Damaged(b.id.from, b.id.text, "msgid without msgstr", `write msgstr ""`)
		return
	}
	p.blocks = fast.Append(p.blocks, b)
}

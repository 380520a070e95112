package android

import (
	"fmt"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/finding"
	"zelvik/format"
	"zelvik/format/charset"
	"zelvik/format/doc"
	"zelvik/format/xmlscan"
	"zelvik/internal/fast"
	"zelvik/message"
	"zelvik/message/printf"
)

// document is a resource file that was read.
type document struct {
	doc.One
	// notes are the offsets at which each entry's note begins, or its element
	// where it has none; the entries of one element share them.
	notes []int32
	// arrays are the offsets of the arrays that entries are items of.
	arrays map[int]int
	// trails are comments after elements on their lines, by the last entry of
	// the element.
	trails map[int]trail
	// rootName is after the name in the root's start tag, rootEnd its end tag; -1
	// where it is not there.
	rootName, rootEnd int
	// xliff says whether the file declares the xliff prefix.
	xliff bool
}

// parser fills a document.
type parser struct {
	*document
	*xmlscan.Scanner
	format.Reader
	src string
	// note collects the comments before an element.
	note     strings.Builder
	noteFrom int
	// ended is where the last child of <resources> ended, first its first entry.
	ended, first int
	// decoder and reader are used for one value after another.
	// unformatted says that an entry is marked as none that is formatted.
	unformatted bool
	decoder     decoder
	reader      printf.Reader
	parts       message.Pattern
	hashes      []uint64
}

func parse(data []byte) (format.Document, []finding.Finding) {
	p := newParser(doc.NewOne(data))
	if charset.Binary(data) {
		p.Damaged(0, "", "the file is binary, no XML text", "give an Android resource file")
		return p.document, p.Done()
	}
	p.Coded.Faults(p.Report, "save it as UTF-8")
	p.parse()
	p.Catalog.Doubles(p.hashes, p.double)
	for _, f := range p.Faults {
		p.Damaged(f.Offset, "", f.Text, f.Fix)
	}
	return p.document, p.Done()
}

func newParser(file doc.One) *parser {
	p := &parser{document: &document{One: file, rootName: -1, rootEnd: -1}, src: file.Text(), noteFrom: -1, ended: -1}
	p.reader.Dialect = printf.Java
	p.Scanner = xmlscan.New(p.src)
	p.Reader = format.NewReader(p.src)
	return p
}

// parse reads the file. A large one is read in two halves at once: the second
// from the end of an element near the middle on. Whether that end really is
// between two children of <resources>, and not inside a comment, shows when
// the first half arrives there; else the second is forgotten.
func (p *parser) parse() {
	split := -1
	if len(p.src) > fast.Large && !strings.Contains(p.src[:4096], "<!DOCTYPE") {
		split = middle(p.src)
	}
	if split < 0 {
		p.Catalog.Entries = make([]catalog.Entry, 0, len(p.src)/90+8)
		p.run(-1)
		return
	}
	// Both halves write into one array, so that joining them copies little.
	room := len(p.src)/90 + 16
	share := room / 2
	entries := fast.Make[catalog.Entry](room)[:room]
	second := newParser(doc.One{Coded: p.Coded, Catalog: &catalog.Catalog{}})
	p.notes, p.hashes = make([]int32, 0, room), make([]uint64, 0, room)
	second.notes, second.hashes = make([]int32, 0, room-share), make([]uint64, 0, room-share)
	second.Catalog.Entries = entries[share:share]
	second.Seek(split)
	second.Open = append(second.Open, xmlscan.Element{Name: "resources"})
	own := p.Catalog
	own.Entries = entries[:0:share]
	met := false
	fast.Both(func() { met = p.run(split) }, func() { second.run(-1) })
	if !met {
		return
	}
	n, others := len(own.Entries), second.Catalog.Entries
	if n+len(others) > room || n > share || len(others) > room-share {
		entries = append(own.Entries[:n:n], others...)
	} else {
		copy(entries[n:], others)
		entries = entries[:n+len(others)]
	}
	own.Entries = entries
	p.notes = append(p.notes, second.notes...)
	for i, t := range second.trails {
		t.first += n
		p.trail(i+n, t)
	}
	p.hashes = append(p.hashes, second.hashes...)
	for i, at := range second.arrays {
		p.inArray(i+n, at)
	}
	p.rootEnd = second.rootEnd
	p.Findings = append(p.Findings, second.Findings...)
	p.Faults = append(p.Faults, second.Faults...)
}

// middle returns the place of an element after the end of another, in the
// middle of the file, or -1.
func middle(src string) int {
	from := len(src) / 2
	for _, mark := range []string{"</string>", "</plurals>"} {
		at := strings.Index(src[from:], mark)
		if at < 0 {
			continue
		}
		at += from + len(mark)
		for at < len(src) && strings.IndexByte(" \t\r\n", src[at]) >= 0 {
			at++
		}
		if strings.HasPrefix(src[at:], "<string ") || strings.HasPrefix(src[at:], "<plurals ") {
			return at
		}
	}
	return -1
}

// run goes through the children of <resources>. It stops before the child at
// split and says whether it came there.
func (p *parser) run(split int) (met bool) {
	root := len(p.Open) > 0
	for p.Next() {
		if p.From == split && p.Kind == xmlscan.Start && len(p.Open) == 2 {
			return true
		}
		switch p.Kind {
		case xmlscan.Start:
			depth := len(p.Open)
			if p.Lone {
				depth++
			}
			switch {
			case depth == 1:
				if p.Name != "resources" {
					p.Damaged(p.From, "", fmt.Sprintf("<%s> where <resources> belongs", p.Name), "put all strings inside <resources>")
				}
				root = true
				p.rootName = p.From + len("<") + len(p.Name)
				_, p.xliff = p.Value("xmlns:xliff")
				if tag, ok := p.Value("tools:locale"); ok {
					if parsed, err := culture.Parse(tag); err == nil {
						p.Catalog.Culture = parsed
					}
				}
				p.clearNote()
			default:
				p.first = len(p.Catalog.Entries)
				p.child()
				p.ended = p.To
				p.clearNote()
			}
		case xmlscan.Comment:
			p.comment()
		case xmlscan.Text:
			p.between()
		case xmlscan.End:
			if len(p.Open) == 0 {
				p.rootEnd = p.From
			}
			p.clearNote()
		}
	}
	if !root {
		p.Damaged(0, "", "the file has no <resources>", "write <resources></resources> around the strings")
	}
	return false
}

// child reads one child of <resources>, at whose start tag the scanner stands.
func (p *parser) child() {
	switch p.Name {
	case "string", "plurals", "string-array":
	default:
		p.Skip()
		return
	}
	element := p.Token
	key, named := p.Value("name")
	entry := catalog.Entry{Key: key, Offset: element.From, Note: p.note.String()}
	if !named || key == "" {
		p.Damaged(element.From, "", fmt.Sprintf("<%s> without a name", p.Name), `add name="..."`)
		p.Skip()
		return
	}
	if p.unformatted = false; len(p.Attributes) > 1 {
		p.attributes(&entry)
	}
	switch element.Name {
	case "string":
		p.str(&entry)
	case "plurals":
		p.plurals(&entry)
	case "string-array":
		p.array(&entry)
	}
}

// attributes reads the attributes beside the name. The attribute formatted only
// keeps the compiler from asking for numbers; placeholders are ones all the same.
func (p *parser) attributes(entry *catalog.Entry) {
	if product, ok := p.Value("product"); ok && product != "default" {
		entry.Product = product
	}
	if value, ok := p.Value("formatted"); ok && value == "false" {
		p.unformatted = true
	}
	if value, ok := p.Value("translatable"); ok && value == "false" {
		entry.Fixed = true
	}
}

// add keeps an entry, whose element stands at an offset.
func (p *parser) add(e *catalog.Entry, element int) {
	from := p.noteFrom
	if from < 0 {
		from = element
	}
	p.notes = append(p.notes, int32(from))
	p.hashes = append(p.hashes, catalog.Hash(e.Key, e.Product))
	p.Catalog.Entries = append(p.Catalog.Entries, *e)
}

// double reports a key that stands twice.
func (p *parser) double(first int, e *catalog.Entry) {
	if _, index, ok := catalog.SplitArrayKey(e.Key); ok && index > 0 {
		return // the array was reported with its first item
	}
	p.Twice(e.Key, e.Offset, p.Catalog.Entries[first].Offset)
}

func (p *parser) str(entry *catalog.Entry) {
	if !p.Lone {
		span := p.content("string")
		formatted := span.percent && printf.Java.Formatted(p.src[span.from:span.to])
		p.value(entry, span, formatted, &entry.Message.Pattern)
		if span.percent && !entry.Fixed {
			p.numbered(entry, span)
		}
	}
	p.add(entry, entry.Offset)
}

// numbered reports a text that Android's resource compiler refuses for the
// numbers that its arguments lack. It does not look at texts with tags.
func (p *parser) numbered(entry *catalog.Entry, s span) {
	for range entry.Message.Pattern.Tags() {
		return
	}
	text := p.src[s.from:s.to]
	if !s.plain { // the only elements are those that name placeholders
		text = elements().ReplaceAllString(text, "")
	}
	if refused(text) && !p.unformatted {
		p.Report("platform-refuses", s.from, entry.Key, "of several arguments one has no number, which the resource compiler refuses", "number them: %1$s and %2$d")
	}
}

// value decodes a content span into a pattern.
func (p *parser) value(entry *catalog.Entry, s span, formatted bool, into *message.Pattern) {
	raw := p.src[s.from:s.to]
	if s.plain && !formatted {
		if text, ok := plainText(raw); ok {
			if text != "" {
				*into = append(p.room(1), message.Text(text))
				p.refers(entry, text, s.from)
			}
			return
		}
	}
	p.reader.Reset(formatted)
	p.decoder = decoder{parser: p, key: entry.Key, reader: &p.reader, out: p.decoder.out[:0]}
	*into = p.decoder.decode(s)
	p.refers(entry, strings.TrimSpace(raw), s.from)
}

// refers notes what a text refers to. The resource compiler takes all that begins
// with ? for a reference.
func (p *parser) refers(entry *catalog.Entry, text string, at int) {
	entry.Reference = reference(text)
	if len(text) > 1 && text[0] == '?' && text[1] != '/' && text[1] != ':' && (entry.Reference == "" || !strings.ContainsAny(text, ":/")) {
		p.Report("platform-refuses", at, entry.Key, "the text begins with ?, which the resource compiler takes for a reference to an attribute", `write \?`)
	}
}

// room returns an empty pattern with room for n parts. Patterns are cut from
// larger pieces: most have one part.
func (p *parser) room(n int) message.Pattern {
	if cap(p.parts)-len(p.parts) < n {
		p.parts = make(message.Pattern, 0, 1024)
	}
	at := len(p.parts)
	p.parts = p.parts[:at+n]
	return p.parts[at : at : at+n]
}

// reference returns the key that "@string/key" refers to, the whole text where it
// refers to something of the platform or the theme ("@android:string/ok",
// "?attr/title", "@null"), or "".
func reference(text string) string {
	if text == "" || text[0] != '@' && text[0] != '?' {
		return ""
	}
	if name, ok := strings.CutPrefix(text, "@string/"); ok && resourceName(name) {
		return name
	}
	name := strings.TrimPrefix(text[1:], "+")
	if owner, rest, ok := strings.Cut(name, ":"); ok && resourceName(owner) {
		name = rest
	}
	kind, rest, typed := strings.Cut(name, "/")
	switch {
	case typed && resourceName(kind) && resourceName(rest), text == "@null", text == "@empty",
		!typed && text[0] == '?' && resourceName(name):
		return text
	}
	return ""
}

func resourceName(text string) bool {
	for i := 0; i < len(text); i++ {
		if c := text[i]; !(c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c >= '0' && c <= '9' || c == '_' || c == '.' || c == '-' || c >= 0x80) {
			return false
		}
	}
	return text != ""
}

var quantities = map[string]bool{"zero": true, "one": true, "two": true, "few": true, "many": true, "other": true}

// items reads the <item> children of the element just begun and hands each to f.
func (p *parser) items(element string, f func(item xmlscan.Token, quantity string, s span)) {
	if p.Lone {
		return
	}
	depth := len(p.Open)
	for p.Next() {
		switch {
		case p.Kind == xmlscan.End && len(p.Open) < depth:
			return
		case p.Kind == xmlscan.Start && p.Name == "item":
			item := p.Token
			quantity, _ := p.Value("quantity")
			var s span
			if p.Lone {
				s = span{from: p.To, to: p.To, plain: true}
			} else {
				s = p.content("item")
			}
			f(item, quantity, s)
		case p.Kind == xmlscan.Start && (p.Name == "string" || p.Name == "plurals" || p.Name == "string-array"):
			p.Back()
			p.Close(element)
			return
		case p.Kind == xmlscan.Start:
			p.Damaged(p.From, "", fmt.Sprintf("<%s> where <item> belongs", p.Name), "write <item>")
			p.Skip()
		}
	}
}

func (p *parser) plurals(entry *catalog.Entry) {
	type item struct {
		quantity string
		span
	}
	items := make([]item, 0, 6)
	p.items("plurals", func(token xmlscan.Token, quantity string, s span) {
		if !quantities[quantity] {
			p.Damaged(token.From, entry.Key, fmt.Sprintf("%q is no quantity", quantity), "use zero, one, two, few, many or other")
			return
		}
		for _, i := range items {
			if i.quantity == quantity {
				p.Report("key-duplicate", token.From, entry.Key, fmt.Sprintf("the quantity %s stands twice", quantity), "remove one of them")
				return
			}
		}
		items = append(items, item{quantity, s})
	})
	any := false
	for _, i := range items {
		any = any || printf.Java.Formatted(p.src[i.from:i.to])
	}
	choice := &message.Choice{Variants: make([]message.Variant, 0, len(items))}
	for _, i := range items {
		variant := message.Variant{Keys: []string{i.quantity}}
		p.value(entry, i.span, any, &variant.Pattern)
		choice.Variants = append(choice.Variants, variant)
	}
	entry.Message.Choice = choice
	entry.Message.CountFirst()
	entry.Reference = ""
	p.add(entry, entry.Offset)
}

func (p *parser) array(entry *catalog.Entry) {
	name := entry.Key
	index := 0
	p.items("string-array", func(token xmlscan.Token, _ string, s span) {
		item := *entry
		item.Key, item.Offset = catalog.ArrayKey(name, index), token.From
		p.value(&item, s, printf.Java.Formatted(p.src[s.from:s.to]), &item.Message.Pattern)
		p.inArray(len(p.Catalog.Entries), entry.Offset)
		p.add(&item, entry.Offset)
		index++
	})
}

// inArray notes that an entry is an item of the array at an offset.
func (p *parser) inArray(entry, offset int) {
	if p.arrays == nil {
		p.arrays = map[int]int{}
	}
	p.arrays[entry] = offset
}

package android

import (
	"fmt"
	"strings"

	"zelvik/catalog"
	"zelvik/format"
	"zelvik/format/xmlscan"
	"zelvik/internal/fast"
	"zelvik/message"
	"zelvik/message/printf"
)

const xliffNamespace = `xmlns:xliff="urn:oasis:names:tc:xliff:document:1.2"`

// composer writes values and notes what it could not say.
type composer struct {
	out []byte
	format.Teller
	// xliff says that a placeholder needed the xliff prefix.
	xliff bool
	line  string
	// clashing are the keys whose names others would have, too.
	clashing map[string]bool
	// source says that nothing else tells what a plural counts.
	source bool
}

func compose(c *catalog.Catalog, o format.Options) ([]byte, []catalog.Loss) {
	w := &composer{line: "\n", out: fast.Make[byte](o.Room(256 + len(c.Entries)*110)), clashing: clashing(o.Source, c), source: o.Source == nil}
	w.Catalog = c
	w.out = append(w.out, `<?xml version="1.0" encoding="utf-8"?>`+"\n<resources"...)
	if namesPlaceholders(c) {
		w.out = append(w.out, " "+xliffNamespace...)
	}
	w.out = append(w.out, ">\n"...)
	const many = 20000
	half := boundary(c.Entries, len(c.Entries)/2)
	if half > many && o.Against == nil {
		second := &composer{line: w.line, out: fast.Make[byte](cap(w.out) / 2), clashing: w.clashing, source: w.source}
		second.Catalog = c
		fast.Both(func() { w.entries(c.Entries[:half], o) }, func() { second.entries(c.Entries[half:], o) })
		w.out = append(w.out, second.out...)
		w.Losses = append(w.Losses, second.Losses...)
	} else if !w.entries(c.Entries, o) {
		return nil, nil
	}
	w.out = append(w.out, "</resources>\n"...)
	return w.out, w.Losses
}

// referring spells an entry's reference.
func referring(e *catalog.Entry) string {
	if e.Platform() {
		return e.Reference
	}
	return "@string/" + e.Reference
}

// boundary returns a place at or after i that is not inside an array.
func boundary(entries []catalog.Entry, i int) int {
	for ; i < len(entries); i++ {
		if _, index, ok := catalog.SplitArrayKey(entries[i].Key); !ok || index == 0 {
			break
		}
	}
	return i
}

// entries writes entries; false when there is no need to go on.
func (w *composer) entries(entries []catalog.Entry, o format.Options) bool {
	for i := 0; i < len(entries); i++ {
		var on bool
		if w.out, on = o.Flush(w.out); !on {
			return false
		}
		e := &entries[i]
		if o.Against != nil && takePlain(o.Against, e) {
			continue
		}
		w.Entry = e
		w.note(e.Note, "    ")
		if name, index, ok := catalog.SplitArrayKey(e.Key); ok && index == 0 {
			i += w.array(entries[i:], name) - 1
			continue
		}
		w.element(e, "    ")
		w.out = append(w.out, '\n')
	}
	return true
}

// takePlain compares the commonest of entries without writing it: a text that
// stands in the file as it reads, which is how it would be written.
func takePlain(against *format.Comparison, e *catalog.Entry) bool {
	if e.Note != "" || e.Product != "" || e.Fixed || e.Message.Choice != nil || len(e.Message.Pattern) != 1 {
		return false
	}
	text, ok := e.Message.Pattern[0].(message.Text)
	if !ok || text[0] == '@' || text[0] == '?' || strings.IndexByte(string(text), '%') >= 0 || strings.Contains(string(text), "]]>") {
		return false
	}
	if plain, ok := plainText(string(text)); !ok || strings.HasSuffix(plain, " ") {
		return false
	}
	return against.Take("    <string name=\"", e.Key, "\">", string(text), "</string>\n")
}

// namesPlaceholders reports whether an element with the xliff prefix will be
// written.
func namesPlaceholders(c *catalog.Catalog) bool {
	for i := range c.Entries {
		for _, pattern := range c.Entries[i].Message.Patterns() {
			for _, part := range pattern {
				switch part := part.(type) {
				case *message.Placeholder:
					if part.Wrapped && part.Spelling != "" || worthNaming(part, c.Entries[i].Message) {
						return true
					}
				case *message.Markup:
					if strings.HasPrefix(part.Tag, "xliff:") {
						return true
					}
				}
			}
		}
	}
	return false
}

// worthNaming reports whether the placeholder's name says more than its place.
func worthNaming(p *message.Placeholder, m message.Message) bool {
	return !p.MadeName() && !(p.Name == "count" && m.Choice != nil && p.Sample == "")
}

// note writes a comment on lines of its own. XML comments cannot hold "--".
func (w *composer) note(note, indent string) {
	if note == "" {
		return
	}
	w.out = append(w.out, indent...)
	w.out = append(w.out, "<!-- "...)
	w.out = append(w.out, w.comment(note, indent)...)
	w.out = append(w.out, " -->"+w.line...)
}

// comment returns a note as the inside of a comment.
func (w *composer) comment(note, indent string) string {
	return strings.ReplaceAll(w.XMLComment(note), "\n", w.line+indent+"     ")
}

// element writes one <string> or <plurals>.
func (w *composer) element(e *catalog.Entry, indent string) {
	choice := e.Message.Choice
	w.Beside(e, "Android files", holds)
	if choice != nil && choice.Selectors[0].Kind == message.Plural {
		w.plurals(e, indent)
		return
	}
	pattern := e.Message.Pattern
	if choice != nil {
		w.Lose(choice.Selectors[0].Kind.String(), "the variants of the "+choice.Selectors[0].Kind.String()+" over {"+choice.Selectors[0].Argument.Name+"}", "the text of the variant other")
		pattern = e.Message.Main()
	}
	w.out = append(append(w.out, indent...), `<string name="`...)
	w.out = append(w.out, w.name(e.Key)...)
	w.out = append(w.out, '"')
	w.attributes(e, pattern)
	w.out = append(w.out, '>')
	if e.Reference != "" {
		w.out = append(w.out, referring(e)...)
	} else {
		w.pattern(pattern, printf.Numbered(e.Message), hasPlaceholder(pattern))
	}
	w.out = append(w.out, "</string>"...)
}

func (w *composer) attributes(e *catalog.Entry, patterns ...message.Pattern) {
	if e.Product != "" {
		w.out = append(w.out, ` product="`+xmlscan.EscapeAttribute(e.Product)+`"`...)
	}
	if e.Fixed {
		w.out = append(w.out, ` translatable="false"`...)
	}
	if w.unformatted(patterns) {
		w.out = append(w.out, ` formatted="false"`...)
	}
}

// unformatted reports whether patterns, which have no placeholders, need the
// attribute formatted="false": because they look like format strings, which is
// told, or because the resource compiler takes them for such.
func (w *composer) unformatted(patterns []message.Pattern) bool {
	if anyPlaceholder(patterns) {
		return false
	}
	needed := false
	for _, p := range patterns {
		text := p.Literal()
		for _, part := range p { // each as it is read back: not over a tag
			if run, ok := part.(message.Text); ok && printf.Java.Formatted(string(run)) {
				w.Lose("escape", "that the % in the text is no placeholder", "it reads as one")
				return true
			}
		}
		needed = needed || refused(text) || printf.Java.Formatted(text)
	}
	return needed
}

// refused reports whether Android's resource compiler takes a text for a format
// string with several arguments of which one has no number, which it refuses. A %
// counts unless another one or n follows it; its flags and one character more are
// passed over, which may be the next %.
func refused(text string) bool {
	arguments, numbered := 0, true
	for {
		at := strings.IndexByte(text, '%')
		if at < 0 || at+1 == len(text) {
			return arguments > 1 && !numbered
		}
		if text = text[at+1:]; text[0] == '%' || text[0] == 'n' {
			text = text[1:]
			continue
		}
		rest := strings.TrimLeft(text, "0123456789")
		arguments++
		numbered = numbered && len(rest) < len(text) && (rest == "" || rest[0] == '$')
		if text = strings.TrimLeft(rest, "-#+ ,(0123456789"); text != "" {
			text = text[1:]
		}
	}
}

func hasPlaceholder(p message.Pattern) bool {
	for _, part := range p {
		if _, ok := part.(*message.Placeholder); ok {
			return true
		}
	}
	return false
}

func (w *composer) plurals(e *catalog.Entry, indent string) {
	variants := w.variants(e)
	if s := &e.Message.Choice.Selectors[0].Argument; w.source && len(e.Message.Choice.Selectors) == 1 && !e.Message.CountsFirst() {
		w.Lose("position", "that {"+s.Name+"} is counted", "what the forms show first")
	}
	w.out = append(w.out, indent+`<plurals name="`...)
	w.out = append(w.out, w.name(e.Key)...)
	w.out = append(w.out, '"')
	var patterns []message.Pattern
	for _, v := range variants {
		patterns = append(patterns, v.Pattern)
	}
	w.attributes(e, patterns...)
	w.out = append(w.out, '>')
	numbered, formatted := printf.Numbered(e.Message), e.Message.HasPlaceholders() && anyPlaceholder(patterns)
	for _, v := range variants {
		w.out = append(w.out, w.line+indent+`    <item quantity="`+v.Keys[0]+`">`...)
		w.pattern(v.Pattern, numbered, formatted)
		w.out = append(w.out, "</item>"...)
	}
	w.out = append(w.out, w.line+indent+"</plurals>"...)
}

func anyPlaceholder(patterns []message.Pattern) bool {
	for _, p := range patterns {
		if hasPlaceholder(p) {
			return true
		}
	}
	return false
}

// variants returns the variants that Android can hold: the categories of the
// first selector, with the default of all others.
func (w *composer) variants(e *catalog.Entry) []message.Variant {
	choice := e.Message.Choice
	if s := choice.Selectors[0]; s.Offset != 0 {
		w.Lose("exact-case", fmt.Sprintf("the offset %d of {%s}", s.Offset, s.Argument.Name), "the whole number")
	}
	var out []message.Variant
	seen := map[string]bool{}
	lost := false
	for _, v := range choice.Variants {
		rest := v.Keys[1:]
		others := true
		for _, key := range rest {
			others = others && key == message.Default
		}
		if !others || seen[v.Keys[0]] {
			lost = true
			continue
		}
		if !quantities[v.Keys[0]] {
			w.Lose("exact-case", "the case "+v.Keys[0], "the variant of its category")
			continue
		}
		seen[v.Keys[0]] = true
		out = append(out, v)
	}
	if lost {
		w.Lose("second-selector", "the variants over {"+choice.Selectors[1].Argument.Name+"}", "the variant other of it")
	}
	return out
}

// array writes entries name[0], name[1] ... as one array and tells how many it
// took.
func (w *composer) array(entries []catalog.Entry, name string) int {
	w.out = append(w.out, `    <string-array name="`...)
	w.out = append(w.out, w.name(name)...)
	w.out = append(w.out, '"')
	if entries[0].Fixed {
		w.out = append(w.out, ` translatable="false"`...)
	}
	w.out = append(w.out, ">\n"...)
	count := 0
	for i := range entries {
		other, index, ok := catalog.SplitArrayKey(entries[i].Key)
		if !ok || other != name || index != i {
			break
		}
		w.Entry = &entries[i]
		w.Beside(w.Entry, "Android files", holds)
		w.out = append(w.out, "        <item>"...)
		p := entries[i].Message.Main()
		if entries[i].Reference != "" {
			w.out = append(w.out, referring(&entries[i])...)
		} else {
			w.pattern(p, printf.Numbered(entries[i].Message), hasPlaceholder(p))
		}
		w.out = append(w.out, "</item>\n"...)
		count++
	}
	w.out = append(w.out, "    </string-array>\n"...)
	return count
}

// pattern writes a value.
func (w *composer) pattern(p message.Pattern, numbered, formatted bool) {
	elements, speller := nested(p), printf.Java.Speller(p, numbered)
	for i, part := range p {
		switch part := part.(type) {
		case message.Text:
			text := string(part)
			if formatted {
				text = printf.Escape(text)
			}
			w.out = escapeText(w.out, text, i == 0, i == len(p)-1)
		case *message.Placeholder:
			w.placeholder(part, speller)
		case *message.Markup:
			if !elements {
				w.out = escapeText(w.out, part.String(), i == 0, i == len(p)-1)
				continue
			}
			if strings.HasPrefix(part.Tag, "xliff:") {
				w.xliff = true
			}
			w.out = append(w.out, part.String()...)
		}
	}
}

// nested reports whether the tags of a pattern are elements of XML: each is
// closed where its turn is, and attributes are quoted. Others are characters.
func nested(p message.Pattern) bool {
	var open []string
	for _, part := range p {
		m, ok := part.(*message.Markup)
		if !ok {
			continue
		}
		switch m.Role {
		case message.Open, message.Lone:
			if s := xmlscan.New(m.String()); !s.Next() || s.Kind != xmlscan.Start || len(s.Faults) > 0 || s.To != len(m.String()) || s.Lone != (m.Role == message.Lone) {
				return false
			}
			if m.Role == message.Open {
				open = append(open, m.Tag)
			}
		case message.Close:
			n := len(open)
			if n == 0 || open[n-1] != m.Tag {
				return false
			}
			open = open[:n-1]
		}
	}
	return len(open) == 0
}

// placeholder writes a placeholder, in an element that names it where its name
// says more than its place.
func (w *composer) placeholder(p *message.Placeholder, speller printf.Speller) {
	if p.Wrapped && p.Spelling != "" {
		w.xliff = true
		w.out = append(w.out, p.Spelling...)
		return
	}
	text, losses := speller.Spell(p)
	for _, l := range losses {
		w.Lose(l.Kind, l.Lost, l.Instead)
	}
	if !worthNaming(p, w.Entry.Message) {
		w.out = append(w.out, text...)
		return
	}
	if !identifier(p.Name) {
		w.Lose("name", "the name of the placeholder {"+p.Name+"}", "its position: the name is for people alone")
	}
	w.xliff = true
	w.out = append(w.out, `<xliff:g id="`+p.Name+`"`...)
	if p.Sample != "" {
		w.out = append(w.out, ` example="`+xmlscan.EscapeAttribute(p.Sample)+`"`...)
	}
	w.out = append(w.out, ">"+text+"</xliff:g>"...)
}

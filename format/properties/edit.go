package properties

import (
	"slices"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/format"
	"zelvik/format/doc"
	"zelvik/message"
	"zelvik/message/icu"
)

// Edit makes changes; see format.Document.
func (d *document) Edit(changes []format.Change) ([]byte, []catalog.Loss, error) {
	e := &editor{document: d, Editor: doc.NewEditor(d.Coded)}
	e.w = writer{escaped: d.escaped, newline: e.Newline, sign: d.sign(), printf: d.printf()}
	if like := doc.Like[*document](changes); like != nil {
		e.choices = like.choices() && !d.plurals()
	}
	return e.Apply(changes, &e.w.Teller, e)
}

type editor struct {
	*document
	doc.Editor
	w writer
	// choices says that plurals are choice formats, as in the source's file.
	choices bool
}

// plurals reports whether any text is an ICU plural, which the JDK's MessageFormat
// does not read; choices whether the texts are the JDK's and one has a choice.
func (d *document) plurals() bool {
	return icu.LooksChosen(d.Text())
}

func (d *document) choices() bool {
	return !d.plurals() && strings.Contains(d.Text(), ",choice,")
}

// limited returns a plural with exact cases alone, as a choice format has them.
func (e *editor) limited(m message.Message) message.Message {
	if !e.choices || m.Choice == nil || len(m.Choice.Selectors) != 1 || m.Choice.Selectors[0].Kind != message.Plural {
		return m
	}
	choice := &message.Choice{Selectors: m.Choice.Selectors}
	exact := slices.ContainsFunc(m.Choice.Variants, func(v message.Variant) bool { return v.Keys[0] == "=1" })
	for _, v := range m.Choice.Variants {
		switch key := v.Keys[0]; {
		case key == culture.One && !exact:
			v.Keys = []string{"=1"}
		case key != message.Default && !strings.HasPrefix(key, "="):
			if v.Pattern.String() != m.Main().String() {
				e.w.Lose("plural", "the form "+key, "the text of the last limit; the family's choice formats have no categories")
			}
			continue
		}
		choice.Variants = append(choice.Variants, v)
	}
	return message.Message{Choice: choice}
}

// sign is what parts key and value in the file's first entry.
func (d *document) sign() string {
	for _, s := range d.slots {
		if sign := d.Text()[s.Key.To:s.Value.From]; sign != "" && !strings.ContainsAny(sign, "\\\r\n") {
			return sign
		}
	}
	return "="
}

// printf reports whether the file's texts are format strings and no patterns.
func (d *document) printf() bool {
	format, pattern := 0, 0
	for i := range d.Catalog.Entries {
		for p := range d.Catalog.Entries[i].Message.Placeholders() {
			if p.Syntax == message.Java {
				format++
			} else {
				pattern++
			}
		}
	}
	return format > pattern
}

// Find returns the number of an entry.
func (e *editor) Find(c format.Change) (number, offset int) {
	if number = e.Catalog.At(c.Key); number >= 0 {
		offset = e.slots[number].Whole.From
	}
	return number, offset
}

// Remove takes out an entry with its comment.
func (e *editor) Remove(i int, _ format.Change) error {
	e.Cut(e.slots[i].Begin(), e.slots[i].Whole.To)
	return nil
}

// Rename changes the key.
func (e *editor) Rename(i int, c format.Change) error {
	e.Replace(e.slots[i].Key.From, e.slots[i].Key.To, string(e.w.escape(nil, c.NewKey, true)))
	return nil
}

// Set changes value and comment.
func (e *editor) Set(i int, c format.Change) error {
	if c.Message != nil {
		e.set(&e.slots[i], *c.Message)
	}
	if c.Note != nil && *c.Note != e.Catalog.Entries[i].Note {
		e.note(&e.slots[i], *c.Note)
	}
	return nil
}

// set replaces the value, where it reads as something else.
func (e *editor) set(s *doc.Slot, m message.Message) {
	value := e.w.value(&catalog.Entry{Message: e.limited(m)})
	if s.Value.From == s.Key.To && value != "" { // a key alone
		e.Replace(s.Value.From, s.Whole.To, e.w.sign+string(e.w.behind(nil, e.w.sign, value)))
		return
	}
	spell := func(text string) string { return string(e.w.behind(nil, e.Src[s.Key.To:s.Value.From], text)) }
	e.Splice(s.Value.From, s.Whole.To, spell(value), func(raw string) string {
		p := &parser{src: raw, Reader: format.NewReader(raw)}
		text, slashes := p.read("", ""), len(raw)-len(strings.TrimRight(raw, `\`))
		if p.at == len(raw) && slashes%2 == 0 { // else the next line would go on with it
			return spell(text)
		}
		return raw
	})
}

// note changes, adds or removes the comment before an entry.
func (e *editor) note(s *doc.Slot, note string) {
	line := strings.LastIndexAny(e.Src[:s.Whole.From], "\r\n") + 1
	indent := e.Src[line:s.Whole.From]
	text := strings.ReplaceAll(e.w.note(note), e.Newline, e.Newline+indent)
	switch {
	case !s.Note.There() && note != "":
		e.Replace(line, line, indent+text+e.Newline)
	case s.Note.There() && note == "":
		e.Replace(s.Note.From, line, "")
	case s.Note.There():
		mark := strings.TrimLeft(e.Src[s.Note.From:s.Note.To], " \t\f")
		if strings.HasPrefix(mark, "!") {
			text = strings.ReplaceAll("!"+text[1:], e.Newline+indent+"#", e.Newline+indent+"!")
		}
		e.Replace(s.Note.From, s.Note.To, indent+text)
	}
}

// Insert adds an entry after its neighbour.
func (e *editor) Insert(c format.Change, entry *catalog.Entry) error {
	entry.Message = e.limited(entry.Message)
	gap, _ := e.Gap(c, e.Catalog.At(c.After), len(e.slots), func(i int) doc.Span { return doc.Span{From: e.slots[i].Begin(), To: e.slots[i].Whole.To} }, len(e.Src), "")
	text := string(e.w.entry(nil, entry))
	if !gap.Before && gap.At == len(e.Src) && strings.HasSuffix(e.Src, `\`) { // else it would go on with the last line
		text = e.Newline + text
	}
	e.Put(gap, text)
	return nil
}

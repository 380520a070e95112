package properties

import (
	"slices"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/format"
	"zelvik/message"
	"zelvik/message/icu"
)

// Edit makes changes; see format.Document.
func (d *document) Edit(changes []format.Change) ([]byte, []catalog.Loss, error) {
	e := &editor{document: d, Editor: format.NewEditor(d.Text())}
	e.w = writer{escaped: d.escaped, newline: e.Newline, sign: d.sign(), printf: d.printf()}
	if like, ok := likeOf(changes); ok {
		e.choices = like.choices() && !d.plurals()
	}
	if err := e.Make(changes, e.change); err != nil {
		return nil, nil, err
	}
	out, err := d.text.Patch(e.Replacements)
	return out, e.w.Losses, err
}

type editor struct {
	*document
	format.Editor
	w writer
	// choices says that plurals are choice formats, as in the source's file.
	choices bool
}

func likeOf(changes []format.Change) (*document, bool) {
	for i := range changes {
		if like, ok := changes[i].Like.(*document); ok {
			return like, true
		}
	}
	return nil, false
}

// plurals reports whether any text is an ICU plural, which the JDK's MessageFormat
// does not read; choices whether the texts are the JDK's and one has a choice.
func (d *document) plurals() bool {
	return icu.LooksChosen(d.Text())
}

func (d *document) choices() bool {
	return !d.plurals() && strings.Contains(d.Text(), ",choice,")
}

// limited gives a plural with exact cases alone, as a choice format has them.
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
		if sign := d.Text()[s.keyTo:s.valueFrom]; sign != "" && !strings.ContainsAny(sign, "\\\r\n") {
			return sign
		}
	}
	return "="
}

// printf reports whether the file's texts are format strings and no patterns.
func (d *document) printf() bool {
	format, pattern := 0, 0
	for i := range d.catalog.Entries {
		for p := range d.catalog.Entries[i].Message.Placeholders() {
			if p.Syntax == message.Java {
				format++
			} else {
				pattern++
			}
		}
	}
	return format > pattern
}

func (e *editor) change(c format.Change) error {
	i := e.catalog.At(c.Key)
	switch {
	case c.Op == format.Set && i < 0:
		return e.insert(c)
	case i < 0:
		return format.ErrNoEntry
	}
	s, entry := e.slots[i], &e.catalog.Entries[i]
	e.w.Entry = entry
	switch c.Op {
	case format.Remove:
		from := s.from
		if s.noteFrom >= 0 {
			from = s.noteFrom
		}
		e.Remove(from, s.to)
		return nil
	case format.Rename:
		e.Replace(s.from, s.keyTo, string(e.w.escape(nil, c.NewKey, true)))
		return nil
	}
	if c.Message != nil {
		e.set(s, *c.Message)
	}
	if c.Note != nil && *c.Note != entry.Note {
		e.note(s, *c.Note)
	}
	return nil
}

// set replaces the value, where it reads as something else.
func (e *editor) set(s slot, m message.Message) {
	value := e.w.value(&catalog.Entry{Message: e.limited(m)})
	if s.valueFrom == s.keyTo && value != "" { // a key alone
		e.Replace(s.valueFrom, s.to, e.w.sign+string(e.w.behind(nil, e.w.sign, value)))
		return
	}
	spell := func(text string) string { return string(e.w.behind(nil, e.Src[s.keyTo:s.valueFrom], text)) }
	e.Splice(s.valueFrom, s.to, spell(value), func(raw string) string {
		p := &parser{src: raw, Reader: format.NewReader(raw)}
		text, slashes := p.read("", ""), len(raw)-len(strings.TrimRight(raw, `\`))
		if p.at == len(raw) && slashes%2 == 0 { // else the next line would go on with it
			return spell(text)
		}
		return raw
	})
}

// note changes, adds or removes the comment before an entry.
func (e *editor) note(s slot, note string) {
	line := strings.LastIndexAny(e.Src[:s.from], "\r\n") + 1
	indent := e.Src[line:s.from]
	text := strings.ReplaceAll(e.w.note(note), e.Newline, e.Newline+indent)
	switch {
	case s.noteFrom < 0 && note != "":
		e.Replace(line, line, indent+text+e.Newline)
	case s.noteFrom >= 0 && note == "":
		e.Replace(s.noteFrom, line, "")
	case s.noteFrom >= 0:
		mark := strings.TrimLeft(e.Src[s.noteFrom:s.noteTo], " \t\f")
		if strings.HasPrefix(mark, "!") {
			text = strings.ReplaceAll("!"+text[1:], e.Newline+indent+"#", e.Newline+indent+"!")
		}
		e.Replace(s.noteFrom, s.noteTo, indent+text)
	}
}

func (e *editor) insert(c format.Change) error {
	if c.Message == nil {
		return format.ErrNoEntry
	}
	entry := catalog.Entry{Key: c.Key, Message: *c.Message}
	if c.Note != nil {
		entry.Note = *c.Note
	}
	e.w.Entry = &entry
	entry.Message = e.limited(entry.Message)
	text := string(e.w.entry(nil, &entry))
	i := e.catalog.At(c.After)
	switch {
	case i < 0 && c.After == "" && len(e.slots) > 0:
		s := e.slots[0]
		at := s.from
		if s.noteFrom >= 0 {
			at = s.noteFrom
		} else {
			at = strings.LastIndexAny(e.Src[:at], "\r\n") + 1
		}
		e.Replace(at, at, text+e.Newline)
	case i >= 0 || len(e.slots) > 0:
		if i < 0 {
			i = len(e.slots) - 1
		}
		to := e.slots[i].to
		if to == len(e.Src) && strings.HasSuffix(e.Src, `\`) { // else it would go on with the last line
			text = e.Newline + text
		}
		e.Replace(to, to, e.Newline+text)
	default:
		if e.Src != "" && !strings.HasSuffix(e.Src, "\n") {
			text = e.Newline + text
		}
		e.Replace(len(e.Src), len(e.Src), text+e.Newline)
	}
	return nil
}

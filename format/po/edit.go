package po

import (
	"fmt"
	"slices"
	"strings"

	"zelvik/catalog"
	"zelvik/format"
	"zelvik/format/doc"
	"zelvik/message"
	"zelvik/message/printf"
)

// Edit makes changes; see format.Document.
func (d *document) Edit(changes []format.Change) ([]byte, []catalog.Loss, error) {
	e := &editor{document: d, Editor: doc.NewEditor(d.Coded)}
	e.w = writer{newline: e.Newline, forms: d.forms, target: d.Target, spell: printf.C.Write}
	if d.wrapped() {
		e.w.width = 79
	}
	return e.Apply(changes, &e.w.Teller, e)
}

type editor struct {
	*document
	doc.Editor
	w writer
}

func (e *editor) toSource(c format.Change) bool { return e.Target == nil || e.ToSource(c) }

// wrapped reports whether the file's long texts go on over lines.
func (d *document) wrapped() bool {
	src := d.Text()
	for i := range d.blocks {
		if f := d.blocks[i].id; i != d.header && strings.Count(src[f.from:f.to], "\n") > strings.Count(f.text, "\n")+1 {
			return true
		}
	}
	return false
}

// Find returns the number of an entry's block.
func (e *editor) Find(c format.Change) (number, offset int) {
	if number = e.At(c.Key); number >= 0 {
		offset = e.blocks[number].id.from
	}
	return number, offset
}

// Remove takes out a block with one of the blank lines around it.
func (e *editor) Remove(i int, _ format.Change) error {
	start, end, whole := e.Lines(e.blocks[i].from, e.blocks[i].to)
	if whole {
		if rest := e.Src[end:]; strings.HasPrefix(rest, e.Newline) {
			end += len(e.Newline)
		} else if before := e.Src[:start]; strings.HasSuffix(before, e.Newline+e.Newline) && rest == "" {
			start -= len(e.Newline)
		}
	}
	e.Replace(start, end, "")
	return nil
}

// Set changes text, comment and state.
func (e *editor) Set(i int, c format.Change) error {
	b, toSource := &e.blocks[i], e.toSource(c)
	if c.Message != nil {
		if err := e.text(b, c, toSource); err != nil {
			return err
		}
	}
	switch {
	case c.Note != nil && toSource:
		e.note(b, &b.note, "#. ", *c.Note)
	case c.Note != nil:
		e.note(b, &b.translatorsNote, "# ", *c.Note)
	}
	if c.State != nil && !toSource {
		e.state(b, *c.State)
	}
	return nil
}

// text changes the text of the source or the translation.
func (e *editor) text(b *block, c format.Change, toSource bool) error {
	_, whole := b.texts.at(0)
	switch {
	case toSource && e.keyed:
		e.setSource(b, *c.Message)
	case toSource && e.Source.Find(c.Key).Message.String() != c.Message.String():
		return format.ErrKeyIsText
	case toSource:
	case !whole:
		return format.ErrDamaged
	default:
		e.set(b, *c.Message)
	}
	return nil
}

// spellAs makes the writer spell as the entry's flags ask, else as its source
// looks.
func (e *editor) spellAs(b *block) *syntax {
	s := b.syntax()
	if e.w.spell = s.write; s.read == nil || len(b.flags) == 0 && !misread(b.id.text+b.plural.text) {
		e.w.spell = printf.C.Write
	}
	return s
}

// put replaces the text of a field.
func (e *editor) put(f field, word, text string) {
	if f.text == text {
		return
	}
	spell := func(text string) string { return strings.TrimSuffix(string(e.w.field(nil, word, text)), e.Newline) }
	e.Splice(f.from, f.to, spell(text), func(raw string) string {
		p := &parser{document: &document{}, src: raw, Reader: format.NewReader(raw)}
		if strings.HasPrefix(raw, word) {
			if f := p.strings(0, word); f.to == len(raw) {
				return spell(f.text)
			}
		}
		return raw
	})
}

func (e *editor) setSource(b *block, m message.Message) {
	e.spellAs(b)
	id, plural := e.w.source(m)
	e.w.misread(syntaxOf(b.flags, id, plural), m, id, plural)
	e.put(b.id, "msgid", id)
	if b.plural.from >= 0 {
		e.put(b.plural, "msgid_plural", plural)
	}
}

// set replaces the translation: one text, or the forms.
func (e *editor) set(b *block, m message.Message) {
	read := e.spellAs(b)
	if b.plural.from < 0 {
		f, _ := b.texts.at(0)
		text := e.w.text(m)
		e.w.misread(read, m, text)
		e.put(f, "msgstr", text)
		return
	}
	texts := e.w.fill(m)
	e.w.misread(syntaxOf(b.flags, b.id.text, b.plural.text, texts...), m, texts...)
	for i, text := range texts {
		f, ok := b.texts.at(i)
		if ok {
			e.put(f, fmt.Sprintf("msgstr[%d]", i), text)
			continue
		}
		e.Replace(b.to, b.to, e.Newline+strings.TrimSuffix(string(e.w.field(nil, fmt.Sprintf("msgstr[%d]", i), text)), e.Newline))
	}
}

// Rename changes context or text, whichever is the key.
func (e *editor) Rename(i int, c format.Change) error {
	b, key := &e.blocks[i], c.NewKey
	switch {
	case e.keyed && b.context.from >= 0:
		e.put(b.context, "msgctxt", key)
	case e.keyed:
		e.Replace(b.id.from, b.id.from, string(e.w.field(nil, "msgctxt", key)))
	case b.context.from >= 0:
		context, id, ok := strings.Cut(key, "|")
		if !ok {
			context, id = b.context.text, key
		}
		e.put(b.context, "msgctxt", context)
		e.put(b.id, "msgid", id)
	default:
		e.put(b.id, "msgid", key)
	}
	return nil
}

// note changes, adds or removes the comment lines of a kind.
func (e *editor) note(b *block, c *comment, mark, note string) {
	if note == c.text {
		return
	}
	text := string(e.w.comment(nil, mark, note))
	switch {
	case c.from >= 0 && note == "":
		e.Cut(c.from, c.to)
	case c.from >= 0:
		e.Replace(c.from, c.to, strings.TrimSuffix(text, e.Newline))
	case note != "":
		at := b.from
		if mark == "#. " && b.translatorsNote.from >= 0 {
			at = b.translatorsNote.to
			text = e.Newline + strings.TrimSuffix(text, e.Newline)
		}
		e.Replace(at, at, text)
	}
}

// state sets or takes away the flag fuzzy, with the text that it was for.
func (e *editor) state(b *block, s catalog.State) {
	fuzzy := s == catalog.Draft || s == catalog.Moved || s == catalog.Missing
	if fuzzy == slices.Contains(b.flags, "fuzzy") {
		return
	}
	if fuzzy {
		if b.flagsFrom >= 0 {
			at := b.flagsFrom + strings.IndexByte(e.Src[b.flagsFrom:], ',') + 1
			e.Replace(at, at, " fuzzy,")
			return
		}
		at := b.id.from
		if b.context.from >= 0 {
			at = b.context.from
		}
		if b.previousFrom >= 0 {
			at = b.previousFrom
		}
		e.Replace(at, at, "#, fuzzy"+e.Newline)
		return
	}
	var rest []string
	for flag := range strings.SplitSeq(e.Src[b.flagsFrom+2:b.flagsTo], ",") {
		if flag = strings.TrimSpace(flag); flag != "fuzzy" && flag != "" {
			rest = append(rest, flag)
		}
	}
	if rest == nil {
		e.Cut(b.flagsFrom, b.flagsTo)
	} else {
		e.Replace(b.flagsFrom, b.flagsTo, "#, "+strings.Join(rest, ", "))
	}
	if b.previousFrom >= 0 {
		e.Cut(b.previousFrom, b.previousTo)
	}
}

// Insert adds an entry. In a translation it needs the source's text; without
// it the key stands for that.
func (e *editor) Insert(c format.Change, entry *catalog.Entry) error {
	text := c.Key
	if _, id, ok := strings.Cut(c.Key, "|"); ok && !e.keyed {
		text = id
	}
	toSource := e.toSource(c)
	if toSource && !e.keyed && entry.Message.String() != c.Key {
		return format.ErrKeyIsText
	}
	source, target := e.Added(c, entry, text, toSource)
	if own := &source.Entries[0]; c.Source == nil && !toSource && entry.Message.Choice != nil {
		own.Message = message.Message{Choice: entry.Message.Choice}
	}
	w := e.w
	w.Losses, w.target, w.spell = nil, target, printf.C.Write
	if toSource && e.Target != nil {
		w.target = e.Target
	}
	written := strings.TrimPrefix(string(w.entry(nil, source, 0, e.keyed)), e.Newline)
	e.w.Losses = append(e.w.Losses, w.Losses...)
	after := e.At(c.After)
	if after < 0 && c.After == "" {
		after = e.header
	}
	gap, _ := e.Gap(c, after, len(e.blocks), func(i int) doc.Span { return doc.Span{From: e.blocks[i].from, To: e.blocks[i].to} }, len(e.Src), "")
	switch {
	case !gap.Before:
		written = e.Newline + written
	case len(e.blocks) > 0:
		e.Replace(gap.At, gap.At, written+e.Newline)
		return nil
	}
	e.Put(gap, written)
	return nil
}

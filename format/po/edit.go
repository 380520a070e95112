package po

import (
	"fmt"
	"slices"
	"strings"

	"zelvik/catalog"
	"zelvik/format"
	"zelvik/message"
	"zelvik/message/printf"
)

// Edit makes changes; see format.Document. Changes go to the translation
// unless they name the source's culture.
func (d *document) Edit(changes []format.Change) ([]byte, []catalog.Loss, error) {
	e := &editor{document: d, Editor: format.NewEditor(d.Text())}
	e.w = writer{newline: e.Newline, forms: d.forms, target: d.target, spell: printf.C.Write}
	if d.wrapped() {
		e.w.width = 79
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
}

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

func (e *editor) change(c format.Change) error {
	i, ok := e.find(c.Key)
	switch {
	case !ok && c.Op == format.Set:
		return e.insert(c)
	case !ok:
		return format.ErrNoEntry
	}
	b := &e.blocks[i]
	e.w.Entry = &catalog.Entry{Key: c.Key, Offset: b.id.from}
	switch c.Op {
	case format.Remove:
		start, end, whole := e.Lines(b.from, b.to)
		if whole { // with one of the blank lines around it
			if rest := e.Src[end:]; strings.HasPrefix(rest, e.Newline) {
				end += len(e.Newline)
			} else if before := e.Src[:start]; strings.HasSuffix(before, e.Newline+e.Newline) && rest == "" {
				start -= len(e.Newline)
			}
		}
		e.Replace(start, end, "")
		return nil
	case format.Rename:
		e.rename(b, c.NewKey)
		return nil
	}
	toSource := e.target == nil || c.Culture != "" && c.Culture == e.source.Culture && c.Culture != e.target.Culture
	if c.Message != nil && toSource {
		if !e.keyed {
			if m := e.source.Find(c.Key).Message; m.String() != c.Message.String() {
				return format.ErrKeyIsText
			}
		} else {
			e.setSource(b, *c.Message)
		}
	} else if c.Message != nil {
		if _, ok := b.texts.at(0); !ok {
			return format.ErrDamaged
		}
		e.set(b, *c.Message)
	}
	if c.Note != nil {
		if toSource {
			e.note(b, &b.note, "#. ", *c.Note)
		} else {
			e.note(b, &b.translatorsNote, "# ", *c.Note)
		}
	}
	if c.State != nil && !toSource {
		e.state(b, *c.State)
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

func (e *editor) rename(b *block, key string) {
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
}

// note changes, adds or removes the comment lines of a kind.
func (e *editor) note(b *block, c *comment, mark, note string) {
	if note == c.text {
		return
	}
	text := string(e.w.comment(nil, mark, note))
	switch {
	case c.from >= 0 && note == "":
		e.Remove(c.from, c.to)
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
		e.Remove(b.flagsFrom, b.flagsTo)
	} else {
		e.Replace(b.flagsFrom, b.flagsTo, "#, "+strings.Join(rest, ", "))
	}
	if b.previousFrom >= 0 {
		e.Remove(b.previousFrom, b.previousTo)
	}
}

// insert adds an entry. In a translation it needs the source's text; without
// it the key stands for that.
func (e *editor) insert(c format.Change) error {
	if c.Message == nil {
		return format.ErrNoEntry
	}
	keyed := e.keyed
	source := catalog.Entry{Key: c.Key, Message: message.Plain(c.Key)}
	if c.Source != nil {
		source.Message = *c.Source
	} else if _, id, ok := strings.Cut(c.Key, "|"); ok && !keyed {
		source.Message = message.Plain(id)
	}
	w := e.w
	if e.target == nil || c.Culture != "" && c.Culture == e.source.Culture && c.Culture != e.target.Culture {
		if source.Message = *c.Message; !keyed && source.Message.String() != c.Key {
			return format.ErrKeyIsText
		}
		if c.Note != nil {
			source.Note = *c.Note
		}
	} else {
		target := catalog.Entry{Key: c.Key, Message: *c.Message}
		if c.Note != nil {
			target.Note = *c.Note
		}
		if c.State != nil {
			target.State = *c.State
		}
		w.target = &catalog.Catalog{Culture: e.target.Culture}
		w.target.Add(target)
		if source.Message.Choice == nil && target.Message.Choice != nil && c.Source == nil {
			source.Message = message.Message{Choice: target.Message.Choice}
		}
	}
	if e.target == nil {
		w.target = nil
	}
	own := &catalog.Catalog{Culture: e.source.Culture}
	own.Add(source)
	if !printf.C.Formatted(c.Key) && w.target != nil {
		w.spell = e.w.spell
	}
	text := strings.TrimPrefix(string(w.entry(nil, own, 0, keyed)), e.Newline)
	e.w.Losses = append(e.w.Losses, w.Losses...)
	after := -1
	if i, ok := e.find(c.After); ok {
		after = i
	} else if c.After != "" && len(e.blocks) > 0 {
		after = len(e.blocks) - 1
	} else if e.header >= 0 {
		after = e.header
	}
	if after < 0 {
		if len(e.blocks) > 0 {
			e.Replace(e.blocks[0].from, e.blocks[0].from, text+e.Newline)
		} else {
			e.Replace(len(e.Src), len(e.Src), text)
		}
		return nil
	}
	at := e.blocks[after].to
	e.Replace(at, at, e.Newline+e.Newline+strings.TrimSuffix(text, e.Newline))
	return nil
}

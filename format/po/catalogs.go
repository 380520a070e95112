package po

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/finding"
	"zelvik/format"
	"zelvik/format/numbered"
	"zelvik/message"
)

// head reads the header, the entry with the empty text.
func (p *parser) head() {
	for i := range p.blocks {
		if b := &p.blocks[i]; b.id.text == "" && b.context.from < 0 {
			p.header = i
			break
		}
	}
	if p.header < 0 {
		return
	}
	text := p.blocks[p.header].first().text
	expression, offset := "", p.blocks[p.header].first().from
	for line := range strings.SplitSeq(text, "\n") {
		name, value, _ := strings.Cut(line, ":")
		value = strings.TrimSpace(value)
		switch strings.ToLower(strings.TrimSpace(name)) {
		case "language":
			if tag, err := culture.ParsePOSIX(value); err == nil {
				p.Target.Culture = tag
			} else if value != "" {
				p.Warn("culture-unknown", offset, "", err.Error(), "write the file's culture in the header Language")
			}
		case "plural-forms":
			expression = value
		case "pot-creation-date":
			p.Source.Extracted = value
		case strings.ToLower(keysHeader):
			p.keyed = value == "msgctxt"
		}
	}
	if p.forms = numbered.Own(p.Target.Culture); p.Target.Culture == "" {
		p.forms = numbered.Match("", 2, nil)
	}
	if expression == "" || strings.Contains(expression, "EXPRESSION") {
		return
	}
	count, e, err := pluralForms(expression)
	if err != nil {
		p.Damaged(offset, "", err.Error(), "write Plural-Forms: nplurals=2; plural=(n != 1);")
		return
	}
	p.forms = numbered.Match(p.Target.Culture, count, e.eval)
}

// pluralForms reads "nplurals=2; plural=(n != 1);".
func pluralForms(text string) (count int, e *expression, err error) {
	for part := range strings.SplitSeq(text, ";") {
		name, value, _ := strings.Cut(part, "=")
		switch strings.TrimSpace(name) {
		case "nplurals":
			count, err = strconv.Atoi(strings.TrimSpace(value))
		case "plural":
			e, err = parseExpression(strings.TrimSpace(value))
		}
		if err != nil {
			return 0, nil, err
		}
	}
	if count < 1 || count > 99 || e == nil {
		return 0, nil, fmt.Errorf("the header Plural-Forms %q cannot be read", text)
	}
	return count, e, nil
}

// catalogs makes the entries of both sides.
func (p *parser) catalogs() {
	if p.header < 0 {
		p.forms = numbered.Match("", 2, nil)
	}
	p.Source.Grow(len(p.blocks))
	type texts struct{ block, target int } // of a source entry; -1 for no target
	list := make([]texts, 0, len(p.blocks))
	for i := range p.blocks {
		if i == p.header {
			continue
		}
		b := &p.blocks[i]
		b.key = p.keyOf(b)
		if !p.Add(p.Source, catalog.Entry{Key: b.key, Note: b.note.text, Offset: b.id.from}) {
			continue
		}
		if !b.translated() {
			list = append(list, texts{i, -1})
			continue
		}
		t := catalog.Entry{Key: b.key, Note: b.translatorsNote.text, Offset: b.first().from, State: catalog.Done}
		if slices.Contains(b.flags, "fuzzy") {
			t.State = catalog.Draft
			if b.previousFrom >= 0 {
				t.State = catalog.Moved
			}
		}
		p.Target.Add(t)
		list = append(list, texts{i, len(p.Target.Entries) - 1})
	}
	p.Parallel(len(list), func(r *format.Reader, from, to int) {
		for n := from; n < to; n++ {
			var target *catalog.Entry
			if at := list[n].target; at >= 0 {
				target = &p.Target.Entries[at]
			}
			p.messages(r, &p.blocks[list[n].block], &p.Source.Entries[n], target)
		}
	})
	if p.Target.Culture == "" && len(p.Target.Entries) == 0 {
		p.Target = nil
	}
}

// byDefault returns the source's text of an entry whose msgid is its name: extractors
// write it into a comment, Default: "...".
func (b *block) byDefault() (string, bool) {
	text, ok := strings.CutPrefix(strings.TrimSpace(b.note.text), `Default: "`)
	if !ok || strings.ContainsAny(b.id.text, " \n") {
		return "", false
	}
	end := strings.LastIndexByte(text, '"')
	if end < 0 {
		return "", false
	}
	return strings.ReplaceAll(text[:end], `\"`, `"`), true
}

// messages reads the texts of an entry; target is nil where it is not
// translated.
func (p *parser) messages(r *format.Reader, b *block, source, target *catalog.Entry) {
	parse := b.syntax().read
	if b.plural.from >= 0 {
		source.Message = sourceForms.Choice(func(form int) message.Pattern {
			m, _ := parse([]string{b.id.text, b.plural.text}[form])
			return m.Main()
		})
		source.Message.CountFirst()
	} else {
		if source.Message, _ = parse(b.id.text); slices.ContainsFunc(b.flags, func(flag string) bool { return syntaxes[flag] != nil }) {
			source.Message = told(r, b, b.id, parse) // of others it is not sure what they are
		}
		if text, ok := b.byDefault(); ok {
			source.Message, _ = parse(text)
		}
	}
	switch {
	case target == nil:
	case b.plural.from >= 0:
		for _, f := range b.texts {
			if f.number >= p.forms.Count {
				r.Warn("plural-idle", f.from, b.key, fmt.Sprintf("msgstr[%d] is more than the header's nplurals=%d has; nothing shows it", f.number, p.forms.Count), "correct Plural-Forms, or remove the form")
			}
		}
		target.Message = p.forms.Choice(func(form int) message.Pattern {
			f, _ := b.texts.at(form)
			m, _ := parse(f.text)
			return m.Main()
		})
		target.Message.CountFirst()
	default:
		f, _ := b.texts.at(0)
		if _, faults := parse(b.id.text); len(faults) > 0 { // which the source has: it is reported there
			target.Message, _ = parse(f.text)
			break
		}
		target.Message = told(r, b, f, parse)
	}
}

// first returns the first text.
func (b *block) first() field {
	best := -1
	for i := range b.texts {
		if best < 0 || b.texts[i].number < b.texts[best].number {
			best = i
		}
	}
	if best < 0 {
		return field{}
	}
	return b.texts[best].field
}

func (b *block) translated() bool {
	return slices.ContainsFunc(b.texts, func(f numberedField) bool { return f.text != "" })
}

// keyOf returns the key: the context where it is one, else the text with its
// context before it.
func (p *parser) keyOf(b *block) string {
	switch {
	case b.context.from < 0:
		return b.id.text
	case p.keyed:
		return b.context.text
	}
	return b.context.text + "|" + b.id.text
}

// told reads a text and tells its faults.
func told(r *format.Reader, b *block, f field, parse reading) message.Message {
	m, faults := parse(f.text)
	before := len(r.Findings)
	r.InText(faults, true, f.from, b.key)
	if slices.Contains(b.flags, "fuzzy") { // programs do not show it
		for i := range r.Findings[before:] {
			r.Findings[before+i].Severity = finding.Advice
		}
	}
	return m
}

// sourceForms are those of msgid and msgid_plural.
var sourceForms = numbered.Forms{Count: 2, Index: map[string]int{culture.One: 0, culture.Other: 1}}

package icu

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"zelvik/message"
)

// Writer says how messages are written.
type Writer struct {
	// Numbered refers to arguments by position from 0 instead of by name.
	Numbered bool
	// Bare leaves types and styles out of placeholders, for a format that
	// states them elsewhere.
	Bare bool
	// Java writes what java.text.MessageFormat reads, too: every apostrophe
	// doubled, patterns instead of skeletons, and a choice format where a
	// plural has exact cases alone.
	Java bool
	// Carry writes what ICU has no words for as the platform spells it, in quotes,
	// for exchange files.
	Carry bool
	// Own returns the spelling in which a placeholder's platform is to print it, which
	// is written in quotes as Carry does; "" where there is none.
	Own func(p *message.Placeholder) string
}

// Write writes a message, and tells what it could not say.
func (w Writer) Write(m message.Message) (string, []message.Loss) {
	if m.Choice == nil && len(m.Pattern) == 1 {
		if text, ok := m.Pattern[0].(message.Text); ok && Simple(string(text)) {
			return string(text), nil
		}
	}
	out, losses := w.Append(nil, m)
	return string(out), losses
}

// Argument writes a placeholder that stands outside of choices.
func (w Writer) Argument(p *message.Placeholder) (string, []message.Loss) {
	if id := (&output{Writer: w}).id(p); w.Carry {
		return carry(p, id, false)
	} else if !w.Java && !w.Bare {
		return spell(p, id, false)
	}
	return w.Write(message.Message{Pattern: message.Pattern{p}})
}

// Append is Write for a writer that fills a buffer.
func (w Writer) Append(out []byte, m message.Message) ([]byte, []message.Loss) {
	o := output{Writer: w, out: out}
	if m.Choice == nil {
		o.pattern(m.Pattern)
	} else {
		o.choice(m.Choice.Selectors, m.Choice.Variants)
	}
	return o.out, o.losses
}

type output struct {
	Writer
	out    []byte
	losses []message.Loss
	// counted are the plural arguments around the current place.
	counted []message.Selector
	// selected counts the selects inside the innermost of them, where ICU shows # as it
	// stands.
	selected int
	depth    int
}

func (o *output) id(p *message.Placeholder) string {
	if o.Numbered && p.Position > 0 {
		return strconv.Itoa(p.Position - 1)
	}
	return name(p)
}

// choice writes variants over the first selector, and inside each the rest.
func (o *output) choice(selectors []message.Selector, variants []message.Variant) {
	if len(selectors) == 0 {
		o.pattern(variants[0].Pattern)
		return
	}
	// Inside another choice, a selector that nothing depends on is left out.
	if o.depth > 0 && !slices.ContainsFunc(variants, func(v message.Variant) bool { return v.Keys[0] != message.Default }) {
		o.choice(selectors[1:], shifted(variants))
		return
	}
	o.depth++
	defer func() { o.depth-- }()
	s := selectors[0]
	if len(selectors) == 1 && (o.Java && o.limits(s, variants) || o.native(s, variants)) {
		return
	}
	o.out = append(o.out, "{"+o.id(&s.Argument)+", "+s.Kind.String()+","...)
	if s.Offset != 0 {
		o.out = fmt.Appendf(o.out, " offset:%d", s.Offset)
	}
	selected := o.selected
	defer func() { o.selected = selected }()
	if o.selected++; s.Kind != message.Select {
		o.counted, o.selected = append(o.counted, s), 0
		defer func() { o.counted = o.counted[:len(o.counted)-1] }()
	}
	if len(selectors) == 1 {
		for _, v := range variants {
			o.out = append(o.out, " "...)
			o.out = append(o.out, v.Keys[0]...)
			o.out = append(o.out, " {"...)
			o.pattern(v.Pattern)
			o.out = append(o.out, '}')
		}
		o.out = append(o.out, '}')
		return
	}
	var keys []string
	groups := map[string][]message.Variant{}
	for _, v := range variants {
		if groups[v.Keys[0]] == nil {
			keys = append(keys, v.Keys[0])
		}
		groups[v.Keys[0]] = append(groups[v.Keys[0]], v)
	}
	for _, key := range keys {
		o.out = append(o.out, " "+key+" {"...)
		o.choice(selectors[1:], shifted(groups[key]))
		o.out = append(o.out, "}"...)
	}
	o.out = append(o.out, "}"...)
}

// shifted returns the variants without their first key.
func shifted(variants []message.Variant) []message.Variant {
	out := make([]message.Variant, len(variants))
	for i, v := range variants {
		out[i] = message.Variant{Keys: v.Keys[1:], Pattern: v.Pattern}
	}
	return out
}

func (o *output) pattern(p message.Pattern) {
	for i, part := range p {
		switch part := part.(type) {
		case message.Text:
			next := i+1 < len(p)
			o.text(string(part), next)
		case *message.Markup:
			o.text(part.String(), true)
		case *message.Placeholder:
			o.placeholder(part)
		}
	}
}

func (o *output) placeholder(p *message.Placeholder) {
	innermost, counted := false, false
	for i, s := range o.counted {
		if s.Argument.Ident() == p.Ident() || s.Argument.Name != "" && s.Argument.Name == p.Name {
			counted = true
			innermost = i == len(o.counted)-1
		}
	}
	if p.Spelling == "#" && p.Syntax == message.ICU && innermost && o.selected == 0 {
		o.out = append(o.out, "#"...)
		return
	}
	if o.Bare {
		o.out = append(o.out, '{')
		o.out = append(o.out, o.id(p)...)
		o.out = append(o.out, '}')
		return
	}
	if o.Own != nil {
		if spelling := o.Own(p); spelling != "" {
			o.out = append(o.out, quoted(p, o.id(p), spelling)...)
			return
		}
	}
	write := spell
	switch {
	case o.Java:
		write = spellJava
	case o.Carry:
		write = carry
	}
	text, losses := write(p, o.id(p), counted)
	o.out = append(o.out, text...)
	o.losses = append(o.losses, losses...)
}

// text writes literal text with quotes where a character has a meaning. An
// apostrophe is doubled where it would begin a quotation; before further
// parts it stands before a brace, too.
func (o *output) text(text string, more bool) {
	special := "{}"
	if len(o.counted) > 0 {
		special = "{}#"
	}
	if plain(text) {
		o.out = append(o.out, text...)
		return
	}
	for i := 0; i < len(text); i++ {
		c := text[i]
		switch {
		case c == '\'':
			o.out = append(o.out, '\'')
			if o.Java || i+1 == len(text) && (more || o.depth > 0) || i+1 < len(text) && strings.IndexByte(special+"'", text[i+1]) >= 0 {
				o.out = append(o.out, '\'')
			}
		case strings.IndexByte(special, c) >= 0:
			end := i
			for end < len(text) && strings.IndexByte(special+"'", text[end]) >= 0 {
				end++
			}
			o.out = append(o.out, "'"+strings.ReplaceAll(text[i:end], "'", "''")+"'"...)
			i = end - 1
		default:
			o.out = append(o.out, c)
		}
	}
}

// plain reports whether no character of the text can have a meaning.
func plain(text string) bool {
	for i := 0; i < len(text); i++ {
		if c := text[i]; c == '{' || c == '}' || c == '#' || c == '\'' {
			return false
		}
	}
	return true
}

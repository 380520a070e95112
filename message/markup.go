package message

import (
	"iter"
	"slices"
	"strings"
)

// elements are the names that make an angle bracket in a text a tag: HTML's
// elements for phrases and blocks, and <annotation>, as platforms' text
// renderers know them.
var elements = map[string]bool{}

func init() {
	for name := range strings.FieldsSeq(`a abbr annotation b bdi bdo big blockquote br cite code dd del dfn div dl dt em
		font h1 h2 h3 h4 h5 h6 hr i img ins kbd li mark ol p pre q s samp small span strike strong sub sup table tbody
		td th thead tr tt u ul var wbr`) {
		elements[name] = true
	}
}

// Marked returns the message with the tags in its texts as markup, where the texts
// of a family are said to hold some: most formats hold text alone, in which a tag
// is characters. A message without tags is given as it is.
func (m Message) Marked() Message {
	if m.Choice == nil {
		m.Pattern = m.Pattern.marked()
		return m
	}
	choice := *m.Choice
	choice.Variants = slices.Clone(choice.Variants)
	for i := range choice.Variants {
		choice.Variants[i].Pattern = choice.Variants[i].Pattern.marked()
	}
	return Message{Choice: &choice}
}

// MarkedAs is Marked for a text that came back from where markup is characters,
// of a source that has markup.
func (m Message) MarkedAs(source Message) Message {
	if source.HasMarkup() && !m.HasMarkup() {
		return m.Marked()
	}
	return m
}

// HasMarkup reports whether any pattern has markup.
func (m Message) HasMarkup() bool {
	for _, p := range m.Patterns() {
		if p.Markup() != nil {
			return true
		}
	}
	return false
}

func (p Pattern) marked() Pattern {
	if !slices.ContainsFunc(p, func(part Part) bool { text, ok := part.(Text); return ok && strings.IndexByte(string(text), '<') >= 0 }) {
		return p
	}
	var out Pattern
	for _, part := range p {
		if text, ok := part.(Text); ok {
			out = SplitMarkup(out, string(text))
		} else {
			out = append(out, part)
		}
	}
	return out
}

// Tags yields the tags of the pattern: its markup, and what looks like it.
func (p Pattern) Tags() iter.Seq[*Markup] {
	return func(yield func(*Markup) bool) {
		for _, part := range p.marked() {
			if m, ok := part.(*Markup); ok && !yield(m) {
				return
			}
		}
	}
}

// SplitMarkup parts text into literal text and tags. Angle brackets that make no
// tag of a known element stay text.
func SplitMarkup(p Pattern, text string) Pattern {
	for from := 0; ; {
		at := strings.IndexByte(text[from:], '<')
		if at < 0 {
			return p.Add(Text(text))
		}
		at += from
		tag := ScanTag(text[at:])
		if tag == nil || !elements[strings.ToLower(tag.Tag)] {
			from = at + 1
			continue
		}
		p = p.Add(Text(text[:at])).Add(tag)
		text, from = text[at+len(tag.Spelling):], 0
	}
}

// longestTag is how far a tag may go, in bytes.
const longestTag = 1 << 14

// ScanTag reads the tag that text begins with; nil when it begins with none.
func ScanTag(text string) *Markup {
	rest, closing := strings.CutPrefix(text[1:], "/")
	end := 0
	for end < len(rest) && nameByte(rest[end], end == 0) {
		end++
	}
	if end == 0 {
		return nil
	}
	tag := &Markup{Tag: rest[:end], Role: Open}
	quote := byte(0)
	for i := end; i < min(len(rest), longestTag); i++ {
		switch c := rest[i]; {
		case quote != 0:
			if c == quote {
				quote = 0
			}
		case c == '"' || c == '\'':
			quote = c
		case c == '<':
			return nil
		case c == '>':
			tag.Attributes = rest[end:i]
			if closing {
				tag.Role = Close
				if strings.TrimSpace(tag.Attributes) != "" {
					return nil
				}
			} else if attributes, lone := strings.CutSuffix(tag.Attributes, "/"); lone {
				tag.Role, tag.Attributes = Lone, attributes
			}
			if tag.Attributes != "" && !strings.ContainsRune(" \t\r\n", rune(tag.Attributes[0])) {
				return nil
			}
			tag.Spelling = text[:len(text)-len(rest)+i+1]
			return tag
		}
	}
	return nil
}

func nameByte(c byte, first bool) bool {
	return c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c == '_' ||
		!first && (c >= '0' && c <= '9' || c == '-' || c == ':' || c == '.')
}

// Markup returns the pattern's first piece of markup, nil for none.
func (p Pattern) Markup() *Markup {
	for _, part := range p {
		if m, ok := part.(*Markup); ok {
			return m
		}
	}
	return nil
}

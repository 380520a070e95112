// Package inline turns the inline codes of exchange formats into placeholders
// and markup, and back: in XLIFF and TMX a text has elements in it that stand
// for what the program's own format writes there.
package inline

import (
	"cmp"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"zelvik/message"
	"zelvik/message/icu"
	"zelvik/message/loose"
)

// Code is an inline element.
type Code struct {
	// Name is the element's, ID the attribute by which codes are told apart.
	Name, ID string
	// Kind is what the element says of itself: bold, lb ...
	Kind string
	// Equiv is the native code, or what stands for it; Sample what is shown.
	Equiv, Sample string
	Role          message.Role
	// Raw is the element as it stands in the file.
	Raw string
}

// Part makes a part of a message of a code: a placeholder or markup.
func (c *Code) Part() message.Part {
	if c.Name == "g" || c.Name == "pc" {
		if strings.HasPrefix(c.Equiv, "<") {
			if tag := message.ScanTag(c.Equiv); tag != nil && tag.Spelling == c.Equiv && tag.Role == c.Role {
				return tag
			}
		}
		kind := strings.TrimPrefix(strings.TrimPrefix(c.Kind, "xlf:"), "x-")
		tag := map[string]string{"bold": "b", "italic": "i", "underlined": "u", "link": "a", "b": "b", "i": "i", "u": "u", "a": "a"}[kind]
		return &message.Markup{Role: c.Role, Tag: cmp.Or(tag, c.Name)}
	}
	if strings.HasPrefix(c.Equiv, "<") {
		if tag := message.ScanTag(c.Equiv); tag != nil && tag.Spelling == c.Equiv {
			return tag
		}
	}
	if c.Role == message.Lone {
		if p := native(c.Equiv); p != nil {
			if digits, _, _ := strings.Cut(c.ID, "_"); p.Name != "" && p.Position == 0 && p.Syntax == message.ICU {
				p.Position = number(digits)
			}
			p.Sample = c.Sample
			return p
		}
		if p := native(c.Sample); p != nil && c.Sample != "" { // what is shown instead is the native code
			return p
		}
		if c.Kind == "lb" || c.Kind == "xlf:lb" {
			return &message.Markup{Role: message.Lone, Tag: "br", Spelling: "<br/>"}
		}
		name := identifier(c.Equiv)
		if name != c.Equiv || name == "" {
			name = identifier(c.ID)
		}
		if name == "" || name[0] <= '9' {
			name = "code" + name
		}
		return &message.Placeholder{Name: name, Spelling: cmp.Or(c.Equiv, "{"+name+"}"), Syntax: message.Nowhere}
	}
	return &message.Markup{Role: c.Role, Tag: cmp.Or(strings.Trim(c.Equiv, "</> "), c.Name), Spelling: c.equivalent()}
}

// native reads a text that is one placeholder, nil where it is none.
func native(text string) *message.Placeholder {
	m, faults := loose.Of(text).Parse(text)
	if len(faults) > 0 || m.Choice != nil || len(m.Pattern) != 1 {
		return nil
	}
	p, _ := m.Pattern[0].(*message.Placeholder)
	return p
}

// identifier makes a name of a text.
func identifier(text string) string {
	return strings.Map(func(r rune) rune {
		if r == '_' || r >= '0' && r <= '9' || r|0x20 >= 'a' && r|0x20 <= 'z' {
			return r
		}
		return '_'
	}, text)
}

// Named takes from the source's code with the same ID what a translation's code
// leaves out.
func (c *Code) Named(source *Code) {
	if c.Equiv == "" && c.Kind == "" && c.Sample == "" && c.ID != "" && c.ID == source.ID && c.Name == source.Name && c.Role == source.Role {
		c.Equiv, c.Kind, c.Sample = source.Equiv, source.Kind, source.Sample
	}
}

// equivalent gives what stands for a code in other formats.
func (c *Code) equivalent() string {
	if strings.HasPrefix(c.Equiv, "<") {
		return c.Equiv
	}
	return ""
}

func number(digits string) int {
	n, err := strconv.Atoi(digits)
	if err != nil || n < 0 || n > 99 {
		return 0
	}
	return n
}

// Writer writes patterns with codes; its functions spell one piece each.
type Writer struct {
	Text func(text string) string
	// Placeholder spells a code that stands alone.
	Placeholder func(id, native, sample string) string
	// Tag spells a tag that opens or closes; id is that of the opening one, ""
	// where none was open; closed says that an opening one is closed later.
	Tag func(role message.Role, id, native string, closed bool) string
	// Codes are those of the source, which a translation repeats.
	Codes []Code
}

// Write writes a pattern, and tells what it could not say.
func (w *Writer) Write(p message.Pattern) (string, []message.Loss) {
	m := message.Message{Pattern: p}
	if text, plain := m.Plain(""); plain {
		return w.Text(text), nil
	}
	made := m.HasPlaceholders()
	for p := range m.Placeholders() {
		made = made && p.MadeName()
	}
	var few [8]string
	used := few[:0]
	unique := func(id string) string {
		used = append(used, id)
		if n := times(used, id); n > 1 {
			return fmt.Sprintf("%s_%d", id, n)
		}
		return id
	}
	var room [256]byte
	out := room[:0]
	var losses []message.Loss
	var open []string
	order, tags := 0, 0
	for _, part := range p {
		switch part := part.(type) {
		case message.Text:
			out = append(out, w.Text(string(part))...)
		case *message.Placeholder:
			order++
			if c := w.repeat(part, used); c != nil {
				used = append(used, c.ID)
				if c.Raw != "" {
					out = append(out, c.Raw...)
					continue
				}
			}
			native, more := icu.Writer{Numbered: made}.Argument(part)
			losses = append(losses, more...)
			id := unique(strconv.Itoa(cmp.Or(part.Position, order)))
			out = append(out, w.Placeholder(id, native, part.Sample)...)
		case *message.Markup:
			switch part.Role {
			case message.Lone:
				tags++
				out = append(out, w.Placeholder(unique(fmt.Sprintf("m%d", tags)), part.String(), "")...)
			case message.Open:
				tags++
				id := unique(fmt.Sprintf("m%d", tags))
				open = append(open, id)
				out = append(out, w.Tag(part.Role, id, part.String(), closes(p, part))...)
			default:
				id := ""
				if n := len(open); n > 0 {
					id, open = open[n-1], open[:n-1]
				}
				out = append(out, w.Tag(part.Role, id, part.String(), id != "")...)
			}
		}
	}
	return string(out), losses
}

// repeat gives the source's code for a placeholder that a translation repeats.
func (w *Writer) repeat(p *message.Placeholder, used []string) *Code {
	for i := range w.Codes {
		c := &w.Codes[i]
		own, ok := c.Part().(*message.Placeholder)
		if !ok || slices.Contains(used, c.ID) {
			continue
		}
		if own.Name != "" && own.Name == p.Name || own.Position > 0 && own.Position == p.Position || own.Spelling == p.Spelling {
			return c
		}
	}
	return nil
}

// times counts an ID.
func times(used []string, id string) (n int) {
	for _, other := range used {
		if other == id {
			n++
		}
	}
	return n
}

// closes reports whether a tag that opens is closed in the pattern.
func closes(p message.Pattern, tag *message.Markup) bool {
	depth, behind := 0, false
	for _, part := range p {
		m, ok := part.(*message.Markup)
		if !ok || m.Role == message.Lone {
			continue
		}
		behind = behind || m == tag
		if !behind {
			continue
		}
		if m.Role == message.Open {
			depth++
		} else if depth--; depth == 0 {
			return true
		}
	}
	return false
}

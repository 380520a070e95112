// Package inline turns the inline codes of exchange formats into placeholders
// and markup, and back: in XLIFF and TMX a text has elements in it that stand
// for what the program's own format writes there.
package inline

import (
	"cmp"
	"fmt"
	"strconv"
	"strings"

	"zelvik/message"
	"zelvik/message/icu"
	"zelvik/message/loose"
	"zelvik/message/native"
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
		if p := single(c.Equiv); p != nil {
			if digits, _, _ := strings.Cut(c.ID, "_"); p.Position == 0 && (p.Syntax == message.ICU || p.Name != "" && !p.Syntax.Named()) || p.Name == "" && p.Position == 1 && number(digits) > 0 && !strings.ContainsAny(p.Spelling, "$!{") {
				p.Position = number(digits)
			}
			p.Sample = c.Sample
			return p
		}
		if p := single(c.Sample); p != nil && c.Sample != "" { // what is shown instead is the native code
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

// single reads a text that is one placeholder, nil where it is none.
func single(text string) *message.Placeholder {
	spelling := loose.Of(text)
	if spelling != loose.Braces || strings.HasPrefix(text, "{\"") {
		if p := native.Read(text); p != nil {
			return p
		}
	}
	m, faults := spelling.Parse(text)
	if len(faults) == 0 && m.Choice == nil && len(m.Pattern) == 1 {
		if p, ok := m.Pattern[0].(*message.Placeholder); ok {
			return p
		}
	}
	return native.Read(text)
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

// equivalent returns what stands for a code in other formats.
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
	used := idents{list: few[:0]}
	unique := func(id string) string {
		if n := used.add(id); n > 1 {
			return fmt.Sprintf("%s_%d", id, n)
		}
		return id
	}
	closed := closing(p)
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
			if c := w.repeat(part, &used); c != nil {
				used.add(c.ID)
				if c.Raw != "" {
					out = append(out, c.Raw...)
					continue
				}
			}
			native, more := spell(part, made)
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
				out = append(out, w.Tag(part.Role, id, part.String(), closed[part])...)
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

// spell returns the native code of a placeholder: as its platform spells it where
// that says all, else as an ICU argument by its name.
func spell(p *message.Placeholder, made bool) (string, []message.Loss) {
	if spelling := native.Spelling(p); made && spelling != "" && !p.Wrapped {
		if q := single(spelling); q != nil && q.Type == p.Type && q.Style == p.Style && q.Name == "" {
			return spelling, nil
		}
	}
	if p.Syntax == message.Braces && p.Spelling != "" {
		if q := single(p.Spelling); q != nil && q.Syntax == message.Braces && q.Name == p.Name && q.Name != "" && p.Type == q.Type && p.Style == q.Style {
			return p.Spelling, nil
		}
	}
	return icu.Writer{Numbered: made, Carry: true}.Argument(p)
}

// repeat returns the source's code for a placeholder that a translation repeats.
func (w *Writer) repeat(p *message.Placeholder, used *idents) *Code {
	if len(w.Codes) > mostCodes {
		return nil
	}
	for i := range w.Codes {
		c := &w.Codes[i]
		own, ok := c.Part().(*message.Placeholder)
		if !ok || used.times(c.ID) > 0 {
			continue
		}
		if own.Type != p.Type || own.Style != p.Style {
			continue
		}
		if own.Name != "" && own.Name == p.Name || own.Position > 0 && own.Position == p.Position || own.Spelling == p.Spelling {
			return c
		}
	}
	return nil
}

// mostCodes is up to how many codes of a source are looked through for those
// that a translation repeats.
const mostCodes = 1000

// idents are the IDs of a text's codes that were given; few are found faster in
// a list.
type idents struct {
	list  []string
	count map[string]int
}

// add adds an ID, and gives how often it was given then.
func (u *idents) add(id string) int {
	if u.count == nil && len(u.list) < cap(u.list) {
		u.list = append(u.list, id)
		return u.times(id)
	}
	if u.count == nil {
		u.count = map[string]int{}
		for _, known := range u.list {
			u.count[known]++
		}
	}
	u.count[id]++
	return u.count[id]
}

// times counts an ID.
func (u *idents) times(id string) (n int) {
	if u.count != nil {
		return u.count[id]
	}
	for _, other := range u.list {
		if other == id {
			n++
		}
	}
	return n
}

// closing returns the tags that open in a pattern and are closed in it; nil for
// none.
func closing(p message.Pattern) map[*message.Markup]bool {
	var closed map[*message.Markup]bool
	var open []*message.Markup
	for _, part := range p {
		m, ok := part.(*message.Markup)
		if !ok || m.Role == message.Lone {
			continue
		}
		if m.Role == message.Open {
			open = append(open, m)
		} else if n := len(open); n > 0 {
			if closed == nil {
				closed = map[*message.Markup]bool{}
			}
			closed[open[n-1]], open = true, open[:n-1]
		}
	}
	return closed
}

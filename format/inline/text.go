package inline

import (
	"strings"

	"zelvik/format"
	"zelvik/message"
	"zelvik/message/loose"
)

// Part is a piece of a text: literal, or a code with the element that it is.
type Part struct {
	Text string
	Code *Code
}

// AddText appends literal text, joining it to what is literal before it.
func AddText(parts []Part, text string) []Part {
	if n := len(parts); n > 0 && parts[n-1].Code == nil {
		parts[n-1].Text += text
		return parts
	}
	if text == "" {
		return parts
	}
	return append(parts, Part{Text: text})
}

// Codes returns the codes of a text.
func Codes(parts []Part) (list []Code) {
	for _, part := range parts {
		if part.Code != nil {
			list = append(list, *part.Code)
		}
	}
	return list
}

// Form says how the texts of a file hold placeholders: as inline codes, or in the
// text, spelled in one way.
type Form struct {
	Coded    bool
	Spelling loose.Spelling
}

// room is the first of the private characters that stand for the codes of an ICU
// message while it is read or written; there are as many as places.
const room, places = '\uE000', 6400

// Read makes a message of a text. Faults are reported at its offset.
func (f Form) Read(r *format.Reader, key string, offset int, parts []Part) message.Message {
	if len(parts) == 1 && parts[0].Code == nil {
		text := parts[0].Text
		if f.Coded {
			m, ok := loose.Chosen(text)
			if !ok {
				m = message.Message{Pattern: message.Pattern{message.Text(text)}}
			}
			return m
		}
		m, faults := f.Spelling.Parse(text)
		r.InText(faults, true, offset, key)
		return m
	}
	if m, ok := chosen(parts); ok {
		return m
	}
	var out message.Pattern
	for _, part := range parts {
		if part.Code == nil {
			out = out.Add(message.Text(part.Text))
		} else {
			out = append(out, part.Code.Part())
		}
	}
	return message.Message{Pattern: out}
}

// chosen reads an ICU message with codes in it.
func chosen(parts []Part) (message.Message, bool) {
	var text strings.Builder
	for i, part := range parts {
		if part.Code != nil {
			text.WriteRune(room + rune(i%places))
		} else if strings.ContainsFunc(part.Text, private) {
			return message.Message{}, false
		}
		text.WriteString(part.Text)
	}
	m, ok := loose.Chosen(text.String())
	if !ok || len(parts) > places {
		return m, false
	}
	for i := range m.Choice.Variants {
		m.Choice.Variants[i].Pattern = split(m.Choice.Variants[i].Pattern, func(n int) message.Part { return parts[n].Code.Part() })
	}
	return m, true
}

func private(r rune) bool { return r >= room && r < room+places }

// split puts parts in the places of private characters.
func split(p message.Pattern, part func(n int) message.Part) message.Pattern {
	var out message.Pattern
	for _, piece := range p {
		text, ok := piece.(message.Text)
		if !ok {
			out = append(out, piece)
			continue
		}
		rest := string(text)
		for {
			at := strings.IndexFunc(rest, private)
			if at < 0 {
				break
			}
			r := []rune(rest[at : at+3])[0]
			out = append(out.Add(message.Text(rest[:at])), part(int(r-room)))
			rest = rest[at+3:]
		}
		out = out.Add(message.Text(rest))
	}
	return out
}

// Content writes a message: a choice as the text of an ICU message with codes for
// its markup, anything else with inline codes where the file has them.
func (w *Writer) Content(f Form, t *format.Teller, m message.Message) string {
	switch {
	case m.Choice != nil:
		return t.Told(w.choice(f, m))
	case !f.Coded:
		if !m.HasPlaceholders() && f.Spelling.Misread(m.String()) {
			t.Lose("escape", "that the signs in the text are no placeholder", "they read as one")
		}
		return w.Text(t.Told(f.Spelling.Carry(m, m)))
	}
	text, plain := m.Plain("{")
	if plain {
		return w.Text(text)
	}
	if !m.HasPlaceholders() {
		if _, chosen := loose.Chosen(m.Pattern.String()); chosen {
			t.Lose("escape", "that the signs in the text are no choice", "they read as one")
		}
	}
	return t.Told(w.Write(m.Pattern))
}

// choice writes an ICU message, whose markup goes into codes.
func (w *Writer) choice(f Form, m message.Message) (string, []message.Loss) {
	var tags []*message.Markup
	odd := false
	choice := *m.Choice
	choice.Variants = make([]message.Variant, len(m.Choice.Variants))
	for i, v := range m.Choice.Variants {
		var p message.Pattern
		for _, part := range v.Pattern {
			if tag, ok := part.(*message.Markup); ok {
				part = message.Text(room + rune(len(tags)%places))
				tags = append(tags, tag)
			} else if text, ok := part.(message.Text); ok {
				odd = odd || strings.ContainsFunc(string(text), private)
			}
			p = p.Add(part)
		}
		choice.Variants[i] = message.Variant{Keys: v.Keys, Pattern: p}
	}
	if len(tags) == 0 || odd || len(tags) > places || !f.Coded {
		text, losses := f.Spelling.Carry(m, m)
		if len(tags) > 0 {
			losses = append(losses, message.Loss{Kind: "markup", Lost: "that " + tags[0].String() + " is markup", Instead: "the characters of the tag"})
		}
		return w.Text(text), losses
	}
	text, losses := f.Spelling.Carry(message.Message{Choice: &choice}, m)
	out, more := w.Write(split(message.Pattern{message.Text(text)}, func(n int) message.Part { return tags[n] }))
	return out, append(losses, more...)
}

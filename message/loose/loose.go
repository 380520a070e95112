// Package loose reads and writes texts in files that do not say how their
// placeholders are spelled: {name} and {0}, {{name}}, %{name}, ${name}, :name,
// @name, or those of printf. One file, and one family, spells them in one way.
package loose

import (
	"fmt"
	"strconv"
	"strings"

	"zelvik/message"
	"zelvik/message/icu"
	"zelvik/message/printf"
)

// Spelling is one way to spell placeholders.
type Spelling uint8

// The spellings. Braces are {name} and {0} with ICU's types and choices, which
// carry all that a message holds.
const (
	Braces  Spelling = iota
	Double           // {{name}}
	Percent          // %{name}
	Dollar           // ${name}
	Colon            // :name
	At               // @name
	Printf           // %s and %1$s
	Apple            // %@ and %1$@, and those of printf beside them
	Single           // {name} and {0} alone: apostrophes around them are shown
	last
)

// braces reports whether all its placeholders have braces.
func (s Spelling) braces() bool { return s <= Dollar || s == Single }

// Words name the spellings in configurations.
var Words = [last]string{"braces", "double", "percent", "dollar", "colon", "at", "printf", "apple", "single"}

// Votes count the ways in which the texts of a file spell placeholders.
type Votes [chosen + 1]int

// chosen counts the texts with ICU's choices and types, after the spellings.
const chosen = last

// ends are what a named placeholder begins and ends with.
var ends = [...][2]string{Braces: {"{", "}"}, Double: {"{{", "}}"}, Percent: {"%{", "}"}, Dollar: {"${", "}"}, Colon: {":", ""}, At: {"@", ""}, Single: {"{", "}"}}

// String shows how the spelling writes a placeholder.
func (s Spelling) String() string {
	switch s {
	case Printf:
		return "%s"
	case Apple:
		return "%@"
	}
	return ends[s][0] + "name" + ends[s][1]
}

// Count adds the way in which the placeholders of a text are spelled. :name and
// @name are common in texts that have no placeholders, so they are not counted.
func (votes *Votes) Count(text string) {
	brace := strings.IndexByte(text, '{') >= 0
	if !brace && strings.IndexByte(text, '%') < 0 {
		return
	}
	for _, s := range []Spelling{Double, Percent, Dollar} {
		if !brace {
			break
		}
		if _, n, _ := s.next(text); n > 0 {
			votes[s]++
			return
		}
	}
	switch {
	case icu.LooksChosen(text):
		votes[Braces] += 2
		votes[chosen]++
	case braced(text) && quotedBraces(text):
		votes[Single]++
	case braced(text):
		votes[Braces]++
		if name, _, _ := Braces.next(text); strings.IndexByte(name, ',') > 0 { // {count, number}
			votes[chosen]++
		}
	case strings.Contains(text, "@") && printf.Foundation.Formatted(text):
		votes[Apple]++
	case printf.C.Formatted(text):
		votes[Printf]++
	}
}

// Add adds other votes.
func (votes *Votes) Add(others Votes) {
	for s, n := range others {
		votes[s] += n
	}
}

// Settled reports whether so many texts agree, and none does not, that the
// others need not be counted.
func (votes *Votes) Settled() bool {
	const enough = 1000
	sum, most := 0, 0
	for _, n := range votes[:chosen] {
		sum, most = sum+n, max(most, n)
	}
	return most == sum && sum >= enough
}

// Best returns the spelling with most votes, Braces where there are none.
func (votes Votes) Best() Spelling {
	if votes[Apple] > 0 {
		votes[Apple] += votes[Printf]
	}
	// A program with ICU would not show what stands in '{name}', and has choices.
	if single := votes[Single]; single*100 >= votes[Braces] && single > 0 && votes[chosen] == 0 {
		votes[Single] += votes[Braces]
	} else {
		votes[Braces] += single
	}
	best := Braces
	for s, n := range votes[:chosen] {
		if n > votes[best] {
			best = Spelling(s)
		}
	}
	return best
}

// Of guesses the spelling of a single text.
func Of(text string) Spelling {
	var votes Votes
	votes.Count(text)
	return votes.Best()
}

// quotedBraces reports whether a text has '{name}, an apostrophe before one that stands
// alone.
func quotedBraces(text string) bool {
	name, n, at := Braces.next(text)
	return n > 0 && name != "" && at > 0 && text[at-1] == '\'' && (at < 2 || text[at-2] != '\'')
}

// braced reports whether a text has {name} or {0}.
func braced(text string) bool {
	name, n, _ := Braces.next(text)
	return n > 0 && name != ""
}

// longest is how far a placeholder may go, in bytes.
const longest = 4096

// next finds the first placeholder: its name, its size and its place; size 0
// where there is none.
func (s Spelling) next(text string) (name string, size, at int) {
	open, end := ends[s][0], ends[s][1]
	for from := 0; ; {
		i := strings.Index(text[from:], open)
		if i < 0 {
			return "", 0, 0
		}
		i += from
		from = i + len(open)
		rest := text[from:]
		if end == "" { // a word that begins with a sign, and not in the middle of another
			if i > 0 && wordByte(text[i-1]) {
				continue
			}
			n := 0
			for n < len(rest) && wordByte(rest[n]) {
				n++
			}
			if n > 0 && (rest[0] > '9' || rest[0] == '_') {
				return rest[:n], len(open) + n, i
			}
			continue
		}
		stop := strings.Index(rest[:min(len(rest), longest)], end)
		if stop < 0 && len(rest) <= longest { // nor is there one after
			return "", 0, 0
		}
		if stop < 1 {
			continue
		}
		name := strings.TrimSpace(rest[:stop])
		if (s == Braces || s == Single) && i > 0 && strings.IndexByte("{%$#", text[i-1]) >= 0 && !(s == Single && text[i-1] == '#') {
			continue
		}
		plain, _, _ := strings.Cut(name, ",") // {{count, number}}
		plain = strings.TrimSpace(strings.TrimLeft(strings.TrimSpace(plain), "-"))
		if !argumentName(plain) {
			continue
		}
		return name, len(open) + stop + len(end), i
	}
}

// argumentName reports whether a text is like a name.
func argumentName(text string) bool {
	for i := range len(text) {
		if unnamed[text[i]] {
			return false
		}
	}
	return text != ""
}

// unnamed are the bytes that no name has.
var unnamed = func() (set [256]bool) {
	for c := range byte(' ' + 1) {
		set[c] = true
	}
	for _, c := range []byte("'\"<>|;:()[]{}!?*+=/\\&%$@^`~#") {
		set[c] = true
	}
	return set
}()

func wordByte(c byte) bool {
	return c == '_' || c >= '0' && c <= '9' || c|0x20 >= 'a' && c|0x20 <= 'z' || c >= 0x80
}

// Parse reads a text. Texts with a plural or select in them are ICU messages
// in every spelling.
func (s Spelling) Parse(text string) (message.Message, []message.Fault) {
	if s.braces() && strings.IndexByte(text, '{') < 0 {
		return message.Plain(text), nil
	}
	if s == Braces {
		if m, faults := icu.Parse(text); len(faults) == 0 && (m.Choice != nil || named(m)) {
			return m, nil
		}
	}
	if icu.LooksChosen(text) {
		return icu.Parse(text)
	}
	switch s {
	case Braces:
		if !braced(text) {
			return message.Plain(text), nil
		}
		m, faults := icu.Parse(text)
		if len(faults) > 0 { // braces that are no placeholders: the text as it stands
			return message.Message{Pattern: s.parts(text)}, nil
		}
		return m, faults
	case Printf:
		p, faults := printf.C.Parse(text)
		return message.Message{Pattern: p}, faults
	case Apple:
		p, faults := printf.Foundation.Parse(text)
		return message.Message{Pattern: p}, faults
	}
	return message.Message{Pattern: s.parts(text)}, nil
}

// named reports whether a message shows an argument by a name or number.
func named(m message.Message) bool {
	for p := range m.Placeholders() {
		return !strings.HasPrefix(p.Name, "-")
	}
	return false
}

// Chosen reads a text that is an ICU message with a choice in it, as formats
// hold choices which have no element for them; false where it is none.
func Chosen(text string) (message.Message, bool) {
	if !icu.LooksChosen(text) {
		return message.Message{}, false
	}
	m, faults := icu.Parse(text)
	return m, len(faults) == 0 && m.Choice != nil
}

// parts parts a text at its placeholders.
func (s Spelling) parts(text string) message.Pattern {
	var p message.Pattern
	for {
		name, size, at := s.next(text)
		if size == 0 {
			return p.Add(message.Text(text))
		}
		p = p.Add(message.Text(text[:at]))
		spelling := text[at : at+size]
		text = text[at+size:]
		if s == Braces {
			if inner, faults := icu.Parse(spelling); len(faults) == 0 && len(inner.Pattern) == 1 {
				p = p.Add(inner.Pattern[0])
			} else {
				p = p.Add(message.Text(spelling))
			}
			continue
		}
		plain, _, _ := strings.Cut(name, ",")
		made := &message.Placeholder{Name: strings.TrimSpace(plain), Spelling: spelling, Syntax: message.Braces}
		if raw, ok := strings.CutPrefix(made.Name, "-"); ok { // {{- name}} is {{-name}}
			made.Name = "-" + strings.TrimSpace(raw)
		}
		if n, err := strconv.Atoi(made.Name); err == nil && n >= 0 { // a number, which counts from 0
			made.Name, made.Position = "", min(n, 99)+1
		}
		p = p.Add(made)
	}
}

// Write writes a message and tells what it could not say.
func (s Spelling) Write(m message.Message) (string, []message.Loss) {
	return s.write(m, icu.Writer{Numbered: numbered(m)})
}

// Carry is Write for an exchange file, in which placeholders keep the spelling
// of their platform. Whole is the message of which m is a form: arguments are
// named alike in all forms.
func (s Spelling) Carry(m, whole message.Message) (string, []message.Loss) {
	return s.write(m, icu.Writer{Carry: true, Numbered: numbered(whole)})
}

func (s Spelling) write(m message.Message, w icu.Writer) (string, []message.Loss) {
	if text, ok := m.Plain("{%"); ok && s.braces() && !(w.Carry && strings.Contains(text, "'}")) {
		return text, nil
	}
	if m.Choice != nil {
		return w.Write(m)
	}
	switch s {
	case Braces:
		if !m.HasPlaceholders() {
			return s.literal(m, w)
		}
		return w.Write(m)
	case Printf:
		return printf.C.Write(m.Pattern, printf.Numbered(m), false)
	case Apple:
		return printf.Foundation.Write(m.Pattern, printf.Numbered(m), false)
	}
	if !m.HasPlaceholders() {
		return s.literal(m, w)
	}
	var out strings.Builder
	var losses []message.Loss
	for _, part := range m.Pattern {
		switch part := part.(type) {
		case message.Text:
			if _, n, _ := s.next(string(part)); n > 0 {
				losses = append(losses, message.Loss{Kind: "escape", Lost: "that the text has no placeholder of its own", Instead: "it reads as one"})
			}
			out.WriteString(string(part))
		case *message.Markup:
			out.WriteString(part.String())
		case *message.Placeholder:
			if part.Syntax == message.Braces && strings.HasPrefix(part.Spelling, ends[s][0]) {
				out.WriteString(part.Spelling)
				continue
			}
			if part.Type > message.String || part.Style != "" && part.Style != "group" {
				losses = append(losses, message.Loss{Kind: "type", Lost: fmt.Sprintf("the type %s of {%s}", strings.TrimSpace(part.Type.String()+" "+string(part.Style)), part.Name), Instead: "the value as the program writes it"})
			}
			name := part.Name
			if s == Single && part.MadeName() && part.Position > 0 {
				name = strconv.Itoa(part.Position - 1)
			}
			out.WriteString(ends[s][0] + name + ends[s][1])
		}
	}
	return out.String(), losses
}

// numbered reports whether the arguments of a message are known by their positions:
// names are written where they say something.
func numbered(m message.Message) bool {
	made := m.HasPlaceholders()
	for p := range m.Placeholders() {
		made = made && p.MadeName()
	}
	return made
}

// literal writes a text without placeholders as it stands, as programs show it;
// an exchange file quotes what would be read as one.
func (s Spelling) literal(m message.Message, w icu.Writer) (string, []message.Loss) {
	text := m.Pattern.String()
	if w.Carry && s == Braces {
		if read, _ := s.Carried(text); read.HasPlaceholders() || read.Choice != nil || read.String() != text {
			return w.Write(m)
		}
	}
	return text, nil
}

// Carried reads a text as Carry writes it, in which quoted braces are characters
// though nothing else in it is a placeholder.
func (s Spelling) Carried(text string) (message.Message, []message.Fault) {
	if s == Braces && (strings.Contains(text, "'{") || strings.Contains(text, "'}")) {
		if m, faults := icu.Parse(text); len(faults) == 0 {
			return m, nil
		}
	}
	return s.Parse(text)
}

// Misread reports whether a text without placeholders would be read as
// something else.
func (s Spelling) Misread(text string) bool {
	if s.braces() && strings.IndexByte(text, '{') < 0 {
		return false
	}
	m, _ := s.Parse(text)
	return m.HasPlaceholders() || m.Choice != nil || m.String() != text
}

package po

import (
	"regexp"
	"slices"
	"strings"
	"sync"

	"zelvik/message"
	"zelvik/message/composite"
	"zelvik/message/icu"
	"zelvik/message/loose"
	"zelvik/message/printf"
)

// syntax is how the texts of an entry spell placeholders.
type syntax struct {
	read reading
	// write spells a pattern; forced says that it is one of several forms of which
	// some have placeholders.
	write spelling
	// formatted tells format strings of printf: where one text of an entry is one,
	// all are. It is nil for other syntaxes.
	formatted func(text string) bool
	// forced is read for an entry of which one text is a format string.
	forced reading
}

type (
	reading  func(text string) (message.Message, []message.Fault)
	spelling func(p message.Pattern, numbered, forced bool) (string, []message.Loss)
)

func ofPrintf(d *printf.Dialect) *syntax {
	return &syntax{
		read: patterns(d.Parse), write: d.Write, formatted: d.Formatted,
		forced: patterns(func(text string) (message.Pattern, []message.Fault) {
			r := printf.Reader{Dialect: d, Formatted: true}
			return r.Read(nil, text), r.Faults
		}),
	}
}

func patterns(parse func(string) (message.Pattern, []message.Fault)) reading {
	return func(text string) (message.Message, []message.Fault) {
		p, faults := parse(text)
		return message.Message{Pattern: p}, faults
	}
}

func ofLoose(s loose.Spelling) *syntax {
	switch s {
	case loose.Printf:
		return printfC
	case loose.Apple:
		return foundation
	}
	read := reading(s.Parse)
	if s == loose.Braces {
		read = func(text string) (message.Message, []message.Fault) {
			m, faults := s.Parse(text)
			if m.Choice == nil {
				m.Pattern = tight(m.Pattern)
			}
			return m, faults
		}
	}
	return &syntax{read: read, write: func(p message.Pattern, _, _ bool) (string, []message.Loss) {
		if s == loose.Braces {
			return writeBraces(p)
		}
		return s.Write(message.Message{Pattern: p})
	}}
}

var (
	printfC, foundation = ofPrintf(printf.C), ofPrintf(printf.Foundation)
	// unquoted are braces among which an apostrophe is one.
	unquoted = &syntax{
		read: func(text string) (message.Message, []message.Fault) {
			m, faults := loose.Braces.Parse(strings.ReplaceAll(text, "'", apostrophe))
			return message.Message{Pattern: respelled(tight(m.Pattern), apostrophe, "'"), Choice: m.Choice}, faults
		},
		write: func(p message.Pattern, _, _ bool) (string, []message.Loss) {
			text, losses := writeBraces(respelled(p, "'", apostrophe))
			return strings.ReplaceAll(text, apostrophe, "'"), losses
		},
	}
	plain = &syntax{
		read:  func(text string) (message.Message, []message.Fault) { return message.Plain(text), nil },
		write: printf.C.Write,
	}
)

// tight makes text of the braces that have space in them: "a stray { or }" is none to
// a program that takes names as they stand.
func tight(p message.Pattern) message.Pattern {
	var out message.Pattern
	for _, part := range p {
		if p, ok := part.(*message.Placeholder); ok && strings.HasPrefix(p.Spelling, "{ ") {
			part = message.Text(p.Spelling)
		}
		out = out.Add(part)
	}
	return out
}

// writeBraces writes placeholders in braces, and such braces in texts as tight reads them.
func writeBraces(p message.Pattern) (string, []message.Loss) {
	const open, end = "\uE100", "\uE101" // stand for braces that are not to be quoted
	out := slices.Clone(p)
	for i, part := range out {
		if text, ok := part.(message.Text); ok && strings.Contains(string(text), "{ ") {
			out[i] = message.Text(spaced().ReplaceAllString(string(text), open+" $1"+end))
		}
	}
	text, losses := loose.Braces.Write(message.Message{Pattern: out})
	return strings.NewReplacer(open, "{", end, "}").Replace(text), losses
}

var spaced = sync.OnceValue(func() *regexp.Regexp { return regexp.MustCompile(`\{ ([^{}]*)\}`) })

// apostrophe stands for one while a text is read that has other quotes.
const apostrophe = "\uE0FF"

// respelled returns a pattern with another character in the place of one in its texts.
func respelled(p message.Pattern, old, fresh string) message.Pattern {
	out := slices.Clone(p)
	for i, part := range out {
		if text, ok := part.(message.Text); ok {
			out[i] = message.Text(strings.ReplaceAll(string(text), old, fresh))
		}
	}
	return out
}

// syntaxes are those of the flags (gettext manual, PO files).
var syntaxes = map[string]*syntax{
	"c-format": printfC, "python-format": printfC, "php-format": printfC, "javascript-format": printfC, "lua-format": printfC,
	"awk-format": printfC, "go-format": printfC, "ruby-format": printfC, "perl-format": printfC,
	"objc-format": foundation, "java-printf-format": ofPrintf(printf.Java),
	"csharp-format": {read: patterns(composite.Parse), write: func(p message.Pattern, _, forced bool) (string, []message.Loss) { return composite.Write(p, forced) }},
	"java-format": {read: icu.ParseJava, write: func(p message.Pattern, _, _ bool) (string, []message.Loss) {
		return icu.Writer{Numbered: true, Java: true}.Write(message.Message{Pattern: p})
	}},
	"python-brace-format": unquoted, "perl-brace-format": unquoted, "c++-format": unquoted,
}

// syntaxOf returns the syntax of an entry: by its flags, else as its source texts
// look; texts are all that it has.
func syntaxOf(flags []string, id, plural string, texts ...string) *syntax {
	s := (*syntax)(nil)
	for _, flag := range flags {
		if s = syntaxes[flag]; s != nil {
			break
		}
		if strings.HasPrefix(flag, "no-") && syntaxes[flag[3:]] != nil {
			return plain
		}
	}
	if dated(id) {
		return plain
	}
	if s == nil {
		spelling := loose.Of(id)
		if spelling == loose.Braces {
			spelling = loose.Of(plural)
		}
		s = ofLoose(spelling)
	}
	if s.formatted != nil && (unformatted(s, id) || plural != "" && unformatted(s, plural)) {
		return plain
	}
	if s.formatted != nil && (s.formatted(id) || s.formatted(plural) || slices.ContainsFunc(texts, s.formatted)) {
		forced := *s
		forced.read = s.forced
		return &forced
	}
	return s
}

// unformatted reports whether a source text is no format string, although it looks
// like one or is said to be one: it has a % that begins nothing. msgfmt compares no
// formats then, and no program can use it as one.
func unformatted(s *syntax, text string) bool {
	if !s.formatted(text) {
		return false
	}
	m, faults := s.forced(text)
	return len(faults) > 0 && !slices.ContainsFunc(slices.Collect(m.Placeholders()), func(p *message.Placeholder) bool { return p.Name != "" })
}

// dated reports whether a text is a pattern of a date, as strftime takes it:
// xgettext takes %d in it for a format.
func dated(text string) bool {
	date := false
	for {
		_, rest, ok := strings.Cut(text, "%")
		rest = strings.TrimPrefix(rest, "-")
		if !ok {
			return date
		}
		if rest == "" || strings.IndexByte("aAbBcdDeFgGhHIjklmMnpPrRStTuUVwWxXyYzZ%", rest[0]) < 0 {
			return false
		}
		date = date || strings.IndexByte("bBYHMIjyZ", rest[0]) >= 0
		text = rest[1:]
	}
}

// syntax returns the way to read an entry's texts.
func (b *block) syntax() *syntax {
	var few [6]string
	texts := few[:0]
	for i := range b.texts {
		texts = append(texts, b.texts[i].text)
	}
	return syntaxOf(b.flags, b.id.text, b.plural.text, texts...)
}

// misread reports whether a text without placeholders would be read as
// something else.
func misread(text string) bool {
	if strings.IndexByte(text, '{') < 0 && strings.IndexByte(text, '%') < 0 {
		return false
	}
	m, _ := loose.Of(text).Parse(text)
	return m.HasPlaceholders() || m.Choice != nil || m.String() != text
}

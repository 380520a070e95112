package qt

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
	"sync"

	"zelvik/culture"
	"zelvik/format/numbered"
	"zelvik/message"
)

// read parts a text at its place markers: %1 to %99 and %L1 for arguments
// (QString::arg), %n and %Ln for the number that is counted. There is no
// escape for them; any other percent sign is text.
func read(text string) message.Pattern {
	var p message.Pattern
	for {
		at, size, marker := next(text)
		if size == 0 {
			return p.Add(message.Text(text))
		}
		p = p.Add(message.Text(text[:at])).Add(marker)
		text = text[at+size:]
	}
}

// next finds the first marker.
func next(text string) (at, size int, marker *message.Placeholder) {
	for i := 0; i+1 < len(text); i++ {
		if text[i] != '%' {
			continue
		}
		j := i + 1
		style := message.Style("")
		if text[j] == 'L' {
			style = "group"
			j++
		}
		if j >= len(text) {
			break
		}
		if text[j] == 'n' {
			return i, j + 1 - i, &message.Placeholder{Name: "count", Type: message.Integer, Style: style, Spelling: text[i : j+1], Syntax: message.Marker}
		}
		n := 0
		start := j
		for j < len(text) && j-start < 2 && text[j] >= '0' && text[j] <= '9' {
			n = n*10 + int(text[j]-'0')
			j++
		}
		if n > 0 {
			marker = &message.Placeholder{Position: n, Style: style, Spelling: text[i:j], Syntax: message.Marker}
			if style != "" {
				marker.Type = message.Decimal
			}
			return i, j - i, marker
		}
	}
	return 0, 0, nil
}

// speller writes the patterns of one message.
type speller struct {
	// counted is the argument that %n stands for.
	counted *message.Placeholder
	// ranks give the others their numbers.
	ranks []rank
}

// rank is the number of an argument.
type rank struct {
	ident  string
	number int
}

// rank returns the number of an argument, 0 for an unknown one.
func (s speller) rank(ident string) int {
	for i := len(s.ranks) - 1; i >= 0; i-- {
		if s.ranks[i].ident == ident {
			return s.ranks[i].number
		}
	}
	return 0
}

// newSpeller decides which argument of a message has which marker. The source's
// arguments come first, so that a translation that leaves one out counts as its
// source does.
func newSpeller(m message.Message, source []message.Placeholder) (s speller, losses []message.Loss) {
	if m.Choice == nil && !m.HasPlaceholders() {
		return s, nil
	}
	if m.Choice != nil && m.Choice.Selectors[0].Kind == message.Plural {
		s.counted = &m.Choice.Selectors[0].Argument
	}
	for p := range m.Placeholders() {
		if p.Syntax == message.Marker && p.Name == "count" && s.counted == nil {
			s.counted = p
		}
	}
	order := 0
	var room [4]message.Placeholder
	own := m.AppendArguments(room[:0])
	arguments := own
	if len(source) > 0 {
		arguments = slices.Clone(source)
		for i := range own {
			if !slices.ContainsFunc(source, func(k message.Placeholder) bool { return k.Same(&own[i]) }) {
				arguments = append(arguments, own[i])
			}
		}
	}
	for i := range arguments {
		p := &arguments[i]
		at := slices.IndexFunc(own, func(k message.Placeholder) bool { return k.Same(p) })
		if at >= 0 {
			p = &own[at]
		}
		if s.counts(p) {
			if at >= 0 && p.Position > 0 && p.Position != len(arguments) && p.Syntax != message.Marker {
				losses = append(losses, message.Loss{Kind: "position", Lost: fmt.Sprintf("that the count is argument %d", p.Position), Instead: "%n, which stands beside the others"})
			}
			continue
		}
		order++
		r := rank{p.Ident(), order}
		if p.Syntax == message.Marker || p.Position > 0 && (s.counted == nil || s.counted.Syntax == message.Marker) {
			r.number = p.Position
		}
		s.ranks = append(s.ranks, r)
		if at < 0 {
			continue // left out here
		}
		if s.counted != nil && r.number < p.Position-1 {
			losses = append(losses, message.Loss{Kind: "position", Lost: fmt.Sprintf("that {%s} is argument %d", p.Name, p.Position), Instead: fmt.Sprintf("%%%d, as %%n stands beside the others", r.number)})
		}
		if !p.MadeName() {
			losses = append(losses, message.Loss{Kind: "name", Lost: "the name of the placeholder {" + p.Name + "}", Instead: "its position; the ledger of a family keeps the name"})
		}
		if p.Type > message.String && p.Syntax != message.Marker && !(p.Type == message.Decimal && p.Style == "group") {
			losses = append(losses, message.Loss{Kind: "type", Lost: fmt.Sprintf("the type %s of {%s}", strings.TrimSpace(p.Type.String()+" "+string(p.Style)), p.Name), Instead: "a place marker; the program formats the value"})
		} else if p.Style != "" && p.Style != "group" {
			losses = append(losses, message.Loss{Kind: "number-style", Lost: fmt.Sprintf("the style %q of {%s}", p.Style, p.Name), Instead: "a place marker; the program formats the value"})
		}
	}
	if s.counted != nil && s.counted.Name != "" && s.counted.Name != "count" && !s.counted.MadeName() {
		losses = append(losses, message.Loss{Kind: "name", Lost: "the name of the count {" + s.counted.Name + "}", Instead: "%n"})
	}
	return s, losses
}

func (s speller) counts(p *message.Placeholder) bool {
	switch {
	case s.counted == nil:
		return false
	case s.counted.Name == "" || p.Name == "":
		return s.counted.Position > 0 && s.counted.Position == p.Position
	}
	return s.counted.Name == p.Name
}

// write spells a pattern.
func (s speller) write(p message.Pattern) (string, []message.Loss) {
	if len(p) == 1 {
		if text, ok := p[0].(message.Text); ok && strings.IndexByte(string(text), '%') < 0 {
			return string(text), nil
		}
	}
	var losses []message.Loss
	var room [256]byte
	out := room[:0]
	sure := true // that it reads as it was
	for i, part := range p {
		switch part := part.(type) {
		case message.Text:
			sure = sure && part != "" && strings.IndexByte(string(part), '%') < 0 &&
				(i == 0 || part[0] < '0' || part[0] > '9')
			out = append(out, part...)
		case *message.Markup:
			sure = false
			out = append(out, part.String()...)
		case *message.Placeholder:
			local := ""
			if part.Style.Has("group") && (part.Type == message.Decimal || part.Type == message.Integer) {
				local = "L"
			}
			if s.counts(part) {
				if part.Type == message.Decimal || part.Style != "" && part.Style != "group" {
					losses = append(losses, message.Loss{Kind: "number-style", Lost: fmt.Sprintf("the style %q of {%s}", part.Style, part.Name), Instead: "%n, a whole number"})
				}
				out = append(append(append(out, '%'), local...), 'n')
			} else {
				number := s.rank(part.Ident())
				sure = sure && number > 0 && number < 100
				out = strconv.AppendInt(append(append(out, '%'), local...), int64(number), 10)
			}
		}
	}
	text := string(out)
	if sure || strings.IndexByte(text, '%') < 0 {
		return text, losses
	}
	if again := read(text); len(again) != len(p) || again.Literal() != p.Literal() {
		losses = append(losses, message.Loss{Kind: "escape", Lost: "that a percent sign in the text is no place marker", Instead: "it reads as one"})
	}
	return text, losses
}

// rules are the plural rules of Qt's languages, in the order of a file's forms
// (Qt documentation, translation rules for plurals); the last form is for all other
// numbers. Languages that are not here have the rules of English.
var rules = map[string][]string{
	"ja zh ko vi th id ms my hu tr fa bo bi dz fj gn jv na om su tt yo za": {},
	"fr hy br fil ti wa pt-BR": {"n = 0..1"},
	"lv":                       {"n % 10 = 1 and n % 100 != 11", "n != 0"},
	"is":                       {"n % 10 = 1 and n % 100 != 11"},
	"ga":                       {"n = 1", "n = 2"},
	"gd":                       {"n = 1,11", "n = 2,12", "n = 3..19"},
	"cs sk":                    {"n = 1", "n = 2..4"},
	"mk":                       {"n % 10 = 1", "n % 10 = 2"},
	"lt":                       {"n % 10 = 1 and n % 100 != 11", "n % 10 != 0 and n % 100 != 10..19"},
	"ru uk be hr sr bs":        {"n % 10 = 1 and n % 100 != 11", "n % 10 = 2..4 and n % 100 != 10..19"},
	"pl":                       {"n = 1", "n % 10 = 2..4 and n % 100 != 10..19"},
	"ro":                       {"n = 1", "n = 0 or n % 100 = 1..19"},
	"sl":                       {"n % 100 = 1", "n % 100 = 2", "n % 100 = 3..4"},
	"mt":                       {"n = 1", "n = 0 or n % 100 = 1..10", "n % 100 = 11..19"},
	"cy":                       {"n = 0", "n = 1", "n = 2..5", "n = 6"},
	"ar":                       {"n = 0", "n = 1", "n = 2", "n % 100 = 3..10", "n % 100 = 11..99"},
	"tl":                       {"n = 0..1", "n % 10 = 4,6,9"},
}

// known are the forms of cultures that were asked for.
var known sync.Map

// formsOf returns the forms of a culture.
func formsOf(tag culture.Tag) numbered.Forms {
	if f, ok := known.Load(tag); ok {
		return f.(numbered.Forms)
	}
	f := makeForms(tag)
	known.Store(tag, f)
	return f
}

func makeForms(tag culture.Tag) numbered.Forms {
	conditions := []string{"n = 1"}
	for languages, list := range rules {
		if names := strings.Fields(languages); slices.Contains(names, tag.Base()) || slices.Contains(names, string(tag)) {
			conditions = list
		}
	}
	var parsed []culture.Rules
	for _, text := range conditions {
		condition, err := culture.ParseCondition(text)
		if err != nil {
			panic(err) // the table is tested
		}
		parsed = append(parsed, culture.Rules{{Category: culture.One, Condition: condition}})
	}
	return numbered.Match(tag, len(parsed)+1, func(n int) int {
		for i, r := range parsed {
			if r.CategoryOf(n) == culture.One {
				return i
			}
		}
		return len(parsed)
	})
}

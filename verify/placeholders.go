package verify

import (
	"fmt"
	"slices"
	"strings"
	"unicode"

	"zelvik/culture"
	"zelvik/finding"
	"zelvik/message"
)

var placeholderLost = &Rule{
	Name: "placeholder-lost", Severity: finding.Error,
	Doc:     "A placeholder of the source is not in the translation.",
	Why:     "The reader is not told the name, number or time that the sentence is about.",
	Example: `source "From %1$s to %2$s", translation "Von %1$s"`,
	Fix:     "Put it in where the translation needs it.",
	Pair: func(p *Pair, report Report) {
		if !comparable(p) {
			return
		}
		have := shown(p.Entry.Message)
		for _, want := range shownIn(p.Source.Message.Main()) {
			key, ok := lacks(p.Entry.Message, p.Source.Message, want)
			if !ok || dollar(p.Entry.Message, want) || dated(p.Source.Message) {
				continue
			}
			where := ""
			if key != "" {
				where = " in the form " + key
			}
			fix := "put it in where the translation needs it"
			if len(have) == 0 || key != "" {
				fix = "write " + spelled(want)
			}
			report(p.Entry, fmt.Sprintf("the placeholder %s of the source is missing%s: %q", spelled(want), where, short(p.Entry.Message)), fix)
		}
	},
}

// comparable reports whether both sides of a pair have a text.
func comparable(p *Pair) bool {
	return p.Entry != nil && p.Entry.Reference == "" && p.Source.Reference == "" && !p.Entry.Message.Empty() && !p.Source.Message.Empty() && !named(p)
}

// named reports whether a source text is no text but a name of one, as programs
// use gettext that keep their texts in templates.
func named(p *Pair) bool {
	if p.Family.Format != "po" || len(p.Source.Message.Pattern) != 1 {
		return false
	}
	text := p.Source.Message.Pattern.Literal()
	joined := false
	for i, r := range text {
		switch {
		case r == '_' || r == ':' || r == '.' || r == '-':
			joined = joined || i > 0 && i < len(text)-1
		case !unicode.IsLetter(r) && !unicode.IsDigit(r):
			return false
		}
	}
	return joined && strings.IndexByte(p.Entry.Message.String(), ' ') > 0
}

// dollar reports whether a text has a placeholder ${name} without its braces, which
// some templates allow.
func dollar(m message.Message, p *message.Placeholder) bool {
	return p.Name != "" && strings.Contains(m.Main().Literal(), "$"+p.Name)
}

// dated reports whether the placeholders of a message are the parts of a date, which
// every culture has its own of: ${d}. ${B} ${Y}.
func dated(m message.Message) bool {
	n := 0
	for p := range m.Placeholders() {
		if n++; len(p.Name) != 1 || !unicode.IsLetter(rune(p.Name[0])) {
			return false
		}
	}
	return n > 1
}

// shown lists the placeholders that any variant shows.
func shown(m message.Message) []*message.Placeholder {
	var list []*message.Placeholder
	for _, pattern := range m.Patterns() {
		list = append(list, shownIn(pattern)...)
	}
	return list
}

func shownIn(p message.Pattern) []*message.Placeholder {
	var list []*message.Placeholder
	for _, part := range p {
		if placeholder, ok := part.(*message.Placeholder); ok && find(list, placeholder) == nil {
			list = append(list, placeholder)
		}
	}
	return list
}

// find returns the placeholder in the list that stands for the same argument.
func find(list []*message.Placeholder, p *message.Placeholder) *message.Placeholder {
	for _, other := range list {
		if other.Ident() == p.Ident() {
			return other
		}
	}
	return nil
}

// lacks reports whether a form that serves many numbers does not show the
// placeholder, and which. The forms zero, one, two and exact ones may say the
// number in words.
func lacks(m, source message.Message, want *message.Placeholder) (key string, missing bool) {
	counted := false
	if m.Choice != nil {
		for i := range m.Choice.Selectors {
			argument := &m.Choice.Selectors[i].Argument
			counted = counted || argument.Ident() == want.Ident() || argument.Name != "" && argument.Name == want.Name
		}
	}
	for keys, pattern := range m.Patterns() {
		if find(shownIn(pattern), want) != nil || len(pattern) == 0 && keys != nil { // an empty form is reported as such
			continue
		}
		if keys == nil {
			return "", true
		}
		special := false
		for _, key := range keys {
			if key == culture.Zero || key == "=0" { // may say in words that there is nothing
				counted, special = true, true
			}
			special = special || key == "zero" || key == "one" || key == "two" || strings.HasPrefix(key, "=")
		}
		if special && silent(source, keys, want) { // the source's own form does not show it either
			continue
		}
		if !special || !counted {
			return strings.Join(keys, "+"), true
		}
	}
	return "", false
}

// silent reports whether a message has a form of these keys, which does not show a
// placeholder.
func silent(m message.Message, keys []string, want *message.Placeholder) bool {
	for own, pattern := range m.Patterns() {
		if slices.Equal(own, keys) {
			return find(shownIn(pattern), want) == nil
		}
	}
	return false
}

// spelled shows a placeholder as its file does.
func spelled(p *message.Placeholder) string {
	if p.Spelling != "" && !p.Wrapped {
		return p.Spelling
	}
	if p.Name != "" {
		return "{" + p.Name + "}"
	}
	return "{" + p.Ident() + "}"
}

var placeholderAdded = &Rule{
	Name: "placeholder-added", Severity: finding.Error,
	Doc:     "A translation has a placeholder that the source does not have.",
	Why:     "The program passes no value for it: it fails, or shows the raw placeholder.",
	Example: `source "Deck %1$d", translation "Deck %1$d, %2$s"`,
	Fix:     "Remove it, or spell it as the source does.",
	Pair: func(p *Pair, report Report) {
		if !comparable(p) {
			return
		}
		var known []*message.Placeholder
		for placeholder := range p.Source.Message.Placeholders() {
			known = append(known, placeholder)
		}
		var told []*message.Placeholder
		for _, placeholder := range shown(p.Entry.Message) {
			if find(known, placeholder) == nil && find(told, placeholder) == nil && !dollar(p.Source.Message, placeholder) && !dated(p.Source.Message) {
				told = append(told, placeholder)
				report(p.Entry, fmt.Sprintf("the source has no placeholder %s: %q", spelled(placeholder), short(p.Entry.Message)), "")
			}
		}
	},
}

var placeholderType = &Rule{
	Name: "placeholder-type", Severity: finding.Error,
	Doc:     "A placeholder has another type than in the source.",
	Why:     "A number given to a text placeholder loses its format; a text given to a number fails.",
	Example: `source "%1$d minutes", translation "%1$s Minuten"`,
	Fix:     "Spell it as the source does.",
	Pair: func(p *Pair, report Report) {
		if !comparable(p) {
			return
		}
		source := shown(p.Source.Message)
		var told []*message.Placeholder
		for _, placeholder := range shown(p.Entry.Message) {
			other := find(source, placeholder)
			if other == nil || other.Type == placeholder.Type || find(told, placeholder) != nil || alike(other.Type, placeholder.Type) || bare(placeholder) {
				continue
			}
			told = append(told, placeholder)
			report(p.Entry, fmt.Sprintf("%s is %s here and %s in the source (%s)", spelled(placeholder), article(placeholder.Type), article(other.Type), spelled(other)), "write "+spelled(other))
		}
	},
}

// bare reports whether a placeholder leaves its type to the source, as {name}
// does in ICU messages.
func bare(p *message.Placeholder) bool {
	return p.Syntax == message.ICU && p.Type == message.String && p.Style == ""
}

// alike reports whether one type can be given where the other is expected: a
// date as a time, an amount as a decimal.
func alike(a, b message.Type) bool {
	moment := func(t message.Type) bool { return t == message.Date || t == message.Time }
	real := func(t message.Type) bool {
		return t == message.Decimal || t == message.Currency || t == message.Percent
	}
	return moment(a) && moment(b) || real(a) && real(b)
}

func article(t message.Type) string {
	if t == message.Integer {
		return "an integer"
	}
	return "a " + t.String()
}

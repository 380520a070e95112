// Package native knows single placeholders in the syntaxes of all platforms, so
// that exchange files can carry them as they are spelled there.
package native

import (
	"strings"

	"zelvik/message"
	"zelvik/message/composite"
	"zelvik/message/printf"
)

// dialect is one of printf's by its syntax and the word that names it in a text
// that would be read otherwise without it.
type dialect struct {
	syntax message.Syntax
	word   string
	*printf.Dialect
}

// dialects are in the order in which a text is tried.
var dialects = []dialect{
	{message.C, "c ", printf.C}, {message.Foundation, "apple ", printf.Foundation},
	{message.Java, "java ", printf.Java}, {message.Windows, "windows ", printf.Windows},
}

// Read reads a text that is one placeholder and nothing else; nil where it is
// none. {name} and {0, number} are ICU's and not read here. What several
// dialects of printf have is taken for C's, unless a word before it says whose
// it is: "java %S".
func Read(text string) *message.Placeholder {
	switch {
	case strings.HasPrefix(text, "{\""):
		return readDeclaration(text)
	case strings.HasPrefix(text, "{"):
		if p, faults := composite.Parse(text); len(faults) == 0 && len(p) == 1 {
			placeholder, _ := p[0].(*message.Placeholder)
			return placeholder
		}
	case text == "%n" || text == "%Ln":
		p := &message.Placeholder{Name: "count", Type: message.Integer, Spelling: text, Syntax: message.Marker}
		if len(text) == 3 {
			p.Style = "group"
		}
		return p
	}
	for _, d := range dialects {
		if p := d.Read(strings.TrimPrefix(text, d.word)); p != nil {
			return p
		}
	}
	return nil
}

// Spelling returns a placeholder as its platform spells it, without an element
// around it; "" where it is ICU's, or was not read.
func Spelling(p *message.Placeholder) string {
	switch p.Syntax {
	case message.Nowhere, message.ICU, message.Braces, message.Element:
		return ""
	}
	if p.Wrapped {
		from, to := strings.IndexByte(p.Spelling, '>'), strings.LastIndexByte(p.Spelling, '<')
		if from < 0 || to < from {
			return ""
		}
		return strings.TrimSpace(p.Spelling[from+1 : to])
	}
	return p.Spelling
}

// Derived reports whether the platform of a placeholder spells it in the same way
// by its type and style alone.
func Derived(p *message.Placeholder) bool {
	spelling := Spelling(p)
	plain := message.Placeholder{Name: p.Name, Position: max(p.Position, 1), Type: p.Type, Style: p.Style}
	switch p.Syntax {
	case message.Composite:
		again, _ := composite.Spell(&plain)
		return again == spelling
	case message.Marker:
		return p.Name != "count" // %n stands for no argument of a number
	}
	for _, d := range dialects {
		if d.syntax == p.Syntax {
			again, _ := d.Spell(&plain, strings.ContainsAny(spelling, "$!"))
			return again == spelling
		}
	}
	return spelling == ""
}

// Carry returns a spelling that says all of a placeholder and is read as such: its
// own, else that of a platform that has words for its style; "" where none has.
func Carry(p *message.Placeholder) string {
	if spelling := Spelling(p); spelling != "" {
		return named(p, spelling)
	}
	plain := message.Placeholder{Name: p.Name, Position: max(p.Position, 1), Type: p.Type, Style: p.Style}
	if text, losses := composite.Spell(&plain); losses == nil {
		return text
	}
	for _, d := range dialects {
		if text, losses := d.Spell(&plain, true); losses == nil {
			plain.Syntax = d.syntax
			return named(&plain, text)
		}
	}
	d, read := Declare(&plain), message.Placeholder{}
	if d.Describe(&read); plain.Lost(&read) == nil {
		return d.String()
	}
	return ""
}

// named returns a spelling with the word of its dialect where it needs one.
func named(p *message.Placeholder, spelling string) string {
	if q := Read(spelling); q == nil || q.Type != p.Type || q.Style != p.Style {
		for _, d := range dialects {
			if d.syntax == p.Syntax {
				return d.word + spelling
			}
		}
	}
	return spelling
}

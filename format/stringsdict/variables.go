package stringsdict

import (
	"fmt"
	"slices"
	"strings"

	"zelvik/culture"
	"zelvik/message"
	"zelvik/message/printf"
)

// Variable is a variable of a format text, %#@name@, with its text for each
// plural category.
type Variable struct {
	Name string
	// Position is the argument it counts, 0 where the text says.
	Position int
	// Type is the conversion of the counted number, as in %lld.
	Type  string
	Forms []Form
	// Offset is where it is described.
	Offset int
}

// Form is one category's text, in which other variables may stand.
type Form struct {
	Category, Text string
	Offset         int
}

// Expander reads a format text with its variables, as Apple's platforms do in
// .stringsdict files and string catalogs.
type Expander struct {
	// Find returns a variable by its name.
	Find func(name string) (Variable, bool)
	// Report reports a fault.
	Report    func(rule string, offset int, text, fix string)
	selectors []message.Selector
	depth     int
}

// Message reads the text that an entry begins with.
func (x *Expander) Message(text string, offset int) message.Message {
	branches := x.expand(text, 0, offset)
	return message.Chosen(x.selectors, branches)
}

// expand reads a format text in which %#@name@ stands for a variable. Position
// is the argument that an unnumbered placeholder means, 0 at the top, where
// they count up.
func (x *Expander) expand(text string, position, offset int) []message.Branch {
	branches := []message.Branch{{}}
	if x.depth++; x.depth > 10 {
		x.Report("file-damaged", offset, "variables that refer to one another too deep", "flatten them")
		return branches
	}
	defer func() { x.depth-- }()
	next := 0
	for {
		before, name, explicit, rest, ok := variable(text)
		formatted := printf.Reader{Dialect: printf.Foundation, Formatted: true}
		var p message.Pattern
		p = formatted.Read(p, before)
		for _, part := range p {
			if placeholder, ok := part.(*message.Placeholder); ok && !strings.Contains(placeholder.Spelling, "$") {
				if position > 0 {
					placeholder.Position = position
					placeholder.Name = x.name(position)
				} else {
					next++
					placeholder.Position = next
				}
			}
		}
		branches = message.Times(branches, []message.Branch{{Pattern: p}})
		if !ok {
			return branches
		}
		text = rest
		at := explicit
		if at == 0 && position > 0 {
			at = position
		} else if at == 0 {
			next++
			at = next
		}
		branches = message.Times(branches, x.variable(name, at, offset))
	}
}

// name returns the name of the variable at a position.
func (x *Expander) name(position int) string {
	for _, s := range x.selectors {
		if s.Argument.Position == position {
			return s.Argument.Name
		}
	}
	return ""
}

// variable cuts a text at its first %#@name@ or %2$#@name@.
func variable(text string) (before, name string, position int, rest string, ok bool) {
	for at := 0; ; {
		i := strings.Index(text[at:], "#@")
		if i < 0 {
			return text, "", 0, "", false
		}
		i += at
		end := strings.IndexByte(text[i+2:], '@')
		start := i
		if start > 0 && text[start-1] == '$' {
			start--
			for start > 0 && text[start-1] >= '0' && text[start-1] <= '9' {
				start--
			}
			for _, c := range text[start : i-1] {
				position = position*10 + int(c-'0')
			}
		}
		percents := len(text[:start]) - len(strings.TrimRight(text[:start], "%")) // an even number of them is so many percent signs
		if end < 0 || percents%2 == 0 {
			at, position = i+2, 0
			continue
		}
		return text[:start-1], text[i+2 : i+2+end], position, text[i+2+end+1:], true
	}
}

// variable returns the branches of one variable.
func (x *Expander) variable(name string, position, offset int) []message.Branch {
	v, ok := x.Find(name)
	if !ok {
		x.Report("file-damaged", offset, fmt.Sprintf("the variable %s is not described", name), fmt.Sprintf("describe %s with its forms", name))
		return []message.Branch{{Pattern: message.Pattern{&message.Placeholder{Name: name, Position: position, Syntax: message.Foundation, Spelling: "%#@" + name + "@"}}}}
	}
	if v.Position > 0 {
		position = v.Position
	}
	// A variable named after another's case ("bikes__one") counts the same.
	plain, _, _ := strings.Cut(name, "__")
	index := slices.IndexFunc(x.selectors, func(s message.Selector) bool { return s.Argument.Position == position })
	if index < 0 {
		index = len(x.selectors)
		argument := message.Placeholder{Name: plain, Position: position, Type: message.Integer, Syntax: message.Foundation}
		x.selectors = append(x.selectors, message.Selector{Argument: argument})
	}
	var out []message.Branch
	other := false
	for _, form := range v.Forms {
		if !slices.Contains(culture.Categories, form.Category) {
			x.Report("file-damaged", form.Offset, fmt.Sprintf("%q is no plural category", form.Category), "use zero, one, two, few, many or other")
			continue
		}
		other = other || form.Category == message.Default
		out = append(out, message.Under(index, form.Category, x.expand(form.Text, position, form.Offset))...)
	}
	if !other {
		x.Report("select-gap", v.Offset, fmt.Sprintf("the variable %s has no form other", name), "add the form other")
	}
	if len(out) == 0 {
		out = []message.Branch{{}}
	}
	return out
}

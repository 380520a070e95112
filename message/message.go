// Package message is the meaning in the middle: the one tree that every format
// is read into and written from. A message is a pattern, or a choice between
// patterns; a pattern is text with placeholders and markup in it. Text is what
// the user sees: escapes are decoded. How a placeholder or markup was spelled
// is kept beside it, so that an unchanged part is written back as it was.
//
// The packages below this one read and write the pattern syntaxes.
package message

import (
	"iter"
	"slices"
	"strconv"
	"strings"
)

// Message is what one entry says: a Pattern, or, where Choice is set, a choice
// between patterns.
type Message struct {
	Pattern Pattern
	Choice  *Choice
}

// Choice picks a pattern by its selectors. It is kept flat, as a matrix of
// keys, after Unicode's MessageFormat 2 data model: every variant has one key
// per selector.
type Choice struct {
	Selectors []Selector
	Variants  []Variant
}

// Kind says how a selector compares its argument with a variant's key.
type Kind uint8

// The kinds of selectors.
const (
	Plural  Kind = iota // by cardinal category, or exactly: "one", "=0"
	Ordinal             // by ordinal category, or exactly
	Select              // by equality
)

// String returns ICU's word for the kind.
func (k Kind) String() string { return [...]string{"plural", "selectordinal", "select"}[k] }

// Selector is one argument that a choice looks at.
type Selector struct {
	// Argument names what is counted or compared. Only its Name, Position and
	// Type count.
	Argument Placeholder
	Kind     Kind
	// Offset is taken from the number before its category is looked up, and
	// before it is shown by a placeholder spelled "#" (ICU plural offset).
	Offset int
}

// Default is the key of the variant that applies when no other does.
const Default = "other"

// Variant is a pattern and the keys it applies to.
type Variant struct {
	Keys    []string
	Pattern Pattern
}

// Pattern is a sequence of parts. Two texts never stand side by side.
type Pattern []Part

// Part is a Text, a *Placeholder or a *Markup.
type Part interface{ part() }

// Text is literal text as the user sees it.
type Text string

// Type says what a placeholder stands for.
type Type uint8

// The types of placeholders. Untyped ones, such as {0} and {name}, are text.
const (
	String Type = iota
	Integer
	Decimal
	Percent
	Currency
	Date
	Time
)

// String returns the type's word in reports.
func (t Type) String() string {
	return [...]string{"text", "integer", "decimal", "percent", "currency", "date", "time"}[t]
}

// Number reports whether the type is a number.
func (t Type) Number() bool { return t >= Integer && t <= Currency }

// Syntax says which syntax a spelling is in.
type Syntax uint8

// The syntaxes of placeholders and patterns.
const (
	Nowhere    Syntax = iota // made by the program, not read
	Java                     // %1$s, as java.util.Formatter reads it
	Foundation               // %1$@
	Composite                // {0:N2}
	ICU                      // {name, number}
	C                        // %1$s and %(name)s
	Windows                  // %1!s!
	Marker                   // %1 and %n, as Qt's tr and arg read them
	Braces                   // {{name}}, %{name}, ${name}, :name
	Element                  // <tag>, for markup
	Declared                 // {name} in the text, and a description beside it (ARB)
)

// Named reports whether the syntax refers to arguments by name; the others
// refer by position.
func (s Syntax) Named() bool { return s == ICU || s == Braces || s == Nowhere || s == Declared }

// Placeholder stands for an argument.
type Placeholder struct {
	// Name and Position say which argument; Position counts from 1, and either
	// may be missing until Complete fills it.
	Name     string
	Position int
	Type     Type
	// Syntax is the one that Spelling is in; Wrapped says that Spelling
	// includes an element around the placeholder (xliff:g).
	Syntax  Syntax
	Wrapped bool
	// Style says how the value is written: words of the Style vocabulary,
	// separated by spaces. See style.go.
	Style Style
	// Sample is an example value for translators and pictures.
	Sample string
	// Spelling is what was read.
	Spelling string
}

// Role is the place a piece of markup has.
type Role uint8

// The roles of markup.
const (
	Open Role = iota
	Close
	Lone
)

// Markup is a tag in a text.
type Markup struct {
	Role Role
	Tag  string
	// Attributes is the text between the tag's name and its end, white space
	// included: ` href="x"`.
	Attributes string
	// Spelling is what was read.
	Spelling string
}

func (Text) part()         {}
func (*Placeholder) part() {}
func (*Markup) part()      {}

// Plain makes a message of literal text.
func Plain(text string) Message {
	if text == "" {
		return Message{}
	}
	return Message{Pattern: Pattern{Text(text)}}
}

// Ident names the argument the way its syntax does, for comparing a
// translation with its source: the position in positional syntaxes, else the
// name.
func (p *Placeholder) Ident() string {
	if !p.Syntax.Named() && p.Position > 0 || p.Name == "" {
		return strconv.Itoa(p.Position)
	}
	return p.Name
}

// String writes a tag as XML and HTML do.
func (m *Markup) String() string {
	if m.Spelling != "" {
		return m.Spelling
	}
	switch m.Role {
	case Close:
		return "</" + m.Tag + ">"
	case Lone:
		return "<" + m.Tag + m.Attributes + "/>"
	}
	return "<" + m.Tag + m.Attributes + ">"
}

// Patterns yields every pattern of the message with its keys, which are nil
// when there is no choice.
func (m Message) Patterns() iter.Seq2[[]string, Pattern] {
	return func(yield func([]string, Pattern) bool) {
		if m.Choice == nil {
			yield(nil, m.Pattern)
			return
		}
		for _, variant := range m.Choice.Variants {
			if !yield(variant.Keys, variant.Pattern) {
				return
			}
		}
	}
}

// Placeholders yields every placeholder, the selectors' arguments first, in
// the order of reading.
func (m Message) Placeholders() iter.Seq[*Placeholder] {
	return func(yield func(*Placeholder) bool) {
		if m.Choice != nil {
			for i := range m.Choice.Selectors {
				if !yield(&m.Choice.Selectors[i].Argument) {
					return
				}
			}
		}
		for _, pattern := range m.Patterns() {
			for _, part := range pattern {
				if p, ok := part.(*Placeholder); ok && !yield(p) {
					return
				}
			}
		}
	}
}

// HasPlaceholders reports whether any pattern has a placeholder.
func (m Message) HasPlaceholders() bool {
	for range m.Placeholders() {
		return true
	}
	return false
}

// Empty reports whether no pattern shows anything.
func (m Message) Empty() bool {
	for _, pattern := range m.Patterns() {
		if len(pattern) > 0 {
			return false
		}
	}
	return true
}

// Main is the pattern that stands for the message: its own, or that of the
// default variant, or the last one there is.
func (m Message) Main() Pattern {
	if m.Choice == nil {
		return m.Pattern
	}
	for _, variant := range m.Choice.Variants {
		if !slices.ContainsFunc(variant.Keys, func(key string) bool { return key != Default }) {
			return variant.Pattern
		}
	}
	if n := len(m.Choice.Variants); n > 0 {
		return m.Choice.Variants[n-1].Pattern
	}
	return nil
}

// Literal is the pattern's text without placeholders and markup.
func (p Pattern) Literal() string {
	if len(p) == 1 {
		if text, ok := p[0].(Text); ok {
			return string(text)
		}
	}
	var out strings.Builder
	for _, part := range p {
		if text, ok := part.(Text); ok {
			out.WriteString(string(text))
		}
	}
	return out.String()
}

// String shows the pattern to a person: {name} or the file's own spelling for
// placeholders, tags for markup.
func (p Pattern) String() string {
	if len(p) == 1 {
		if text, ok := p[0].(Text); ok {
			return string(text)
		}
	}
	var out strings.Builder
	for _, part := range p {
		switch part := part.(type) {
		case Text:
			out.WriteString(string(part))
		case *Placeholder:
			if part.Name == "" && part.Spelling != "" && !part.Wrapped {
				out.WriteString(part.Spelling)
			} else {
				out.WriteString("{" + cmpOr(part.Name, part.Ident()) + "}")
			}
		case *Markup:
			out.WriteString(part.String())
		}
	}
	return out.String()
}

func cmpOr(a, b string) string {
	if a != "" {
		return a
	}
	return b
}

// String shows the message on one line: the pattern, or its variants as
// "one: … | other: …".
func (m Message) String() string {
	if m.Choice == nil {
		return m.Pattern.String()
	}
	parts := make([]string, 0, len(m.Choice.Variants))
	for _, variant := range m.Choice.Variants {
		parts = append(parts, strings.Join(variant.Keys, "+")+": "+variant.Pattern.String())
	}
	return strings.Join(parts, " | ")
}

// Shown is what a person sees of the pattern, with a mark for each placeholder.
func (p Pattern) Shown() string {
	if len(p) == 1 {
		if text, ok := p[0].(Text); ok {
			return string(text)
		}
	}
	var out strings.Builder
	for _, part := range p {
		switch part := part.(type) {
		case Text:
			out.WriteString(string(part))
		case *Placeholder:
			out.WriteByte(1)
		case *Markup:
			out.WriteString(part.String())
		}
	}
	return out.String()
}

// Shown yields what a person sees of each pattern.
func (m Message) Shown() iter.Seq[string] {
	return func(yield func(string) bool) {
		for _, p := range m.Patterns() {
			if !yield(p.Shown()) {
				return
			}
		}
	}
}

// Add appends a part, joining text to text.
func (p Pattern) Add(part Part) Pattern {
	text, isText := part.(Text)
	if !isText {
		return append(p, part)
	}
	if text == "" {
		return p
	}
	if n := len(p); n > 0 {
		if last, ok := p[n-1].(Text); ok {
			p[n-1] = last + text
			return p
		}
	}
	return append(p, part)
}

// Plain returns the text of a message that is one text, and nothing in it is one
// of the signs; it is false for all others.
func (m Message) Plain(signs string) (string, bool) {
	if m.Choice != nil || len(m.Pattern) != 1 {
		return "", false
	}
	text, ok := m.Pattern[0].(Text)
	for i := 0; ok && i < len(signs); i++ {
		ok = strings.IndexByte(string(text), signs[i]) < 0
	}
	return string(text), ok
}

// Map makes a copy of the message in which every literal text went through f.
// Placeholders and markup are shared with the original.
func (m Message) Map(f func(Text) Text) Message {
	mapped := func(p Pattern) Pattern {
		out := make(Pattern, len(p))
		for i, part := range p {
			if text, ok := part.(Text); ok {
				part = f(text)
			}
			out[i] = part
		}
		return out
	}
	if m.Choice == nil {
		return Message{Pattern: mapped(m.Pattern)}
	}
	choice := &Choice{Selectors: m.Choice.Selectors, Variants: make([]Variant, len(m.Choice.Variants))}
	for i, variant := range m.Choice.Variants {
		choice.Variants[i] = Variant{variant.Keys, mapped(variant.Pattern)}
	}
	return Message{Choice: choice}
}

// Fault is something wrong in the text of a pattern.
type Fault struct {
	// Offset is the byte in the text where it stands.
	Offset int
	// Rule is the finding's rule: file-damaged, escape-wrong, placeholder-bare,
	// placeholder-unnumbered, select-gap.
	Rule string
	// Text says what is wrong, Fix what to do.
	Text, Fix string
}

// Loss is something that could not be carried into another syntax or format.
type Loss struct {
	// Kind is one of the kinds of docs/losses.md: note, plural, exact-case ...
	Kind string
	// Lost says what was lost; Instead what was done instead.
	Lost, Instead string
}

// Package composite reads and writes the placeholders of .NET's composite
// format strings: {0}, {1,8}, {2:N2}, with {{ and }} for braces.
//
// A text without any placeholder is not a format string: it is shown as it
// stands, braces included.
package composite

import (
	"fmt"
	"strconv"
	"strings"

	"zelvik/message"
)

// item is one {index,alignment:format} taken apart.
type item struct {
	size, index, alignment int
	format                 string
}

// scan reads the item at the beginning of text, which begins with a brace.
func scan(text string) (it item, ok bool) {
	i := 1
	start := i
	for i < len(text) && text[i] >= '0' && text[i] <= '9' && i-start < 4 {
		i++
	}
	if i == start {
		return it, false
	}
	it.index, _ = strconv.Atoi(text[start:i])
	if i < len(text) && text[i] == ',' {
		i++
		start = i
		for i < len(text) && (text[i] == '-' || text[i] == ' ' || text[i] >= '0' && text[i] <= '9') {
			i++
		}
		n, err := strconv.Atoi(strings.TrimSpace(text[start:i]))
		if err != nil {
			return it, false
		}
		it.alignment = n
	}
	if i < len(text) && text[i] == ':' {
		end := strings.IndexAny(text[i:], "{}")
		if end < 0 {
			return it, false
		}
		it.format = text[i+1 : i+end]
		i += end
	}
	if i >= len(text) || text[i] != '}' {
		return it, false
	}
	it.size = i + 1
	return it, true
}

// Formatted reports whether the text has a placeholder.
func Formatted(text string) bool {
	for {
		at := strings.IndexByte(text, '{')
		if at < 0 {
			return false
		}
		text = text[at:]
		if strings.HasPrefix(text, "{{") {
			text = text[2:]
			continue
		}
		if _, ok := scan(text); ok {
			return true
		}
		text = text[1:]
	}
}

// Parse reads a text into a pattern. Faults are braces that .NET would refuse.
func Parse(text string) (message.Pattern, []message.Fault) {
	if !Formatted(text) {
		return message.SplitMarkup(nil, text), nil
	}
	var p message.Pattern
	var faults []message.Fault
	var literal strings.Builder
	flush := func() {
		p = message.SplitMarkup(p, literal.String())
		literal.Reset()
	}
	for i := 0; i < len(text); {
		c := text[i]
		if c != '{' && c != '}' {
			literal.WriteByte(c)
			i++
			continue
		}
		if i+1 < len(text) && text[i+1] == c {
			literal.WriteByte(c)
			i += 2
			continue
		}
		if c == '{' {
			if it, ok := scan(text[i:]); ok {
				flush()
				p = p.Add(placeholder(it, text[i:i+it.size]))
				i += it.size
				continue
			}
		}
		faults = append(faults, message.Fault{
			Offset: i, Rule: "escape-wrong",
			Text: fmt.Sprintf("a single %c in a text with placeholders", c),
			Mend: fmt.Sprintf("write %c%c for a brace", c, c),
		})
		literal.WriteByte(c)
		i++
	}
	flush()
	return p, faults
}

func placeholder(it item, spelling string) *message.Placeholder {
	p := &message.Placeholder{Position: it.index + 1, Spelling: spelling, Syntax: message.Composite}
	var style message.Style
	p.Type, style = meaning(it.format)
	words := string(style)
	if it.alignment != 0 {
		words += fmt.Sprintf(" width=%d", max(it.alignment, -it.alignment))
		if it.alignment < 0 {
			words += " left"
		}
	}
	p.Style = message.Style(strings.TrimSpace(words))
	return p
}

// meaning reads a format: standard numeric and date formats, custom numbers
// and custom dates. The letter D means a whole number, though a date would be
// written long by it; d is a short date.
func meaning(format string) (message.Type, message.Style) {
	if format == "" {
		return message.String, ""
	}
	letter, digits := format[0], -1
	if n, err := strconv.Atoi(format[1:]); err == nil {
		digits = n
	}
	if len(format) == 1 || digits >= 0 {
		number := func(missing int) string {
			if digits < 0 {
				return message.FractionWord(missing)
			}
			return message.FractionWord(digits)
		}
		switch letter {
		case 'N', 'n':
			if digits == 0 {
				return message.Integer, "group"
			}
			return message.Decimal, message.NewStyle("group", number(2))
		case 'F':
			return message.Decimal, message.NewStyle(number(2))
		case 'D':
			if digits > 0 {
				return message.Integer, message.Style(fmt.Sprintf("zero=%d", digits))
			}
			return message.Integer, ""
		case 'P', 'p':
			if digits == 0 {
				return message.Percent, ""
			}
			return message.Percent, message.NewStyle(number(2))
		case 'C', 'c':
			return message.Currency, message.NewStyle(message.FractionWord(digits))
		case 'X':
			return message.Integer, "hex upper"
		case 'x':
			return message.Integer, "hex"
		case 'E', 'e':
			return message.Decimal, message.NewStyle(number(6), "scientific")
		case 'd':
			return message.Date, "short"
		case 'f', 'g':
			return message.Date, message.Style("=" + format)
		case 'M', 'm':
			return message.Date, "::MMMMd"
		case 'Y', 'y':
			return message.Date, "::yMMMM"
		case 't':
			return message.Time, "short"
		case 'T':
			return message.Time, "medium"
		}
	}
	if strings.Trim(format, "#0,.") == "" && strings.ContainsAny(format, "#0") {
		return customNumber(format)
	}
	if strings.Trim(format, "#0,.% \u00a0") == "" && strings.Contains(format, "%") {
		return message.Percent, message.NewStyle(fractionOf(strings.Trim(format, "% \u00a0")))
	}
	if strings.ContainsAny(format, "yMd") {
		return message.Date, message.Style("=" + format)
	}
	if strings.ContainsAny(format, "Hhms") {
		return message.Time, message.Style("=" + format)
	}
	return message.String, message.Style("=" + format)
}

func fractionOf(format string) string {
	_, fraction, ok := strings.Cut(format, ".")
	if !ok {
		return ""
	}
	return "." + fraction
}

func customNumber(format string) (message.Type, message.Style) {
	whole, fraction, decimal := strings.Cut(format, ".")
	group := ""
	if strings.Contains(whole, ",") {
		group = "group"
	}
	if !decimal {
		zeros := strings.Count(whole, "0")
		if zeros > 1 && group == "" {
			return message.Integer, message.Style(fmt.Sprintf("zero=%d", zeros))
		}
		return message.Integer, message.NewStyle(group)
	}
	return message.Decimal, message.NewStyle(group, "."+fraction)
}

var doubled = strings.NewReplacer("{", "{{", "}", "}}")

// Write writes a pattern and tells what it could not say. Only a message with
// placeholders is a format string in which braces are doubled.
func Write(p message.Pattern, formatted bool) (string, []message.Loss) {
	if len(p) == 1 && !formatted {
		if text, ok := p[0].(message.Text); ok {
			return string(text), nil
		}
	}
	var out strings.Builder
	var losses []message.Loss
	for _, part := range p {
		switch part := part.(type) {
		case message.Text:
			if formatted && strings.ContainsAny(string(part), "{}") {
				out.WriteString(doubled.Replace(string(part)))
			} else {
				out.WriteString(string(part))
			}
		case *message.Markup:
			out.WriteString(part.String())
		case *message.Placeholder:
			text, lost := spell(part)
			out.WriteString(text)
			losses = append(losses, lost...)
		}
	}
	return out.String(), losses
}

func spell(p *message.Placeholder) (string, []message.Loss) {
	if p.Syntax == message.Composite && p.Spelling != "" {
		return p.Spelling, nil
	}
	var losses []message.Loss
	lose := func() {
		losses = append(losses, message.Loss{Kind: "number-style", Lost: fmt.Sprintf("the style %q of {%s}", p.Style, p.Name), Instead: "the plain " + p.Type.String()})
	}
	style := p.Style
	width := style.Value("width")
	if style.Has("left") {
		width = -width
	}
	style, _ = style.Without("width", "left")
	least, most, fraction := style.Fraction()
	pattern, skeleton, custom := style.Custom()
	format := ""
	if p.Type >= message.Date && style == "" {
		losses = append(losses, message.Loss{Kind: "number-style", Lost: "that the " + p.Type.String() + " {" + p.Name + "} has no style of its own", Instead: "the short one"})
	}
	switch p.Type {
	case message.String:
		if custom && !skeleton {
			format = pattern
		} else if style != "" {
			lose()
		}
	case message.Integer:
		rest, _ := style.Without("group", "zero", "hex", "upper")
		switch zero := style.Value("zero"); {
		case style.Has("hex"):
			format = map[bool]string{true: "X", false: "x"}[style.Has("upper")]
		case zero > 0:
			format = "D" + strconv.Itoa(zero)
		case style.Has("group"):
			format = "N0"
		default:
			format = "D"
		}
		if rest != "" {
			lose()
		}
	case message.Decimal:
		letter := "F"
		if style.Has("group") {
			letter = "N"
		} else if style.Has("scientific") {
			letter = "E"
		}
		switch {
		case !fraction && letter == "F":
			format = "0.######"
		case !fraction && letter == "N":
			format = "#,##0.###"
		case !fraction:
			format = letter
		case least == most:
			format = letter + strconv.Itoa(most)
		default:
			format = map[string]string{"F": "0", "N": "#,##0", "E": "0"}[letter] + "." + strings.Repeat("0", least) + strings.Repeat("#", most-least)
		}
		rest, _ := style.Without("group", "scientific")
		if word := "." + strings.Repeat("0", least) + strings.Repeat("#", most-least); rest != "" && string(rest) != word {
			lose()
		}
	case message.Percent:
		format = "P0"
		if fraction {
			format = "P" + strconv.Itoa(most)
		}
	case message.Currency:
		format = "C"
		if fraction {
			format += strconv.Itoa(most)
		}
		if code := style.Code(); code != "" {
			losses = append(losses, message.Loss{Kind: "number-style", Lost: fmt.Sprintf("that {%s} is in %s", p.Name, code), Instead: "the currency of the program's culture"})
		}
	case message.Date, message.Time:
		format = dateFormat(p.Type, style)
		if format == "" {
			lose()
			format = map[message.Type]string{message.Date: "d", message.Time: "t"}[p.Type]
		}
	}
	out := "{" + strconv.Itoa(p.Position-1)
	if width != 0 {
		out += "," + strconv.Itoa(width)
	}
	if format != "" {
		out += ":" + format
	}
	return out + "}", losses
}

// dateFormat gives the format for a date or time style, or "" where .NET's
// culture-aware formats cannot say it.
func dateFormat(kind message.Type, style message.Style) string {
	pattern, skeleton, custom := style.Custom()
	switch {
	case custom && !skeleton && !strings.HasPrefix(pattern, "%"):
		return pattern
	case pattern == "MMMMd":
		return "M"
	case pattern == "yMMMM":
		return "Y"
	case custom:
		return ""
	case kind == message.Time && style.Has("medium"):
		return "T"
	case kind == message.Time && (style == "" || style.Has("short")):
		return "t"
	case kind == message.Date && (style == "" || style.Has("short")):
		return "d"
	}
	return ""
}

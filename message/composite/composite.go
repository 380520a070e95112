// Package composite reads and writes the placeholders of .NET's composite
// format strings: {0}, {1,8}, {2:N2}, with {{ and }} for braces.
//
// A text without any placeholder is not a format string: it is shown as it
// stands, braces included.
package composite

import (
	"fmt"
	"iter"
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
		return message.Pattern(nil).Add(message.Text(text)), nil
	}
	var p message.Pattern
	var faults []message.Fault
	var literal strings.Builder
	flush := func() {
		p = p.Add(message.Text(literal.String()))
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
			Fix:  fmt.Sprintf("write %c%c for a brace", c, c),
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
// and custom dates (.NET, Standard and Custom format strings). The letter D
// means a whole number, though a date would be written long by it; d is a short
// date. What has no words of the Style vocabulary is kept as net=FORMAT.
func meaning(format string) (message.Type, message.Style) {
	if format == "" {
		return message.String, ""
	}
	letter, digits := format[0], -1
	if n, err := strconv.Atoi(format[1:]); err == nil && format[1] != '-' && format[1] != '+' {
		digits = n
	}
	if len(format) == 1 || digits >= 0 {
		if kind, style, ok := standard(letter, digits); ok {
			return kind, style
		}
		return map[byte]message.Type{'f': message.Date, 'g': message.Date, 'o': message.Date, 'O': message.Date, 's': message.Date, 'u': message.Date, 'U': message.Date}[letter], own(format)
	}
	if kind, style, ok := customNumber(format); ok {
		return kind, style
	}
	if kind := dateParts(format); kind != message.String {
		if pattern, ok := rewrite(format, fromNet, fromNetQuotes); ok {
			return kind, message.Style("=" + pattern)
		}
		return kind, own(format)
	}
	return message.String, own(format)
}

// own keeps a format that the Style vocabulary has no words for.
func own(format string) message.Style {
	return message.Style("net=" + strings.ReplaceAll(format, " ", "_"))
}

func standard(letter byte, digits int) (message.Type, message.Style, bool) {
	number := func(missing int) string {
		if digits < 0 {
			return message.FractionWord(missing)
		}
		return message.FractionWord(digits)
	}
	zeros := func() string {
		if digits > 1 {
			return fmt.Sprintf("zero=%d", digits)
		}
		return ""
	}
	switch letter {
	case 'N', 'n':
		if digits == 0 {
			return message.Integer, "group", true
		}
		return message.Decimal, message.NewStyle("group", number(2)), true
	case 'F', 'f':
		if letter == 'f' && digits < 0 {
			return 0, "", false
		}
		return message.Decimal, message.NewStyle(number(2)), true
	case 'D', 'd':
		if letter == 'd' && digits < 0 {
			return message.Date, "short", true
		}
		return message.Integer, message.NewStyle(zeros()), true
	case 'P', 'p':
		if digits == 0 {
			return message.Percent, "", true
		}
		return message.Percent, message.NewStyle(number(2)), true
	case 'C', 'c':
		return message.Currency, message.NewStyle(message.FractionWord(digits)), true
	case 'X':
		return message.Integer, message.NewStyle("hex upper", zeros()), true
	case 'x':
		return message.Integer, message.NewStyle("hex", zeros()), true
	case 'E':
		return message.Decimal, message.NewStyle(number(6), "scientific upper"), true
	case 'e':
		return message.Decimal, message.NewStyle(number(6), "scientific"), true
	case 'M', 'm':
		return message.Date, "::MMMMd", digits < 0
	case 'Y', 'y':
		return message.Date, "::yMMMM", digits < 0
	case 't':
		return message.Time, "short", digits < 0
	case 'T':
		return message.Time, "medium", digits < 0
	}
	return 0, "", false
}

// customNumber reads a pattern of digits such as #,##0.0#, 0000 or 0.0%.
func customNumber(format string) (message.Type, message.Style, bool) {
	switch format { // as many digits as there are
	case "0.######":
		return message.Decimal, "", true
	case "#,##0.###":
		return message.Decimal, "group", true
	}
	plain, percent := strings.CutSuffix(format, "%")
	whole, fraction, decimal := strings.Cut(plain, ".")
	zero, group := 0, ""
	switch {
	case whole == "#,##0" || whole == "#,0" || whole == "0,0":
		group = "group"
	case whole != "" && strings.Trim(whole, "0") == "":
		zero = len(whole)
	default:
		return 0, "", false
	}
	if decimal && (fraction == "" || strings.Trim(strings.TrimLeft(fraction, "0"), "#") != "") {
		return 0, "", false
	}
	words := []string{group}
	if decimal {
		words = append(words, "."+fraction)
	}
	if zero > 1 {
		words = append(words, fmt.Sprintf("zero=%d", zero))
	}
	switch {
	case percent && zero < 2 && group == "":
		return message.Percent, message.NewStyle(words...), true
	case percent:
		return 0, "", false
	case decimal:
		return message.Decimal, message.NewStyle(words...), true
	}
	return message.Integer, message.NewStyle(words...), true
}

// dateParts tells a date pattern from one of a time, by its letters outside of
// quotes; String is neither.
func dateParts(format string) message.Type {
	kind := message.String
	for letter := range letters(format) {
		switch letter[0] {
		case 'y', 'M', 'd':
			return message.Date
		case 'H', 'h', 'm', 's':
			kind = message.Time
		}
	}
	return kind
}

// letters yields the runs of one letter that stand outside of quotes, and all
// else piece by piece.
func letters(pattern string) iter.Seq[string] {
	return func(yield func(string) bool) {
		for i := 0; i < len(pattern); {
			end := i + 1
			switch c := pattern[i]; {
			case c == '\'' || c == '"':
				if n := strings.IndexByte(pattern[end:], c); n >= 0 {
					end += n + 1
				}
			case c == '\\':
				end = min(end+1, len(pattern))
			case c|0x20 >= 'a' && c|0x20 <= 'z':
				for end < len(pattern) && pattern[end] == c {
					end++
				}
			}
			if !yield(pattern[i:end]) {
				return
			}
			i = end
		}
	}
}

// fromNet returns the date field symbols of UTS #35 for those of .NET's custom
// date formats; toNet is the way back. Runs that are not here are the same in both, if
// they are in same.
var (
	fromNet = map[string]string{"ddd": "EEE", "dddd": "EEEE", "tt": "a", "y": "", "gg": "G", "zzz": "xxx", "t": ""}
	toNet   = map[string]string{"EEE": "ddd", "E": "ddd", "EEEE": "dddd", "a": "tt", "y": "yyyy", "G": "gg", "xxx": "zzz"}
	same    = map[string]bool{"d": true, "dd": true, "M": true, "MM": true, "MMM": true, "MMMM": true, "yy": true, "yyyy": true, "h": true, "hh": true, "H": true, "HH": true, "m": true, "mm": true, "s": true, "ss": true}
)

// Each side quotes in its own way: .NET by a backslash, too.
func fromNetQuotes(piece string) string {
	if piece[0] == '\\' {
		piece = piece[1:]
	} else {
		piece = piece[1 : len(piece)-1]
	}
	return "'" + strings.ReplaceAll(piece, "'", "''") + "'"
}

func keepQuotes(piece string) string { return piece }

// rewrite brings a date pattern into other letters; it is false where one has
// no counterpart.
func rewrite(pattern string, table map[string]string, quotes func(string) string) (string, bool) {
	var out strings.Builder
	for piece := range letters(pattern) {
		switch c := piece[0]; {
		case c == '\'' || c == '"' || c == '\\':
			if len(piece) < 2 {
				return "", false
			}
			out.WriteString(quotes(piece))
		case c|0x20 >= 'a' && c|0x20 <= 'z':
			other, ok := table[piece]
			if !ok && same[piece] {
				other = piece
			}
			if other == "" {
				return "", false
			}
			out.WriteString(other)
		case c == '%' || c == '{' || c == '}':
			return "", false
		default:
			out.WriteString(piece)
		}
	}
	return out.String(), true
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
			text, lost := Spell(part)
			out.WriteString(text)
			losses = append(losses, lost...)
		}
	}
	return out.String(), losses
}

// Spell writes a placeholder, and tells what it could not say. A spelling of the
// syntax is kept.
func Spell(p *message.Placeholder) (string, []message.Loss) {
	if p.Syntax == message.Composite && p.Spelling != "" && !p.Wrapped {
		return p.Spelling, nil
	}
	if p.Type == message.String && p.Style == "" {
		return "{" + strconv.Itoa(p.Position-1) + "}", nil
	}
	style := p.Style
	width := style.Value("width")
	if style.Has("left") {
		width = -width
	}
	style, _ = style.Without("width", "left")
	out := "{" + strconv.Itoa(p.Position-1)
	if width != 0 {
		out += "," + strconv.Itoa(width)
	}
	if format := formatOf(p.Type, style); format != "" {
		out += ":" + format
	}
	out += "}"
	it, _ := scan(out)
	return out, p.Lost(placeholder(it, out))
}

// formatOf returns the format that comes nearest to a type and style.
func formatOf(kind message.Type, style message.Style) string {
	if format, ok := strings.CutPrefix(string(style), "net="); ok {
		return strings.ReplaceAll(format, "_", " ")
	}
	least, most, fraction := style.Fraction()
	zero := style.Value("zero")
	digits := func(letter string) string {
		if fraction {
			return letter + strconv.Itoa(most)
		}
		return letter
	}
	whole := strings.Repeat("0", max(zero, 1))
	if style.Has("group") {
		whole = "#,##0"
	}
	switch kind {
	case message.Integer:
		letter := "D"
		switch {
		case style.Has("hex") && style.Has("upper"):
			letter = "X"
		case style.Has("hex"):
			letter = "x"
		case style.Has("group"):
			return "N0"
		}
		if zero > 0 {
			letter += strconv.Itoa(zero)
		}
		return letter
	case message.Decimal:
		letter := "F"
		switch {
		case style.Has("scientific") && style.Has("upper"):
			letter = "E"
		case style.Has("scientific"):
			letter = "e"
		case fraction && least < most || zero > 1:
			return whole + "." + strings.Repeat("0", least) + strings.Repeat("#", most-least)
		case !fraction:
			return whole + "." + map[bool]string{true: "###", false: "######"}[style.Has("group")]
		case style.Has("group"):
			letter = "N"
		}
		return digits(letter)
	case message.Percent:
		if !fraction {
			return "P0"
		}
		return digits("P")
	case message.Currency:
		return digits("C")
	case message.Date, message.Time:
		pattern, skeleton, custom := style.Custom()
		if custom && !skeleton {
			if net, ok := rewrite(pattern, toNet, keepQuotes); ok && len(net) > 1 {
				return net
			}
		}
		switch {
		case skeleton && pattern == "MMMMd":
			return "M"
		case skeleton && pattern == "yMMMM":
			return "Y"
		case kind == message.Time && style.Has("medium"):
			return "T"
		case kind == message.Time:
			return "t"
		}
		return "d"
	}
	return ""
}

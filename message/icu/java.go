package icu

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"zelvik/message"
)

// ParseJava reads a pattern of java.text.MessageFormat, and of ICU's own for
// Java, which knows plurals: {0}, {0,number,#.##}, {0,choice,0#none|1#one}.
// An apostrophe that is not doubled quotes what follows it, for
// MessageFormat; a bare one is a fault, and is read as it was meant.
func ParseJava(text string) (message.Message, []message.Fault) {
	p := &parser{text: text, java: true}
	m, faults := parse(p)
	for _, at := range p.bare {
		faults = append(faults, message.Fault{Offset: at, Rule: "escape-wrong", Text: "a bare apostrophe in a text with placeholders, which quotes what follows it", Fix: "write it twice: ''"})
	}
	return m, faults
}

// limits reads a choice format (java.text.ChoiceFormat): "0#none|1#one|1<{0}".
// Limits that stand for single numbers become exact cases and the last one
// other; a choice with other ranges is kept as it is spelled.
func (p *parser) limits(argument message.Placeholder, style string) ([]message.Branch, *message.Fault) {
	type limit struct {
		number int
		above  bool
		text   string
	}
	var list []limit
	for _, part := range splitLimits(strings.TrimLeft(style, " \t\n\r")) {
		end := strings.IndexAny(part, "#<≤")
		if end < 0 {
			return nil, p.fault("a limit of the choice without # or <", "write 0#none|1#one|1<more")
		}
		n, err := strconv.Atoi(strings.TrimSpace(part[:end]))
		if err != nil {
			return []message.Branch{{Pattern: message.Pattern{&argument}}}, nil
		}
		text := strings.TrimPrefix(strings.TrimPrefix(part[end:], "≤"), "#")
		above := strings.HasPrefix(text, "<")
		list = append(list, limit{n, above, strings.TrimPrefix(text, "<")})
	}
	for i := range list {
		last := i == len(list)-1
		if list[i].above != last && !(last && i > 0 && list[i-1].number+1 == list[i].number) || !last && (list[i].above || i+1 < len(list)-1 && list[i+1].number != list[i].number+1) ||
			last && list[i].above && i > 0 && list[i-1].number != list[i].number {
			return []message.Branch{{Pattern: message.Pattern{&argument}}}, nil
		}
	}
	if len(list) < 2 {
		return []message.Branch{{Pattern: message.Pattern{&argument}}}, nil
	}
	s := message.Selector{Argument: argument}
	s.Argument.Type, s.Argument.Spelling = message.Integer, chosen
	index := p.selector(s)
	var out []message.Branch
	for i, l := range list {
		key := "=" + strconv.Itoa(l.number)
		if i == len(list)-1 {
			key = message.Default
		}
		inner := &parser{text: l.text, java: true, selectors: p.selectors, others: p.others, depth: p.depth}
		branches, err := inner.sequence()
		if err != nil {
			return nil, p.fault(err.Text, err.Fix)
		}
		p.selectors, p.others = inner.selectors, inner.others
		p.others[index] = p.others[index] || key == message.Default
		out = append(out, message.Under(index, key, branches)...)
	}
	return out, nil
}

// chosen is the spelling of a selector that was a choice format, which takes its first
// text below its first limit.
const chosen = "{,choice}"

// native writes the limits of a choice format in quotes, for MessageFormat; false where
// the choice was none, or has other arguments in it.
func (o *output) native(s message.Selector, variants []message.Variant) bool {
	if o.Own == nil || s.Argument.Spelling != chosen {
		return false
	}
	for _, v := range variants {
		for _, part := range v.Pattern {
			if p, ok := part.(*message.Placeholder); ok && !p.Same(&s.Argument) {
				return false
			}
		}
	}
	inner := output{Writer: Writer{Java: true, Numbered: true}}
	if !inner.limits(s, variants) || o.Own(&message.Placeholder{Syntax: message.ICU, Spelling: string(inner.out)}) == "" {
		return false
	}
	o.out = append(o.out, quoted(&s.Argument, o.id(&s.Argument), string(inner.out))...)
	return true
}

// splitLimits parts a choice at the bars that stand outside braces and quotes.
func splitLimits(style string) []string {
	var parts []string
	depth, start, quoted := 0, 0, false
	for i := 0; i < len(style); i++ {
		switch c := style[i]; {
		case c == '\'':
			quoted = !quoted
		case quoted:
		case c == '{':
			depth++
		case c == '}':
			depth--
		case c == '|' && depth == 0:
			parts = append(parts, style[start:i])
			start = i + 1
		}
	}
	return append(parts, style[start:])
}

// limits writes a plural with exact cases alone as a choice format; false
// where it is no such plural.
func (o *output) limits(s message.Selector, variants []message.Variant) bool {
	if s.Kind != message.Plural || s.Offset != 0 || len(variants) < 2 || variants[len(variants)-1].Keys[0] != message.Default {
		return false
	}
	for i, v := range variants[:len(variants)-1] {
		if v.Keys[0] != "="+strconv.Itoa(i) && (i == 0 || v.Keys[0] != "="+strconv.Itoa(exact(variants[0])+i)) && (i > 0 || exact(v) < 0) {
			return false
		}
	}
	for _, v := range variants {
		if strings.ContainsAny(v.Pattern.Literal(), "'|#<≤{}") || slices.ContainsFunc(v.Pattern, isMarkup) {
			return false
		}
	}
	o.out = append(o.out, "{"+o.id(&s.Argument)+",choice,"...)
	for i, v := range variants {
		if i == len(variants)-1 {
			o.out = fmt.Appendf(o.out, "|%d<", exact(variants[i-1]))
		} else {
			if i > 0 {
				o.out = append(o.out, '|')
			}
			o.out = fmt.Appendf(o.out, "%d#", exact(v))
		}
		o.pattern(v.Pattern)
	}
	o.out = append(o.out, '}')
	return true
}

func isMarkup(part message.Part) bool {
	_, ok := part.(*message.Markup)
	return ok
}

// exact returns the number of an exact case, or -1.
func exact(v message.Variant) int {
	digits, ok := strings.CutPrefix(v.Keys[0], "=")
	n, err := strconv.Atoi(digits)
	if !ok || err != nil {
		return -1
	}
	return n
}

// spellJava writes an argument in the words of MessageFormat (DecimalFormat
// and SimpleDateFormat patterns), and tells what it could not say.
func spellJava(p *message.Placeholder, id string, counted bool) (string, []message.Loss) {
	if at := strings.Index(p.Spelling, ",choice,"); p.Syntax == message.ICU && at > 0 {
		return "{" + id + p.Spelling[at:], nil
	}
	if p.Syntax == message.ICU && own(p.Spelling, id) && javaWords(p) {
		return p.Spelling, nil
	}
	var losses []message.Loss
	lose := func(what, instead string) {
		losses = append(losses, message.Loss{Kind: "number-style", Lost: what + " of {" + id + "}", Instead: instead})
	}
	style := p.Style
	if pattern, skeleton, ok := style.Custom(); ok && skeleton {
		lose("the skeleton \""+pattern+"\"", "the "+p.Type.String()+" as the platform writes it")
		return "{" + id + "," + p.Type.String() + "}", losses
	}
	switch p.Type {
	case message.String, message.Date, message.Time:
		return spell(p, id, counted)
	case message.Integer, message.Decimal:
		if pattern, _, ok := style.Custom(); ok {
			return "{" + id + ",number," + pattern + "}", nil
		}
		least, most, fraction := style.Fraction()
		rest, _ := style.Without("group", "zero", "sign", "."+strings.Repeat("0", least)+strings.Repeat("#", max(most-least, 0)))
		if rest != "" {
			lose("the style \""+string(rest)+"\"", "the plain number")
		}
		if p.Type == message.Integer && style == "group" {
			return "{" + id + ",number,integer}", losses
		}
		if p.Type == message.Decimal && style == "group" {
			return "{" + id + ",number}", losses
		}
		if p.Type == message.Integer && style == "" && counted {
			return "{" + id + "}", losses
		}
		pattern := strings.Repeat("0", max(1, style.Value("zero")))
		if style.Has("group") {
			pattern = "#,##" + pattern
		}
		switch {
		case fraction && most > 0:
			pattern += "." + strings.Repeat("0", least) + strings.Repeat("#", most-least)
		case p.Type == message.Decimal && style.Has("group"):
			pattern += ".###"
		case p.Type == message.Decimal && !fraction:
			pattern += ".######"
		}
		if style.Has("sign") {
			pattern = "+" + pattern + ";-" + pattern
		}
		return "{" + id + ",number," + pattern + "}", losses
	case message.Percent:
		if _, most, ok := style.Fraction(); ok && most > 0 {
			return "{" + id + ",number,#,##0." + strings.Repeat("0", most) + "%}", nil
		}
		return "{" + id + ",number,percent}", nil
	}
	if style != "" {
		lose("the currency style \""+string(style)+"\"", "the platform's own currency")
	}
	return "{" + id + ",number,currency}", losses
}

// javaWords reports whether a spelling has a type and style that MessageFormat
// knows.
func javaWords(p *message.Placeholder) bool {
	_, rest, _ := strings.Cut(p.Spelling, ",")
	kind, style, _ := strings.Cut(strings.TrimSuffix(rest, "}"), ",")
	switch strings.TrimSpace(kind) {
	case "number", "date", "time":
		return !strings.HasPrefix(strings.TrimSpace(style), "::") && !strings.HasPrefix(strings.TrimSpace(style), "'")
	}
	return false
}

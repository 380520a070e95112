package icu

import (
	"strconv"
	"strings"

	"zelvik/message"
	"zelvik/message/native"
)

// readStyle sets type and style of an argument from ICU's type and style
// words (UTS #35, number skeletons and date field symbols). It reports whether
// the type is one.
func readStyle(p *message.Placeholder, kind, style string) bool {
	if carried(p, style) {
		return true
	}
	switch kind {
	case "number":
		p.Type, p.Style = numberStyle(style)
	case "date", "time":
		p.Type = map[string]message.Type{"date": message.Date, "time": message.Time}[kind]
		switch {
		case style == "", strings.HasPrefix(style, "::"), message.Style(style).Length() != "":
			p.Style = message.Style(style)
		default:
			p.Style = message.Style("=" + style)
		}
	case "spellout", "ordinal", "duration":
		p.Type, p.Style = message.Decimal, message.Style(kind)
	default:
		return false
	}
	return true
}

func numberStyle(style string) (message.Type, message.Style) {
	switch style {
	case "":
		return message.Decimal, "group"
	case "integer":
		return message.Integer, "group"
	case "percent":
		return message.Percent, ""
	case "currency":
		return message.Currency, ""
	case "::group-off": // the plain whole number
		return message.Integer, ""
	}
	skeleton, ok := strings.CutPrefix(style, "::")
	if !ok {
		return patternStyle(style)
	}
	kind := message.Decimal
	words := []string{"group"}
	for stem := range strings.FieldsSeq(skeleton) {
		switch {
		case stem == "percent" || stem == "%" || stem == "%x100":
			kind = message.Percent
		case strings.HasPrefix(stem, "currency/"):
			kind = message.Currency
			words = append(words, strings.TrimPrefix(stem, "currency/"))
		case stem == "group-off" || stem == ",_":
			words[0] = ""
		case stem == "precision-integer" || stem == ".":
			if kind == message.Decimal {
				kind = message.Integer
			} else {
				words = append(words, ".")
			}
		case strings.HasPrefix(stem, "."):
			words = append(words, stem)
		case stem == "sign-always" || stem == "+!":
			words = append(words, "sign")
		case strings.Trim(stem, "0") == "":
			words = append(words, "zero="+strconv.Itoa(len(stem)))
		case strings.HasPrefix(stem, "integer-width/+"):
			words = append(words, "zero="+strconv.Itoa(strings.Count(stem, "0")))
		case stem == "scientific" || stem == "E0":
			words = append(words, "scientific")
		case stem == "scale/100":
		default:
			words = append(words, "icu:"+stem)
		}
	}
	if kind == message.Percent && !strings.Contains(skeleton, "100") {
		words = append(words, "unscaled") // the number is the percentage
	}
	joined := message.NewStyle(words...)
	if kind == message.Percent || kind == message.Currency {
		joined, _ = joined.Without("group")
	}
	if kind == message.Decimal && joined == anyDigits {
		joined = ""
	} else if kind == message.Decimal && joined == "" {
		kind = message.Integer // ::group-off alone is how a plain whole number is written
	}
	return kind, joined
}

// anyDigits is the stem for a number with as many fraction digits as it has.
const anyDigits = ".######"

// patternStyle reads a number pattern such as #,##0.00, 0000, +0;-0 or 0.0%.
func patternStyle(pattern string) (message.Type, message.Style) {
	plain, sign := pattern, ""
	if positive, negative, ok := strings.Cut(pattern, ";"); ok && positive == "+"+strings.TrimPrefix(negative, "-") {
		plain, sign = positive[1:], "sign"
	}
	plain, percent := strings.CutSuffix(plain, "%")
	if plain == "" || strings.Trim(plain, "#0,.") != "" {
		return message.Decimal, message.Style("=" + pattern)
	}
	whole, fraction, decimal := strings.Cut(plain, ".")
	group, zero := "", ""
	switch n := strings.Count(whole, "0"); {
	case whole == "#,##0":
		group = "group"
	case n == 0 || n < len(whole) || strings.Contains(strings.TrimLeft(fraction, "0"), "0") || percent && !decimal || decimal && fraction == "":
		return message.Decimal, message.Style("=" + pattern)
	case n > 1:
		zero = "zero=" + strconv.Itoa(n)
	}
	switch {
	case percent && group == "":
		return message.Decimal, "=" + message.Style(pattern)
	case plain == "0.######" || plain == "#,##0.###": // as many digits as there are
		return message.Decimal, message.NewStyle(group, sign)
	}
	if decimal {
		decimal = fraction != ""
		fraction = "." + fraction
	}
	switch {
	case percent:
		return message.Percent, message.NewStyle(fraction)
	case !decimal:
		return message.Integer, message.NewStyle(group, zero, sign)
	}
	return message.Decimal, message.NewStyle(group, fraction, zero, sign)
}

// carried reads a style that is the spelling of another syntax in quotes, as
// texts in exchange files carry what ICU has no words for:
// {price, number, '{0:C2}'}.
func carried(p *message.Placeholder, style string) bool {
	if len(style) < 3 || style[0] != '\'' || style[len(style)-1] != '\'' {
		return false
	}
	inner := strings.ReplaceAll(style[1:len(style)-1], "''", "'")
	own := native.Read(inner)
	if own == nil {
		own = ownOf(inner)
	}
	if own == nil {
		return false
	}
	p.Type, p.Style, p.Spelling, p.Syntax = own.Type, own.Style, own.Spelling, own.Syntax
	return true
}

// ownOf reads a spelling of ICU's own that its other forms do not say, such as a
// choice format of Java's.
func ownOf(text string) *message.Placeholder {
	p, _ := ParseJava(text)
	if len(p.Pattern) != 1 {
		return nil
	}
	own, _ := p.Pattern[0].(*message.Placeholder)
	return own
}

// carry writes an argument as spell does, and in quotes with the spelling that
// it has where that says more.
func carry(p *message.Placeholder, id string, counted bool) (string, []message.Loss) {
	text, losses := "", []message.Loss(nil)
	spelling := p.Spelling
	if p.Syntax != message.ICU || !strings.Contains(spelling, ",choice,") {
		if text, losses = spell(p, id, counted); losses == nil && native.Derived(p) {
			return text, nil
		}
		if spelling = native.Carry(p); spelling == "" {
			return text, losses
		}
	}
	return quoted(p, id, spelling), nil
}

// quoted writes an argument with a spelling in quotes as its style.
func quoted(p *message.Placeholder, id, spelling string) string {
	kind := "number"
	switch p.Type {
	case message.String:
		kind = "text"
	case message.Date, message.Time:
		kind = p.Type.String()
	}
	return "{" + id + ", " + kind + ", '" + strings.ReplaceAll(spelling, "'", "''") + "'}"
}

// spell writes an argument with its type and style, and tells what it could
// not say. Inside a plural over the same argument a plain whole number needs
// no style. A spelling of ICU's own that states a type is kept.
func spell(p *message.Placeholder, id string, counted bool) (string, []message.Loss) {
	if p.Style == "" && (p.Type == message.String || p.Type == message.Integer) { // most are
		if p.Type == message.String || counted {
			return "{" + id + "}", nil
		}
		return "{" + id + ", number, ::group-off}", nil
	}
	if p.Syntax == message.ICU && own(p.Spelling, id) {
		return p.Spelling, nil
	}
	text := "{" + id + format(p, counted) + "}"
	read := message.Placeholder{Type: p.Type}
	if again, faults := Parse(text); len(faults) == 0 && len(again.Pattern) == 1 {
		if q, ok := again.Pattern[0].(*message.Placeholder); ok && !(counted && q.Type == message.String) {
			read = *q
		}
	}
	return text, p.Lost(&read)
}

// own reports whether a spelling is that of an argument with a type, and names it
// by the same ID.
func own(spelling, id string) bool {
	name, style, ok := strings.Cut(spelling, ",")
	return ok && strings.TrimSpace(strings.TrimPrefix(name, "{")) == id && !strings.Contains(style, "choice")
}

// format returns type and style of an argument in ICU's words.
func format(p *message.Placeholder, counted bool) string {
	style := p.Style
	switch p.Type {
	case message.String:
		return ""
	case message.Date, message.Time:
		pattern, skeleton, custom := style.Custom()
		switch {
		case custom && skeleton:
			return ", " + p.Type.String() + ", ::" + pattern
		case custom && !strings.HasPrefix(pattern, "%"):
			return ", " + p.Type.String() + ", " + pattern
		case style.Length() != "":
			return ", " + p.Type.String() + ", " + style.Length()
		}
		return ", " + p.Type.String()
	}
	if style.Has("spellout") || style.Has("ordinal") || style.Has("duration") {
		return ", " + string(style)
	}
	stems := skeleton(p)
	switch {
	case counted && stems == "::group-off":
		return ""
	case stems != "":
		return ", number, " + stems
	}
	return ", number"
}

// skeleton writes a number's style as ICU's short words where they exist, else
// as a skeleton.
func skeleton(p *message.Placeholder) string {
	if pattern, _, ok := p.Style.Custom(); ok {
		return pattern
	}
	var list []string
	group := p.Style.Has("group")
	switch p.Type {
	case message.Integer:
		if p.Style == "group" {
			return "integer"
		}
		if p.Style.Value("zero") > 0 || group {
			list = append(list, ".")
		}
	case message.Percent:
		if p.Style == "" {
			return "percent"
		}
		if list, group = append(list, "percent"), true; !p.Style.Has("unscaled") {
			list = append(list, "scale/100")
		}
	case message.Currency:
		if p.Style == "" {
			return "currency"
		}
		if code := p.Style.Code(); code != "" {
			list = append(list, "currency/"+code)
		}
		group = true
	case message.Decimal:
		if p.Style == "group" {
			return ""
		}
	}
	for word := range strings.FieldsSeq(string(p.Style)) {
		switch {
		case word == "group" || word == p.Style.Code():
		case word[0] == '.':
			list = append(list, word)
		case word == "sign":
			list = append(list, "sign-always")
		case word == "scientific":
			list = append(list, "scientific")
		case strings.HasPrefix(word, "zero="):
			list = append(list, strings.Repeat("0", p.Style.Value("zero")))
		case strings.HasPrefix(word, "icu:"):
			list = append(list, strings.TrimPrefix(word, "icu:"))
		}
	}
	if p.Type == message.Decimal && !group && len(list) == 0 {
		list = append(list, anyDigits) // else it would read as a whole number
	}
	if !group {
		list = append(list, "group-off")
	}
	return "::" + strings.Join(list, " ")
}

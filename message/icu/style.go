package icu

import (
	"strings"

	"zelvik/message"
)

// readStyle sets type and style of an argument from ICU's type and style
// words (UTS #35, number skeletons and date field symbols). It reports whether
// the type is one.
func readStyle(p *message.Placeholder, kind, style string) bool {
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
			words = append(words, "zero="+itoa(len(stem)))
		case strings.HasPrefix(stem, "integer-width/+"):
			words = append(words, "zero="+itoa(strings.Count(stem, "0")))
		case stem == "scientific" || stem == "E0":
			words = append(words, "scientific")
		case stem == "scale/100":
		default:
			words = append(words, "icu:"+stem)
		}
	}
	joined := message.NewStyle(words...)
	if kind == message.Percent || kind == message.Currency {
		joined, _ = joined.Without("group")
	}
	if kind == message.Decimal && joined == "" {
		kind = message.Integer // ::group-off alone is how a plain whole number is written
	}
	return kind, joined
}

func itoa(n int) string { return string(rune('0' + min(n, 9))) }

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
	if strings.Contains(whole, ",") {
		group = "group"
	}
	if n := strings.Count(whole, "0"); n > 1 {
		zero = "zero=" + itoa(n)
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

// spell writes an argument with its type and style, and tells what it could
// not say. Inside a plural over the same argument a plain whole number needs
// no style.
func spell(p *message.Placeholder, id string, counted bool) (string, []message.Loss) {
	if p.Style == "" && (p.Type == message.String || p.Type == message.Integer) { // most are
		if p.Type == message.String || counted {
			return "{" + id + "}", nil
		}
		return "{" + id + ", number, ::group-off}", nil
	}
	var losses []message.Loss
	format := ""
	style := p.Style
	switch p.Type {
	case message.String:
		if style != "" {
			losses = append(losses, message.Loss{Kind: "number-style", Lost: "the style \"" + string(style) + "\" of {" + id + "}", Instead: "the plain text"})
		}
	case message.Date, message.Time:
		format = ", " + p.Type.String()
		pattern, skeleton, custom := style.Custom()
		switch {
		case custom && skeleton:
			format += ", ::" + pattern
		case custom && strings.HasPrefix(pattern, "%"):
			losses = append(losses, message.Loss{Kind: "number-style", Lost: "the part " + pattern + " of the date {" + id + "}", Instead: "the whole date"})
		case custom:
			format += ", " + pattern
		case style.Length() != "":
			format += ", " + style.Length()
		}
	default:
		stems, unsaid := skeleton(p)
		if unsaid != "" {
			losses = append(losses, message.Loss{Kind: "number-style", Lost: "the style \"" + unsaid + "\" of {" + id + "}", Instead: "the plain number"})
		}
		switch {
		case style.Has("spellout") || style.Has("ordinal") || style.Has("duration"):
			format = ", " + string(style)
		case counted && stems == "::group-off":
		default:
			format = ", number"
			if stems != "" {
				format += ", " + stems
			}
		}
	}
	return "{" + id + format + "}", losses
}

// skeleton writes a number's style as ICU's short words where they exist, else
// as a skeleton.
func skeleton(p *message.Placeholder) (stems, unsaid string) {
	if pattern, _, ok := p.Style.Custom(); ok {
		return pattern, ""
	}
	var list []string
	group := p.Style.Has("group")
	switch p.Type {
	case message.Integer:
		if p.Style == "group" {
			return "integer", ""
		}
		if p.Style.Value("zero") > 0 || group {
			list = append(list, ".")
		}
	case message.Percent:
		if p.Style == "" {
			return "percent", ""
		}
		list, group = append(list, "percent"), true
	case message.Currency:
		if p.Style == "" {
			return "currency", ""
		}
		if code := p.Style.Code(); code != "" {
			list = append(list, "currency/"+code)
		}
		group = true
	case message.Decimal:
		if p.Style == "group" {
			return "", ""
		}
	}
	var rest []string
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
		default:
			rest = append(rest, word)
		}
	}
	if p.Type == message.Decimal && !group && len(list) == 0 {
		list = append(list, ".000000") // else it would read as a whole number
	}
	if !group {
		list = append(list, "group-off")
	}
	return "::" + strings.Join(list, " "), strings.Join(rest, " ")
}

package native

import (
	"encoding/json"
	"strings"

	"zelvik/message"
)

// Declaration is what the metadata of an ARB says of a placeholder (Flutter
// internationalization guide, placeholders; names of intl's NumberFormat and
// DateFormat).
type Declaration struct {
	Type     string     `json:"type,omitempty"`
	Format   string     `json:"format,omitempty"`
	Custom   any        `json:"isCustomDateFormat,omitempty"` // true, or "true"
	Optional *Parameter `json:"optionalParameters,omitempty"`
}

// Parameter are the optional parameters of a number format.
type Parameter struct {
	Name    string `json:"name,omitempty"`
	Symbol  string `json:"symbol,omitempty"`
	Digits  *int   `json:"decimalDigits,omitempty"`
	Pattern string `json:"customPattern,omitempty"`
	Locale  string `json:"locale,omitempty"`
}

// String writes the declaration as JSON, as exchange files carry it.
func (d Declaration) String() string {
	var out strings.Builder
	encoder := json.NewEncoder(&out)
	encoder.SetEscapeHTML(false)
	_ = encoder.Encode(d)
	return strings.TrimSpace(out.String())
}

func readDeclaration(text string) *message.Placeholder {
	var d Declaration
	if json.Unmarshal([]byte(text), &d) != nil || d.Type == "" {
		return nil
	}
	p := &message.Placeholder{}
	d.Describe(p)
	return p
}

// ownWord is what a style begins with that the Style vocabulary has no words for.
const ownWord = "dart="

// word keeps the names of intl's format.
func (d Declaration) word() message.Style {
	word := d.Format
	if o := d.Optional; o != nil {
		word = strings.ReplaceAll(strings.Join([]string{d.Format, o.Name, o.Symbol, o.Pattern, o.Locale, message.FractionWord(o.digits())}, "/"), " ", "_")
	}
	return message.Style(ownWord + strings.TrimRight(word, "/"))
}

// ofWord is the way back.
func ofWord(style message.Style) Declaration {
	fields := append(strings.Split(strings.TrimPrefix(string(style), ownWord), "/"), "", "", "", "", "")
	d := Declaration{Type: "double", Format: fields[0]}
	if o := (Parameter{Name: fields[1], Symbol: fields[2], Pattern: fields[3], Locale: fields[4]}); o != (Parameter{}) || fields[5] != "" {
		if _, digits, ok := message.Style(fields[5]).Fraction(); ok {
			o.Digits = &digits
		}
		d.Optional = &o
	}
	return d
}

// same reports whether two declarations say the same.
func (d Declaration) same(e Declaration) bool {
	if d.Type != e.Type || d.Format != e.Format || d.Custom != e.Custom || (d.Optional == nil) != (e.Optional == nil) {
		return false
	}
	if d.Optional == nil {
		return true
	}
	a, b := *d.Optional, *e.Optional
	digits := a.digits() == b.digits()
	a.Digits, b.Digits = nil, nil
	return digits && a == b
}

func (p *Parameter) digits() int {
	if p == nil || p.Digits == nil {
		return -1
	}
	return *p.Digits
}

// Describe sets type and style of a placeholder. What they do not say of the
// declaration is kept as the placeholder's spelling.
func (d Declaration) Describe(p *message.Placeholder) {
	p.Type, p.Style = d.meaning(p.Type, p.Style)
	if d.Type != "" && !d.same(Declare(&message.Placeholder{Type: p.Type, Style: p.Style})) {
		p.Syntax, p.Spelling = message.Declared, d.String()
	}
}

func (d Declaration) meaning(was message.Type, style message.Style) (message.Type, message.Style) {
	digits := d.Optional.digits()
	plain := d.Optional == nil || *d.Optional == Parameter{Digits: d.Optional.Digits}
	switch {
	case d.Type == "DateTime":
		return dateStyle(d.Format, d.Custom != nil)
	case d.Type == "int" && d.Format == "":
		return message.Integer, ""
	case (d.Type == "num" || d.Type == "double") && d.Format == "":
		return message.Decimal, ""
	case d.Type != "int" && d.Type != "num" && d.Type != "double":
		return was, style
	}
	switch d.Format {
	case "percentPattern":
		if d.Optional == nil {
			return message.Percent, ""
		}
	case "decimalPercentPattern":
		if plain {
			return message.Percent, message.NewStyle(message.FractionWord(digits))
		}
	case "currency", "simpleCurrency":
		o := d.Optional
		if o == nil {
			return message.Currency, ""
		}
		if o.Pattern == "" && len(o.Name) == 3 && (o.Symbol == "" || o.Symbol == o.Name) || plain {
			return message.Currency, message.NewStyle(o.Name, message.FractionWord(digits))
		}
		return message.Currency, d.word()
	case "decimalPattern":
		if d.Optional == nil && d.Type == "int" {
			return message.Integer, "group"
		}
		if d.Optional == nil {
			return message.Decimal, "group"
		}
	case "decimalPatternDigits":
		if d.Type == "int" && digits <= 0 && plain {
			return message.Integer, "group"
		}
		if plain {
			return message.Decimal, message.NewStyle("group", message.FractionWord(digits))
		}
	case "scientificPattern":
		if d.Optional == nil {
			return message.Decimal, "scientific"
		}
	}
	if strings.HasPrefix(d.Format, "compact") && strings.HasSuffix(d.Format, "Currency") {
		return message.Currency, d.word()
	}
	return message.Decimal, d.word()
}

// dateStyle reads the name of a date format: yMd and yMMMd are skeletons.
func dateStyle(format string, custom bool) (message.Type, message.Style) {
	kind := message.Date
	if strings.ContainsAny(format, "jHhms") && !strings.ContainsAny(format, "yMdE") {
		kind = message.Time
	}
	switch {
	case format == "":
		return kind, ""
	case custom || strings.ContainsAny(format, " .,/-:'"):
		return kind, message.Style("=" + format)
	case format == "yMd":
		return kind, "short"
	case format == "jm":
		return kind, "short"
	}
	return kind, message.Style("::" + format)
}

// Declare returns the declaration that comes nearest to a placeholder's type and
// style.
func Declare(p *message.Placeholder) Declaration {
	if p.Syntax == message.Declared {
		var d Declaration
		if json.Unmarshal([]byte(p.Spelling), &d) == nil {
			return d
		}
	}
	if strings.HasPrefix(string(p.Style), ownWord) {
		return ofWord(p.Style)
	}
	if p.Style == "" && p.Type <= message.Integer {
		return Declaration{Type: [...]string{"String", "int"}[p.Type]}
	}
	d := Declaration{Type: "double"}
	_, digits, fraction := p.Style.Fraction()
	parameter := func() *Parameter {
		if d.Optional == nil {
			d.Optional = &Parameter{}
		}
		return d.Optional
	}
	if fraction && p.Type >= message.Decimal && p.Type <= message.Currency {
		parameter().Digits = &digits
	}
	switch p.Type {
	case message.String:
		d.Type = "String"
	case message.Integer:
		if d.Type = "int"; p.Style.Has("group") {
			d.Format = "decimalPattern"
		}
	case message.Decimal:
		switch {
		case p.Style.Has("scientific"):
			d.Format, d.Optional = "scientificPattern", nil
		case fraction:
			d.Format = "decimalPatternDigits"
		case p.Style != "":
			d.Format = "decimalPattern"
		}
	case message.Percent:
		if d.Format = "percentPattern"; fraction {
			d.Format = "decimalPercentPattern"
		}
	case message.Currency:
		if d.Format = "currency"; p.Style.Code() != "" {
			parameter().Name = p.Style.Code()
		}
	case message.Date, message.Time:
		d.Type, d.Format = "DateTime", dateName(p)
		if pattern, skeleton, ok := p.Style.Custom(); ok && !skeleton && !strings.ContainsAny(pattern, " .,/-:'") {
			d.Custom = true
		}
	}
	return d
}

// dateName returns the name of intl's date format, or its pattern.
func dateName(p *message.Placeholder) string {
	pattern, _, custom := p.Style.Custom()
	switch {
	case custom && !strings.HasPrefix(pattern, "%"):
		return pattern
	case p.Type == message.Time && p.Style.Length() != "medium":
		return "jm"
	case p.Type == message.Time:
		return "jms"
	}
	return map[string]string{"medium": "yMMMd", "long": "yMMMMd", "full": "yMMMMEEEEd"}[p.Style.Length()] + map[bool]string{true: "yMd"}[p.Style.Length() == "short" || p.Style.Length() == ""]
}

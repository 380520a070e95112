// Package typescript spells accessors in TypeScript (ES2022 modules): a class
// with the members, the switch, and the texts, on nothing but Intl.
package typescript

import (
	"embed"
	"encoding/json"
	"maps"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"
	"text/template"

	"zelvik/accessor"
	"zelvik/message"
	"zelvik/message/icu"
	"zelvik/message/native"
)

// Language is TypeScript.
var Language = &accessor.Language{
	Name: "typescript", Title: "TypeScript, ES2022 modules",
	Member:         accessor.Camel,
	PackagePattern: "letters, digits, - and _; modules need no package",
	ValidPackage:   func(name string) bool { return regexp.MustCompile(`^[\w./@-]*$`).MatchString(name) },
	Own:            own,
	Prints:         prints,
	Generate:       generate,
}

// reserved are the language's keywords and the members every object has.
func reserved() map[string]bool {
	return accessor.Reserved(`break case catch class const continue debugger default delete do else enum export
		extends false finally for function if import in instanceof new null return super switch this throw true try typeof
		var void while with implements interface let package private protected public static yield any boolean constructor
		declare get module require number set string symbol type from of await async arguments eval undefined
		toString valueOf hasOwnProperty isPrototypeOf propertyIsEnumerable toLocaleString cultures cultureSwitch`)
}

//go:embed *.tmpl
var files embed.FS

// templates are parsed when first used: they would slow every command down.
var templates = sync.OnceValue(func() *template.Template {
	return template.Must(template.New("").Funcs(template.FuncMap{
		"literal": literal, "doc": doc, "signature": signature, "check": check, "list": list, "row": row, "condition": condition, "keys": keys, "call": call, "items": items,
	}).ParseFS(files, "*.tmpl"))
})

// page is what a template sees.
type page struct {
	*accessor.Model
	*accessor.Catalog
	Header, File, Export string
	// Union is the type of the cultures.
	Union string
	accessor.Columns
	Cardinals, Ordinals []accessor.Ruled
}

func generate(m *accessor.Model) map[string][]byte {
	p := page{Model: m, Catalog: m.Catalogs[0], Header: comment(m.Header("typescript")), Export: "export "}
	if m.Hidden {
		p.Export = "/** @internal */\nexport "
	}
	p.Cardinals, p.Ordinals = m.Plurals("===", "!==")
	p.Columns = m.Columns(literal)
	tags := append(slices.Clone(p.Tags), "(string & Record<never, never>)")
	switch p.Union = " " + strings.Join(tags, " | "); {
	case len("export type Culture =;"+p.Union) <= width:
	case len(" ;"+p.Union) <= width:
		p.Union = "\n " + p.Union
	default:
		p.Union = "\n  | " + strings.Join(tags, "\n  | ")
	}
	files := m.Spell(templates(), p, []accessor.Output{
		{Template: "cultureSwitch.ts.tmpl", File: "cultureSwitch.ts"},
		{Template: "cultureMessage.ts.tmpl", File: "cultureMessage.ts"},
		{Template: "cultureStore.ts.tmpl", File: "cultureStore.ts", Optional: true, Wanted: m.Binding},
	})
	for _, c := range m.Catalogs {
		c.Name(reserved(), accessor.Camel, accessor.Camel)
		p.Catalog, p.File = c, strings.ToLower(c.Type[:1])+c.Type[1:]
		maps.Copy(files, m.Spell(templates(), p, []accessor.Output{
			{Template: "wording.ts.tmpl", File: p.File + ".ts"},
			{Template: "texts.ts.tmpl", File: p.File + "Texts.ts"},
			{Template: "cases.ts.tmpl", File: p.File + "Cases.ts", Cases: true},
		}))
	}
	return files
}

// known are the styles of numbers and dates that Intl writes (ECMA-402): words of
// ICU's, stems of its skeletons, fields of dates, and patterns of digits.
var known = sync.OnceValue(func() *regexp.Regexp {
	return regexp.MustCompile(`^(|integer|percent|short|medium|long|full|::[GyMLdEcjhHkKmsBz]+|` +
		`::(` + stem + `)( +(` + stem + `))*|[^#0,.;%\x60'E\x{a4}]*[#0,]+(\.[#0]*)?%?[^#0,.;%'E\x{a4}]*(;[^#0,.;'E\x{a4}]+[#0,.]+[^#0,.;'E\x{a4}]*)?)$`)
})

const stem = `group-(off|auto|min2|on-aligned)|,[_?!]|percent|%(x100)?|scale/10+|compact-(short|long)|KK?|scientific|engineering|EE?0|` +
	`sign-(auto|always|never|except-zero|accounting|accounting-always)|\+[!_?]|\(\)!?|precision-integer|unit-width-(short|narrow|full-name|iso-code)|` +
	`rounding-mode-(ceiling|floor|down|up|half-even|half-up|half-down)|latin|currency/[A-Z]{3}|unit/[a-z-]+|measure-unit/[a-z-]+|@+#*[*+]?|\.0*#*[*+]?|0+|integer-width/\+0+`

// prints reports whether Intl writes a placeholder.
func prints(p *message.Placeholder) bool {
	if p.Type == message.String || p.Type == message.Integer && p.Style == "" {
		return true
	}
	text, _ := icu.Writer{}.Argument(p)
	parts := strings.SplitN(strings.TrimSuffix(text, "}"), ",", 3)
	style := ""
	if len(parts) == 3 {
		style = strings.TrimSpace(parts[2])
	}
	if kind := strings.TrimSpace(parts[1]); kind != "number" && kind != "date" && kind != "time" {
		return false
	}
	return known().MatchString(style)
}

// own writes the formats that ARB declares as intl's NumberFormat prints them, as
// skeletons.
func own(p *message.Placeholder) string {
	if !strings.HasPrefix(string(p.Style), "dart=") && p.Syntax != message.Declared {
		return ""
	}
	d := native.Declare(p)
	code := ""
	if d.Optional != nil {
		if d.Optional.Symbol != "" || d.Optional.Pattern != "" || d.Optional.Locale != "" || d.Optional.Digits != nil {
			return ""
		}
		if d.Optional.Name != "" {
			code = " currency/" + d.Optional.Name
		}
	}
	switch d.Format {
	case "compact":
		return "::compact-short @@#" // intl shows three digits
	case "compactLong":
		return "::compact-long @@#"
	case "compactCurrency", "compactSimpleCurrency":
		if code != "" {
			return "::compact-short @@#" + code + map[bool]string{true: " unit-width-narrow"}[d.Format != "compactCurrency"]
		}
	case "scientificPattern":
		return "::scientific ."
	case "simpleCurrency":
		if code != "" {
			return "::unit-width-narrow" + code
		}
	}
	return ""
}

// width is that of the lines, in characters.
const width = 120

// layout is that of the formatter with lines of 120 characters.
var layout = accessor.Layout{Width: width, Indent: 2, Hang: 2, Comma: true}

func list(head string, items []string) string {
	return layout.Lay(accessor.Row(head+"[", items, "]"), 0, ";")
}

// signature writes the head of a member.
func signature(m accessor.Member) string {
	head := accessor.Piece{Text: m.Name + "(", Close: "): string {"}
	if len(m.Parameters) < 2 {
		for _, p := range m.Parameters {
			head.Items = append(head.Items, accessor.Piece{Text: p.Name + ": " + typeOf(p)})
		}
		return layout.Lay(head, 2, "")
	}
	var named []string // so that two texts are not taken for one another
	for _, p := range m.Parameters {
		named = append(named, "readonly "+p.Name+": "+typeOf(p))
	}
	if line := head.Text + "values: { " + strings.Join(named, "; ") + " }" + head.Close; len(line)+2 <= width {
		return line
	}
	return head.Text + "values: {\n    " + strings.Join(named, ";\n    ") + ";\n  }" + head.Close
}

// typeOf returns the type of a parameter: of one that a text selects by, its cases and
// any other text.
func typeOf(p accessor.Parameter) string {
	if len(p.Cases) == 0 {
		return types.Of(p.Type)
	}
	var cases []string
	for _, one := range p.Cases {
		cases = append(cases, literal(one))
	}
	return strings.Join(append(cases, "(string & Record<never, never>)"), " | ")
}

// keys writes the keys of a catalog.
func keys(list []string) string {
	items := make([]string, len(list))
	for i, key := range list {
		items[i] = literal(key)
	}
	return layout.Lay(accessor.Row("keys: [", items, "]"), 2, ",")
}

// items returns the texts of an array.
func items(l accessor.List) string {
	return layout.Lay(accessor.Row("return [", l.Calls("this.", "()"), "]"), 4, ";")
}

// call writes what a member returns.
func call(file string, number int, m accessor.Member) string {
	piece := accessor.Piece{Text: "return this.cultures.render(", Items: accessor.Pieces(file+"Catalog", strconv.Itoa(number)), Close: ")"}
	const pairs = "new Map<string, string | number | Date>(["
	if len(m.Parameters) == 1 {
		p := m.Parameters[0]
		piece.Items = append(piece.Items, accessor.Row(pairs, []string{"[" + literal(p.Key) + ", " + p.Name + "]"}, "])"))
	} else if len(m.Parameters) > 1 { // the formatter gives each pair a line
		text := piece.Text + "\n      " + piece.Items[0].Text + ",\n      " + piece.Items[1].Text + ",\n      " + pairs
		for _, p := range m.Parameters {
			text += "\n        [" + literal(p.Key) + ", values." + p.Name + "],"
		}
		return text + "\n      ]),\n    );"
	}
	return layout.Lay(piece, 4, ";")
}

// check writes a call of a case.
func check(c accessor.Call) string {
	have := accessor.Piece{Text: "w." + c.Name + "(", Close: ")"}
	for i, v := range c.Values {
		text := value(v)
		if len(c.Values) > 1 {
			text = c.Parameters[i].Name + ": " + text
		}
		have.Items = append(have.Items, accessor.Piece{Text: text})
	}
	if len(c.Values) > 1 {
		have.Text, have.Close = have.Text+"{ ", " })"
	}
	text := layout.Lay(accessor.Piece{Text: "check(", Items: []accessor.Piece{{Text: literal(c.Key)}, have, {Text: literal(c.Want)}}, Close: ")"}, 2, ";")
	return closing().ReplaceAllString(strings.ReplaceAll(text, "{ \n", "{\n"), "$1})")
}

// closing matches a brace that closes a broken object, which stands a blank too far.
var closing = sync.OnceValue(func() *regexp.Regexp { return regexp.MustCompile(`(\n *) \}\)`) })

// condition writes the beginning of an if, in several lines where it is long.
func condition(text string) string {
	line := "      if (" + text + ")"
	if len(line)+len(" {") <= width {
		return line
	}
	return "      if (\n        " + strings.ReplaceAll(text, " || ", " ||\n        ") + "\n      )"
}

// row writes the texts of a culture.
func row(texts []string, culture int) string {
	items := make([]string, len(texts))
	for i, text := range texts {
		if items[i] = literal(text); text == "" && culture > 0 {
			items[i] = "null"
		}
	}
	return layout.Lay(accessor.Row("[", items, "]"), 4, ",")
}

// types are those of arguments.
var types = accessor.Types{Text: "string", Whole: "number", Decimal: "number", Moment: "Date"}

// literal writes a string literal; JSON's strings are TypeScript's.
func literal(text string) string {
	out, err := json.Marshal(text)
	if err != nil {
		return `""` // a string always marshals
	}
	if strings.Count(text, `"`) > strings.Count(text, "'") { // as its formatter prefers
		inner := strings.ReplaceAll(strings.ReplaceAll(string(out[1:len(out)-1]), `\"`, `"`), "'", `\'`)
		return "'" + inner + "'"
	}
	return string(out)
}

var trailing = sync.OnceValue(func() *regexp.Regexp {
	return regexp.MustCompile(`(?m)[ \t]+$`)
})

// doc writes text for a documentation comment, which it must not end.
func doc(text string) string {
	text = strings.NewReplacer("*/", "*\u2215", "@", "&#64;", "\r", "").Replace(text)
	text = strings.ReplaceAll(text, "\n", "\n   * ")
	return trailing().ReplaceAllString(text, "")
}

// comment is text for a line comment.
func comment(text string) string {
	return strings.Map(func(r rune) rune {
		if r < ' ' || r == '\u2028' || r == '\u2029' {
			return ' '
		}
		return r
	}, text)
}

// value writes an argument of a case.
func value(v accessor.Value) string {
	if v.Type == message.Integer {
		return v.Text
	}
	return literal(v.Text)
}

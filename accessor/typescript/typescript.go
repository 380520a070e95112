// Package typescript spells accessors in TypeScript (ES2022 modules): a class
// with the members, the switch, and the texts, on nothing but Intl.
package typescript

import (
	"embed"
	"encoding/json"
	"fmt"
	"regexp"
	"strings"
	"sync"
	"text/template"

	"zelvik/accessor"
	"zelvik/message"
)

// Language is TypeScript.
var Language = &accessor.Language{
	Name: "typescript", Title: "TypeScript, ES2022 modules",
	Member:         accessor.Camel,
	PackagePattern: "letters, digits, - and _; modules need no package",
	ValidPackage:   func(name string) bool { return regexp.MustCompile(`^[\w./@-]*$`).MatchString(name) },
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
		"literal": literal, "doc": doc, "signature": signature, "check": check, "list": list, "row": row, "condition": condition,
	}).ParseFS(files, "*.tmpl"))
})

// page is what a template sees.
type page struct {
	*accessor.Model
	Header, File, Export string
	// Union is the type of the cultures.
	Union string
	accessor.Columns
	Fallbacks           []string
	Cardinals, Ordinals []accessor.Ruled
}

func generate(m *accessor.Model) map[string][]byte {
	m.Name(reserved(), accessor.Camel, accessor.Camel)
	p := page{Model: m, Header: comment(m.Header("typescript")), Export: "export ", File: strings.ToLower(m.Type[:1]) + m.Type[1:]}
	if m.Hidden {
		p.Export = "/** @internal */\nexport "
	}
	p.Cardinals, p.Ordinals = m.Plurals("===", "!==")
	p.Columns = m.Columns(literal)
	for _, row := range m.FallbackIndexes() {
		p.Fallbacks = append(p.Fallbacks, strings.ReplaceAll(fmt.Sprint(row), " ", ", "))
	}
	if p.Union = " " + strings.Join(p.Tags, " | "); len("export type Culture =;"+p.Union) > width {
		p.Union = "\n  | " + strings.Join(p.Tags, "\n  | ")
	}
	return m.Spell(templates(), p, []accessor.Output{
		{Template: "wording.ts.tmpl", File: p.File + ".ts"},
		{Template: "cultureSwitch.ts.tmpl", File: "cultureSwitch.ts"},
		{Template: "texts.ts.tmpl", File: p.File + "Texts.ts"},
		{Template: "cultureStore.ts.tmpl", File: "cultureStore.ts", Optional: true, Wanted: m.Binding},
		{Template: "cases.ts.tmpl", File: p.File + "Cases.ts", Optional: true, Wanted: m.Cases},
	})
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
	for _, p := range m.Parameters {
		head.Items = append(head.Items, accessor.Piece{Text: p.Name + ": " + types.Of(p.Type)})
	}
	return layout.Lay(head, 2, "")
}

// check writes a call of a case.
func check(c accessor.Call) string {
	have := accessor.Piece{Text: "w." + c.Name + "(", Close: ")"}
	for _, v := range c.Values {
		have.Items = append(have.Items, accessor.Piece{Text: value(v)})
	}
	return layout.Lay(accessor.Piece{Text: "check(", Items: []accessor.Piece{{Text: literal(c.Key)}, have, {Text: literal(c.Want)}}, Close: ")"}, 2, ";")
}

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
	return layout.Lay(accessor.Row("[", items, "]"), 2, ",")
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

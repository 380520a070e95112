// Package swift spells accessors in Swift 5.7 and later: one class with the
// members, the switch, and the texts, on nothing but Foundation.
package swift

import (
	"embed"
	"fmt"
	"maps"
	"regexp"
	"strings"
	"sync"
	"text/template"
	"unicode"
	"unicode/utf8"

	"zelvik/accessor"
	"zelvik/message"
	"zelvik/message/native"
)

// Language is Swift.
var Language = &accessor.Language{
	Name: "swift", Title: "Swift 5.7 and later",
	Member:         accessor.Camel,
	PackagePattern: "the module's name, which the tests import, such as SkerryText",
	ValidPackage: func(name string) bool {
		return regexp.MustCompile(`^([A-Za-z_][A-Za-z0-9_]*)?$`).MatchString(name) && !reserved()[name]
	},
	Syntax:   syntax,
	Own:      own,
	Generate: generate,
}

// reserved are Swift's keywords and the members of the class itself.
func reserved() map[string]bool {
	return accessor.Reserved(`associatedtype class deinit enum extension fileprivate func import init inout internal
		let open operator private precedencegroup protocol public rethrows static struct subscript typealias var break case
		catch continue default defer do else fallthrough for guard if in repeat return throw switch where while any as await
		false is nil self Self super throws true try async actor Type Protocol some cultures text`)
}

//go:embed *.tmpl
var files embed.FS

// templates are parsed when first used: they would slow every command down.
var templates = sync.OnceValue(func() *template.Template {
	return template.Must(template.New("").Funcs(template.FuncMap{
		"literal": literal, "lines": lines, "doc": doc, "member": member, "items": items, "check": check, "list": list, "condition": condition,
	}).ParseFS(files, "*.tmpl"))
})

// page is what a template sees.
type page struct {
	*accessor.Model
	*accessor.Catalog
	accessor.Columns
	Header, Visibility  string
	Cardinals, Ordinals []accessor.Ruled
	// Syntax is that of the texts.
	Syntax string
}

func generate(m *accessor.Model) map[string][]byte {
	p := page{Model: m, Catalog: m.Catalogs[0], Header: accessor.Comment(m.Header("swift")), Visibility: "public ", Syntax: syntax}
	if m.Hidden {
		p.Visibility = ""
	}
	p.Columns = m.Columns(literal)
	p.Cardinals, p.Ordinals = m.Plurals("==", "!=")
	files := m.Spell(templates(), p, []accessor.Output{
		{Template: "CultureSwitch.swift.tmpl", File: "CultureSwitch.swift"},
		{Template: "CultureMessage.swift.tmpl", File: "CultureMessage.swift"},
		{Template: "CultureObject.swift.tmpl", File: "CultureObject.swift", Optional: true, Wanted: m.Binding},
		{Template: "CultureObservation.swift.tmpl", File: "CultureObservation.swift", Optional: true, Wanted: m.Binding},
	})
	for _, c := range m.Catalogs {
		c.Name(reserved(), accessor.Camel, accessor.Camel)
		p.Catalog = c
		maps.Copy(files, m.Spell(templates(), p, []accessor.Output{
			{Template: "Wording.swift.tmpl", File: c.Type + ".swift"},
			{Template: "Texts.swift.tmpl", File: c.Type + "Texts.swift"},
			{Template: "WordingCases.swift.tmpl", File: c.Type + "Cases.swift", Cases: true},
		}))
	}
	return files
}

// syntax is that of String(format:), in bundles.
const syntax = "foundation"

// own gives String(format:) a number of its own syntax as the first argument.
func own(p *message.Placeholder) string {
	spelling := native.Spelling(p)
	if p.Syntax != message.Foundation || !strings.HasPrefix(spelling, "%") || !strings.ContainsRune("diDuUxXoOcCfFeEgGaA", rune(spelling[len(spelling)-1])) {
		return ""
	}
	return "%" + position().ReplaceAllString(spelling[1:], "")
}

var position = sync.OnceValue(func() *regexp.Regexp { return regexp.MustCompile(`^\d+\$`) })

// layout is that of Swift code in lines of 120 characters: a list that is too
// long has a line for each item. Arrays have a comma after the last one.
var (
	layout = accessor.Layout{Width: 120, Indent: 4, Hang: 4}
	arrays = accessor.Layout{Width: 120, Indent: 4, Hang: 4, Comma: true}
)

// list writes an array after the beginning of its declaration.
func list(head string, items []string) string {
	return arrays.Lay(accessor.Row(head+"[", items, "]"), 4, "")
}

// condition writes the beginning of an if.
func condition(text string) string { return layout.Condition("            if ", text, " {", true) }

// member writes the member of a text, at its number.
func member(number int, m accessor.Member, visibility string) string {
	if len(m.Parameters) == 0 {
		head, body := fmt.Sprintf("%svar %s: String {", visibility, m.Name), fmt.Sprintf("text(%d)", number)
		if line := head + " " + body + " }"; len(line)+4 <= layout.Width {
			return line
		}
		return head + "\n        " + body + "\n    }"
	}
	head := accessor.Piece{Text: visibility + "func " + m.Name + "(", Close: ") -> String {"}
	var arguments []accessor.Piece
	for _, p := range m.Parameters {
		head.Items = append(head.Items, accessor.Piece{Text: p.Name + ": " + types.Of(p.Type)})
		arguments = append(arguments, accessor.Piece{Text: literal(p.Key)}, accessor.Piece{Text: "." + kind(p.Type) + "(" + p.Name + ")"})
	}
	body := layout.Lay(accessor.Piece{Text: fmt.Sprintf("text(%d, ", number), Items: arguments, Close: ")"}, 8, "")
	if len(m.Parameters) > 1 {
		call := accessor.Piece{Text: fmt.Sprintf("text(%d, [", number), Close: "])"}
		for i := 0; i < len(arguments); i += 2 {
			call.Items = append(call.Items, accessor.Piece{Text: "(" + arguments[i].Text + ", " + arguments[i+1].Text + ")"})
		}
		body = arrays.Lay(call, 8, "")
	}
	return layout.Lay(head, 4, "") + "\n        " + body + "\n    }"
}

// items returns the texts of an array.
func items(l accessor.List) string {
	return arrays.Lay(accessor.Row("[", l.Calls("", ""), "]"), 8, "")
}

// check writes a call of a case.
func check(c accessor.Call) string {
	have := accessor.Piece{Text: "w." + c.Name}
	for i, v := range c.Values {
		have.Items = append(have.Items, accessor.Piece{Text: c.Parameters[i].Name + ": " + value(v)})
	}
	if len(have.Items) > 0 {
		have.Text, have.Close = have.Text+"(", ")"
	}
	return layout.Lay(accessor.Piece{Text: "check(", Items: []accessor.Piece{{Text: literal(c.Key)}, have, {Text: literal(c.Want)}}, Close: ")"}, 8, "")
}

// types are those of arguments.
var types = accessor.Types{Text: "String", Whole: "Int", Decimal: "Double", Moment: "Date"}

// kind is the case of the enumeration of arguments.
func kind(t message.Type) string {
	switch types.Of(t) {
	case "Int":
		return "whole"
	case "Double":
		return "decimal"
	case "Date":
		return "moment"
	}
	return "text"
}

// literal writes a string literal; as the backslash is escaped, \( begins nothing. What
// cannot be seen, or turns what is seen around, is a number.
func literal(text string) string {
	var out strings.Builder
	out.WriteByte('"')
	for _, r := range text {
		switch {
		case r == '"' || r == '\\':
			out.WriteByte('\\')
			out.WriteRune(r)
		case !seen(r):
			fmt.Fprintf(&out, `\u{%x}`, r)
		default:
			out.WriteRune(r)
		}
	}
	out.WriteByte('"')
	return out.String()
}

// lines writes texts as the lines of a literal.
func lines(texts []string) string {
	list := make([]string, len(texts))
	for i, text := range texts {
		quoted := literal(strings.NewReplacer("\r\n", "\v", "\n", "\v").Replace(text))
		inner := quoted[1 : len(quoted)-1]
		if last := len(inner) - 1; last >= 0 && inner[last] == ' ' { // else it could not be seen
			inner = inner[:last] + `\u{20}`
		}
		if list[i] = inner; inner != "" {
			list[i] = "        " + inner
		}
	}
	return strings.Join(list, "\n")
}

// seen reports whether a character has a shape of its own.
func seen(r rune) bool {
	return r == ' ' || unicode.IsPrint(r) && !unicode.Is(unicode.Mn, r) && !unicode.Is(unicode.Co, r) && r != utf8.RuneError
}

// doc writes text for a comment of one line.
func doc(text string) string {
	return strings.Join(strings.Fields(strings.Map(func(r rune) rune {
		switch {
		case r < ' ':
			return ' '
		case !unicode.IsPrint(r):
			return '?'
		}
		return r
	}, text)), " ")
}

// value writes an argument of a case.
func value(v accessor.Value) string {
	if v.Type == message.Integer {
		return v.Text
	}
	return literal(v.Text)
}

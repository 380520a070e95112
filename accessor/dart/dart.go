// Package dart spells accessors in Dart 2.17 and later: one library with the
// members, the switch, and the texts, with nothing but the core libraries
// behind it.
package dart

import (
	"embed"
	"fmt"
	"regexp"
	"strings"
	"sync"
	"text/template"

	"zelvik/accessor"
	"zelvik/message"
)

// Language is Dart.
var Language = &accessor.Language{
	Name: "dart", Title: "Dart 2.17 and later, and Flutter",
	PackagePattern: "a path below lib, such as text, or none",
	ValidPackage:   func(name string) bool { return regexp.MustCompile(`^[a-z0-9_/]*$`).MatchString(name) },
	Generate:       generate,
}

// reserved are Dart's keywords and the members of every object.
func reserved() map[string]bool {
	return accessor.Reserved(`abstract as assert async await break case catch class const continue covariant default
		deferred do dynamic else enum export extends extension external factory false final finally for get hide if implements
		import in interface is late library mixin new null on operator part required rethrow return sealed set show static super
		switch sync this throw true try typedef var void when while with yield
		hashCode runtimeType toString noSuchMethod cultures num int double bool`)
}

//go:embed *.tmpl
var files embed.FS

// templates are parsed when first used: they would slow every command down.
var templates = sync.OnceValue(func() *template.Template {
	return template.Must(template.New("").Funcs(template.FuncMap{
		"literal": literal, "doc": doc, "type": types.Of, "value": value,
	}).ParseFS(files, "*.tmpl"))
})

// page is what a template sees.
type page struct {
	*accessor.Model
	Header, File        string
	Cardinals, Ordinals []accessor.Ruled
}

func generate(m *accessor.Model) map[string][]byte {
	m.Name(reserved(), accessor.Camel, accessor.Camel)
	p := page{Model: m, Header: accessor.Comment(m.Header("dart")), File: strings.ToLower(m.Type)}
	p.Cardinals, p.Ordinals = m.Plurals("==", "!=")
	folder := ""
	if m.Package != "" {
		folder = strings.Trim(m.Package, "/") + "/"
	}
	return m.Spell(templates(), p, []accessor.Output{
		{Template: "wording.dart.tmpl", File: folder + p.File + ".dart"},
		{Template: "culture_switch.dart.tmpl", File: folder + "culture_switch.dart"},
		{Template: "texts.dart.tmpl", File: folder + p.File + "_texts.dart"},
		{Template: "culture_notifier.dart.tmpl", File: folder + "culture_notifier.dart", Optional: true, Wanted: m.Binding},
		{Template: "wording_cases_test.dart.tmpl", File: folder + p.File + "_cases_test.dart", Optional: true, Wanted: m.Cases},
	})
}

// types are those of arguments.
var types = accessor.Types{Text: "String", Whole: "int", Decimal: "double", Moment: "DateTime"}

// literal writes a string literal in ASCII; a dollar would begin an
// interpolation.
func literal(text string) string {
	var out strings.Builder
	out.WriteByte('\'')
	for _, r := range text {
		switch {
		case r == '\'' || r == '\\' || r == '$':
			out.WriteByte('\\')
			out.WriteRune(r)
		case r < ' ' || r > '~':
			fmt.Fprintf(&out, `\u{%x}`, r)
		default:
			out.WriteRune(r)
		}
	}
	out.WriteByte('\'')
	return out.String()
}

// doc writes text for a comment of one line; brackets would be links.
func doc(text string) string {
	text = strings.NewReplacer("[", "(", "]", ")", "`", "'").Replace(accessor.Comment(text))
	return strings.Join(strings.Fields(text), " ")
}

// value writes an argument of a case.
func value(v accessor.Value) string {
	if v.Type == message.Integer {
		return v.Text
	}
	return literal(v.Text)
}

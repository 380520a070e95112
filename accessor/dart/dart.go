// Package dart spells accessors in Dart 2.17 and later: one library with the
// members, the switch, and the texts, with nothing but the core libraries
// after it.
package dart

import (
	"embed"
	"fmt"
	"maps"
	"path"
	"path/filepath"
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
	Member:         accessor.Camel,
	PackagePattern: "a path below lib, such as text, or none",
	ValidPackage:   func(name string) bool { return regexp.MustCompile(`^[a-z0-9_/]*$`).MatchString(name) },
	Prints:         accessor.Tabled,
	Sources:        sources,
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
		"literal": literal, "doc": doc, "member": member, "items": items, "expectation": expectation, "row": row, "list": list, "condition": condition, "keys": keys,
	}).ParseFS(files, "*.tmpl"))
})

// page is what a template sees.
type page struct {
	*accessor.Model
	*accessor.Catalog
	accessor.Columns
	Header, File string
	// Variable is the name of the texts.
	Variable string
	// Import is how tests name the folder of the sources.
	Import              string
	Cardinals, Ordinals []accessor.Ruled
}

func generate(m *accessor.Model) map[string][]byte {
	p := page{Model: m, Catalog: m.Catalogs[0], Header: accessor.Comment(m.Header("dart")), File: strings.ToLower(m.Catalogs[0].Type)}
	p.Cardinals, p.Ordinals = m.Plurals("==", "!=")
	p.Columns = m.Columns(literal)
	folder := ""
	if m.Package != "" {
		folder = strings.Trim(m.Package, "/") + "/"
	}
	if m.Sources != "" {
		p.Import = m.Sources + folder
		if strings.HasPrefix(m.Sources, ".") { // the tests have the folder of the package, too
			p.Import = path.Join(strings.Repeat("../", strings.Count(folder, "/")), p.Import) + "/"
		}
	}
	files := m.Spell(templates(), p, []accessor.Output{
		{Template: "culture_switch.dart.tmpl", File: folder + "culture_switch.dart"},
		{Template: "culture_notifier.dart.tmpl", File: folder + "culture_notifier.dart", Optional: true, Wanted: m.Binding},
	})
	for _, c := range m.Catalogs {
		c.Name(reserved(), accessor.Camel, accessor.Camel)
		p.Catalog, p.File = c, strings.ToLower(c.Type)
		p.Variable = strings.ToLower(c.Type[:1]) + c.Type[1:] + "Catalog"
		maps.Copy(files, m.Spell(templates(), p, []accessor.Output{
			{Template: "wording.dart.tmpl", File: folder + p.File + ".dart"},
			{Template: "texts.dart.tmpl", File: folder + p.File + "_texts.dart"},
			{Template: "wording_cases_test.dart.tmpl", File: folder + p.File + "_cases_test.dart", Cases: true},
		}))
	}
	return files
}

// sources names a folder in a package's lib as its imports do: package:NAME/FOLDER/.
func sources(folder string, read func(path string) ([]byte, error)) string {
	for dir, last := folder, ""; dir != last; dir, last = filepath.Dir(dir), dir {
		spec, err := read(filepath.Join(dir, "pubspec.yaml"))
		if err != nil {
			continue
		}
		name := regexp.MustCompile(`(?m)^name:\s*["']?(\w+)`).FindSubmatch(spec)
		below, err := filepath.Rel(filepath.Join(dir, "lib"), folder)
		if below = filepath.ToSlash(below); err != nil || name == nil || below == ".." || strings.HasPrefix(below, "../") {
			return ""
		}
		return "package:" + path.Join(string(name[1]), below) + "/"
	}
	return ""
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

// layout is that of Dart's formatter, with its own settings.
var layout = accessor.Layout{Width: 80, Indent: 2, Hang: 4, Comma: true}

// list writes a list after the beginning of its declaration.
func list(head string, items []string) string {
	return layout.Lay(accessor.Row(head+"[", items, "]"), 0, ";")
}

// row writes the texts of a culture.
func row(texts []string, culture int) string {
	items := make([]string, len(texts))
	for i, text := range texts {
		if items[i] = literal(text); text == "" && culture > 0 {
			items[i] = "null"
		}
	}
	return layout.Lay(accessor.Row("<String?>[", items, "]"), 4, ",")
}

// keys writes the keys of a catalog.
func keys(list []string) string {
	items := make([]string, len(list))
	for i, key := range list {
		items[i] = literal(key)
	}
	return layout.Lay(accessor.Row("<String>[", items, "]"), 2, ",")
}

// condition writes the beginning of an if.
func condition(text string) string { return layout.Condition("      if (", text, ") {", false) }

// member writes the member of a text, at its number.
func member(catalog string, number int, m accessor.Member) string {
	if len(m.Parameters) == 0 {
		return named("get "+m.Name, " {") + "\n    " + layout.Lay(accessor.Row("return cultures.render(", []string{catalog, fmt.Sprint(number), "const <String, Object>{}"}, ")"), 4, ";") + "\n  }"
	}
	var parameters, arguments []accessor.Piece
	for _, p := range m.Parameters {
		parameters = append(parameters, accessor.Piece{Text: types.Of(p.Type) + " " + p.Name})
		arguments = append(arguments, accessor.Piece{Text: literal(p.Key) + ":", Rest: p.Name})
	}
	head := accessor.Piece{Text: named(m.Name, "("), Items: parameters, Close: ")"}
	open := fmt.Sprintf("return cultures.render(%s, %d, <String, Object>{", catalog, number)
	call := accessor.Piece{Text: open, Items: arguments, Close: "})"} // the map alone is broken
	if len("    "+open) > layout.Width {
		call = accessor.Piece{Text: "return cultures.render(", Close: ")", Items: []accessor.Piece{
			{Text: catalog}, {Text: fmt.Sprint(number)}, {Text: "<String, Object>{", Items: arguments, Close: "}"},
		}}
	}
	return layout.Lay(head, 2, " {") + "\n    " + layout.Lay(call, 4, ";") + "\n  }"
}

// items returns the texts of an array.
func items(l accessor.List) string {
	return layout.Lay(accessor.Row("return <String>[", l.Calls("", ""), "]"), 4, ";")
}

// named writes a member's type and name; a name that fills the line alone goes
// below the type.
func named(name, after string) string {
	if len("  String "+name+after) > layout.Width {
		return "String\n  " + name + after
	}
	return "String " + name + after
}

// expectation writes a call of a case.
func expectation(c accessor.Call) string {
	have := accessor.Piece{Text: "w." + c.Name}
	if len(c.Parameters) > 0 {
		have.Text, have.Close = have.Text+"(", ")"
		for _, v := range c.Values {
			have.Items = append(have.Items, accessor.Piece{Text: value(v)})
		}
	}
	return layout.Lay(accessor.Piece{Text: "expect(", Items: []accessor.Piece{have, {Text: literal(c.Want)}, {Text: "reason:", Rest: literal(c.Key)}}, Close: ")"}, 4, ";")
}

// value writes an argument of a case.
func value(v accessor.Value) string {
	if v.Type == message.Integer {
		return v.Text
	}
	return literal(v.Text)
}

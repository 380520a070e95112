// Package cpp spells accessors in C++17: a header and a source file with the
// members, the switch, and the texts, with nothing but the standard library
// after them. Strings are UTF-8.
package cpp

import (
	"cmp"
	"embed"
	"fmt"
	"maps"
	"regexp"
	"slices"
	"strings"
	"sync"
	"text/template"

	"zelvik/accessor"
	"zelvik/message"
	"zelvik/message/native"
)

// Language is C++17.
var Language = &accessor.Language{
	Name: "cpp", Title: "C++17",
	Member:         accessor.Camel,
	Package:        "app::text",
	PackagePattern: "a namespace, such as app::text",
	ValidPackage: func(name string) bool {
		return regexp.MustCompile(`^[A-Za-z][A-Za-z0-9_]*(::[A-Za-z][A-Za-z0-9_]*)*$`).MatchString(name) &&
			!slices.ContainsFunc(strings.Split(name, "::"), func(part string) bool { return reserved("")[part] })
	},
	Own:      own,
	Syntax:   "qt",
	Prints:   accessor.Tabled,
	Generate: generate,
}

// reserved are C++'s keywords, the names that the code itself uses, and macros
// of common headers.
func reserved(class string) map[string]bool {
	return accessor.Reserved(`alignas alignof and and_eq asm auto bitand bitor bool break case catch char char16_t
		char32_t char8_t class co_await co_return co_yield compl concept const consteval constexpr constinit const_cast
		continue decltype default delete do double dynamic_cast else enum explicit export extern false float for friend goto
		if import inline int long module mutable namespace new noexcept not not_eq nullptr operator or or_eq private protected
		public register reinterpret_cast requires return short signed sizeof static static_assert static_cast struct switch
		template this thread_local throw true try typedef typeid typename union unsigned using virtual void volatile wchar_t
		while xor xor_eq final override std errno assert stdin stdout stderr signals slots emit foreach forever
		cultures cultures_`, class)
}

//go:embed *.tmpl
var files embed.FS

// templates are parsed when first used: they would slow every command down.
var templates = sync.OnceValue(func() *template.Template {
	return template.Must(template.New("").Funcs(template.FuncMap{
		"literal": literal, "member": member, "items": items, "value": value, "condition": condition,
	}).ParseFS(files, "*.tmpl"))
})

// page is what a template sees.
type page struct {
	*accessor.Model
	*accessor.Catalog
	Header, File, Namespace string
	Cardinals, Ordinals     []accessor.Ruled
}

func generate(m *accessor.Model) map[string][]byte {
	p := page{Model: m, Catalog: m.Catalogs[0], Header: accessor.Fill("// ", comment(m.Header("cpp")), layout.Width), Namespace: cmp.Or(m.Package, "texts")}
	p.Cardinals, p.Ordinals = m.Plurals("==", "!=")
	files := m.Spell(templates(), p, []accessor.Output{
		{Template: "culture_switch.h.tmpl", File: "culture_switch.h"},
		{Template: "culture_switch.cpp.tmpl", File: "culture_switch.cpp"},
		{Template: "culture_signal.h.tmpl", File: "culture_signal.h", Optional: true, Wanted: m.Binding},
	})
	for _, c := range m.Catalogs {
		c.Name(reserved(c.Type), accessor.Camel, accessor.Camel)
		p.Catalog, p.File = c, strings.ToLower(c.Type)
		maps.Copy(files, m.Spell(templates(), p, []accessor.Output{
			{Template: "wording.h.tmpl", File: p.File + ".h"},
			{Template: "wording.cpp.tmpl", File: p.File + ".cpp"},
			{Template: "wording_translator.h.tmpl", File: p.File + "_translator.h", Optional: true, Wanted: m.Binding && forQt(c)},
			{Template: "wording_cases.h.tmpl", File: p.File + "_cases.h", Cases: true},
		}))
	}
	return files
}

// own keeps the place markers of Qt, which its translator hands on.
func own(p *message.Placeholder) string {
	if p.Syntax != message.Marker {
		return ""
	}
	return native.Spelling(p)
}

// forQt reports whether the texts are Qt's: keys have contexts, or texts place markers.
func forQt(c *accessor.Catalog) bool {
	return slices.ContainsFunc(c.Members, func(m accessor.Member) bool {
		return strings.Contains(m.Key, "::") || slices.ContainsFunc(m.Parameters, func(p accessor.Parameter) bool { return strings.HasPrefix(p.Spelling, "%") })
	})
}

// types are those of arguments.
var types = accessor.Types{Text: "const std::string&", Whole: "std::int64_t", Decimal: "double", Moment: "std::chrono::system_clock::time_point"}

// literal writes a string literal in ASCII with octal escapes, which end after
// three digits; a question mark is one, too, so that no trigraph comes of it.
func literal(text string) string {
	var out strings.Builder
	out.WriteByte('"')
	for i := range len(text) {
		switch c := text[i]; {
		case c == '"' || c == '\\' || c == '?' || c < ' ' || c > '~':
			fmt.Fprintf(&out, `\%03o`, c)
		default:
			out.WriteByte(c)
		}
	}
	out.WriteByte('"')
	return out.String()
}

// doc writes text for a line comment that does not go on in the next line.
func doc(text string) string {
	return strings.TrimRight(strings.Join(strings.Fields(comment(text)), " "), `\? `)
}

// comment is text for a line comment.
func comment(text string) string {
	return strings.Map(func(r rune) rune {
		switch {
		case r < ' ':
			return ' '
		case r > '~':
			return '?'
		}
		return r
	}, text)
}

// layout is that of the formatter with indents of four columns and lines of
// 120 characters: lists are filled below their opening bracket.
var layout = accessor.Layout{Width: 120, Hang: 4, Filled: true}

// condition writes the beginning of an if.
func condition(text string) string {
	return layout.Condition(strings.Repeat(" ", 12)+"if (", text, ") {", false)
}

// items writes the member of an array.
func items(l accessor.List) string {
	calls := l.Calls("", "()")
	head := "std::vector<std::string> " + l.Name + "() const {"
	if whole := head + " return {" + strings.Join(calls, ", ") + "}; }"; len(whole)+4 <= layout.Width {
		return whole
	}
	return head + "\n        " + layout.Lay(accessor.Row("return {", calls, "}"), 8, ";") + "\n    }"
}

// member writes the member of a text, at its number.
func member(number int, m accessor.Member) string {
	told := "in the source: " + doc(m.Text) + "."
	if m.Note != "" {
		told = doc(m.Note) + "; " + told
	}
	lines := []string{accessor.Fill("// ", told, layout.Width-4)}
	head := accessor.Piece{Text: "std::string " + m.Name + "(", Close: ") const {"}
	var arguments []string
	for _, p := range m.Parameters {
		if p.Sample != "" {
			lines = append(lines, accessor.Fill("// ", p.Name+" is for example "+doc(p.Sample)+".", layout.Width-4))
		}
		head.Items = append(head.Items, accessor.Piece{Text: types.Of(p.Type) + " " + p.Name})
		arguments = append(arguments, "{"+literal(p.Key)+", "+p.Name+"}")
	}
	call := fmt.Sprintf("return cultures_.render(kCatalog, %d);", number)
	if len(arguments) > 0 {
		call = fmt.Sprintf("return cultures_.render(kCatalog, %d, {%s});", number, strings.Join(arguments, ", "))
	}
	if m.Gone {
		lines = append(lines, "[[deprecated("+literal("The source does not have the key "+m.Key+" any more.")+")]]  // for a release")
	}
	whole := head.Flat() + " " + call + " }"
	if len(call)+8 > layout.Width {
		call = "std::vector<CultureSwitch::Argument> arguments;\n        "
		for _, p := range m.Parameters {
			call += layout.Lay(accessor.Row("arguments.emplace_back(", []string{literal(p.Key), p.Name}, ")"), 8, ";") + "\n        "
		}
		call += fmt.Sprintf("return cultures_.render(kCatalog, %d, arguments);", number)
	}
	if m.Gone { // the formatter parts a head after an attribute
		head.Text = "std::string\n    " + m.Name + "("
	}
	if m.Gone || len(whole)+4 > layout.Width {
		whole = layout.Lay(head, 4, "") + "\n        " + call + "\n    }"
	}
	return strings.ReplaceAll(strings.Join(lines, "\n"), "\n", "\n    ") + "\n    " + whole
}

// value writes an argument of a case.
func value(v accessor.Value) string {
	if v.Type == message.Integer {
		return v.Text
	}
	return literal(v.Text)
}

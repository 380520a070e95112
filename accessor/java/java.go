// Package java spells accessors in Java 11 and later: one class with the
// members, the switch, and the texts, on nothing but the JDK.
package java

import (
	"embed"
	"fmt"
	"maps"
	"regexp"
	"slices"
	"strings"
	"sync"
	"text/template"
	"unicode/utf16"

	"zelvik/accessor"
	"zelvik/message"
)

// Language is Java.
var Language = &accessor.Language{
	Name: "java", Title: "Java 11 and later",
	Member:         accessor.Camel,
	Package:        "app.text",
	PackagePattern: "lower-case names separated by dots, such as app.text",
	ValidPackage: func(name string) bool {
		return regexp.MustCompile(`^[a-z_][a-zA-Z0-9_]*(\.[a-z_][a-zA-Z0-9_]*)*$`).MatchString(name) &&
			!slices.ContainsFunc(strings.Split(name, "."), func(part string) bool { return reserved()[part] })
	},
	Syntax:   syntax,
	Own:      accessor.JavaFormat,
	Generate: generate,
}

// reserved are Java's keywords and the methods of Object and of the class.
func reserved() map[string]bool {
	return accessor.Reserved(`abstract assert boolean break byte case catch char class const continue default do
		double else enum extends final finally float for goto if implements import instanceof int interface long native new
		package private protected public return short static strictfp super switch synchronized this throw throws transient
		try void volatile while true false null _ var yield record sealed permits
		getClass hashCode equals clone toString notify notifyAll wait finalize`)
}

//go:embed *.tmpl
var files embed.FS

// templates are parsed when first used: they would slow every command down.
var templates = sync.OnceValue(func() *template.Template {
	return template.Must(template.New("").Funcs(template.FuncMap{
		"literal": literal, "doc": doc, "chunks": accessor.Chunks, "javadoc": javadoc, "member": member, "check": check, "assign": assign, "condition": condition, "catalog": catalog, "supply": supply, "items": items,
	}).ParseFS(files, "*.tmpl"))
})

// page is what a template sees.
type page struct {
	*accessor.Model
	*accessor.Catalog
	Patterns   []string
	Header     string
	Visibility string
	Cardinals  []accessor.Ruled
	Ordinals   []accessor.Ruled
	// Syntax is that of the texts.
	Syntax string
}

func generate(m *accessor.Model) map[string][]byte {
	p := page{Model: m, Catalog: m.Catalogs[0], Header: accessor.Fill("// ", accessor.Comment(m.Header("java")), layout.Width), Visibility: "public ", Syntax: syntax}
	if m.Hidden {
		p.Visibility = ""
	}
	p.Cardinals, p.Ordinals = m.Plurals("==", "!=")
	p.Patterns = m.Patterns(func(pattern string) string { return pattern })
	folder := strings.ReplaceAll(m.Package, ".", "/") + "/"
	files := m.Spell(templates(), p, []accessor.Output{
		{Template: "CultureSwitch.java.tmpl", File: folder + "CultureSwitch.java"},
		{Template: "CultureBundle.java.tmpl", File: folder + "CultureBundle.java"},
		{Template: "CultureMessage.java.tmpl", File: folder + "CultureMessage.java"},
		{Template: "CultureProperty.java.tmpl", File: folder + "CultureProperty.java", Optional: true, Wanted: m.Binding},
	})
	for _, c := range m.Catalogs {
		c.Name(reserved(), accessor.Camel, accessor.Camel)
		p.Catalog = c
		maps.Copy(files, m.Spell(templates(), p, []accessor.Output{
			{Template: "Wording.java.tmpl", File: folder + c.Type + ".java"},
			{Template: "Texts.java.tmpl", File: folder + c.Type + "Texts.java"},
			{Template: "WordingBundle.java.tmpl", File: folder + c.Type + "Bundle.java", Optional: true, Wanted: m.Binding && c.Plain()},
			{Template: "WordingCases.java.tmpl", File: folder + c.Type + "Cases.java", Cases: true},
		}))
	}
	return files
}

// syntax is that of String.format and MessageFormat, in bundles.
const syntax = "java"

// types are those of arguments.
var types = accessor.Types{Text: "String", Whole: "long", Decimal: "double", Moment: "java.time.temporal.TemporalAccessor"}

// literal writes a string literal in ASCII, so that no compiler's encoding can
// change it.
func literal(text string) string {
	var out strings.Builder
	out.WriteByte('"')
	for _, r := range text {
		switch {
		case r == '"' || r == '\\':
			out.WriteByte('\\')
			out.WriteRune(r)
		case r == '\n':
			out.WriteString(`\n`)
		case r == '\r':
			out.WriteString(`\r`)
		case r == '\t':
			out.WriteString(`\t`)
		case r < ' ' || r > '~':
			for _, unit := range utf16.Encode([]rune{r}) {
				fmt.Fprintf(&out, `\u%04x`, unit)
			}
		default:
			out.WriteRune(r)
		}
	}
	out.WriteByte('"')
	return out.String()
}

// literals writes a text as a literal, or as several, since the virtual machine's
// constants end at 64 KiB of UTF-8.
func literals(text string) string {
	const longest = 20_000
	if len(text) <= 3*longest {
		return literal(text)
	}
	var parts []string
	for runes := []rune(text); len(runes) > 0; {
		n := min(longest, len(runes))
		parts, runes = append(parts, literal(string(runes[:n]))), runes[n:]
	}
	return "String.join(\"\", " + strings.Join(parts, ", ") + ")"
}

// doc writes text for a documentation comment: one line, no tag, no end of comment, and
// no Unicode escape, which Java would read even there.
func doc(text string) string {
	var out strings.Builder
	for _, r := range text {
		switch {
		case strings.ContainsRune(`<>&@\*{}`, r) || r > '~':
			fmt.Fprintf(&out, "&#%d;", r)
		case r < ' ':
			out.WriteByte(' ')
		default:
			out.WriteRune(r)
		}
	}
	return out.String()
}

// layout is that of Java's formatter with indents of four columns.
var layout = accessor.Layout{Width: 100, Indent: 8, Hang: 8, Closed: true}

// javadoc writes a comment of paragraphs, and of tags such as "@return", at a
// column.
func javadoc(column int, lines ...string) string {
	if len(lines) == 1 && column+len("/** "+lines[0]+" */") <= layout.Width {
		return "/** " + lines[0] + " */"
	}
	margin := strings.Repeat(" ", column)
	var out strings.Builder
	out.WriteString("/**")
	for i, line := range lines {
		tag := strings.HasPrefix(line, "@")
		if i > 0 && (!tag || !strings.HasPrefix(lines[i-1], "@")) {
			out.WriteString("\n" + margin + " *")
		}
		if i > 0 && !tag {
			line = "<p>" + line
		}
		text := accessor.Fill(margin+" * ", line, layout.Width)
		if tag {
			text = strings.ReplaceAll(text, "\n"+margin+" * ", "\n"+margin+" *     ")
		}
		out.WriteString("\n" + text)
	}
	return out.String() + "\n" + margin + " */"
}

// assign writes the assignments of a chunk of texts at a column; texts that are
// empty are left out unless they are kept.
func assign(column int, variable string, c accessor.Chunk, kept bool) string {
	var out strings.Builder
	margin := strings.Repeat(" ", column)
	for i, text := range c.Texts {
		if text == "" && !kept {
			continue
		}
		line, value := fmt.Sprintf("%s%s[%d] =", margin, variable, c.From+i), literals(text)
		out.WriteByte('\n')
		out.WriteString(line)
		if len(line)+1+len(value)+1 > layout.Width {
			out.WriteString("\n        " + margin)
		} else {
			out.WriteByte(' ')
		}
		out.WriteString(value)
		out.WriteByte(';')
	}
	return out.String()
}

// catalog makes the catalog of a type.
func catalog(name string) string {
	return layout.Lay(accessor.Row("new CultureSwitch.Catalog(", []string{literal(name), "keys()", name + "Texts::of"}, ")"), 12, ";")
}

// items returns the texts of an array.
func items(l accessor.List) string {
	return layout.Lay(accessor.Row("return java.util.Arrays.asList(", l.Calls("", "()"), ")"), 8, ";")
}

// supply gives the bundle of a type a text by its key.
func supply(m accessor.Member) string {
	method := "wording::" + m.Name
	if len("                "+method+");") > layout.Width {
		method = "wording\n                        ::" + m.Name
	}
	return layout.Lay(accessor.Row("texts.put(", []string{literal(m.Key), method}, ")"), 8, ";")
}

// condition writes the beginning of an if.
func condition(text string) string {
	return layout.Condition(strings.Repeat(" ", 16)+"if (", text, ") {", true)
}

// member writes the member of a text, at its number.
func member(of string, number int, m accessor.Member) string {
	var lines []string
	if m.Note != "" {
		lines = append(lines, doc(m.Note))
	}
	lines = append(lines, "In the source: <q>"+doc(m.Text)+"</q>")
	head := accessor.Piece{Text: "public String " + m.Name + "(", Close: ") {"}
	call := accessor.Piece{Text: "return cultures.render(", Items: accessor.Pieces(of+"Texts.CATALOG", fmt.Sprint(number), "null"), Close: ");"}
	var names []string
	for _, p := range m.Parameters {
		told := types.OfMessageFormat(p)
		if p.Sample != "" {
			told = "for example " + doc(p.Sample)
		}
		lines = append(lines, "@param "+p.Name+" "+told)
		head.Items = append(head.Items, accessor.Piece{Text: types.OfMessageFormat(p) + " " + p.Name})
		names, call.Items = append(names, literal(p.Key)), append(call.Items, accessor.Piece{Text: p.Name})
	}
	if len(names) > 0 {
		call.Items[2] = accessor.Row("new String[] {", names, "}")
		call.Items[2].Inner = 4
	}
	if len("    "+head.Text+head.Close) > layout.Width { // below its type
		head.Text = "public String\n            " + m.Name + "("
	}
	lines, old := append(lines, "@return the text in the current culture"), ""
	if m.Gone {
		lines, old = append(lines, "@deprecated The source does not have the key "+doc(m.Key)+" any more."), "@Deprecated\n    "
	}
	return javadoc(4, lines...) + "\n    " + old + layout.Lay(head, 4, "") + "\n        " + layout.Lay(call, 8, "") + "\n    }"
}

// check writes a call of a case.
func check(c accessor.Call) string {
	have := accessor.Piece{Text: "w." + c.Name + "(", Close: ")"}
	for _, v := range c.Values {
		have.Items = append(have.Items, accessor.Piece{Text: value(v)})
	}
	if len("                "+have.Text+"),") > layout.Width {
		have.Text = "w\n                        ." + c.Name + "("
	}
	return layout.Lay(accessor.Piece{Text: "check(", Items: []accessor.Piece{{Text: literal(c.Key)}, have, {Text: literal(c.Want)}}, Close: ")"}, 8, ";")
}

// value writes an argument of a case.
func value(v accessor.Value) string {
	if v.Type == message.Integer {
		return v.Text + "L"
	}
	return literal(v.Text)
}

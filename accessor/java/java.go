// Package java spells accessors in Java 11 and later: one class with the
// members, the switch, and the texts, with nothing but the JDK behind them.
package java

import (
	"embed"
	"fmt"
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
	PackagePattern: "lower-case names parted by dots, such as app.text",
	ValidPackage: func(name string) bool {
		return regexp.MustCompile(`^[a-z_][a-zA-Z0-9_]*(\.[a-z_][a-zA-Z0-9_]*)*$`).MatchString(name) &&
			!slices.ContainsFunc(strings.Split(name, "."), func(part string) bool { return reserved()[part] })
	},
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
		"literal": literal, "doc": doc, "type": types.Of, "chunks": accessor.Chunks,
		"add": func(a, b int) int { return a + b }, "value": value,
	}).ParseFS(files, "*.tmpl"))
})

// page is what a template sees.
type page struct {
	*accessor.Model
	Patterns   []string
	Header     string
	Visibility string
	Cardinals  []accessor.Ruled
	Ordinals   []accessor.Ruled
}

func generate(m *accessor.Model) map[string][]byte {
	m.Name(reserved(), accessor.Camel, accessor.Camel)
	p := page{Model: m, Header: accessor.Comment(m.Header("java")), Visibility: "public "}
	if m.Hidden {
		p.Visibility = ""
	}
	p.Cardinals, p.Ordinals = m.Plurals("==", "!=")
	p.Patterns = m.Patterns(func(pattern string) string { return pattern })
	folder := strings.ReplaceAll(m.Package, ".", "/") + "/"
	return m.Spell(templates(), p, []accessor.Output{
		{Template: "Wording.java.tmpl", File: folder + m.Type + ".java"},
		{Template: "CultureSwitch.java.tmpl", File: folder + "CultureSwitch.java"},
		{Template: "Texts.java.tmpl", File: folder + m.Type + "Texts.java"},
		{Template: "CultureProperty.java.tmpl", File: folder + "CultureProperty.java", Optional: true, Wanted: m.Binding},
		{Template: "WordingCases.java.tmpl", File: folder + m.Type + "Cases.java", Optional: true, Wanted: m.Cases},
	})
}

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

// doc writes text for a documentation comment: no tag, no end of comment, and
// no Unicode escape, which Java would read even there.
func doc(text string) string {
	var out strings.Builder
	for _, r := range text {
		switch {
		case strings.ContainsRune(`<>&@\*{}`, r) || r < ' ' && r != '\n' || r > '~':
			fmt.Fprintf(&out, "&#%d;", r)
		case r == '\n':
			out.WriteString("\n     * ")
		default:
			out.WriteRune(r)
		}
	}
	return out.String()
}

// value writes an argument of a case.
func value(v accessor.Value) string {
	if v.Type == message.Integer {
		return v.Text + "L"
	}
	return literal(v.Text)
}

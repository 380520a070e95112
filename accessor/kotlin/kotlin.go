// Package kotlin spells accessors in Kotlin for the JVM and Android: one class
// with the members, the switch, and the texts, on nothing but the standard
// library and the JDK.
package kotlin

import (
	"embed"
	"fmt"
	"maps"
	"regexp"
	"slices"
	"strings"
	"sync"
	"text/template"
	"unicode"
	"unicode/utf16"
	"unicode/utf8"

	"zelvik/accessor"
	"zelvik/message"
)

// Language is Kotlin.
var Language = &accessor.Language{
	Name: "kotlin", Title: "Kotlin for the JVM and Android",
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

// reserved are Kotlin's hard keywords and the members of every object.
func reserved() map[string]bool {
	return accessor.Reserved(`as break class continue do else false for fun if in interface is null object package
		return super this throw true try typealias typeof val var when while field it
		getClass hashCode equals toString notify notifyAll wait finalize clone cultures`)
}

//go:embed *.tmpl
var files embed.FS

// templates are parsed when first used: they would slow every command down.
var templates = sync.OnceValue(func() *template.Template {
	return template.Must(template.New("").Funcs(template.FuncMap{
		"literal": literal, "doc": doc, "lines": lines,
		"long": long, "value": value, "member": member, "items": items, "list": list,
	}).ParseFS(files, "*.tmpl"))
})

// page is what a template sees.
type page struct {
	*accessor.Model
	*accessor.Catalog
	accessor.Columns
	Patterns            []string
	Header, Visibility  string
	Cardinals, Ordinals []accessor.Ruled
	// Syntax is that of the texts.
	Syntax string
}

func generate(m *accessor.Model) map[string][]byte {
	p := page{Model: m, Catalog: m.Catalogs[0], Header: accessor.Comment(m.Header("kotlin")), Syntax: syntax}
	if m.Hidden {
		p.Visibility = "internal "
	}
	p.Cardinals, p.Ordinals = m.Plurals("==", "!=")
	p.Columns = m.Columns(literal)
	p.Patterns = m.Patterns(func(pattern string) string { return pattern })
	folder := ""
	if m.Package != "" {
		folder = strings.ReplaceAll(m.Package, ".", "/") + "/"
	}
	files := m.Spell(templates(), p, []accessor.Output{
		{Template: "CultureSwitch.kt.tmpl", File: folder + "CultureSwitch.kt"},
		{Template: "CultureBundle.kt.tmpl", File: folder + "CultureBundle.kt"},
		{Template: "CultureMessage.kt.tmpl", File: folder + "CultureMessage.kt"},
		{Template: "CultureFlow.kt.tmpl", File: folder + "CultureFlow.kt", Optional: true, Wanted: m.Binding},
	})
	for _, c := range m.Catalogs {
		kept := reserved()
		kept["text"] = true // the type's own
		c.Name(kept, accessor.Camel, accessor.Camel)
		p.Catalog = c
		maps.Copy(files, m.Spell(templates(), p, []accessor.Output{
			{Template: "Wording.kt.tmpl", File: folder + c.Type + ".kt"},
			{Template: "Texts.kt.tmpl", File: folder + c.Type + "Texts.kt"},
			{Template: "WordingCases.kt.tmpl", File: folder + c.Type + "Cases.kt", Cases: true},
		}))
	}
	return files
}

// syntax is that of String.format and MessageFormat, in bundles.
const syntax = "java"

// types are those of arguments.
var types = accessor.Types{Text: "String", Whole: "Number", Decimal: "Double", Moment: "java.time.temporal.TemporalAccessor"}

// layout is that of Kotlin's formatter, which keeps long lines and the breaks
// of lists as they are.
var layout = accessor.Layout{Width: 120, Indent: 4, Hang: 4, Comma: true}

// list writes a list after the beginning of its declaration.
func list(head string, items []string) string {
	return layout.Lay(accessor.Row(head+"(", items, ")"), 8, "")
}

// member writes the member of a text, at its number.
func member(number int, m accessor.Member) string {
	if len(m.Parameters) == 0 {
		return fmt.Sprintf("val %s: String get() = text(%d)", m.Name, number)
	}
	head := accessor.Piece{Text: "fun " + m.Name + "(", Close: "): String ="}
	call := accessor.Piece{Text: "text(", Items: accessor.Pieces(fmt.Sprint(number)), Close: ")"}
	for _, p := range m.Parameters {
		head.Items = append(head.Items, accessor.Piece{Text: p.Name + ": " + types.OfMessageFormat(p)})
		call.Items = append(call.Items, accessor.Piece{Text: literal(p.Key) + " to " + p.Name})
	}
	if line := head.Flat() + " " + call.Flat(); len(line)+4 <= layout.Width {
		return line
	}
	return layout.Lay(head, 4, " ") + layout.Lay(call, 4, "")
}

// items writes the member of an array.
func items(l accessor.List) string {
	return "val " + l.Name + ": List<String>\n        get() = " + layout.Lay(accessor.Row("listOf(", l.Calls("", ""), ")"), 8, "")
}

// value writes an argument of a case.
func value(v accessor.Value) string {
	if v.Type == message.Integer {
		return v.Text + "L"
	}
	return literal(v.Text)
}

// literal writes a string literal in ASCII; a dollar would begin a template.
func literal(text string) string {
	var out strings.Builder
	out.WriteByte('"')
	for _, r := range text {
		switch {
		case r == '"' || r == '\\' || r == '$':
			out.WriteByte('\\')
			out.WriteRune(r)
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

// longest is how many characters a literal may have: the virtual machine's constants
// end at 64 KiB of UTF-8.
const longest = 15_000

// lines writes texts as the lines of raw literals.
func lines(texts []string) string {
	var out, part strings.Builder
	flush := func() {
		if part.Len() > 0 {
			out.WriteString("            \"\"\"\n" + part.String() + "\"\"\",\n")
			part.Reset()
		}
	}
	for _, text := range texts {
		if part.Len()+len(text) > longest {
			flush()
		}
		for runes := []rune(text); len(runes) > longest; text = string(runes) {
			part.WriteString(raw(string(runes[:longest])))
			flush()
			runes = runes[longest:]
		}
		part.WriteString(raw(text) + "\n")
	}
	flush()
	return strings.TrimSuffix(out.String(), "\n")
}

// raw writes a text as a line of a raw literal; what cannot be seen, or has a meaning
// there, is an expression.
func raw(text string) string {
	text = strings.NewReplacer("\r\n", "\v", "\n", "\v").Replace(text)
	var out strings.Builder
	for i, r := range text {
		switch last := i+utf8.RuneLen(r) == len(text); {
		case r == '$' || r == '"' && (last || text[i+1] == '"') || r == ' ' && last:
			fmt.Fprintf(&out, "${'%c'}", r)
		case r != ' ' && !unicode.IsPrint(r) || unicode.Is(unicode.Mn, r):
			for _, unit := range utf16.Encode([]rune{r}) {
				fmt.Fprintf(&out, `${'\u%04x'}`, unit)
			}
		default:
			out.WriteRune(r)
		}
	}
	return out.String()
}

// doc writes text for a documentation comment: no link, no end of comment.
func doc(text string) string {
	var out strings.Builder
	for _, r := range text {
		switch {
		case strings.ContainsRune(`<>&@\*/[]{}$`+"`", r) || r > '~':
			fmt.Fprintf(&out, "&#%d;", r)
		case r < ' ':
			out.WriteByte(' ')
		default:
			out.WriteRune(r)
		}
	}
	return out.String()
}

// equals are comparisons of the operands that are Long with numbers, which have
// to be Long, too.
var equals = sync.OnceValue(func() *regexp.Regexp {
	return regexp.MustCompile(`\b([ift](?: % \d+)?) (==|!=) (\d+)`)
})

func long(condition string) string { return equals().ReplaceAllString(condition, "$1 $2 ${3}L") }

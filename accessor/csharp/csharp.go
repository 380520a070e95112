// Package csharp spells accessors in C# 6 and later: one class with the members,
// the switch, and the texts, on nothing but the base class library.
package csharp

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
	"zelvik/message/native"
)

// Language is C#.
var Language = &accessor.Language{
	Name: "csharp", Title: "C# 6 and later",
	Member:         accessor.Pascal,
	Package:        "App.Text",
	PackagePattern: "names separated by dots, such as Skerry.Text",
	ValidPackage: func(name string) bool {
		return regexp.MustCompile(`^[A-Za-z_][A-Za-z0-9_]*(\.[A-Za-z_][A-Za-z0-9_]*)*$`).MatchString(name) &&
			!slices.ContainsFunc(strings.Split(name, "."), func(part string) bool { return reserved("")[part] })
	},
	Syntax:   syntax,
	Own:      own,
	Generate: generate,
}

// reserved are C#'s keywords, the members of every object, and those of the
// class itself.
func reserved(class string) map[string]bool {
	return accessor.Reserved(`abstract as base bool break byte case catch char checked class const continue decimal
		default delegate do double else enum event explicit extern false finally fixed float for foreach goto if implicit in
		int interface internal is lock long namespace new null object operator out override params private protected public
		readonly ref return sbyte sealed short sizeof stackalloc static string struct switch this throw true try typeof uint
		ulong unchecked unsafe ushort using virtual void volatile while
		Equals GetHashCode GetType ToString MemberwiseClone Finalize ReferenceEquals Cultures`, class)
}

//go:embed *.tmpl
var files embed.FS

// templates are parsed when first used: they would slow every command down.
var templates = sync.OnceValue(func() *template.Template {
	return template.Must(template.New("").Funcs(template.FuncMap{
		"literal": literal, "doc": doc, "type": typeOf, "bound": bound, "value": value,
	}).ParseFS(files, "*.tmpl"))
})

// page is what a template sees.
type page struct {
	*accessor.Model
	*accessor.Catalog
	Patterns            []string
	Header              string
	Visibility          string
	Cardinals, Ordinals []accessor.Ruled
	// Q marks what can be null, Syntax is that of the texts.
	Q, Syntax string
}

func generate(m *accessor.Model) map[string][]byte {
	p := page{Model: m, Catalog: m.Catalogs[0], Header: accessor.Comment(m.Header("csharp")), Visibility: "public", Q: "?", Syntax: syntax}
	if m.Hidden {
		p.Visibility = "internal"
	}
	if m.Plain {
		p.Q = ""
	}
	p.Cardinals, p.Ordinals = m.Plurals("==", "!=")
	p.Patterns = m.Patterns(dotNet)
	files := m.Spell(templates(), p, []accessor.Output{{Template: "CultureSwitch.cs.tmpl", File: "CultureSwitch.cs"}})
	for _, c := range m.Catalogs {
		c.Name(reserved(c.Type), accessor.Pascal, accessor.Camel)
		p.Catalog = c
		maps.Copy(files, m.Spell(templates(), p, []accessor.Output{
			{Template: "Wording.cs.tmpl", File: c.Type + ".cs"},
			{Template: "Texts.cs.tmpl", File: c.Type + "Texts.cs"},
			{Template: "WordingSource.cs.tmpl", File: c.Type + "Source.cs", Optional: true, Wanted: m.Binding && c.Plain()},
			{Template: "WordingCases.cs.tmpl", File: c.Type + "Cases.cs", Cases: true},
		}))
	}
	return files
}

// syntax is that of string.Format, in bundles.
const syntax = "composite"

// own gives string.Format a placeholder of its own syntax as its first argument.
func own(p *message.Placeholder) string {
	spelling := native.Spelling(p)
	if p.Syntax != message.Composite || !item().MatchString(spelling) {
		return ""
	}
	return "{0" + strings.TrimLeft(spelling[1:], "0123456789")
}

// item matches an item that says more than a number.
var item = sync.OnceValue(func() *regexp.Regexp { return regexp.MustCompile(`^\{\d+[,:]`) })

// typeOf returns the type of a parameter. Formats that numbers and dates have take
// both, and so do those that say neither; formats of numbers take fractions unless
// they are for whole numbers alone.
func typeOf(p accessor.Parameter) string {
	_, format, formatted := strings.Cut(strings.TrimSuffix(p.Spelling, "}"), ":")
	switch {
	case p.Spelling == "" || !formatted:
		return types.Of(p.Type)
	case p.Type == message.String || slices.Contains([]string{"D", "F", "f", "G", "g"}, format):
		return "System.IFormattable"
	case p.Type == message.Integer && !strings.ContainsAny(format[:1], "DdXxBb"):
		return types.Decimal
	}
	return types.Of(p.Type)
}

// bound is the name of a member in the source of bindings, which has some of its own.
func bound(name string) string {
	if slices.Contains([]string{"CultureTag", "IsRightToLeft", "FlowDirection", "PropertyChanged", "Dispose", "Raise", "Changed"}, name) {
		return name + "Text"
	}
	return name
}

// types are those of arguments.
var types = accessor.Types{Text: "string", Whole: "long", Decimal: "decimal", Moment: "System.DateTimeOffset"}

// literal writes a string literal in ASCII, so that no encoding can change it.
func literal(text string) string {
	var out strings.Builder
	out.WriteByte('"')
	for _, r := range text {
		switch {
		case r == '"' || r == '\\':
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

// doc writes text for a documentation comment: characters that XML or the end
// of a line give a meaning are numbers.
func doc(text string) string {
	var out strings.Builder
	for _, r := range text {
		if strings.ContainsRune("<>&", r) || r < ' ' || r > '~' {
			if r < ' ' || r == 0x7f { // XML holds no number for most of them
				r = ' '
			}
			fmt.Fprintf(&out, "&#%d;", r)
			continue
		}
		out.WriteRune(r)
	}
	return out.String()
}

// value writes an argument of a case.
func value(v accessor.Value) string {
	if v.Type == message.Integer {
		return v.Text
	}
	return literal(v.Text)
}

// dotNet spells a pattern of UTS #35 as .NET's custom format strings do.
func dotNet(pattern string) string {
	var out strings.Builder
	for i := 0; i < len(pattern); {
		c := pattern[i]
		end := i + 1
		for end < len(pattern) && pattern[end] == c {
			end++
		}
		run := pattern[i:end]
		switch c {
		case '\'':
			if close := strings.IndexByte(pattern[i+1:], '\''); close >= 0 {
				end = i + close + 2
			}
			run = pattern[i:end]
		case 'y':
			run = "yyyy"
			if end-i == 2 {
				run = "yy"
			}
		case 'L':
			run = strings.Repeat("M", len(run))
		case 'E', 'c':
			run = "ddd"
			if end-i > 3 {
				run = "dddd"
			}
		case 'a', 'b', 'B':
			run = "tt"
		case 'K':
			run = "h"
		case 'k':
			run = "H"
		case '/', ':', '%', '"', '\\':
			run = strings.Repeat(`\`+string(c), len(run))
		}
		out.WriteString(run)
		i = end
	}
	if text := out.String(); len(text) != 1 {
		return text
	}
	return "%" + out.String() // one letter alone would be a standard format
}

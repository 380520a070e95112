// Package golang spells accessors in Go: one type with the members, the switch,
// and the texts, on nothing but the standard library.
package golang

import (
	"bytes"
	"embed"
	"fmt"
	"go/format"
	"go/token"
	"maps"
	"path"
	"regexp"
	"strconv"
	"strings"
	"sync"
	"text/template"

	"zelvik/accessor"
	"zelvik/message"
)

// Language is Go.
var Language = &accessor.Language{
	Name: "go", Title: "Go 1.21 and later",
	Member:         accessor.Pascal,
	Package:        "app/text",
	PackagePattern: "a lower-case name or an import path that ends in one, such as app/text",
	ValidPackage: func(name string) bool {
		last := path.Base(name)
		return regexp.MustCompile(`^([\w.~-]+/)*[a-z][a-z0-9_]*$`).MatchString(name) && path.Clean(name) == name && !token.IsKeyword(last)
	},
	Beside:   true,
	Prints:   accessor.Tabled,
	Generate: generate,
}

// reserved are the words that members and parameters cannot be: Go's keywords,
// the names that the code itself uses, the methods of the type, and those that vet
// wants to be other methods.
func reserved() map[string]bool {
	return accessor.Reserved(`break case chan const continue default defer else fallthrough for func go goto if
		import interface map package range return select struct switch type var any bool string int int64 float64 error nil
		true false len append make new time w argument Cultures Within
		As Is Unwrap GobDecode GobEncode MarshalJSON MarshalXML ReadByte ReadRune UnmarshalJSON UnmarshalXML UnreadByte UnreadRune WriteByte`)
}

//go:embed *.tmpl
var files embed.FS

// templates are parsed when first used: they would slow every command down.
var templates = sync.OnceValue(func() *template.Template {
	return template.Must(template.New("").Funcs(template.FuncMap{
		"literal": strconv.QuoteToASCII, "doc": doc, "type": types.Of, "value": value,
	}).ParseFS(files, "*.tmpl"))
})

// page is what a template sees.
type page struct {
	*accessor.Model
	*accessor.Catalog
	Header, Name        string
	Cardinals, Ordinals []accessor.Ruled
	// Label is the type's name in bundles, Variable that of its texts.
	Label, Variable string
	// Times says that a member takes a date or a time.
	Times bool
}

func generate(m *accessor.Model) map[string][]byte {
	p := page{Model: m, Catalog: m.Catalogs[0], Header: comment(m.Header("go")), Name: path.Base(m.Package)}
	if m.Package == "" {
		p.Name = "texts"
	}
	p.Cardinals, p.Ordinals = m.Plurals("==", "!=")
	folder := ""
	if m.Package != "" {
		folder = m.Package + "/"
	}
	files := m.Spell(templates(), p, []accessor.Output{
		{Template: "switch.go.tmpl", File: folder + "cultureswitch.go"},
		{Template: "changes.go.tmpl", File: folder + "culturechanges.go", Optional: true, Wanted: m.Binding},
	})
	for _, c := range m.Catalogs {
		c.Name(reserved(), accessor.Pascal, accessor.Camel)
		p.Catalog, p.Label, p.Times = c, c.Type, c.Takes(message.Date, message.Time)
		p.Variable = strings.ToLower(c.Type[:1]) + c.Type[1:] + "Catalog"
		if m.Hidden {
			c.Type = strings.ToLower(c.Type[:1]) + c.Type[1:]
		}
		file := strings.ToLower(c.Type)
		maps.Copy(files, m.Spell(templates(), p, []accessor.Output{
			{Template: "wording.go.tmpl", File: folder + file + ".go"},
			{Template: "texts.go.tmpl", File: folder + file + "texts.go"},
			{Template: "cases.go.tmpl", File: folder + file + "_cases_test.go", Cases: true},
		}))
	}
	for name, data := range files {
		files[name] = formatted(data)
	}
	return files
}

// formatted returns what gofmt would. The templates of large files do so by
// themselves, up to their end; to format them would take seconds.
func formatted(data []byte) []byte {
	if len(data) > 1<<20 {
		return append(bytes.TrimRight(data, "\n"), '\n')
	}
	made, err := format.Source(data)
	if err != nil {
		panic(err) // whatever the texts, they are literals
	}
	return made
}

// types are those of arguments.
var types = accessor.Types{Text: "string", Whole: "int64", Decimal: "float64", Moment: "time.Time"}

// doc writes text for a comment of whole lines.
func doc(text string) string {
	return strings.Join(strings.Fields(comment(text)), " ")
}

// comment is text for a line comment.
func comment(text string) string {
	return strings.Map(func(r rune) rune {
		if r < ' ' {
			return ' '
		}
		if r == 0xfeff || r == 0x2028 || r == 0x2029 || r >= 0x202a && r <= 0x202e || r >= 0x2066 && r <= 0x2069 {
			return '?'
		}
		return r
	}, fmt.Sprint(text))
}

// value writes an argument of a case.
func value(v accessor.Value) string {
	if v.Type == message.Integer {
		return v.Text
	}
	return strconv.QuoteToASCII(v.Text)
}

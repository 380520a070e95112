// Package golang spells accessors in Go: one type with the members, the switch,
// and the texts, with nothing but the standard library behind them.
package golang

import (
	"bytes"
	_ "embed"
	"fmt"
	"go/format"
	"go/token"
	"path"
	"regexp"
	"strconv"
	"strings"
	"sync"
	"text/template"

	"zelvik/accessor"
	"zelvik/culture"
	"zelvik/message"
)

// Language is Go.
var Language = &accessor.Language{
	Name: "go", Title: "Go 1.21 and later",
	PackagePattern: "a lower-case name or an import path that ends in one, such as app/text",
	ValidPackage: func(name string) bool {
		last := path.Base(name)
		return regexp.MustCompile(`^[a-z][a-z0-9_]*$`).MatchString(last) && !token.IsKeyword(last)
	},
	Generate: generate,
}

// reserved are the words that members and parameters cannot be: Go's keywords,
// the names that the code itself uses, and the methods of the type.
func reserved() map[string]bool {
	set := map[string]bool{}
	for word := range strings.FieldsSeq(`break case chan const continue default defer else fallthrough for func go goto if
		import interface map package range return select struct switch type var any bool string int int64 float64 error nil
		true false len append make new time w argument Cultures Within`) {
		set[word] = true
	}
	return set
}

//go:embed wording.go.tmpl
var wordingTemplate string

//go:embed switch.go.tmpl
var switchTemplate string

//go:embed texts.go.tmpl
var textsTemplate string

// templates are parsed when first used: they would slow every command down.
var templates = sync.OnceValue(func() *template.Template {
	t := template.New("").Funcs(template.FuncMap{"literal": strconv.QuoteToASCII, "doc": doc, "type": typeName})
	template.Must(t.New("wording").Parse(wordingTemplate))
	template.Must(t.New("switch").Parse(switchTemplate))
	template.Must(t.New("texts").Parse(textsTemplate))
	return t
})

// page is what a template sees.
type page struct {
	*accessor.Model
	Header, Name        string
	Cardinals, Ordinals []accessor.Ruled
	Symbols             []culture.Symbols
	// Times says that a member takes a date or a time.
	Times bool
}

func generate(m *accessor.Model) map[string][]byte {
	m.Name(reserved(), accessor.Pascal, accessor.Camel)
	p := page{Model: m, Header: comment(m.Header("go")), Name: path.Base(m.Package)}
	if m.Package == "" {
		p.Name = "texts"
	}
	if m.Hidden {
		m.Type = strings.ToLower(m.Type[:1]) + m.Type[1:]
	}
	p.Cardinals, p.Ordinals = m.Plurals("==", "!=")
	for _, c := range m.Cultures {
		p.Symbols = append(p.Symbols, c.Tag.Symbols())
	}
	for _, member := range m.Members {
		for _, parameter := range member.Parameters {
			p.Times = p.Times || typeName(parameter.Type) == "time.Time"
		}
	}
	folder := ""
	if m.Package != "" {
		folder = m.Package + "/"
	}
	return map[string][]byte{
		folder + strings.ToLower(m.Type) + ".go":      execute("wording", p),
		folder + "cultureswitch.go":                   execute("switch", p),
		folder + strings.ToLower(m.Type) + "texts.go": execute("texts", p),
	}
}

func execute(name string, p page) []byte {
	out := accessor.Execute(templates(), name, p)
	if name != "switch" { // the templates of the large files give what gofmt would
		return append(bytes.TrimRight(out, "\n"), '\n')
	}
	made, err := format.Source(out)
	if err != nil {
		panic(err) // whatever the texts, they are literals
	}
	return made
}

func typeName(t message.Type) string {
	switch t {
	case message.Integer:
		return "int64"
	case message.Decimal, message.Percent, message.Currency:
		return "float64"
	case message.Date, message.Time:
		return "time.Time"
	}
	return "string"
}

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

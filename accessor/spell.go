package accessor

import (
	"bytes"
	"path"
	"strings"
	"text/template"
	"unicode/utf8"

	"zelvik/message"
)

// Execute carries out a template of a language's package. The templates are
// embedded and tested, so that a fault in one is a fault in the program.
func Execute(t *template.Template, name string, data any) []byte {
	var out bytes.Buffer
	if err := t.ExecuteTemplate(&out, name, data); err != nil {
		panic(err)
	}
	return out.Bytes()
}

// Comment is text for a line comment in ASCII: whatever could end it is a
// question mark.
func Comment(text string) string {
	return strings.Map(func(r rune) rune {
		if r < ' ' || r > '~' || r == '\\' {
			return '?'
		}
		return r
	}, text)
}

// Fill writes the words of a text in lines that begin with a prefix and do not
// grow beyond a width, unless a word does.
func Fill(prefix, text string, width int) string {
	var out strings.Builder
	column := 0
	for i, word := range strings.Fields(text) {
		switch size := utf8.RuneCountInString(word); {
		case i > 0 && column+1+size <= width:
			out.WriteString(" " + word)
			column += 1 + size
		default:
			if i > 0 {
				out.WriteByte('\n')
			}
			out.WriteString(prefix + word)
			column = utf8.RuneCountInString(prefix) + size
		}
	}
	return out.String()
}

// Chunk is a part of a list of texts.
type Chunk struct {
	From, Number int
	Texts        []string
}

// Chunks parts a list for the Java virtual machine, where a method may not
// grow beyond 64 KiB.
func Chunks(texts []string) []Chunk {
	const size = 2000
	var list []Chunk
	for from := 0; from < len(texts); from += size {
		list = append(list, Chunk{from, len(list), texts[from:min(from+size, len(texts))]})
	}
	return list
}

// Output is a file that a language's package writes: by a template, always or
// only when it is wanted.
type Output struct {
	Template, File string
	// Optional files are left out unless Wanted.
	Optional, Wanted bool
	// Cases marks the file of tests.
	Cases bool
}

// Spell carries out the templates of a language's package.
func (m *Model) Spell(t *template.Template, page any, outputs []Output) map[string][]byte {
	files := map[string][]byte{}
	for _, o := range outputs {
		switch {
		case o.Cases && m.Cases:
			files[path.Join(m.CasesOut, o.File)] = Execute(t, o.Template, page)
		case !o.Cases && (o.Wanted || !o.Optional):
			files[o.File] = Execute(t, o.Template, page)
		}
	}
	return files
}

// Reserved makes the set of the words that members and parameters cannot be.
func Reserved(words string, more ...string) map[string]bool {
	set := map[string]bool{}
	for word := range strings.FieldsSeq(words) {
		set[word] = true
	}
	for _, word := range more {
		set[word] = true
	}
	return set
}

// Types are a language's types for arguments.
type Types struct{ Text, Whole, Decimal, Moment string }

// Of returns the type for an argument of a message.
func (t Types) Of(kind message.Type) string {
	switch kind {
	case message.Integer:
		return t.Whole
	case message.Decimal, message.Percent, message.Currency:
		return t.Decimal
	case message.Date, message.Time:
		return t.Moment
	}
	return t.Text
}

// Package all is the list of formats. Adding a format is adding its package
// and its line here.
package all

import (
	"fmt"
	pathpkg "path"
	"slices"
	"strings"

	"zelvik/finding"
	"zelvik/format"
	"zelvik/format/android"
	"zelvik/format/arb"
	"zelvik/format/charset"
	"zelvik/format/json"
	"zelvik/format/po"
	"zelvik/format/properties"
	"zelvik/format/qt"
	"zelvik/format/resx"
	"zelvik/format/sheet"
	appletable "zelvik/format/strings"
	"zelvik/format/stringsdict"
	"zelvik/format/tmx"
	"zelvik/format/winrc"
	"zelvik/format/xcstrings"
	"zelvik/format/xliff"
	"zelvik/format/xmlscan"
	"zelvik/message/loose"
)

// Formats are all formats, in the order of the documentation.
var Formats = []*format.Format{
	android.Format,
	appletable.Format,
	stringsdict.Format,
	xcstrings.Format,
	resx.Format,
	arb.Format,
	properties.Format,
	json.Format,
	po.Format,
	po.Compiled,
	qt.Format,
	xliff.Format,
	xliff.Second,
	winrc.Format,
	sheet.Format,
	tmx.Format,
}

// Named returns the format with a name; after a colon may stand how its texts
// spell placeholders, where files leave that open, and that they hold markup:
// "json:colon", "strings:markup". The error lists the names and the nearest one.
func Named(name string) (*format.Format, error) {
	if plain, marked := strings.CutSuffix(name, ":"+format.MarkedWord); marked {
		f, err := Named(plain)
		return format.Marked(f), err
	}
	name, spelling, asked := strings.Cut(name, ":")
	var names []string
	for _, f := range Formats {
		switch {
		case f.Name == name && !asked:
			return f, nil
		case f.Name == name && f.Spelled == nil:
			return nil, fmt.Errorf("%s files settle how placeholders are spelled; leave out :%s", name, spelling)
		case f.Name == name:
			if f = f.Spelled(spelling); f != nil {
				return f, nil
			}
			return nil, fmt.Errorf("%q is no spelling of placeholders; choose %s", spelling, strings.Join(loose.Words[:], ", "))
		}
		names = append(names, f.Name)
	}
	if nearest := finding.Nearest(name, names); nearest != "" {
		return nil, fmt.Errorf("%q is no format; %s was probably meant (zelvik formats lists them)", name, nearest)
	}
	return nil, fmt.Errorf("%q is no format; there are %s", name, strings.Join(names, ", "))
}

// Detect returns the format that fits a file best, by its path and its first
// bytes, and how well it fits; nil when none does.
func Detect(path string, head []byte) (*format.Format, format.Fit) {
	if len(head) > 0 {
		head = charset.Decode(head).UTF8 // of a file in UTF-16, too
	}
	best, fit := (*format.Format)(nil), format.No
	for _, f := range Formats {
		if here := f.Recognise(path, head); here > fit {
			best, fit = f, here
		}
	}
	return best, fit
}

// Why says what keeps a file from being recognised.
func Why(path string, head []byte) string {
	text := strings.TrimLeft(string(charset.Decode(head).UTF8), " \t\r\n")
	switch {
	case len(head) == 0:
		return "it is empty"
	case charset.Binary(head):
		return "it is binary"
	case strings.HasPrefix(text, "<"):
		for s := xmlscan.New(text); s.Next(); {
			if s.Kind == xmlscan.Start {
				return fmt.Sprintf("it is XML, and its root <%s> is that of no format", s.Name)
			}
		}
		return "it is XML without a root"
	case strings.HasPrefix(text, "{") || strings.HasPrefix(text, "["):
		return "it is JSON, and no object of texts"
	case pathpkg.Ext(path) == "":
		return "its name has no ending, and its first bytes are those of no format"
	}
	return fmt.Sprintf("neither its ending %s nor its first bytes are those of a format", pathpkg.Ext(path))
}

// Unsure says why a format was chosen for a file whose name does not say it,
// and what else it could be; "" where there is no doubt.
func Unsure(path string, head []byte, chosen *format.Format) string {
	if slices.Contains(chosen.Extensions, strings.ToLower(pathpkg.Ext(path))) && chosen.Recognise(path, head) == format.Yes {
		return ""
	}
	var others []string
	for _, f := range Formats {
		if f != chosen && f.Recognise(path, head) >= chosen.Recognise(path, head) {
			others = append(others, f.Name)
		}
	}
	switch {
	case slices.Contains(chosen.Extensions, strings.ToLower(pathpkg.Ext(path))) && others == nil:
		return ""
	case others == nil:
		return fmt.Sprintf("taken for %s by its first bytes", chosen.Name)
	}
	return fmt.Sprintf("taken for %s; it could be %s as well", chosen.Name, strings.Join(others, " or "))
}

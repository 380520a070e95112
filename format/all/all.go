// Package all is the list of formats. Adding a format is adding its package
// and its line here.
package all

import (
	"fmt"
	"strings"

	"zelvik/finding"
	"zelvik/format"
	"zelvik/format/android"
	"zelvik/format/arb"
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

// Named gives the format with a name. The error lists the names and the
// nearest one.
func Named(name string) (*format.Format, error) {
	var names []string
	for _, f := range Formats {
		if f.Name == name {
			return f, nil
		}
		names = append(names, f.Name)
	}
	if nearest := finding.Nearest(name, names); nearest != "" {
		return nil, fmt.Errorf("%q is no format; %s was probably meant (zelvik formats lists them)", name, nearest)
	}
	return nil, fmt.Errorf("%q is no format; there are %s", name, strings.Join(names, ", "))
}

// Detect gives the format that fits a file best, by its path and its first
// bytes, and how well it fits; nil when none does.
func Detect(path string, head []byte) (*format.Format, format.Fit) {
	best, fit := (*format.Format)(nil), format.No
	for _, f := range Formats {
		if here := f.Recognise(path, head); here > fit {
			best, fit = f, here
		}
	}
	return best, fit
}

// Package sheet reads and writes spreadsheets of texts: a row a key, a column
// a culture, as CSV (RFC 4180), with tabs, or as an XLSX workbook.
package sheet

import (
	"bytes"
	"path"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/format"
	"zelvik/message"
	"zelvik/message/loose"
)

// Format is the format "sheet". It writes CSV unless the file's name asks for
// another form.
var Format = form("csv", join)

// tabs and workbook are its other forms.
var tabs, workbook = form("tsv", joinTabs), form("xlsx", joinWorkbook)

func init() { Format.Named = named }

// named returns the form for a file name.
func named(p string) *format.Format {
	switch strings.ToLower(path.Ext(p)) {
	case ".tsv", ".tab":
		return tabs
	case ".xlsx":
		return workbook
	}
	return Format
}

func form(extension string, join func([]*catalog.Catalog) ([]byte, []catalog.Loss)) *format.Format {
	return &format.Format{
		Name:       "sheet",
		Title:      "Spreadsheet: CSV, TSV or XLSX",
		Files:      "texts.csv, texts.tsv, texts.xlsx",
		Extensions: []string{".csv", ".tsv", ".xlsx"},
		Table:      "texts",
		Holds:      holds,
		Recognise:  recognise,
		Locate: func(p string) format.Location {
			return format.Location{Dir: path.Dir(p), Table: strings.TrimSuffix(path.Base(p), path.Ext(p)), Neutral: true}
		},
		Path:    func(dir, table string, _ culture.Tag, _ bool) string { return path.Join(dir, table+"."+extension) },
		Parse:   parse,
		Message: func(text string) (message.Message, []message.Fault) { return loose.Of(text).Parse(text) },
		Compose: format.Alone(join),
		Join:    join,
	}
}

var holds = format.Abilities{
	Plurals: true, OptionalStates: true, Zero: true, Exact: true, Ordinals: true, Selects: true, Several: true, Names: true, Types: true,
	Notes: true, States: true, Fixed: true, Limits: true, Many: true,
}

// recognise is sure of a table whose first row names a key and a culture.
func recognise(p string, head []byte) format.Fit {
	switch strings.ToLower(path.Ext(p)) {
	case ".csv", ".tsv", ".tab":
		if len(head) == 0 {
			return format.Maybe
		}
		line, _, _ := bytes.Cut(head, []byte("\n"))
		if rows, _ := scan(string(line), nil); len(rows) > 0 {
			if c := columnsOf(rows[0].cells); c.key >= 0 && len(c.cultures) > 0 {
				return format.Yes
			}
		}
		return format.Maybe
	case ".xlsx":
		if bytes.HasPrefix(head, []byte("PK")) || len(head) == 0 {
			return format.Maybe
		}
	case "", ".txt":
		line, _, ok := bytes.Cut(head, []byte("\n"))
		if rows, _ := scan(string(line), nil); ok && len(rows) > 0 && len(rows[0].cells) > 1 {
			if c := columnsOf(rows[0].cells); c.key >= 0 && len(c.cultures) > 0 {
				return format.Maybe
			}
		}
	}
	return format.No
}

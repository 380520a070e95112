// Package webpage makes HTML pages that stand alone: one file, no network, to be
// read, searched and sent on.
package webpage

import (
	"bytes"
	_ "embed"
	"html/template"
	"slices"
	"strings"

	"zelvik/culture"
	"zelvik/message"
	"zelvik/work/table"
)

//go:embed style.css
var style string

//go:embed table.js
var script string

//go:embed table.html
var page string

// generator is the line of a page that says who made it.
const generator = "<meta name=\"generator\" content=\"Zelvik\">\n"

// Made reports whether a file is a page that this package made.
func Made(data []byte) bool {
	return bytes.Contains(data[:min(len(data), 400)], []byte(generator))
}

// Table makes the page of tables: keys down, cultures across, with a search
// and a choice of states. An error is a mistake in the template.
func Table(tables []table.Table) ([]byte, error) {
	made, err := template.New("table").Funcs(template.FuncMap{"parts": parts, "state": func(row table.TableRow, tag culture.Tag) table.CellState { return row.States[tag] }}).Parse(page)
	if err != nil {
		return nil, err
	}
	var seen []culture.Tag
	for _, t := range tables {
		for _, tag := range t.Cultures {
			if !slices.Contains(seen, tag) {
				seen = append(seen, tag)
			}
		}
	}
	var out bytes.Buffer
	err = made.Execute(&out, map[string]any{
		"Generator": template.HTML(generator), "Style": template.CSS(style), "Script": template.JS(script),
		"States": table.CellStates, "Cultures": seen, "Tables": tables,
	})
	return out.Bytes(), err
}

// variant is one text of a message, under its keys.
type variant struct {
	Keys  string
	Parts []part
}

// part is a stretch of a text. A placeholder is isolated, so that it stays whole
// in text from right to left.
type part struct {
	Text     string
	Isolated bool
}

// parts returns what a cell shows: a choice has a line for each variant.
func parts(t table.Table, row table.TableRow, tag culture.Tag) (list []variant) {
	m := t.Message(&row, tag)
	if m == nil {
		return nil
	}
	for keys, pattern := range m.Patterns() {
		v := variant{Keys: strings.Join(keys, " ")}
		for _, one := range pattern {
			_, plain := one.(message.Text)
			v.Parts = append(v.Parts, part{message.Pattern{one}.String(), !plain})
		}
		list = append(list, v)
	}
	return list
}

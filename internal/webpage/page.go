// Package webpage makes HTML pages that stand alone: one file, no network, to be
// read, searched and sent on.
package webpage

import (
	"bytes"
	_ "embed"
	"fmt"
	"html"
	"strings"

	"zelvik/culture"
	messages "zelvik/message"
	"zelvik/work/table"
)

//go:embed style.css
var style string

//go:embed table.js
var tableScript string

// generator is the line of a page that says who made it.
const generator = "<meta name=\"generator\" content=\"Zelvik\">\n"

// Made reports whether a file is a page that this package made.
func Made(data []byte) bool {
	return bytes.Contains(data[:min(len(data), 400)], []byte(generator))
}

// Table makes the page of tables: keys down, cultures across, with a search
// and a choice of states.
func Table(tables []table.Table) []byte {
	var out strings.Builder
	out.WriteString("<!doctype html>\n<html lang=\"en\">\n<meta charset=\"utf-8\">\n<meta name=\"viewport\" content=\"width=device-width\">\n" + generator + "<title>Texts</title>\n<style>\n" + style + "</style>\n<body>\n")
	out.WriteString("<header>\n<input id=\"search\" type=\"search\" placeholder=\"Search keys and texts\" aria-label=\"Search keys and texts\" autofocus>\n<select id=\"state\" aria-label=\"State\">\n<option value=\"\">all states</option>\n")
	for _, s := range table.CellStates {
		fmt.Fprintf(&out, "<option value=\"%s\">%s %s</option>\n", s.State, html.EscapeString(s.Mark), s.State)
	}
	out.WriteString("</select>\n<fieldset id=\"cultures\">\n")
	var seen []culture.Tag
	for _, t := range tables {
		for _, tag := range t.Cultures {
			if contains(seen, tag) {
				continue
			}
			seen = append(seen, tag)
			fmt.Fprintf(&out, "<label title=\"%s\"><input type=\"checkbox\" value=\"%s\" checked>%s</label>\n", html.EscapeString(tag.Name()), tag, tag)
		}
	}
	out.WriteString("</fieldset>\n<output id=\"count\"></output>\n</header>\n<main>\n")
	for i := range tables {
		keysTable(&out, &tables[i])
	}
	out.WriteString("</main>\n<footer>")
	for i, s := range table.CellStates {
		if i > 0 {
			out.WriteString(" · ")
		}
		fmt.Fprintf(&out, "<b class=\"%s\">%s</b> %s", s.State, html.EscapeString(s.Mark), s.Says)
	}
	out.WriteString("</footer>\n<script>\n" + tableScript + "</script>\n</body>\n</html>\n")
	return []byte(out.String())
}

func contains(list []culture.Tag, tag culture.Tag) bool {
	for _, one := range list {
		if one == tag {
			return true
		}
	}
	return false
}

func keysTable(out *strings.Builder, t *table.Table) {
	fmt.Fprintf(out, "<section>\n<h1>%s <small>%s</small></h1>\n<table>\n<thead><tr><th scope=\"col\">key</th>", html.EscapeString(t.Family), t.Format)
	for _, tag := range t.Cultures {
		fmt.Fprintf(out, "<th scope=\"col\" dir=\"%s\" data-culture=\"%s\" title=\"%s\">%s</th>", tag.Direction(), tag, html.EscapeString(tag.Name()), tag)
	}
	out.WriteString("</tr></thead>\n<tbody>\n")
	for i := range t.Rows {
		row := t.Rows[i]
		fmt.Fprintf(out, "<tr><th scope=\"row\">%s", html.EscapeString(row.Key))
		if row.Note != "" {
			fmt.Fprintf(out, "<p>%s</p>", html.EscapeString(row.Note))
		}
		out.WriteString("</th>")
		for _, tag := range t.Cultures {
			state := row.States[tag]
			fmt.Fprintf(out, "<td data-culture=\"%s\" lang=\"%s\"", tag, tag)
			if tag.RightToLeft() {
				out.WriteString(" dir=\"rtl\"")
			}
			if state != "" {
				fmt.Fprintf(out, " class=\"%s\" data-mark=\"%s\"", state, html.EscapeString(state.Mark()))
			}
			out.WriteString(">")
			if m := t.Message(&row, tag); m != nil {
				message(out, m)
			}
			out.WriteString("</td>")
		}
		out.WriteString("</tr>\n")
	}
	out.WriteString("</tbody>\n</table>\n</section>\n")
}

// message writes a text; a choice has a line for each variant. Placeholders
// are isolated, so that they stay whole in text from right to left.
func message(out *strings.Builder, m *messages.Message) {
	for keys, pattern := range m.Patterns() {
		if keys != nil {
			fmt.Fprintf(out, "<div><small><bdi>%s</bdi></small> ", html.EscapeString(strings.Join(keys, " ")))
		}
		for _, part := range pattern {
			text := html.EscapeString(messages.Pattern{part}.String())
			if _, plain := part.(messages.Text); !plain {
				text = "<bdi>" + text + "</bdi>"
			}
			out.WriteString(text)
		}
		if keys != nil {
			out.WriteString("</div>")
		}
	}
}

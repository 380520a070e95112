package jsonscan

import (
	"slices"
	"strings"
	"unicode/utf8"

	"zelvik/format/charset"
	"zelvik/format/doc"
)

// Tree is a value to be written: Text as it stands or as a string, or an object
// of Members.
type Tree struct {
	Text string
	// Str says that Text is a string's.
	Str     bool
	Members []Field
	// Items are those of an array; nil for none.
	Items []Tree
}

// Field is a key and its value.
type Field struct {
	Key   string
	Value Tree
}

// Str makes a value of a string.
func Str(text string) Tree { return Tree{Text: text, Str: true} }

// Dict makes an object.
func Dict(fields ...Field) Tree { return Tree{Members: fields} }

// Layout is how a document is written.
type Layout struct {
	// Indent is one step, Newline the line end, Colon what parts key and value.
	Indent, Newline, Colon string
	// ASCII says that characters beyond ASCII are escaped.
	ASCII bool
	// Flat says that an object's members stand on one line.
	Flat bool
	// Spread writes an empty object over two lines with a blank one between.
	Spread bool
}

// Plain is the layout of files that are written anew.
var Plain = Layout{Indent: "  ", Newline: "\n", Colon: ": "}

// LayoutOf finds out how a document is written.
func LayoutOf(src string, root *Value) Layout {
	l := Plain
	if strings.Contains(src, "\r\n") {
		l.Newline = "\r\n"
	}
	l.ASCII = strings.Contains(src, `\u`) && !strings.ContainsFunc(src, func(r rune) bool { return r >= utf8.RuneSelf })
	if len(root.Members) == 0 {
		return l
	}
	first := &root.Members[0]
	if colon := src[first.KeyTo:first.Value.From]; strings.TrimSpace(colon) == ":" && !strings.ContainsAny(colon, "\r\n") {
		l.Colon = colon
	}
	if start := strings.LastIndexByte(src[:first.KeyFrom], '\n') + 1; start > root.From {
		if line := src[start:first.KeyFrom]; strings.TrimSpace(line) == "" {
			l.Indent = line
		}
	} else {
		l.Flat, l.Newline, l.Indent = true, "", ""
	}
	return l
}

// Quote writes a string.
func (l Layout) Quote(text string) string {
	if l.ASCII {
		return QuoteASCII(text)
	}
	return Quote(text)
}

// Append writes a tree that stands at an indentation.
func (l Layout) Append(out []byte, t Tree, indent string) []byte {
	if t.Str {
		if l.ASCII {
			return append(out, QuoteASCII(t.Text)...)
		}
		return AppendQuote(out, t.Text)
	}
	if t.Text != "" {
		if l.ASCII {
			return append(out, escapeASCII(t.Text)...)
		}
		return append(out, t.Text...)
	}
	if t.Items != nil {
		out = append(out, '[')
		for i, item := range t.Items {
			if i > 0 {
				out = append(out, ',')
			}
			if out = append(out, l.Newline...); l.Flat {
				if i > 0 {
					out = append(out, ' ')
				}
			} else {
				out = append(append(out, indent...), l.Indent...)
			}
			out = l.Append(out, item, l.deeper(indent))
		}
		return append(append(append(out, l.Newline...), indent...), ']')
	}
	if len(t.Members) == 0 {
		if l.Spread {
			return append(out, "{"+l.Newline+l.Newline+indent+"}"...)
		}
		return append(out, "{}"...)
	}
	out = append(out, '{')
	for i, m := range t.Members {
		out = l.Member(out, m, i == 0, indent)
	}
	return append(append(append(out, l.Newline...), indent...), '}')
}

// Member writes a member of an object that stands at an indentation, with the
// comma after the one before it.
func (l Layout) Member(out []byte, m Field, first bool, indent string) []byte {
	if !first {
		out = append(out, ',')
		if l.Flat {
			out = append(out, ' ')
		}
	}
	out = append(append(append(out, l.Newline...), indent...), l.Indent...)
	if l.ASCII {
		out = append(out, l.Quote(m.Key)...)
	} else {
		out = AppendQuote(out, m.Key)
	}
	out = append(out, l.Colon...)
	return l.Append(out, m.Value, l.deeper(indent))
}

// spaces are what most files are indented by.
const spaces = "                                "

// deeper is an indentation and one more step.
func (l Layout) deeper(indent string) string {
	if n := len(indent) + len(l.Indent); n <= len(spaces) && indent == spaces[:len(indent)] && l.Indent == spaces[:len(l.Indent)] {
		return spaces[:n]
	}
	return indent + l.Indent
}

// Editor edits objects of a document in its layout.
type Editor struct {
	doc.Editor
	Layout Layout
	// inserted are the replacements that filled objects which were empty.
	inserted map[int]int
}

// NewEditor begins the edit of a document.
func NewEditor(text *charset.Text, root *Value) Editor {
	e := doc.NewEditor(text)
	return Editor{Editor: e, Layout: LayoutOf(e.Src, root), inserted: map[int]int{}}
}

// Indented returns the indentation of the line that an offset is on.
func (e *Editor) Indented(offset int) string {
	start := strings.LastIndexByte(e.Src[:offset], '\n') + 1
	line := e.Src[start:]
	return line[:len(line)-len(strings.TrimLeft(line, " \t"))]
}

// SetText replaces a string value, escaped as the one that stands there is.
func (e *Editor) SetText(v *Value, text string) {
	quote := Quote
	if raw := e.Src[v.From:v.To]; strings.Contains(raw, `\u`) && !strings.ContainsFunc(raw, func(r rune) bool { return r > 0x7E }) || e.Layout.ASCII {
		quote = QuoteASCII
	}
	if v.Kind != String {
		e.Replace(v.From, v.To, quote(text))
		return
	}
	e.Splice(v.From, v.To, quote(text), func(raw string) string {
		if v, faults := Parse(raw); len(faults) == 0 && v.Kind == String {
			return quote(v.Text)
		}
		return raw
	})
}

// Insert adds a member to an object after the one with an index, -1 for the
// front.
func (e *Editor) Insert(object *Value, after int, key string, value Tree) {
	indent := e.Indented(object.From)
	text := e.Layout.Quote(key) + e.Layout.Colon + string(e.Layout.Append(nil, value, indent+e.Layout.Indent))
	flat := e.Layout.Flat || len(object.Members) > 0 && !strings.Contains(e.Src[object.From:object.Members[0].KeyFrom], "\n")
	gap := e.Layout.Newline + indent + e.Layout.Indent
	if flat {
		gap = " "
		if len(object.Members) < 2 || e.Src[object.Members[0].Value.To:object.Members[1].KeyFrom] == "," {
			gap = ""
		}
	}
	switch {
	case len(object.Members) == 0:
		end := ""
		if !flat {
			end = e.Layout.Newline + indent
		}
		if i, again := e.inserted[object.From]; again { // after what was put in before
			r := &e.Replacements[i]
			r.Text = strings.TrimSuffix(r.Text, end) + "," + gap + text + end
			return
		}
		e.inserted[object.From] = len(e.Replacements)
		to := object.To
		if to > object.From+1 && e.Src[to-1] == '}' {
			to--
		}
		e.Replace(object.From+1, max(to, object.From+1), gap+text+end)
	case after < 0:
		at := object.Members[0].KeyFrom
		e.Replace(at, at, text+","+gap)
	default:
		at := object.Members[min(after, len(object.Members)-1)].Value.To
		e.Replace(at, at, ","+gap+text)
	}
}

// Drop takes out members of an object by their indices, in order, with one
// of the commas around them.
func (e *Editor) Drop(object *Value, indices ...int) {
	members := object.Members
	gone := func(i int) bool { return slices.Contains(indices, i) }
	last := len(members) - 1
	for last >= 0 && gone(last) {
		last--
	}
	if last < len(members)-1 { // the end goes with the comma before it
		from, to := object.From+1, object.To-1
		if last >= 0 {
			from, to = members[last].Value.To, members[len(members)-1].Value.To
		}
		e.Replace(from, to, "")
	}
	for i := 0; i <= last; i++ {
		if gone(i) {
			e.Replace(members[i].KeyFrom, members[i+1].KeyFrom, "")
		}
	}
}

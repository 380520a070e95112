// Package plist reads Apple's property lists: the XML form into a tree with
// byte positions, the binary form into the strings of its top dictionary.
package plist

import (
	"fmt"
	"strings"

	"zelvik/format/xmlscan"
)

// Kind is the kind of a value.
type Kind uint8

// The kinds of values. Other stands for numbers, dates, data and booleans.
const (
	Other Kind = iota
	String
	Dict
	Array
)

// Value is one value and where its element stands.
type Value struct {
	Kind     Kind
	From, To int
	// ContentFrom and ContentTo span what is between the tags.
	ContentFrom, ContentTo int
	Text                   string
	Members                []Member
	Items                  []Value
}

// Member is a key of a dictionary and its value.
type Member struct {
	Key string
	// From and To span the key's element, KeyFrom and KeyTo its content. Note
	// is the text of the comments before it, from NoteFrom (-1 for none).
	From, To, KeyFrom, KeyTo int
	Note                     string
	NoteFrom, NoteTo         int
	Value                    Value
}

// Find returns the member with the key, or nil.
func (v *Value) Find(key string) *Member {
	for i := range v.Members {
		if v.Members[i].Key == key {
			return &v.Members[i]
		}
	}
	return nil
}

type reader struct {
	*xmlscan.Scanner
	src string
}

// Parse reads an XML property list, which is UTF-8 without a byte order mark,
// and returns its top value.
func Parse(src string) (Value, []xmlscan.Fault) {
	r := &reader{xmlscan.New(src), src}
	var top Value
	found := false
	for r.Next() {
		if r.Kind != xmlscan.Start || r.Name == "plist" {
			continue
		}
		if found {
			r.Faults = append(r.Faults, xmlscan.Fault{Offset: r.From, Text: "a second value at the top", Fix: "put all keys into one <dict>"})
		}
		top, found = r.value(), true
	}
	if !found {
		r.Faults = append(r.Faults, xmlscan.Fault{Text: "the file holds no property list", Fix: "write <plist><dict>...</dict></plist>"})
	}
	return top, r.Faults
}

// value reads the element at whose start tag the scanner stands.
func (r *reader) value() Value {
	v := Value{From: r.From, To: r.To, ContentFrom: r.To, ContentTo: r.To}
	switch r.Name {
	case "dict":
		v.Kind = Dict
	case "array":
		v.Kind = Array
	case "string":
		v.Kind = String
	}
	if r.Lone {
		return v
	}
	depth := len(r.Open)
	switch v.Kind {
	case Dict:
		r.dict(&v, depth)
	case Array:
		for r.Next() && len(r.Open) >= depth {
			if r.Kind == xmlscan.Start {
				v.Items = append(v.Items, r.value())
			}
		}
	default:
		v.Text = r.text(depth)
	}
	v.ContentTo, v.To = r.From, r.To
	return v
}

// text reads characters up to the end of the element.
func (r *reader) text(depth int) string {
	var parts []string
	for r.Next() && len(r.Open) >= depth {
		switch r.Kind {
		case xmlscan.Text:
			parts = append(parts, r.Unescape(r.From, r.To))
		case xmlscan.CDATA:
			parts = append(parts, xmlscan.LineEnds(r.src[r.InnerFrom:r.InnerTo]))
		case xmlscan.Start:
			r.Faults = append(r.Faults, xmlscan.Fault{Offset: r.From, Text: fmt.Sprintf("<%s> inside a text", r.Name), Fix: "close the element before it, or write &lt;"})
			r.Back()
			r.Close(r.Open[len(r.Open)-1].Name)
			return strings.Join(parts, "")
		}
	}
	return strings.Join(parts, "")
}

func (r *reader) dict(v *Value, depth int) {
	var key *Member
	note, noteFrom, noteTo := "", -1, -1
	for r.Next() && len(r.Open) >= depth {
		switch {
		case r.Kind == xmlscan.Comment:
			text := strings.TrimSpace(r.src[r.InnerFrom:r.InnerTo])
			if noteFrom >= 0 {
				text = note + "\n" + text
			} else {
				noteFrom = r.From
			}
			note, noteTo = text, r.To
		case r.Kind == xmlscan.Text && strings.TrimSpace(r.src[r.From:r.To]) != "":
			r.Faults = append(r.Faults, xmlscan.Fault{Offset: r.From, Text: "text inside a <dict>", Fix: "put it into <string>"})
		case r.Kind != xmlscan.Start:
		case r.Name == "key":
			if key != nil {
				r.Faults = append(r.Faults, xmlscan.Fault{Offset: key.From, Text: fmt.Sprintf("the key %q has no value", key.Key), Fix: "add a value after it"})
			}
			m := Member{From: r.From, KeyFrom: r.To, KeyTo: r.To, To: r.To, Note: note, NoteFrom: noteFrom, NoteTo: noteTo}
			if !r.Lone {
				m.Key = r.text(len(r.Open))
				m.KeyTo, m.To = r.From, r.To
			}
			key = &m
			note, noteFrom, noteTo = "", -1, -1
		case key == nil:
			r.Faults = append(r.Faults, xmlscan.Fault{Offset: r.From, Text: "a value without a key", Fix: "add <key>...</key> before it"})
			r.value()
		default:
			key.Value = r.value()
			v.Members = append(v.Members, *key)
			key = nil
			note, noteFrom, noteTo = "", -1, -1
		}
	}
	if key != nil {
		r.Faults = append(r.Faults, xmlscan.Fault{Offset: key.From, Text: fmt.Sprintf("the key %q has no value", key.Key), Fix: "add a value after it"})
	}
}

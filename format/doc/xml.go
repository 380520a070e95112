package doc

import (
	"fmt"
	"slices"
	"strings"

	"zelvik/finding"
	"zelvik/format"
	"zelvik/format/charset"
	"zelvik/format/xmlscan"
)

// Element is the place of an XML element, of its start tag and of its content.
type Element struct {
	Whole, Start, Content Span
	// Lone says that its start tag closes itself.
	Lone bool
}

// NoElement is the place of one that is not there.
var NoElement = Element{Whole: Nowhere, Start: Nowhere, Content: Nowhere}

// There reports whether the element is there.
func (el Element) There() bool { return el.Whole.There() }

// XML reads the XML text of a file and tells what is wrong in it.
type XML struct {
	*xmlscan.Scanner
	format.Reader
	Src string
	// Between hears of text between the elements that Inside reads; nil for no
	// interest in it.
	Between func()
}

// NewXML begins to read a file. It is false, and told, where the data is no
// text: give says what to give instead.
func NewXML(text *charset.Text, data []byte, give string) (x XML, ok bool) {
	src := text.String()
	x = XML{Scanner: xmlscan.New(src), Reader: format.NewReader(src), Src: src}
	if charset.Binary(data) {
		x.Damaged(0, "", "the file is binary, no XML text", "give "+give)
		return x, false
	}
	text.Faults(x.Report, "save it as UTF-8")
	return x, true
}

// End reports a root that was not found, and of what is no XML, and gives all
// findings.
func (x *XML) End(root bool, name, fix string) []finding.Finding {
	if !root {
		x.Damaged(0, "", "the file has no <"+name+">", fix)
	}
	for _, f := range x.Faults {
		x.Damaged(f.Offset, "", f.Text, f.Fix)
	}
	return x.Done()
}

// Begun returns the element whose start tag was just read.
func (x *XML) Begun() Element {
	own := Span{x.From, x.To}
	return Element{own, own, Span{x.To, x.To}, x.Lone}
}

// Inside reads the element just begun to its end and gives its place. Child
// hears of each start tag in it, and reads the elements it knows to their ends.
// An element of the names in ends shows that the end tag is missing.
func (x *XML) Inside(child func(), ends ...string) Element {
	el := x.Begun()
	if x.Lone {
		return el
	}
	name, depth := x.Name, len(x.Open)
	for x.Next() && len(x.Open) >= depth {
		if x.Kind == xmlscan.Text && x.Between != nil && strings.TrimSpace(x.Src[x.From:x.To]) != "" {
			x.Between()
		}
		if x.Kind != xmlscan.Start {
			continue
		}
		if slices.Contains(ends, x.Name) {
			x.Back()
			x.Close(name)
			el.Content.To, el.Whole.To = x.From, x.From
			return el
		}
		child()
	}
	el.Content.To, el.Whole.To = x.From, x.To
	return el
}

// Characters reads the element just begun as text. A start tag in it goes to
// odd, which gives what it stands for; an element of the names in ends shows
// that the end tag is missing.
func (x *XML) Characters(odd func() string, ends ...string) (string, Element) {
	el := x.Begun()
	if x.Lone {
		return "", el
	}
	if size := strings.IndexByte(x.Src[x.To:], '<'); size >= 0 {
		if from, to := x.To, x.To+size; x.Shut(to, x.Name) {
			el.Content.To, el.Whole.To = to, x.To
			return x.Unescape(from, to), el
		}
	}
	name, depth := x.Name, len(x.Open)
	var out strings.Builder
	for x.Next() && len(x.Open) >= depth {
		switch x.Kind {
		case xmlscan.Text:
			out.WriteString(x.Unescape(x.From, x.To))
		case xmlscan.CDATA:
			out.WriteString(xmlscan.LineEnds(x.Src[x.InnerFrom:x.InnerTo]))
		case xmlscan.Start:
			if slices.Contains(ends, x.Name) {
				x.Back()
				x.Close(name)
				el.Content.To, el.Whole.To = x.From, x.From
				return out.String(), el
			}
			out.WriteString(odd())
		}
	}
	el.Content.To, el.Whole.To = x.From, x.To
	return out.String(), el
}

// Bare reports a tag in a text that can hold none, and skips its element.
func (x *XML) Bare(key string) string {
	x.Damaged(x.From, key, fmt.Sprintf("the tag <%s> stands bare in a text", x.Name), "write &lt; for <")
	x.Skip()
	return ""
}

// Legal leaves out characters that XML cannot hold, and reports it.
func Legal(t *format.Teller, text string) string {
	if xmlscan.Legal(text) {
		return text
	}
	t.Lose("character", "control characters that XML cannot hold", "they are left out")
	return strings.Map(func(r rune) rune {
		if !xmlscan.Legal(string(r)) {
			return -1
		}
		return r
	}, text)
}

// SetContent puts a text, spelled as the content of an element, in place of what
// an element has; spelled is as for Splice.
func (e *Editor) SetContent(el Element, name, text string, spelled func(raw string) string) {
	switch {
	case !el.There():
	case el.Lone:
		e.Replace(el.Whole.From, el.Whole.To, "<"+name+">"+text+"</"+name+">")
	default:
		e.Splice(el.Content.From, el.Content.To, text, spelled)
	}
}

// SetField sets the text of an element, takes the element out where the text is
// "", and adds one where there is none: after an offset, on a line of its own.
func (e *Editor) SetField(el Element, name, text string, spelled func(raw string) string, behind int, indent string) {
	switch {
	case el.There() && text == "":
		e.Cut(el.Whole.From, el.Whole.To)
	case el.There():
		e.SetContent(el, name, text, spelled)
	case text != "":
		e.Replace(behind, behind, e.Newline+indent+"<"+name+">"+text+"</"+name+">")
	}
}

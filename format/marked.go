package format

import (
	"slices"
	"sync"

	"zelvik/catalog"
	"zelvik/finding"
	"zelvik/message"
)

// MarkedWord stands after a format's name for texts that are said to hold
// markup: "json:markup".
const MarkedWord = "markup"

// marked are the formats that Marked made, by the format they are made of.
var marked sync.Map

// Marked returns the form of a format whose texts hold markup. In most formats
// <b> is three characters; only the project knows that its program reads them
// as a tag.
func Marked(f *Format) *Format {
	if f == nil || f.Holds.Markup {
		return f
	}
	if made, ok := marked.Load(f); ok {
		return made.(*Format)
	}
	m := *f
	m.Holds.Markup = true
	m.Companion = Marked(f.Companion)
	m.Parse = func(data []byte) (Document, []finding.Finding) {
		document, faults := f.Parse(data)
		for _, c := range document.Catalogs() {
			for i := range c.Entries {
				c.Entries[i].Message = c.Entries[i].Message.Marked()
			}
		}
		return document, faults
	}
	m.Message = func(text string) (message.Message, []message.Fault) {
		read, faults := f.Message(text)
		return read.Marked(), faults
	}
	m.Compose = func(c *catalog.Catalog, o Options) ([]byte, []catalog.Loss) {
		data, losses := f.Compose(c, o)
		return data, slices.DeleteFunc(losses, isMarkup)
	}
	if f.Join != nil {
		m.Join = func(list []*catalog.Catalog) ([]byte, []catalog.Loss) {
			data, losses := f.Join(list)
			return data, slices.DeleteFunc(losses, isMarkup)
		}
	}
	if f.Named != nil {
		m.Named = func(path string) *Format { return Marked(f.Named(path)) }
	}
	made, _ := marked.LoadOrStore(f, &m)
	return made.(*Format)
}

func isMarkup(l catalog.Loss) bool { return l.Kind == "markup" }

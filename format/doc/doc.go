// Package doc is the kit that the documents of the formats are made of: what
// notes where an entry stands, what reads XML, and the editor, which makes
// changes in those places and nowhere else.
package doc

import (
	"zelvik/catalog"
	"zelvik/format"
	"zelvik/format/charset"
	"zelvik/message"
)

// Span is a stretch of a text; From is -1 where what it stands for is not there.
type Span struct{ From, To int }

// Nowhere is the place of what is not there.
var Nowhere = Span{-1, -1}

// There reports whether something stands there.
func (s Span) There() bool { return s.From >= 0 }

// Slot says where the pieces of an entry stand in a text without elements.
type Slot struct {
	// Whole spans the entry without its note.
	Whole, Key, Value Span
	// Note is the comment before it, Trail the one after it on its line.
	Note, Trail Span
}

// Begin returns where the entry begins with the note before it.
func (s *Slot) Begin() int {
	if s.Note.There() {
		return s.Note.From
	}
	return s.Whole.From
}

// End returns where it ends with the comment on its line.
func (s *Slot) End() int { return max(s.Whole.To, s.Trail.To) }

// One is a file with one catalog.
type One struct {
	Coded   *charset.Text
	Catalog *catalog.Catalog
}

// NewOne decodes a file.
func NewOne(data []byte) One { return One{charset.Decode(data), &catalog.Catalog{}} }

// Catalogs returns the file's one catalog.
func (d *One) Catalogs() []*catalog.Catalog { return []*catalog.Catalog{d.Catalog} }

// Text returns the file as UTF-8.
func (d *One) Text() string { return d.Coded.String() }

// Pair is a file with a source and its translation, which is nil where there is
// none.
type Pair struct {
	Coded          *charset.Text
	Source, Target *catalog.Catalog
	// Index are the numbers of entries by their keys.
	Index map[string]int
}

// NewPair decodes a file.
func NewPair(data []byte) Pair {
	return Pair{charset.Decode(data), &catalog.Catalog{}, &catalog.Catalog{}, map[string]int{}}
}

// Catalogs returns the source, and the translation where the file has one.
func (d *Pair) Catalogs() []*catalog.Catalog {
	if d.Target == nil {
		return []*catalog.Catalog{d.Source}
	}
	return []*catalog.Catalog{d.Source, d.Target}
}

// Text returns the file as UTF-8.
func (d *Pair) Text() string { return d.Coded.String() }

// At returns the number of the entry with a key, -1 where there is none.
func (d *Pair) At(key string) int {
	if i, ok := d.Index[key]; ok {
		return i
	}
	return -1
}

// ToSource reports whether a change is for the source: changes go to the
// translation unless they name the source's culture.
func (d *Pair) ToSource(c format.Change) bool {
	return d.Target != nil && c.Culture != "" && c.Culture == d.Source.Culture && c.Culture != d.Target.Culture
}

// Added returns the catalogs that a new entry is written from: its source, which
// is text where the change brings none, and its translation, nil for none.
func (d *Pair) Added(c format.Change, entry *catalog.Entry, text string, toSource bool) (source, target *catalog.Catalog) {
	source = &catalog.Catalog{Culture: d.Source.Culture}
	own := catalog.Entry{Key: c.Key, Message: message.Plain(text)}
	if c.Source != nil {
		own.Message = *c.Source
	}
	if toSource {
		own.Message, own.Note = entry.Message, entry.Note
		source.Add(own)
		return source, nil
	}
	source.Add(own)
	target = &catalog.Catalog{}
	if d.Target != nil {
		target.Culture = d.Target.Culture
	}
	target.Add(*entry)
	return source, target
}

// Many is a file with the catalogs of many cultures, the source first.
type Many struct {
	Coded *charset.Text
	List  []*catalog.Catalog
}

// Catalogs returns the catalogs.
func (d *Many) Catalogs() []*catalog.Catalog { return d.List }

// Text returns the file as UTF-8.
func (d *Many) Text() string { return d.Coded.String() }

// Package format says what a format is: how its files are recognised and
// named, read into documents and composed anew. Each format is a package below
// this one and a line in package format/all.
package format

import (
	"bytes"
	"errors"
	"fmt"
	"path"
	"slices"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/finding"
	"zelvik/message"
)

// Format is one file format.
type Format struct {
	// Name is what --from and --to take.
	Name string
	// Title is one line for people.
	Title string
	// Files are the file names it goes by, for people.
	Files string
	// Extensions are the file extensions it goes by, with their dots.
	Extensions []string
	// Table is the usual base name of a family's files.
	Table string
	// Holds says what the format can carry.
	Holds Abilities
	// NameCounts says that the platform finds a file by its name, whatever culture is
	// stated in it.
	NameCounts bool
	// Template says that in a bilingual format the source has a file of its own.
	Template bool
	// General says that files of any program end so, as JSON does: what is called by a
	// culture may be data, and what is not may be a culture that is not known.
	General bool
	// Mark is what parts the culture from the table in a file's name, where the platform
	// takes nothing else for it; "" where it is not that strict.
	Mark string
	// Closed says that the platform suffers no other files in the folders of catalogs.
	Closed bool
	// Companion is the format of a second file beside the first that holds
	// what the first cannot; nil for none.
	Companion *Format

	// Named returns the form of the format that a file name asks for, where there
	// are several; nil for one form.
	Named func(path string) *Format

	// Spelled returns the form of the format in which it is settled how texts
	// spell placeholders, by a word of loose.Words; nil for an unknown word.
	// It is nil itself where the format settles that.
	Spelled func(word string) *Format
	// Settle returns the form of the format in which another document of a source's
	// family has to be read, where the source shows what that one does not; nil for
	// as it was read. It may be nil itself.
	Settle func(source, other Document) *Format

	// Recognise says how well a file fits, from its slash-separated path and
	// its first bytes, which may be missing.
	Recognise func(path string, head []byte) Fit
	// Locate tells from a path which family it belongs to and in which culture.
	Locate func(path string) Location
	// Path makes the path of a family's file for a culture. Neutral asks for
	// the file without a culture in its name, where the format has one.
	Path func(dir, table string, tag culture.Tag, neutral bool) string
	// Parse reads a file. Findings are faults in it; the document is never nil,
	// and it gives the same bytes back whatever the faults.
	Parse func(data []byte) (Document, []finding.Finding)
	// Message reads one text as the format spells placeholders and choices,
	// without the escapes of its file. Faults keep the text as it stands.
	Message func(text string) (message.Message, []message.Fault)
	// Compose writes a catalog anew.
	Compose func(c *catalog.Catalog, o Options) ([]byte, []catalog.Loss)
	// Join writes several catalogs into one file: a source and a translation in
	// a bilingual format, the source and any number in one that holds all
	// cultures. It is nil where a file has one culture.
	Join func(catalogs []*catalog.Catalog) ([]byte, []catalog.Loss)
}

// Alone makes a Compose of a Join: a catalog is joined with its source.
func Alone(join func([]*catalog.Catalog) ([]byte, []catalog.Loss)) func(*catalog.Catalog, Options) ([]byte, []catalog.Loss) {
	return func(c *catalog.Catalog, o Options) ([]byte, []catalog.Loss) {
		if o.Source == nil || o.Source == c {
			return join([]*catalog.Catalog{c})
		}
		return join([]*catalog.Catalog{o.Source, c})
	}
}

// Fit says how well a file fits a format.
type Fit int

// The fits, worst first.
const (
	No    Fit = iota
	Maybe     // the extension fits, or the content does
	Yes       // name and content fit
)

// Location is what a path says.
type Location struct {
	// Dir and Table name the family: the folder its files stand under and
	// their base name.
	Dir, Table string
	Culture    culture.Tag
	// Neutral says that the name has no culture in it.
	Neutral bool
	// Part says that the file is one of those of its folder that together hold a
	// culture's texts, whatever they are called.
	Part bool
	// Aside says that the file is no translation but a variant for another
	// purpose, such as a screen size.
	Aside bool
	// Misnamed says why the platform will not find the file; Meant is the path
	// that was probably meant.
	Misnamed, Meant string
	// Spare says that a misnamed file does no harm beside the one that is meant: it
	// is there for loaders that ask by its name.
	Spare bool
	// Unknown is the mistaken culture tag in the name.
	Unknown *culture.UnknownError
}

// Family identifies the family among those of its format.
func (l Location) Family() string { return path.Join(l.Dir, l.Table) }

// Options say how a catalog is composed.
type Options struct {
	// Source is the source culture's catalog where c is a translation of it;
	// nil where c is the source, or stands alone.
	Source *catalog.Catalog
	// Beside says that the companion file is written as well, so that what it
	// holds is left out here.
	Beside bool
	// Against, where set, makes Compose compare instead of write: it gives up
	// at the first entry that is not as in the file.
	Against *Comparison
}

// Comparison compares what is composed with a file's bytes, piece by piece.
type Comparison struct {
	rest    []byte
	differs bool
}

// Compare begins a comparison with a file.
func Compare(file []byte) *Comparison { return &Comparison{rest: file} }

// Take goes on after these texts where they are what comes next in the file,
// and says whether they were; else it stays where it is.
func (c *Comparison) Take(texts ...string) bool {
	rest := c.rest
	for _, text := range texts {
		if len(rest) < len(text) || string(rest[:len(text)]) != text {
			return false
		}
		rest = rest[len(text):]
	}
	c.rest = rest
	return true
}

// Same says, after Compose gave its last bytes, whether all were the same.
func (c *Comparison) Same(last []byte) bool { return !c.differs && bytes.Equal(c.rest, last) }

// Flush is called by Compose after every entry with what it has written. It
// gives back the buffer to go on with, and false where there is no need to.
func (o Options) Flush(out []byte) ([]byte, bool) {
	c := o.Against
	if c == nil {
		return out, true
	}
	if !bytes.HasPrefix(c.rest, out) {
		c.differs = true
		return nil, false
	}
	c.rest = c.rest[len(out):]
	return out[:0], true
}

// Room returns the capacity to begin with for an estimated size.
func (o Options) Room(size int) int {
	if o.Against != nil {
		return 4096
	}
	return size
}

// Abilities say what a format can carry.
type Abilities struct {
	Plurals  bool // by category
	Zero     bool // the form zero where the culture's rules have none, as Apple applies it
	Exact    bool // exact cases of plurals
	Forms    bool // which number has which form, in each file
	Ordinals bool
	Selects  bool
	Several  bool // several selectors in one message
	Names    bool // names of placeholders
	Types    bool // types of placeholders
	Samples  bool // examples of what placeholders stand for
	Markup   bool // as structure, not as text
	Arrays   bool
	Items    bool // of arrays are added one by one
	Notes    bool
	States   bool
	// OptionalStates says that a file may have no room for them: a sheet without their
	// column.
	OptionalStates bool
	Fixed          bool // entries that are not translated
	Limits         bool
	Bilingual      bool // a source and a translation in one file
	Many           bool // all cultures in one file
}

// Document is a file that was read: it remembers its bytes and where
// everything stands in them.
type Document interface {
	// Catalogs are the catalogs in the file.
	Catalogs() []*catalog.Catalog
	// Text is the file's text as UTF-8, in which offsets count.
	Text() string
	// Edit returns the file's bytes with the changes made and nothing else
	// touched. Without changes they are the bytes that were read. A change
	// that cannot be made is an *EditError.
	Edit(changes []Change) ([]byte, []catalog.Loss, error)
}

// Op is what a change does.
type Op uint8

// The operations.
const (
	Set    Op = iota // the message, or the note, or both; adds the entry where it is missing
	Remove           // the entry with its note
	Rename           // its key
)

// Change is one edit of a document.
type Change struct {
	Op Op
	// Culture picks the catalog in a document that has several.
	Culture culture.Tag
	Key     string
	// Message and Note are set where they are not nil.
	Message *message.Message
	Note    *string
	// State is set where it is not nil and the format holds states.
	State *catalog.State
	// Source is the source's message, which a bilingual file needs beside a new
	// translation; nil where it is not known.
	Source *message.Message
	// NewKey is the key after Rename.
	NewKey string
	// Like is the document of the source, whose shape a new entry takes: its levels,
	// how its forms stand, how placeholders are spelled. It may be nil.
	Like Document
	// After is the key after which a new entry goes, its neighbour in the
	// source; "" puts it first, and a key that is not there puts it last.
	After string
}

// ErrNoEntry says that a change names a key that the document does not have.
var ErrNoEntry = errors.New("no such key")

// ErrKeyIsText says that a change would give a text to a key that is its text,
// as in gettext's source texts.
var ErrKeyIsText = errors.New("its text is its key here; rename it instead")

// ErrPieces says that a text stands in several places, as in the segments of
// a unit, and a change would not know how to part it.
var ErrPieces = errors.New("its text stands in several pieces; edit it in the file")

// ErrDamaged says that an entry is not whole, so that a change would not know
// where it ends.
var ErrDamaged = errors.New("the entry is damaged; fix it first")

// ErrOverlap says that two changes touch the same place in a file, so that they
// are to be made one after the other (see EditInTurn).
var ErrOverlap = errors.New("two changes touch the same place")

// EditInTurn makes changes at once, and where they touch the same place one
// after the other, reading what came of each.
func EditInTurn(f *Format, d Document, changes []Change) ([]byte, []catalog.Loss, error) {
	data, losses, err := d.Edit(changes)
	if !errors.Is(err, ErrOverlap) {
		return data, losses, err
	}
	losses = nil
	for _, c := range changes {
		var more []catalog.Loss
		if data, more, err = d.Edit([]Change{c}); err != nil {
			return nil, nil, err
		}
		losses = append(losses, more...)
		d, _ = f.Parse(data)
	}
	return data, losses, nil
}

// EditError says why a change could not be made.
type EditError struct {
	Key string
	Err error
}

// Error returns one sentence.
func (e *EditError) Error() string { return fmt.Sprintf("%s: %v", e.Key, e.Err) }

// Unwrap returns the cause.
func (e *EditError) Unwrap() error { return e.Err }

// Replacement is a stretch of bytes and what takes its place.
type Replacement struct {
	Start, End int
	Text       string
}

// Patch makes replacements, given in any order; those at one place keep their
// order. Overlapping ones are an error.
func Patch(data []byte, replacements []Replacement) ([]byte, error) {
	if len(replacements) == 0 {
		return data, nil
	}
	slices.SortStableFunc(replacements, func(a, b Replacement) int { return a.Start - b.Start })
	size := len(data)
	for _, r := range replacements {
		size += len(r.Text)
	}
	out := make([]byte, 0, size)
	at := 0
	for _, r := range replacements {
		if r.Start < 0 || r.End > len(data) { // the place of something that is not there
			return nil, ErrDamaged
		}
		if r.Start < at || r.End < r.Start {
			return nil, ErrOverlap
		}
		out = append(out, data[at:r.Start]...)
		out = append(out, r.Text...)
		at = r.End
	}
	return append(out, data[at:]...), nil
}

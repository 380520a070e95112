// Package project finds, reads and writes a project's files: it groups string
// files into families, reads the configuration and the ledger, and plans
// changes, which are shown or made in one step.
package project

import (
	"bytes"
	"cmp"
	"errors"
	"fmt"
	"path/filepath"
	"strings"
	"sync"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/files"
	"zelvik/finding"
	"zelvik/format"
	"zelvik/format/all"
	"zelvik/internal/fast"
)

// File is a string file that was read.
type File struct {
	Path     string
	Format   *format.Format
	Location format.Location
	Document format.Document
	// Findings are the faults in it, with the path filled in.
	Findings []finding.Finding
	// Doubt says why its format was chosen where that is not sure, "" where it
	// is.
	Doubt string
	// Companion is the file beside it that belongs to it, or nil.
	Companion *File
	// Parts are other files of its folder that hold texts of the same culture.
	Parts   []*File
	Data    []byte
	lines   *finding.Lines
	counted sync.Once
	// shown says that what it becomes is only shown, and not read back.
	shown bool
	// like is the document of the source, whose shape new entries take; nil where
	// it is not known.
	like format.Document
	// joined and same remember whether a file of several cultures looks plain.
	joined sync.Once
	same   bool
}

// UsageError says that what was asked for cannot be: wrong usage or
// configuration.
type UsageError struct{ Text string }

// Error returns one sentence.
func (e *UsageError) Error() string { return e.Text }

func Usage(text string, args ...any) error { return &UsageError{fmt.Sprintf(text, args...)} }

// Open reads and parses one file. Named is the format's name, "" to detect it.
func Open(disk *files.Disk, path, named string) (*File, error) {
	f, data, err := detected(disk, path, named)
	if err != nil {
		return nil, err
	}
	return opened(path, named, f, data), nil
}

// detected reads a file and finds its format.
func detected(disk *files.Disk, path, named string) (*format.Format, []byte, error) {
	data, err := disk.Read(path)
	if err != nil {
		return nil, nil, err
	}
	f, err := formatOf(path, named, data)
	return f, data, err
}

func opened(path, named string, f *format.Format, data []byte) *File {
	file := ParseFile(path, f, data)
	if named == "" {
		file.Doubt = all.Unsure(filepath.ToSlash(path), data[:min(len(data), 2048)], f)
	}
	return file
}

// OpenWhole reads a file as Open does, and beside it the companion it has, such
// as a .stringsdict next to a .strings.
func OpenWhole(disk *files.Disk, path, named string) (*File, error) {
	f, data, err := detected(disk, path, named)
	if err != nil {
		return nil, err
	}
	if f.Companion == nil || path == "-" {
		return opened(path, named, f, data), nil
	}
	at := strings.TrimSuffix(path, filepath.Ext(path)) + f.Companion.Extensions[0]
	if !disk.There(at) {
		return opened(path, named, f, data), nil
	}
	var file, companion *File
	var wait sync.WaitGroup
	wait.Go(func() { companion, err = Open(disk, at, f.Companion.Name) })
	file = opened(path, named, f, data)
	wait.Wait()
	if err != nil {
		return nil, err
	}
	file.Companion = companion
	file.Findings = append(file.Findings, companion.Findings...)
	return file, nil
}

func ParseFile(path string, f *format.Format, data []byte) *File {
	file := &File{Path: path, Format: f, Location: f.Locate(filepath.ToSlash(path)), Data: data}
	file.Document, file.Findings = f.Parse(data)
	for i := range file.Findings {
		file.Findings[i].Path = path
	}
	return file
}

// Detect finds the format of a file from its path, the name that was asked
// for, which may be "", and its bytes.
func Detect(path, named string, data []byte) (*format.Format, error) {
	return formatOf(path, named, data)
}

// formatOf finds the format of a file.
func formatOf(path, named string, data []byte) (*format.Format, error) {
	if named != "" {
		f, err := all.Named(named)
		if err != nil {
			return nil, &UsageError{err.Error()}
		}
		return f, nil
	}
	f, _ := all.Detect(filepath.ToSlash(path), data[:min(len(data), 2048)])
	if f == nil {
		return nil, Usage("%s: no format is seen: %s; name one with --from (zelvik formats lists them)", path, all.Why(filepath.ToSlash(path), data[:min(len(data), 2048)]))
	}
	return f, nil
}

// All returns the file, its companion and its parts.
func (f *File) All() []*File {
	list := []*File{f}
	if f.Companion != nil {
		list = append(list, f.Companion)
	}
	return append(list, f.Parts...)
}

// Catalogs returns the file's catalogs, with what its companion and its parts hold.
func (f *File) Catalogs() []*catalog.Catalog {
	own := f.Document.Catalogs()[0]
	if f.Companion == nil && f.Parts == nil {
		return f.Document.Catalogs()
	}
	joined := &catalog.Catalog{Culture: own.Culture}
	if f.Companion == nil {
		joined.Entries = append(joined.Entries, own.Entries...)
	} else {
		other := f.Companion.Document.Catalogs()[0]
		joined.Entries = fast.Make[catalog.Entry](len(own.Entries) + len(other.Entries))
		for _, e := range own.Entries {
			if better := other.Find(e.ID()); better != nil {
				if better.Note == "" {
					better.Note = e.Note
				}
				continue
			}
			joined.Entries = append(joined.Entries, e)
		}
		joined.Entries = append(joined.Entries, other.Entries...)
	}
	for _, part := range f.Parts {
		for _, e := range part.Document.Catalogs()[0].Entries {
			if joined.Find(e.ID()) == nil {
				joined.Add(e)
			}
		}
	}
	return []*catalog.Catalog{joined}
}

// Holder returns the file, this one or one of its companion and parts, in which a key
// stands; itself where it is in none.
func (f *File) Holder(id string) *File {
	if f.Companion != nil && f.Companion.Document.Catalogs()[0].Find(id) != nil {
		return f.Companion
	}
	for _, part := range f.Parts {
		if part.Document.Catalogs()[0].Find(id) != nil && f.Document.Catalogs()[0].Find(id) == nil {
			return part
		}
	}
	return f
}

// At returns line and column of an offset in the file's text.
func (f *File) At(offset int) (line, column int) {
	if offset < 0 {
		return 0, 0
	}
	f.counted.Do(func() { f.lines = finding.NewLines(f.Document.Text()) })
	return f.lines.At(offset)
}

// Damaged returns the first finding that keeps the file from being read whole,
// or nil.
func (f *File) Damaged() *finding.Finding {
	for _, one := range append([]*File{f}, f.Parts...) {
		for i := range one.Findings {
			if format.Damage(one.Findings[i]) {
				return &one.Findings[i]
			}
		}
	}
	return nil
}

// Refuse makes an error of a fault that keeps a file from being converted.
func Refuse(f *finding.Finding) error {
	return &files.Error{Path: f.Place(), Text: f.Message, Fix: f.Fix}
}

// Edit returns the file's bytes with the changes made. Errors and losses name
// the file.
func (f *File) Edit(changes []format.Change) ([]byte, []catalog.Loss, error) {
	for i := range changes {
		changes[i].Like = f.like
	}
	data, losses, err := format.EditInTurn(f.Format, f.Document, changes)
	var edit *format.EditError
	if errors.As(err, &edit) {
		return nil, nil, &files.Error{Path: f.Path, Text: edit.Error(), Fix: "fix the file or edit it by hand"}
	} else if err != nil {
		return nil, nil, &files.Error{Path: f.Path, Text: err.Error(), Fix: "edit it by hand"}
	}
	for i := range losses {
		losses[i].Path = f.Path
	}
	return data, losses, f.ReadBack(changes, data, losses)
}

// ReadBack reads an edited file before it is placed.
func (f *File) ReadBack(changes []format.Change, data []byte, losses []catalog.Loss) error {
	if f.shown {
		return nil
	}
	if err := format.ReadBack(f.Format, f.Document, changes, data, losses); err != nil {
		return &files.Error{Path: f.Path, Text: err.Error(), Fix: "change the text, or edit the file by hand"}
	}
	return nil
}

// NearExtension returns the extension that a file's own one was probably meant
// to be, as in localizable.String.
func NearExtension(path string) (*format.Format, string) {
	ext := filepath.Ext(path)
	if len(ext) < 4 {
		return nil, ""
	}
	for _, f := range all.Formats {
		for _, known := range f.Extensions {
			if known == ".xml" || ext == known {
				continue
			}
			if strings.EqualFold(ext, known) || strings.EqualFold(ext+"s", known) || strings.EqualFold(ext, known+"s") {
				return f, known
			}
		}
	}
	return nil, ""
}

// Converted is one file that a job makes of another.
type Converted struct {
	From    string      `json:"from"`
	Path    string      `json:"path"`
	Format  string      `json:"format"`
	Culture culture.Tag `json:"culture,omitempty"`
	Entries int         `json:"entries"`
	// Words and Characters are those of the source's texts that are handed out, as
	// translators count them: without placeholders and tags.
	Words      int `json:"words,omitempty"`
	Characters int `json:"characters,omitempty"`
	// More is how many other files were joined into it.
	More int `json:"more,omitempty"`
	// Merged says what became of the catalog that was there; nil where none was.
	Merged *Merged `json:"merged,omitempty"`
}

// Merged says what becomes of a catalog that was there where a conversion
// writes to.
type Merged struct {
	New     []string `json:"new,omitempty"`
	Changed []string `json:"changed,omitempty"`
	// Gone are keys that it has and what is written has not.
	Gone []string `json:"gone,omitempty"`
}

// Plain reports whether the file looks as its own format's writer would write
// it. One with several cultures is compared once.
func (f *File) Plain(from, source *catalog.Catalog) bool {
	if f.Format.Named != nil { // in its own form
		composed, _ := f.Format.Named(f.Path).Join(f.Document.Catalogs())
		return bytes.Equal(composed, f.Data)
	}
	if f.Format.Join == nil {
		comparison := format.Compare(f.Data)
		last, _ := f.Format.Compose(from, format.Options{Source: source, Against: comparison})
		return comparison.Same(last)
	}
	f.joined.Do(func() {
		composed, _ := f.Format.Join(f.Document.Catalogs())
		f.same = bytes.Equal(composed, f.Data)
	})
	return f.same
}

// Says returns what became of the catalog in words; "" where nothing did.
func (m *Merged) Says() string {
	if m == nil {
		return ""
	}
	var parts []string
	for _, group := range []struct {
		word string
		keys []string
	}{{"new", m.New}, {"changed", m.Changed}, {"gone", m.Gone}} {
		if len(group.keys) > 0 {
			parts = append(parts, fmt.Sprintf("%d %s (%s)", len(group.keys), group.word, Listed(group.keys)))
		}
	}
	return cmp.Or(strings.Join(parts, ", "), "no text new or changed")
}

// Listed names the first of many.
func Listed(keys []string) string {
	const most = 4
	if len(keys) <= most {
		return strings.Join(keys, ", ")
	}
	return fmt.Sprintf("%s and %d more", strings.Join(keys[:most], ", "), len(keys)-most)
}

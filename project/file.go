// Package project finds, reads and writes a project's files: it groups string
// files into families, reads the configuration and the ledger, and plans
// changes, which are shown or made in one step.
package project

import (
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"sync"

	"golang.org/x/sync/errgroup"

	"zelvik/catalog"
	"zelvik/finding"
	"zelvik/format"
	"zelvik/format/all"
	"zelvik/pages"
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
	data      []byte
	lines     *finding.Lines
	counted   sync.Once
	// joined and same remember whether a file of several cultures looks plain.
	joined sync.Once
	same   bool
}

// FileError says that a file could not be read or written, and what to do.
type FileError struct {
	Path, Text, Mend string
}

// Error gives one sentence.
func (e *FileError) Error() string { return fmt.Sprintf("%s: %s; %s", e.Path, e.Text, e.Mend) }

// UsageError says that what was asked for cannot be: wrong usage or
// configuration.
type UsageError struct{ Text string }

// Error gives one sentence.
func (e *UsageError) Error() string { return e.Text }

func usage(text string, args ...any) error { return &UsageError{fmt.Sprintf(text, args...)} }

// ReadError makes a FileError of what the system said.
func ReadError(path string, err error) error {
	switch {
	case errors.Is(err, fs.ErrNotExist):
		return &FileError{path, "there is no such file", "check the path"}
	case errors.Is(err, fs.ErrPermission):
		return &FileError{path, "it may not be read", "give yourself the permission"}
	}
	if info, e := os.Stat(path); e == nil && info.IsDir() {
		return &FileError{path, "it is a folder", "name a file in it"}
	}
	return &FileError{path, err.Error(), "check the path"}
}

// maxSize bounds what is read at once.
const maxSize = 1 << 30

// Read reads a file; "-" is standard input.
func Read(path string) ([]byte, error) {
	if path == "-" {
		data, err := io.ReadAll(io.LimitReader(os.Stdin, maxSize))
		if err != nil {
			return nil, ReadError("standard input", err)
		}
		return data, nil
	}
	info, err := os.Stat(path)
	if err == nil && info.Size() > maxSize {
		return nil, &FileError{path, "it is larger than a gibibyte", "split it"}
	}
	data, err := readFile(path)
	if err != nil {
		return nil, ReadError(path, err)
	}
	return data, nil
}

// readFile is os.ReadFile; a large file is read in two halves at once.
func readFile(path string) ([]byte, error) {
	f, err := os.Open(path)
	if err != nil {
		return nil, err
	}
	defer func() { _ = f.Close() }()
	info, err := f.Stat()
	const large = 1 << 20
	if err != nil || !info.Mode().IsRegular() || info.Size() < large {
		return io.ReadAll(f)
	}
	size := int(info.Size())
	data := pages.Make[byte](size)[:size]
	var group errgroup.Group
	group.Go(func() error { _, err := f.ReadAt(data[:size/2], 0); return err })
	_, err = f.ReadAt(data[size/2:], int64(size/2))
	return data, errors.Join(err, group.Wait())
}

// Open reads and parses one file. Named is the format's name, "" to detect it.
func Open(path, named string) (*File, error) {
	f, data, err := detected(path, named)
	if err != nil {
		return nil, err
	}
	return opened(path, named, f, data), nil
}

// detected reads a file and finds its format.
func detected(path, named string) (*format.Format, []byte, error) {
	data, err := Read(path)
	if err != nil {
		return nil, nil, err
	}
	f, err := formatOf(path, named, data)
	return f, data, err
}

func opened(path, named string, f *format.Format, data []byte) *File {
	file := parseFile(path, f, data)
	if named == "" {
		file.Doubt = all.Unsure(filepath.ToSlash(path), data[:min(len(data), 2048)], f)
	}
	return file
}

// OpenWhole reads a file as Open does, and beside it the companion it has, such
// as a .stringsdict next to a .strings.
func OpenWhole(path, named string) (*File, error) {
	f, data, err := detected(path, named)
	if err != nil {
		return nil, err
	}
	if f.Companion == nil || path == "-" {
		return opened(path, named, f, data), nil
	}
	at := strings.TrimSuffix(path, filepath.Ext(path)) + f.Companion.Extensions[0]
	if _, err := os.Stat(at); err != nil {
		return opened(path, named, f, data), nil
	}
	var file, companion *File
	var wait sync.WaitGroup
	wait.Go(func() { companion, err = Open(at, f.Companion.Name) })
	file = opened(path, named, f, data)
	wait.Wait()
	if err != nil {
		return nil, err
	}
	file.Companion = companion
	file.Findings = append(file.Findings, companion.Findings...)
	return file, nil
}

func parseFile(path string, f *format.Format, data []byte) *File {
	file := &File{Path: path, Format: f, Location: f.Locate(filepath.ToSlash(path)), data: data}
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
		return nil, usage("%s: no format is seen: %s; name one with --from (zelvik formats lists them)", path, all.Why(filepath.ToSlash(path), data[:min(len(data), 2048)]))
	}
	return f, nil
}

// Catalogs gives the file's catalogs, with what its companion holds.
func (f *File) Catalogs() []*catalog.Catalog {
	if f.Companion == nil {
		return f.Document.Catalogs()
	}
	own := f.Document.Catalogs()[0]
	other := f.Companion.Document.Catalogs()[0]
	joined := &catalog.Catalog{Culture: own.Culture, Entries: pages.Make[catalog.Entry](len(own.Entries) + len(other.Entries))}
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
	return []*catalog.Catalog{joined}
}

// Holder gives the file, this one or its companion, in which a key stands.
func (f *File) Holder(id string) *File {
	if f.Companion != nil && f.Companion.Document.Catalogs()[0].Find(id) != nil {
		return f.Companion
	}
	return f
}

// At gives line and column of an offset in the file's text.
func (f *File) At(offset int) (line, column int) {
	if offset < 0 {
		return 0, 0
	}
	f.counted.Do(func() { f.lines = finding.NewLines(f.Document.Text()) })
	return f.lines.At(offset)
}

// Damaged gives the first finding that keeps the file from being read whole,
// or nil.
func (f *File) Damaged() *finding.Finding {
	for i := range f.Findings {
		if format.Damage(f.Findings[i]) {
			return &f.Findings[i]
		}
	}
	return nil
}

// Refuse makes an error of a fault that keeps a file from being converted.
func Refuse(f *finding.Finding) error {
	return &FileError{f.Place(), f.Message, f.Mend}
}

// Edit gives the file's bytes with the changes made. Errors and losses name
// the file.
func (f *File) Edit(changes []format.Change) ([]byte, []catalog.Loss, error) {
	data, losses, err := format.EditInTurn(f.Format, f.Document, changes)
	var edit *format.EditError
	if errors.As(err, &edit) {
		return nil, nil, &FileError{f.Path, edit.Error(), "mend the file or edit it by hand"}
	} else if err != nil {
		return nil, nil, &FileError{f.Path, err.Error(), "edit it by hand"}
	}
	for i := range losses {
		losses[i].Path = f.Path
	}
	return data, losses, nil
}

// nearExtension gives the extension that a file's own one was probably meant
// to be, as in localizable.String.
func nearExtension(path string) (*format.Format, string) {
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

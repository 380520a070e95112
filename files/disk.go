package files

import (
	"errors"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
)

// Disk is where files are read: the disk, seen from a folder, with texts that
// were not saved yet in the place of what is there. A nil one has no folder;
// then relative paths are those of the process.
type Disk struct {
	// Dir is the folder that relative paths are in, absolute.
	Dir string
	// Unsaved are the contents of an editor's buffers, by absolute path.
	Unsaved map[string][]byte
	// Input is what is read for the path "-"; nil for none.
	Input io.Reader
}

// Absolute returns a path that does not depend on the folder; nothing for none.
func (d *Disk) Absolute(path string) string {
	if path == "" {
		return ""
	}
	if d == nil || d.Dir == "" || filepath.IsAbs(path) {
		return filepath.Clean(path)
	}
	return filepath.Join(d.Dir, path)
}

// Short returns a path relative to the folder where it lies below it, as people
// write it.
func (d *Disk) Short(path string) string {
	if d == nil || d.Dir == "" {
		return path
	}
	rel, err := filepath.Rel(d.Dir, path)
	if err != nil || !filepath.IsLocal(rel) {
		return path
	}
	return rel
}

// unsaved returns the buffer that stands for a file.
func (d *Disk) unsaved(path string) ([]byte, bool) {
	if d == nil || d.Unsaved == nil {
		return nil, false
	}
	data, ok := d.Unsaved[d.Absolute(path)]
	return data, ok
}

// Read reads a regular file of at most MaxSize bytes, or the input for "-". A
// device, a pipe and a socket are refused without opening them for good; a file
// that grows while it is read is read as far as it went at the beginning.
func (d *Disk) Read(path string) ([]byte, error) {
	if path == "-" && d != nil && d.Input != nil {
		data, err := io.ReadAll(io.LimitReader(d.Input, MaxSize))
		if err != nil {
			return nil, ReadError("standard input", err)
		}
		return data, nil
	}
	if data, ok := d.unsaved(path); ok {
		return data, nil
	}
	return read(d.Absolute(path), path)
}

// Existing reads a file that may be there; nil where it is not. A file that is
// there and empty is not nil.
func (d *Disk) Existing(path string) ([]byte, error) {
	if data, ok := d.unsaved(path); ok {
		return append([]byte{}, data...), nil
	}
	return existing(d.Absolute(path), path)
}

// Head reads the first bytes of a regular file, at most n; nothing where it
// cannot be read.
func (d *Disk) Head(path string, n int) []byte {
	if data, ok := d.unsaved(path); ok {
		return data[:min(n, len(data))]
	}
	return head(d.Absolute(path), n)
}

// Stat says what is at a path.
func (d *Disk) Stat(path string) (fs.FileInfo, error) { return os.Stat(d.Absolute(path)) }

// There reports whether something is at a path, a buffer or a file.
func (d *Disk) There(path string) bool {
	if _, ok := d.unsaved(path); ok {
		return true
	}
	_, err := d.Stat(path)
	return err == nil
}

// IsDir reports whether a path is that of a folder.
func (d *Disk) IsDir(path string) bool {
	info, err := d.Stat(path)
	return err == nil && info.IsDir()
}

// Walk is filepath.WalkDir for a folder that may itself be a link. Links below
// it are reported, as WalkDir does, and not followed.
func (d *Disk) Walk(root string, visit fs.WalkDirFunc) error {
	at := d.Absolute(root)
	if at == filepath.Clean(root) {
		return walk(root, visit)
	}
	return walk(at, func(path string, entry fs.DirEntry, err error) error {
		if rest := strings.TrimLeft(path[len(at):], string(filepath.Separator)); rest == "" {
			path = root
		} else if path = rest; filepath.Clean(root) != "." {
			path = filepath.Clean(root) + string(filepath.Separator) + rest
		}
		return visit(path, entry, err)
	})
}

// Glob lists the files that fit a pattern with *, ?, [a-z], {a,b} and ** for any
// folders, sorted.
func (d *Disk) Glob(pattern string) ([]string, error) {
	at := pattern
	if d != nil && d.Dir != "" && !filepath.IsAbs(pattern) {
		at = quoted(d.Dir) + string(filepath.Separator) + pattern
	}
	list, err := glob(at)
	if at != pattern {
		for i := range list {
			list[i] = d.Short(list[i])
		}
	}
	return list, err
}

// Root returns the project's folder at or above a folder: where the configuration
// or the repository is; "" where neither is.
func (d *Disk) Root(dir string) string { return rootOf(d.Absolute(dir)) }

// Home returns the folder that is locked, and has the journal, for what is
// changed in a folder: the project's root, else the folder itself.
func (d *Disk) Home(dir string) string {
	if root := d.Root(dir); root != "" {
		return root
	}
	return d.Absolute(dir)
}

// Inside reports whether a path lies in a folder, or is it. Links are not
// looked through.
func (d *Disk) Inside(dir, path string) bool { return inside(d.Absolute(dir), d.Absolute(path)) }

// Unfinished says that an earlier run was stopped while it replaced files in
// the home of a folder, for commands that only read; "" where none was.
func (d *Disk) Unfinished(dir string) string {
	home, err := withoutLinks(d.Home(dir))
	if err != nil {
		return ""
	}
	if _, err := os.Lstat(filepath.Join(home, journalName)); err != nil || busy(home) {
		return ""
	}
	return filepath.Join(home, journalName) + ": an earlier run was stopped while it replaced files; the next command that changes files here finishes it"
}

func existing(path, named string) ([]byte, error) {
	if _, err := os.Stat(path); errors.Is(err, fs.ErrNotExist) {
		return nil, nil
	}
	data, err := read(path, named)
	if err == nil && data == nil {
		data = []byte{}
	}
	return data, err
}

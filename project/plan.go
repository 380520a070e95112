package project

import (
	"bytes"
	"errors"
	"io/fs"
	"os"
	"path/filepath"
	"strings"

	"github.com/google/renameio/v2"
)

// Plan is a set of changes to files that belong together.
type Plan struct {
	Writes []Write
}

// Write is one file's new content. Old is what was read, nil where the file
// is new.
type Write struct {
	Path     string
	Old, New []byte
}

// Add plans a write; writes that change nothing are left out.
func (p *Plan) Add(path string, old, content []byte) {
	if old != nil && bytes.Equal(old, content) {
		return
	}
	p.Writes = append(p.Writes, Write{path, old, content})
}

// Commit makes the changes. Every file is replaced in one step and keeps its
// mode; a file that changed since it was read is left alone, and then no file
// is written at all.
func (p *Plan) Commit() error {
	for _, w := range p.Writes {
		if err := w.check(); err != nil {
			return err
		}
	}
	for _, w := range p.Writes {
		if err := w.write(); err != nil {
			return err
		}
	}
	return nil
}

// check looks whether the file is still what was read.
func (w *Write) check() error {
	info, err := os.Lstat(w.Path)
	switch {
	case errors.Is(err, fs.ErrNotExist):
		return nil
	case err != nil:
		return writeError(w.Path, err)
	case info.IsDir():
		return &FileError{w.Path, "it is a folder", "name a file"}
	case info.Mode()&fs.ModeSymlink != 0:
		target, err := filepath.EvalSymlinks(w.Path)
		dir, _ := filepath.Abs(filepath.Dir(w.Path))
		if root := Root(dir); err != nil || root != "" && !inside(root, target) {
			return &FileError{w.Path, "it is a link that leads out of the project", "name the file itself"}
		}
		w.Path = target
	}
	if w.Old == nil {
		return nil
	}
	if now, err := os.ReadFile(w.Path); err == nil && !bytes.Equal(now, w.Old) {
		return &FileError{w.Path, "it changed while Zelvik was working on it", "run the command again"}
	}
	return nil
}

func inside(root, target string) bool {
	target, err := filepath.Abs(target)
	if err != nil {
		return false
	}
	rel, err := filepath.Rel(root, target)
	return err == nil && rel != ".." && !strings.HasPrefix(rel, ".."+string(filepath.Separator))
}

func (w *Write) write() error {
	if err := os.MkdirAll(filepath.Dir(w.Path), 0o755); err != nil {
		return writeError(w.Path, err)
	}
	if _, err := os.Lstat(w.Path); errors.Is(err, fs.ErrNotExist) {
		return w.create()
	}
	if err := renameio.WriteFile(w.Path, w.New, 0o644, renameio.WithExistingPermissions()); err != nil {
		return writeError(w.Path, err)
	}
	return nil
}

// create writes a file that is not there yet. It appears whole or not at all;
// nothing is lost with it, so it is not forced to the disk, which would take
// as long as all else together.
func (w *Write) create() error {
	f, err := os.CreateTemp(filepath.Dir(w.Path), ".zelvik-*")
	if err != nil {
		return writeError(w.Path, err)
	}
	_, err = f.Write(w.New)
	err = errors.Join(err, f.Chmod(0o644), f.Close())
	if err == nil {
		err = os.Rename(f.Name(), w.Path)
	}
	if err != nil {
		_ = os.Remove(f.Name())
		return writeError(w.Path, err)
	}
	return nil
}

func writeError(path string, err error) error {
	if errors.Is(err, fs.ErrPermission) {
		return &FileError{path, "it may not be written", "give yourself the permission, or write elsewhere with --out"}
	}
	var inner *fs.PathError
	if errors.As(err, &inner) {
		err = inner.Err
	}
	return &FileError{path, "it cannot be written: " + err.Error(), "check the path"}
}

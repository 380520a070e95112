package project

import (
	"bytes"
	"errors"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
)

// Plan is a set of changes to files that belong together.
type Plan struct {
	Writes []Write `json:"-"` // a plan is no part of a report
	// Home is the folder in which a journal is kept while several files are
	// replaced; "" for the one above all of them.
	Home string `json:"-"`
	// Remade says that the files can be made again, such as pictures: each is
	// replaced in one step, but none is forced to the disk, and there is no
	// journal.
	Remade bool `json:"-"`
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
// is written at all. Several files are all prepared first, then named in a
// journal, then put into their places, so that Recover can finish what was
// stopped in between.
func (p *Plan) Commit() error {
	for i := range p.Writes {
		if err := p.Writes[i].check(); err != nil {
			return err
		}
	}
	if len(p.Writes) > 1 && !p.Remade {
		return p.together()
	}
	for i := range p.Writes {
		staged, err := p.Writes[i].stage(!p.Remade)
		if err != nil {
			return err
		}
		if err := staged.place(); err != nil {
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

// staged is a file's new content beside its place.
type staged struct{ at, path string }

// stage writes the new content beside the file, with the file's mode. That of a
// file which is replaced is forced to the disk where force says so; nothing is lost with one that is
// not there yet, and forcing it would take as long as all else together.
func (w *Write) stage(force bool) (s staged, err error) {
	if err := os.MkdirAll(filepath.Dir(w.Path), 0o755); err != nil {
		return s, writeError(w.Path, err)
	}
	mode, replaces := fs.FileMode(0o644), false
	if info, err := os.Stat(w.Path); err == nil {
		mode, replaces = info.Mode().Perm(), true
		if !writable(w.Path) {
			return s, writeError(w.Path, fs.ErrPermission)
		}
	}
	f, err := os.CreateTemp(filepath.Dir(w.Path), stagePattern)
	if err != nil {
		return s, writeError(w.Path, err)
	}
	_, err = f.Write(w.New)
	err = errors.Join(err, f.Chmod(mode))
	if replaces && force {
		err = errors.Join(err, f.Sync())
	}
	if err = errors.Join(err, f.Close()); err != nil {
		_ = os.Remove(f.Name())
		return s, writeError(w.Path, err)
	}
	return staged{f.Name(), w.Path}, nil
}

// stagePattern names files that are being written.
const stagePattern = ".zelvik-*"

// writable reports whether a file may be written, which renaming over it would
// not ask.
func writable(path string) bool {
	f, err := os.OpenFile(path, os.O_WRONLY, 0)
	if err == nil {
		_ = f.Close()
	}
	return !errors.Is(err, fs.ErrPermission)
}

func (s staged) place() error {
	if err := os.Rename(s.at, s.path); err != nil {
		_ = os.Remove(s.at)
		return writeError(s.path, err)
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

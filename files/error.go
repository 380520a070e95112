// Package files is the way between a run and the disk: how files are read
// (regular ones, bounded), and how they are changed. A change is a Plan. A
// Session carries it out under a lock, through a journal, so that a run never
// damages, loses or leaves anything behind, however it ends. The package knows
// nothing of formats and commands. See docs/writing.md.
package files

import (
	"errors"
	"fmt"
	"io/fs"
	"os"
	"syscall"
)

// Error says that a file could not be read or written, and what to do.
type Error struct {
	Path, Text, Fix string
}

// Error returns one sentence.
func (e *Error) Error() string { return fmt.Sprintf("%s: %s; %s", e.Path, e.Text, e.Fix) }

// ReadError makes an Error of what the system said about reading a file.
func ReadError(path string, err error) error {
	var known *Error
	switch {
	case errors.As(err, &known):
		return err
	case errors.Is(err, fs.ErrNotExist):
		return &Error{path, "there is no such file", "check the path"}
	case errors.Is(err, fs.ErrPermission):
		return &Error{path, "permission to read it is denied", "change its permissions"}
	}
	if info, e := os.Stat(path); e == nil && info.IsDir() {
		return &Error{path, "it is a folder", "name a file in it"}
	}
	return &Error{path, cause(err), "check the path"}
}

// writeError makes an Error of what the system said about writing a file.
func writeError(path string, err error) error {
	var known *Error
	switch {
	case err == nil:
		return nil
	case errors.As(err, &known):
		return err
	case errors.Is(err, fs.ErrPermission):
		return &Error{path, "permission to write it is denied", "change its permissions, or write elsewhere with --out"}
	case errors.Is(err, syscall.ENOSPC):
		return &Error{path, "the disk is full", "make room and run the command again"}
	}
	return &Error{path, "it cannot be written: " + cause(err), "check the path"}
}

// cause returns what the system said without the path, which the sentence has.
func cause(err error) string {
	var inner *fs.PathError
	var link *os.LinkError
	switch {
	case errors.As(err, &inner):
		err = inner.Err
	case errors.As(err, &link):
		err = link.Err
	}
	return err.Error()
}

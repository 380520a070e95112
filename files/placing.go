package files

import (
	"bytes"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"runtime"
	"slices"
	"strconv"
	"syscall"
	"time"

	"golang.org/x/sync/errgroup"
)

// check looks whether a file is still what the plan has read.
func (f *staged) check(root *os.Root) error {
	info, err := root.Lstat(f.to)
	switch {
	case errors.Is(err, fs.ErrNotExist) && f.Old == nil:
		return nil
	case errors.Is(err, fs.ErrNotExist):
		return &Error{f.Path, "it was removed while Zelvik was working on it", "run the command again"}
	case err != nil:
		return writeError(f.Path, err)
	case info.Mode()&fs.ModeSymlink != 0 || f.Old == nil || info.Size() != int64(len(f.Old)):
		return &Error{f.Path, "it changed while Zelvik was working on it", "run the command again"}
	}
	now, err := read(f.target, f.target)
	if err != nil {
		return err
	}
	if !bytes.Equal(now, f.Old) {
		return &Error{f.Path, "it changed while Zelvik was working on it", "run the command again"}
	}
	return nil
}

// place puts all files into their places, or none.
func (b *batch) place() error {
	s := b.session
	s.mu.Lock()
	if s.stopped {
		s.mu.Unlock()
		return ErrStopped
	}
	s.placing = true
	s.mu.Unlock()
	defer func() {
		s.mu.Lock()
		s.placing, s.written = false, s.written || b.done
		s.condition().Broadcast()
		s.mu.Unlock()
	}()
	var group errgroup.Group
	group.SetLimit(8)
	for _, h := range b.homes {
		for _, f := range h.files {
			group.Go(func() error { return f.check(h.root) })
		}
	}
	if err := group.Wait(); err != nil {
		return err
	}
	kept := len(b.plan.Writes) > 1 && !b.plan.Remade
	if kept {
		if err := b.journal(); err != nil {
			b.forget()
			return err
		}
	}
	for _, h := range b.homes {
		for _, f := range h.files {
			if err := f.place(h.root); err != nil {
				err = writeError(f.Path, err)
				if back := b.putBack(); back != nil { // the journal stays for the next run
					return fmt.Errorf("%w; what was replaced before could not be put back: %w", err, back)
				}
				b.forget()
				return err
			}
		}
	}
	b.done = true
	if kept {
		b.syncFolders()
		return b.forget()
	}
	return nil
}

// place renames a staged file to its place. A program that has it open for a
// moment (Windows) is waited for.
func (f *staged) place(root *os.Root) error {
	err := root.MkdirAll(filepath.Dir(f.to), 0o777)
	for try := 0; err == nil; try++ {
		if err = root.Rename(f.at, f.to); err == nil {
			f.placed = true
			return nil
		}
		if runtime.GOOS == "windows" && try < 10 && !errors.Is(err, fs.ErrNotExist) {
			time.Sleep(time.Duration(try) * 5 * time.Millisecond)
			err = nil
		}
	}
	if errors.Is(err, syscall.EXDEV) { // the home's folders are on several disks
		err = f.across(root)
		f.placed = err == nil
	}
	return err
}

// across copies a staged file beside its place on another disk, and renames it
// there.
func (f *staged) across(root *os.Root) error {
	data, err := root.ReadFile(f.at)
	if err != nil {
		return err
	}
	info, err := root.Stat(f.at)
	if err != nil {
		return err
	}
	near := filepath.Join(filepath.Dir(f.to), nearPrefix+filepath.Base(f.to))
	_ = root.Remove(near) // of a run that was stopped here
	out, err := root.OpenFile(near, os.O_WRONLY|os.O_CREATE|os.O_EXCL, info.Mode().Perm())
	if err != nil {
		return err
	}
	_, err = out.Write(data)
	keepOwner(out, info)
	if err = errors.Join(err, out.Chmod(info.Mode().Perm()), out.Sync(), out.Close()); err == nil {
		err = root.Rename(near, f.to)
	}
	if err != nil {
		_ = root.Remove(near)
	}
	return err
}

// nearPrefix names copies beside their places on another disk.
const nearPrefix = ".zelvik-near-"

// putBack gives the files that were replaced their old content, and removes
// those that were new.
func (b *batch) putBack() error {
	var problems []error
	for _, h := range b.homes {
		for i, f := range h.files {
			if !f.placed {
				continue
			}
			if f.Old == nil {
				problems = append(problems, os.Remove(f.target))
				continue
			}
			back := &staged{Write: &Write{Path: f.Path, New: f.Old}, at: filepath.Join(h.stage, "back"+strconv.Itoa(i)), to: f.to}
			err := b.write(h, back)
			if err == nil {
				err = back.place(h.root)
			}
			problems = append(problems, err)
		}
	}
	return errors.Join(problems...)
}

// syncFolders forces the renamings to the disk before the journal goes.
func (b *batch) syncFolders() {
	var group errgroup.Group
	group.SetLimit(8)
	for _, h := range b.homes {
		var seen []string
		for _, f := range h.files {
			if dir := filepath.Dir(f.to); !slices.Contains(seen, dir) {
				seen = append(seen, dir)
				group.Go(func() error { syncFolder(h.root, dir); return nil })
			}
		}
	}
	_ = group.Wait()
}

// syncFolder forces a folder to the disk, on systems that can.
func syncFolder(root *os.Root, dir string) {
	if f, err := root.Open(dir); err == nil {
		_ = f.Sync()
		_ = f.Close()
	}
}

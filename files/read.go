package files

import (
	"errors"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"syscall"

	"golang.org/x/sync/errgroup"

	"zelvik/internal/fast"
)

// MaxSize bounds what is read at once, in bytes.
const MaxSize = 1 << 30

// read reads a regular file, which errors call as it was named.
func read(path, named string) ([]byte, error) {
	info, err := os.Stat(path)
	if err == nil {
		err = plain(named, info)
	}
	if err != nil {
		return nil, ReadError(named, err)
	}
	f, err := os.OpenFile(path, os.O_RDONLY|syscall.O_NONBLOCK, 0) // a pipe that took its place would wait for a writer
	if err != nil {
		return nil, ReadError(named, err)
	}
	defer func() { _ = f.Close() }()
	if info, err = f.Stat(); err == nil {
		err = plain(named, info)
	}
	if err != nil {
		return nil, ReadError(named, err)
	}
	data, err := content(f, info.Size())
	if err != nil {
		return nil, ReadError(named, err)
	}
	return data, nil
}

// plain refuses what is no regular file, and what is too large.
func plain(path string, info fs.FileInfo) error {
	switch mode := info.Mode(); {
	case mode.IsDir():
		return &Error{path, "it is a folder", "name a file in it"}
	case !mode.IsRegular():
		return &Error{path, "it is a device or a pipe, no file", "name a regular file"}
	case info.Size() > MaxSize:
		return &Error{path, "it is larger than a gibibyte", "split it"}
	}
	return nil
}

// content reads an open file; a large one in two halves at once.
func content(f *os.File, size int64) ([]byte, error) {
	const large = 1 << 20
	if size < large {
		return bounded(f, max(size, large)) // some files of the system say that they are empty
	}
	data := fast.Make[byte](int(size))[:size]
	var group errgroup.Group
	group.Go(func() error { _, err := f.ReadAt(data[:size/2], 0); return err })
	_, err := f.ReadAt(data[size/2:], size/2)
	return data, errors.Join(err, group.Wait())
}

func bounded(f *os.File, most int64) ([]byte, error) {
	data, err := io.ReadAll(io.LimitReader(f, most+1))
	if err == nil && int64(len(data)) > most {
		err = &Error{f.Name(), "it grows while it is read", "copy it, and name the copy"}
	}
	return data, err
}

func head(path string, n int) []byte {
	if info, err := os.Stat(path); err != nil || !info.Mode().IsRegular() {
		return nil
	}
	f, err := os.OpenFile(path, os.O_RDONLY|syscall.O_NONBLOCK, 0)
	if err != nil {
		return nil
	}
	defer func() { _ = f.Close() }()
	data := make([]byte, n)
	n, _ = io.ReadFull(f, data)
	return data[:n]
}

func walk(root string, visit fs.WalkDirFunc) error {
	info, err := os.Lstat(root)
	if err != nil || info.Mode()&fs.ModeSymlink == 0 {
		return filepath.WalkDir(root, visit)
	}
	if info, err = os.Stat(root); err != nil || !info.IsDir() {
		return visit(root, nil, err)
	}
	err = visit(root, fs.FileInfoToDirEntry(info), nil)
	if err == nil {
		var entries []fs.DirEntry
		if entries, err = os.ReadDir(root); err != nil {
			err = visit(root, fs.FileInfoToDirEntry(info), err)
		}
		for _, entry := range entries {
			if err = filepath.WalkDir(filepath.Join(root, entry.Name()), visit); err != nil {
				break
			}
		}
	}
	if errors.Is(err, filepath.SkipDir) || errors.Is(err, filepath.SkipAll) {
		return nil
	}
	return err
}

package files

import (
	"errors"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
)

// marks are the files that the root of a project has.
var marks = []string{"zelvik.yaml", ".git"}

// rootOf returns the root at or above a folder whose path is absolute, "" for none.
func rootOf(at string) string {
	for {
		for _, mark := range marks {
			if _, err := os.Stat(filepath.Join(at, mark)); err == nil {
				return at
			}
		}
		up := filepath.Dir(at)
		if up == at {
			return ""
		}
		at = up
	}
}

// inside reports whether one absolute path lies in another.
func inside(dir, path string) bool {
	rel, err := filepath.Rel(dir, path)
	return err == nil && (rel == "." || filepath.IsLocal(rel))
}

// withoutLinks returns an absolute path without links, as far as there is something at it; what
// is not there yet stays as it is said.
func withoutLinks(path string) (string, error) {
	for rest := ""; ; {
		at, err := filepath.EvalSymlinks(path)
		if err == nil {
			return filepath.Join(at, rest), nil
		}
		if !errors.Is(err, fs.ErrNotExist) {
			return "", err
		}
		if info, err := os.Lstat(path); err == nil && info.Mode()&fs.ModeSymlink != 0 {
			return "", &Error{path, "it is a link to nothing", "remove it, or name another path"}
		}
		up := filepath.Dir(path)
		if up == path {
			return "", err
		}
		path, rest = up, filepath.Join(filepath.Base(path), rest)
	}
}

// Name makes a file name of a text that comes from a file: path separators,
// control characters and what Windows does not take become "_", and it neither
// begins nor ends with a dot. It has at most 120 bytes, and is never empty.
func Name(text string) string {
	var out strings.Builder
	for _, r := range text {
		if r < 0x20 || r >= 0x7f && r < 0xa0 || strings.ContainsRune(`/\:*?"<>|`, r) || r == 0xfffd || r >= 0x200b && r <= 0x200f || r >= 0x2028 && r <= 0x202e || r >= 0x2066 && r <= 0x2069 {
			r = '_'
		}
		if out.Len()+len(string(r)) > 120 {
			break
		}
		out.WriteRune(r)
	}
	name := strings.TrimRight(out.String(), ". ")
	if trimmed := strings.TrimLeft(name, "."); trimmed != name {
		name = "_" + trimmed
	}
	if stem, _, _ := strings.Cut(name, "."); name == "" || reserved[strings.ToUpper(stem)] {
		name = "_" + name
	}
	return name
}

// reserved are the names that Windows keeps for devices.
var reserved = func() map[string]bool {
	names := map[string]bool{"CON": true, "PRN": true, "AUX": true, "NUL": true}
	for _, n := range "123456789" {
		names["COM"+string(n)], names["LPT"+string(n)] = true, true
	}
	return names
}()

package files

import (
	"cmp"
	"fmt"
	"os"
	"path/filepath"
	"slices"
)

// resolve finds where a file really lies, and refuses one that a link leads out
// of what may be written to.
func (b *batch) resolve(w *Write) error {
	disk := b.session.Disk
	path, out := disk.Absolute(w.Path), disk.Absolute(b.plan.Out)
	base, named := "", b.plan.Out != "" && out == path
	switch root := rootOf(filepath.Dir(path)); {
	case named: // by a person, link or not
		target, err := withoutLinks(path)
		if err != nil {
			return writeError(w.Path, err)
		}
		w.target = target
	case b.plan.Out != "" && inside(out, path):
		base = out
	case root != "":
		base = b.session.project(root)
	default:
		for _, held := range b.session.held() {
			if inside(held, path) && len(held) > len(base) {
				base = held
			}
		}
		if base == "" {
			base = filepath.Dir(path)
		}
	}
	if base != "" {
		within, err := withoutLinks(base)
		if err != nil {
			return writeError(w.Path, err)
		}
		if w.target, err = withoutLinks(path); err != nil {
			return writeError(w.Path, err)
		}
		if !inside(within, w.target) {
			return &Error{w.Path, "a link leads out of " + base, "name the file itself"}
		}
	}
	if info, err := os.Lstat(w.target); err == nil && !info.Mode().IsRegular() {
		return writeError(w.Path, plain(w.Path, info))
	}
	switch dir := filepath.Dir(w.target); {
	case rootOf(dir) != "":
		w.home = rootOf(dir)
	default:
		for _, held := range b.session.held() {
			if inside(held, w.target) && len(held) > len(w.home) {
				w.home = held
			}
		}
		if base != "" && b.plan.Out != "" && w.home == "" { // one place for all that is made in a folder
			w.home, _ = withoutLinks(base) // it was asked before
		}
		w.home = cmp.Or(w.home, dir)
	}
	if b.plan.Out != "" && inside(out, path) && !inside(out, w.target) {
		b.note("%s is a link: written to %s", w.Path, w.target)
	}
	return nil
}

// project returns the root that a path below another root belongs to: that one
// itself, but where a link leads to it out of a project around it, which no one
// named.
func (s *Session) project(root string) string {
	around := rootOf(filepath.Dir(root))
	if around == "" {
		return root
	}
	at, err := withoutLinks(root)
	within, err2 := withoutLinks(around)
	if err != nil || err2 != nil || inside(within, at) || slices.Contains(s.held(), at) {
		return root
	}
	return s.project(around)
}

func (b *batch) note(text string, args ...any) {
	if note := fmt.Sprintf(text, args...); !slices.Contains(b.plan.Notes, note) {
		b.plan.Notes = append(b.plan.Notes, note)
	}
}

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
	path := absolute(w.Path)
	base, named := "", b.plan.Out != "" && absolute(b.plan.Out) == path
	switch root := Root(filepath.Dir(path)); {
	case named: // by a person, link or not
		target, err := withoutLinks(path)
		if err != nil {
			return writeError(w.Path, err)
		}
		w.target = target
	case b.plan.Out != "" && Inside(b.plan.Out, path):
		base = absolute(b.plan.Out)
	case root != "":
		base = b.session.project(root)
	default:
		for _, held := range b.session.held() {
			if Inside(held, path) && len(held) > len(base) {
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
		if !Inside(within, w.target) {
			return &Error{w.Path, "a link leads out of " + base, "name the file itself"}
		}
	}
	if info, err := os.Lstat(w.target); err == nil && !info.Mode().IsRegular() {
		return writeError(w.Path, plain(w.Path, info))
	}
	switch dir := filepath.Dir(w.target); {
	case Root(dir) != "":
		w.home = Root(dir)
	default:
		for _, held := range b.session.held() {
			if Inside(held, w.target) && len(held) > len(w.home) {
				w.home = held
			}
		}
		if base != "" && b.plan.Out != "" && w.home == "" { // one place for all that is made in a folder
			w.home, _ = withoutLinks(base) // it was asked before
		}
		w.home = cmp.Or(w.home, dir)
	}
	if out := absolute(b.plan.Out); b.plan.Out != "" && Inside(out, path) && !Inside(out, w.target) {
		b.note("%s is a link: written to %s", w.Path, w.target)
	}
	return nil
}

// project gives the root that a path below another root belongs to: that one
// itself, but where a link leads to it out of a project around it, which no one
// named.
func (s *Session) project(root string) string {
	around := Root(filepath.Dir(root))
	if around == "" {
		return root
	}
	at, err := withoutLinks(root)
	within, err2 := withoutLinks(around)
	if err != nil || err2 != nil || Inside(within, at) || slices.Contains(s.held(), at) {
		return root
	}
	return s.project(around)
}

func (b *batch) note(text string, args ...any) {
	if note := fmt.Sprintf(text, args...); !slices.Contains(b.plan.Notes, note) {
		b.plan.Notes = append(b.plan.Notes, note)
	}
}

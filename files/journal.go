package files

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strings"
)

// journal names the files of a plan that are being put into their places, so
// that a run that was stopped there can be finished. It is alive while the lock
// of its folder is held. Paths are relative to its folder, with slashes, so that
// a project may be moved.
type journal struct {
	Files []step `json:"files"`
	// With are the other folders that have a journal of the same plan.
	With []string `json:"with,omitempty"`
}

// step is one file's way. Old is the fingerprint of what it replaces, "" for
// nothing, and New that of what takes its place.
type step struct {
	Staged string `json:"staged"`
	Path   string `json:"path"`
	Old    string `json:"old,omitempty"`
	New    string `json:"new"`
}

// fingerprint tells a content from others.
func fingerprint(data []byte) string {
	sum := sha256.Sum256(data)
	return hex.EncodeToString(sum[:16])
}

// journal writes the journals of all homes.
func (b *batch) journal() error {
	for _, h := range b.homes {
		j := journal{}
		for _, f := range h.files {
			one := step{Staged: filepath.ToSlash(f.at), Path: filepath.ToSlash(f.to), New: fingerprint(f.New)}
			if f.Old != nil {
				one.Old = fingerprint(f.Old)
			}
			j.Files = append(j.Files, one)
		}
		for _, other := range b.homes {
			if rel, err := filepath.Rel(h.dir, other.dir); other != h && err == nil {
				j.With = append(j.With, filepath.ToSlash(rel))
			}
		}
		data, err := json.Marshal(j)
		if err != nil {
			return err
		}
		at := filepath.Join(h.stage, "journal")
		out, err := h.root.OpenFile(at, os.O_WRONLY|os.O_CREATE|os.O_EXCL, 0o666)
		if err != nil {
			return writeError(filepath.Join(h.dir, journalName), err)
		}
		_, err = out.Write(data)
		if err = errors.Join(err, out.Sync(), out.Close()); err == nil {
			err = h.root.Rename(at, journalName)
		}
		if err != nil {
			return writeError(filepath.Join(h.dir, journalName), err)
		}
		syncFolder(h.root, h.stage)
		syncFolder(h.root, ".")
	}
	return nil
}

// forget removes the journals.
func (b *batch) forget() error {
	var problems []error
	for _, h := range b.homes {
		if err := os.Remove(filepath.Join(h.dir, journalName)); !errors.Is(err, fs.ErrNotExist) {
			problems = append(problems, writeError(filepath.Join(h.dir, journalName), err))
		}
	}
	return errors.Join(problems...)
}

// unfinished reports whether a home's journal is there: its staged files are
// needed still.
func (b *batch) unfinished(h *home) bool {
	_, err := h.root.Lstat(journalName)
	return err == nil
}

// recover finishes what an earlier run was stopped in, in a folder whose lock
// the session has: files that were prepared and named in a journal are put into
// their places, and what was only prepared is removed.
func (s *Session) recover(dir string) error {
	if _, err := os.Lstat(filepath.Join(dir, journalName)); err == nil {
		if err := s.finish(dir); err != nil {
			return err
		}
	}
	left, err := filepath.Glob(filepath.Join(quoted(dir), stagePattern))
	if err != nil {
		return nil
	}
	for _, at := range left {
		if info, err := os.Lstat(at); err == nil && info.IsDir() {
			_ = removeStage(at)
		}
	}
	return nil
}

// quoted spells a path as a pattern that fits it alone.
func quoted(path string) string {
	if os.PathSeparator == '\\' {
		return path // Windows has no way to quote
	}
	return strings.NewReplacer(`\`, `\\`, `*`, `\*`, `?`, `\?`, `[`, `\[`, `{`, `\{`).Replace(path)
}

// finish carries out a journal that a run left behind, and those of the same
// plan in other folders. All are there until all files are in their places; so
// where one is not, and no file is in its place, the run was stopped while it
// wrote them, and nothing was replaced.
func (s *Session) finish(dir string) error {
	first, err := readJournal(dir)
	if err != nil {
		return err
	}
	defer first.close()
	all, missing := []*pending{first}, false
	for _, other := range first.With {
		at, err := withoutLinks(filepath.Join(dir, filepath.FromSlash(other)))
		if err != nil {
			return ReadError(dir, err)
		}
		if _, err := os.Lstat(filepath.Join(at, journalName)); err != nil {
			missing = true
			continue
		}
		fresh, err := s.acquire(at)
		if err != nil {
			return err
		}
		if fresh {
			defer s.drop(at)
		}
		p, err := readJournal(at)
		if err != nil {
			return err
		}
		defer p.close()
		all = append(all, p)
	}
	files, there := 0, 0
	for _, p := range all {
		files, there = files+len(p.Files), there+len(p.there)
	}
	var placed, changed []string
	if !missing || there > 0 {
		for _, p := range all {
			if err := p.place(); err != nil {
				return err
			}
			placed, changed = append(placed, p.placed...), append(changed, p.changed...)
		}
	}
	for _, p := range all {
		if err := os.Remove(filepath.Join(p.dir, journalName)); err != nil {
			return writeError(filepath.Join(p.dir, journalName), err)
		}
	}
	text := fmt.Sprintf("an earlier run was stopped after %d of its %d files", there, files)
	switch {
	case len(placed) > 0:
		text += "; the others were replaced now: " + strings.Join(placed, ", ")
	case len(changed) == 0:
		text += "; nothing was left to do"
	}
	if len(changed) > 0 {
		text += "; changed since by somebody, and left as they are: " + strings.Join(changed, ", ")
	}
	s.say("%s", text)
	return nil
}

// pending is a journal that a run left behind, and what is true of its files:
// there are those in their places already, changed those that somebody changed
// since, waiting the others.
type pending struct {
	journal
	dir                    string
	root                   *os.Root
	there, changed, placed []string
	waiting                []*staged
}

func (p *pending) close() { _ = p.root.Close() }

func (p *pending) refuse(text string) error {
	return &Error{filepath.Join(p.dir, journalName), text, "look at it, and remove it"}
}

// readJournal reads the journal of a folder and looks at all of its files,
// before any is touched.
func readJournal(dir string) (*pending, error) {
	p := &pending{dir: dir}
	at := filepath.Join(dir, journalName)
	if err := noLink(at); err != nil {
		return nil, err
	}
	data, err := read(at, at)
	if err != nil {
		return nil, err
	}
	if json.Unmarshal(data, &p.journal) != nil || len(p.Files) == 0 {
		return nil, p.refuse("the journal of an earlier run is damaged; nothing was done with it")
	}
	if p.root, err = os.OpenRoot(dir); err != nil {
		return nil, writeError(at, err)
	}
	if err := p.look(); err != nil {
		p.close()
		return nil, err
	}
	return p, nil
}

func (p *pending) look() error {
	for _, one := range p.Files {
		if !one.sound(p.root) {
			return p.refuse("the journal names files outside of its folder, or through links; nothing was done with it")
		}
		to := filepath.FromSlash(one.Path)
		now, err := existing(filepath.Join(p.dir, to), filepath.Join(p.dir, to))
		if err != nil {
			return err
		}
		switch had := now != nil; {
		case had && fingerprint(now) == one.New:
			p.there = append(p.there, one.Path)
		case had && fingerprint(now) != one.Old, !had && one.Old != "":
			p.changed = append(p.changed, one.Path)
		default:
			f := &staged{Write: &Write{Path: filepath.Join(p.dir, to)}, at: filepath.FromSlash(one.Staged), to: to}
			if content, err := read(filepath.Join(p.dir, f.at), filepath.Join(p.dir, f.at)); err != nil || fingerprint(content) != one.New {
				return p.refuse(fmt.Sprintf("what an earlier run prepared for %s is gone or damaged; nothing was done with it", one.Path))
			}
			p.waiting = append(p.waiting, f)
		}
	}
	return nil
}

// place puts the files that wait into their places.
func (p *pending) place() error {
	for _, f := range p.waiting {
		if err := f.place(p.root); err != nil {
			return writeError(f.Path, err)
		}
		p.placed = append(p.placed, filepath.ToSlash(f.to))
	}
	return nil
}

// sound reports whether a step stays in its folder: relative, without links on
// the way, from a folder of staged files.
func (one *step) sound(root *os.Root) bool {
	staged, path := filepath.FromSlash(one.Staged), filepath.FromSlash(one.Path)
	if !filepath.IsLocal(staged) || !filepath.IsLocal(path) || strings.ContainsRune(one.Staged+one.Path, 0) {
		return false
	}
	if ok, err := filepath.Match(stagePattern, filepath.Dir(staged)); err != nil || !ok {
		return false
	}
	for _, at := range []string{staged, path} {
		parts := strings.Split(filepath.Clean(at), string(filepath.Separator))
		if slices.Contains(parts, "..") {
			return false
		}
		for i := range parts {
			info, err := root.Lstat(filepath.Join(parts[:i+1]...))
			switch {
			case errors.Is(err, fs.ErrNotExist):
			case err != nil, i < len(parts)-1 && !info.IsDir(), i == len(parts)-1 && !info.Mode().IsRegular():
				return false
			}
		}
	}
	return true
}

package files

import (
	"bytes"
	"cmp"
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

// Commit carries out a plan. Every file is replaced in one step and keeps its
// owner and mode; where one is not what the plan has read, none is written.
// Several files are all prepared and forced to the disk, then named in a
// journal, then put into their places, so that the next run can finish what was
// stopped in between. Where a file cannot be put into its place, those that were
// are put back.
func (s *Session) Commit(p *Plan) error {
	if len(p.Writes) == 0 {
		return p.Check()
	}
	if err := p.Refused(); err != nil {
		return err
	}
	b := &batch{session: s, plan: p}
	defer b.end()
	for i := range p.Writes {
		if err := b.resolve(&p.Writes[i]); err != nil {
			return err
		}
	}
	if err := b.lock(); err != nil {
		return err
	}
	if err := b.stage(); err != nil {
		return err
	}
	return b.place()
}

// batch is a plan that is being carried out.
type batch struct {
	session *Session
	plan    *Plan
	homes   []*home
	fresh   []string // locks that are given back at the end
	done    bool
}

// home is a locked folder with the files that are written below it.
type home struct {
	dir, stage string
	root       *os.Root
	files      []*staged
}

// staged is a file's new content that waits for its place. Paths are relative
// to the home.
type staged struct {
	*Write
	at, to string
	old    fs.FileInfo // what stands there, nil for nothing
	placed bool
}

// resolve finds where a file really lies, and refuses one that a link leads out
// of what may be written to.
func (b *batch) resolve(w *Write) error {
	path := absolute(w.Path)
	base, named := "", b.plan.Out != "" && absolute(b.plan.Out) == path
	switch root := Root(filepath.Dir(path)); {
	case named: // by a person, link or not
		target, err := real(path)
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
		within, err := real(base)
		if err != nil {
			return writeError(w.Path, err)
		}
		if w.target, err = real(path); err != nil {
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
			w.home, _ = real(base) // it was asked before
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
	at, err := real(root)
	within, err2 := real(around)
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

// held lists the folders that are locked.
func (s *Session) held() []string {
	s.mu.Lock()
	defer s.mu.Unlock()
	var list []string
	for dir := range s.locks {
		list = append(list, dir)
	}
	return list
}

// lock takes the locks that the session does not have yet, in the order of
// their folders, and groups the files by them. A folder that is not there yet is
// made. Where nothing may be written at the root of a project, the folder of
// the file is locked.
func (b *batch) lock() error {
	byDir := map[string]*home{}
	for i := range b.plan.Writes {
		w := &b.plan.Writes[i]
		h := byDir[w.home]
		if h == nil {
			h = &home{dir: w.home}
			byDir[w.home] = h
			b.homes = append(b.homes, h)
		}
		h.files = append(h.files, &staged{Write: w})
	}
	slices.SortFunc(b.homes, func(x, y *home) int { return cmp.Compare(x.dir, y.dir) })
	for _, h := range b.homes {
		if err := b.open(h); err != nil {
			return writeError(h.files[0].Path, err)
		}
		for _, f := range h.files {
			var err error
			if f.to, err = filepath.Rel(h.dir, f.target); err != nil || !filepath.IsLocal(f.to) {
				return &Error{f.Path, "it leads out of " + h.dir, "name the file itself"}
			}
		}
	}
	return nil
}

func (b *batch) open(h *home) error {
	if err := os.MkdirAll(h.dir, 0o777); err != nil {
		return err
	}
	fresh, err := b.session.take(h.dir)
	if (errors.Is(err, fs.ErrPermission) || readOnly(err)) && len(h.files) == 1 {
		h.dir = filepath.Dir(h.files[0].target)
		fresh, err = b.session.take(h.dir)
	}
	if err != nil {
		return err
	}
	if fresh {
		b.fresh = append(b.fresh, h.dir)
	}
	h.root, err = os.OpenRoot(h.dir)
	return err
}

func readOnly(err error) bool { return errors.Is(err, syscall.EROFS) }

// stage writes the new contents into a folder of the home, with the modes and
// owners of what they replace.
func (b *batch) stage() error {
	var group errgroup.Group
	group.SetLimit(8)
	group.Go(b.plan.Check)
	for _, h := range b.homes {
		dir, err := os.MkdirTemp(h.dir, stagePattern)
		if err != nil {
			return writeError(h.files[0].Path, err)
		}
		h.stage = filepath.Base(dir)
		b.session.mu.Lock()
		b.session.stages = append(b.session.stages, dir)
		b.session.mu.Unlock()
		for i, f := range h.files {
			f.at = filepath.Join(h.stage, strconv.Itoa(i))
			group.Go(func() error { return writeError(f.Path, b.write(h, f)) })
		}
	}
	return group.Wait()
}

// write writes one staged file. It is forced to the disk where it replaces one,
// or is named in a journal; nothing is lost with a single new one, and forcing
// it would take as long as all else together.
func (b *batch) write(h *home, f *staged) error {
	var err error
	if f.old, err = h.root.Lstat(f.to); err != nil && !errors.Is(err, fs.ErrNotExist) {
		return err
	}
	if f.old != nil && !writable(h.root, f.to) {
		return fs.ErrPermission
	}
	out, err := h.root.OpenFile(f.at, os.O_WRONLY|os.O_CREATE|os.O_EXCL, 0o666)
	if err != nil {
		return err
	}
	_, err = out.Write(f.New)
	kept := true
	if f.old != nil {
		kept = keepOwner(out, f.old)
		err = errors.Join(err, out.Chmod(f.old.Mode().Perm()))
	}
	if !b.plan.Remade && (f.old != nil || len(b.plan.Writes) > 1) {
		err = errors.Join(err, out.Sync())
	}
	if err = errors.Join(err, out.Close()); err != nil {
		return err
	}
	if f.old != nil && (!kept || names(f.old) > 1) {
		b.session.mu.Lock()
		defer b.session.mu.Unlock()
		if !kept {
			b.note("%s: its owner or group could not be kept; it has yours", f.Path)
		}
		if n := names(f.old); n > 1 {
			b.note("%s: it was one file under %d names (hard links); the others keep the old content", f.Path, n)
		}
	}
	return nil
}

// writable reports whether a file may be written, which renaming over it would
// not ask.
func writable(root *os.Root, path string) bool {
	f, err := root.OpenFile(path, os.O_WRONLY|syscall.O_NONBLOCK, 0)
	if err == nil {
		_ = f.Close()
	}
	return !errors.Is(err, fs.ErrPermission)
}

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
	now, err := Read(f.target)
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

// clear removes a folder of staged files, and nothing that lies deeper.
func clear(dir string) error {
	entries, err := os.ReadDir(dir)
	for _, entry := range entries {
		_ = os.Remove(filepath.Join(dir, entry.Name()))
	}
	if errors.Is(err, fs.ErrNotExist) {
		return nil
	}
	return errors.Join(err, os.Remove(dir))
}

// end removes what was only prepared, and gives back the locks that were taken
// for the plan alone.
func (b *batch) end() {
	s := b.session
	for _, h := range b.homes {
		if h.stage != "" {
			dir := filepath.Join(h.dir, h.stage)
			left := b.unfinished(h)
			if !left {
				_ = clear(dir)
			}
			s.mu.Lock()
			s.stages = slices.DeleteFunc(s.stages, func(at string) bool { return at == dir })
			s.mu.Unlock()
		}
		if h.root != nil {
			_ = h.root.Close()
		}
	}
	for _, dir := range b.fresh {
		s.drop(dir)
	}
}

package files

import (
	"cmp"
	"errors"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"syscall"

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
	fresh, err := b.session.lock(h.dir)
	if (errors.Is(err, fs.ErrPermission) || readOnly(err)) && len(h.files) == 1 {
		h.dir = filepath.Dir(h.files[0].target)
		fresh, err = b.session.lock(h.dir)
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
			return errors.Join(writeError(h.files[0].Path, err), group.Wait()) // nobody writes on
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

// removeStage removes a folder of staged files, and nothing that lies deeper.
func removeStage(dir string) error {
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
				_ = removeStage(dir)
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

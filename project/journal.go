package project

import (
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"syscall"
	"time"

	"golang.org/x/sync/errgroup"
)

// journalName is the file that is there while several files are put into their
// places.
const journalName = ".zelvik-journal"

// journal says which files are being replaced, by whom, so that a run that was
// stopped can be finished. Paths are absolute.
type journal struct {
	Process int       `json:"process"`
	Files   []journey `json:"files"`
}

// journey is one file's way.
type journey struct {
	Staged string `json:"staged"`
	Path   string `json:"path"`
}

// together puts several files into their places, as one.
func (p *Plan) together() error {
	files := make([]staged, len(p.Writes))
	var group errgroup.Group
	group.SetLimit(8)
	for i := range p.Writes {
		group.Go(func() (err error) {
			files[i], err = p.Writes[i].stage(true)
			return err
		})
	}
	unstage := func() {
		for _, s := range files {
			if s.at != "" {
				_ = os.Remove(s.at)
			}
		}
	}
	if err := group.Wait(); err != nil {
		unstage()
		return err
	}
	j := journal{Process: os.Getpid()}
	for _, s := range files {
		j.Files = append(j.Files, journey{absolute(s.at), absolute(s.path)})
	}
	at := filepath.Join(p.home(), journalName)
	if err := j.begin(at); err != nil {
		unstage()
		return err
	}
	for i := range p.Writes { // nobody else wrote while this was prepared
		if err := p.Writes[i].check(); err != nil {
			unstage()
			_ = os.Remove(at)
			return err
		}
	}
	for _, s := range files {
		if err := s.place(); err != nil {
			return err // the journal tells of the rest
		}
	}
	return os.Remove(at)
}

// home is the folder of the journal.
func (p *Plan) home() string {
	at := absolute(p.Home)
	if p.Home == "" {
		if at = Root(filepath.Dir(absolute(p.Writes[0].Path))); at == "" {
			at = filepath.Dir(absolute(p.Writes[0].Path))
		}
	}
	for _, w := range p.Writes {
		for !inside(at, absolute(w.Path)) && filepath.Dir(at) != at {
			at = filepath.Dir(at)
		}
	}
	return at
}

// begin writes the journal whole, unless there is one: another run is at work,
// and is waited for.
func (j *journal) begin(at string) error {
	data, err := json.Marshal(j)
	if err != nil {
		return err
	}
	f, err := os.CreateTemp(filepath.Dir(at), stagePattern)
	if err != nil {
		return writeError(at, err)
	}
	defer func() { _ = os.Remove(f.Name()) }()
	_, err = f.Write(data)
	if err = errors.Join(err, f.Sync(), f.Close()); err != nil {
		return writeError(at, err)
	}
	for range 20 {
		if err = os.Link(f.Name(), at); !errors.Is(err, fs.ErrExist) {
			break
		}
		if old := readJournal(at); old != nil && !alive(old.Process) {
			return &FileError{at, "an earlier run was stopped while it replaced files", "run the command again: it is finished first"}
		}
		time.Sleep(100 * time.Millisecond)
	}
	if errors.Is(err, fs.ErrExist) {
		return &FileError{at, "another run is replacing files here", "run the command again when it is done"}
	}
	if err != nil { // no links here: an exclusive file does as well
		g, err := os.OpenFile(at, os.O_WRONLY|os.O_CREATE|os.O_EXCL, 0o644)
		if err != nil {
			return writeError(at, err)
		}
		_, err = g.Write(data)
		return errors.Join(err, g.Close())
	}
	return nil
}

// readJournal reads a journal; nil where there is none or it is not whole.
func readJournal(at string) *journal {
	data, err := os.ReadFile(at)
	if err != nil {
		return nil
	}
	j := &journal{}
	if json.Unmarshal(data, j) != nil {
		return nil
	}
	return j
}

// alive reports whether a process is there.
func alive(process int) bool {
	p, err := os.FindProcess(process)
	if err != nil {
		return false
	}
	err = p.Signal(syscall.Signal(0))
	return err == nil || errors.Is(err, os.ErrPermission)
}

// Recover finishes what an earlier run was stopped in, where the folder, or one
// of those above it in the project, has its journal: the files that were
// prepared are put into their places. It says what it did, "" for nothing.
func Recover(dir string) (string, error) {
	dir = absolute(dir)
	stop := Root(dir)
	if stop == "" {
		stop = filepath.Dir(dir)
	}
	for at := dir; ; at = filepath.Dir(at) {
		path := filepath.Join(at, journalName)
		if j := readJournal(path); j != nil && !alive(j.Process) {
			return j.finish(path)
		}
		if at == stop || filepath.Dir(at) == at {
			return "", nil
		}
	}
}

// finish puts the files that are left into their places.
func (j *journal) finish(at string) (string, error) {
	dir := filepath.Dir(at)
	var placed, there []string
	for _, file := range j.Files {
		if !inside(dir, file.Path) || !inside(dir, file.Staged) || !strings.HasPrefix(filepath.Base(file.Staged), ".zelvik-") || filepath.Dir(file.Staged) != filepath.Dir(file.Path) {
			return "", &FileError{at, "the journal names files outside of its folder", "look at it, and remove it"}
		}
		if _, err := os.Lstat(file.Staged); err != nil {
			there = append(there, shortened(file.Path))
			continue
		}
		if err := os.Rename(file.Staged, file.Path); err != nil {
			return "", writeError(file.Path, err)
		}
		placed = append(placed, shortened(file.Path))
	}
	if err := os.Remove(at); err != nil {
		return "", writeError(at, err)
	}
	if len(placed) == 0 {
		return fmt.Sprintf("an earlier run was stopped after it had replaced %d files; nothing was left to do", len(there)), nil
	}
	return fmt.Sprintf("an earlier run was stopped after %d of its %d files; the others were replaced now: %s", len(there), len(j.Files), strings.Join(placed, ", ")), nil
}

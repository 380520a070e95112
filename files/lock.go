package files

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"runtime"
	"syscall"
	"time"

	"github.com/gofrs/flock"
)

// The names of what a run may leave in the folder that it locked, should it be
// killed. The next one that takes the lock removes or finishes it.
const (
	lockName     = ".zelvik-lock"
	journalName  = ".zelvik-journal"
	stagePattern = ".zelvik-stage-*" // a folder
)

// holder is what a lock file says of who has it. A line end stands before it,
// since on Windows nobody else may read the byte that is locked. What an earlier
// run left after it is not read.
type holder struct {
	Command string    `json:"command"`
	Process int       `json:"process"`
	Host    string    `json:"host"`
	Since   time.Time `json:"since"`
}

func (h *holder) String() string {
	if h.Command == "" {
		return "another run"
	}
	return fmt.Sprintf("%s (process %d on %s, since %s)", h.Command, h.Process, h.Host, h.Since.Format("15:04:05"))
}

// lock is a folder that is locked by the operating system's own file locks,
// which end with the process that has them.
type lock struct {
	dir  string
	file *flock.Flock
}

// errBusy says that another run has the lock.
var errBusy = errors.New("locked")

// tryLock locks a folder, or gives errBusy. The file is there only while
// somebody has the lock, so one that was removed meanwhile does not count.
func tryLock(dir string, who holder) (*lock, error) {
	path := filepath.Join(dir, lockName)
	if err := noLink(path); err != nil {
		return nil, err
	}
	file := flock.New(path, flock.SetFlag(os.O_CREATE|os.O_RDWR), flock.SetPermissions(0o666))
	ok, err := file.TryLock()
	if err != nil && !goes(err, path) {
		_ = file.Close()
		return nil, err
	}
	if !ok {
		_ = file.Close()
		return nil, errBusy
	}
	held, err := file.Stat()
	there, err2 := os.Lstat(path)
	if err != nil || err2 != nil || !os.SameFile(held, there) {
		_ = file.Close()
		return nil, errBusy // removed by the one who had it; there is a new one, or soon
	}
	l := &lock{dir, file}
	if data, err := json.Marshal(who); err == nil { // only for people: a lock without it is one
		if f, err := os.OpenFile(path, os.O_WRONLY, 0); err == nil {
			_, _ = f.WriteAt(data, 1)
			_ = f.Close()
		}
	}
	return l, nil
}

// goes reports whether an error says that the file is being removed by the one
// who had the lock, as Windows does.
func goes(err error, path string) bool {
	if runtime.GOOS != "windows" {
		return false
	}
	var code syscall.Errno
	const accessDenied, sharingViolation = 5, 32
	_, there := os.Lstat(path)
	return errors.As(err, &code) && (code == sharingViolation || code == accessDenied && there == nil)
}

// release gives the lock back and removes its file. Where a file that is open
// cannot be removed (Windows), it is removed after, unless the next one has it.
func (l *lock) release() {
	path := filepath.Join(l.dir, lockName)
	if runtime.GOOS != "windows" {
		_ = os.Remove(path)
	}
	_ = l.file.Close()
	if runtime.GOOS == "windows" {
		_ = os.Remove(path)
	}
}

// heldBy says who has the lock of a folder, as far as its file says so.
func heldBy(dir string) *holder {
	h := &holder{}
	f, err := os.Open(filepath.Join(dir, lockName))
	if err != nil {
		return h
	}
	defer func() { _ = f.Close() }()
	_ = json.NewDecoder(io.NewSectionReader(f, 1, 2000)).Decode(h) // else it is another run
	return h
}

// busy reports whether somebody has the lock of a folder.
func busy(dir string) bool {
	path := filepath.Join(dir, lockName)
	if _, err := os.Lstat(path); err != nil || noLink(path) != nil {
		return false
	}
	file := flock.New(path, flock.SetFlag(os.O_RDWR))
	ok, err := file.TryLock()
	_ = file.Close()
	return err == nil && !ok
}

// noLink refuses a file of ours that somebody made a link or a pipe.
func noLink(path string) error {
	info, err := os.Lstat(path)
	switch {
	case errors.Is(err, fs.ErrNotExist):
		return nil
	case err != nil:
		return err
	case !info.Mode().IsRegular():
		return &Error{path, "it is no regular file, and none of Zelvik's", "look at it, and remove it"}
	}
	return nil
}

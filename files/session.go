package files

import (
	"errors"
	"fmt"
	"io/fs"
	"os"
	"slices"
	"sync"
	"time"
)

// Session is what one run, or one request to a program that lives long, does
// to files: it holds the locks of the folders that it changes, from the reading
// of what is changed to the last renaming. Its methods may be called at once.
type Session struct {
	// Command is what others are told has the lock, such as "zelvik set".
	Command string
	// Disk says where relative paths are.
	Disk *Disk
	// Patience is how long another run is waited for; 10 seconds where it is 0.
	Patience time.Duration
	// Say hears what a person is to know meanwhile: that another run is waited
	// for, that one that was stopped is finished. It may be nil.
	Say func(text string)

	mu      sync.Mutex
	locks   map[string]*lock
	stages  []string // folders with staged files
	placing bool
	placed  *sync.Cond
	stopped bool
	written bool
}

// ErrStopped says that the session was ended before the files were changed.
var ErrStopped = errors.New("stopped before files were changed")

func (s *Session) say(text string, args ...any) {
	if s.Say != nil {
		s.Say(fmt.Sprintf(text, args...))
	}
}

// Hold locks the home of a folder until Close: what is read from it afterwards
// is not changed by another run before it is written. What an earlier run was
// stopped in is finished first. A folder in which nothing may be written is not
// locked: Commit will say so, should it be asked to.
func (s *Session) Hold(dir string) error {
	home, err := withoutLinks(s.Disk.Home(dir))
	if err != nil {
		return ReadError(dir, err)
	}
	_, err = s.lock(home)
	if errors.Is(err, fs.ErrPermission) || errors.Is(err, fs.ErrNotExist) || readOnly(err) {
		return nil
	}
	return err
}

// lock locks a folder and finishes what was left in it; fresh says that the
// session did not have the lock before.
func (s *Session) lock(home string) (fresh bool, err error) {
	if fresh, err = s.acquire(home); !fresh || err != nil {
		return fresh, err
	}
	if err := s.recover(home); err != nil {
		s.drop(home)
		return false, err
	}
	return true, nil
}

// acquire locks a folder, unless the session has the lock.
func (s *Session) acquire(home string) (fresh bool, err error) {
	s.mu.Lock()
	held, stopped := s.locks[home] != nil, s.stopped
	s.mu.Unlock()
	if held || stopped {
		return false, stopping(stopped)
	}
	l, err := s.wait(home)
	if err != nil {
		return false, err
	}
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.stopped { // meanwhile
		l.release()
		return false, ErrStopped
	}
	if s.locks == nil {
		s.locks = map[string]*lock{}
	}
	s.locks[home] = l
	return true, nil
}

func stopping(stopped bool) error {
	if stopped {
		return ErrStopped
	}
	return nil
}

// wait tries to lock a folder until the patience is over.
func (s *Session) wait(home string) (*lock, error) {
	host, _ := os.Hostname()
	who := holder{s.Command, os.Getpid(), host, time.Now()}
	patience := s.Patience
	if patience == 0 {
		patience = 10 * time.Second
	}
	pause, told := time.Millisecond, false
	for begun := time.Now(); ; {
		l, err := tryLock(home, who)
		waited := time.Since(begun)
		switch {
		case err == nil:
			return l, nil
		case !errors.Is(err, errBusy):
			return nil, err
		case waited > patience:
			return nil, &Error{home, fmt.Sprintf("%s is changing files here; waited %s", heldBy(home), patience), "run the command again when it is done"}
		case waited > time.Second && !told:
			told = true
			s.say("waiting for %s, at most %s", heldBy(home), patience)
		}
		s.mu.Lock()
		stopped := s.stopped
		s.mu.Unlock()
		if stopped {
			return nil, ErrStopped
		}
		time.Sleep(pause)
		pause = min(pause*2, 20*time.Millisecond)
	}
}

// drop gives one lock back.
func (s *Session) drop(home string) {
	s.mu.Lock()
	l := s.locks[home]
	delete(s.locks, home)
	s.mu.Unlock()
	if l != nil {
		l.release()
	}
}

// Close gives up all locks.
func (s *Session) Close() {
	s.mu.Lock()
	locks := s.locks
	s.locks = nil
	s.mu.Unlock()
	for _, l := range locks {
		l.release()
	}
}

// Abort ends the session from another goroutine, as on a signal: files that are
// being put into their places get there first, for as long as that takes or
// most has passed; what was only prepared is removed. It reports whether files
// are left half replaced, which the next run finishes.
func (s *Session) Abort(most time.Duration) (unfinished bool) {
	done := make(chan struct{})
	go func() {
		s.mu.Lock()
		defer s.mu.Unlock()
		s.stopped = true
		for s.placing {
			s.condition().Wait()
		}
		close(done)
	}()
	select {
	case <-done:
	case <-time.After(most):
		return true
	}
	s.mu.Lock()
	stages := slices.Clone(s.stages)
	s.mu.Unlock()
	for _, dir := range stages {
		for range 3 { // somebody may still be writing into it
			if removeStage(dir) == nil {
				break
			}
		}
	}
	s.Close()
	return false
}

// condition is signalled when files were put into their places. It needs the mutex.
func (s *Session) condition() *sync.Cond {
	if s.placed == nil {
		s.placed = sync.NewCond(&s.mu)
	}
	return s.placed
}

// Written reports whether the session has changed files.
func (s *Session) Written() bool {
	s.mu.Lock()
	defer s.mu.Unlock()
	return s.written
}

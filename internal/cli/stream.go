package cli

import (
	"errors"
	"io"
	"os"
	"sync"
	"syscall"
)

// stream is standard output or standard error. It remembers the first error, so
// that a full disk is reported at the end whoever wrote, and goes on without one.
type stream struct {
	mu  sync.Mutex
	w   io.Writer
	err error
}

// Write never fails; see fault.
func (s *stream) Write(data []byte) (int, error) {
	s.mu.Lock()
	defer s.mu.Unlock()
	if f, ok := s.w.(*os.File); ok && s.err == nil && closed(f) {
		s.err = syscall.EBADF
	}
	if s.err == nil && len(data) > 0 {
		_, s.err = s.w.Write(data)
	}
	return len(data), nil
}

// File returns the file behind the stream, nil where there is none.
func (s *stream) File() *os.File {
	f, _ := s.w.(*os.File)
	return f
}

// fault returns what kept the output from being written; nil where it was, and
// where its reader had enough, as head does.
func (s *stream) fault() error {
	s.mu.Lock()
	defer s.mu.Unlock()
	var inner *os.PathError
	switch {
	case errors.Is(s.err, syscall.EPIPE):
		return nil
	case errors.Is(s.err, syscall.EBADF):
		return errors.New("it is closed")
	case errors.As(s.err, &inner):
		return inner.Err
	}
	return s.err
}

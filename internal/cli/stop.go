package cli

import (
	"context"
	"errors"
	"io"
	"os"
	"os/signal"
	"syscall"
	"time"
)

// Main runs the program until it is done or a signal stops it, and gives its
// exit status. On the first SIGINT or SIGTERM what is only prepared is removed,
// files that are being put into their places get there, and the status is 130 or
// 143 within half a second; a second signal ends it at once.
func Main(args []string, stdout, stderr io.Writer) int {
	signals := make(chan os.Signal, 2)
	signal.Notify(signals, os.Interrupt, syscall.SIGTERM)
	signal.Ignore(syscall.SIGPIPE) // a reader that goes away, as head does, stops no writing of files
	ctx, cancel := context.WithCancel(context.Background())
	defer cancel()
	e := newEnv(args, stdout, stderr)
	done := make(chan int, 1)
	go func() { done <- e.run(ctx, args) }()
	select {
	case status := <-done:
		return status
	case s := <-signals:
		cancel()
		left := make(chan bool, 1)
		go func() { left <- e.session.Abort(400 * time.Millisecond) }()
		select {
		case unfinished := <-left:
			switch {
			case unfinished:
				e.say(errors.New("stopped while files were replaced; the next command that changes files here finishes it"))
			case e.session.Written():
				e.say(errors.New("stopped after files were changed"))
			default:
				e.say(errors.New("stopped; no file was changed"))
			}
		case <-signals:
		}
		if s == syscall.SIGTERM {
			return terminated
		}
		return interrupted
	}
}

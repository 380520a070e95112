package files

import (
	"bytes"
	"fmt"
	"runtime"
	"strings"

	"golang.org/x/sync/errgroup"
)

// Plan is a set of changes to files that belong together.
type Plan struct {
	Writes []Write `json:"-"` // a plan is no part of a report
	// Out is the file or folder that a person named for what is written, "" for
	// none. It may be a link and lie anywhere; nothing below it leads out of it.
	Out string `json:"-"`
	// Remade says that the files can be made again, such as pictures: each is
	// replaced in one step, but none is forced to the disk, and there is no
	// journal.
	Remade bool `json:"-"`
	// Replace lets Make replace what the command did not make.
	Replace bool `json:"-"`
	// Checks read what is to be written. They run while it is staged, and where one
	// fails nothing is placed.
	Checks []func() error `json:"-"`
	// Notes are sentences about what a person might not expect, after Commit: a
	// link that was followed, an owner that could not be kept.
	Notes []string `json:"-"`

	// Why says what is wrong with files that are there, where it is not that the
	// command did not make them.
	Why string `json:"-"`

	foreign []string
}

// Write is one file's new content. Old is what was read, nil where the file is
// new: what stands there when the plan is carried out is to be the same.
type Write struct {
	Path     string
	Old, New []byte

	target string // the path without links
	home   string // the folder that is locked for it
}

// Add plans a write; writes that change nothing are left out.
func (p *Plan) Add(path string, old, content []byte) {
	if old != nil && bytes.Equal(old, content) {
		return
	}
	p.Writes = append(p.Writes, Write{Path: path, Old: old, New: content})
}

// Make plans a file that a command makes anew. One that is there is replaced
// where ours knows it as made by the command; Refused reports the others.
// Standard output, "-", is always written.
func (p *Plan) Make(d *Disk, path string, content []byte, ours func(old []byte) bool) error {
	if path == "-" {
		p.Writes = append(p.Writes, Write{Path: path, New: content})
		return nil
	}
	old, err := d.Existing(path)
	if err != nil {
		return err
	}
	if old != nil && !bytes.Equal(old, content) && !p.Replace && (ours == nil || !ours(old)) {
		p.foreign = append(p.foreign, path)
	}
	p.Add(path, old, content)
	return nil
}

// Check runs the plan's checks, and gives the first error.
func (p *Plan) Check() error {
	var group errgroup.Group
	group.SetLimit(runtime.GOMAXPROCS(0))
	for _, check := range p.Checks {
		group.Go(check)
	}
	return group.Wait()
}

// Refused is an error where files of the plan are there that Make does not know
// as the command's own, unless Replace lets it replace them.
func (p *Plan) Refused() error {
	if len(p.foreign) == 0 {
		return nil
	}
	why := p.Why
	if why == "" {
		why = "there already, and not made by this command"
	}
	return &ForeignError{p.foreign, why}
}

// ForeignError says that files are there that the command did not make.
type ForeignError struct {
	Paths []string
	Why   string
}

// Error returns one sentence.
func (e *ForeignError) Error() string {
	list, more, it := e.Paths, "", "it"
	if len(list) > 3 {
		list, more = list[:3], fmt.Sprintf(" and %d more", len(e.Paths)-3)
	}
	if len(e.Paths) > 1 {
		it = "them"
	}
	return fmt.Sprintf("%s%s: %s; nothing was written. Write elsewhere with --out, or say --replace to replace %s", strings.Join(list, ", "), more, e.Why, it)
}

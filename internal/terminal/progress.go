package terminal

import (
	"sync"
	"time"

	"github.com/schollz/progressbar/v3"
)

// Progress shows how far something has come, on a terminal alone and only once
// it has taken a second.
type Progress struct {
	printer *Printer
	what    string
	begun   time.Time
	lock    sync.Mutex
	bar     *progressbar.ProgressBar
}

// patience is how long nothing is shown.
const patience = time.Second

// Progress begins to watch something.
func (p *Printer) Progress(what string) *Progress {
	return &Progress{printer: p, what: what, begun: time.Now()}
}

// Set says how much of the total is done. It may be called by several
// goroutines.
func (p *Progress) Set(done, total int) {
	if p.printer.Width == 0 || time.Since(p.begun) < patience {
		return
	}
	p.lock.Lock()
	defer p.lock.Unlock()
	if p.bar == nil {
		p.bar = progressbar.NewOptions(total, progressbar.OptionSetWriter(p.printer), progressbar.OptionSetDescription(p.what),
			progressbar.OptionShowCount(), progressbar.OptionSetWidth(30), progressbar.OptionClearOnFinish(), progressbar.OptionThrottle(100*time.Millisecond))
	}
	_ = p.bar.Set(done)
}

// End takes what is shown away.
func (p *Progress) End() {
	p.lock.Lock()
	defer p.lock.Unlock()
	if p.bar != nil {
		_ = p.bar.Finish()
	}
}

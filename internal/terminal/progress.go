package terminal

import (
	"fmt"
	"sync"
	"time"

	"github.com/jedib0t/go-pretty/v6/progress"
)

// Progress shows how far something has come, on a terminal alone and only once
// it has taken a second.
type Progress struct {
	printer *Printer
	begun   time.Time
	lock    sync.Mutex
	writer  progress.Writer
	tracker progress.Tracker
}

// patience is how long nothing is shown.
const patience = time.Second

// Progress begins to watch something.
func (p *Printer) Progress(what string) *Progress {
	return &Progress{printer: p, begun: time.Now(), tracker: progress.Tracker{Message: what}}
}

// Set says how much of the total is done. It may be called by several
// goroutines.
func (p *Progress) Set(done, total int) {
	if p.printer.Width == 0 || time.Since(p.begun) < patience {
		return
	}
	p.lock.Lock()
	defer p.lock.Unlock()
	if p.writer == nil {
		p.tracker.Total = int64(total)
		p.writer = progress.NewWriter()
		p.writer.SetOutputWriter(p.printer.raw)
		p.writer.SetTrackerLength(30)
		p.writer.SetUpdateFrequency(100 * time.Millisecond)
		p.writer.SetTrackerPosition(progress.PositionRight)
		style := p.writer.Style()
		style.Visibility.Time, style.Visibility.Value = false, false
		style.Options.PercentFormat, style.Options.Separator = "%3.0f %%", "  "
		p.tracker.Message = fmt.Sprintf("%s %d files", p.tracker.Message, total)
		p.writer.AppendTracker(&p.tracker)
		go p.writer.Render()
	}
	p.tracker.SetValue(int64(done))
}

// End stops what is shown.
func (p *Progress) End() {
	p.lock.Lock()
	defer p.lock.Unlock()
	if p.writer != nil {
		p.tracker.MarkAsDone()
		p.writer.Stop()
	}
}

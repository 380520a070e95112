package language

import (
	"regexp"
	"sync"
)

// pattern is a regular expression that is compiled when it is first used:
// compiling all of them would slow every start of the program.
type pattern struct {
	text     string
	once     sync.Once
	compiled *regexp.Regexp
}

func lazy(text string) *pattern { return &pattern{text: text} }

// re returns the compiled expression.
func (p *pattern) re() *regexp.Regexp {
	p.once.Do(func() { p.compiled = regexp.MustCompile(p.text) })
	return p.compiled
}

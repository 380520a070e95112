package cli

import (
	"runtime"
	"runtime/debug"
)

// relaxMemory puts off the first collection until the heap has 192 MiB, for
// commands that are over before that on all but the largest projects; then the
// collector works as usual.
func relaxMemory() {
	debug.SetGCPercent(4700)
	first := new([16]byte)
	runtime.SetFinalizer(first, func(*[16]byte) { debug.SetGCPercent(150) })
}

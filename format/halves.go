package format

import "sync"

// manyEntries is how many it takes for a second core to be worth its while.
const manyEntries = 2000

// Halves has a list of n written on both cores where it is long: first does the
// beginning, and rest what is behind it. Where it is short, first does all.
func Halves(n int, first, rest func(from, to int)) {
	if n < manyEntries {
		first(0, n)
		return
	}
	var wait sync.WaitGroup
	wait.Go(func() { rest(n/2, n) })
	first(0, n/2)
	wait.Wait()
}

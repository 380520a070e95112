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

// Append has entries written behind out on both cores where they are many and
// o compares with nothing: write gets a writer of its own for each half. It is
// false where there was no need to go on.
func Append[W any](out []byte, n int, o Options, first, second W, write func(w W, out []byte, from, to int) ([]byte, bool)) ([]byte, bool) {
	if n < manyEntries || o.Against != nil {
		return write(first, out, 0, n)
	}
	room := cap(out) / 2
	var rest []byte
	on := true
	Halves(n, func(from, to int) {
		out, _ = write(first, out, from, to)
	}, func(from, to int) {
		rest, on = write(second, make([]byte, 0, room), from, to)
	})
	return append(out, rest...), on
}

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
	Both(func() { first(0, n/2) }, func() { rest(n/2, n) })
}

// Both does two things side by side.
func Both(a, b func()) {
	var wait sync.WaitGroup
	wait.Go(b)
	a()
	wait.Wait()
}

// Joined joins two lists, of which the second was begun at a place of the first
// one's room; they are copied only where the first does not end there, or one
// outgrew its room.
func Joined[T any](room []T, place int, first, second []T) []T {
	whole := room[:cap(room)]
	if len(second) == 0 {
		return first
	}
	if len(first) == place && len(first) > 0 && &first[0] == &whole[0] && &second[0] == &whole[place] {
		return whole[:place+len(second)]
	}
	return append(append(make([]T, 0, len(first)+len(second)), first...), second...)
}

// Append has n entries written behind out on both cores where they are many
// and o compares with nothing: write gets a writer of its own for each half,
// and both write into the room that out has. It is false where there was no
// need to go on.
func Append[W any](out []byte, n int, o Options, first, second W, write func(w W, out []byte, from, to int) ([]byte, bool)) ([]byte, bool) {
	if n < manyEntries || o.Against != nil {
		return write(first, out, 0, n)
	}
	room := out[:cap(out)]
	middle := (len(out) + cap(out)) / 2
	rest := room[middle:middle]
	out = out[:len(out):middle]
	on, also := true, true
	Halves(n, func(from, to int) {
		out, on = write(first, out, from, to)
	}, func(from, to int) {
		rest, also = write(second, rest, from, to)
	})
	if len(out) > 0 && len(room) > 0 && &out[0] == &room[0] { // it did not outgrow its half
		out = room[:len(out)]
	}
	return append(out, rest...), on && also
}

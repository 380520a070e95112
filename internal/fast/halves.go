package fast

import "sync"

// Many is how many things it takes for a second core to be worth its while.
const Many = 2000

// Large is how many bytes of text it takes for two cores to read it in parts.
const Large = 1 << 20

// Halves has a list of n worked on by two cores where it is long: first does the
// beginning, and rest what is after it. Where it is short, first does all.
func Halves(n int, first, rest func(from, to int)) {
	if n < Many {
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

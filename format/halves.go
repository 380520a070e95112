package format

import "zelvik/internal/fast"

// Append has n entries written after out on both cores where they are many
// and o compares with nothing: write gets a writer of its own for each half,
// and both write into the room that out has. It is false where there was no
// need to go on.
func Append[W any](out []byte, n int, o Options, first, second W, write func(w W, out []byte, from, to int) ([]byte, bool)) ([]byte, bool) {
	if n < fast.Many || o.Against != nil {
		return write(first, out, 0, n)
	}
	room := out[:cap(out)]
	middle := (len(out) + cap(out)) / 2
	rest := room[middle:middle]
	out = out[:len(out):middle]
	on, also := true, true
	fast.Halves(n, func(from, to int) {
		out, on = write(first, out, from, to)
	}, func(from, to int) {
		rest, also = write(second, rest, from, to)
	})
	if len(out) > 0 && len(room) > 0 && &out[0] == &room[0] { // it did not outgrow its half
		out = room[:len(out)]
	}
	return append(out, rest...), on && also
}

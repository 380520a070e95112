// Package fast makes large slices that the kernel may back with huge pages:
// a command that is over in a fifth of a second would spend a good part of it
// on having thousands of small pages made one by one (converting 100,000 entries
// takes a tenth less time and half the page faults with them; bench/README.md).
package fast

import "unsafe"

// huge is the size of a huge page on the platforms that have them.
const huge = 2 << 20

// Make makes an empty slice with room for n elements. A large one begins where
// a huge page does; what is before that is never touched.
func Make[T any](n int) []T {
	var element T
	size := unsafe.Sizeof(element)
	if uintptr(n)*size < huge {
		return make([]T, 0, n)
	}
	made := make([]T, 0, n+int(huge/size))
	start := uintptr(unsafe.Pointer(unsafe.SliceData(made)))
	page := (start + huge - 1) &^ (huge - 1)
	first := int((page - start + size - 1) / size)
	advise(page, uintptr(n)*size&^(huge-1))
	return made[first : first : first+n]
}

// Append appends an element; a slice without room gets twice as much, which
// moves large ones less often than the built-in append does.
func Append[T any](list []T, element T) []T {
	if len(list) == cap(list) {
		list = append(Make[T](max(2*cap(list), 16)), list...)
	}
	return append(list, element)
}

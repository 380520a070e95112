//go:build !linux

package fast

func advise(start, size uintptr) {}

//go:build !linux

package pages

func advise(start, size uintptr) {}

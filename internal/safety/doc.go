// Package safety holds the tests that nothing is damaged: the program is killed while it
// writes, stopped by signals, run many times at once, and led at foreign files.
package safety

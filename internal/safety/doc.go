// Package safety holds the tests that nothing is damaged: the program is killed while it
// writes, run many times at once, given hostile files, closed streams and foreign files.
package safety

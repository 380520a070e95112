package terminal

import (
	"os"

	"golang.org/x/sys/unix"
)

// columns asks the terminal for its width; 100 where it does not say.
func columns(file *os.File) int {
	if size, err := unix.IoctlGetWinsize(int(file.Fd()), unix.TIOCGWINSZ); err == nil && size.Col > 20 {
		return int(size.Col)
	}
	return 100
}

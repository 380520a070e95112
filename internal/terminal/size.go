package terminal

import (
	"os"

	"golang.org/x/term"
)

// columns asks the terminal for its width; 100 where it does not say.
func columns(file *os.File) int {
	if width, _, err := term.GetSize(int(file.Fd())); err == nil && width > 20 {
		return width
	}
	return 100
}

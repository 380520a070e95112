package cli

import (
	"os"

	"golang.org/x/sys/unix"
)

// closed reports whether standard output was closed when the program began.
// Go's runtime opens /dev/null for it then, to read and write, and not to be
// closed in children; who sends output to /dev/null opens it otherwise: shells
// only to write, others with the close-on-exec flag or for standard error, too.
func closed(f *os.File) bool {
	return f == os.Stdout && null(1) && !null(2)
}

func null(fd int) bool {
	var stat unix.Stat_t
	flags, err := unix.FcntlInt(uintptr(fd), unix.F_GETFL, 0)
	return err == nil && unix.Fstat(fd, &stat) == nil && stat.Mode&unix.S_IFMT == unix.S_IFCHR &&
		stat.Rdev == unix.Mkdev(1, 3) && flags&unix.O_ACCMODE == unix.O_RDWR && flags&unix.O_CLOEXEC == 0
}

//go:build unix

package files

import (
	"io/fs"
	"os"
	"syscall"
)

// keepOwner gives a file the owner and the group of another, and reports
// whether it has them.
func keepOwner(f *os.File, like fs.FileInfo) bool {
	want, ok := like.Sys().(*syscall.Stat_t)
	info, err := f.Stat()
	if !ok || err != nil {
		return true
	}
	have, ok := info.Sys().(*syscall.Stat_t)
	if !ok || have.Uid == want.Uid && have.Gid == want.Gid {
		return true
	}
	return f.Chown(int(want.Uid), int(want.Gid)) == nil
}

// names returns how many names (hard links) a file has.
func names(info fs.FileInfo) int {
	if stat, ok := info.Sys().(*syscall.Stat_t); ok {
		return int(stat.Nlink)
	}
	return 1
}

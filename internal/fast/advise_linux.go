package fast

import "syscall"

// advise asks for huge pages. Where the kernel has none, nothing is lost.
func advise(start, size uintptr) {
	_, _, _ = syscall.RawSyscall(syscall.SYS_MADVISE, start, size, 14) // MADV_HUGEPAGE
}

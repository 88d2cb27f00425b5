//go:build unix

package store

import "syscall"

// Room is how many bytes the disk that a folder is on has room for; 0 where that is not known.
func Room(folder string) int64 {
	var s syscall.Statfs_t
	if syscall.Statfs(folder, &s) != nil {
		return 0
	}
	return int64(s.Bavail) * int64(s.Bsize)
}

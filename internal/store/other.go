//go:build !unix

package store

// Lock makes a data folder this process's own; here there is no way to.
func Lock(folder string) (release func() error, err error) {
	return func() error { return nil }, makeFolder(folder)
}

// Room is how many bytes the disk that a folder is on has room for; here that is not known.
func Room(string) int64 { return 0 }

//go:build unix

package store

import (
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"syscall"
)

// Lock makes a data folder this process's own, until it is released or the process ends,
// however that happens. Two servers on one folder would each overwrite what the other holds
// in memory.
func Lock(folder string) (release func() error, err error) {
	if err := makeFolder(folder); err != nil {
		return nil, err
	}
	file, err := os.OpenFile(filepath.Join(folder, "jantrel.lock"), os.O_CREATE|os.O_RDWR, 0o600)
	if err != nil {
		return nil, fmt.Errorf("the data folder %s cannot be written: %w", folder, err)
	}
	if err := syscall.Flock(int(file.Fd()), syscall.LOCK_EX|syscall.LOCK_NB); err != nil {
		_ = file.Close()
		if errors.Is(err, syscall.EWOULDBLOCK) {
			return nil, fmt.Errorf("another server runs on the data folder %s; stop it first, or choose another folder with --data", folder)
		}
		return nil, fmt.Errorf("the data folder %s cannot be locked: %w", folder, err)
	}
	return file.Close, nil
}

package journal

import "errors"

// Fault is an error of the database itself, and nothing that somebody asked for: its text
// is for the log.
type Fault struct{ Err error }

func (f *Fault) Error() string { return "the database: " + f.Err.Error() }

// Unwrap returns what the database said.
func (f *Fault) Unwrap() error { return f.Err }

// Full reports whether the disk has no room: nothing can be written until it has, and all
// that is stored can be read.
func (f *Fault) Full() bool { return f.code() == full }

// What SQLite says.
const (
	busy = 5
	full = 13
)

// code is which of these it is, or another.
func (f *Fault) code() int {
	var of interface{ Code() int }
	if !errors.As(f.Err, &of) {
		return 0
	}
	return of.Code() & 0xff
}

// IsBusy reports whether another process has the database locked: it cannot be written for a moment.
func IsBusy(err error) bool {
	var f *Fault
	return errors.As(err, &f) && f.code() == busy
}

// IsFull reports whether an error is that the disk has no room.
func IsFull(err error) bool {
	var f *Fault
	return errors.As(err, &f) && f.Full()
}

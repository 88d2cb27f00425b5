//go:build memory

package live_test

import (
	"sync"
	"testing"

	"jantrel/internal/live"
	"jantrel/internal/store/memory"
)

var kept sync.Map // by folder

// keep returns what is kept in the name of a folder: the next who asks for that finds it there.
func keep(_ testing.TB, folder string) live.Store {
	s, _ := kept.LoadOrStore(folder, memory.New())
	return s.(*memory.Store)
}

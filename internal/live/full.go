package live

import (
	"context"
	"sync"
	"time"

	"jantrel/internal/journal"
)

// fullness is whether the disk had room when something was last written.
type fullness struct {
	mu   sync.Mutex
	full bool
	at   time.Time
}

func (f *fullness) note(full bool, at time.Time) {
	f.mu.Lock()
	defer f.mu.Unlock()
	f.full, f.at = full, at
}

// tryAgain is how often it is tried whether a full disk has room again.
const tryAgain = 3 * time.Second

// due reports whether the disk was full, and whether it is time to try again. Who is told so
// has to: others are not until then.
func (f *fullness) due(now time.Time) (full, due bool) {
	f.mu.Lock()
	defer f.mu.Unlock()
	if due = f.full && now.Sub(f.at) >= tryAgain; due {
		f.at = now
	}
	return f.full, due
}

// Full reports whether edits cannot be stored, as the disk is full. Once it was, asking tries
// again every few seconds.
func (h *Hub) Full(ctx context.Context) bool {
	full, due := h.full.due(h.clock())
	if !due {
		return full
	}
	full = journal.IsFull(h.store.Probe(context.WithoutCancel(ctx)))
	h.full.note(full, h.clock())
	return full
}

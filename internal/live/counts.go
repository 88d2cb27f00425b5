package live

import "sync/atomic"

type counters struct{ edits, changes, plays, released atomic.Int64 }

// Counts are what a hub has done since it was made, and what it holds at the moment.
type Counts struct {
	Edits, Changes, Plays int64
	Lines                 int   // in memory
	Listeners             int   // streams of events that are open
	Waiting               int   // answers that wait for their turn
	Released              int64 // lines that were taken out of memory, as nobody used them
	Cached                int64 // bytes of what is in memory and can be made again, about
}

// Counts returns them.
func (h *Hub) Counts() Counts {
	c := Counts{Edits: h.counts.edits.Load(), Changes: h.counts.changes.Load(), Plays: h.counts.plays.Load(), Waiting: h.shares.waiting(), Released: h.counts.released.Load(), Cached: h.budget.taken()}
	h.mu.Lock()
	defer h.mu.Unlock()
	for _, in := range []map[int64]*opening{h.lives, h.scenarios} {
		for _, o := range in {
			select {
			case <-o.done:
				if o.line == nil {
					continue
				}
				c.Lines++
				o.line.listening.Lock()
				c.Listeners += len(o.line.subscribers)
				o.line.listening.Unlock()
			default: // being loaded
			}
		}
	}
	return c
}

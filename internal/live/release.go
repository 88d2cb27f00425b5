package live

import (
	"context"
	"time"
)

// Limits of lines in memory.
const (
	idleTime = 5 * time.Minute // that a line stays after somebody last read, edited or listened to it
	idleLook = time.Minute     // how often it is looked for lines that may go
)

// take notes that somebody has a line until their context ends.
func (h *Hub) take(ctx context.Context, o *opening) {
	h.mu.Lock()
	o.users++
	o.used = time.Now()
	c := o.cached
	h.mu.Unlock()
	h.budget.use(c)
	context.AfterFunc(ctx, func() {
		h.mu.Lock()
		o.users--
		o.used = time.Now()
		h.mu.Unlock()
		h.budget.makeRoom(nil) // it may go now
	})
}

// weighed has the budget know of a line that was loaded, and looks for idle ones from then on.
func (h *Hub) weighed(o *opening, in map[int64]*opening, id int64) {
	c := h.budget.add(weighState(o.line.state.Load()), func() bool { return h.release(in, id, o) })
	h.mu.Lock()
	defer h.mu.Unlock()
	if o.cached = c; in[id] != o { // deleted, or closed, meanwhile
		h.budget.forget(c)
	}
	h.lookSoon()
}

// lookSoon has idle lines looked for in a while. The caller holds the lock.
func (h *Hub) lookSoon() {
	if h.looking == nil && !h.closed {
		h.looking = time.AfterFunc(idleLook, h.releaseIdle)
	}
}

// releaseIdle releases the lines that nobody has used for long enough.
func (h *Hub) releaseIdle() {
	type idle struct {
		in map[int64]*opening
		id int64
		o  *opening
	}
	var found []idle
	h.mu.Lock()
	h.looking = nil
	for _, in := range []map[int64]*opening{h.lives, h.scenarios} {
		for id, o := range in {
			if o.users == 0 && o.cached != nil && time.Since(o.used) >= idleTime {
				found = append(found, idle{in, id, o})
			}
		}
	}
	h.mu.Unlock()
	for _, i := range found {
		if h.release(i.in, i.id, i.o) {
			h.budget.forget(i.o.cached)
		}
	}
	h.mu.Lock()
	defer h.mu.Unlock()
	if len(h.lives)+len(h.scenarios) > 0 {
		h.lookSoon()
	}
}

// release takes a line out of memory, unless somebody has it. All of it is stored: the next who asks loads it again.
func (h *Hub) release(in map[int64]*opening, id int64, o *opening) bool {
	h.mu.Lock()
	defer h.mu.Unlock()
	if in[id] != o {
		return true // it has gone already
	}
	if o.users > 0 || !o.line.leave() {
		return false
	}
	delete(in, id)
	h.counts.released.Add(1)
	return true
}

// leave ends a line that nobody has, unless something is being written to it: whoever still holds it can only read.
func (l *Line) leave() bool {
	select {
	case l.writing <- struct{}{}:
		defer l.writing.Unlock()
	default:
		return false
	}
	l.gone = true
	b := &l.hub.budget
	l.state.Load().answers.retire(b)
	l.past.drop(b, func(*State) bool { return true })
	return true
}

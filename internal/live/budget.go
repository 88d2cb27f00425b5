package live

import (
	"container/list"
	"sync"
)

// budget is how much memory may be taken by what can be made again: lines, their states of the past, and answers. What was
// not used for the longest goes first.
type budget struct {
	mu    sync.Mutex
	most  int64 // bytes
	used  int64
	order list.List // of *cached, the last used one first
}

// cached is something that can be made again.
type cached struct {
	size int64
	drop func() bool   // forgets it; false where it is in use
	at   *list.Element // nil: it is not counted any more
}

// usualMemory is what a server may take where nobody says anything else.
const usualMemory = 400 << 20

// ofMemory is the share of a server's memory that is for what can be made again: the rest is for making it, and for what
// the garbage collector has not got to yet.
func ofMemory(bytes int64) int64 { return bytes * 2 / 5 }

// add counts something of so many bytes, and forgets others until there is room. drop is called when its turn comes, with
// no lock of the budget held; it is not to call add.
func (b *budget) add(size int64, drop func() bool) *cached {
	c := &cached{size: size, drop: drop}
	b.mu.Lock()
	c.at = b.order.PushFront(c)
	b.used += size
	b.mu.Unlock()
	b.makeRoom(c)
	return c
}

// use notes that something was used.
func (b *budget) use(c *cached) {
	b.mu.Lock()
	defer b.mu.Unlock()
	if c != nil && c.at != nil {
		b.order.MoveToFront(c.at)
	}
}

// forget counts something no more.
func (b *budget) forget(c *cached) {
	b.mu.Lock()
	defer b.mu.Unlock()
	if c != nil {
		b.take(c)
	}
}

// taken is how many bytes are counted.
func (b *budget) taken() int64 {
	b.mu.Lock()
	defer b.mu.Unlock()
	return b.used
}

// take takes something out; the caller holds the lock.
func (b *budget) take(c *cached) {
	if c.at != nil {
		b.order.Remove(c.at)
		b.used -= c.size
		c.at = nil
	}
}

// makeRoom forgets what was not used for the longest, but not what has just come. Each is asked once.
func (b *budget) makeRoom(but *cached) {
	b.mu.Lock()
	defer b.mu.Unlock()
	for tries := b.order.Len(); tries > 0 && b.used > b.most; tries-- {
		c := b.order.Back().Value.(*cached)
		if c == but {
			b.order.MoveToFront(c.at)
			continue
		}
		b.take(c)
		b.mu.Unlock()
		dropped := c.drop()
		b.mu.Lock()
		if !dropped { // in use: it counts as used
			c.at = b.order.PushFront(c)
			b.used += c.size
		}
	}
}

// Limit sets how many bytes the server may take, of which a share is for what can be made again.
func (h *Hub) Limit(bytes int64) {
	h.budget.mu.Lock()
	h.budget.most = ofMemory(bytes)
	h.budget.mu.Unlock()
	h.budget.makeRoom(nil)
}

package forecast

import (
	"sync"
	"sync/atomic"
)

// Deck keeps what luck dealt: games with the same seed and as many plays, as before and after an edit or one day
// after another, are dealt mostly the same. Any number of games may share one, at the same time too.
//
// It holds some 32 MB; when that is full it starts anew. A hand that is there costs a play two reads of memory
// instead of a permutation.
type Deck struct {
	mu    sync.Mutex
	hands map[dealt]*hand
	held  *atomic.Int64 // bytes, by the hands that are in it
}

// dealt names a hand.
type dealt struct {
	luck luck
	key  uint64
	n    int
}

// What a deck holds at most.
const (
	deckHolds  = 32 << 20 // bytes; what games under way use stays with them
	mostKept   = 1 << 14  // plays of which it keeps what it dealt
	mostPicked = 1 << 8   // and numbers that are picked from
	handSize   = 256      // bytes of a hand of which nothing was dealt yet, about, with its place in the deck
)

// NewDeck is a deck of which nothing is dealt.
func NewDeck() *Deck { return &Deck{hands: map[dealt]*hand{}, held: new(atomic.Int64)} }

// hand deals of the luck of one thing what it picks below n in each play.
func (d *Deck) hand(of lot, n int) *hand {
	d.mu.Lock()
	defer d.mu.Unlock()
	name := dealt{of.luck, of.key, n}
	if h, ok := d.hands[name]; ok {
		return h
	}
	if d.held.Load() > deckHolds {
		d.hands, d.held = map[dealt]*hand{}, new(atomic.Int64)
	}
	h := &hand{lot: of.tabled(), n: n, held: d.held}
	size := handSize + len(h.table)*2
	if n <= mostPicked && of.plays <= mostKept {
		h.parts = make([]atomic.Pointer[part], (of.plays+partOf-1)/partOf)
		size += len(h.parts) * 8
	}
	d.held.Add(int64(size))
	d.hands[name] = h
	return h
}

// partOf is how many plays are dealt at once: one is asked for, the ones beside it will be.
const partOf = 512

type part [partOf]uint8

// hand is what the luck of one thing picks in each play: dealt in parts, when one is first asked for.
type hand struct {
	lot
	n     int
	parts []atomic.Pointer[part] // nil: it is too large to be kept
	held  *atomic.Int64
}

// pick is what lot.pick says of a play.
func (h *hand) pick(play uint64) int {
	if h.parts == nil {
		return h.lot.pick(play, h.n)
	}
	p := h.parts[play/partOf].Load()
	if p == nil {
		p = h.deal(play / partOf)
	}
	return int(p[play%partOf])
}

// deal deals a part. Two games may do so at once: they deal the same.
func (h *hand) deal(at uint64) *part {
	p := new(part)
	for i := range min(partOf, h.plays-at*partOf) {
		p[i] = uint8(h.lot.pick(at*partOf+i, h.n))
	}
	if h.parts[at].CompareAndSwap(nil, p) {
		h.held.Add(partOf)
	}
	return p
}

// Package live holds lines in memory: one writer and many readers each. What an edit
// means is planned on the line as it is, passes the gate, is stored with its journal,
// and is announced to subscribers; undo and redo go the same way.
package live

import (
	"context"
	"errors"
	"sync"
	"time"

	"jantrel/core/forecast"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/internal/journal"
)

// Hub holds the lines that are in use.
type Hub struct {
	store  Store
	clock  func() time.Time
	today  func() program.Date
	shares *shares        // of what is computed
	jobs   sync.WaitGroup // what goes on in the background
	deck   *forecast.Deck // of all forecasts

	budget budget // of what is in memory and can be made again

	checking sync.Mutex // of lines that were loaded: one at a time
	checked  sync.Map   // lines that were, by id

	counts counters
	full   fullness

	mu        sync.Mutex
	lives     map[int64]*opening // the live line of each program
	scenarios map[int64]*opening // others, by their own ids
	looking   *time.Timer        // for lines that nobody uses; nil: there is none
	closed    bool
}

// opening is a line that is in memory, or being loaded: whoever asks for it meanwhile
// waits for the same, and nobody else does. It stays as long as somebody uses it, and some time after.
type opening struct {
	done chan struct{}
	line *Line
	err  error

	users  int       // requests that have it, and are not over
	used   time.Time // when one last had it
	cached *cached
}

// NewHub makes a hub over a store. clock stamps journal entries; today is the
// day that plans are seen on.
func NewHub(s Store, clock func() time.Time, today func() program.Date) *Hub {
	return &Hub{store: s, clock: clock, today: today, shares: newShares(), deck: forecast.NewDeck(), lives: map[int64]*opening{}, scenarios: map[int64]*opening{}, budget: budget{most: ofMemory(usualMemory)}}
}

// Today is the day that plans are seen on.
func (h *Hub) Today() program.Date { return h.today() }

// Now is the time by the clock that stamps the journal.
func (h *Hub) Now() time.Time { return h.clock() }

// Store is where the hub keeps its lines.
func (h *Hub) Store() Store { return h.store }

// Open returns the live line of a program, loading it where it is not in memory yet. It is its caller's until ctx ends: one
// that nobody has for a while, or that was used the longest ago when memory runs short, is released.
func (h *Hub) Open(ctx context.Context, id int64) (*Line, error) {
	return h.open(ctx, h.lives, id, func() (journal.Line, error) { return h.store.Live(ctx, id) })
}

// OpenScenario returns a scenario of a program by the id of its line.
func (h *Hub) OpenScenario(ctx context.Context, id, line int64) (*Line, error) {
	l, err := h.open(ctx, h.scenarios, line, func() (journal.Line, error) {
		found, err := h.store.Line(ctx, line)
		if err == nil && found.Base == nil {
			err = journal.ErrNotFound
		}
		return found, err
	})
	if err == nil && l.program != id {
		return nil, journal.ErrNotFound
	}
	return l, err
}

func (h *Hub) open(ctx context.Context, in map[int64]*opening, id int64, find func() (journal.Line, error)) (*Line, error) {
	h.mu.Lock()
	o, there := in[id]
	if !there {
		o = &opening{done: make(chan struct{})}
		in[id] = o
	}
	h.mu.Unlock()
	h.take(ctx, o)
	if !there {
		o.line, o.err = h.load(ctx, find)
		if o.err != nil {
			h.mu.Lock()
			delete(in, id) // the next who asks tries again
			h.mu.Unlock()
		}
		close(o.done)
		if o.err == nil {
			h.weighed(o, in, id)
		}
		return o.line, o.err
	}
	select {
	case <-o.done:
	case <-ctx.Done():
		return nil, ctx.Err()
	}
	if errors.Is(o.err, context.Canceled) && ctx.Err() == nil { // who loaded it hung up
		return h.open(ctx, in, id, find)
	}
	return o.line, o.err
}

func (h *Hub) load(ctx context.Context, find func() (journal.Line, error)) (*Line, error) {
	found, err := find()
	if err != nil {
		return nil, err
	}
	l, err := h.asItIs(ctx, found)
	if err == nil {
		l.keep(ctx)
	}
	return l, err
}

// asItIs loads a line, and makes nothing of it.
func (h *Hub) asItIs(ctx context.Context, found journal.Line) (*Line, error) {
	l := &Line{hub: h, id: found.ID, program: found.Program, live: found.Base == nil, writing: make(turn, 1), subscribers: map[chan Update]bool{}, histories: map[string]*history{}}
	if !l.live {
		resolved, err := h.scenarioPlan(ctx, found)
		if err == nil {
			l.begin = *found.BaseRevision
			l.state.Store(newState(resolved, found.Revision, h.today()))
		}
		return l, err
	}
	p, revision, err := h.store.Load(ctx, found.ID)
	if err != nil {
		return nil, err
	}
	gone, err := h.store.GoneItems(ctx, found.ID)
	if err != nil {
		return nil, err
	}
	resolved := plan.Of(p)
	resolved.Without(gone)
	l.state.Store(newState(resolved, revision, h.today()))
	l.checkSoon(ctx, p, revision)
	return l, nil
}

// Create stores a new program. It is refused with program.Problems if it breaks
// a rule. Comments in it are nobody's here: the accounts are another server's.
func (h *Hub) Create(ctx context.Context, p program.Program) (int64, error) {
	if problems := program.Validate(p); len(problems) > 0 {
		return 0, problems
	}
	return h.store.Create(ctx, p.WithoutAuthors())
}

// Delete removes a program for good, with its scenarios, and ends their subscriptions.
func (h *Hub) Delete(ctx context.Context, id int64) error {
	lines, err := h.store.Lines(ctx, id)
	if err != nil {
		return err
	}
	if err := h.store.Delete(ctx, id); err != nil {
		return err
	}
	h.end(h.lives, id)
	for _, line := range lines {
		h.end(h.scenarios, line.ID)
	}
	return nil
}

// end forgets a line that has been deleted, and ends its subscriptions.
func (h *Hub) end(in map[int64]*opening, key int64) {
	h.mu.Lock()
	defer h.mu.Unlock()
	if o := in[key]; o != nil {
		delete(in, key)
		h.budget.forget(o.cached)
		go func() { // one that is being loaded ends when it is
			<-o.done
			if o.line != nil {
				o.line.close()
			}
		}()
	}
}

// Close ends all subscriptions, so that a server can shut down, and waits for what goes
// on in the background.
func (h *Hub) Close() {
	h.mu.Lock()
	h.closed = true
	if h.looking != nil {
		h.looking.Stop()
	}
	for _, in := range []map[int64]*opening{h.lives, h.scenarios} {
		for _, o := range in {
			select {
			case <-o.done:
				if o.line != nil {
					o.line.close()
				}
			default: // being loaded: nobody has subscribed yet
			}
		}
	}
	h.mu.Unlock()
	h.jobs.Wait()
}

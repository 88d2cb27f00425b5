package live

import (
	"context"
	"errors"
	"slices"
	"sync"
	"sync/atomic"
	"time"

	"jantrel/core/act"
	"jantrel/core/backlog"
	"jantrel/core/calendar"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/standing"
	"jantrel/internal/journal"
)

// Line is a line in memory.
type Line struct {
	hub     *Hub
	id      int64
	program int64
	live    bool  // the live plan; else a scenario
	frozen  bool  // as it was once: it is read, and nothing else
	begin   int64 // of a scenario: the revision of the live plan that it began with
	state   atomic.Pointer[State]

	writing   turn // of the one writer
	gone      bool // it was released, as nobody used it: another one is the program's. Set within the turn
	histories map[string]*history
	recent    []journal.Edit // the newest edits, oldest first
	explained atomic.Int64   // how often reasons were given for edits
	unchecked int            // changes since the last checkpoint that this server made

	listening   sync.Mutex
	subscribers map[chan Update]bool
	closed      bool

	undid   undoings
	past    pastStates
	landing landings
	scopes  scopes
	sizes   sizes
	tracked tracked

	reckoning reckoning
	looked    looked
	drawn     drawnDays
}

// State is a line at one revision, with what is known of it on a day. It is never
// altered.
type State struct {
	*plan.Plan
	Revision int64
	Today    program.Date
	Facts    standing.Facts

	promised promised

	indexing sync.Once
	index    *backlog.Index
	answers  answers
	searches searches
}

func newState(p *plan.Plan, revision int64, today program.Date) *State {
	return &State{Plan: p, Revision: revision, Today: today, Facts: standing.Of(p, today)}
}

// Index returns the index that lists are made from. It is made when it is first
// asked for.
func (s *State) Index() *backlog.Index {
	s.indexing.Do(func() { s.index = backlog.NewIndex(s.Plan, backlog.Options{Today: s.Today}) })
	return s.index
}

// Acting is the state as intents are planned on.
func (s *State) Acting() act.State { return act.State{Plan: s.Plan, Today: s.Today, Index: s.Index} }

// State returns the line as it is now.
func (l *Line) State() *State {
	state := l.state.Load()
	if today := l.hub.today(); today != state.Today && !l.frozen { // midnight went by
		l.writing.Lock()
		defer l.writing.Unlock()
		state = l.state.Load()
		if today != state.Today {
			l.state.Store(newState(state.Plan, state.Revision, today))
			state.answers.retire(&l.hub.budget)
			l.keep(context.Background())
			state = l.state.Load()
		}
	}
	return state
}

// Index is State.Index that also knows when each item was last changed.
func (l *Line) Index(ctx context.Context, s *State) (*backlog.Index, error) {
	without, err := l.without(ctx, s.Revision)
	if err != nil {
		return nil, err
	}
	last, err := l.hub.store.LastChanges(ctx, l.id, s.Revision, without)
	if err != nil {
		return nil, err
	}
	return s.Index().With(backlog.Options{Today: s.Today, Clock: calendar.OfTime(l.hub.clock()), Changed: datesOf(last)}), nil
}

func datesOf(times map[string]time.Time) map[string]program.Date {
	dates := make(map[string]program.Date, len(times))
	for key, at := range times {
		dates[key] = calendar.OfTime(at)
	}
	return dates
}

// Update tells what an edit changed: from one revision to the next.
type Update struct {
	From     int64            `json:"from"`
	Revision int64            `json:"revision"`
	At       time.Time        `json:"at"`
	Actor    string           `json:"actor"`
	Client   string           `json:"client"`
	Label    string           `json:"label"`
	Changes  []program.Change `json:"changes"`
	Facts    standing.Facts   `json:"facts" doc:"Only the entries that differ; counts are whole"`
	Why      []string         `json:"why,omitempty" doc:"Items by which it changed the scope of what has begun, the first 20: its author is to be asked for a reason"`
}

// Subscribe returns a channel of updates and a function that ends it. The
// channel is closed when the line goes, or when its reader falls far behind:
// it then has to load the program again.
func (l *Line) Subscribe() (<-chan Update, func()) {
	l.listening.Lock()
	defer l.listening.Unlock()
	updates := make(chan Update, 256)
	if l.closed || l.frozen { // nothing will come
		close(updates)
		return updates, func() {}
	}
	l.subscribers[updates] = true
	return updates, func() {
		l.listening.Lock()
		defer l.listening.Unlock()
		l.drop(updates)
	}
}

// drop ends a subscription. The caller holds the listening lock.
func (l *Line) drop(updates chan Update) {
	if l.subscribers[updates] {
		delete(l.subscribers, updates)
		close(updates)
	}
}

func (l *Line) announce(u Update) {
	l.listening.Lock()
	defer l.listening.Unlock()
	for updates := range l.subscribers {
		select {
		case updates <- u:
		default:
			l.drop(updates)
		}
	}
}

func (l *Line) close() {
	l.listening.Lock()
	defer l.listening.Unlock()
	l.closed = true
	for updates := range l.subscribers {
		l.drop(updates)
	}
}

// Journal returns those edits before a revision (0: the newest) that are looked for, newest first.
func (l *Line) Journal(ctx context.Context, before int64, limit int, sought journal.Sought) ([]journal.Edit, error) {
	if l.frozen && (before <= 0 || before > l.now()) {
		before = l.now() + 1
	}
	return l.hub.store.LatestEdits(ctx, l.id, before, limit, sought)
}

// journalPage is how many edits are read at once where all of them are told.
const journalPage = 200

// ErrManyEdits says that these are more changes than are told at once.
var ErrManyEdits = errors.New("these are more changes than one file holds; choose fewer days")

// Edits tells the edits that are looked for, the oldest first: of so many changes at most, else none and ErrManyEdits.
func (l *Line) Edits(ctx context.Context, sought journal.Sought, most int, tell func(*journal.Edit) error) error {
	var all []journal.Edit
	changes := 0
	for before := int64(0); ; {
		page, err := l.Journal(ctx, before, journalPage, sought)
		if err != nil {
			return err
		}
		for i := range page {
			changes += len(page[i].Changes)
		}
		if changes > most {
			return ErrManyEdits
		}
		if all = append(all, page...); len(page) < journalPage {
			break
		}
		before = page[len(page)-1].Revision
	}
	for i := len(all) - 1; i >= 0; i-- {
		if err := tell(&all[i]); err != nil {
			return err
		}
	}
	return ctx.Err()
}

// Folded is Journal, without the edits that took back others whole; those say by which one they were undone.
func (l *Line) Folded(ctx context.Context, before int64, limit int, sought journal.Sought) ([]journal.Edit, map[int64]int64, error) {
	undone, err := l.undone(ctx, l.now())
	if err != nil {
		return nil, nil, err
	}
	for revision, by := range undone {
		if revision == by {
			sought.Without = append(sought.Without, revision)
		}
	}
	edits, err := l.Journal(ctx, before, limit, sought)
	return edits, undone, err
}

// LastSet returns the edit that gave a field of a thing its value, and whether
// the journal has one: what came with the program has none.
func (l *Line) LastSet(ctx context.Context, ref program.Ref, field string) (journal.Edit, bool, error) {
	without, err := l.without(ctx, l.now())
	if err != nil {
		return journal.Edit{}, false, err
	}
	return l.hub.store.LastSet(ctx, l.id, l.now(), without, ref, field)
}

// LastWords returns who said the last word on each need up to a state.
func (l *Line) LastWords(ctx context.Context, s *State) ([]journal.Word, error) {
	without, err := l.without(ctx, s.Revision)
	if err != nil {
		return nil, err
	}
	return l.hub.store.LastWords(ctx, l.id, s.Revision, without)
}

// HistoryOf returns the edits that changed a thing, of an item also its needs and what was said
// about it, newest first, each with these changes alone.
func (l *Line) HistoryOf(ctx context.Context, of program.Ref, limit int) ([]journal.Edit, error) {
	return l.hub.store.EditsOf(ctx, l.id, l.now(), of, limit)
}

// FoldedOf is HistoryOf as Folded has it.
func (l *Line) FoldedOf(ctx context.Context, of program.Ref, limit int) ([]journal.Edit, map[int64]int64, error) {
	undone, err := l.undone(ctx, l.now())
	if err != nil {
		return nil, nil, err
	}
	edits, err := l.HistoryOf(ctx, of, limit)
	return slices.DeleteFunc(edits, func(e journal.Edit) bool { return undone[e.Revision] == e.Revision }), undone, err
}

// now is the line's newest revision; of one that is frozen, the one that it is seen at.
func (l *Line) now() int64 { return l.state.Load().Revision }

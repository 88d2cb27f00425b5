package live

import (
	"context"
	"fmt"
	"log/slog"
	"slices"
	"sync"
	"time"

	"jantrel/core/calendar"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/internal/journal"
)

// The past of a line: it is never written to. From the nearest checkpoint, or from the
// line as it is now, the journal leads to any revision, forth or back.

const (
	betweenCheckpoints = 4000 // changes after which a line is kept as it is
	stretch            = 400  // revisions that are read at once
	pastKept           = 4    // states of the past that stay in memory
)

// pastStates are the states of the past that were last asked for, and the lines as they were then.
type pastStates struct {
	mu     sync.Mutex
	states []pastState
	lines  []*Line
}

type pastState struct {
	*State
	cached *cached
}

// Frozen is the line as it was at one of its states: all that can be asked of a line can be asked of it, as it would have
// been answered then, and nothing is changed.
func (l *Line) Frozen(s *State) *Line {
	l.past.mu.Lock()
	defer l.past.mu.Unlock()
	for _, frozen := range l.past.lines {
		if frozen.state.Load() == s {
			return frozen
		}
	}
	frozen := &Line{hub: l.hub, id: l.id, program: l.program, live: l.live, begin: l.begin, frozen: true, writing: make(turn, 1), subscribers: map[chan Update]bool{}, histories: map[string]*history{}}
	frozen.state.Store(s)
	l.past.lines = append(l.past.lines, frozen)
	l.past.lines = l.past.lines[max(0, len(l.past.lines)-pastKept):]
	return frozen
}

func (p *pastStates) find(revision int64, today program.Date) *State {
	p.mu.Lock()
	defer p.mu.Unlock()
	for _, s := range p.states {
		if s.Revision == revision && s.Today == today {
			return s.State
		}
	}
	return nil
}

// keep keeps a state as long as there is room for it, and those asked for later are few.
func (p *pastStates) keep(b *budget, s *State) {
	p.mu.Lock()
	p.states = append(p.states, pastState{State: s})
	var oldest *State
	if len(p.states) > pastKept {
		oldest = p.states[0].State
	}
	p.mu.Unlock()
	p.drop(b, func(o *State) bool { return o == oldest })
	c := b.add(weighState(s), func() bool { p.drop(b, func(o *State) bool { return o == s }); return true })
	p.mu.Lock()
	defer p.mu.Unlock()
	at := slices.IndexFunc(p.states, func(o pastState) bool { return o.State == s })
	if at < 0 { // it has gone again
		b.forget(c)
		return
	}
	p.states[at].cached = c
}

// drop forgets some states, with what was asked of them.
func (p *pastStates) drop(b *budget, which func(*State) bool) {
	p.mu.Lock()
	defer p.mu.Unlock()
	p.states = slices.DeleteFunc(p.states, func(s pastState) bool {
		if !which(s.State) {
			return false
		}
		b.forget(s.cached)
		s.answers.retire(b)
		return true
	})
	p.lines = slices.DeleteFunc(p.lines, func(l *Line) bool { return which(l.state.Load()) })
}

// At returns the line as it was at a revision, seen on the day on which that was made.
func (l *Line) At(ctx context.Context, revision int64) (*State, error) {
	now := l.State()
	if revision == now.Revision {
		return now, nil
	}
	if l.frozen && revision > now.Revision {
		return nil, journal.ErrNotFound // what came later is not known then
	}
	at, made, err := l.hub.store.MadeAt(ctx, l.id, max(revision, 1)) // what it began with: the day of its first edit
	if err != nil {
		return nil, err
	}
	if !made || revision < 0 {
		return nil, journal.ErrNotFound
	}
	return l.seen(ctx, revision, calendar.OfTime(at))
}

// AsOf returns the line as it was at a time, seen on that day.
func (l *Line) AsOf(ctx context.Context, at time.Time) (*State, error) {
	revision, err := l.hub.store.RevisionAt(ctx, l.id, at)
	if err != nil {
		return nil, err
	}
	return l.seen(ctx, revision, calendar.OfTime(at))
}

// SeenOn returns the line as it was at a revision, seen on a day.
func (l *Line) SeenOn(ctx context.Context, revision int64, day program.Date) (*State, error) {
	if revision < 0 || revision > l.now() {
		return nil, journal.ErrNotFound
	}
	return l.seen(ctx, revision, day)
}

// EndOf returns the line as it was at the end of a day, seen on that day; false where the journal began later.
func (l *Line) EndOf(ctx context.Context, day program.Date) (*State, bool, error) {
	revision, there, err := l.endOf(ctx, day)
	if err != nil || !there {
		return nil, false, err
	}
	state, err := l.seen(ctx, revision, day)
	return state, err == nil, err
}

// endOf is the revision of the line at the end of a day; false where the journal began later.
func (l *Line) endOf(ctx context.Context, day program.Date) (int64, bool, error) {
	end := l.Midnight(day.Add(1)).Add(-time.Nanosecond)
	began, err := l.began(ctx)
	if err != nil || end.Before(began) {
		return 0, false, err
	}
	revision, err := l.hub.store.RevisionAt(ctx, l.id, end)
	return revision, err == nil, err
}

type inTurnKey struct{}

// InTurn is a context in which a state of the past that is not there yet is worked out when it is the asker's turn, as
// answers are. It is for who asks from outside: what computes an answer has its turn already.
func InTurn(ctx context.Context) context.Context {
	return context.WithValue(ctx, inTurnKey{}, true)
}

func (l *Line) seen(ctx context.Context, revision int64, today program.Date) (state *State, err error) {
	if state = l.past.find(revision, today); state != nil {
		return state, nil
	}
	look := func() error {
		if state = l.past.find(revision, today); state != nil { // others asked for it meanwhile
			return nil
		}
		p, err := l.programAt(ctx, revision)
		if err != nil {
			return err
		}
		state = newState(plan.Of(p), revision, today)
		l.past.keep(&l.hub.budget, state)
		return nil
	}
	if ctx.Value(inTurnKey{}) == nil {
		err = look()
	} else {
		err = l.computing(ctx, false, look)
	}
	return state, err
}

// programAt is the program at a revision. It takes no lock: the journal up to now stands
// fast. Where the way is long, it leaves checkpoints behind for those who come after.
func (l *Line) programAt(ctx context.Context, revision int64) (program.Program, error) {
	from, err := l.nearest(ctx, revision)
	if err != nil {
		return program.Program{}, err
	}
	return l.programFrom(ctx, from, revision)
}

// programFrom is programAt, from where one is already.
func (l *Line) programFrom(ctx context.Context, from journal.Checkpoint, revision int64) (program.Program, error) {
	for walked := 0; from.Revision != revision; {
		edits, err := l.stretch(ctx, from.Revision, revision)
		if err != nil {
			return program.Program{}, err
		}
		var changes []program.Applied
		for _, e := range edits {
			changes = append(changes, e.Changes...)
		}
		if from.Revision < revision {
			from.Program, err = program.Replay(from.Program, changes)
			from.Revision = edits[len(edits)-1].Revision
		} else {
			from.Program, err = program.Rewind(from.Program, changes)
			from.Revision = edits[0].Revision - 1
		}
		if err != nil {
			return program.Program{}, err
		}
		if walked += len(changes); walked >= betweenCheckpoints && from.Revision != revision {
			walked = 0
			if err := l.hub.store.SaveCheckpoint(ctx, l.id, from); err != nil {
				return program.Program{}, err
			}
		}
	}
	return from.Program, nil
}

// walk goes through the past of a line from revision to revision: from one to the next the way is shorter than from
// anywhere else.
type walk struct {
	line *Line
	asOf int64 // without what was undone later, up to this revision; 0: as it was
	at   journal.Checkpoint
	plan *plan.Plan // of that revision; nil: it has not begun
}

// to is the plan at a revision, the same one where it is that already.
func (w *walk) to(ctx context.Context, revision int64) (*plan.Plan, error) {
	if w.plan != nil && w.at.Revision == revision {
		return w.plan, nil
	}
	var p program.Program
	var err error
	if w.plan == nil {
		p, err = w.line.programAt(ctx, revision)
	} else {
		p, err = w.line.programFrom(ctx, w.at, revision)
	}
	if err != nil {
		return nil, err
	}
	w.at = journal.Checkpoint{Revision: revision, Program: p}
	if w.asOf > 0 {
		if p, err = w.line.unwound(ctx, w.at, w.asOf); err != nil {
			return nil, err
		}
	}
	w.plan = plan.Of(p)
	return w.plan, nil
}

// nearest is what to go from to a revision: the checkpoint before it, the one after it, or
// the line as it is now, from whichever the fewest changes lead there.
func (l *Line) nearest(ctx context.Context, revision int64) (journal.Checkpoint, error) {
	now := l.state.Load()
	best := journal.Checkpoint{Revision: now.Revision, Program: now.Program}
	fewest, err := l.hub.store.CountChanges(ctx, l.id, revision, now.Revision)
	if err != nil {
		return best, err
	}
	kept, err := l.hub.store.Checkpoints(ctx, l.id)
	if err != nil {
		return best, err
	}
	i, _ := slices.BinarySearch(kept, revision)
	for _, at := range kept[max(0, i-1):min(len(kept), i+1)] {
		changes, err := l.hub.store.CountChanges(ctx, l.id, min(at, revision), max(at, revision))
		if err != nil {
			return best, err
		}
		if changes < fewest {
			fewest, best = changes, journal.Checkpoint{Revision: at}
		}
	}
	if best.Revision == now.Revision {
		return best, nil
	}
	return l.hub.store.LoadCheckpoint(ctx, l.id, best.Revision)
}

// stretch reads the next edits on the way from one revision to another, oldest first.
func (l *Line) stretch(ctx context.Context, from, to int64) ([]journal.Edit, error) {
	after, upTo := from, min(to, from+stretch)
	if from > to {
		after, upTo = max(to, from-stretch), from
	}
	edits, err := l.hub.store.EditsBetween(ctx, l.id, after, upTo)
	if err == nil && int64(len(edits)) != upTo-after {
		err = fmt.Errorf("the journal of line %d lacks edits between revisions %d and %d", l.id, after, upTo)
	}
	return edits, err
}

// checkpoint keeps the line as it is, in the background, when enough has changed since it
// was last kept. The caller holds the writer's turn.
func (l *Line) checkpoint(state *State, changes int) {
	if l.unchecked += changes; l.unchecked < betweenCheckpoints {
		return
	}
	l.unchecked = 0
	l.hub.jobs.Go(func() {
		if err := l.hub.store.SaveCheckpoint(context.Background(), l.id, journal.Checkpoint{Revision: state.Revision, Program: state.Program}); err != nil {
			slog.Error("keeping a checkpoint", "line", l.id, "revision", state.Revision, "error", err) // the journal has it all
		}
	})
}

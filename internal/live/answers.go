package live

import (
	"context"
	"errors"
	"log/slog"
	"runtime"
	"runtime/debug"
	"slices"
	"sync"
	"time"

	"jantrel/core/forecast"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// answers are what was computed of a state, by question: whoever asks the same gets the
// same answer, and it is computed once. They go with the state.
type answers struct {
	mu      sync.Mutex
	open    map[string]*answer
	kept    []string // questions that were answered, oldest first
	retired bool     // the state is of the past: what is answered now is nobody's to keep
}

// Limits of answers.
const (
	maxKept    = 60               // that a state remembers
	answerTime = 45 * time.Second // that one may take, once it is its turn
)

// Errors of answers that are not computed.
var (
	ErrBusy    = errors.New("the server has much to compute at the moment; ask again in a few seconds")
	ErrBroken  = errors.New("this could not be worked out: it is a fault of the program, and its log says which")
	ErrTooLong = errors.New("this takes too long to compute; ask for less at once")
)

type answer struct {
	done    chan struct{}
	value   any
	err     error
	waiting int
	cancel  context.CancelFunc
	place   *place
	cached  *cached // once it is there
}

// Answer returns what ask makes of a state of the line, computing it once for each
// question, however many ask at the same time. Few at once are computed, shared out fairly among those who ask, and few
// wait for that: others meet ErrBusy. One that nobody waits for any more is cancelled, and forgotten; so is one that
// takes too long, with ErrTooLong. It is for what is there within moments; what plays a plan more often than pages
// do after each edit, or goes through the past, is a [LongAnswer].
func Answer[T any](ctx context.Context, l *Line, s *State, question string, ask func(context.Context) (T, error)) (T, error) {
	return answered(ctx, l, s, question, false, ask)
}

// LongAnswer is Answer, for what may take seconds: what is quick does not wait for it.
func LongAnswer[T any](ctx context.Context, l *Line, s *State, question string, ask func(context.Context) (T, error)) (T, error) {
	return answered(ctx, l, s, question, true, ask)
}

func answered[T any](ctx context.Context, l *Line, s *State, question string, long bool, ask func(context.Context) (T, error)) (T, error) {
	var none T
	a := s.answers.join(l.hub, *AskerOf(ctx), question, long, func(ctx context.Context) (any, error) { return ask(ctx) })
	if a == nil {
		return none, ErrBusy
	}
	select {
	case <-a.done:
	case <-ctx.Done():
		s.answers.leave(question, a)
		return none, ctx.Err()
	}
	if a.err != nil {
		return none, a.err
	}
	return a.value.(T), nil
}

// join waits for an answer that is there or on its way, or begins it; nil where too many
// wait already.
func (as *answers) join(h *Hub, by Asker, question string, long bool, ask func(context.Context) (any, error)) *answer {
	as.mu.Lock()
	defer as.mu.Unlock()
	if a := as.open[question]; a != nil {
		a.waiting++
		h.shares.join(a.place, by)
		h.budget.use(a.cached)
		return a
	}
	place := h.shares.enter(long, by)
	if place == nil {
		return nil
	}
	ctx, cancel := context.WithCancel(context.Background())
	a := &answer{done: make(chan struct{}), waiting: 1, cancel: cancel, place: place}
	if as.open == nil {
		as.open = map[string]*answer{}
	}
	as.open[question] = a
	h.jobs.Go(func() {
		a.compute(ctx, h.shares, question, ask)
		kept := as.settle(h, question, a)
		close(a.done)
		if kept {
			as.count(h, question, a)
		}
	})
	return a
}

// compute works an answer out when it is its turn.
func (a *answer) compute(ctx context.Context, shares *shares, question string, ask func(context.Context) (any, error)) {
	defer a.cancel()
	defer shares.leave(a.place)
	select {
	case <-a.place.turn:
		if a.place.refused {
			a.err = ErrBusy
			return
		}
		timed, end := context.WithTimeoutCause(ctx, answerTime, ErrTooLong)
		defer end()
		a.value, a.err = guarded(timed, question, ask)
		if timed.Err() != nil {
			a.err = context.Cause(timed)
		}
	case <-ctx.Done():
		a.err = ctx.Err()
	}
}

// partial is an answer that may be no more than a part of it: whoever asks next is to get more.
type partial interface{ Partial() bool }

// settle keeps an answer that was computed, or forgets it: what could not be answered, or in part alone, is tried again
// by the next who asks.
func (as *answers) settle(h *Hub, question string, a *answer) (kept bool) {
	as.mu.Lock()
	defer as.mu.Unlock()
	if as.open[question] != a {
		return false
	}
	part, is := a.value.(partial)
	if a.err != nil || is && part.Partial() {
		delete(as.open, question)
		return false
	}
	if as.kept = append(as.kept, question); len(as.kept) > maxKept {
		h.budget.forget(as.open[as.kept[0]].cached)
		as.drop(as.kept[0])
	}
	return true
}

// count has the budget know of an answer that is kept. The caller holds no lock: others may have to go.
func (as *answers) count(h *Hub, question string, a *answer) {
	c := h.budget.add(weigh(a.value), func() bool { as.forget(question, a); return true })
	as.mu.Lock()
	defer as.mu.Unlock()
	if a.cached = c; as.retired || as.open[question] != a {
		h.budget.forget(c)
	}
}

// drop takes an answer out that is kept. The caller holds the lock.
func (as *answers) drop(question string) {
	delete(as.open, question)
	as.kept = slices.DeleteFunc(as.kept, func(q string) bool { return q == question })
}

// forget takes an answer out, if it is still that one.
func (as *answers) forget(question string, a *answer) {
	as.mu.Lock()
	defer as.mu.Unlock()
	if as.open[question] == a {
		as.drop(question)
	}
}

// retire forgets all answers of a state that is of the past.
func (as *answers) retire(b *budget) {
	as.mu.Lock()
	defer as.mu.Unlock()
	as.retired = true
	for _, question := range as.kept {
		b.forget(as.open[question].cached)
	}
}

// computing does something when it is its turn, as answers of a kind are computed: few wait for that.
func (l *Line) computing(ctx context.Context, long bool, do func() error) error {
	shares := l.hub.shares
	place := shares.enter(long, *AskerOf(ctx))
	if place == nil {
		return ErrBusy
	}
	defer shares.leave(place)
	select {
	case <-place.turn:
		if place.refused {
			return ErrBusy
		}
		return do()
	case <-ctx.Done():
		return ctx.Err()
	}
}

// guarded asks, and makes an error of a panic: what one question breaks is its answer alone.
func guarded(ctx context.Context, question string, ask func(context.Context) (any, error)) (value any, err error) {
	defer func() {
		if broken := recover(); broken != nil {
			slog.Error("an answer broke", "question", question, "panic", broken, "stack", string(debug.Stack()))
			err = ErrBroken
		}
	}()
	return ask(ctx)
}

// leave stops waiting for an answer.
func (as *answers) leave(question string, a *answer) {
	as.mu.Lock()
	defer as.mu.Unlock()
	if a.waiting--; a.waiting > 0 {
		return
	}
	select {
	case <-a.done: // it is there: the next who asks has it
	default:
		a.cancel()
		if as.open[question] == a {
			delete(as.open, question)
		}
	}
}

// ForecastSeed is the seed of every forecast that is shown: the same luck before
// and after an edit, so that a difference is the edit's.
const ForecastSeed = 1

// Plays is how often a program of so many items is played after each edit: what shows without a
// wait. The standard error of a chance is then at most 1 point, of 5,000 items 2.2.
func Plays(items int) int {
	return max(500, min(2500, 1_000_000/max(1, items)))
}

// Playing are the options of the forecasts that are shown after each edit, with what the journal
// taught up to the state.
func (l *Line) Playing(ctx context.Context, s *State) (forecast.Options, error) {
	past, err := l.taught(ctx, s)
	return forecast.Options{
		Today: s.Today, Plays: Plays(len(s.Program.Items)), Seed: ForecastSeed, Past: past,
		Workers: runtime.GOMAXPROCS(0), Deck: l.hub.deck, Stop: func() bool { return ctx.Err() != nil },
	}, err
}

// Play plays a plan of the line.
func (l *Line) Play(p *plan.Plan, o forecast.Options) forecast.Forecast {
	f := forecast.Play(p, o)
	l.Played(f.Plays)
	return f
}

// Played counts plays of the line.
func (l *Line) Played(plays int) { l.hub.counts.plays.Add(int64(plays)) }

// Landings is the forecast of a state, and of the one asked for before it, so
// that a page can say what an edit did.
type Landings struct {
	Revision int64
	Result   forecast.Forecast
}

// landings remembers the last two revisions that were asked about.
type landings struct {
	mu          sync.Mutex
	now, before *seenLandings
}

type seenLandings struct {
	Landings
	today program.Date
}

// LandingsAt is the forecast of a state, as Landings has it.
func (l *Line) LandingsAt(ctx context.Context, s *State) (forecast.Forecast, error) {
	return Answer(ctx, l, s, "landings", func(ctx context.Context) (forecast.Forecast, error) {
		o, err := l.Playing(ctx, s)
		if err != nil {
			return forecast.Forecast{}, err
		}
		return l.Play(s.Plan, o), ctx.Err()
	})
}

// LandingsOf is when releases land as the plan is, and when they would land with a proposal:
// the same plays as those of Landings, so that the difference is the proposal's alone.
func (l *Line) LandingsOf(ctx context.Context, p Proposal) (before, after []forecast.Landing, err error) {
	now, err := l.LandingsAt(ctx, p.on)
	if err != nil {
		return nil, nil, err
	}
	then, err := Answer(ctx, l, p.on, "landings with "+p.Digest, func(ctx context.Context) (forecast.Forecast, error) {
		o, err := l.Playing(ctx, p.on)
		if err != nil {
			return forecast.Forecast{}, err
		}
		return l.Play(p.next, o), ctx.Err()
	})
	return now.Releases, then.Releases, err
}

// Landings returns the forecast of the line as it is now, and the last one of an earlier
// revision seen on the same day, if there was one: what another day changes is not to be
// taken for an edit's doing.
func (l *Line) Landings(ctx context.Context) (now Landings, before *Landings, err error) {
	state := l.State()
	result, err := l.LandingsAt(ctx, state)
	if err != nil {
		return Landings{}, nil, err
	}
	l.landing.mu.Lock()
	defer l.landing.mu.Unlock()
	seen := &l.landing
	if seen.now == nil || seen.now.Revision < state.Revision || seen.now.today != state.Today {
		seen.before, seen.now = seen.now, &seenLandings{Landings{state.Revision, result}, state.Today}
	}
	if b := seen.before; b != nil && b.today == state.Today && b.Revision < state.Revision {
		before = &b.Landings
	}
	return Landings{state.Revision, result}, before, nil
}

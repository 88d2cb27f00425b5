package live

import (
	"cmp"
	"context"
	"slices"
	"sync"
	"time"

	"jantrel/core/calendar"
	"jantrel/core/forecast"
	"jantrel/core/program"
)

// mostSaid is how many closed iterations are looked back on, the latest ones.
const mostSaid = 240

// looked is what a line knows of what was said of iterations, and what came: days that are over do not change.
type looked struct {
	mu   sync.Mutex
	said map[lookedAt]*forecast.Said // nil: nothing was said
	days map[program.Date]bool       // of which is known what the forecast said
}

// lookedAt is what is looked back on: an iteration as it was, with paces of some spread.
type lookedAt struct {
	team, iteration string
	span            calendar.Span
	spread          float64
}

func (k *looked) find(at lookedAt) (said *forecast.Said, known bool) {
	k.mu.Lock()
	defer k.mu.Unlock()
	said, known = k.said[at]
	return said, known
}

func (k *looked) keep(at lookedAt, said *forecast.Said) {
	k.mu.Lock()
	defer k.mu.Unlock()
	if k.said == nil || len(k.said) >= 10*mostSaid {
		k.said = map[lookedAt]*forecast.Said{}
	}
	k.said[at] = said
}

func (k *looked) note(day program.Date) {
	k.mu.Lock()
	defer k.mu.Unlock()
	if k.days == nil {
		k.days = map[program.Date]bool{}
	}
	k.days[day] = true
}

// LookedBack is on how much the line has looked back so far: it grows as long as there is more to tell.
func (l *Line) LookedBack() int {
	l.looked.mu.Lock()
	defer l.looked.mu.Unlock()
	return len(l.looked.said) + len(l.looked.days)
}

// BackTest looks back on what forecasts said of the closed iterations of a state and of its landed releases, as far
// as the journal tells of them. The latest are looked at first, until it takes too long: then there is more to tell to
// those who ask again. What is known is not worked out again.
func (l *Line) BackTest(ctx context.Context, s *State, long time.Duration) (t forecast.BackTest, err error) {
	began, err := l.began(ctx)
	if err != nil {
		return t, err
	}
	b := &backTest{line: l, state: s, from: calendar.OfTime(began.In(l.hub.clock().Location())), until: min(s.Today, calendar.OfTime(l.hub.clock())), deadline: time.Now().Add(long)}
	if t.Iterations, t.LeftOut, err = b.said(ctx, 0); err != nil {
		return t, err
	}
	t.Kept, t.Teams = forecast.KeptOf(t.Iterations), forecast.CommitmentsOf(s.Plan)
	if t.Releases, err = b.landings(ctx); err != nil {
		return t, err
	}
	defer func() { t.More = b.cut }()
	t.Errors, t.Wider = forecast.ErrorsOf(t.Releases), []forecast.Wider{}
	for _, spread := range forecast.WiderSpreads {
		if spread <= s.Settings.PaceSpread() || !forecast.TooSure(t.Kept) {
			continue
		}
		said, _, err := b.said(ctx, spread)
		if err != nil || b.cut {
			return t, err
		}
		kept := forecast.KeptOf(said)
		t.Wider = append(t.Wider, forecast.Wider{Spread: spread, Kept: kept})
		if !forecast.TooSure(kept) {
			break
		}
	}
	return t, ctx.Err()
}

// backTest looks back on a state.
type backTest struct {
	line        *Line
	state       *State
	from, until program.Date // what the journal tells of; what is over
	deadline    time.Time
	cut         bool // there was no time for all
}

// late reports whether there is no time any more.
func (b *backTest) late() bool {
	b.cut = b.cut || time.Now().After(b.deadline)
	return b.cut
}

// closed is an iteration that is looked back on.
type closed struct {
	team string
	it   *program.Iteration
}

// closed are the iterations that the journal tells of, the latest first.
func (b *backTest) closed() (list []closed) {
	for t := range b.state.Teams {
		team := &b.state.Teams[t]
		for i := range team.Iterations {
			if it := &team.Iterations[i]; it.State == program.Closed && it.Start >= b.from && it.End < b.until {
				list = append(list, closed{team.Key, it})
			}
		}
	}
	slices.SortStableFunc(list, func(a, b closed) int {
		return cmp.Or(cmp.Compare(b.it.End, a.it.End), cmp.Compare(b.it.Start, a.it.Start))
	})
	return list
}

// said is what was said of iterations when they began, or would have been with paces of some spread, and what came:
// the oldest first, and how many were left out.
func (b *backTest) said(ctx context.Context, spread float64) (all []forecast.Said, leftOut int, err error) {
	all = []forecast.Said{}
	list := b.closed()
	for i, c := range list {
		at := lookedAt{c.team, c.it.Key, c.it.Span(), spread}
		said, known := b.line.looked.find(at)
		if !known {
			if i >= mostSaid || b.late() {
				leftOut = len(list) - i
				break
			}
			if said, err = b.saidOf(ctx, at); err != nil {
				return nil, 0, err
			}
			b.line.looked.keep(at, said)
		}
		if said != nil {
			all = append(all, *said)
		}
	}
	slices.Reverse(all)
	return all, leftOut, ctx.Err()
}

// saidOf is what was said of one iteration, and what came; nil where nothing of it was to do, or not told.
func (b *backTest) saidOf(ctx context.Context, at lookedAt) (*forecast.Said, error) {
	then, _, err := b.line.EndOf(ctx, at.span.Start)
	if err != nil || then == nil {
		return nil, err
	}
	after, _, err := b.line.EndOf(ctx, at.span.End)
	if err != nil || after == nil {
		return nil, err
	}
	o, err := b.line.Playing(ctx, then)
	if err != nil {
		return nil, err
	}
	if at.spread > 0 {
		o.If.Spread = at.spread / then.Settings.PaceSpread()
	}
	said, ok := forecast.SaidOf(then.Plan, after.Plan, o, at.team, at.iteration)
	if err := ctx.Err(); !ok || err != nil {
		return nil, err
	}
	return &said, nil
}

// landings are what was said of the landed releases some weeks before they landed.
func (b *backTest) landings(ctx context.Context) ([]forecast.SaidLanding, error) {
	all := []forecast.SaidLanding{}
	for i := range b.state.Releases {
		r := &b.state.Releases[i]
		landed, ok := forecast.LandedOn(b.state.Plan, forecast.Set{Release: r.Key})
		if !ok || landed.IsZero() {
			continue
		}
		for _, weeks := range forecast.WeeksBefore {
			day := landed.Add(-7 * weeks)
			if day < b.from || b.late() {
				continue
			}
			told, err := b.line.forecastOn(ctx, day)
			if err != nil {
				return nil, err
			}
			b.line.looked.note(day)
			at := slices.IndexFunc(told, func(d Dated) bool { return d.Kind == program.KindRelease && d.Landing.Key == r.Key })
			if at >= 0 && told[at].Landing.Left > 0 {
				all = append(all, forecast.SaidLandingOf(told[at].Landing, weeks, day, landed))
			}
		}
	}
	return all, ctx.Err()
}

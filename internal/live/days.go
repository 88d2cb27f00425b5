package live

import (
	"context"
	"encoding/json"
	"math"
	"slices"
	"sync"
	"time"

	"jantrel/core/calendar"
	"jantrel/core/forecast"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/internal/journal"
)

// Dated is when a release or a milestone lands.
type Dated struct {
	Kind    program.Kind     `json:"kind"`
	Name    string           `json:"name"`
	Landing forecast.Landing `json:"landing"`
}

// DatedAt is when the releases of a state land, and its milestones, at some odds; of none, the usual ones.
// They are the plays of Landings.
func (l *Line) DatedAt(ctx context.Context, s *State, odds []int) ([]Dated, error) {
	o, err := l.Playing(ctx, s)
	if err != nil {
		return nil, err
	}
	o.Odds = odds
	for i := range s.Milestones {
		o.Sets = append(o.Sets, forecast.SetOf(&s.Milestones[i]))
	}
	f := l.Play(s.Plan, o)
	all := make([]Dated, 0, len(f.Releases)+len(f.Sets))
	for i, r := range s.Releases {
		all = append(all, Dated{program.KindRelease, r.Name, f.Releases[i]})
	}
	for i, m := range s.Milestones {
		all = append(all, Dated{program.KindMilestone, m.Name, f.Sets[i]})
	}
	return all, ctx.Err()
}

// ForecastDay is what the forecast said at the end of a day, with all that was known by then.
type ForecastDay struct {
	Day   program.Date `json:"day"`
	Dated []Dated      `json:"dated"`
}

// reckoning is the days of a line that are being reckoned: by one at a time, for all who ask.
type reckoning struct{ mu sync.Mutex }

// ForecastDays is what the forecast said at the end of each day from a day on, but for today, the oldest first.
// What is not kept yet is reckoned, the newest first, until it takes too long, and kept: missing is
// how many days are still to be reckoned by those who ask again.
func (l *Line) ForecastDays(ctx context.Context, from program.Date, long time.Duration) (days []ForecastDay, missing int, err error) {
	l.reckoning.mu.Lock()
	defer l.reckoning.mu.Unlock()
	clock := l.hub.clock()
	began, err := l.began(ctx)
	if err != nil {
		return nil, 0, err
	}
	from = max(from, calendar.OfTime(began.In(clock.Location())))
	kept, err := l.hub.store.ForecastDays(ctx, l.id, from, forecast.Rules)
	if err != nil {
		return nil, 0, err
	}
	known := map[program.Date]string{}
	for _, k := range kept {
		known[k.Day] = k.Body
	}
	today, begun, walked, looking := l.State().Today, time.Now(), &walk{line: l}, false
	// A day is over once the clock has left it behind, whatever day is called today.
	for day := min(today, calendar.OfTime(clock)).Add(-1); day >= from; day = day.Add(-1) {
		body, ok := known[day]
		if !ok && time.Since(begun) < long {
			if !looking {
				done, err := l.lookBack(ctx)
				if err != nil {
					return nil, 0, err
				}
				defer done() // once, when all is reckoned
				looking = true
			}
			if err = l.computing(ctx, true, func() (err error) { body, err = l.reckon(ctx, walked, day); return err }); err != nil {
				return nil, 0, err
			}
			ok = true
		}
		if !ok {
			missing++
			continue
		}
		told := ForecastDay{Day: day}
		if err := json.Unmarshal([]byte(body), &told.Dated); err != nil {
			return nil, 0, err
		}
		days = append(days, told)
	}
	slices.Reverse(days)
	return days, missing, nil
}

// reckon works out what the forecast said at the end of a day, and keeps it.
func (l *Line) reckon(ctx context.Context, walked *walk, day program.Date) (string, error) {
	dated := []Dated{}
	revision, there, err := l.endOf(ctx, day)
	if err == nil && there {
		var p *plan.Plan
		if p, err = walked.to(ctx, revision); err == nil {
			// Of a state this needs no facts, which take as long as the plays of a small program.
			dated, err = l.DatedAt(ctx, &State{Plan: p, Revision: revision, Today: day}, nil)
		}
	}
	if err != nil {
		return "", err
	}
	body, err := json.Marshal(dated)
	if err != nil {
		return "", err
	}
	return string(body), l.hub.store.KeepForecastDay(ctx, l.id, journal.ForecastDay{Day: day, Body: string(body)}, forecast.Rules)
}

// forecastOn is what the forecast said at the end of a day that is over.
func (l *Line) forecastOn(ctx context.Context, day program.Date) (told []Dated, err error) {
	body, known, err := l.hub.store.ForecastDay(ctx, l.id, day, forecast.Rules)
	if err == nil && !known {
		body, err = l.reckon(ctx, &walk{line: l}, day)
	}
	if err != nil {
		return nil, err
	}
	return told, json.Unmarshal([]byte(body), &told)
}

// Moved is an edit that moved the forecast of something.
type Moved struct {
	Revision int64     `json:"revision"`
	At       time.Time `json:"at"`
	By       string    `json:"by"`
	Label    string    `json:"label"`
	Before   Stood     `json:"before"`
	After    Stood     `json:"after"`
}

// Stood is how something stood before or after an edit.
type Stood struct {
	Chance *float64     `json:"chance,omitempty"`
	Even   program.Date `json:"even,omitzero"` // the landing at even odds
}

// mostMoved is how many edits of a day are looked at, the first ones.
const mostMoved = 80

// MovedOn are the edits of a day that moved the forecast of some work by half a point of chance or a day, in the order
// in which they were made: each played on that day, before it and after it. leftOut is how many edits more there were.
func (l *Line) MovedOn(ctx context.Context, day program.Date, set forecast.Set) (moved []Moved, leftOut int, err error) {
	from, err := l.hub.store.RevisionAt(ctx, l.id, l.Midnight(day).Add(-time.Nanosecond))
	if err != nil {
		return nil, 0, err
	}
	to, err := l.hub.store.RevisionAt(ctx, l.id, l.Midnight(day.Add(1)).Add(-time.Nanosecond))
	if err != nil || to == from {
		return nil, 0, err
	}
	edits, err := l.hub.store.EditsBetween(ctx, l.id, from, min(to, from+mostMoved))
	if err != nil {
		return nil, 0, err
	}
	all := len(edits)
	// What was undone on the same day moved nothing.
	undone, err := l.undone(ctx, to)
	if err != nil {
		return nil, 0, err
	}
	began := map[int64]bool{} // what took back something of an earlier day, which the day began with
	for revision, by := range undone {
		began[by] = began[by] || revision <= from
	}
	edits = slices.DeleteFunc(edits, func(e journal.Edit) bool { by, never := undone[e.Revision]; return never && !began[by] })
	p, err := l.programAt(ctx, from)
	if err != nil {
		return nil, 0, err
	}
	state := newState(plan.Of(p), from, day)
	at, err := l.stood(ctx, state, set)
	for i := range edits {
		e := &edits[i]
		if err != nil {
			return nil, 0, err
		}
		if p, err = program.Replay(p, e.Changes); err != nil {
			return nil, 0, err
		}
		if !slices.ContainsFunc(e.Changes, func(a program.Applied) bool { return forecast.Matters(&a.Change) }) {
			continue
		}
		before := at
		if at, err = l.stood(ctx, newState(plan.Of(p), e.Revision, day), set); err == nil && before.moved(at) {
			moved = append(moved, Moved{e.Revision, e.At, e.Actor, e.Label, before, at})
		}
	}
	return moved, int(to-from) - all, err
}

// moved reports whether something stands otherwise than before, by as much as is worth telling.
func (s Stood) moved(to Stood) bool {
	if s.Even != to.Even || (s.Chance == nil) != (to.Chance == nil) {
		return true
	}
	return s.Chance != nil && math.Abs(*s.Chance-*to.Chance) >= 0.005
}

// stood is how some work stands in a state; of a release by the due date that it has there.
func (l *Line) stood(ctx context.Context, s *State, set forecast.Set) (Stood, error) {
	o, err := l.Playing(ctx, s)
	if err != nil {
		return Stood{}, err
	}
	for i := range s.Releases {
		if s.Releases[i].Key == set.Release {
			set.Due = s.Releases[i].Due
		}
	}
	o.Releases, o.Sets = []string{""}, []forecast.Set{set}
	landing := l.Play(s.Plan, o).Sets[0]
	return Stood{landing.Chance, landing.At(50)}, ctx.Err()
}

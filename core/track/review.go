package track

import (
	"maps"
	"slices"
	"time"

	"jantrel/core/capacity"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// Review is what became of an iteration, for its team to look back on; of one that is not closed,
// what has so far. Sizes are in the team's unit. What is carried on is part of what was removed, and
// no other list holds it.
type Review struct {
	Run
	Pace
	Closed    time.Time   `json:"closed,omitzero"` // when it was closed, as far as the journal tells
	Carried   Sum         `json:"carried"`         // what its close took out: it was not done
	CarriedOn []string    `json:"carriedOn"`
	Finished  []string    `json:"finished"` // what is done of it
	CameIn    []string    `json:"cameIn"`   // after the start, and stayed until the close
	WentOut   []string    `json:"wentOut"`  // of what stood in it at the start, before the close
	SentBack  []SentBack  `json:"sentBack"` // from review to work, the most often first
	Velocity  Measured    `json:"velocity"`
	Earlier   []StillOpen `json:"earlier"` // what the team agreed to do after earlier iterations, and has not done
}

// SentBack is how often an item was sent back within an iteration.
type SentBack struct {
	Item  string `json:"item"`
	Times int    `json:"times"`
}

// Measured is the mean of the team's normalised velocities that count (see capacity.Normalised),
// without this iteration and with it; as they are where it is not closed or does not count.
type Measured struct {
	Before float64 `json:"before"`
	After  float64 `json:"after"`
	Of     int     `json:"of"` // how many count, with it
}

// StillOpen is an action of an earlier iteration.
type StillOpen struct {
	program.Action
	Iteration string `json:"iteration"`
	At        int    `json:"at"` // among its actions
}

// ReviewSince is from when on ReviewOf needs the edits of a program; false where there is no such
// iteration.
func ReviewSince(p *plan.Plan, team, iteration string, in *time.Location) (time.Time, bool) {
	t, ok := p.TeamAt()[team]
	if !ok {
		return time.Time{}, false
	}
	it, ok := p.Teams[t].Find(iteration)
	return Midnight(it.Start, in).AddDate(0, 0, -early), ok
}

// ReviewOf looks back on an iteration that there is, by the edits since ReviewSince that led to the
// program, the oldest first. Time is linear in changes.
func ReviewOf(p *plan.Plan, team, iteration string, today program.Date, events []Event, began time.Time, in *time.Location) Review {
	t := p.TeamAt()[team]
	of := &p.Teams[t]
	at := slices.IndexFunc(of.Iterations, func(it program.Iteration) bool { return it.Key == iteration })
	it := &of.Iterations[at]
	runs, _ := Runs(p.Program, []Asked{{team, iteration, Midnight(it.Start, in), !started(it)}}, events, began)
	r := Review{Run: runs[0], CarriedOn: []string{}, Finished: []string{}, SentBack: []SentBack{}, Earlier: []StillOpen{}}
	r.Pace = PaceOf(p, t, at, today, &r.Run, nil)
	closing := int64(0)
	for i := range events {
		if slices.Contains(events[i].closed, place{team, iteration}) {
			closing, r.Closed = events[i].Revision, events[i].At
		}
	}
	if it.State != program.Closed {
		closing, r.Closed = 0, time.Time{}
	}
	came, out, back := map[string]bool{}, map[string]bool{}, map[string]int{}
	for i := range r.Steps {
		s := &r.Steps[i]
		switch {
		case s.What == Removed && s.Revision == closing:
			r.CarriedOn = append(r.CarriedOn, s.Item)
			r.Carried = r.Carried.plus(Sum{1, s.Size})
		case s.What == Added && out[s.Item]:
			delete(out, s.Item) // it is there again
		case s.What == Added:
			came[s.Item] = true
		case s.What == Removed && came[s.Item]:
			delete(came, s.Item)
		case s.What == Removed:
			out[s.Item] = true
		case s.What == Moved && s.From == program.Review && s.To == program.Doing:
			back[s.Item]++
		}
	}
	r.CameIn, r.WentOut = sorted(came), sorted(out)
	for _, item := range slices.Sorted(maps.Keys(back)) {
		r.SentBack = append(r.SentBack, SentBack{item, back[item]})
	}
	slices.SortStableFunc(r.SentBack, func(a, b SentBack) int { return b.Times - a.Times })
	for i := range p.Items {
		if c := cardOf(&p.Items[i]); c.at() == (place{team, iteration}) && c.state == program.Done {
			r.Finished = append(r.Finished, p.Items[i].Key)
		}
	}
	past := capacity.Histories(p)[t]
	r.Velocity.Of, r.Velocity.After, _ = capacity.Normalised(past)
	without := slices.DeleteFunc(slices.Clone(past), func(x capacity.Past) bool { return x.Iteration == iteration })
	_, r.Velocity.Before, _ = capacity.Normalised(without)
	for i := range of.Iterations {
		earlier := &of.Iterations[i]
		if earlier.Start >= it.Start {
			continue
		}
		for n, a := range earlier.Actions {
			if !a.Done {
				r.Earlier = append(r.Earlier, StillOpen{a, earlier.Key, n})
			}
		}
	}
	return r
}

func sorted(set map[string]bool) []string {
	return append([]string{}, slices.Sorted(maps.Keys(set))...)
}

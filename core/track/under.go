package track

import (
	"slices"
	"time"

	"jantrel/core/calendar"
	"jantrel/core/capacity"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// UnderWay is the position of the iteration that a team is in: the open one; else the one of
// today, which has not been started; else the first of those that are over and not closed; else
// the next one. False where all are closed.
func UnderWay(t *program.Team, today program.Date) (at int, ok bool) {
	at = -1
	rank := func(it *program.Iteration) int {
		switch {
		case it.State == program.Closed:
			return 0
		case it.State == program.Open:
			return 4
		case it.Start > today:
			return 1
		case it.End >= today:
			return 3
		}
		return 2
	}
	for i := range t.Iterations {
		it := &t.Iterations[i]
		if r := rank(it); r > 0 && (at < 0 || r > rank(&t.Iterations[at]) || r == rank(&t.Iterations[at]) && it.Start < t.Iterations[at].Start) {
			at = i
		}
	}
	return at, at >= 0
}

// Pace is how an iteration goes by its days.
type Pace struct {
	Days  []program.Date `json:"days"`  // on which somebody of the team works
	Gone  int            `json:"gone"`  // of these, up to today and with it
	Ideal []Point        `json:"ideal"` // what would be left at an even pace over the member-days, of what was to do at the start
	Usual *Usual         `json:"usual,omitempty"`
}

// Point is what is left at the end of a day.
type Point struct {
	Day  program.Date `json:"day"`
	Left float64      `json:"left"`

	Hours float64 `json:"hours"` // the same of the hours left of tasks
}

// Usual is what iterations of the team had done by the end of as many of their days as are over,
// yesterday's included: the median of done ÷ what stood in them at the start.
type Usual struct {
	Share float64 `json:"share"`
	Of    int     `json:"of"` // how many iterations tell
}

// PaceOf is how an iteration goes by its days, of those before it which the journal tells of from
// their start on. Where nobody works in it at all, it has no days.
func PaceOf(p *plan.Plan, team, iteration int, today program.Date, run *Run, past []Run) Pace {
	daily := capacity.Daily(p, team)
	it := &p.Teams[team].Iterations[iteration]
	begin := run.Start.Size
	if calendar.OfTime(run.From) <= it.Start { // else what was done before may have been done in it
		begin -= run.DoneBefore.Size
	}
	pace := Pace{Days: workdays(daily, it.Span()), Ideal: []Point{{it.Start.Add(-1), begin, run.Hours.Start}}}
	for _, day := range pace.Days {
		if day <= today {
			pace.Gone++
		}
	}
	for i, left := range evenly(daily(it.Span())) {
		pace.Ideal = append(pace.Ideal, Point{it.Start.Add(i), left * begin, left * run.Hours.Start})
	}
	over := pace.Gone // days that are over
	if over > 0 && pace.Days[over-1] == today {
		over--
	}
	var shares []float64
	for i := range past {
		r := &past[i]
		at := slices.IndexFunc(p.Teams[team].Iterations, func(it program.Iteration) bool { return it.Key == r.Iteration })
		if at < 0 || r.Start.Size <= 0 || len(pace.Days) == 0 {
			continue
		}
		span := p.Teams[team].Iterations[at].Span()
		if calendar.OfTime(r.From) > span.Start { // the journal does not reach back to its start
			continue
		}
		days := workdays(daily, span)
		if n := (over*len(days) + len(pace.Days)/2) / len(pace.Days); n == 0 {
			shares = append(shares, 0)
		} else if n <= len(days) {
			shares = append(shares, r.DoneBy(days[n-1]).Size/r.Start.Size)
		}
	}
	if len(shares) > 0 {
		slices.Sort(shares)
		n := len(shares)
		pace.Usual = &Usual{(shares[(n-1)/2] + shares[n/2]) / 2, n}
	}
	return pace
}

// evenly is which share is left at the end of each day at an even pace over the member-days of
// all; where there are none, all of it.
func evenly(worked []float64) []float64 {
	all := 0.0
	for _, w := range worked {
		all += w
	}
	left, shares := 1.0, make([]float64, len(worked))
	for i, w := range worked {
		if all > 0 {
			left -= w / all
		}
		shares[i] = max(0, left)
	}
	return shares
}

// longestIdeal is how many days an ideal line is drawn over at most.
const longestIdeal = 3660

// IdealOf is what would be left of a scope at the end of each day from a first to a last one, at an
// even pace over the member-days of some teams: of what was to do of the run as it began, in items
// where these are several teams', whose sizes are never added up. Empty where the days are over
// before they begin, or are more than can be drawn.
func IdealOf(p *plan.Plan, teams []int, run *Run, last program.Date) []Point {
	first := calendar.OfTime(run.From)
	span := calendar.Span{Start: first, End: last}
	if last.IsZero() || span.Days() < 1 || span.Days() > longestIdeal {
		return []Point{}
	}
	worked := make([]float64, span.Days())
	for _, t := range teams {
		for i, w := range capacity.Daily(p, t)(span) {
			worked[i] += w
		}
	}
	begin := run.Start.minus(run.DoneBefore)
	of := func(day program.Date, left float64) Point {
		if run.Team == "" {
			return Point{day, left * float64(begin.Items), left * run.Hours.Start}
		}
		return Point{day, left * begin.Size, left * run.Hours.Start}
	}
	points := []Point{of(first.Add(-1), 1)}
	for i, left := range evenly(worked) {
		points = append(points, of(first.Add(i), left))
	}
	return points
}

func workdays(daily func(calendar.Span) []float64, span calendar.Span) []program.Date {
	days := []program.Date{}
	for i, w := range daily(span) {
		if w > 0 {
			days = append(days, span.Start.Add(i))
		}
	}
	return days
}

// DoneBy is what of a run was done at the end of a day, as its times have it.
func (r *Run) DoneBy(day program.Date) Sum {
	_, done := r.By(day)
	return done
}

// Midnight is the first moment of a day somewhere.
func Midnight(day program.Date, in *time.Location) time.Time {
	t := day.Time()
	return time.Date(t.Year(), t.Month(), t.Day(), 0, 0, 0, 0, in)
}

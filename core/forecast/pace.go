package forecast

import (
	"cmp"
	"math"
	"sort"

	"jantrel/core/calendar"
	"jantrel/core/capacity"
	"jantrel/core/plan"
)

// PaceQuestion asks at which pace, or with how much less work, a due date would be met.
type PaceQuestion struct {
	Options
	Set  Set // with the due date
	Odds int // that are wanted, in percent
}

// PaceAnswer answers a PaceQuestion.
type PaceAnswer struct {
	Plays  int       `json:"plays"`
	Odds   int       `json:"odds"`
	Chance float64   `json:"chance"`          // as things are, 0 to 1
	All    PaceFor   `json:"all"`             // if every team went faster
	Teams  []PaceFor `json:"teams"`           // if one of them alone did; the one that decides most often first, and some of the others
	Less   *LessWork `json:"less,omitempty"`  // if there were less of it; nil: that would not do
	Ended  bool      `json:"ended,omitempty"` // it was ended before all teams had been tried
}

// PaceFor is the pace at which the odds are met.
type PaceFor struct {
	Team    string  `json:"team,omitempty"` // none: all teams
	Factor  float64 `json:"factor"`         // by which velocities would have to be higher, in whole percent; 1: they need not
	Chance  float64 `json:"chance"`         // then, 0 to 1
	Met     bool    `json:"met"`            // false: not even at most times the pace
	Decides float64 `json:"decides"`        // share of plays as things are, 0 to 1, in which this team is the last to finish
	// MemberDays is the same in days of people: how many more would have to be worked up to the due
	// date, at the pace of each day so far; 0 for all teams.
	MemberDays float64 `json:"memberDays"`
}

// LessWork is by which share of what is left, every item alike, there would have to be less.
type LessWork struct {
	Share  float64 `json:"share"` // in whole percent
	Chance float64 `json:"chance"`
}

// mostPace is how many times as fast teams are tried at the most.
const mostPace = 3.0

// searchPlays is how often each pace is played while it is searched for, at the most.
const searchPlays = 200

// hopeless is by how many points of chance a few plays have to miss the odds for it to be sure that more would.
const hopeless = 10

// PaceOf searches for the least whole percent by which teams would have to go faster, all of them or
// one alone, so that the due date of some work is met at given odds; and for the least share by which
// there would have to be less of it. Every answer is played with all plays, those of Play. It takes
// the time of a dozen forecasts by few plays, and of a few by all, for each of eight teams at the most.
func PaceOf(p *plan.Plan, q PaceQuestion) PaceAnswer {
	o := q.Options
	o.Plays = cmp.Or(max(0, o.Plays), defaultPlays)
	view := OutlookOf(p, OutlookQuestion{Options: o, Set: q.Set})
	a := PaceAnswer{Plays: o.Plays, Odds: q.Odds, Chance: *view.Landing.Chance, Teams: []PaceFor{}}
	s := seeker{p: p, q: q, o: o, never: len(view.Landing.Cannot) > 0}
	s.enough = s.met(a.Chance)
	a.All = s.pace("", a.Chance)
	if share, chance, met := s.least(0.99, a.Chance, func(by float64) If { return If{Scope: -by, ScopeOf: q.Set} }); met {
		a.Less = &LessWork{share, chance}
	}
	for _, t := range view.Teams[:min(len(view.Teams), mostTeams)] {
		one := s.pace(t.Key, a.Chance)
		if s.stopped() { // what it was stopped in is not known
			a.Ended = true
			break
		}
		one.Decides = t.Decides
		one.MemberDays = math.Round(10*(one.Factor-1)*memberDays(p, t.Key, o.Today, q.Set.Due)) / 10
		a.Teams = append(a.Teams, one)
	}
	return a
}

// memberDays are the days that members of a team work from a day to another.
func memberDays(p *plan.Plan, team string, from, to Date) (sum float64) {
	t, ok := p.TeamAt()[team]
	if !ok || to < from {
		return 0
	}
	for _, worked := range capacity.Daily(p, t)(calendar.Span{Start: from, End: to}) {
		sum += worked
	}
	return sum
}

// seeker plays some work with one thing changed, again and again.
type seeker struct {
	p      *plan.Plan
	q      PaceQuestion
	o      Options
	enough bool // the odds are met as things are
	never  bool // it never lands, whatever is changed
}

func (s *seeker) pace(team string, chance float64) PaceFor {
	more, then, met := s.least(mostPace-1, chance, func(by float64) If { return If{Pace: map[string]float64{team: 1 + by}} })
	return PaceFor{Team: team, Factor: 1 + more, Chance: then, Met: met}
}

// least is the least whole percent of a change with which the odds are met, up to most, and the chance
// then: searched for by few plays, and walked to from there by all of them.
func (s *seeker) least(most, chance float64, change func(by float64) If) (by, then float64, met bool) {
	if s.enough {
		return 0, chance, true
	}
	last := int(math.Round(100 * most))
	if s.never {
		return most, chance, false
	}
	played := func(percent, plays int) float64 { return s.chance(change(float64(percent)/100), plays) }
	few := min(s.o.Plays, searchPlays, max(60, s.o.Plays/5))
	if 100*played(last, few) < float64(s.q.Odds)-hopeless {
		return most, played(last, s.o.Plays), false
	}
	at := 1 + sort.Search(last-1, func(i int) bool { return s.stopped() || s.met(played(1+i, few)) })
	then = played(at, s.o.Plays)
	for s.met(then) && at > 1 && !s.stopped() {
		lower := played(at-1, s.o.Plays)
		if !s.met(lower) {
			return float64(at) / 100, then, true
		}
		at, then = at-1, lower
	}
	for !s.met(then) && at < last && !s.stopped() {
		at++
		then = played(at, s.o.Plays)
	}
	return float64(at) / 100, then, s.met(then)
}

func (s *seeker) met(chance float64) bool { return 100*chance >= float64(s.q.Odds) }

func (s *seeker) stopped() bool { return s.o.Stop != nil && s.o.Stop() }

// chance is that of the set's date with something changed.
func (s *seeker) chance(with If, plays int) float64 {
	o := s.o
	o.If, o.Plays, o.Releases, o.Sets = with, plays, []string{""}, []Set{s.q.Set}
	return *Play(s.p, o).Sets[0].Chance
}

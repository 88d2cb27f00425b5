// Package forecast plays the plan many times, each time with velocities drawn
// from the teams' own history, and reads off when each release and item lands.
package forecast

import (
	"cmp"

	"jantrel/core/plan"
	"jantrel/core/program"
)

// Date is a civil date.
type Date = program.Date

// Odds are the chances, in percent, at which dates are given.
var Odds = []int{10, 25, 50, 75, 85, 95}

const defaultPlays = 10_000

// Options steer a forecast.
type Options struct {
	Today    Date
	Plays    int      // how often the plan is played; 0 means 10 000
	Seed     uint64   // the same seed gives the same answer
	Releases []string // only these; empty: all
	Items    bool     // give the dates of items too
	Workers  int      // how many goroutines play; below 2, one. The answer does not depend on it

	Stop func() bool // asked now and then; once true, the answer is not to be used. nil: never

	// ByRank lets teams take what is most important next, wherever it is placed:
	// only what is under way comes first, and what is pinned stays where it is.
	ByRank bool
}

// Forecast is a forecast. It prints as the forecast command prints it.
type Forecast struct {
	Plays    int       `json:"plays"`
	Seed     uint64    `json:"seed"`
	Releases []Landing `json:"releases"`
	Items    []Landing `json:"items,omitempty"`
	Teams    []Pace    `json:"teams"`
}

// Landing is when a release or an item lands.
type Landing struct {
	Key    string   `json:"key"`
	Due    Date     `json:"due,omitzero"`
	Chance *float64 `json:"chance,omitempty"` // chance, 0 to 1, of landing by the due date
	Dates  []Dated  `json:"dates"`
	Left   int      `json:"left"` // items still to do
	// Sampled counts items without a size, played with past sizes of their kind.
	Sampled int `json:"sampled,omitempty"`
	// LeftOut counts items that could not be played: they have no team, or no size
	// and nothing to sample one from.
	LeftOut int `json:"leftOut,omitempty"`
	// Beyond is the share of plays, 0 to 1, that did not land within the time played.
	Beyond float64 `json:"beyond,omitempty"`
}

// Dated is a date at given odds. Without a date, it lies beyond the time played.
type Dated struct {
	Odds int  `json:"odds"`
	Date Date `json:"date,omitzero"`
}

// At returns the date at given odds; no date where there is none.
func (l Landing) At(odds int) Date {
	for _, d := range l.Dates {
		if d.Odds == odds {
			return d.Date
		}
	}
	return 0
}

// Basis is where a team's velocities are drawn from.
type Basis string

// The bases.
const (
	FromHistory Basis = "history" // its own closed iterations
	FromOthers  Basis = "others"  // too little history: its capacity, with the other teams' spread
	Assumed     Basis = "assumed" // no history anywhere: its capacity, with an assumed spread
)

// Pace says what a team's velocities are drawn from.
type Pace struct {
	Team    string `json:"team"`
	Basis   Basis  `json:"basis"`
	Samples int    `json:"samples"`
}

// Play plays the plan.
//
// In each play every iteration of a team gets a velocity: one of the team's past
// velocities, each as likely as the other, normalised by the days worked then
// and multiplied by the days worked now. The team spends it on what is placed
// there, first what earlier iterations left over, then by rank; nothing starts
// before the iteration it is placed in, before its date, or before what it needs
// is done by the rule for needs. What is left of a velocity goes to unplaced
// items, by rank. A release lands at the end of the iteration in which its last
// item is done, as a schedule counts it too. The method is a Monte Carlo simulation by bootstrap sampling.
//
// A play takes time about linear in items, needs and coming iterations; the whole takes
// Plays times that, shared among Workers.
func Play(p *plan.Plan, o Options) Forecast {
	o.Plays = cmp.Or(max(0, o.Plays), defaultPlays)
	g := newGame(p, o)
	counts := g.countFinishes(o)
	r := Forecast{Plays: o.Plays, Seed: o.Seed, Releases: []Landing{}, Teams: g.paces}
	for i, f := range g.finals {
		l := Landing{Key: f.key, Due: f.due, Left: f.left, Sampled: f.sampled, LeftOut: f.leftOut, Dates: []Dated{}}
		if len(f.nodes) > 0 {
			g.read(&l, counts[i], o.Plays)
		} else if f.left == 0 && !f.due.IsZero() {
			sure := 1.0
			l.Chance = &sure
		}
		if i < g.releases {
			r.Releases = append(r.Releases, l)
		} else {
			r.Items = append(r.Items, l)
		}
	}
	return r
}

// read fills a landing from counts[d], how many plays finished d days after
// today; the last count is of those that did not finish.
func (g *game) read(l *Landing, counts []uint32, plays int) {
	last := len(counts) - 1
	l.Beyond = float64(counts[last]) / float64(plays)
	if !l.Due.IsZero() {
		by := 0
		for d := 0; d < last && g.today.Add(d) <= l.Due; d++ {
			by += int(counts[d])
		}
		chance := float64(by) / float64(plays)
		l.Chance = &chance
	}
	day, by := 0, int(counts[0])
	for _, odds := range Odds {
		for by*100 < odds*plays && day < last {
			day++
			by += int(counts[day])
		}
		at := Dated{Odds: odds}
		if day < last {
			at.Date = g.today.Add(day)
		}
		l.Dates = append(l.Dates, at)
	}
}

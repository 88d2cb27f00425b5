// Package forecast plays the plan many times, each time with velocities drawn
// from the teams' own history, and reads off when each release and item lands.
package forecast

import (
	"cmp"
	"math"

	"jantrel/core/plan"
	"jantrel/core/program"
)

// Date is a civil date.
type Date = program.Date

// Rules counts up whenever the same program is played otherwise than before: what was kept of earlier
// forecasts is then reckoned anew.
const Rules = 3

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

	LeaveAgreed bool  // days that teams agreed on for their needs are no dates to meet: they add no late days
	Sets        []Set // and of these
	Past        Past  // what the journal taught
	If          If    // what is otherwise than the plan and its past say
	Odds        []int // the chances, in percent and rising, at which dates are given; empty: Odds
	Workers     int   // how many goroutines play; below 2, one. The answer does not depend on it
	Each        bool  // give the days of releases and sets in each play too, to be paired with those of another plan

	// Deck is what luck has dealt in games before, with the same seed and as many plays; nil: nothing.
	// The answer does not depend on it.
	Deck *Deck

	Stop func() bool // asked now and then; once true, the answer is not to be used. nil: never

	// ByRank lets teams take what is most important next, wherever it is placed:
	// only what is under way comes first, and what is pinned stays where it is.
	ByRank bool
}

// Set is some items that it is asked about together; groups stand for their leaves.
type Set struct {
	Key     string
	Items   []string // none: all of Release
	Due     Date     // none: not asked
	Release string   // what this release will have grown by is of it too; none: nothing is
}

// Forecast is a forecast. It prints as the forecast command prints it.
type Forecast struct {
	Plays    int       `json:"plays"`
	Seed     uint64    `json:"seed"`
	Releases []Landing `json:"releases"`
	Items    []Landing `json:"items,omitempty"`
	Sets     []Landing `json:"sets,omitempty"`
	Teams    []Pace    `json:"teams"`

	// ExpectedLateDays is the mean over the plays of the days by which releases and items with
	// a due date of their own land late, summed up; see Landing. Of a forecast of some
	// releases, of these alone.
	ExpectedLateDays float64 `json:"expectedLateDays"`
}

// Landing is when a release or an item lands.
type Landing struct {
	Key    string   `json:"key"`
	Due    Date     `json:"due,omitzero"`
	Chance *float64 `json:"chance,omitempty"` // chance, 0 to 1, of landing by the due date
	Error  float64  `json:"error,omitempty"`  // standard error of that chance
	Dates  []Dated  `json:"dates"`
	Left   int      `json:"left"`            // items still to do
	Rough  int      `json:"rough,omitempty"` // pieces of rough sizes besides
	// Sampled counts items without a size, played with past sizes of their kind.
	Sampled int `json:"sampled,omitempty"`
	// LeftOut counts items that could not be played: they have no team, or no size
	// and nothing to sample one from.
	LeftOut int `json:"leftOut,omitempty"`
	// Cannot are the items for which it never lands: they cannot be played, or need what cannot.
	Cannot []string `json:"cannot,omitempty"`
	// ExpectedLateDays is the mean over the plays of how many days after the due date it lands,
	// of a release without one after today. What has not landed when a play ends counts as
	// landing then.
	ExpectedLateDays float64 `json:"expectedLateDays"`
	// Growth is by which share the release is taken to grow each iteration; nil: it is not.
	Growth *Growth `json:"growth,omitempty"`
	// Risks is how many risks of the program are played with a release.
	Risks int `json:"risks,omitempty"`
	// Beyond is the share of plays, 0 to 1, that did not land within the time played.
	Beyond float64 `json:"beyond,omitempty"`
	// Each is by play on which day after today it lands, where Options.Each asks for that: with
	// nothing left, before any date; where it does not land, when the play ends.
	Each []int32 `json:"-"`
}

// Dated is the first date that carries given odds or more. Without a date, it lies beyond the
// time played.
type Dated struct {
	Odds   int     `json:"odds"`
	Date   Date    `json:"date,omitzero"`
	Chance float64 `json:"chance,omitempty"` // chance, 0 to 1, that the date really carries
	Error  float64 `json:"error,omitempty"`  // standard error of that chance
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

// Pace says how fast a team is believed to go, and why.
type Pace struct {
	Team     string  `json:"team"`
	Basis    Basis   `json:"basis"`
	Samples  int     `json:"samples"`  // past iterations that count
	Velocity float64 `json:"velocity"` // what it completes in an iteration in which nobody is away, in its unit: measured, where it has a history
	Spread   float64 `json:"spread"`   // by how much that varies from one to the next (standard deviation)
	// Recent is how many of the last iterations in a row went faster than Velocity; below 0: slower.
	Recent int `json:"recent,omitempty"`
	// Persistence is which share of an iteration's deviation the next is likely to keep, 0 to 1: of all teams.
	Persistence float64 `json:"persistence,omitempty"`
	Drift       Drift   `json:"drift,omitempty"` // its paces rise or fall over time
	Says        string  `json:"says"`            // all that in a sentence
	// Turned is what its sizes have turned out as; nil: that is not known.
	Turned *Turned `json:"turned,omitempty"`
}

// Play plays the plan. docs/forecast.md has the rules with worked examples.
//
// In each play something else is believed of how fast every team goes, how much that varies and how far its iterations
// follow each other, as likely as its past paces (completed ÷ member-days, of the iterations that count) and those of all
// teams make it; see gait. Each iteration draws a pace from that and multiplies it by the member-days there, of the
// iteration under way by those still to come. So the plays carry both the luck of an iteration and how little a short
// history says (a Monte Carlo simulation of the posterior predictive distribution). The draws are stratified over the
// plays.
//
// A team works on what is under way, then on what is placed in the iteration or before it,
// earlier first, then by rank; then, unless Settings.PullAhead says no, on what is placed
// later or unplaced, by rank; each as soon as its needs, dates and pins let it start. Needs
// hold by iterations. What is not done goes on in the next one. Work goes at an even pace over
// the days on which somebody of the team works; an item is done on the day on which its work
// is, or as Settings.Landing says at the end of the iteration; a release lands with its last
// item. What has no team, or neither size nor past sizes, or needs such, never lands.
//
// Of what is under way Item.Left is left; else its size × the share of the hours of its tasks that
// is left, where these are estimated; else × the share of its iteration's member-days still to come.
//
// The standard error of a chance p is √(p(1−p) ÷ plays); stratified draws make it smaller. A
// play takes time about linear in items, needs and coming iterations; the whole takes Plays
// times that, shared among Workers.
func Play(p *plan.Plan, o Options) Forecast {
	o.Plays = cmp.Or(max(0, o.Plays), defaultPlays)
	g := newGame(p, o)
	g.watch(false)
	counts, each := g.countFinishes(o)
	r := Forecast{Plays: o.Plays, Seed: o.Seed, Releases: []Landing{}, Teams: g.paces}
	for i := range g.finals {
		f := &g.finals[i]
		isRelease := i < g.releases
		l := g.landing(f, counts[i], o.Plays, isRelease)
		l.Each = each[i]
		if i < g.releases+g.dated {
			r.ExpectedLateDays += l.ExpectedLateDays
		}
		switch {
		case isRelease:
			l.Growth, l.Risks = f.growth, len(g.risks)
			r.Releases = append(r.Releases, l)
		case i >= len(g.finals)-len(o.Sets):
			r.Sets = append(r.Sets, l)
		case i >= g.releases+g.dated:
			r.Items = append(r.Items, l)
		}
	}
	return r
}

// landing reads when something lands from counts[d], how many plays finished d days after
// today. late: it counts as late from today on where it has no due date.
func (g *game) landing(f *final, counts []uint32, plays int, late bool) Landing {
	l := Landing{Key: f.key, Due: f.due, Left: f.left, Rough: f.rough, Sampled: f.sampled, LeftOut: f.leftOut, Cannot: f.cannot, Dates: []Dated{}}
	switch {
	case f.left+f.rough == 0:
		if !f.due.IsZero() {
			sure := 1.0
			l.Chance = &sure
		}
		return l
	case len(f.cannot) > 0: // it never lands
		counts = make([]uint32, len(counts))
		counts[len(counts)-1] = uint32(plays)
	}
	g.read(&l, counts, plays)
	due := g.today
	if !f.due.IsZero() {
		due = f.due
	} else if !late {
		return l
	}
	for day, n := range counts {
		l.ExpectedLateDays += float64(n) / float64(plays) * float64(max(0, g.today.Add(day)-due))
	}
	return l
}

// read fills a landing from counts[d], how many plays finished d days after
// today; the last count is of those that did not finish.
func (g *game) read(l *Landing, counts []uint32, plays int) {
	last := len(counts) - 1
	share := func(n int) float64 { return float64(n) / float64(plays) }
	l.Beyond = share(int(counts[last]))
	if !l.Due.IsZero() {
		by := 0
		for d := 0; d < last && g.today.Add(d) <= l.Due; d++ {
			by += int(counts[d])
		}
		chance := share(by)
		l.Chance, l.Error = &chance, standardError(chance, plays)
	}
	day, by := 0, int(counts[0])
	for _, odds := range g.odds {
		for by*100 < odds*plays && day < last {
			day++
			by += int(counts[day])
		}
		at := Dated{Odds: odds}
		if day < last {
			at.Date, at.Chance, at.Error = g.today.Add(day), share(by), standardError(share(by), plays)
		}
		l.Dates = append(l.Dates, at)
	}
}

// standardError is that of a share of so many plays, were they independent.
func standardError(p float64, plays int) float64 { return math.Sqrt(p * (1 - p) / float64(plays)) }

// Package schedule drafts a schedule: it places sized items into iterations by
// the rules of the program document, says of each why it stands where it
// stands, and proves how few late days any schedule must have.
package schedule

import (
	"jantrel/core/forecast"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// Date is a civil date.
type Date = program.Date

// UnplacedDays is how long after the last end of all iterations something
// unplaced counts as finishing.
const UnplacedDays = 365

// Options steer a draft.
type Options struct {
	Today     Date
	FillTo    float64         // share of capacity to use; 0 takes each team's own
	KeepClose bool            // fewest moves come before late days and importance
	Items     []string        // only these (groups stand for their leaves) may move; empty: all
	Releases  []string        // only what is of these releases may move; empty: of all and none
	Teams     []string        // only what is of these teams may move; empty: of all
	Roles     bool            // what a role, or who is assigned, can carry of an iteration is a limit too
	Freeze    int             // so many of each team's next iterations stay as they are
	NotBefore map[string]Date // by key of an item: it starts no earlier in this draft, whatever it says itself
	Aim       Aim             // what makes a schedule better; empty: by dates
	Past      forecast.Past   // what the journal taught, for the plays
	Workers   int             // how many goroutines play, by odds; below 2, one. The draft does not depend on it
	// AssumeSizes gives items without a size the usual one of their team and kind
	// (plan.UsualSize), in all that a draft counts; the items themselves stay without.
	AssumeSizes bool
	LeaveAgreed bool        // days that teams agreed on for their needs are no dates to meet
	Tries       int         // how much is tried beyond the first orders: so many more, as many neighbourhoods; 0 chooses
	Quick       bool        // by odds: the first good draft, of few orders; nothing is made better
	Stop        func() bool // asked between tries; true ends the search early. Nil never does
}

// Schedule is a drafted schedule. It prints as the draft command prints it.
type Schedule struct {
	Placements []Placement `json:"placements"`
	Unplaced   []Unplaced  `json:"unplaced"`
	Rough      []Rough     `json:"rough,omitempty"`
	Overloads  []Overload  `json:"overloads"`
	Releases   []Finish    `json:"releases"`
	Score      Score       `json:"score"`
}

// Placement is where one item stands. From is where it stands today.
type Placement struct {
	Item      string `json:"item"`
	Team      string `json:"team"`
	Iteration string `json:"iteration"`
	Start     Date   `json:"start"`
	End       Date   `json:"end"`
	Moved     bool   `json:"moved"`
	From      string `json:"from,omitempty"`
	// Assumed is the size that it was drafted with, where it has none.
	Assumed *float64 `json:"assumed,omitempty"`
	Why     Why      `json:"why"`
}

// Unplaced is an item that has no place, and why.
type Unplaced struct {
	Item  string `json:"item"`
	Moved bool   `json:"moved,omitempty"`
	From  string `json:"from,omitempty"`
	Why   Why    `json:"why"`
}

// Rough is where what a rough size comes to beyond its items stands: in pieces, which are no
// items. See plan.Plan.Whole.
type Rough struct {
	Item   string      `json:"item"`
	Team   string      `json:"team"`
	Places []RoughPart `json:"places"`          // by time
	Loose  float64     `json:"loose,omitempty"` // what finds no place, in the team's unit
	Moved  bool        `json:"moved"`
	Why    Why         `json:"why"` // of its last piece
}

// RoughPart is what of a rough size stands in one iteration, in the team's unit.
type RoughPart struct {
	Iteration string  `json:"iteration"`
	Start     Date    `json:"start"`
	End       Date    `json:"end"`
	Size      float64 `json:"size"`
	Was       float64 `json:"was"` // what stands there today
}

// Overload is an iteration in which items that may not move pass what it may
// be filled to.
type Overload struct {
	Team      string  `json:"team"`
	Iteration string  `json:"iteration"`
	Capacity  float64 `json:"capacity"`
	Load      float64 `json:"load"`
}

// Finish is when a release finishes in the draft. Finish is empty where nothing
// of it is left to schedule.
type Finish struct {
	Key      string `json:"key"`
	Finish   Date   `json:"finish,omitzero"`
	Due      Date   `json:"due,omitzero"`
	LateDays int    `json:"lateDays"`

	Chance      *float64 `json:"chance,omitempty"`      // chance, 0 to 1, of landing by the due date; see Foresee
	ChanceToday *float64 `json:"chanceToday,omitempty"` // the same of today's plan
}

// Score is how good a schedule is: less is better, in this order (with
// KeepClose, Moves first).
type Score struct {
	LateDays   int     `json:"lateDays"`
	Importance float64 `json:"importance"`
	Moves      int     `json:"moves"`
	// LateDaysBound is proven: no valid schedule has fewer late days.
	LateDaysBound int `json:"lateDaysBound"`

	ExpectedLateDays      *float64 `json:"expectedLateDays,omitempty"`      // over plays of the forecast; see Foresee
	ExpectedLateDaysToday *float64 `json:"expectedLateDaysToday,omitempty"` // the same of today's plan
	ExpectedLateDaysBound *float64 `json:"expectedLateDaysBound,omitempty"` // no plan of this work has fewer; see forecast.Hindsight
}

// Draft proposes a schedule. The same program and options give the same result,
// unless Stop ends the search early.
//
// An order is built in time linear in items, needs and the iterations looked at for each
// item; 12 orders and Tries more are built, without Tries 20 to 300, the fewer the larger
// the program. By dates the best is then made better, in about 0.4 s where Tries says no less;
// by odds a few are, and some hundred schedules are played, among them the steps of a descent from the best.
func Draft(p *plan.Plan, o Options) Schedule {
	m := newModel(p, o)
	if o.Aim == ByOdds {
		best := m.searchByOdds(o)
		m.lean = best.lean
		return m.result(best.sketch)
	}
	return m.result(m.search(o))
}

// Rate counts how good the plan is as it stands.
func Rate(p *plan.Plan, o Options) Score {
	m := newModel(p, o)
	score := m.score(m.now())
	score.LateDaysBound = m.bound()
	return score
}

// Explain says of an item why it stands where it stands in the plan as it is, or
// why it is unplaced. The second result is false for items that are not
// scheduled: groups, done, kept out. Of what is rough it speaks of the last piece.
func Explain(p *plan.Plan, o Options, item string) (Why, bool) {
	m := newModel(p, o)
	for n := len(m.nodes) - 1; n >= 0; n-- {
		if m.key(n) == item {
			return m.whyNow(n), true
		}
	}
	return Why{}, false
}

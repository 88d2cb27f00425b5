package forecast

import (
	"jantrel/core/plan"
	"jantrel/core/program"
)

// Safety is how safe a date is.
type Safety string

// How safe dates are, by their chance.
const (
	Safe     Safety = "safe"      // 85 % or more
	Open     Safety = "open"      // 50 % or more
	InDanger Safety = "in danger" // less: it will rather be missed
)

// SafetyOf is how safe a date with a chance, 0 to 1, is.
func SafetyOf(chance float64) Safety {
	switch {
	case chance >= 0.85:
		return Safe
	case chance >= 0.5:
		return Open
	}
	return InDanger
}

// Word is what became of a promise.
type Word string

// What becomes of promises.
const (
	WordStands    Word = "stands"    // it is to be kept
	WordKept      Word = "kept"      // what was promised landed in time
	WordMissed    Word = "missed"    // it landed too late, or has not although the day is over
	WordLanded    Word = "landed"    // nobody knows when
	WordTakenBack Word = "withdrawn" // it is not to be kept any more
)

// Watched is how a promise stands on a day.
type Watched struct {
	Promise program.Promise `json:"promise"`
	Word    Word            `json:"word"`
	Chance  *float64        `json:"chance,omitempty"` // of one that stands: chance, 0 to 1, of being kept
	Safety  Safety          `json:"safety,omitempty"` // of one that stands
	Fell    bool            `json:"fell,omitempty"`   // of one that stands: that is much less than it was, see Doubtful
	Even    Date            `json:"even,omitzero"`    // when it lands at even odds; none: beyond what is played
	Landed  Date            `json:"landed,omitzero"`  // when it did
	// Late is by how many days it misses its day: of one that is to land the mean over the plays, of one that has
	// the difference, less than 0 where it was early.
	Late float64 `json:"late"`
}

// muchLess is by how much the chance of a promise may fall before somebody should know.
const muchLess = 0.1

// Doubtful reports whether somebody should see to a promise: it stands, or was to be kept by now, and
// will rather be missed, or its chance is less by 10 points than when it was given.
func (w Watched) Doubtful() bool {
	return w.Word == WordStands && (w.Safety == InDanger || w.Fell) || w.Word == WordMissed && w.Landed.IsZero()
}

// Promised is the work that a promise is about, with its day as due date.
func Promised(p *program.Program, of *program.Promise) Set {
	set := Set{Release: of.Release}
	for i := range p.Milestones {
		if of.Milestone != "" && p.Milestones[i].Key == of.Milestone {
			set = SetOf(&p.Milestones[i])
		}
	}
	set.Key, set.Due = of.Key, of.Date
	return set
}

// SetOf is the work of a milestone: what it needs, with its date as due date.
func SetOf(m *program.Milestone) Set { return Set{Key: m.Key, Items: m.Needs, Due: m.Date} }

// LandedOn is the day on which the last item of some work was done. landed is false where something of it is still
// to do, or where there is nothing; the day is none where it was not noted.
func LandedOn(p *plan.Plan, set Set) (day Date, landed bool) {
	tree := p.Tree()
	for _, i := range set.Leaves(p, func(i int) bool { return tree.IsLeaf(i) && !p.Items[i].KeptOut }) {
		if p.Items[i].State != program.Done {
			return 0, false
		}
		day, landed = max(day, p.Items[i].DoneOn), true
	}
	return day, landed
}

// OddsOf is the chance that a promise has on the day of o; certain where what it is about has landed by its day.
// It plays the plan once.
func OddsOf(p *plan.Plan, o Options, promise *program.Promise) float64 {
	set := Promised(&p.Program, promise)
	if on, landed := LandedOn(p, set); landed {
		return chanceOf(on <= promise.Date)
	}
	o.Releases, o.Sets = []string{""}, []Set{set}
	return *Play(p, o).Sets[0].Chance
}

func chanceOf(sure bool) float64 {
	if sure {
		return 1
	}
	return 0
}

// Promises is how the promises of a program stand on the day of o, in the order of the program. It takes the time of
// Play where one of them is still to be kept, else next to none.
func Promises(p *plan.Plan, o Options) []Watched {
	all := make([]Watched, len(p.Promises))
	var stand []int
	o.Releases, o.Sets = []string{""}, nil
	for i := range p.Promises {
		w := Watched{Promise: p.Promises[i], Word: WordStands}
		set := Promised(&p.Program, &w.Promise)
		on, landed := LandedOn(p, set)
		if landed && !on.IsZero() {
			w.Landed, w.Late = on, float64(on-w.Promise.Date)
		}
		switch {
		case !w.Promise.Stands():
			w.Word = WordTakenBack
		case landed && on.IsZero():
			w.Word = WordLanded
		case landed && w.Late <= 0:
			w.Word = WordKept
		case landed, w.Promise.Date < o.Today:
			w.Word = WordMissed
		}
		if w.Word == WordStands || w.Word == WordMissed && !landed {
			stand, o.Sets = append(stand, i), append(o.Sets, set)
		}
		all[i] = w
	}
	if len(stand) == 0 {
		return all
	}
	for n, l := range Play(p, o).Sets {
		w := &all[stand[n]]
		w.Even, w.Late = l.At(50), l.ExpectedLateDays
		if w.Word != WordStands {
			continue
		}
		w.Chance, w.Safety = l.Chance, SafetyOf(*l.Chance)
		w.Fell = w.Promise.Chance != nil && *l.Chance <= *w.Promise.Chance-muchLess+nothing
	}
	return all
}

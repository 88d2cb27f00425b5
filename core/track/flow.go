package track

import (
	"cmp"
	"slices"
	"strings"
	"time"

	"jantrel/core/calendar"
	"jantrel/core/program"
)

// Flow is how many items of a scope were in each state at the end of a day.
type Flow struct {
	Day    program.Date `json:"day"`
	Todo   int          `json:"todo"`
	Doing  int          `json:"doing"`
	Review int          `json:"review"`
	Done   int          `json:"done"`
}

func day(at time.Time) program.Date { return calendar.OfTime(at) }

func (f *Flow) of(state program.ItemState) *int {
	return byState(state, &f.Todo, &f.Doing, &f.Review, &f.Done)
}

// flow is how the items of a fold's first run were spread over the states, day by day up to
// today. It goes back from what there is, step by step.
func (f *fold) flow(run *Run, today program.Date) []Flow {
	var now Flow
	for key := range f.in {
		*now.of(f.cards[key].state)++
	}
	first, last := day(run.From), today
	flow := make([]Flow, max(0, int(last-first)+1))
	at := len(run.Steps)
	for i := len(flow) - 1; i >= 0; i-- {
		end := first.Add(i)
		for ; at > 0 && day(run.Steps[at-1].At) > end; at-- {
			now.back(&run.Steps[at-1])
		}
		now.Day = end
		flow[i] = now
	}
	return flow
}

// back takes a step back.
func (f *Flow) back(s *Step) {
	switch s.What {
	case Added:
		*f.of(s.To)--
	case Removed:
		*f.of(s.From)++
	case Moved, Finished, Reopened:
		*f.of(s.To)--
		*f.of(s.From)++
	}
}

// Pass is how items of a scope pass from their start to their end. Days are those of the calendar,
// the first and the last included.
type Pass struct {
	Done  []Passed `json:"done"` // items that are done, with both ends in the journal, the latest last
	Days  *Usually `json:"days,omitempty"`
	Going []Aged   `json:"going"` // what is under way, the oldest first
	Weeks []Week   `json:"weeks"` // the oldest first; the last may not be over
}

// Passed is an item that was begun and done.
type Passed struct {
	Item string       `json:"item"`
	Days int          `json:"days"`
	On   program.Date `json:"on"` // when it was done
}

// Usually is how many days items took: half of them, and 85 %, no more than that.
type Usually struct {
	Half int `json:"half"`
	Most int `json:"most"`
	Of   int `json:"of"` // how many items tell
}

// Aged is an item under way.
type Aged struct {
	Item string `json:"item"`
	Days int    `json:"days"`           // since work on it began, or since the journal began where it had by then
	Over bool   `json:"over,omitempty"` // longer than 85 % of those that are done took
	Long bool   `json:"long,omitempty"` // longer than the journal tells
}

// Week is how many items were done in a week.
type Week struct {
	Monday program.Date `json:"monday"`
	Done   int          `json:"done"`
}

// pass is how the items of a fold's first run pass, up to a day. An item begins when it first leaves
// to do, and is done when it last came to be so. Of n sorted times the one that a share of them does
// not pass is at rank ⌈share × n⌉ (nearest rank).
func (f *fold) pass(run *Run, today program.Date) Pass {
	begun, done := map[string]program.Date{}, map[string]program.Date{}
	for i := range run.Steps {
		s := &run.Steps[i]
		if _, ok := begun[s.Item]; !ok && s.From == program.Todo && s.To != "" && s.To != program.Todo {
			begun[s.Item] = day(s.At)
		}
		switch s.What {
		case Finished:
			done[s.Item] = day(s.At)
		case Reopened, Removed:
			delete(done, s.Item)
		}
	}
	p := Pass{Done: []Passed{}, Going: []Aged{}, Weeks: []Week{}}
	first, last := monday(day(run.From)), monday(today)
	for week := first; week <= last; week = week.Add(7) {
		p.Weeks = append(p.Weeks, Week{Monday: week})
	}
	for item, on := range done {
		if n := int(monday(on)-first) / 7; n < len(p.Weeks) {
			p.Weeks[n].Done++
		}
		if from, ok := begun[item]; ok {
			p.Done = append(p.Done, Passed{item, int(on-from) + 1, on})
		}
	}
	slices.SortFunc(p.Done, func(a, b Passed) int { return cmp.Or(cmp.Compare(a.On, b.On), strings.Compare(a.Item, b.Item)) })
	p.Days = usually(p.Done)
	for item := range f.in {
		if !f.cards[item].state.UnderWay() {
			continue
		}
		aged := Aged{Item: item}
		from, ok := begun[item]
		if !ok {
			from, aged.Long = day(run.From), true
		}
		aged.Days = int(today-from) + 1
		aged.Over = p.Days != nil && aged.Days > p.Days.Most
		p.Going = append(p.Going, aged)
	}
	slices.SortFunc(p.Going, func(a, b Aged) int { return cmp.Or(b.Days-a.Days, strings.Compare(a.Item, b.Item)) })
	return p
}

// usually is how long items took; nil where none tells.
func usually(done []Passed) *Usually {
	n := len(done)
	if n == 0 {
		return nil
	}
	days := make([]int, n)
	for i := range done {
		days[i] = done[i].Days
	}
	slices.Sort(days)
	at := func(percent int) int { return days[(percent*n+99)/100-1] }
	return &Usually{at(50), at(85), n}
}

func monday(d program.Date) program.Date { return d.Add(1 - d.Weekday()) }

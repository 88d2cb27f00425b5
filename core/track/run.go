package track

import (
	"maps"
	"slices"
	"time"

	"jantrel/core/program"
)

// Asked says which iteration is asked about.
type Asked struct {
	Team, Iteration string
	From            time.Time // from when on it runs where the journal does not tell of its start: its first moment
	Unstarted       bool      // nobody has started it: it begins with what stands in it now
}

// Run is how an iteration went since it was started. Sizes are in its team's unit. Always
// Start + Added − Removed + Grown − Shrunk = Total, and Done + Left = Total, in items and in size.
type Run struct {
	Team      string `json:"team"`
	Iteration string `json:"iteration"`

	From    time.Time `json:"from"`  // when it was started, as far as the journal reaches back
	Start   Sum       `json:"start"` // what stood in it then
	Added   Sum       `json:"added"` // since then
	Removed Sum       `json:"removed"`
	Grown   Sum       `json:"grown"` // of what stays in it: size alone, no items
	Shrunk  Sum       `json:"shrunk"`
	Total   Sum       `json:"total"` // now
	Done    Sum       `json:"done"`
	Left    Sum       `json:"left"`

	DoneBefore Sum    `json:"doneBefore"` // of what stood in it at the start
	Steps      []Step `json:"steps"`      // the oldest first
	Hours      Hours  `json:"hours"`      // left of its tasks; over several teams too
}

// Sum is a number of items and their size.
type Sum struct {
	Items int     `json:"items"`
	Size  float64 `json:"size"`
}

func (s Sum) plus(t Sum) Sum  { return Sum{s.Items + t.Items, s.Size + t.Size} }
func (s Sum) minus(t Sum) Sum { return Sum{s.Items - t.Items, s.Size - t.Size} }

// What is what happened to an item of a run.
type What string

// What may happen.
const (
	Added    What = "added"    // to the iteration
	Removed  What = "removed"  // from it
	Grown    What = "grown"    // in size
	Shrunk   What = "shrunk"   // in size
	Finished What = "finished" // is done
	Reopened What = "reopened" // is no longer done
	Moved    What = "moved"    // to another state, neither of which is done, or another step of its state
	Blocked  What = "blocked"  // cannot go on
	Freed    What = "freed"    // is no longer blocked
)

// Step is one thing that happened to one item.
type Step struct {
	Revision int64             `json:"revision"` // of the edit
	At       time.Time         `json:"at"`
	By       string            `json:"by"`
	Why      string            `json:"why,omitempty"` // the reason that they gave for the edit
	Item     string            `json:"item"`
	What     What              `json:"what"`
	Size     float64           `json:"size"`               // of the item then; of one that has grown or shrunk by how much
	From     program.ItemState `json:"from,omitempty"`     // what its state was; of one that was added, none
	To       program.ItemState `json:"to,omitempty"`       // what it came to; of one that was removed, none
	FromStep string            `json:"fromStep,omitempty"` // as the item named it; see program.StepOf
	ToStep   string            `json:"toStep,omitempty"`
	Total    Sum               `json:"total"` // of the run, after it
	Done     Sum               `json:"done"`
}

// Course is how an item of a run has come along.
type Course struct {
	Item  string    `json:"item"`
	Since time.Time `json:"since,omitzero"`  // when it came into its state, or step of it; none: before the journal tells
	Back  int       `json:"back,omitempty"`  // how often it went from review back to work
	Added bool      `json:"added,omitempty"` // it came after the start
	// Blocked is since when it is blocked; none: it is not, or has been since before the journal tells.
	Blocked time.Time `json:"blocked,omitzero"`
}

// Runs folds edits, the oldest first, that led to a program, into what became of iterations. The
// edits may reach back further than any of these. An iteration runs from the edit that started it
// on, where these tell of one, else from when Asked says; not from before the first of all edits
// that there are, began. Several changes of an item in one edit count as what they come to.
//
// Time is linear in changes, and n log n in items.
func Runs(p program.Program, asked []Asked, events []Event, began time.Time) ([]Run, map[string]Course) {
	of := make(map[place]int, len(asked))
	f := newFold(p, events, len(asked), func(_ string, c card) (int, bool) {
		run, ok := of[c.at()]
		return run, ok
	})
	opened := openings(events)
	for i, a := range asked {
		from := a.From
		if e := opened[place{a.Team, a.Iteration}]; e != nil {
			from, f.openers[i] = e.At, e
		}
		if from.Before(began) {
			from = began
		}
		of[place{a.Team, a.Iteration}] = i
		f.waits[i] = a.Unstarted
		f.runs[i] = Run{Team: a.Team, Iteration: a.Iteration, From: from, Steps: []Step{}, Hours: Hours{Steps: []HoursStep{}}}
	}
	f.walk(events)
	for key, c := range f.courses {
		if _, ok := f.in[key]; !ok {
			delete(f.courses, key)
		} else {
			c.Item = key
			f.courses[key] = c
		}
	}
	return f.runs, f.courses
}

// openings are the edits that started iterations last. One that is only opened again after
// it was closed goes on as it was started.
func openings(events []Event) map[place]*Event {
	by := map[place]*Event{}
	for i := range events {
		for _, it := range events[i].opened {
			by[it] = &events[i]
		}
	}
	return by
}

// fold is the state of the walk through the journal.
type fold struct {
	cards   cards
	runs    []Run
	where   func(key string, c card) (run int, ok bool) // the run that an item counts in
	in      map[string]int                              // the same, as it was found last
	tree    *tree                                       // where that follows from how items hang together; nil: it does not
	counts  bool                                        // sizes are left out: they are of several teams
	courses map[string]Course
	begun   []bool   // whether each run has been started by then
	waits   []bool   // whether it has not been started by the end either
	openers []*Event // the edits that start them, where there are some: what these bring into them stands in them at the start
}

// newFold is a fold into so many runs, of a program taken back to where the edits begin.
func newFold(p program.Program, events []Event, runs int, where func(string, card) (int, bool)) *fold {
	f := &fold{cards: cardsOf(p), runs: make([]Run, runs), where: where, in: map[string]int{}, courses: map[string]Course{}, begun: make([]bool, runs), waits: make([]bool, runs), openers: make([]*Event, runs)}
	for i := len(events) - 1; i >= 0; i-- {
		for k := len(events[i].changes) - 1; k >= 0; k-- {
			events[i].changes[k].back(f.cards)
		}
	}
	return f
}

// walk folds the edits, from where they begin.
func (f *fold) walk(events []Event) {
	for _, key := range slices.Sorted(maps.Keys(f.cards)) { // sums of sizes are rounded: always in one order
		c := f.cards[key]
		if i, ok := f.where(key, c); ok {
			f.in[key] = i
			if f.counts {
				c.size = 0
			}
			f.runs[i].take(c)
			f.runs[i].Hours.Left = tidy(f.runs[i].Hours.Left + c.hoursLeft())
		}
	}
	for i := range events {
		f.event(&events[i])
	}
	for i := range f.runs {
		run := &f.runs[i]
		if !f.begun[i] {
			run.begin()
		}
		run.Left = run.Total.minus(run.Done)
	}
}

// begin notes what stands in a run as it is started.
func (r *Run) begin() { r.Start, r.DoneBefore, r.Hours.Start = r.Total, r.Done, r.Hours.Left }

// take counts an item that stands in the run.
func (r *Run) take(c card) {
	r.Total = r.Total.plus(c.sum())
	if c.state == program.Done {
		r.Done = r.Done.plus(c.sum())
	}
}

func (c card) sum() Sum { return Sum{1, c.size} }

// begin starts those of the runs that are not started.
func (f *fold) begin(starts func(run int) bool) {
	for i := range f.runs {
		if !f.begun[i] && starts(i) {
			f.begun[i] = true
			f.runs[i].begin()
		}
	}
}

// event takes an edit in.
func (f *fold) event(e *Event) {
	f.begin(func(i int) bool { return !f.waits[i] && f.openers[i] == nil && !e.At.Before(f.runs[i].From) })
	defer f.begin(func(i int) bool { return !f.waits[i] && f.openers[i] == e })
	before := cards{}
	var touched []string
	for k := range e.changes {
		c := &e.changes[k]
		if _, seen := before[c.key]; !seen {
			before[c.key] = f.cards[c.key]
			touched = append(touched, c.key)
		}
		c.forth(f.cards)
	}
	for _, key := range touched {
		f.item(e, key, before[key], f.cards[key])
	}
	for _, key := range f.tree.drawn(touched, before) {
		f.item(e, key, f.cards[key], f.cards[key])
	}
}

// item takes in what an edit made of an item.
func (f *fold) item(e *Event, key string, was, is card) {
	from, leaves := f.in[key]
	to, comes := f.where(key, is)
	if comes {
		f.in[key] = to
	} else {
		delete(f.in, key)
	}
	if was.blocked != is.blocked {
		course := f.courses[key]
		course.Blocked = time.Time{}
		if is.blocked {
			course.Blocked = e.At
		}
		f.courses[key] = course
	}
	if was.there && is.there && (was.state != is.state || was.step != is.step) {
		course := f.courses[key]
		course.Since = e.At
		if was.state == program.Review && is.state == program.Doing {
			course.Back++
		}
		f.courses[key] = course
	} else if !was.there && is.there {
		course := f.courses[key]
		course.Since = e.At
		f.courses[key] = course
	}
	if f.counts {
		was.size, is.size = 0, 0
	}
	if leaves && comes && from == to {
		f.hours(e, from, key, was.hoursLeft(), is.hoursLeft())
		f.within(e, from, key, was, is)
		return
	}
	if leaves {
		f.hours(e, from, key, was.hoursLeft(), 0)
		f.step(e, from, Step{Item: key, What: Removed, Size: was.size, From: was.state}, was, card{})
	}
	if comes {
		f.hours(e, to, key, 0, is.hoursLeft())
		f.step(e, to, Step{Item: key, What: Added, Size: is.size, To: is.state}, card{}, is)
	}
}

// within takes in what an edit made of an item that stays in its run: one step for its size, one
// for its state, one for what blocks it.
func (f *fold) within(e *Event, run int, key string, was, is card) {
	if was.size != is.size {
		now := was
		now.size = is.size
		s := Step{Item: key, What: Grown, Size: is.size - was.size}
		if s.Size < 0 {
			s.What, s.Size = Shrunk, -s.Size
		}
		f.step(e, run, s, was, now)
		was = now
	}
	if was.state != is.state || was.step != is.step {
		s := Step{Item: key, What: Moved, Size: is.size, From: was.state, To: is.state, FromStep: was.step, ToStep: is.step}
		switch {
		case was.state == is.state:
		case is.state == program.Done:
			s.What = Finished
		case was.state == program.Done:
			s.What = Reopened
		}
		f.step(e, run, s, was, is)
	}
	if was.blocked != is.blocked {
		s := Step{Item: key, What: Freed, Size: is.size}
		if is.blocked {
			s.What = Blocked
		}
		f.step(e, run, s, is, is)
	}
}

// step makes a step of a run: from one state of an item to another, of which one may be none.
func (f *fold) step(e *Event, run int, s Step, was, is card) {
	r := &f.runs[run]
	if was.there {
		r.Total = r.Total.minus(was.sum())
		if was.state == program.Done {
			r.Done = r.Done.minus(was.sum())
		}
	}
	if is.there {
		r.take(is)
	}
	if !f.begun[run] {
		return
	}
	course := f.courses[s.Item]
	switch r.add(&s); s.What {
	case Added:
		course.Added = true
	case Removed:
		course.Added = false
	}
	f.courses[s.Item] = course
	s.Revision, s.At, s.By, s.Why, s.Total, s.Done = e.Revision, e.At, e.By, e.Why, r.Total, r.Done
	r.Steps = append(r.Steps, s)
}

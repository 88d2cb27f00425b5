package needs

import (
	"cmp"
	"iter"
	"slices"

	"jantrel/core/plan"
	"jantrel/core/program"
)

// Owed is a need across teams that is still open: what a team that gives owes one that waits for it.
// A need between parents is owed once by each pair of teams that have work of it, by all of
// their leaves together.
type Owed struct {
	Item      string            `json:"item"` // as the program has the need
	Needs     string            `json:"needs"`
	Gives     string            `json:"gives"` // the team of what is needed; empty: nobody's
	Waits     string            `json:"waits"`
	Agreement program.Agreement `json:"agreement"`
	Given     program.Date      `json:"given,omitzero"` // the day that was offered last, or agreed to
	Why       string            `json:"why,omitempty"`  // what was said with the last step
	Turn      Side              `json:"turn,omitempty"` // whose it is to say the next word; empty: nobody's
	Missed    bool              `json:"missed"`         // the plan has it done after the day that was agreed to, or nowhere
	Status    Status            `json:"status"`
	Spare     *int              `json:"spare,omitempty"`   // days; nil: an end has no place
	By        program.Date      `json:"by,omitzero"`       // the last day by which it is due: as agreed to; else as asked for; else as the plan wants it; none: what waits has no place
	Until     program.Date      `json:"until,omitzero"`    // the last day of the iteration in which it is done; none: it has no place
	From      program.Date      `json:"from,omitzero"`     // the first day of that, of the earliest of it
	Starts    program.Date      `json:"starts,omitzero"`   // the first day of the iteration of what waits
	Ends      program.Date      `json:"ends,omitzero"`     // the last day of the iteration of what waits
	Leaves    int               `json:"leaves"`            // how many needs between leaves it stands for
	Between   []Between         `json:"between,omitempty"` // these, where they are not the need itself: the first 50

	placed  bool         // all that is needed has a place
	planned program.Date // the last day by which the plan wants it
}

// Side is one side of a need.
type Side string

// The sides.
const (
	Gives Side = "gives" // the team of what is needed
	Waits Side = "waits" // the team of what needs it
)

// turns are whose it is to say the next word.
var turns = map[program.Agreement]Side{program.Asked: Gives, program.Offered: Waits, program.Declined: Waits}

// Agree reports whether teams of a program agree on the needs between them.
func Agree(p *program.Program) bool { return p.Settings.Agreements == nil || *p.Settings.Agreements }

// Between is a need between two leaves.
type Between struct {
	Item  string `json:"item"`
	Needs string `json:"needs"`
	State
}

// mostBetween is how many of them are listed at the most.
const mostBetween = 50

// Soon reports whether it is wanted within the next three weeks, or was before.
func (o *Owed) Soon(today program.Date) bool { return !o.By.IsZero() && o.By <= today.Add(soonDays) }

const soonDays = 21

// Wanted counts needs.
type Wanted struct {
	Needs  int `json:"needs"`
	Tight  int `json:"tight"`
	Broken int `json:"broken"`
	Open   int `json:"open"` // nobody has agreed to them
}

func (w *Wanted) take(o *Owed) {
	w.Needs++
	switch o.Status {
	case StatusTight:
		w.Tight++
	case StatusBroken:
		w.Broken++
	}
	if o.Agreement != program.Agreed {
		w.Open++
	}
}

// Cell is what a team owes another, counted.
type Cell struct {
	Gives string `json:"gives"`
	Waits string `json:"waits"`
	Wanted
	Soon int `json:"soon"` // wanted within three weeks
}

// OwedOf lists what teams owe one another, what is wanted first first, and what has no day last; else in the order of
// the program. What is done on either side, or kept out, is owed no more. Time is n log n in needs between leaves.
func OwedOf(p *plan.Plan) []Owed { return owed(p.Whole()) }

var owed = plan.Once(func(p *plan.Plan) []Owed {
	type pair struct {
		need         int
		gives, waits string
	}
	at := map[pair]int{}
	all := []Owed{}
	for _, e := range Edges(p) {
		item, needed := &p.Items[e.Item], &p.Items[e.Needs]
		if item.Team == needed.Team || item.State == program.Done || needed.State == program.Done {
			continue
		}
		key := pair{e.Need, needed.Team, item.Team}
		i, known := at[key]
		if !known {
			need := &p.Needs[e.Need]
			i = len(all)
			at[key] = i
			all = append(all, Owed{Item: need.Item, Needs: need.Needs, Gives: needed.Team, Waits: item.Team, Agreement: cmp.Or(need.Agreement, program.Asked), Status: StatusHolds})
		}
		all[i].take(p, e)
	}
	for key, i := range at {
		all[i].agree(p, &p.Needs[key.need])
	}
	slices.SortStableFunc(all, func(a, b Owed) int {
		if a.By.IsZero() || b.By.IsZero() {
			return boolean(a.By.IsZero()) - boolean(b.By.IsZero())
		}
		return cmp.Compare(a.By, b.By)
	})
	return all
})

func boolean(is bool) int {
	if is {
		return 1
	}
	return 0
}

// take counts one need between leaves in.
func (o *Owed) take(p *plan.Plan, e Edge) {
	o.Leaves++
	needed, neededPlaced := stands(p, e.Needs)
	item, placed := p.Place(e.Item)
	s := State{o.Status, o.Spare}
	s.take(p, e, needed, neededPlaced, item, placed)
	if b := (Between{Item: p.KeyOf(e.Item), Needs: p.KeyOf(e.Needs)}); (b.Item != o.Item || b.Needs != o.Needs) && len(o.Between) < mostBetween {
		b.Status = StatusHolds
		b.take(p, e, needed, neededPlaced, item, placed)
		o.Between = append(o.Between, b)
	}
	o.Status, o.Spare = s.Status, s.Spare
	o.placed = neededPlaced && (o.placed || o.Leaves == 1)
	if neededPlaced {
		o.Until = max(o.Until, needed.End)
		if o.From.IsZero() || needed.Start < o.From {
			o.From = needed.Start
		}
	}
	if !placed {
		return
	}
	if by := item.Start.Add(-1 - e.LagDays); o.By.IsZero() || by < o.By {
		o.By, o.planned, o.Starts, o.Ends = by, by, item.Start, item.End
	}
}

// agree notes how far the two teams have come, once all of it is counted in.
func (o *Owed) agree(p *plan.Plan, need *program.Need) {
	if !Agree(&p.Program) {
		o.Agreement = program.Agreed // there is nothing to say
		return
	}
	o.Given, o.Why, o.Turn = need.Given, need.Why, turns[o.Agreement]
	var agreed bool
	o.By, agreed = Due(&p.Program, need, o.planned)
	o.Missed = agreed && (!o.placed || o.Until > o.By)
}

// Due is the last day by which a need between two teams is due, and whether they agreed on it: as agreed; else as asked
// for; else planned, as the plan wants it.
func Due(p *program.Program, need *program.Need, planned program.Date) (by program.Date, agreed bool) {
	switch {
	case !Agree(p):
	case need.Agreement == program.Agreed && !need.Given.IsZero():
		return need.Given, true
	case need.Agreement != program.Agreed && !need.Wanted.IsZero():
		return need.Wanted, false
	}
	return planned, false
}

// Missed are the needs that the plan has done after the day that was agreed on, or nowhere.
func Missed(p *plan.Plan) []Owed {
	missed := []Owed{}
	if !slices.ContainsFunc(p.Needs, func(n program.Need) bool { return n.Agreement == program.Agreed && !n.Given.IsZero() }) {
		return missed // as in most programs: what is owed need not be asked
	}
	for _, o := range OwedOf(p) {
		if o.Missed {
			missed = append(missed, o)
		}
	}
	return missed
}

// WantedBy is the last day by which the plan wants what an item needs, the earliest of all teams that need it; none where
// what waits has no place.
func WantedBy(p *plan.Plan, item, needed string) (by program.Date) {
	for _, o := range OwedOf(p) {
		if o.Item == item && o.Needs == needed && !o.planned.IsZero() && (by.IsZero() || o.planned < by) {
			by = o.planned
		}
	}
	return by
}

// MapOf counts what each team owes each other on a day: the cells in which there is something, in the order of the
// teams, first of those that give.
func MapOf(p *plan.Plan, today program.Date) []Cell {
	all := OwedOf(p)
	return CellsOf(&p.Program, today, slices.Values(all))
}

// CellsOf counts some of what teams owe each other, as MapOf does.
func CellsOf(p *program.Program, today program.Date, owed iter.Seq[Owed]) []Cell {
	at := map[[2]string]int{}
	list := []Cell{}
	for o := range owed {
		key := [2]string{o.Gives, o.Waits}
		i, known := at[key]
		if !known {
			i = len(list)
			at[key], list = i, append(list, Cell{Gives: o.Gives, Waits: o.Waits})
		}
		list[i].take(&o)
		if o.Soon(today) {
			list[i].Soon++
		}
	}
	order := teamOrder(p)
	slices.SortFunc(list, func(a, b Cell) int {
		return cmp.Or(order(a.Gives)-order(b.Gives), order(a.Waits)-order(b.Waits))
	})
	return list
}

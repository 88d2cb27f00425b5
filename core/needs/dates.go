package needs

import (
	"slices"

	"jantrel/core/plan"
	"jantrel/core/program"
)

// Dated is work that is to be done by a day.
type Dated struct {
	Item   int // position of the item that it is of
	Due    program.Date
	Leaves []int // positions of all of it that is still to be scheduled
}

// DatesToMeet are, beside the releases', the days by which something is to be done: the due dates of items, in the
// order of the program, and then, unless told to leave them out what teams agreed to give one another by a day: once for each
// item and team that gives it, by the earliest such day. Time is linear in items and needs between leaves.
func DatesToMeet(p *plan.Plan, leaveAgreed bool) []Dated {
	var list []Dated
	tree := p.Tree()
	of := func(i int, due program.Date, counts func(leaf int) bool) {
		d := Dated{Item: i, Due: due}
		for _, leaf := range tree.Leaves(i) {
			if tree.ToSchedule(leaf) && counts(leaf) {
				d.Leaves = append(d.Leaves, leaf)
			}
		}
		if len(d.Leaves) > 0 {
			list = append(list, d)
		}
	}
	for i := range p.Items {
		if item := &p.Items[i]; !item.Due.IsZero() && item.State != program.Done && !item.KeptOut {
			of(i, item.Due, func(int) bool { return true })
		}
	}
	if leaveAgreed || !Agree(&p.Program) {
		return list
	}
	type given struct {
		item int
		team string
	}
	by := map[given]program.Date{}
	var order []given
	for _, e := range Edges(p) {
		need, item, needed := &p.Needs[e.Need], &p.Items[e.Item], &p.Items[e.Needs]
		if need.Agreement != program.Agreed || need.Given.IsZero() || item.Team == needed.Team || item.State == program.Done || needed.State == program.Done {
			continue
		}
		key := given{tree.Index[need.Needs], needed.Team}
		was, known := by[key]
		if !known {
			order = append(order, key)
		}
		if !known || need.Given < was {
			by[key] = need.Given
		}
	}
	slices.SortStableFunc(order, func(a, b given) int { return a.item - b.item })
	for _, key := range order {
		of(key.item, by[key], func(leaf int) bool { return p.Items[leaf].Team == key.team })
	}
	return list
}

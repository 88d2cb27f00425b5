package needs

import (
	"slices"

	"jantrel/core/plan"
)

// Chain is items each of which waits for the one before it.
type Chain struct {
	Items []int   // positions of leaves, what is done first first
	Gaps  []int   // days between, before each of Items; the first has none
	Days  float64 // of the work of all, and the days between
}

// Chains returns the longest chain of needs that ends with one of some leaves, by time (the critical path method, with
// each item taking so many days and nobody short of people); then the longest that shares no item with it, and so on, at
// most so many. Only what is still to be scheduled counts; what stands on a cycle of needs does not. Of two that are
// equal the one of what stands further up in the program is given. Time is linear in items and needs between leaves, for
// each chain.
func Chains(p *plan.Plan, ends []int, days func(leaf int) float64, most int) []Chain {
	tree := p.Tree()
	before := make([][]Edge, len(p.Items)) // what each item needs
	after := make([][]int, len(p.Items))
	open := make([]int, len(p.Items))
	for _, e := range Edges(p) {
		if tree.ToSchedule(e.Item) && tree.ToSchedule(e.Needs) {
			before[e.Item] = append(before[e.Item], e)
			after[e.Needs] = append(after[e.Needs], e.Item)
			open[e.Item]++
		}
	}
	var order []int // what is needed first; what is on a cycle, or waits for one, is in no order
	for i := range p.Items {
		if open[i] == 0 && tree.ToSchedule(i) {
			order = append(order, i)
		}
	}
	for n := 0; n < len(order); n++ {
		for _, i := range after[order[n]] {
			if open[i]--; open[i] == 0 {
				order = append(order, i)
			}
		}
	}
	ends = slices.Sorted(slices.Values(ends))
	gone := make([]bool, len(p.Items))
	var chains []Chain
	for len(chains) < most {
		chain := longest(order, before, gone, ends, days)
		if len(chain.Items) == 0 {
			break
		}
		chains = append(chains, chain)
		for _, i := range chain.Items {
			gone[i] = true
		}
	}
	return chains
}

// longest finds the longest chain among what is not gone.
func longest(order []int, before [][]Edge, gone []bool, ends []int, days func(leaf int) float64) (chain Chain) {
	type reach struct {
		days float64 // until it is done
		from int     // place in before of what it waits for the longest; -1: for nothing
	}
	reached := make(map[int]reach, len(order))
	for _, i := range order {
		if gone[i] {
			continue
		}
		r := reach{0, -1}
		for n, e := range before[i] {
			if b, there := reached[e.Needs]; there && (r.from < 0 || b.days+float64(e.LagDays) > r.days) {
				r = reach{b.days + float64(e.LagDays), n}
			}
		}
		r.days += days(i)
		reached[i] = r
	}
	last := -1
	for _, i := range ends {
		if r, there := reached[i]; there && (last < 0 || r.days > reached[last].days) {
			last = i
		}
	}
	if last < 0 {
		return chain
	}
	chain.Days = reached[last].days
	for i := last; ; {
		chain.Items = append(chain.Items, i)
		from := reached[i].from
		if from < 0 {
			chain.Gaps = append(chain.Gaps, 0)
			break
		}
		chain.Gaps = append(chain.Gaps, before[i][from].LagDays)
		i = before[i][from].Needs
	}
	slices.Reverse(chain.Items)
	slices.Reverse(chain.Gaps)
	return chain
}

// Package standing gathers what every stage shows of the plan as it is: loads
// against capacities, how needs stand, what lacks what, and how many of each are
// wrong.
package standing

import (
	"jantrel/core/plan"
	"jantrel/core/program"
)

// Facts are computed from a program and a day. Everything in them is found by
// the key of what it speaks of, so that two can be compared entry by entry.
type Facts struct {
	Iterations []IterationFacts `json:"iterations"`
	Teams      []TeamFacts      `json:"teams"`
	Needs      []NeedFacts      `json:"needs"`
	Items      []ItemFacts      `json:"items"`
	Counts     *Counts          `json:"counts,omitempty"` // left out of updates: they follow from the entries
}

// Counts are the numbers of the standing strip, and the keys behind them.
type Counts struct {
	Over     []IterationRef `json:"over"`
	Broken   []NeedRef      `json:"broken"`
	NotReady []string       `json:"notReady"`
	Unplaced []string       `json:"unplaced"`
}

// IterationRef names an iteration.
type IterationRef struct {
	Team string `json:"team"`
	Key  string `json:"key"`
}

// NeedRef names a need.
type NeedRef struct {
	Item  string `json:"item"`
	Needs string `json:"needs"`
}

// Of computes the facts of p on a day, in time linear in its things: what the plan resolves
// once is not counted.
func Of(p *plan.Plan, today program.Date) Facts {
	f := Facts{Counts: &Counts{Over: []IterationRef{}, Broken: []NeedRef{}, NotReady: []string{}, Unplaced: []string{}}}
	f.iterations(p, today)
	f.needs(p)
	f.items(p)
	return f
}

// Since returns what of f is new or different from before: the entries to send
// to who has the others. Counts are left out: they follow from the entries.
func (f Facts) Since(before Facts) Facts {
	return Facts{
		Iterations: changed(before.Iterations, f.Iterations),
		Teams:      changed(before.Teams, f.Teams),
		Needs:      changed(before.Needs, f.Needs),
		Items:      changed(before.Items, f.Items),
	}
}

func equal[T comparable](a, b *T) bool { return a == b || a != nil && b != nil && *a == *b }

// fact is an entry that is found by the key of what it speaks of.
type fact[T any] interface {
	*T
	key() [2]string
	same(as *T) bool
}

// changed returns the entries of after that before has not, by key, or has
// otherwise.
func changed[T any, P fact[T]](before, after []T) []T {
	different := []T{}
	var at map[[2]string]int
	for i := range after {
		x := P(&after[i])
		// Mostly the lists match place by place; the index is for when they do not.
		j, known := i, i < len(before) && P(&before[i]).key() == x.key()
		if !known {
			if at == nil {
				at = make(map[[2]string]int, len(before))
				for j := range before {
					at[P(&before[j]).key()] = j
				}
			}
			j, known = at[x.key()]
		}
		if !known || !x.same(&before[j]) {
			different = append(different, *x)
		}
	}
	return different
}

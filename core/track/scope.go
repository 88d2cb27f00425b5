package track

import (
	"jantrel/core/plan"
	"jantrel/core/program"
)

// Rescoped returns the items by which an edit changed what has begun holds, in the order of rank: what
// came into an iteration that is open, or into a release whose start has come; what left it; and what
// is larger or smaller there. Starting and closing an iteration changes no scope; neither does work on
// what it holds. Time is linear in items.
func Rescoped(before, after *plan.Plan, applied []program.Applied, today program.Date) []string {
	touched := false
	for i := range applied {
		switch c := &applied[i].Change; {
		case c.Kind == program.KindIteration && c.Field == "state":
			return nil
		case c.Kind == program.KindItem && (c.Op == program.Add || c.Op == program.Remove || c.Op == program.Set && rescopes[c.Field]):
			touched = true
		}
	}
	if !touched {
		return nil
	}
	was, is := begunBy(before, today), begunBy(after, today)
	var keys []string
	for i := range after.Items {
		if key := after.Items[i].Key; was[key] != is[key] {
			keys = append(keys, key)
		}
	}
	for i := range before.Items {
		key := before.Items[i].Key
		if _, there := after.Tree().Index[key]; !there && was[key] != (begun{}) {
			keys = append(keys, key)
		}
	}
	return keys
}

// rescopes are the fields of items that decide what scopes hold.
var rescopes = map[string]bool{"team": true, "iteration": true, "parent": true, "release": true, "noRelease": true, "size": true, "keptOut": true, "rough": true}

// begun is where an item counts that has begun; the zero value is nowhere.
type begun struct {
	at      place
	release string
	size    float64
}

// begunBy is where each leaf counts, of what has begun by a day.
func begunBy(p *plan.Plan, today program.Date) map[string]begun {
	open, started := map[place]bool{}, map[string]bool{}
	for t := range p.Teams {
		for _, it := range p.Teams[t].Iterations {
			if it.State == program.Open {
				open[place{p.Teams[t].Key, it.Key}] = true
			}
		}
	}
	for _, r := range p.Releases {
		started[r.Key] = r.Start <= today
	}
	tree, all := p.Tree(), map[string]begun{}
	for i := range p.Items {
		item := &p.Items[i]
		if !tree.IsLeaf(i) || item.KeptOut {
			continue
		}
		c := cardOf(item)
		var b begun
		if at := c.at(); open[at] {
			b.at = at
		}
		if release := tree.Release(i); started[release] {
			b.release = release
		}
		if b != (begun{}) {
			b.size = c.size
			all[item.Key] = b
		}
	}
	return all
}

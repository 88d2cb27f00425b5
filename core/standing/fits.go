package standing

import (
	"jantrel/core/capacity"
	"jantrel/core/needs"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// Fit is what placing items in an iteration would do there.
type Fit struct {
	Iteration string    `json:"iteration"`
	Load      float64   `json:"load"` // load with the items
	Capacity  float64   `json:"capacity"`
	Fits      bool      `json:"fits"`
	Breaks    []NeedRef `json:"breaks,omitempty"` // needs that would break or stay broken
}

// Fits says for every usable iteration of a team what placing the items there
// would do: sizes in the team's unit, needs by the rule of needs.Check. An unknown team has
// none. It takes iterations times the needs of the items; the size of the program does not
// matter once its plan is resolved. What is rough goes by the keys of its pieces: plan.Pieces.
func Fits(p *plan.Plan, today program.Date, team string, items []string) []Fit {
	t, ok := p.TeamAt()[team]
	if !ok {
		return nil
	}
	p = p.Whole()
	var chosen []int
	tree, load, figures := p.Tree(), p.Loads().Size[t], capacity.Of(p)[t]
	size, from := 0.0, make([]float64, len(load)) // of the chosen: in all, and where they stand now
	for _, key := range items {
		i, ok := tree.Index[key]
		if !ok || p.Items[i].Team != team {
			continue
		}
		chosen = append(chosen, i)
		item := &p.Items[i]
		if item.Size == nil || item.KeptOut || !tree.IsLeaf(i) {
			continue
		}
		size += *item.Size
		if place, placed := p.Place(i); placed {
			from[place.Slot] += *item.Size
		}
	}
	var fits []Fit
	for s, it := range p.Teams[t].Iterations {
		if !it.Takes(today) {
			continue
		}
		fit := Fit{Iteration: it.Key, Load: load[s] - from[s] + size, Capacity: figures[s].Capacity}
		fit.Fits = fit.Load <= fit.Capacity+1e-9
		for _, n := range needs.Broken(p, chosen, plan.Place{Team: t, Slot: s, Span: it.Span()}) {
			fit.Breaks = append(fit.Breaks, NeedRef{p.Needs[n].Item, p.Needs[n].Needs})
		}
		fits = append(fits, fit)
	}
	return fits
}

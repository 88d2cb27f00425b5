// Package standing gathers what every stage shows of the plan as it is: loads
// against capacities, how needs stand, what lacks what, and how many of each are
// wrong.
package standing

import (
	"slices"

	"gonum.org/v1/gonum/stat"

	"jantrel/core/cadence"
	"jantrel/core/capacity"
	"jantrel/core/needs"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/ready"
)

// Facts are computed from a program and a day. Everything in them is found by
// the key of what it speaks of, so that two can be compared entry by entry.
type Facts struct {
	Iterations []IterationFacts `json:"iterations"`
	Teams      []TeamFacts      `json:"teams"`
	Needs      []NeedFacts      `json:"needs"`
	Items      []ItemFacts      `json:"items"`
	Counts     *Counts          `json:"counts,omitempty" doc:"Left out of updates: they follow from the entries"`
}

// IterationFacts are what one iteration can carry and carries, in its team's unit.
type IterationFacts struct {
	Team     string          `json:"team"`
	Key      string          `json:"key"`
	Capacity float64         `json:"capacity"`
	Full     float64         `json:"full" doc:"Capacity were nobody away; 0 where that is unknown"`
	Basis    capacity.Basis  `json:"basis"`
	Load     float64         `json:"load"`
	Unsized  int             `json:"unsized,omitempty" doc:"Items placed here that have no size"`
	Over     bool            `json:"over,omitempty" doc:"Carries more than it can"`
	Away     []capacity.Away `json:"away,omitempty"`
	Usable   bool            `json:"usable" doc:"Not closed and not over: items can be placed here"`
	Started  bool            `json:"started,omitempty" doc:"Its dates and name stay: it is open or closed, or its first day has come"`
	Ended    bool            `json:"ended,omitempty" doc:"Its last day has gone by, or it is closed"`
}

// TeamFacts are what stands at a team's lane.
type TeamFacts struct {
	Key      string    `json:"key"`
	Headroom float64   `json:"headroom" doc:"Room left in the next iterations, in the team's unit"`
	Ahead    int       `json:"ahead" doc:"How many iterations the headroom counts"`
	Pace     []float64 `json:"pace" doc:"Units completed in each closed iteration, oldest first"`
	Mean     float64   `json:"mean" doc:"Mean of pace"`
	Spread   float64   `json:"spread" doc:"Standard deviation of pace"`
}

// NeedFacts are how one need stands.
type NeedFacts struct {
	Item   string       `json:"item"`
	Needs  string       `json:"needs"`
	Status needs.Status `json:"status" enum:"holds,tight,broken"`
	Spare  *int         `json:"spare,omitempty" doc:"Days to spare; missing where nothing is at stake"`
}

// ItemFacts are what stands at an item.
type ItemFacts struct {
	Key      string       `json:"key"`
	Leaf     bool         `json:"leaf"`
	Release  string       `json:"release,omitempty" doc:"Its own, or its nearest ancestor's"`
	Lacks    []ready.Lack `json:"lacks,omitempty"`
	Unplaced bool         `json:"unplaced,omitempty" doc:"To be scheduled, and not placed"`

	Checks    int      `json:"checks,omitempty" doc:"How many checks it has"`
	Checked   int      `json:"checked,omitempty" doc:"How many of them are done"`
	HoursLeft *float64 `json:"hoursLeft,omitempty" doc:"Of its tasks still to do; missing: none is estimated"`
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

// ahead is how many coming iterations a team's headroom counts.
const ahead = 6

// Of computes the facts of p on a day, in time linear in its things: what the plan resolves
// once is not counted.
func Of(p *plan.Plan, today program.Date) Facts {
	f := Facts{Counts: &Counts{Over: []IterationRef{}, Broken: []NeedRef{}, NotReady: []string{}, Unplaced: []string{}}}
	f.iterations(p, today)
	f.needs(p)
	f.items(p)
	return f
}

func (f *Facts) iterations(p *plan.Plan, today program.Date) {
	figures := capacity.Of(p)
	loads := p.Loads()
	for t := range p.Teams {
		team := &p.Teams[t]
		state := TeamFacts{Key: team.Key, Pace: []float64{}}
		for s, it := range team.Iterations {
			c := figures[t][s]
			open := it.State != program.Closed && it.End >= today
			over := open && loads.Size[t][s] > c.Capacity+1e-9
			f.Iterations = append(f.Iterations, IterationFacts{
				Team: team.Key, Key: it.Key, Capacity: c.Capacity, Full: c.Full, Basis: c.Basis,
				Load: loads.Size[t][s], Unsized: loads.Unsized[t][s], Over: over, Away: c.Away, Usable: open,
				Started: cadence.Started(&it, today), Ended: !open,
			})
			if over {
				f.Counts.Over = append(f.Counts.Over, IterationRef{team.Key, it.Key})
			}
			if open && state.Ahead < ahead {
				state.Ahead++
				state.Headroom += max(0, c.Capacity-loads.Size[t][s])
			}
			if it.State == program.Closed && it.Completed != nil {
				state.Pace = append(state.Pace, *it.Completed)
			}
		}
		state.Mean, state.Spread = meanAndSpread(state.Pace)
		f.Teams = append(f.Teams, state)
	}
}

func (f *Facts) needs(p *plan.Plan) {
	for i, state := range needs.Check(p) {
		n := &p.Needs[i]
		f.Needs = append(f.Needs, NeedFacts{n.Item, n.Needs, state.Status, state.Spare})
		if state.Status == needs.StatusBroken {
			f.Counts.Broken = append(f.Counts.Broken, NeedRef{n.Item, n.Needs})
		}
	}
}

func (f *Facts) items(p *plan.Plan) {
	tree, lacks := p.Tree(), ready.Check(p)
	for i := range p.Items {
		item := &p.Items[i]
		state := ItemFacts{Key: item.Key, Leaf: tree.IsLeaf(i), Release: tree.Release(i), Lacks: lacks[i], Unplaced: tree.ToSchedule(i) && item.Iteration == ""}
		state.Checks = len(item.Checks)
		for _, check := range item.Checks {
			if check.Done {
				state.Checked++
			}
		}
		if hours, estimated := item.HoursLeft(); estimated {
			state.HoursLeft = &hours
		}
		if len(lacks[i]) > 0 {
			f.Counts.NotReady = append(f.Counts.NotReady, item.Key)
		}
		if state.Unplaced {
			f.Counts.Unplaced = append(f.Counts.Unplaced, item.Key)
		}
		f.Items = append(f.Items, state)
	}
}

// Since returns what of f is new or different from before: the entries to send
// to who has the others. Counts are left out: they follow from the entries.
func (f Facts) Since(before Facts) Facts {
	return Facts{
		Iterations: changed(before.Iterations, f.Iterations, func(x *IterationFacts) [2]string { return [2]string{x.Team, x.Key} },
			func(a, b *IterationFacts) bool {
				return a.Load == b.Load && a.Capacity == b.Capacity && a.Full == b.Full && a.Basis == b.Basis &&
					a.Unsized == b.Unsized && a.Over == b.Over && a.Usable == b.Usable && a.Started == b.Started && a.Ended == b.Ended && slices.Equal(a.Away, b.Away)
			}),
		Teams: changed(before.Teams, f.Teams, func(x *TeamFacts) [2]string { return [2]string{x.Key} },
			func(a, b *TeamFacts) bool {
				return a.Headroom == b.Headroom && a.Ahead == b.Ahead && a.Mean == b.Mean && a.Spread == b.Spread && slices.Equal(a.Pace, b.Pace)
			}),
		Needs: changed(before.Needs, f.Needs, func(x *NeedFacts) [2]string { return [2]string{x.Item, x.Needs} },
			func(a, b *NeedFacts) bool { return a.Status == b.Status && equal(a.Spare, b.Spare) }),
		Items: changed(before.Items, f.Items, func(x *ItemFacts) [2]string { return [2]string{x.Key} },
			func(a, b *ItemFacts) bool {
				return a.Leaf == b.Leaf && a.Release == b.Release && a.Unplaced == b.Unplaced && slices.Equal(a.Lacks, b.Lacks) &&
					a.Checks == b.Checks && a.Checked == b.Checked && equal(a.HoursLeft, b.HoursLeft)
			}),
	}
}

func equal[T comparable](a, b *T) bool { return a == b || a != nil && b != nil && *a == *b }

// changed returns the entries of after that before has not, by key, or has
// otherwise.
func changed[T any](before, after []T, key func(*T) [2]string, same func(a, b *T) bool) []T {
	different := []T{}
	var at map[[2]string]int
	for i := range after {
		x := &after[i]
		// Mostly the lists match place by place; the index is for when they do not.
		j, known := i, i < len(before) && key(&before[i]) == key(x)
		if !known {
			if at == nil {
				at = make(map[[2]string]int, len(before))
				for j := range before {
					at[key(&before[j])] = j
				}
			}
			j, known = at[key(x)]
		}
		if !known || !same(&before[j], x) {
			different = append(different, *x)
		}
	}
	return different
}

// Fit is what placing items in an iteration would do there.
type Fit struct {
	Iteration string    `json:"iteration"`
	Load      float64   `json:"load" doc:"Load with the items"`
	Capacity  float64   `json:"capacity"`
	Fits      bool      `json:"fits"`
	Breaks    []NeedRef `json:"breaks,omitempty" doc:"Needs that would break or stay broken"`
}

// Fits says for every usable iteration of a team what placing the items there
// would do: sizes in the team's unit, needs by the rule of needs.Check. An unknown team has
// none. It takes iterations times the needs of the items; the size of the program does not
// matter once its plan is resolved.
func Fits(p *plan.Plan, today program.Date, team string, items []string) []Fit {
	t, ok := p.TeamAt()[team]
	if !ok {
		return nil
	}
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
		if it.State == program.Closed || it.End < today {
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

func meanAndSpread(samples []float64) (mean, spread float64) {
	if len(samples) == 0 {
		return 0, 0
	}
	if len(samples) == 1 {
		return samples[0], 0
	}
	return stat.MeanStdDev(samples, nil)
}

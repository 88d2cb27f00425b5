package track

import (
	"maps"
	"slices"
	"time"

	"jantrel/core/plan"
	"jantrel/core/program"
)

// Scope is a part of a program's work: what a release holds, what is below an item, what is of a
// team, what somebody picked; what all of these that are named have in common. Without any it is all
// work. Only leaves count that are not kept out, as for a draft (see program.Tree).
type Scope struct {
	Release string
	Item    string
	Team    string
	Picked  map[string]bool // by key: these alone, whatever else they were at the time; nil: all
}

// Pick makes items the picked ones of a scope.
func Pick(items []string) map[string]bool {
	picked := make(map[string]bool, len(items))
	for _, key := range items {
		picked[key] = true
	}
	return picked
}

// History is how the work of a scope came about.
type History struct {
	All   Run      // of all teams, in items alone: sizes of several teams are never added up
	Teams []Run    // of each team, in its unit, in the order of the program; then of no team; those with work at some time
	Parts []Part   // of each of these, in the same order
	Flow  []Flow   // by day, from the day of All.From on
	Pass  Pass     // from start to done
	Items []string // what counts now, by key
}

// HistoryOf folds edits, the oldest first, that led to a program, into the history of a scope from
// a time on, or from when the first of all edits began where that is later, up to today. Of a team
// that is gone by now, work counts as of no team. An item that goes from one team to another is
// removed from the one run and added to the other; of All it stays.
//
// Time is linear in changes, those to items below a changed one included, and n log n in items.
func HistoryOf(p program.Program, scope Scope, from time.Time, events []Event, began time.Time, today program.Date) History {
	if from.Before(began) {
		from = began
	}
	at := map[string]int{}
	for i := range p.Teams {
		at[p.Teams[i].Key] = i
	}
	folded := func(runs int, counts bool, run func(c card) int) *fold {
		var f *fold
		f = newFold(p, events, runs, func(key string, c card) (int, bool) {
			if !c.there || c.keptOut || scope.Team != "" && c.team != scope.Team || scope.Picked != nil && !scope.Picked[key] || !f.tree.isLeaf(key) ||
				scope.Release != "" && f.tree.release(key) != scope.Release || scope.Item != "" && !f.tree.isIn(key, scope.Item) {
				return 0, false
			}
			return run(c), true
		})
		f.tree, f.counts = treeOf(f.cards), counts
		for i := range f.runs {
			f.runs[i].From, f.runs[i].Steps, f.runs[i].Hours.Steps = from, []Step{}, []HoursStep{}
		}
		f.walk(events)
		return f
	}
	all := folded(1, true, func(card) int { return 0 })
	h := History{All: all.runs[0], Teams: []Run{}, Parts: []Part{}}
	h.Flow, h.Pass, h.Items = all.flow(&h.All, today), all.pass(&h.All, today), slices.Sorted(maps.Keys(all.in))
	by := folded(len(p.Teams)+1, false, func(c card) int {
		if i, ok := at[c.team]; ok {
			return i
		}
		return len(p.Teams)
	})
	parts := by.parts()
	for i := range by.runs {
		run := &by.runs[i]
		if i < len(p.Teams) {
			run.Team = p.Teams[i].Key
		}
		if run.Total.Items > 0 || run.Start.Items > 0 || len(run.Steps) > 0 {
			h.Teams, h.Parts = append(h.Teams, *run), append(h.Parts, parts[i])
		}
	}
	return h
}

// Part is how far the work of a team is: what counts now in each state, in its unit.
type Part struct {
	Todo    Sum `json:"todo"`
	Doing   Sum `json:"doing"`
	Review  Sum `json:"review"`
	Done    Sum `json:"done"`
	Unsized int `json:"unsized"` // items of these without a size
}

func (p *Part) of(state program.ItemState) *Sum {
	return byState(state, &p.Todo, &p.Doing, &p.Review, &p.Done)
}

// byState is what stands for a state.
func byState[T any](state program.ItemState, todo, doing, review, done T) T {
	switch state {
	case program.Doing:
		return doing
	case program.Review:
		return review
	case program.Done:
		return done
	}
	return todo
}

// parts are the parts of a fold's runs.
func (f *fold) parts() []Part {
	parts := make([]Part, len(f.runs))
	for _, key := range slices.Sorted(maps.Keys(f.in)) { // sums of sizes are rounded: always in one order
		p, c := &parts[f.in[key]], f.cards[key]
		of := p.of(c.state)
		*of = of.plus(c.sum())
		if !c.sized {
			p.Unsized++
		}
	}
	return parts
}

// Grouped is how far the work below a feature is, or that which is below none.
type Grouped struct {
	Item  string `json:"item,omitempty"` // the feature; none: what is in no feature
	Items int    `json:"items"`
	Done  int    `json:"done"`
}

// FeaturesOf puts items together by the feature that they are below of, the nearest one; in the
// order of rank, with what is in none last.
func FeaturesOf(p *plan.Plan, items []string) []Grouped {
	tree := p.Tree()
	at, groups := map[int]int{}, []Grouped{}
	for _, key := range items {
		i := tree.Index[key]
		feature := tree.Nearest(i, program.Feature)
		n, known := at[feature]
		if !known {
			n = len(groups)
			at[feature] = n
			groups = append(groups, Grouped{})
			if feature >= 0 {
				groups[n].Item = p.Items[feature].Key
			}
		}
		groups[n].Items++
		if p.Items[i].State == program.Done {
			groups[n].Done++
		}
	}
	rank := func(g Grouped) int {
		if g.Item == "" {
			return len(p.Items)
		}
		return tree.Index[g.Item]
	}
	slices.SortFunc(groups, func(a, b Grouped) int { return rank(a) - rank(b) })
	return groups
}

// Since is the part of a run from a later time on: what stood in it then, and what has come of it.
func (r *Run) Since(at time.Time) Run {
	if !at.After(r.From) {
		return *r
	}
	part := Run{Team: r.Team, Iteration: r.Iteration, From: at, Start: r.Start, DoneBefore: r.DoneBefore, Total: r.Total, Done: r.Done, Left: r.Left, Steps: []Step{}, Hours: r.Hours.since(at)}
	for i := range r.Steps {
		s := &r.Steps[i]
		if s.At.Before(at) {
			part.Start, part.DoneBefore = s.Total, s.Done
			continue
		}
		part.add(s)
		part.Steps = append(part.Steps, *s)
	}
	return part
}

// add counts what a step adds to or takes from a run.
func (r *Run) add(s *Step) {
	one := Sum{1, s.Size}
	switch s.What {
	case Added:
		r.Added = r.Added.plus(one)
	case Removed:
		r.Removed = r.Removed.plus(one)
	case Grown:
		r.Grown = r.Grown.plus(Sum{0, s.Size})
	case Shrunk:
		r.Shrunk = r.Shrunk.plus(Sum{0, s.Size})
	}
}

// Thin leaves the latest steps of a run, so many at most, and of those before them the last of each
// day: what there was at the end of it; and so of the steps in hours. It returns how many of its steps are left out.
func (r *Run) Thin(most int) (leftOut int) {
	r.Steps, leftOut = thin(r.Steps, most, func(s *Step) time.Time { return s.At })
	r.Hours.Steps, _ = thin(r.Hours.Steps, most, func(s *HoursStep) time.Time { return s.At })
	return leftOut
}

func thin[T any](steps []T, most int, at func(*T) time.Time) (kept []T, leftOut int) {
	cut := len(steps) - most
	if cut <= 0 {
		return steps, 0
	}
	for i := range steps[:cut] {
		if day(at(&steps[i])) != day(at(&steps[i+1])) {
			kept = append(kept, steps[i])
		}
	}
	return append(kept, steps[cut:]...), cut - len(kept)
}

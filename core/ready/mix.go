package ready

import (
	"cmp"
	"slices"

	"jantrel/core/capacity"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// Mix is what kinds of work a scope is made of.
type Mix struct {
	Items   int     `json:"items"`   // leaves in the scope, done ones too, kept out ones not
	Unsized int     `json:"unsized"` // those without a size or a team: they count in number alone
	Kinds   []Share `json:"kinds"`
}

// Share is the part of one kind in a scope.
type Share struct {
	Kind       program.ItemKind `json:"kind"`
	Items      int              `json:"items"`
	Counts     float64          `json:"counts"`           // share of the number of items, 0 to 1
	Sizes      float64          `json:"sizes"`            // share of team time, 0 to 1: sizes as the time that their teams take for them, as sizes of different teams cannot be added up
	Target     *float64         `json:"target,omitempty"` // the share of team time that the program wants
	Short      float64          `json:"short"`            // how much of the scope is missing to the target, 0 to 1; 0 where there is enough
	Candidates []string         `json:"candidates"`       // of a kind that is short: the highest ranked items that could be pulled in
}

// Scope is the items whose mix is asked for, and those that could join them.
type Scope struct {
	In  func(i int) bool // positions in Program.Items; asked of leaves alone
	Out func(i int) bool // could be pulled in; asked of leaves that are to be scheduled
}

// Asked names the items of which a mix is asked: of a release, of an iteration, or just
// some.
type Asked struct {
	Release   string   `json:"release,omitempty"`
	Team      string   `json:"team,omitempty"` // of an iteration
	Iteration string   `json:"iteration,omitempty"`
	Items     []string `json:"items,omitempty"` // groups stand for their items
}

// ScopeOf says which items a mix is asked of, and which could join them: for a release
// those without one or of a later one, for an iteration what its team has not placed, for
// some items everything else that is not placed.
func ScopeOf(p *plan.Plan, asked Asked) Scope {
	items, tree := p.Items, p.Tree()
	switch {
	case asked.Release != "":
		order := map[string]int{}
		for i, r := range p.Releases {
			order[r.Key] = i
		}
		return Scope{
			In: func(i int) bool { return tree.Release(i) == asked.Release },
			Out: func(i int) bool {
				of := tree.Release(i)
				return of == "" || order[of] > order[asked.Release]
			},
		}
	case asked.Iteration != "":
		return Scope{
			In:  func(i int) bool { return items[i].Team == asked.Team && items[i].Iteration == asked.Iteration },
			Out: func(i int) bool { return items[i].Team == asked.Team && items[i].Iteration == "" },
		}
	}
	chosen := map[int]bool{}
	for _, key := range asked.Items {
		if i, ok := tree.Index[key]; ok {
			for _, leaf := range tree.Leaves(i) {
				chosen[leaf] = true
			}
		}
	}
	return Scope{In: func(i int) bool { return chosen[i] }, Out: func(i int) bool { return items[i].Iteration == "" }}
}

// candidates is how many items are offered to fill up a kind that is short.
const candidates = 5

// MixOf returns the mix of a scope.
//
// An item weighs the days that its team takes for it: size ÷ velocity × days of an
// iteration. Within one team that is its share of the sizes.
func MixOf(p *plan.Plan, scope Scope) Mix {
	perUnit := capacity.DaysPerUnit(p)
	m, tree := Mix{Kinds: []Share{}}, p.Tree()
	days, whole := map[program.ItemKind]float64{}, 0.0
	counts := map[program.ItemKind]int{}
	for i := range p.Items {
		item := &p.Items[i]
		if !tree.IsLeaf(i) || item.KeptOut || item.Kind.IsGroup() || !scope.In(i) {
			continue
		}
		m.Items++
		counts[item.Kind]++
		if per := perUnit[item.Team]; item.Size != nil && per > 0 {
			days[item.Kind] += *item.Size * per
			whole += *item.Size * per
		} else {
			m.Unsized++
		}
	}
	for _, kind := range program.LeafKinds() {
		s := Share{Kind: kind, Items: counts[kind], Candidates: []string{}}
		if m.Items > 0 {
			s.Counts = float64(counts[kind]) / float64(m.Items)
		}
		if whole > 0 {
			s.Sizes = days[kind] / whole
		}
		if target, ok := p.Settings.Mix[kind]; ok {
			s.Target = &target
			s.Short = max(0, target-s.Sizes)
		}
		if s.Short > 1e-9 && scope.Out != nil {
			s.Candidates = pull(p, kind, scope)
		}
		m.Kinds = append(m.Kinds, s)
	}
	slices.SortStableFunc(m.Kinds, func(a, b Share) int { return cmp.Compare(b.Short, a.Short) })
	return m
}

// pull returns the highest ranked items of a kind outside a scope, the ready first.
func pull(p *plan.Plan, kind program.ItemKind, scope Scope) []string {
	tree, lacks := p.Tree(), Check(p)
	keys, later := []string{}, []string{}
	for i := range p.Items {
		switch {
		case p.Items[i].Kind != kind || !tree.ToSchedule(i) || scope.In(i) || !scope.Out(i):
		case len(lacks[i]) == 0:
			keys = append(keys, p.Items[i].Key)
		default:
			later = append(later, p.Items[i].Key)
		}
		if len(keys) == candidates {
			break
		}
	}
	keys = append(keys, later...)
	return keys[:min(candidates, len(keys))]
}

package forecast

import (
	"slices"

	"jantrel/core/needs"
	"jantrel/core/plan"
)

// final is what finishes: with the last of its nodes.
type final struct {
	key                    string
	due                    Date
	nodes                  []int
	left, sampled, leftOut int
	rough                  int      // pieces of rough sizes
	cannot                 []string // items that cannot be played
	growth                 *Growth  // of a release
	release                string   // whose growth is of it
}

// addFinals lists what finishes: releases, what is to be done by a day of its own, and on demand
// each item.
func (g *game) addFinals(nodeOf []int, o Options) {
	byKey := map[string]int{}
	for _, r := range g.p.Releases {
		if len(o.Releases) == 0 || slices.Contains(o.Releases, r.Key) {
			byKey[r.Key] = len(g.finals)
			g.finals = append(g.finals, final{key: r.Key, due: r.Due, release: r.Key})
		}
	}
	g.releases = len(g.finals)
	for i := range g.p.Items {
		if f, ok := byKey[g.tree.Release(i)]; ok && g.tree.ToSchedule(i) {
			g.finals[f].take(g, nodeOf, i)
		}
	}
	if len(o.Releases) == 0 {
		for _, d := range needs.DatesToMeet(g.p, o.LeaveAgreed) {
			f := final{key: g.p.Items[d.Item].Key, due: d.Due}
			for _, leaf := range d.Leaves {
				f.take(g, nodeOf, leaf)
			}
			g.finals = append(g.finals, f)
		}
	}
	g.dated = len(g.finals) - g.releases
	for i := range g.p.Items {
		if _, rough := g.p.Piece(i); o.Items && !rough && g.tree.ToSchedule(i) && nodeOf[i] >= 0 {
			f := final{key: g.p.Items[i].Key, due: g.p.Items[i].Due}
			f.take(g, nodeOf, i)
			g.finals = append(g.finals, f)
		}
	}
	for _, set := range o.Sets {
		f := final{key: set.Key, due: set.Due, release: set.Release}
		for _, leaf := range g.leaves(set) {
			f.take(g, nodeOf, leaf)
		}
		g.finals = append(g.finals, f)
	}
}

// leaves are those to be scheduled that a set stands for.
func (g *game) leaves(set Set) []int { return set.Leaves(g.p, g.tree.ToSchedule) }

// Leaves are the positions of the leaves that a set stands for in a plan and that count, each once.
func (s Set) Leaves(p *plan.Plan, counts func(i int) bool) (leaves []int) {
	tree := p.Tree()
	if len(s.Items) == 0 {
		for i := range p.Items {
			if s.Release != "" && tree.Release(i) == s.Release && counts(i) {
				leaves = append(leaves, i)
			}
		}
		return leaves
	}
	seen := map[int]bool{}
	for _, key := range s.Items {
		if i, ok := tree.Index[key]; ok {
			for _, leaf := range tree.Leaves(i) {
				if counts(leaf) && !seen[leaf] {
					seen[leaf] = true
					leaves = append(leaves, leaf)
				}
			}
		}
	}
	return leaves
}

// take adds a leaf that is still to do.
func (f *final) take(g *game, nodeOf []int, leaf int) {
	_, rough := g.p.Piece(leaf)
	if rough {
		f.rough++
	} else {
		f.left++
	}
	n := nodeOf[leaf]
	if key := g.p.KeyOf(leaf); (n < 0 || g.nodes[n].never) && !slices.Contains(f.cannot, key) {
		f.cannot = append(f.cannot, key)
	}
	if n < 0 {
		f.leftOut++
		return
	}
	f.nodes = append(f.nodes, n)
	if g.nodes[n].sizes != nil && g.p.Items[leaf].Size == nil {
		f.sampled++
	}
}

// Package ready says what an item lacks before a team can take it on.
package ready

import (
	"jantrel/core/needs"
	"jantrel/core/program"
)

// Lack is one thing that an item lacks.
type Lack string

// What an item may lack.
const (
	NoSize        Lack = "size"
	NoTeam        Lack = "team"
	NeedsUnplaced Lack = "needs" // something it needs is not placed
)

// Text says a lack in words.
func (l Lack) Text() string {
	switch l {
	case NoSize:
		return "has no size"
	case NoTeam:
		return "has no team"
	default:
		return "needs something that is not placed"
	}
}

// Check returns what each item lacks, by its position in Program.Items; nothing
// for items that are ready, done, kept out, or groups of others.
func Check(p program.Program, tree program.Tree) [][]Lack {
	lacks := make([][]Lack, len(p.Items))
	for i, item := range p.Items {
		if !tree.ToSchedule(i) {
			continue
		}
		if item.Size == nil {
			lacks[i] = append(lacks[i], NoSize)
		}
		if item.Team == "" {
			lacks[i] = append(lacks[i], NoTeam)
		}
	}
	seen := make([]bool, len(p.Items))
	for _, e := range needs.Edges(p, tree) {
		needed := p.Items[e.Needs]
		if tree.ToSchedule(e.Item) && !seen[e.Item] && needed.State != program.Done && needed.Iteration == "" {
			lacks[e.Item] = append(lacks[e.Item], NeedsUnplaced)
			seen[e.Item] = true
		}
	}
	return lacks
}

package needs

import (
	"slices"
	"strings"

	"gonum.org/v1/gonum/graph"
	"gonum.org/v1/gonum/graph/simple"
	"gonum.org/v1/gonum/graph/topo"

	"jantrel/core/plan"
	"jantrel/core/program"
)

// CycleError says that an edit would close a cycle of needs.
type CycleError struct {
	Keys    []string // the items along it; each needs the next, the last is the first again
	Through bool     // no need is added, but an item comes to stand where needs hold for it
}

func (e *CycleError) Error() string {
	if e.Through {
		return "this would close a cycle of needs: " + strings.Join(e.Keys, " needs ")
	}
	return "this need would close a cycle: " + strings.Join(e.Keys, " needs ")
}

// Refuse returns a CycleError if need n, added to p, would close a cycle: if what
// it needs already waits, directly or by way of others, for the item that needs
// it. A program may hold cycles that were written into its document; nobody
// should add one by hand.
func Refuse(p *plan.Plan, n program.Need) error {
	return waitsOf(p).refuse(n)
}

// RefuseAll returns a CycleError if one of the added needs, which p holds already,
// lies on a cycle. Thousands of needs, as an import adds them, are judged at once.
func RefuseAll(p *plan.Plan, added []program.Need) error {
	g := waitsOf(p)
	var onCycle [][]int
	if len(added) > 1 {
		onCycle = Cycles(len(p.Items), func(i int) []int { return g.next[i] })
	}
	for _, n := range added {
		from, ok := g.tree.Index[n.Item]
		if !ok || onCycle != nil && !slices.ContainsFunc(g.tree.Leaves(from), func(leaf int) bool { return onCycle[leaf] != nil }) {
			continue
		}
		if err := g.refuse(n); err != nil {
			return err
		}
	}
	return nil
}

// RefuseThrough returns a CycleError if a leaf of an item lies on a cycle of needs.
func RefuseThrough(p *plan.Plan, item string) error {
	g := waitsOf(p)
	i, ok := g.tree.Index[item]
	if !ok {
		return nil
	}
	for _, leaf := range g.tree.Leaves(i) {
		if way := shortest(g.next, g.next[leaf], []int{leaf}); way != nil {
			keys := []string{p.Items[leaf].Key}
			for _, at := range way {
				keys = append(keys, p.Items[at].Key)
			}
			return &CycleError{keys, true}
		}
	}
	return nil
}

// waits is the needs between leaves, for looking for ways round.
type waits struct {
	p    *plan.Plan
	tree program.Tree
	next map[int][]int // leaf to the leaves that it needs
}

var waitsOf = plan.Once(func(p *plan.Plan) waits {
	g := waits{p, p.Tree(), map[int][]int{}}
	for _, e := range Edges(p) {
		g.next[e.Item] = append(g.next[e.Item], e.Needs)
	}
	return g
})

func (g waits) refuse(n program.Need) error {
	from, ok1 := g.tree.Index[n.Item]
	to, ok2 := g.tree.Index[n.Needs]
	if !ok1 || !ok2 {
		return nil // Validate says so with the better words
	}
	path := shortest(g.next, g.tree.Leaves(to), g.tree.Leaves(from))
	if path == nil {
		return nil
	}
	keys := []string{n.Item}
	if len(path) == 1 && n.Item != n.Needs && g.p.Items[path[0]].Key != n.Needs {
		keys = append(keys, n.Needs) // the two share a leaf: a group and something inside it
	}
	for i, at := range path {
		if key := g.p.Items[at].Key; !(i == len(path)-1 && key == n.Item) {
			keys = append(keys, key)
		}
	}
	return &CycleError{Keys: append(keys, n.Item)}
}

// shortest returns the shortest path from any of starts to any of goals, both
// ends included; nil where there is none.
func shortest(next map[int][]int, starts, goals []int) []int {
	before := map[int]int{}
	queue := slices.Clone(starts)
	for _, s := range starts {
		before[s] = -1
	}
	for len(queue) > 0 {
		at := queue[0]
		queue = queue[1:]
		if slices.Contains(goals, at) {
			var path []int
			for ; at >= 0; at = before[at] {
				path = append(path, at)
			}
			slices.Reverse(path)
			return path
		}
		for _, to := range next[at] {
			if _, seen := before[to]; !seen {
				before[to] = at
				queue = append(queue, to)
			}
		}
	}
	return nil
}

// Cycles returns, for n nodes and the nodes each one needs, a cycle through
// every node that lies on one (as a list of nodes, each needing the next), and
// nil for the others. The method is Tarjan's strongly connected components, as
// gonum has it, and the shortest way round within each.
func Cycles(n int, needs func(int) []int) [][]int {
	cycles := make([][]int, n)
	g := simple.NewDirectedGraph()
	next := map[int][]int{}
	for i := range n {
		for _, to := range needs(i) {
			if to == i {
				cycles[i] = []int{i}
				continue
			}
			g.SetEdge(simple.Edge{F: simple.Node(i), T: simple.Node(to)})
			next[i] = append(next[i], to)
		}
	}
	for _, component := range topo.TarjanSCC(g) {
		if len(component) < 2 {
			continue
		}
		for _, node := range component {
			if i := id(node); cycles[i] == nil {
				way := shortest(next, next[i], []int{i}) // ends at i
				cycles[i] = append([]int{i}, way[:len(way)-1]...)
			}
		}
	}
	return cycles
}

func id(n graph.Node) int { return int(n.ID()) }

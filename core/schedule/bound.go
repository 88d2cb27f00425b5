package schedule

import (
	"cmp"
	"container/heap"
	"fmt"
	"math"
	"slices"

	"jantrel/core/needs"
)

// bound returns a number of late days that no valid schedule stays under.
//
// Each thing that can be late finishes no earlier than the earliest slot that each of its nodes
// could have if only needs, dates and sizes counted (possible). Together they finish no earlier
// than the room of their teams allows (crowd): no dates that cost less could all be kept
// (boundByDates), or where these are too many, in whatever order they finish, with each all
// those before it are done, so that the least over all orders is a bound (boundByOrder: dynamic
// programming over sets). The time is exponential in how many are looked at together, which is
// few enough to be quick; groups are added up.
func (m *model) bound() int {
	possible := m.possible()
	total := 0
	var together []*final
	for i := range m.finals {
		f := &m.finals[i]
		if f.fixed != nil {
			total += m.boundNeed(f, possible[f.nodes[0]])
			continue
		}
		if own := m.ownEnd(f, possible); own == m.end(0, nowhere) {
			total += m.lateAt(f, own) // something of it can never be placed
		} else if !own.IsZero() {
			together = append(together, f)
		}
	}
	slices.SortStableFunc(together, func(a, b *final) int { return cmp.Compare(a.due, b.due) })
	most := 10 // finals in a group
	for most > 3 && len(m.nodes)<<most > 1<<19 {
		most--
	}
	for group := range slices.Chunk(together, most) {
		total += m.boundTogether(group, possible)
	}
	return total
}

// ownEnd is the earliest date on which f can finish if its nodes stand where each of them could
// by itself; no date where nothing of it counts.
func (m *model) ownEnd(f *final, possible [][]int) (finish Date) {
	for _, n := range f.nodes {
		if m.nodes[n].counts || m.nodes[n].fixed {
			finish = max(finish, m.firstEnd(n, possible[n]))
		}
	}
	return finish
}

// boundTogether bounds the late days of a few finals.
func (m *model) boundTogether(group []*final, possible [][]int) int {
	c := m.newCrowd(group, possible)
	bound, sure := m.boundByDates(c)
	if !sure {
		bound = max(bound, m.boundByOrder(c))
	}
	return bound
}

// boundByOrder is a bound over the orders in which they finish: least[S] is that of a set S if
// all others are done later.
func (m *model) boundByOrder(c *crowd) int {
	least := make([]int, 1<<len(c.group))
	for set := 1; set < len(least); set++ {
		end := c.earliest(uint32(set))
		least[set] = math.MaxInt
		for i, f := range c.group {
			if set&(1<<i) != 0 {
				least[set] = min(least[set], least[set&^(1<<i)]+m.lateAt(f, end))
			}
		}
	}
	return least[len(least)-1]
}

// boundByDates tries dates by which each of them finishes, those that cost least first, until
// some could be kept. Where that takes too long, all that cost less than the next are out of the
// question, which is a bound as well, though none that could be reached (sure: false).
func (m *model) boundByDates(c *crowd) (bound int, sure bool) {
	first := dates{at: make([]int, len(c.group))}
	for i, f := range c.group {
		first.at[i], _ = slices.BinarySearch(c.ends, c.own[i])
		first.at[i] = c.sameLate(f, first.at[i])
		first.late += m.lateAt(f, c.ends[first.at[i]])
	}
	open, seen := &dateQueue{first}, map[string]bool{}
	by := make([]Date, len(c.group))
	for tries := max(20, triesOfDates/max(1, len(c.order))); ; tries-- {
		next := heap.Pop(open).(dates)
		for i, at := range next.at {
			by[i] = c.ends[at]
		}
		if c.feasible(by) {
			return next.late, true
		}
		if tries <= 0 {
			return next.late, false
		}
		for i, f := range c.group {
			if next.at[i]+1 >= len(c.ends) {
				continue
			}
			later := dates{at: slices.Clone(next.at), late: next.late - m.lateAt(f, by[i])}
			later.at[i] = c.sameLate(f, later.at[i]+1)
			later.late += m.lateAt(f, c.ends[later.at[i]])
			if key := fmt.Sprint(later.at); !seen[key] {
				seen[key] = true
				heap.Push(open, later)
			}
		}
	}
}

// triesOfDates is how often dates are tried, times the nodes that are looked at for each.
const triesOfDates = 100_000

// dates are positions of ends, one a final, and by how many days all are late with these.
type dates struct {
	at   []int
	late int
}

type dateQueue []dates

func (q dateQueue) Len() int           { return len(q) }
func (q dateQueue) Less(a, b int) bool { return q[a].late < q[b].late }
func (q dateQueue) Swap(a, b int)      { q[a], q[b] = q[b], q[a] }
func (q *dateQueue) Push(d any)        { *q = append(*q, d.(dates)) }

func (q *dateQueue) Pop() any {
	last := (*q)[len(*q)-1]
	*q = (*q)[:len(*q)-1]
	return last
}

// firstEnd is the earliest end among the slots; that of something unplaced where
// there is none.
func (m *model) firstEnd(n int, slots []int) Date {
	end := m.end(n, nowhere)
	for _, s := range slots {
		end = min(end, m.end(n, s))
	}
	return end
}

// possible returns for each node the slots that it could have if only fixed
// items took room. It is a superset of what any valid schedule can use: a slot
// stays only while each need has at least one slot, of what is needed, to hold; and where there
// are few enough to be quick, while all that it waits for could be done by then as well.
func (m *model) possible() [][]int {
	possible := make([][]int, len(m.nodes))
	empty := m.emptySketch()
	for _, n := range m.order {
		node := &m.nodes[n]
		if node.fixed {
			possible[n] = []int{node.now}
			continue
		}
		if node.never != nil {
			continue
		}
		for _, s := range m.usable[node.team] {
			if m.slots[node.team][s].Start >= node.notBefore && empty.fits(m, n, s) && m.supported(n, s, possible) {
				possible[n] = append(possible[n], s)
			}
		}
		if len(m.nodes) <= fewNodes && len(node.needs) > 0 && len(possible[n]) > 0 {
			first := m.newCrowd([]*final{{nodes: []int{n}}}, possible).earliest(1)
			possible[n] = slices.DeleteFunc(possible[n], func(s int) bool { return m.end(n, s) < first })
		}
	}
	return possible
}

// fewNodes is how many are looked at one by one.
const fewNodes = 600

func (m *model) supported(n, s int, possible [][]int) bool {
	place := m.place(n, s)
	for _, a := range m.nodes[n].needs {
		if !slices.ContainsFunc(possible[a.node], func(other int) bool {
			return needs.Holds(m.share, m.place(a.node, other), place, a.lag)
		}) {
			return false
		}
	}
	return true
}

// sorted returns the nodes so that each comes after what it needs. Nodes that
// cannot be placed for a cycle come without heed to that.
func (m *model) sorted() []int {
	open := make([]int, len(m.nodes))
	order := make([]int, 0, len(m.nodes))
	for n := range m.nodes {
		if open[n] = len(m.nodes[n].needs); open[n] == 0 {
			order = append(order, n)
		}
	}
	for i := 0; i < len(order); i++ {
		for _, w := range m.nodes[order[i]].wanted {
			if open[w]--; open[w] == 0 {
				order = append(order, w)
			}
		}
	}
	for n := range m.nodes {
		if open[n] > 0 {
			order = append(order, n)
		}
	}
	return order
}

// boundNeed bounds the days by which a node comes too late for a fixed item.
func (m *model) boundNeed(f *final, slots []int) int {
	n := f.nodes[0]
	least := m.lateAt(f, m.end(n, nowhere))
	for _, s := range slots {
		if needs.Holds(m.share, m.place(n, s), *f.fixed, f.lag) {
			return 0
		}
		least = min(least, m.lateAt(f, m.end(n, s)))
	}
	return least
}

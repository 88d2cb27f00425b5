package schedule

import (
	"cmp"
	"slices"

	"jantrel/core/needs"
)

// bound returns a number of late days that no valid schedule stays under.
//
// Everything that can be late is bounded by itself, and the bounds added up: a
// release cannot finish before the earliest slot that each of its items could
// have if only needs, dates and sizes counted (possible), nor before the room of
// one team, filled from the front, carries all of its items and what they wait
// for within that team.
func (m *model) bound() int {
	possible := m.possible()
	total := 0
	for i := range m.finals {
		f := &m.finals[i]
		if f.fixed != nil {
			total += m.boundNeed(f, possible[f.nodes[0]])
			continue
		}
		var finish Date
		for _, n := range f.nodes {
			if e := m.firstEnd(n, possible[n]); m.nodes[n].counts || m.nodes[n].fixed {
				finish = max(finish, e)
			}
		}
		if !finish.IsZero() {
			total += m.lateAt(f, max(finish, m.roomBound(f, possible)))
		}
	}
	return total
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
// stays only while each need has at least one slot, of what is needed, to hold.
func (m *model) possible() [][]int {
	possible := make([][]int, len(m.nodes))
	empty := m.emptySketch()
	for _, n := range m.order() {
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
	}
	return possible
}

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

// order returns the nodes so that each comes after what it needs. Nodes that
// cannot be placed for a cycle come without heed to that.
func (m *model) order() []int {
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

// roomBound returns the earliest date by which every team's room, filled from
// the front, could carry what f asks of it.
func (m *model) roomBound(f *final, possible [][]int) Date {
	load := make([]float64, len(m.slots))
	seen := make([]bool, len(m.nodes))
	var add func(n int)
	add = func(n int) {
		if seen[n] || m.nodes[n].fixed || len(possible[n]) == 0 {
			return
		}
		seen[n] = true
		load[m.nodes[n].team] += m.nodes[n].size
		for _, a := range m.nodes[n].needs {
			add(a.node) // what it waits for ends no later than it does
		}
	}
	for _, n := range f.nodes {
		add(n)
	}
	var finish Date
	for t, want := range load {
		if want <= eps {
			continue
		}
		byEnd := slices.Clone(m.usable[t])
		slices.SortFunc(byEnd, func(a, b int) int { return cmp.Compare(m.slots[t][a].End, m.slots[t][b].End) })
		end := m.lastEnd.Add(UnplacedDays)
		for _, s := range byEnd {
			if want -= max(0, m.slots[t][s].room); want <= eps {
				end = m.slots[t][s].End
				break
			}
		}
		finish = max(finish, end)
	}
	return finish
}

package schedule

import (
	"container/heap"
	"slices"

	"jantrel/core/needs"
)

// sketch is a slot for every node, and the room that leaves in each slot.
type sketch struct {
	slot  []int
	room  [][]float64
	parts [][][]float64 // room of each part, by team and slot; nil where parts are no limits
}

func (m *model) emptySketch() sketch {
	pl := sketch{slot: make([]int, len(m.nodes)), room: make([][]float64, len(m.slots))}
	for n := range m.nodes {
		pl.slot[n] = nowhere
		if m.nodes[n].fixed {
			pl.slot[n] = m.nodes[n].now
		}
	}
	for t := range m.slots {
		pl.room[t] = make([]float64, len(m.slots[t]))
		for s := range m.slots[t] {
			pl.room[t][s] = m.slots[t][s].room
		}
	}
	if m.parts != nil {
		pl.parts = make([][][]float64, len(m.slots))
		for t := range m.slots {
			for s := range m.slots[t] {
				pl.parts[t] = append(pl.parts[t], slices.Clone(m.slots[t][s].parts))
			}
		}
	}
	return pl
}

// standing is the schedule with nodes in some slots.
func (m *model) standing(slot []int) sketch {
	pl := m.emptySketch()
	for n, at := range slot {
		if !m.nodes[n].fixed && at != nowhere {
			pl.put(m, n, at)
		}
	}
	return pl
}

func (pl *sketch) put(m *model, n, s int) {
	node := &m.nodes[n]
	if old := pl.slot[n]; old != nowhere {
		pl.take(node, old, -node.size)
	}
	pl.slot[n] = s
	if s != nowhere {
		pl.take(node, s, node.size)
	}
}

// take takes so much of a slot's room, of the whole and of the node's parts.
func (pl *sketch) take(node *node, s int, size float64) {
	pl.room[node.team][s] -= size
	for _, k := range node.parts {
		pl.parts[node.team][s][k] -= size
	}
}

// fits reports whether slot s has room for node n, which does not stand there.
func (pl *sketch) fits(m *model, n, s int) bool {
	node := &m.nodes[n]
	room := pl.room[node.team][s]
	if room < -eps || room < node.size-eps {
		return false
	}
	if len(node.parts) == 0 {
		return true
	}
	_, full := pl.full(m, n, s)
	return !full
}

// waits reports whether everything node n needs is placed.
func (pl *sketch) waits(m *model, n int) bool {
	for _, a := range m.nodes[n].needs {
		if pl.slot[a.node] == nowhere {
			return true
		}
	}
	return false
}

// needsHold reports whether all needs of node n hold in slot s. Everything it
// needs must be placed.
func (pl *sketch) needsHold(m *model, n, s int) bool {
	place := m.place(n, s)
	for _, a := range m.nodes[n].needs {
		if !needs.Holds(m.share, m.place(a.node, pl.slot[a.node]), place, a.lag) {
			return false
		}
	}
	return true
}

// allowed reports whether node n could stand in slot s but for its room: the slot
// is open, not too early for the node, and its needs hold there.
func (pl *sketch) allowed(m *model, n, s int) bool {
	at := &m.slots[m.nodes[n].team][s]
	return at.usable && at.Start >= m.nodes[n].notBefore && pl.needsHold(m, n, s)
}

// earliest returns the first slot that node n can stand in, or nowhere.
func (pl *sketch) earliest(m *model, n int) int {
	node := &m.nodes[n]
	if node.never != nil || pl.waits(m, n) {
		return nowhere
	}
	for _, s := range m.usable[node.team] {
		if pl.fits(m, n, s) && pl.allowed(m, n, s) {
			return s
		}
	}
	return nowhere
}

// build places the nodes by a serial schedule generation scheme: always the most
// urgent node whose needs are all decided, into the earliest slot it can have.
// Less is more urgent. stay, unless nil, names a slot for a node that it gets
// whenever it can have it; room for it is held free until then.
func (m *model) build(urgency []float64, stay []int) sketch {
	pl := m.emptySketch()
	for n, s := range stay {
		if s != nowhere {
			pl.take(&m.nodes[n], s, m.nodes[n].size)
		}
	}
	open := make([]int, len(m.nodes)) // needs not yet decided
	waiting := &queue{urgency: urgency}
	for n := range m.nodes {
		if m.nodes[n].fixed {
			continue
		}
		for _, a := range m.nodes[n].needs {
			if !m.nodes[a.node].fixed {
				open[n]++
			}
		}
		if open[n] == 0 {
			heap.Push(waiting, n)
		}
	}
	settled := make([]bool, len(m.nodes))
	for waiting.Len() > 0 {
		n := heap.Pop(waiting).(int)
		settled[n] = true
		m.settle(&pl, n, stay)
		for _, w := range m.nodes[n].wanted {
			if open[w]--; open[w] == 0 {
				heap.Push(waiting, w)
			}
		}
	}
	for n, s := range stay {
		if s != nowhere && !settled[n] { // behind a cycle: its room is free after all
			pl.take(&m.nodes[n], s, -m.nodes[n].size)
		}
	}
	m.pullForward(&pl)
	return pl
}

// settle gives node n the slot it is to stay in, if it can have it, else the
// earliest.
func (m *model) settle(pl *sketch, n int, stay []int) {
	node := &m.nodes[n]
	if stay != nil && stay[n] != nowhere {
		pl.take(node, stay[n], -node.size) // the room held for it
		if node.never == nil && !pl.waits(m, n) && pl.fits(m, n, stay[n]) && pl.allowed(m, n, stay[n]) {
			pl.put(m, n, stay[n])
			return
		}
	}
	if s := pl.earliest(m, n); s != nowhere {
		pl.put(m, n, s)
	}
}

// pullForward moves nodes to earlier slots, and unplaced ones into any, until
// none can move. No need can break by it, no date get later, and after it every
// node is held where it is by a need, a date or a full iteration. Keeping close
// to today's plan, those that stand where they stand today are left there.
func (m *model) pullForward(pl *sketch) {
	for moved := true; moved; {
		moved = false
		for n := range m.nodes {
			node := &m.nodes[n]
			stays := m.keep && pl.slot[n] != nowhere && pl.slot[n] == node.now
			if node.fixed || stays || node.never != nil || pl.waits(m, n) {
				continue
			}
			for _, s := range m.usable[node.team] {
				if s == pl.slot[n] {
					break
				}
				if pl.fits(m, n, s) && pl.allowed(m, n, s) {
					pl.put(m, n, s)
					moved = true
					break
				}
			}
		}
	}
}

// queue is a heap of nodes, most urgent first, rank deciding ties.
type queue struct {
	urgency []float64
	nodes   []int
}

func (q *queue) Len() int { return len(q.nodes) }

func (q *queue) Less(a, b int) bool {
	x, y := q.nodes[a], q.nodes[b]
	return q.urgency[x] < q.urgency[y] || q.urgency[x] == q.urgency[y] && x < y
}

func (q *queue) Swap(a, b int) { q.nodes[a], q.nodes[b] = q.nodes[b], q.nodes[a] }

func (q *queue) Push(n any) { q.nodes = append(q.nodes, n.(int)) }

func (q *queue) Pop() any {
	last := len(q.nodes) - 1
	n := q.nodes[last]
	q.nodes = q.nodes[:last]
	return n
}

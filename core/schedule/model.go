package schedule

import (
	"cmp"
	"slices"

	"jantrel/core/capacity"
	"jantrel/core/needs"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// eps forgives the rounding of sums of sizes.
const eps = 1e-9

// nowhere is the slot of an item that is unplaced.
const nowhere = -1

// model is a program as the scheduler sees it: the leaves to schedule, pieces of rough sizes
// among them, as nodes,
// the iterations as slots, the needs as arcs between nodes.
type model struct {
	p        *plan.Plan
	tree     program.Tree
	today    Date
	share    program.SameIteration
	fillTo   []float64 // share of capacity to use, by team
	lean     float64   // share of that which the schedule fills on purpose; 0: all of it
	keep     bool
	selected map[int]bool // leaves that may move, by position in Program.Items; nil: all
	freeze   int          // how many of each team's next iterations stay as they are
	nodes    []node
	order    []int    // the nodes, each after what it needs; see sorted
	slots    [][]slot // by team
	usable   [][]int  // by team: the slots a draft may use, earliest end first
	finals   []final  // what late days are counted of
	parts    [][]part // by team: roles and people, where these are limits too; nil: they are not
	lastEnd  Date     // last end of all iterations

	leaveAgreed bool // days that teams agreed on are no dates to meet
}

// node is one leaf to be scheduled; nodes are in rank order.
type node struct {
	item      int // position in Program.Items
	team      int // -1 for none
	size      float64
	assumed   *float64 // its size, where that is assumed
	counts    bool     // has a size and a team: counts in late days and importance
	fixed     bool
	now       int // slot in today's plan, or nowhere
	notBefore Date
	weight    float64
	parts     []int // of its team, that it takes from
	needs     []arc // what it waits for; nil for fixed nodes, which needs do not bind
	wanted    []int // nodes that wait for it
	never     *Why  // why it can never be placed; nil where it can
}

// arc is a need of a node on another.
type arc struct {
	node, lag int
}

// slot is one iteration. room is what fixed and done items leave of what it may
// be filled to; below 0 it is overloaded and nothing may be added.
type slot struct {
	needs.Place
	room     float64
	load     float64 // of fixed and done items
	capacity float64
	parts    []float64 // room of each part, as room is of all
	usable   bool
	frozen   bool // it stays as it is
}

// final is something with a date that can be late: a release, a dated item, or a
// fixed item that needs one that can move.
type final struct {
	release int   // position in Program.Releases, or -1
	nodes   []int // it finishes with the last of these
	due     Date
	// fixed is where the fixed item stands whose need this is, and lag the need's
	// lag; nil for releases and dated items.
	fixed *needs.Place
	lag   int
}

func newModel(p *plan.Plan, o Options) *model {
	p = p.Whole()
	m := &model{p: p, tree: p.Tree(), today: o.Today, share: p.Settings.SameIteration, keep: o.KeepClose, freeze: o.Freeze, leaveAgreed: o.LeaveAgreed}
	m.fillTo = make([]float64, len(p.Teams))
	for t := range p.Teams {
		m.fillTo[t] = cmp.Or(o.FillTo, capacity.FillTo(p, t))
	}
	m.addSlots()
	m.selected = m.mayMove(o)
	m.addNodes(o)
	if o.Roles {
		m.addParts()
	}
	m.addNeeds()
	m.order = m.sorted()
	m.findNever()
	return m
}

func (m *model) addSlots() {
	m.lastEnd = m.today
	first := true
	figures := capacity.Of(m.p)
	for t := range m.p.Teams {
		var slots []slot
		var usable []int
		for s, it := range m.p.Teams[t].Iterations {
			c := figures[t][s].Capacity
			ok := it.Takes(m.today)
			slots = append(slots, slot{Place: needs.Place{Team: t, Slot: s, Span: it.Span()}, capacity: c, room: c * m.fillTo[t], usable: ok})
			if ok {
				usable = append(usable, s)
			}
			if first || it.End > m.lastEnd {
				m.lastEnd, first = it.End, false
			}
		}
		slices.SortStableFunc(usable, func(a, b int) int {
			return cmp.Or(cmp.Compare(slots[a].End, slots[b].End), cmp.Compare(slots[a].Start, slots[b].Start))
		})
		frozen := min(max(0, m.freeze), len(usable))
		for _, s := range usable[:frozen] {
			slots[s].usable, slots[s].frozen = false, true
		}
		m.slots, m.usable = append(m.slots, slots), append(m.usable, usable[frozen:])
	}
}

func (m *model) addNodes(o Options) {
	teams := m.p.TeamAt()
	past := func(*program.Item) []float64 { return nil }
	if o.AssumeSizes {
		past = plan.PastSizes(m.p)
	}
	for i := range m.p.Items {
		item := &m.p.Items[i]
		place, placed := m.p.Place(i)
		if item.State == program.Done && placed && m.tree.IsLeaf(i) && item.Size != nil {
			m.occupy(place, *item.Size)
		}
		if !m.tree.ToSchedule(i) {
			continue
		}
		n := node{item: i, team: -1, now: nowhere, notBefore: max(item.NotBefore, o.NotBefore[item.Key])}
		if t, ok := teams[item.Team]; ok {
			n.team = t
		}
		if item.Size != nil {
			n.size = *item.Size
			n.counts = n.team >= 0
		} else if usual, ok := plan.UsualSize(past(item)); ok && n.team >= 0 {
			n.size, n.assumed, n.counts = usual, &usual, true
		}
		if placed {
			n.now = place.Slot
			n.fixed = Fixed(item, m.p.Teams[place.Team].Iterations[place.Slot]) ||
				m.selected != nil && !m.selected[i] || m.slots[place.Team][place.Slot].frozen
		}
		if n.fixed {
			m.occupy(place, n.size)
		}
		m.nodes = append(m.nodes, n)
	}
	for i := range m.nodes {
		m.nodes[i].weight = float64(len(m.nodes)-i) / float64(len(m.nodes))
	}
}

// Fixed reports whether an item that is to be scheduled does not move from the iteration it
// stands in: it is pinned there, or under way and the iteration is not closed.
func Fixed(item *program.Item, in program.Iteration) bool {
	return item.Pinned || item.State.UnderWay() && in.State != program.Closed
}

// mayMove returns the leaves that options let move; nil, for all, where they say nothing of it.
func (m *model) mayMove(o Options) map[int]bool {
	if len(o.Items)+len(o.Releases)+len(o.Teams) == 0 {
		return nil
	}
	named := map[int]bool{}
	for _, key := range o.Items {
		if i, ok := m.tree.Index[key]; ok {
			for _, leaf := range m.tree.Leaves(i) {
				named[leaf] = true
			}
		}
	}
	among := func(list []string, key string) bool { return len(list) == 0 || slices.Contains(list, key) }
	selected := map[int]bool{}
	for i := range m.p.Items {
		if (len(o.Items) == 0 || named[i]) && among(o.Releases, m.tree.Release(i)) && among(o.Teams, m.p.Items[i].Team) {
			selected[i] = true
		}
	}
	return selected
}

func (m *model) occupy(at needs.Place, size float64) {
	s := &m.slots[at.Team][at.Slot]
	s.load += size
	s.room -= size
}

// addNeeds turns the needs into arcs and gathers everything that can be late.
func (m *model) addNeeds() {
	nodeOf := make([]int, len(m.p.Items))
	for i := range nodeOf {
		nodeOf[i] = -1
	}
	for n := range m.nodes {
		nodeOf[m.nodes[n].item] = n
	}
	m.addReleases()
	m.addDated(nodeOf)
	type onRough struct{ item, of, team, lag int }
	roughs := map[onRough]int{} // the final of a fixed item that needs something rough: as late as the last piece
	for _, e := range needs.Edges(m.p) {
		item, needed := nodeOf[e.Item], nodeOf[e.Needs]
		if item < 0 || needed < 0 {
			continue // one of them is done
		}
		a, b := &m.nodes[item], &m.nodes[needed]
		if !a.fixed {
			a.needs = append(a.needs, arc{needed, e.LagDays})
			b.wanted = append(b.wanted, item)
		} else if !b.fixed && b.counts {
			if piece, rough := m.p.Piece(e.Needs); rough {
				key := onRough{item, piece.Of, b.team, e.LagDays}
				if at, known := roughs[key]; known {
					m.finals[at].nodes = append(m.finals[at].nodes, needed)
					continue
				}
				roughs[key] = len(m.finals)
			}
			m.finals = append(m.finals, final{release: -1, nodes: []int{needed}, fixed: &m.slots[a.team][a.now].Place, lag: e.LagDays})
		}
	}
}

func (m *model) addReleases() {
	byKey := map[string]int{}
	for r, release := range m.p.Releases {
		byKey[release.Key] = len(m.finals)
		m.finals = append(m.finals, final{release: r, due: release.Due})
	}
	for n := range m.nodes {
		if at, ok := byKey[m.tree.Release(m.nodes[n].item)]; ok {
			m.finals[at].nodes = append(m.finals[at].nodes, n)
		}
	}
}

func (m *model) addDated(nodeOf []int) {
	for _, d := range needs.DatesToMeet(m.p, m.leaveAgreed) {
		f := final{release: -1, due: d.Due}
		for _, leaf := range d.Leaves {
			if n := nodeOf[leaf]; n >= 0 {
				f.nodes = append(f.nodes, n)
			}
		}
		if len(f.nodes) > 0 {
			m.finals = append(m.finals, f)
		}
	}
}

// now is where the nodes stand in today's plan.
func (m *model) now() []int {
	slots := make([]int, len(m.nodes))
	for n := range m.nodes {
		slots[n] = m.nodes[n].now
	}
	return slots
}

// place is where node n stands if it stands in slot s.
func (m *model) place(n, s int) needs.Place { return m.slots[m.nodes[n].team][s].Place }

// end is when node n ends if it stands in slot s; the late date that counts for
// something unplaced otherwise.
func (m *model) end(n, s int) Date {
	if s == nowhere {
		return m.lastEnd.Add(UnplacedDays)
	}
	return m.place(n, s).End
}

// key is the key of node n's item; of a piece that of the item it belongs to.
func (m *model) key(n int) string { return m.p.KeyOf(m.nodes[n].item) }

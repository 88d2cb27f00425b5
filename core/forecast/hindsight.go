package forecast

import (
	"cmp"
	"math"
	"slices"

	"jantrel/core/needs"
	"jantrel/core/plan"
)

// Hindsight returns a number of expected late days that no plan of this work stays under,
// whatever stands where: the mean over the same plays as Play's of a bound with the play's
// velocities known beforehand (the bound of perfect information).
//
// Within a play each release and each item with a due date of its own lands no earlier than
// each of its teams could do all of its work, and what that needs, if it did nothing else; nor
// than each of its items could be done by its dates and needs if its team did nothing else.
// These bounds are added up. A play takes time linear in items, needs and coming iterations.
func Hindsight(p *plan.Plan, o Options) float64 {
	o.Plays = cmp.Or(max(0, o.Plays), defaultPlays)
	g := newGame(p, o)
	h := newHindsight(g)
	workers := max(1, o.Workers)
	late := make([]int, workers) // whole days, so that the sum does not depend on who adds
	g.playEach(o, func(worker int) func(uint64) {
		b, s := g.newBoard(), h.newSight()
		return func(play uint64) {
			g.deal(b, play)
			g.draw(b, play, group{0, len(g.periods)})
			late[worker] += h.late(b, s)
		}
	})
	total := 0
	for _, n := range late {
		total += n
	}
	return float64(total) / float64(o.Plays)
}

// hindsight is what is the same in every play.
type hindsight struct {
	*game
	order   []int   // the nodes, each after what it needs; those that never land are left out
	of      [][]int // the periods of each team, by start
	chains  bool    // no team's periods overlap: else needs are left out
	closure [][]int // of each final: its nodes and all that they need
}

// sight is what is known of one play; it is used again and again.
type sight struct {
	done []int32 // of each node: the position of the first period in which it could be done
	day  []int32 // and on which day, in days after today
	load []float64
}

func (h *hindsight) newSight() *sight {
	return &sight{make([]int32, len(h.nodes)), make([]int32, len(h.nodes)), make([]float64, len(h.teams))}
}

func newHindsight(g *game) *hindsight {
	h := &hindsight{game: g, of: make([][]int, len(g.teams)), chains: true}
	for i := range g.periods {
		of := &h.of[g.periods[i].team]
		if len(*of) > 0 && g.periods[(*of)[len(*of)-1]].End >= g.periods[i].Start {
			h.chains = false
		}
		*of = append(*of, i)
	}
	open := make([]int, len(g.nodes))
	for n := range g.nodes {
		if open[n] = len(g.nodes[n].needs); open[n] == 0 && !g.nodes[n].never {
			h.order = append(h.order, n)
		}
	}
	for i := 0; i < len(h.order); i++ {
		for _, w := range g.nodes[h.order[i]].wanted {
			if open[w.node]--; open[w.node] == 0 && !g.nodes[w.node].never {
				h.order = append(h.order, w.node)
			}
		}
	}
	for f := range g.finals[:g.releases+g.dated] {
		seen := make([]bool, len(g.nodes))
		var nodes []int
		var add func(n int)
		add = func(n int) {
			if !seen[n] {
				seen[n] = true
				nodes = append(nodes, n)
				for _, a := range g.nodes[n].needs {
					add(a.node)
				}
			}
		}
		for _, n := range g.finals[f].nodes {
			add(n)
		}
		h.closure = append(h.closure, nodes)
	}
	return h
}

// late bounds the late days of a play whose luck has been dealt.
func (h *hindsight) late(b *board, s *sight) int {
	for i := range s.done {
		s.done[i], s.day[i] = math.MaxInt32, int32(h.horizon)
	}
	if h.chains {
		for _, n := range h.order {
			h.alone(b, s, n)
		}
	}
	total := 0
	for f := range h.closure {
		final, day := &h.finals[f], int32(0)
		switch {
		case final.left+final.rough == 0:
			continue
		case len(final.cannot) > 0:
			day = int32(h.horizon)
		default:
			day = h.together(b, s, f)
		}
		due := h.today
		if !final.due.IsZero() {
			due = final.due
		}
		total += max(0, int(h.today.Add(int(min(day, int32(h.horizon))))-due))
	}
	return total
}

// alone is when a node could be done if its team did nothing else from the first period on that
// its dates and needs let it.
func (h *hindsight) alone(b *board, s *sight, n int) {
	node := &h.nodes[n]
	if b.state[n].done >= 0 { // of a risk that does not strike
		s.done[n], s.day[n] = 0, 0
		return
	}
	periods := h.of[node.team]
	start := slices.IndexFunc(periods, func(i int) bool { return h.lets(s, node, i) })
	if start >= 0 {
		s.done[n], s.day[n] = h.reach(b, periods, start, b.state[n].left)
	}
}

// lets reports whether a node could be begun in a period.
func (h *hindsight) lets(s *sight, node *node, at int) bool {
	p := &h.periods[at]
	if p.Start < node.notBefore || node.pinned && p.slot < node.slot {
		return false
	}
	for _, a := range node.needs {
		done := s.done[a.node]
		if done == math.MaxInt32 {
			return false
		}
		q := &h.periods[h.of[h.nodes[a.node].team][done]]
		if !needs.Holds(h.share, q.place(), p.place(), a.lag) {
			return false
		}
	}
	return true
}

// reach returns in which of a team's periods, counted from its first, and on which day so much
// work could be done from one of them on.
func (h *hindsight) reach(b *board, periods []int, from int, load float64) (position, day int32) {
	load -= 1e-6 // sums of sizes are rounded
	for k := from; k < len(periods); k++ {
		i := periods[k]
		budget := b.budget[i]
		if load <= budget {
			p := &h.periods[i]
			if !h.chains && len(p.days) > 0 {
				return int32(k), p.days[0] // others under way then may have done some of it
			}
			return int32(k), h.dayOf(p, load, budget)
		}
		load -= budget
	}
	return math.MaxInt32, int32(h.horizon)
}

// together is the day before which a final cannot have landed.
func (h *hindsight) together(b *board, s *sight, f int) int32 {
	last := int32(0)
	clear(s.load)
	for _, n := range h.closure[f] {
		s.load[h.nodes[n].team] += b.state[n].left
		if h.chains {
			last = max(last, s.day[n])
		}
	}
	for t, load := range s.load {
		if load > 0 {
			_, day := h.reach(b, h.of[t], 0, load)
			last = max(last, day)
		}
	}
	return last
}

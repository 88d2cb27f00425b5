package schedule

import (
	"cmp"
	"math"
	"math/rand/v2"
	"slices"
)

// search builds schedules in several orders (today's plan mended, orders between rank and due
// dates, then chance variations of the best so far that push what is late: multi-start list
// scheduling) and makes the best of these better.
func (m *model) search(o Options) sketch {
	best := m.build(m.byRank(), m.staying())
	bestScore := m.score(best.slot)
	var stay []int
	if m.keep {
		stay = m.staying()
	}
	consider := func(urgency []float64) bool {
		pl := m.build(urgency, stay)
		score := m.score(pl.slot)
		if m.better(score, bestScore) {
			best, bestScore = pl, score
			return true
		}
		return false
	}
	rank, due := m.byRank(), m.byDue()
	top := mix(rank, due, 0)
	for step := 0; step <= 10; step++ {
		urgency := mix(rank, due, float64(step)/10)
		if consider(urgency) {
			top = urgency
		}
	}
	tries := o.Tries
	if tries == 0 {
		tries = max(20, min(300, 300_000/max(1, len(m.nodes))))
	}
	// A fixed seed: the same document gives the same draft on every machine.
	random := rand.New(rand.NewPCG(uint64(len(m.nodes)), 7))
	for try := 0; try < tries; try++ {
		if o.Stop != nil && o.Stop() {
			break
		}
		if urgency := m.vary(top, best.slot, random, try); consider(urgency) {
			top = urgency
		}
	}
	places := placesTried
	if o.Tries > 0 {
		places = o.Tries * placesOnce
	}
	if pl := m.improve(best.slot, places, o.Stop); m.better(m.score(pl.slot), bestScore) {
		best = pl
	}
	apart, today := slices.Clone(best.slot), m.score(m.now())
	if m.gather(&best); m.score(best.slot).LateDays == today.LateDays && m.better(today, m.score(best.slot)) {
		return m.standing(apart)
	}
	return best
}

// vary shakes an order, and on every other try also pulls forward something that
// is late with all it waits for.
func (m *model) vary(urgency []float64, slot []int, random *rand.Rand, try int) []float64 {
	shaken := slices.Clone(urgency)
	spread := []float64{0.02, 0.08, 0.25}[try%3]
	for i := range shaken {
		if random.Float64() < 0.3 {
			shaken[i] += spread * (random.Float64() - 0.5)
		}
	}
	if try%2 == 1 {
		return shaken
	}
	var late []*final
	for i := range m.finals {
		if days, _ := m.late(&m.finals[i], slot); days > 0 {
			late = append(late, &m.finals[i])
		}
	}
	if len(late) == 0 {
		return shaken
	}
	f := late[random.IntN(len(late))]
	m.pull(shaken, f.nodes, random.Float64()*0.5)
	return shaken
}

// pull makes nodes, and all that they wait for, more urgent.
func (m *model) pull(urgency []float64, nodes []int, by float64) {
	seen := make([]bool, len(m.nodes))
	var forward func(n int)
	forward = func(n int) {
		if seen[n] {
			return
		}
		seen[n] = true
		urgency[n] -= by
		for _, a := range m.nodes[n].needs {
			forward(a.node)
		}
	}
	for _, n := range nodes {
		forward(n)
	}
}

// mix is the order between two: share 0 is a, 1 is b.
func mix(a, b []float64, share float64) []float64 {
	out := make([]float64, len(a))
	for i := range a {
		out[i] = (1-share)*a[i] + share*b[i]
	}
	return out
}

// byRank is the order of importance, 0 to 1; what is needed is as urgent as what
// needs it.
func (m *model) byRank() []float64 {
	urgency := make([]float64, len(m.nodes))
	for n := range m.nodes {
		urgency[n] = float64(n) / float64(max(1, len(m.nodes)))
	}
	m.inherit(urgency, func(int) float64 { return 0 })
	return urgency
}

// byDue is the order of the latest end that still keeps every date, 0 to 1 over
// the time of the plan: the node's own dates, and those of what waits for it less
// the length of an iteration.
func (m *model) byDue() []float64 {
	horizon := float64(max(1, m.lastEnd-m.today))
	latest := make([]float64, len(m.nodes))
	for n := range latest {
		latest[n] = math.Inf(1)
	}
	for i := range m.finals {
		f := &m.finals[i]
		due := float64(f.due - m.today)
		switch {
		case f.fixed != nil:
			due = float64(f.fixed.Start-m.today) - 1 - float64(f.lag)
		case f.due.IsZero():
			due = 0 // late from today on: the sooner the better
		}
		for _, n := range f.nodes {
			latest[n] = min(latest[n], due/horizon)
		}
	}
	m.inherit(latest, func(n int) float64 {
		if t := m.nodes[n].team; t >= 0 && len(m.usable[t]) > 0 {
			return float64(m.slots[t][m.usable[t][0]].Days()) / horizon
		}
		return 0
	})
	for n := range latest {
		latest[n] = max(-1, min(latest[n], 1.5))
	}
	return latest
}

// inherit makes what is needed at least as urgent as what waits for it, less the
// length that takes.
func (m *model) inherit(urgency []float64, length func(int) float64) {
	order := m.order
	for i := len(order) - 1; i >= 0; i-- {
		n := order[i]
		for _, w := range m.nodes[n].wanted {
			urgency[n] = min(urgency[n], urgency[w]-length(w))
		}
	}
}

// staying names for each node the slot that it stands in today, if it may stay
// there: as many as there is room for, small ones first.
func (m *model) staying() []int {
	stay := make([]int, len(m.nodes))
	pl := m.emptySketch()
	bySize := make([]int, len(m.nodes))
	for n := range bySize {
		stay[n], bySize[n] = nowhere, n
	}
	slices.SortStableFunc(bySize, func(a, b int) int { return cmp.Compare(m.nodes[a].size, m.nodes[b].size) })
	for _, n := range bySize {
		node := &m.nodes[n]
		if node.fixed || node.now == nowhere || node.never != nil {
			continue
		}
		at := &m.slots[node.team][node.now]
		if at.usable && at.Start >= node.notBefore && pl.fits(m, n, node.now) {
			pl.take(node, node.now, node.size)
			stay[n] = node.now
		}
	}
	return stay
}

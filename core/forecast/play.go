package forecast

import (
	"sync"

	"jantrel/core/needs"
	"jantrel/core/program"
)

// board is the state of one play; a worker uses the same one again and again.
type board struct {
	left    []float64 // of each node, in its team's unit
	done    []int32   // period in which it was done, -1 while it is not
	open    []int32   // how many of its needs are not done
	from    []Date    // no iteration that starts before may take it, but for one it may share
	placed  [][]int   // nodes not done, by team
	waiting [][]int
	budget  []float64 // by period
	spent   []float64
}

// playAll plays as often as asked. Each worker looks at its plays with a function
// of its own, which start makes; play n is the same whoever plays it.
func (g *game) playAll(o Options, start func(worker int) func(*board)) {
	workers := max(1, o.Workers)
	var wait sync.WaitGroup
	for w := range workers {
		wait.Go(func() {
			look, b := start(w), g.newBoard()
			for play := w; play < o.Plays && (o.Stop == nil || !o.Stop()); play += workers {
				g.play(b, o.Seed, uint64(play))
				look(b)
			}
		})
	}
	wait.Wait()
}

// tally is counts that every worker keeps for itself, and that are added up in the
// end.
type tally struct{ parts [][]uint32 }

func newTally(workers, n int) *tally {
	t := &tally{make([][]uint32, max(1, workers))}
	for w := range t.parts {
		t.parts[w] = make([]uint32, n)
	}
	return t
}

func (t *tally) sum() []uint32 {
	for _, part := range t.parts[1:] {
		for i, n := range part {
			t.parts[0][i] += n
		}
	}
	return t.parts[0]
}

// countFinishes plays and counts, for each final, how many plays finished on each
// day after today; the last count is of plays that did not finish.
func (g *game) countFinishes(o Options) [][]uint32 {
	days := g.horizon + 1
	counts := newTally(o.Workers, len(g.finals)*days)
	g.playAll(o, func(worker int) func(*board) {
		part := counts.parts[worker]
		return func(b *board) {
			for i := range g.finals {
				part[i*days+int(g.finish(b, g.finals[i].nodes))]++
			}
		}
	})
	all, finals := counts.sum(), make([][]uint32, len(g.finals))
	for i := range finals {
		finals[i] = all[i*days : (i+1)*days]
	}
	return finals
}

// finish is the end of the last iteration in which one of the nodes was done, in
// days after today; the horizon if one was not.
func (g *game) finish(b *board, nodes []int) int32 {
	last := int32(0)
	for _, n := range nodes {
		if b.done[n] < 0 {
			return int32(g.horizon)
		}
		last = max(last, int32(g.periods[b.done[n]].End-g.today))
	}
	return last
}

func (g *game) newBoard() *board {
	return &board{
		left: make([]float64, len(g.nodes)), done: make([]int32, len(g.nodes)), open: make([]int32, len(g.nodes)), from: make([]Date, len(g.nodes)),
		placed: make([][]int, len(g.teams)), waiting: make([][]int, len(g.teams)),
		budget: make([]float64, len(g.periods)), spent: make([]float64, len(g.periods)),
	}
}

func (g *game) play(b *board, seed, play uint64) {
	for n := range g.nodes {
		node := &g.nodes[n]
		b.left[n], b.done[n], b.open[n], b.from[n] = node.size, -1, int32(len(node.needs)), node.notBefore
		if node.sizes != nil {
			b.left[n] = node.sizes[draw(seed, play, node.hash, 0)%uint64(len(node.sizes))]
		}
	}
	for t := range g.teams {
		b.placed[t] = append(b.placed[t][:0], g.teams[t].placed...)
		b.waiting[t] = append(b.waiting[t][:0], g.teams[t].waiting...)
	}
	open := len(g.nodes)
	for _, group := range g.groups {
		if open == 0 {
			return
		}
		open -= g.playGroup(b, group, seed, play)
	}
}

// playGroup plays periods with equal dates, and returns how many nodes got done.
// Where teams may share them with what they need, they take turns until no more
// gets done.
func (g *game) playGroup(b *board, of group, seed, play uint64) int {
	for i := of.from; i < of.to; i++ {
		p := &g.periods[i]
		samples := g.teams[p.team].samples
		b.spent[i] = 0
		b.budget[i] = p.base * samples[draw(seed, play, uint64(p.team), uint64(p.slot))%uint64(len(samples))]
	}
	takeTurns := g.share == program.ShareAlways && of.to-of.from > 1
	done := 0
	for again := true; again; {
		before := done
		for i := of.from; i < of.to; i++ {
			done += g.playPeriod(b, i)
		}
		again = takeTurns && done > before
	}
	return done
}

// playPeriod lets a team work through what it has in a period, and returns how
// many nodes got done: again and again, as long as that frees others.
func (g *game) playPeriod(b *board, at int) int {
	t, total := g.periods[at].team, 0
	for again := true; again; {
		placed, freed := g.work(b, at, &b.placed[t])
		waiting, freedToo := g.work(b, at, &b.waiting[t])
		total += placed + waiting
		again = freed || freedToo
	}
	return total
}

// work spends what is left of a period's budget on a queue, takes out of it what
// got done, and returns how many that were and whether they may have freed others
// of the same team for the same period.
func (g *game) work(b *board, at int, from *[]int) (total int, freed bool) {
	p, budget, queue := &g.periods[at], b.budget[at], *from
	keep := queue[:0]
	for i, n := range queue {
		// What is looked at most comes first, and lies close together.
		if b.open[n] > 0 && b.spent[at] < budget {
			keep = append(keep, n)
			continue
		}
		node := &g.nodes[n]
		if b.spent[at] >= budget || node.slot > p.slot {
			keep = append(keep, queue[i:]...) // the queue is by slot: the rest comes later too
			break
		}
		if p.Start < b.from[n] && (!node.shares || node.notBefore > p.Start || !g.free(b, node, at)) {
			keep = append(keep, n)
			continue
		}
		use := min(b.left[n], budget-b.spent[at])
		b.left[n] -= use
		b.spent[at] += use
		if b.left[n] > 1e-9 {
			keep = append(keep, n)
			continue
		}
		b.done[n] = int32(at)
		for _, w := range node.wanted {
			b.open[w.node]--
			b.from[w.node] = max(b.from[w.node], p.End.Add(w.lag+1))
		}
		freed = freed || node.frees
		total++
	}
	*from = keep
	return total, freed
}

// free reports whether all that a node needs, which is done, was done early enough
// for a period.
func (g *game) free(b *board, node *node, at int) bool {
	p := &g.periods[at]
	for _, a := range node.needs {
		q := &g.periods[b.done[a.node]]
		if !needs.Holds(g.share, needs.Place{Team: q.team, Slot: q.slot, Span: q.Span}, needs.Place{Team: p.team, Slot: p.slot, Span: p.Span}, a.lag) {
			return false
		}
	}
	return true
}

// draw returns a number that depends on nothing but its arguments, so that an
// edit elsewhere in the plan does not change the luck of a team. It is the
// finaliser of SplitMix64 over the arguments.
func draw(seed, play, a, b uint64) uint64 {
	x := seed*0x9E3779B97F4A7C15 ^ play*0xBF58476D1CE4E5B9 ^ a*0x94D049BB133111EB ^ b*0xD6E8FEB86659FD93
	for range 2 {
		x ^= x >> 30
		x *= 0xBF58476D1CE4E5B9
		x ^= x >> 27
		x *= 0x94D049BB133111EB
		x ^= x >> 31
	}
	return x
}

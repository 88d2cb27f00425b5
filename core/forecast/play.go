package forecast

import (
	"math"
	"slices"
	"sync"

	"jantrel/core/needs"
	"jantrel/core/program"
)

// board is the state of one play; a worker uses the same one again and again.
type board struct {
	state   []state // of each node
	planned [][]int // nodes not done, by team
	ahead   [][]int
	walks   []walk     // how fast each team goes in this play
	growers [][]grower // as they are now
	budget  []float64  // by period
	spent   []float64
	held    []int32   // of each node, the period in which its work was done while a defect hinders it; -1: it was not; nil where none can be
	load    []float64 // by team, what is left of it all
	now     uint64    // the play
	luck    []*hand   // of each period's velocity; dealt when it is first asked for
	growing [][]*hand // by period: of what each grower of its team gets then; the same

	chances chances // what is taken other than the plan says of its risks
	struck  []bool  // which risks strike in this play
	delay   []int32 // of each node, in days, that a risk brings; nil where none can
	delayed []int   // the nodes that have one
	notes   bool    // whether it is noted what grows
	grown   []grown // that, in this play
	began   []int32 // period in which work on each node began, -1 before; nil: nobody asks
	idle    int     // nodes that have nothing to do in this play
}

// state is how a node stands in a play, with what of it is looked at most: half a line of a
// processor's cache.
type state struct {
	left   float64 // in its team's unit
	done   int32   // period in which it was done, -1 while it is not
	day    int32   // day on which it was done, in days after today; before that: no earlier than this
	open   int32   // how many of its needs are not done
	from   Date    // no iteration that starts before may take it, but for one it may share
	slot   int32   // as of its node
	frees  bool    // as of its node
	shares bool    // as of its node
	grown  bool    // it is what a release grows by
}

// playAll plays as often as asked. Each worker looks at its plays with a function
// of its own, which start makes; play n is the same whoever plays it.
func (g *game) playAll(o Options, start func(worker int) func(*board)) {
	g.playEach(o, func(worker int) func(uint64) {
		look, b := start(worker), g.newBoard()
		return func(play uint64) {
			g.play(b, play)
			look(b)
		}
	})
}

// playEach has the plays shared among the workers, by a function of each, which start makes. What breaks in one of
// them breaks here.
func (g *game) playEach(o Options, start func(worker int) func(play uint64)) {
	workers := max(1, o.Workers)
	var wait sync.WaitGroup
	var first sync.Once
	var broken any
	for w := range workers {
		wait.Go(func() {
			defer func() {
				if why := recover(); why != nil {
					first.Do(func() { broken = why })
				}
			}()
			do := start(w)
			for play := w; play < o.Plays && (o.Stop == nil || !o.Stop()); play += workers {
				do(uint64(play))
			}
		})
	}
	wait.Wait()
	if broken != nil {
		panic(broken)
	}
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
// day after today; the last count is of plays that did not finish. Of those that each is
// asked of, it says so of every play.
func (g *game) countFinishes(o Options) (finals [][]uint32, each [][]int32) {
	days := g.horizon + 1
	counts := newTally(o.Workers, len(g.finals)*days)
	finals, each = make([][]uint32, len(g.finals)), g.eachOf(o)
	g.playAll(o, func(worker int) func(*board) {
		part := counts.parts[worker]
		return func(b *board) {
			for i := range g.finals {
				day := g.finish(b, g.finals[i].nodes)
				part[i*days+int(day)]++
				if f := &g.finals[i]; each[i] != nil && len(f.nodes) > 0 && len(f.cannot) == 0 {
					each[i][b.now] = day
				}
			}
		}
	})
	all := counts.sum()
	for i := range finals {
		finals[i] = all[i*days : (i+1)*days]
	}
	return finals, each
}

// eachOf has room for the days of what each is asked of; of the others, none. What has nothing to be played is there
// already: before any date, or when plays end.
func (g *game) eachOf(o Options) [][]int32 {
	each := make([][]int32, len(g.finals))
	for i, f := range g.finals {
		if !o.Each || i >= g.releases && i < len(g.finals)-len(o.Sets) {
			continue
		}
		day := int32(math.MinInt32)
		if len(f.cannot) > 0 {
			day = int32(g.horizon)
		}
		each[i] = slices.Repeat([]int32{day}, o.Plays)
	}
	return each
}

// finish is the day on which the last of the nodes was done, in days after today; the horizon
// if one was not.
func (g *game) finish(b *board, nodes []int) int32 {
	last := int32(0)
	for _, n := range nodes {
		if b.state[n].done < 0 {
			return int32(g.horizon)
		}
		last = max(last, b.state[n].day)
	}
	return last
}

func (g *game) newBoard() *board {
	b := &board{
		load:    make([]float64, len(g.teams)),
		state:   make([]state, len(g.nodes)),
		planned: make([][]int, len(g.teams)), ahead: make([][]int, len(g.teams)), walks: make([]walk, len(g.teams)),
		budget: make([]float64, len(g.periods)), spent: make([]float64, len(g.periods)), luck: make([]*hand, len(g.periods)), growing: make([][]*hand, len(g.periods)),
	}
	for t := range g.growers {
		b.growers = append(b.growers, make([]grower, len(g.growers[t])))
	}
	b.chances, b.struck = asPlanned, make([]bool, len(g.risks))
	if g.hinders {
		b.held = make([]int32, len(g.nodes))
	}
	if slices.ContainsFunc(g.risks, func(r risk) bool { return len(r.delays) > 0 }) {
		b.delay = make([]int32, len(g.nodes))
	}
	return b
}

// What is drawn for beside the iterations of a team.
const (
	ofSpread = iota + 1
	ofSize
	ofGrowth
	ofRisk
	ofRiskSize
	ofRiskDays
	ofMean
	ofPersistence
)

// deal deals the luck of a play that is the same throughout: sizes that are drawn, risks that
// strike, and how fast each team goes.
func (g *game) deal(b *board, play uint64) {
	copy(b.state, g.start)
	b.now = play
	for n := range b.held {
		b.held[n] = -1
	}
	for t := range g.teams {
		b.load[t] = g.teams[t].load
	}
	for _, n := range g.drawn {
		node := &g.nodes[n]
		left := node.share * node.sizes[node.luck.pick(play)]
		b.state[n].left = left
		if !node.never {
			b.load[node.team] += left
		}
	}
	b.idle = g.strike(b, play)
	k := int(g.persists[g.persist.pick(play)])
	for t := range g.teams {
		team := &g.teams[t]
		b.walks[t] = team.gait.begin(k, team.spread.pick(play), team.mean.pick(play), &team.spreads)
	}
}

// aside is how much is done of other things of its team before something is done, as they go on beside it: none gets more
// than it does. What is under way now is so together with others, of which some are done by then.
func (g *game) aside(b *board, n, at int) float64 {
	p, node := &g.periods[at], &g.nodes[n]
	team := &g.teams[p.team]
	if team.aside <= 0 {
		return 0
	}
	left := node.size
	if node.sizes != nil {
		left = node.share * node.sizes[node.luck.pick(b.now)]
	}
	aside := team.beside * left
	if node.begun && p.seen != nil {
		aside = max(0, aside+left-b.spent[at])
	}
	return max(0, min(aside, team.aside, b.load[p.team]))
}

// draw draws what periods take.
func (g *game) draw(b *board, play uint64, of group) {
	for i := of.from; i < of.to; i++ {
		p := &g.periods[i]
		if b.luck[i] == nil {
			b.luck[i] = g.deck.hand(g.luck.of(g.teams[p.team].hash, p.hash), levels)
		}
		walk, e := &b.walks[p.team], g.shape[b.luck[i].pick(play)]
		if p.seen != nil {
			b.budget[i] = p.seen.goOn(walk, g.teams[p.team].gait.freedom, walk.lowest*p.base, e)
		} else {
			b.budget[i] = p.base * walk.next(e)
		}
	}
}

func (g *game) play(b *board, play uint64) {
	g.deal(b, play)
	open := g.open - b.idle
	for t := range g.teams {
		copy(b.growers[t], g.growers[t])
		b.planned[t] = append(b.planned[t][:0], g.teams[t].planned...)
		b.ahead[t] = append(b.ahead[t][:0], g.teams[t].ahead...)
	}
	watched := 0 // how many of those, in their order, are done
	for _, group := range g.groups {
		if open == 0 || g.allDone(b, &watched) {
			return
		}
		g.draw(b, play, group)
		g.grow(b, play, group)
		open -= g.playGroup(b, group)
	}
}

// watch has plays end once all that finishes, and can, is done. What cannot be played keeps the rest of its
// final from landing: whole: that is looked at all the same.
func (g *game) watch(whole bool) {
	seen := make([]bool, len(g.nodes))
	for f := range g.finals {
		if len(g.finals[f].cannot) > 0 && !whole {
			continue
		}
		for _, n := range g.finals[f].nodes {
			if !seen[n] && !g.nodes[n].never {
				seen[n] = true
				g.watched = append(g.watched, n)
			}
		}
	}
}

// allDone reports whether all nodes that are watched are done, from the first of them on that was not before.
func (g *game) allDone(b *board, from *int) bool {
	for *from < len(g.watched) && b.state[g.watched[*from]].done >= 0 {
		*from++
	}
	return len(g.watched) > 0 && *from == len(g.watched)
}

// playGroup plays periods with equal dates, and returns how many nodes got done.
// Where teams may share them with what they need, they take turns until no more
// gets done.
func (g *game) playGroup(b *board, of group) int {
	clear(b.spent[of.from:of.to])
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
// many nodes got done: what is planned first, again and again as long as something that got
// done frees more, so that nothing that is taken ahead keeps waiting what could start here.
func (g *game) playPeriod(b *board, at int) int {
	t, total := g.periods[at].team, 0
	for again := true; again; {
		planned, freed := g.work(b, at, &b.planned[t], false)
		total += planned
		if freed {
			continue
		}
		if b.spent[at] >= b.budget[at] && !g.teams[t].small {
			break
		}
		ahead, freed := g.work(b, at, &b.ahead[t], true)
		total += ahead
		again = freed
	}
	return total
}

// work spends what is left of a period's budget on a queue, takes out of it what
// got done, and returns how many that were and whether they may have freed others
// of the same team for the same period. Of what is taken ahead, it stops where that is so.
func (g *game) work(b *board, at int, from *[]int, ahead bool) (total int, freed bool) {
	p, budget, queue := &g.periods[at], b.budget[at], *from
	small, slot := g.teams[p.team].small, int32(p.slot)
	keep := queue[:0]
	for i, n := range queue {
		s := &b.state[n]
		if s.done >= 0 || b.held != nil && b.held[n] >= 0 {
			continue // out of the other queue
		}
		spent := b.spent[at] >= budget
		if s.open > 0 && !spent {
			keep = append(keep, n)
			continue
		}
		if spent && !small || !ahead && s.slot > slot { // the queue is by slot: the rest comes later too
			if len(keep) == i {
				keep = queue // nothing has been taken out
			} else {
				keep = append(keep, queue[i:]...)
			}
			break
		}
		if s.open > 0 || spent && s.left > nothing || p.Start < s.from && (!s.shares || !g.free(b, n, at)) {
			keep = append(keep, n)
			continue
		}
		if b.began != nil && b.began[n] < 0 {
			b.began[n] = int32(at)
		}
		use := min(s.left, budget-b.spent[at])
		if use > 0 {
			s.left -= use
			b.spent[at] += use
			b.load[p.team] -= use
		}
		if s.left > nothing || s.grown && b.growers[p.team][g.nodes[n].grower].rest > 0 {
			keep = append(keep, n)
			continue
		}
		done := g.finished(b, n, at)
		total += done
		if s.frees && done > 0 || done > 1 {
			freed = true
			if ahead {
				keep = append(keep, queue[i+1:]...)
				break
			}
		}
	}
	*from = keep
	return total, freed
}

// dayOf is the day, in days after today, on which what is done with so much of a period's budget spent
// counts as done.
func (g *game) dayOf(p *period, spent, budget float64) int32 {
	if g.atEnd {
		return int32(p.End - g.today)
	}
	return g.workedBy(p, spent, budget)
}

// workedBy is the day, in days after today, by which so much of a period's budget is spent. Work
// goes at an even pace over the days on which somebody of the team works.
func (g *game) workedBy(p *period, spent, budget float64) int32 {
	days := len(p.days)
	if days == 0 {
		return int32(p.End - g.today)
	}
	done := 0.0 // share of the period's work
	if budget > 0 {
		done = spent / budget
	}
	return p.days[max(0, min(days-1, int(math.Ceil(done*float64(days)-1e-9))-1))]
}

// doneBy is workedBy, where more is spent than the budget: the iterations after it go on at the same pace.
func (g *game) doneBy(p *period, spent, budget float64) int32 {
	if spent <= budget || budget <= 0 || len(p.days) == 0 {
		return g.workedBy(p, spent, budget)
	}
	over := math.Ceil((spent/budget-1)*float64(len(p.days)) - 1e-9) // days of work
	calm := float64(p.Days()) / float64(len(p.days))                // days for each of these
	if p.Start < g.today {
		calm = float64(p.End-g.today+1) / float64(len(p.days))
	}
	return int32(p.End-g.today) + int32(math.Ceil(over*calm))
}

// finished notes that the work of a node got done in a period, on which day, and what that frees. It returns how many nodes
// are done by that: none while a defect hinders it, which is done later; more where it hindered others, or was the last of
// what a release grows by.
func (g *game) finished(b *board, n, at int) int {
	p, s := &g.periods[at], &b.state[n]
	aside := g.aside(b, n, at)
	switch delay := b.delay != nil && b.delay[n] > 0; {
	case delay || aside > 0 && b.spent[at]+aside > b.budget[at]:
		day := g.doneBy(p, b.spent[at]+aside, b.budget[at])
		if delay {
			day += b.delay[n]
		}
		at = g.late(s, at, day)
	default:
		s.day = max(s.day, g.dayOf(p, b.spent[at]+aside, b.budget[at]))
	}
	if g.isHindered(b, n) {
		b.held[n] = int32(at)
		return 0
	}
	return g.done(b, n, at)
}

// done notes that a node is done in a period, and returns how many are by that.
func (g *game) done(b *board, n, at int) int {
	p, s := &g.periods[at], &b.state[n]
	s.done = int32(at)
	for _, w := range g.nodes[n].wanted {
		waits := &b.state[w.node]
		waits.open--
		waits.from = max(waits.from, p.End.Add(w.lag+1))
		waits.day = max(waits.day, s.day) // in an iteration that they share, not before it
	}
	count := 1 + g.shrinks(b, n, at)
	for _, other := range g.nodes[n].hinders {
		if b.held[other] >= 0 && b.state[other].done < 0 && !g.isHindered(b, other) {
			count += g.done(b, other, g.late(&b.state[other], int(b.held[other]), s.day))
		}
	}
	return count
}

// free reports whether a node may be begun in a period: whether all that it needs, which is
// done, was done early enough.
func (g *game) free(b *board, n, at int) bool {
	p, node := &g.periods[at], &g.nodes[n]
	if node.notBefore > p.Start {
		return false
	}
	for _, a := range node.needs {
		q := &g.periods[b.state[a.node].done]
		if !needs.Holds(g.share, q.place(), p.place(), a.lag) {
			return false
		}
	}
	return true
}

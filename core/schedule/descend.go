package schedule

import (
	"math/rand/v2"
	"slices"

	"jantrel/core/forecast"
)

// What a descent takes for a step: less is within the luck of its plays.
const (
	leastStep  = 0.02  // expected late days
	leastShare = 0.002 // of those that there are
)

// descend makes a schedule better by odds step by step (a local search): a node stands elsewhere, or two of a team stand in
// each other's place, and all needs hold and everything fits as before. Most tries are of what decides how late it gets,
// and of what stands beside that. Each is judged by a few plays with the luck that the schedule has, and again by
// more where it seems better; the first that is, is taken. None is that has a release land later, whatever else it gains:
// that an agreed day is met is not worth a release.
func (s *odds) descend(best candidate) candidate {
	d := descent{odds: s, random: rand.New(rand.NewPCG(uint64(len(s.m.nodes)), 13)), at: best, moves: s.m.moves()}
	for n, moves := range d.moves {
		if moves {
			d.movable = append(d.movable, n)
		}
	}
	tries := s.plays(30_000, 20, 500)
	if s.o.Tries > 0 {
		tries = min(tries, 10*s.o.Tries)
	}
	now := d.play(best.slot, d.fine, searchSeed)
	d.at.late, d.first = now.ExpectedLateDays, now.Releases
	d.roughly = d.late(best.slot, d.rough, searchSeed)
	d.begin()
	for idle := 0; idle < tries && len(d.movable) > 0 && !s.stopped(); idle++ {
		if d.step() {
			idle = 0
			d.begin()
		}
	}
	if d.at.score = s.m.score(d.at.slot); s.compare(d.at, best) < 0 {
		return d.at
	}
	return best
}

// descent is where a descent stands.
type descent struct {
	*odds
	random   *rand.Rand
	at       candidate          // its late days are by more plays
	first    []forecast.Landing // how releases landed before the first step
	roughly  float64            // its late days by few plays
	moves    []bool             // of each node: it can be placed, and elsewhere
	movable  []int              // those that do
	deciding []int              // of these, what decides how late it gets, and what stands beside that
	seen     map[[3]int]bool
}

// begin looks at a schedule that steps are taken from.
func (d *descent) begin() {
	d.seen = map[[3]int]bool{}
	d.deciding = d.deciding[:0]
	p, beside := d.m.placed(d.at.slot), map[[2]int]bool{}
	for i := range d.m.finals {
		f := &d.m.finals[i]
		if f.release < 0 {
			continue
		}
		last := forecast.Last(p, forecast.Options{Today: d.m.today, Plays: d.rough, Seed: searchSeed, Workers: d.o.Workers, Past: d.o.Past, Deck: d.deck}, forecast.Set{Release: d.m.p.Releases[f.release].Key})
		for _, n := range f.nodes {
			if last[d.m.key(n)] >= 0.05 && d.at.slot[n] != nowhere {
				beside[[2]int{d.m.nodes[n].team, d.at.slot[n]}] = true
			}
		}
	}
	for _, n := range d.movable {
		if beside[[2]int{d.m.nodes[n].team, d.at.slot[n]}] {
			d.deciding = append(d.deciding, n)
		}
	}
}

// step tries one change, and reports whether it was taken.
func (d *descent) step() bool {
	from := d.movable
	if len(d.deciding) > 0 && d.random.IntN(4) > 0 {
		from = d.deciding
	}
	n := from[d.random.IntN(len(from))]
	usable := d.m.usable[d.m.nodes[n].team]
	to, other := usable[d.random.IntN(len(usable))], -1
	if d.random.IntN(2) == 0 {
		other = d.movable[d.random.IntN(len(d.movable))]
		to = d.at.slot[other]
	}
	slot, ok := d.with(n, to, other)
	if !ok {
		return false
	}
	roughly := d.late(slot, d.rough, searchSeed)
	if roughly > d.roughly {
		return false
	}
	then := d.play(slot, d.fine, searchSeed)
	if then.ExpectedLateDays > d.at.late-max(leastStep, leastShare*d.at.late) {
		return false
	}
	for i, r := range d.first {
		if then.Releases[i].ExpectedLateDays > r.ExpectedLateDays+max(leastStep, leastShare*r.ExpectedLateDays) {
			return false
		}
	}
	d.at.sketch, d.at.late, d.roughly = d.m.standing(slot), then.ExpectedLateDays, roughly
	return true
}

// with is the schedule with a node in a slot, and another, if there is one, in its place; false where that was tried, or
// may not be.
func (d *descent) with(n, to, other int) (slot []int, ok bool) {
	from := d.at.slot[n]
	if to == from || to == nowhere || from == nowhere && other >= 0 || d.seen[[3]int{n, to, other}] || other >= 0 && d.m.nodes[other].team != d.m.nodes[n].team {
		return nil, false
	}
	d.seen[[3]int{n, to, other}] = true
	pl := d.at.sketch
	slot = slices.Clone(pl.slot)
	d.at.put(d.m, n, nowhere)
	if other >= 0 {
		d.at.put(d.m, other, nowhere)
	}
	ok = d.enter(n, to) && (other < 0 || d.enter(other, from))
	for _, x := range []int{n, other} {
		if ok && x >= 0 {
			ok = d.holds(x)
		}
	}
	next := slices.Clone(d.at.slot)
	for _, x := range []int{n, other} {
		if x >= 0 {
			d.at.put(d.m, x, slot[x])
		}
	}
	return next, ok
}

// enter puts a node that stands nowhere into a slot, where that has room.
func (d *descent) enter(n, to int) bool {
	if !d.at.fits(d.m, n, to) {
		return false
	}
	d.at.put(d.m, n, to)
	return true
}

// holds reports whether a node may stand where it stands, and what waits for it too.
func (d *descent) holds(n int) bool {
	may := func(n int) bool {
		at := d.at.slot[n]
		return at == nowhere || d.m.nodes[n].fixed || !d.at.waits(d.m, n) && d.at.allowed(d.m, n, at)
	}
	return may(n) && !slices.ContainsFunc(d.m.nodes[n].wanted, func(w int) bool { return !may(w) })
}

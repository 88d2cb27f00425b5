package schedule

import (
	"cmp"
	"math/rand/v2"
	"slices"

	"jantrel/core/forecast"
	"jantrel/core/plan"
)

// Aim is what makes one schedule better than another.
type Aim string

// The aims.
const (
	ByDates Aim = "dates" // late days of the schedule as it stands, then importance, then moves
	ByOdds  Aim = "odds"  // expected late days over plays of the forecast, then importance, then moves
)

// leans are the shares of what it may be filled to that a schedule by odds tries to fill an
// iteration to: what is left free takes up what goes slower than planned.
var leans = []float64{1, 0.95, 0.9, 0.85, 0.8, 0.75, 0.7, 0.6}

// quickLeans are those of a quick one.
var quickLeans = []float64{1, 0.85, 0.7}

// The seeds of the plays that candidates are compared by, that the best is held against today's
// plan by, and of those that figures are reported from: luck is not to be sold as skill.
const (
	searchSeed = 0x5eed
	checkSeed  = 0xc4ec
	reportSeed = 1
)

// candidate is a schedule with what it is judged by.
type candidate struct {
	sketch
	lean    float64
	urgency []float64
	score   Score
	late    float64 // expected late days
}

// odds searches by expected late days.
type odds struct {
	m           *model
	o           Options
	lean        map[float64]*model
	seen        map[string]bool
	found       []candidate // of those judged by few plays
	deck        *forecast.Deck
	rough, fine int // how many plays are few, and how many are more
}

// searchByOdds builds schedules in many orders, each with iterations filled to several shares,
// judges them roughly by few plays, the best of them by more, and then shakes the order of the
// best. All are judged by the same plays. It returns the best, and how far it was filled; today's
// plan, where that may stand and the best is no better by plays of another seed either. A quick
// search builds in few orders and shares, and takes the best of these.
func (m *model) searchByOdds(o Options) candidate {
	s := odds{m: m, o: o, lean: map[float64]*model{}, seen: map[string]bool{}, deck: forecast.NewDeck()}
	for _, lean := range leans {
		s.lean[lean] = m.leaner(lean)
	}
	s.rough, s.fine = s.plays(20_000, 20, 100), s.plays(60_000, 30, 300)
	today, valid := s.today()
	s.consider(today, valid)
	s.buildAll()
	var best candidate
	if o.Quick {
		best = s.finest(3)
	} else {
		s.improveEach()
		best = s.descend(s.shake(s.finest(6)))
	}
	m.gather(&best.sketch)
	if valid && !o.KeepClose && s.late(best.slot, s.fine, checkSeed) > s.late(today.slot, s.fine, checkSeed) {
		return today
	}
	return best
}

// consider judges a schedule by few plays, unless it was judged before.
func (s *odds) consider(c candidate, fresh bool) {
	if fresh {
		c.late = s.late(c.slot, s.rough, searchSeed)
		s.found = append(s.found, c)
	}
}

// sort puts the best found first.
func (s *odds) sort() {
	slices.SortStableFunc(s.found, func(a, b candidate) int { return s.compare(a, b) })
}

// buildAll builds schedules in each of the orders, filled to each of the shares.
func (s *odds) buildAll() {
	orders := s.orders()
	shares := leans
	if s.o.Quick {
		orders, shares = [][]float64{orders[0], orders[3], orders[5]}, quickLeans
	}
	for _, lean := range shares {
		for _, urgency := range orders {
			if len(s.found) > 0 && s.stopped() {
				return
			}
			s.consider(s.build(lean, urgency, nil))
		}
	}
	s.consider(s.build(1, orders[0], s.m.staying()))
}

// improveEach makes the best of each share better by its dates, which often is better by odds too.
func (s *odds) improveEach() {
	s.sort()
	done := map[float64]bool{}
	for _, c := range slices.Clone(s.found) {
		if done[c.lean] || s.stopped() || s.o.Tries > 0 && len(done) >= s.o.Tries {
			continue
		}
		done[c.lean] = true
		better := s.lean[c.lean].improve(c.slot, placesTried/10, s.o.Stop)
		s.consider(s.judge(s.m.sketchOf(better.slot), c.lean, c.urgency))
	}
}

// finest is the best by more plays of a few that are the best by few.
func (s *odds) finest(among int) candidate {
	s.sort()
	best := s.found[0]
	for i, c := range s.found[:min(len(s.found), among)] {
		if s.stopped() {
			break
		}
		if c.late = s.late(c.slot, s.fine, searchSeed); i == 0 || s.compare(c, best) < 0 {
			best = c
		}
	}
	return best
}

// shake tries variations of the best order, and orders by chance, filled to some share.
func (s *odds) shake(best candidate) candidate {
	random := rand.New(rand.NewPCG(uint64(len(s.m.nodes)), 11))
	tries := s.plays(12_000, 8, 120)
	if s.o.Tries > 0 {
		tries = min(tries, s.o.Tries)
	}
	for try := range tries {
		if s.stopped() || len(s.m.nodes) == 0 {
			break
		}
		lean, urgency := best.lean, []float64(nil)
		if try%3 > 0 {
			lean = leans[random.IntN(len(leans))]
		}
		if try%2 == 0 {
			urgency = s.m.vary(best.urgency, best.slot, random, try/2)
		} else {
			urgency = s.shuffle(random)
		}
		c, fresh := s.build(lean, urgency, nil)
		if !fresh {
			continue
		}
		if c.late = s.late(c.slot, s.rough, searchSeed); c.late > promising*best.late && c.late > 1 {
			continue
		}
		if c.late = s.late(c.slot, s.fine, searchSeed); s.compare(c, best) < 0 {
			best = c
		}
	}
	return best
}

// promising is how much later than the best so far, by few plays, a schedule may be that is
// worth more plays.
const promising = 1.15

// shuffle is an order by chance, more or less near that of rank.
func (s *odds) shuffle(random *rand.Rand) []float64 {
	urgency, by := s.m.byRank(), random.Float64()
	for n := range urgency {
		urgency[n] = (1-by)*urgency[n] + by*random.Float64()
	}
	s.m.inherit(urgency, func(int) float64 { return 0 })
	return urgency
}

func (s *odds) stopped() bool { return s.o.Stop != nil && s.o.Stop() }

// plays is how much is done for so many nodes: less, the more there are.
func (s *odds) plays(of, least, most int) int {
	return max(least, min(most, of/max(1, len(s.m.nodes))))
}

// orders are those in which schedules are built: between rank and due dates, and with each
// release first.
func (s *odds) orders() [][]float64 {
	rank, due := s.m.byRank(), s.m.byDue()
	var list [][]float64
	for step := range 6 {
		list = append(list, mix(rank, due, float64(step)/5))
	}
	for i := range s.m.finals {
		if f := &s.m.finals[i]; f.release >= 0 && len(f.nodes) > 0 {
			first := slices.Clone(rank)
			s.m.pull(first, f.nodes, 1)
			list = append(list, first)
		}
	}
	return list
}

// build makes a schedule, unless it was made before. What finds no place in iterations that
// are filled less takes what there is.
func (s *odds) build(lean float64, urgency []float64, stay []int) (candidate, bool) {
	if stay == nil && s.m.keep {
		stay = s.m.staying()
	}
	pl := s.lean[lean].build(urgency, stay)
	return s.judge(s.m.sketchOf(pl.slot), lean, urgency)
}

// today is the plan as it is, where all that stands in it may stand there.
func (s *odds) today() (candidate, bool) {
	now, stay := s.m.now(), s.m.staying()
	for n := range s.m.nodes {
		node := &s.m.nodes[n]
		if !node.fixed && node.now != stay[n] {
			return candidate{}, false
		}
	}
	pl := s.m.sketchOf(now)
	for n := range s.m.nodes {
		if node := &s.m.nodes[n]; !node.fixed && pl.slot[n] != nowhere && (pl.waits(s.m, n) || !pl.allowed(s.m, n, pl.slot[n])) {
			return candidate{}, false
		}
	}
	return s.judge(pl, 1, s.m.byRank())
}

func (s *odds) judge(pl sketch, lean float64, urgency []float64) (candidate, bool) {
	key := make([]byte, 0, 2*len(pl.slot))
	for _, at := range pl.slot {
		key = append(key, byte(at), byte(at>>8)) // which of its team: there are far fewer
	}
	if s.seen[string(key)] {
		return candidate{}, false
	}
	s.seen[string(key)] = true
	return candidate{sketch: pl, lean: lean, urgency: urgency, score: s.m.score(pl.slot)}, true
}

// late is the expected late days of a schedule.
func (s *odds) late(slot []int, plays int, seed uint64) float64 {
	return s.play(slot, plays, seed).ExpectedLateDays
}

func (s *odds) play(slot []int, plays int, seed uint64) forecast.Forecast {
	return forecast.Play(s.m.placed(slot), forecast.Options{Today: s.m.today, Plays: plays, Seed: seed, Workers: s.o.Workers, Past: s.o.Past, LeaveAgreed: s.o.LeaveAgreed, Deck: s.deck})
}

// compare orders candidates, the better first: expected late days of which two within 1 % or
// a tenth of a day are equal, importance, moves; keeping close, moves come first.
func (s *odds) compare(a, b candidate) int {
	if s.m.keep && a.score.Moves != b.score.Moves {
		return cmp.Compare(a.score.Moves, b.score.Moves)
	}
	if far := a.late - b.late; max(far, -far) > max(0.1, 0.01*max(a.late, b.late)) {
		return cmp.Compare(a.late, b.late)
	}
	if d := a.score.Importance - b.score.Importance; d > 1e-6 || d < -1e-6 {
		return cmp.Compare(d, 0)
	}
	return cmp.Compare(a.score.Moves, b.score.Moves)
}

// leaner is the model with iterations filled to a share of what they may be.
func (m *model) leaner(share float64) *model {
	c := *m
	c.fillTo, c.slots = slices.Clone(m.fillTo), make([][]slot, len(m.slots))
	for t := range m.slots {
		c.fillTo[t] *= share
		c.slots[t] = slices.Clone(m.slots[t])
		for i := range c.slots[t] {
			c.slots[t][i].room -= (m.fillTo[t] - c.fillTo[t]) * c.slots[t][i].capacity
		}
	}
	return &c
}

// sketchOf is the schedule with nodes in some slots; what has none there takes the earliest
// that it can have.
func (m *model) sketchOf(slot []int) sketch {
	pl := m.standing(slot)
	for _, n := range m.order {
		if !m.nodes[n].fixed && pl.slot[n] == nowhere {
			if at := pl.earliest(m, n); at != nowhere {
				pl.put(m, n, at)
			}
		}
	}
	return pl
}

// placed is the plan with nodes in some slots.
func (m *model) placed(slot []int) *plan.Plan {
	next := m.p.Program
	next.Items = slices.Clone(next.Items)
	for n, at := range slot {
		item := &next.Items[m.nodes[n].item]
		item.Iteration = ""
		if at != nowhere {
			item.Iteration = m.iteration(n, at)
		}
	}
	return plan.After(m.p, next)
}

// Foresee plays the plan as it is and with a draft in place, and puts the figures into the
// draft: expected late days with a bound for them, and each release's chance of landing by its
// due date.
func Foresee(p *plan.Plan, r *Schedule, o Options) {
	plays := max(50, min(2000, 200_000/max(1, len(p.Items))))
	play := func(p *plan.Plan) forecast.Forecast {
		return forecast.Play(p, forecast.Options{Today: o.Today, Plays: plays, Seed: reportSeed, Workers: o.Workers, Past: o.Past, LeaveAgreed: o.LeaveAgreed})
	}
	before, after := play(p), play(Place(p, *r))
	bound := forecast.Hindsight(p, forecast.Options{Today: o.Today, Plays: plays, Seed: reportSeed, Workers: o.Workers, LeaveAgreed: o.LeaveAgreed})
	r.Score.ExpectedLateDaysBound = &bound
	r.Score.ExpectedLateDays, r.Score.ExpectedLateDaysToday = &after.ExpectedLateDays, &before.ExpectedLateDays
	for i := range r.Releases {
		r.Releases[i].Chance, r.Releases[i].ChanceToday = after.Releases[i].Chance, before.Releases[i].Chance
	}
}

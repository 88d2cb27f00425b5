package levers

import (
	"cmp"
	"math/bits"
	"slices"
	"sync"

	"jantrel/core/forecast"
	"jantrel/core/gate"
	"jantrel/core/needs"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// usual are the kinds in the order of what usually helps most for the time that it takes to try it. A search takes
// turns: of each kind that has something left to try, one.
var usual = []Kind{Drop, Shrink, Split, Team, Lend, Relax, Move, Size, PutIn, Draft}

// draftsFrom is the turn from which on all is drafted anew: that takes as long as much else.
const draftsFrom = 2

// Search looks for the levers of one question, step by step. It can be left after any step and gone on with
// later, by several at the same time too; what it finds in the end does not depend on that.
//
// A step makes one change for a try, which takes a draft of one item for most, and plays what comes of it. After the
// first, second, fourth … turn, and in the end, those that would be offered are played as often as the answer says.
type Search struct {
	finder
	past func(*program.Item) []float64

	mu        sync.Mutex
	begun     bool
	now, full Stand // as the plan is, by few plays and by as many as the answer says
	steps     map[Kind][]func()
	halved    map[string]bool // items whose split is to be tried
	turns     int             // that are over
	kind      int             // whose turn it is, of usual
	tried, of int
	found     []*candidate
	offered   []*candidate // of these, as far as they were played in full
	unplayed  []*candidate // those that are to be played in full next
}

// Begin begins a search. What is not there is an error. Nothing is played yet.
func Begin(p *plan.Plan, q Question, o Options) (*Search, error) {
	s := &Search{
		finder: finder{p: p, whole: p.Whole(), o: o, plays: fewPlays(o.playsOf()), deck: forecast.NewDeck()},
		past:   plan.PastSizes(p), steps: map[Kind][]func(){}, halved: map[string]bool{},
	}
	return s, s.aim(q)
}

// Go takes steps until so many turns are over, of the whole search, or all that there is to try was tried; 0: only
// the latter. stop is asked before each; nil never stops.
func (s *Search) Go(turns int, stop func() bool) {
	for (stop == nil || !stop()) && s.step(turns) {
	}
}

// Answer is what was found up to now. Before anything was played that is nothing.
func (s *Search) Answer() Answer {
	s.mu.Lock()
	defer s.mu.Unlock()
	a := Answer{Plays: s.o.playsOf(), Name: s.name, Due: s.set.Due, Now: s.full, Levers: []Lever{}, Tried: s.tried, Of: s.of, More: !s.over()}
	a.Now.all = forecast.Forecast{}
	for _, c := range s.offered {
		a.Levers = append(a.Levers, c.Lever)
	}
	return a
}

// over reports whether there is no step left.
func (s *Search) over() bool { return s.begun && s.tried == s.of && len(s.unplayed) == 0 }

// step takes the next step, unless that is none of these turns; it reports whether it was.
func (s *Search) step(turns int) bool {
	s.mu.Lock()
	defer s.mu.Unlock()
	switch {
	case !s.begun:
		s.begun = true
		s.now, s.full = s.stand(s.p, s.plays), s.stand(s.p, s.o.playsOf())
		s.look()
		for _, kind := range usual {
			s.of += len(s.steps[kind])
		}
	case len(s.unplayed) > 0:
		c := s.unplayed[0]
		s.unplayed = s.unplayed[1:]
		s.playFully(c)
		if len(s.unplayed) == 0 {
			s.choose()
		}
	case s.over() || turns > 0 && s.turns >= turns:
		return false
	default:
		s.next()
	}
	return true
}

// next tries what is next by turns.
func (s *Search) next() {
	for ; s.kind < len(usual); s.kind++ {
		kind := usual[s.kind]
		if list := s.steps[kind]; len(list) > 0 && (kind != Draft || s.turns >= draftsFrom) {
			s.steps[kind] = list[1:]
			s.tried++
			s.kind++
			list[0]()
			break
		}
	}
	if s.tried < s.of && s.kind < len(usual) {
		return
	}
	if s.kind = 0; s.tried == s.of || bits.OnesCount(uint(s.turns+1)) == 1 {
		s.choose()
	}
	s.turns++
}

// choose picks what would be offered, as it looks, and has those played in full that were not.
func (s *Search) choose() {
	best := offer(s.found)
	s.offered = s.offered[:0:0]
	for _, c := range best {
		if c.full {
			s.offered = append(s.offered, c)
		} else {
			s.unplayed = append(s.unplayed, c)
		}
	}
}

// add has a step of a kind taken when it is its turn.
func (s *Search) add(kind Kind, try func()) { s.steps[kind] = append(s.steps[kind], try) }

// try plays the plan with some changes made, a few times, and keeps them as a lever if they may be worth it.
// Changes that the plan does not take are none.
func (s *Search) try(l Lever) { s.consider(candidate{Lever: l}) }

func (s *Search) consider(c candidate) {
	if len(c.Changes) == 0 {
		return
	}
	next, _, err := gate.Try(s.p, c.Changes)
	if err != nil {
		return
	}
	c.Label = cmp.Or(c.Label, c.Text)
	c.Moves = movesOf(s.p, next, c.Changes)
	c.full = s.plays == s.o.playsOf()
	if s.judge(&c, next, s.now, s.plays) {
		s.found = append(s.found, &c)
	}
}

// playFully plays a candidate as often as the answer says; what is worth nothing then is none.
func (s *Search) playFully(c *candidate) {
	next, _, err := gate.Try(s.p, c.Changes)
	c.full = true
	if err != nil || !s.judge(c, next, s.full, s.o.playsOf()) {
		s.found = slices.DeleteFunc(s.found, func(f *candidate) bool { return f == c })
	}
}

// judge plays what comes of a candidate, notes what that is worth and reports whether it mends anything.
func (s *Search) judge(c *candidate, next *plan.Plan, was Stand, plays int) bool {
	c.Then = s.stand(next, plays)
	then := c.Then.all
	c.Then.all = forecast.Forecast{} // it is large, and no longer needed
	if s.need == nil {
		c.gain = gainOf(was.all.Sets[0], then.Sets[0], s.o.Today)
	}
	c.Others = c.Others[:0]
	for i, r := range s.p.Releases {
		a, b := was.all.Releases[i], then.Releases[i]
		if r.Key != s.set.Release && a.Chance != nil && b.Chance != nil && gainOf(a, b, s.o.Today).points != 0 {
			c.Others = append(c.Others, Other{r.Key, r.Name, *a.Chance, *b.Chance})
		}
	}
	if s.need != nil {
		return s.holds(next) && c.Then.Broken < was.Broken // and breaks no other in its place
	}
	return c.gain.any()
}

// movesOf are the items whose iteration some changes change, with the plans before and after.
func movesOf(p, next *plan.Plan, changes []program.Change) (moves []Moved) {
	for _, c := range changes {
		if c.Kind != program.KindItem || c.Field != "iteration" {
			continue
		}
		m := Moved{Item: c.Key, Team: item(next, c.Key).Team, To: item(next, c.Key).Iteration}
		if _, known := p.Tree().Index[c.Key]; known {
			m.From = item(p, c.Key).Iteration
		}
		if m.From != m.To && !slices.Contains(moves, m) {
			moves = append(moves, m)
		}
	}
	return moves
}

func item(p *plan.Plan, key string) *program.Item { return &p.Items[p.Tree().Index[key]] }

// holds reports whether the need that is to be mended holds in a plan, or is gone.
func (s *Search) holds(p *plan.Plan) bool {
	states := needs.Check(p)
	for n, need := range p.Needs {
		if need.Item == s.need.Item && need.Needs == s.need.Needs {
			return states[n].Status != needs.StatusBroken
		}
	}
	return true
}

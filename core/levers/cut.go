package levers

import (
	"cmp"
	"maps"
	"slices"
	"sort"

	"jantrel/core/forecast"
	"jantrel/core/gate"
	"jantrel/core/needs"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// CutQuestion asks what of some work would have to go for the rest to be done by a date.
type CutQuestion struct {
	Set  forecast.Set // with the date as its due date
	Odds int          // at which the rest is to be done by then, in percent
}

// Cut answers a CutQuestion.
type Cut struct {
	Plays   int              `json:"plays"`
	Odds    int              `json:"odds"`
	Chance  float64          `json:"chance"` // that all of it is done by the date, 0 to 1
	Then    float64          `json:"then"`   // that the rest is
	Met     bool             `json:"met"`    // false: not even with all gone that is not under way; or the search was ended before it was found
	Out     []string         `json:"out"`    // what would have to go, by rank
	Changes []program.Change `json:"changes"`
	Ended   bool             `json:"ended,omitempty"` // the search was ended before it was sure that nothing less would do
}

// cutPlays is how often is played while what has to go is searched for.
const cutPlays = 300

// CutOf finds what would have to go: items to do that have not begun, kept out of the plan. First the
// least important go one after another, each with what needs it, until the rest fits (by bisection);
// then each of these, the most important first, comes back, with what it needs, if the rest still fits.
// So none of what is out could come back by itself. Every step is a play of the plan as it would be,
// so that once it is applied everything else says the same.
//
// The time is that of one play for each item that is out, and of a few more.
func CutOf(p *plan.Plan, q CutQuestion, o Options) Cut {
	o.Plays = cmp.Or(max(0, o.Plays), 500)
	c := cutter{finder: finder{p: p, whole: p.Whole(), o: o, deck: forecast.NewDeck()}, q: q}
	c.set = q.Set
	c.plays = o.Plays
	cut := Cut{Plays: o.Plays, Odds: q.Odds, Chance: c.chance(nil), Out: []string{}, Changes: []program.Change{}}
	if cut.Then = cut.Chance; c.met(cut.Then) {
		cut.Met = true
		return cut
	}
	c.gather()
	c.plays = min(o.Plays, cutPlays)
	if all := c.without(c.may); !c.met(c.chance(all)) {
		c.plays = o.Plays
		if cut.Then = c.chance(all); !c.met(cut.Then) {
			return cut
		}
	}
	n := sort.Search(len(c.may), func(n int) bool { return c.stopped() || c.met(c.chance(c.without(c.may[:n+1]))) })
	out := c.back(c.without(c.may[:min(n+1, len(c.may))]))
	c.plays = o.Plays
	cut.Then = c.chance(out)
	for _, i := range c.may { // few plays may have promised too much
		if c.met(cut.Then) || c.stopped() {
			break
		}
		if !out[i] {
			maps.Copy(out, c.without([]int{i}))
			cut.Then = c.chance(out)
		}
	}
	if cut.Ended = c.stopped(); cut.Ended && !c.met(cut.Then) {
		cut.Then = cut.Chance
	}
	cut.Met = c.met(cut.Then)
	if !cut.Met {
		return cut
	}
	for _, i := range sorted(out) {
		cut.Out = append(cut.Out, p.Items[i].Key)
	}
	cut.Changes = c.keptOut(out)
	return cut
}

// cutter looks for what would have to go.
type cutter struct {
	finder
	q     CutQuestion
	may   []int         // what may go, the least important first
	needs map[int][]int // what each item needs
	wants map[int][]int // what needs it
}

// gather lists what may go: what is to do, has not begun, and is not needed by anything that stays whatever
// goes.
func (c *cutter) gather() {
	tree, in := c.p.Tree(), map[int]bool{}
	for _, i := range c.q.Set.Leaves(c.p, func(i int) bool { return tree.ToSchedule(i) && !c.p.Items[i].State.UnderWay() }) {
		in[i] = true
	}
	c.needs, c.wants = map[int][]int{}, map[int][]int{}
	var stay []int
	for _, e := range needs.Edges(c.p) {
		c.needs[e.Item] = append(c.needs[e.Item], e.Needs)
		c.wants[e.Needs] = append(c.wants[e.Needs], e.Item)
		if !in[e.Item] && tree.ToSchedule(e.Item) {
			stay = append(stay, e.Item)
		}
	}
	for i := range reach(stay, c.needs) {
		delete(in, i)
	}
	c.may = sorted(in)
	slices.Reverse(c.may)
}

// reach is some items with all that hang on them by what next says.
func reach(from []int, next map[int][]int) map[int]bool {
	all, list := map[int]bool{}, slices.Clone(from)
	for len(list) > 0 {
		i := list[len(list)-1]
		list = list[:len(list)-1]
		if !all[i] {
			all[i] = true
			list = append(list, next[i]...)
		}
	}
	return all
}

// without is some items, and all that needs them: they go together.
func (c *cutter) without(items []int) map[int]bool { return reach(items, c.wants) }

// back brings back what of out may be, the most important first: twice as many at once after each time that the
// rest still fits, one by one after each that it does not.
func (c *cutter) back(out map[int]bool) map[int]bool {
	list, at := sorted(out), 0
	for many := 1; at < len(list) && !c.stopped(); {
		next := maps.Clone(out)
		for i := range reach(list[at:min(at+many, len(list))], c.needs) {
			delete(next, i)
		}
		switch {
		case len(next) == len(out) || c.met(c.chance(next)):
			out = next
			at, many = at+many, many*2
		case many > 1:
			many = 1
		default:
			at++
		}
	}
	return out
}

// sorted are items by rank.
func sorted(items map[int]bool) []int { return slices.Sorted(maps.Keys(items)) }

func (c *cutter) stopped() bool { return c.o.Stop != nil && c.o.Stop() }

func (c *cutter) met(chance float64) bool { return 100*chance >= float64(c.q.Odds) }

// keptOut are the changes that keep items out.
func (c *cutter) keptOut(out map[int]bool) (changes []program.Change) {
	for _, i := range sorted(out) {
		changes = append(changes, set(c.p.Items[i].Key, "keptOut", true))
	}
	return changes
}

// chance is that of the rest with some items out.
func (c *cutter) chance(out map[int]bool) float64 {
	next := c.p
	if len(out) > 0 {
		tried, _, err := gate.Try(c.p, c.keptOut(out))
		if err != nil {
			return 0
		}
		next = tried
	}
	o := c.playing()
	o.Releases, o.Sets = []string{""}, []forecast.Set{c.set}
	return *forecast.Play(next, o).Sets[0].Chance
}

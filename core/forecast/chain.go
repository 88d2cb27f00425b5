package forecast

import (
	"cmp"
	"slices"

	"jantrel/core/capacity"
	"jantrel/core/needs"
	"jantrel/core/plan"
)

// ChainQuestion asks which needs the date of some work hangs on.
type ChainQuestion struct {
	Options
	Set    Set
	Enough func() bool // asked between tries of a day less; true leaves the rest untried. Nil never does
}

// Chains are the longest chains of needs that some work ends with, and how often the plays hang on them.
type Chains struct {
	Plays    int        `json:"plays"`    // that Critical counts; what is gained is told by 200 at the most
	Chains   []Chain    `json:"chains"`   // the longest first; each shares no item with those before it
	Critical []Critical `json:"critical"` // what was on the last chain of plays, most often first; see CriticalOf
	Ended    bool       `json:"ended"`    // the time was up before all of the longest was tried
}

// Chain is items each of which waits for the one before it.
type Chain struct {
	Days  float64 `json:"days"` // of all its work, one after the other, and the days between
	Links []Link  `json:"links"`
}

// Link is one item of a chain.
type Link struct {
	Item     string  `json:"item"`
	Days     float64 `json:"days"`            // of its work: size ÷ velocity × days of an iteration of its team
	Sized    bool    `json:"sized"`           // else it is counted at the mean size of its team
	Gap      int     `json:"gap"`             // days that have to lie between the one before and it
	Spare    *int    `json:"spare,omitempty"` // days that the plan has left between the two; nil: one has no place
	Critical float64 `json:"critical"`        // share of plays, 0 to 1, in which it was on the last chain
	// Gained is what a working day less of it is worth, of the longest chain; nil: it was not tried.
	Gained *Gained `json:"gained,omitempty"`
}

// Gained is what a working day less of an item is worth: by the same plays, with its size smaller by what its team does
// on one.
type Gained struct {
	Days   float64  `json:"days"`             // that the work lands earlier on average
	Chance *float64 `json:"chance,omitempty"` // of its due date, more; nil: there is none
}

// Critical is how often an item was on the last chain of plays.
type Critical struct {
	Item  string  `json:"item"`
	Share float64 `json:"share"` // of plays, 0 to 1
}

const (
	mostChains   = 3
	mostCritical = 12
	mostGained   = 12 // items of the longest chain that are tried a day shorter

	workingDay = 7.0 / 5 // days that go by for one on which is worked
)

// ChainsOf finds the longest chains of needs that some work ends with. Each item takes its size ÷ velocity × days of an
// iteration, as in the plain arithmetic (Reckon), of what is under way as much as is left; nobody is short of people
// there. The plays then tell what hangs on them with all else that they know. The time is that of the plays twice, and of
// 200 at the most for each item of the longest.
func ChainsOf(p *plan.Plan, q ChainQuestion) Chains {
	p = p.Whole()
	q.Plays = cmp.Or(max(0, q.Plays), defaultPlays)
	r := reckoner{p: p, tree: p.Tree(), rates: capacity.Rates(p), teams: p.TeamAt()}
	r.means()
	found := Chains{Plays: q.Plays, Chains: []Chain{}, Critical: []Critical{}}
	shares := CriticalOf(p, q.Options, q.Set)
	for _, c := range needs.Chains(p, q.Set.Leaves(p, r.tree.ToSchedule), r.days, mostChains) {
		chain := Chain{Days: c.Days}
		for n, i := range c.Items {
			link := Link{Item: p.KeyOf(i), Days: r.days(i), Sized: p.Items[i].Size != nil, Gap: c.Gaps[n], Critical: shares[p.KeyOf(i)]}
			if n > 0 {
				link.Spare = spareBetween(p, c.Items[n-1], i, c.Gaps[n])
			}
			chain.Links = append(chain.Links, link)
		}
		found.Chains = append(found.Chains, chain)
	}
	for i := range p.Items { // those that are equal stay in the order of the program
		if key := p.KeyOf(i); shares[key] > 0 {
			found.Critical = append(found.Critical, Critical{key, shares[key]})
			delete(shares, key)
		}
	}
	slices.SortStableFunc(found.Critical, func(a, b Critical) int { return cmp.Compare(b.Share, a.Share) })
	found.Critical = found.Critical[:min(len(found.Critical), mostCritical)]
	if len(found.Chains) > 0 {
		q.Plays = min(q.Plays, searchPlays)
		found.gain(p, &r, q)
	}
	return found
}

// spareBetween is how many days the plan has left between two items; nil where one has no place.
func spareBetween(p *plan.Plan, needed, item, gap int) *int {
	a, placed := p.Place(needed)
	b, too := p.Place(item)
	if !placed || !too {
		return nil
	}
	spare := needs.Spare(p.Settings.SameIteration, a, b, gap)
	return &spare
}

// gain tries each item of the longest chain a working day shorter.
func (c *Chains) gain(p *plan.Plan, r *reckoner, q ChainQuestion) {
	d := driven{p: p, o: q.Options, set: q.Set}
	d.now = d.stand(p, If{})
	for n := range c.Chains[0].Links {
		link := &c.Chains[0].Links[n]
		i := r.tree.Index[link.Item]
		if _, rough := p.Piece(i); rough || !link.Sized || n >= mostGained {
			continue
		}
		if q.Enough != nil && q.Enough() {
			c.Ended = true
			return
		}
		next := p.Program
		next.Items = slices.Clone(p.Items)
		item := &next.Items[i]
		less := max(0, 1-workingDay/max(link.Days, workingDay))
		size := *item.Size * less
		item.Size = &size
		if item.Left != nil {
			left := *item.Left * less
			item.Left = &left
		}
		then := d.stand(plan.After(p, next), If{})
		link.Gained = &Gained{Days: d.now.days - then.days}
		if d.now.chance != nil && then.chance != nil {
			more := *then.chance - *d.now.chance
			link.Gained.Chance = &more
		}
	}
}

// days is how long a leaf takes its team, that does nothing else.
func (r *reckoner) days(i int) float64 {
	t, ok := r.teams[r.p.Items[i].Team]
	if !ok || r.rates[t].Velocity <= 0 {
		return 0
	}
	size := r.size(i, t)
	if left := r.p.Items[i].Left; left != nil {
		size = *left
	}
	return size / r.rates[t].Velocity * float64(r.rates[t].Days)
}

// CriticalOf returns, of items by key, in which share of plays (0 to 1) each was on the last chain: the item of some
// work that was done last, back from it the need that was the last to let it begin, where it began as soon as that let
// it, and so on. An item that could have begun before waited for its team, not for what it needs: there the chain
// begins. Plays that do not end count for none. What is rough stands under the key of its item.
func CriticalOf(p *plan.Plan, o Options, set Set) map[string]float64 {
	o.Plays = cmp.Or(max(0, o.Plays), defaultPlays)
	o.Sets = []Set{set}
	g := newGame(p, o)
	nodes := g.itemsOfSet()
	before := g.periodsBefore()
	counts := newTally(o.Workers, len(g.nodes))
	g.playEach(o, func(worker int) func(uint64) {
		part, b := counts.parts[worker], g.newBoard()
		b.began = make([]int32, len(g.nodes))
		return func(play uint64) {
			for n := range b.began {
				b.began[n] = -1
			}
			g.play(b, play)
			if last := g.finish(b, nodes); int(last) < g.horizon {
				for n := g.lastOf(b, nodes, last); n >= 0; n = g.heldBy(b, n, before) {
					part[n]++
				}
			}
		}
	})
	shares := map[string]float64{}
	for n, count := range counts.sum() {
		if count > 0 && g.nodes[n].item >= 0 {
			key := g.p.KeyOf(g.nodes[n].item)
			shares[key] = max(shares[key], float64(count)/float64(o.Plays))
		}
	}
	return shares
}

// periodsBefore is, of each period, the one of its team before it; -1 for the first.
func (g *game) periodsBefore() []int {
	before, last := make([]int, len(g.periods)), make([]int, len(g.teams))
	for t := range last {
		last[t] = -1
	}
	for i := range g.periods {
		t := g.periods[i].team
		before[i], last[t] = last[t], i
	}
	return before
}

// lastOf is the first of some nodes that was done on the last day.
func (g *game) lastOf(b *board, nodes []int, last int32) int {
	for _, n := range nodes {
		if b.state[n].day == last {
			return n
		}
	}
	return -1
}

// heldBy is the need that held a node up to the period in which it began; -1 where none did.
func (g *game) heldBy(b *board, n int, before []int) int {
	began := b.began[n]
	if began < 0 {
		return -1
	}
	held, from := -1, Date(0)
	for _, a := range g.nodes[n].needs {
		done := b.state[a.node].done
		if done < 0 {
			continue
		}
		if free := g.periods[done].End.Add(a.lag + 1); held < 0 || free > from || free == from && b.state[a.node].day > b.state[held].day {
			held, from = a.node, free
		}
	}
	if held < 0 || from < b.state[n].from {
		return -1 // it may not begin before a day of its own
	}
	if at := before[began]; at >= 0 && g.periods[at].Start >= from {
		return -1
	}
	return held
}

package forecast

import (
	"cmp"
	"slices"

	"jantrel/core/plan"
	"jantrel/core/program"
)

// risk is a risk as it is played: in each play it strikes or does not, by luck of its own.
type risk struct {
	key       string
	odds      float64
	oddsThen  float64 // with its response
	share     float64 // of its effect that is felt
	shareThen float64 // with its response
	strikes   lot
	adds      []riskAdds
	delays    []riskDelay
}

// riskAdds is work that comes to a node: an item's, or one of its own.
type riskAdds struct {
	node        int
	own         bool // the node is this work alone: where it does not come there is nothing to do
	least, most float64
	luck        lot
}

type riskDelay struct {
	node        int
	least, most int
	luck        lot
}

// unit is how finely chances and amounts of risks are drawn.
const unit = 1 << 30

// none is no risk.
const none = -1

// addRisks lays out the risks that are played. Work that one brings to a team is a node without an
// item, which the team takes up right after what is under way; the releases that the risk names land with it.
func (g *game) addRisks(nodeOf []int) {
	if !g.p.Settings.PlaysRisks() {
		return
	}
	teams := g.p.TeamAt()
	for i := range g.p.Risks {
		r := &g.p.Risks[i]
		if !r.Plays() {
			continue
		}
		id := hash(r.Key)
		played := risk{key: r.Key, odds: *r.Odds, share: 1, oddsThen: *r.Odds, shareThen: 1, strikes: g.luck.of(id, ofRisk)}
		if r.OddsThen != nil {
			played.oddsThen = *r.OddsThen
		}
		if r.ShareThen != nil {
			played.shareThen = *r.ShareThen
		}
		if r.Answered {
			played.odds, played.share = played.oddsThen, played.shareThen
		}
		for n := range r.Adds {
			a := &r.Adds[n]
			adds := riskAdds{node: none, least: a.Size, most: a.Most(), luck: g.luck.of(id^uint64(n+1), ofRiskSize)}
			if t, ok := teams[a.Team]; ok {
				adds.node, adds.own = g.addRiskWork(t, r), true
			} else if at := g.nodesOf(nodeOf, a.Item); len(at) > 0 {
				adds.node = at[0]
			}
			if adds.node != none {
				played.adds = append(played.adds, adds)
			}
		}
		for n := range r.Delays {
			d := &r.Delays[n]
			for _, node := range g.nodesOf(nodeOf, d.Item) {
				played.delays = append(played.delays, riskDelay{node, d.Days, d.Most(), g.luck.of(id^uint64(n+1), ofRiskDays)})
			}
		}
		g.risks = append(g.risks, played)
	}
}

// addRiskWork adds the node of work that a risk brings to a team.
func (g *game) addRiskWork(t int, r *program.Risk) int {
	n := len(g.nodes)
	g.nodes = append(g.nodes, node{item: none, team: t, share: 1, grower: none, notBefore: r.From})
	queues := &g.teams[t]
	at := slices.IndexFunc(queues.planned, func(m int) bool { return g.nodes[m].item >= 0 && !g.p.Items[g.nodes[m].item].State.UnderWay() })
	if at < 0 {
		at = len(queues.planned)
	}
	queues.planned = slices.Insert(queues.planned, at, n)
	for f := range g.finals {
		if g.finals[f].release != "" && slices.Contains(r.Releases, g.finals[f].release) {
			g.finals[f].nodes = append(g.finals[f].nodes, n)
		}
	}
	return n
}

// riskLoads adds the work that risks may bring to what teams have, and returns by how many days they may
// delay things, all told.
func (g *game) riskLoads(load []float64) (days int) {
	if !g.p.Settings.PlaysRisks() {
		return 0
	}
	teams := g.p.TeamAt()
	for i := range g.p.Risks {
		r := &g.p.Risks[i]
		if !r.Plays() {
			continue
		}
		for _, a := range r.Adds {
			team := a.Team
			if at, ok := g.tree.Index[a.Item]; ok {
				team = g.p.Items[at].Team
			}
			if t, ok := teams[team]; ok {
				load[t] += a.Most()
			}
		}
		for _, d := range r.Delays {
			days += d.Most()
		}
	}
	return days
}

// nodesOf are the nodes of the leaves that an item stands for, by rank.
func (g *game) nodesOf(nodeOf []int, item string) (nodes []int) {
	i, ok := g.tree.Index[item]
	if !ok {
		return nil
	}
	for _, leaf := range g.tree.Leaves(i) {
		if n := nodeOf[leaf]; n >= 0 {
			nodes = append(nodes, n)
		}
	}
	return nodes
}

// chances are what a board takes other than the plan says, so that what a risk is worth can be told.
type chances struct {
	without int  // the risk that does not strike; none: as the plan says
	calm    bool // no risk strikes
	then    int  // the risk that is played with its response; none: as the plan says
}

var asPlanned = chances{without: none, then: none}

// strike has risks strike in a play, and returns how many nodes of their own have nothing to do.
func (g *game) strike(b *board, play uint64) (idle int) {
	for _, n := range b.delayed {
		b.delay[n] = 0
	}
	b.delayed = b.delayed[:0]
	for i := range g.risks {
		r := &g.risks[i]
		odds, share := r.odds, r.share
		if b.chances.then == i {
			odds, share = r.oddsThen, r.shareThen
		}
		strikes := !b.chances.calm && b.chances.without != i && float64(r.strikes.pick(play, unit)) < odds*unit
		b.struck[i] = strikes
		for k := range r.adds {
			a := &r.adds[k]
			size := 0.0
			if strikes {
				size = share * (a.least + (a.most-a.least)*float64(a.luck.pick(play, unit))/unit)
			}
			s := &b.state[a.node]
			switch {
			case !a.own:
				s.left += size
			case size > nothing:
				s.left = size
			default: // as if it were done before all else
				s.done, s.day = 0, 0
				idle++
			}
		}
		for k := range r.delays {
			d := &r.delays[k]
			if strikes {
				days := d.least + d.luck.pick(play, d.most-d.least+1)
				b.delay[d.node] = max(b.delay[d.node], int32(share*float64(days)+0.5))
				b.delayed = append(b.delayed, d.node)
			}
		}
	}
	return idle
}

// late has what got done in a period count as done on a later day, in the period of its team that this
// lies in, or the last; it returns which that is.
func (g *game) late(s *state, at int, day int32) int {
	s.day = max(s.day, min(day, int32(g.horizon)))
	on, team := g.today.Add(int(s.day)), g.periods[at].team
	for i := at + 1; i < len(g.periods) && g.periods[at].End < on; i++ {
		if g.periods[i].team == team {
			at = i
		}
	}
	if g.atEnd {
		s.day = max(s.day, min(int32(g.periods[at].End-g.today), int32(g.horizon)))
	}
	return at
}

// Worth is what a risk costs: what would be otherwise without it, by the plays of the forecast.
type Worth struct {
	Risk     string         `json:"risk"`     // its key; empty: all that are played together
	Strikes  float64        `json:"strikes"`  // share of plays in which it strikes, 0 to 1; of all: in which one does
	Releases []ReleaseWorth `json:"releases"` // in the program's order, those without work left out
}

// ReleaseWorth is what a risk costs a release.
type ReleaseWorth struct {
	Release string   `json:"release"`
	Chance  *float64 `json:"chance,omitempty"` // points of chance of landing by its due date, 0 to 1, that would be gained without it; nil: it has none
	Days    float64  `json:"days"`             // by which it would land earlier on average
	// ChanceThen and DaysThen are what would be gained by its response, where it says what that does and it is not
	// in place yet.
	ChanceThen *float64 `json:"chanceThen,omitempty"`
	DaysThen   *float64 `json:"daysThen,omitempty"`
}

// Worths plays the plan and says what each risk that is played is worth, and first what all of them are
// together. Plays that a risk does not strike are the same without it, so that only the others are played
// again, with the same luck: the difference is the risk's alone (common random numbers). What has not
// landed when a play ends counts as landing then. It takes the time of
// a forecast × (1 + the odds of all risks together, twice where they have responses). Without risks that
// are played there is nothing.
func Worths(p *plan.Plan, o Options) []Worth {
	o.Plays = cmp.Or(max(0, o.Plays), defaultPlays)
	g := newGame(p, o)
	if len(g.risks) == 0 {
		return []Worth{}
	}
	return newAppraisal(g, o).worths()
}

// appraisal is what risks are found to be worth: sums over plays, by risk (the last: all) and release.
type appraisal struct {
	g     *game
	plays int
	parts []*sums // of each worker
}

type sums struct {
	strikes    []int
	gain, then [][]gained
}

// gained is what plays gain without a risk, or with its response.
type gained struct{ inTime, days int }

func newAppraisal(g *game, o Options) *appraisal {
	a := &appraisal{g: g, plays: o.Plays, parts: make([]*sums, max(1, o.Workers))}
	n := len(g.risks) + 1
	for w := range a.parts {
		s := &sums{make([]int, n), make([][]gained, n), make([][]gained, n)}
		for i := range n {
			s.gain[i], s.then[i] = make([]gained, g.releases), make([]gained, g.releases)
		}
		a.parts[w] = s
	}
	g.playEach(o, func(worker int) func(uint64) {
		b, s := g.newBoard(), a.parts[worker]
		is, other, struck := make([]int32, g.releases), make([]int32, g.releases), make([]bool, len(g.risks))
		again := func(c chances, play uint64, into []gained) {
			b.chances = c
			g.play(b, play)
			a.finishes(b, other)
			for f := range into {
				into[f].days += int(is[f] - other[f])
				into[f].inTime += a.inTime(f, other[f]) - a.inTime(f, is[f])
			}
		}
		return func(play uint64) {
			b.chances = asPlanned
			g.play(b, play)
			a.finishes(b, is)
			copy(struck, b.struck)
			any := false
			for i := range g.risks {
				r := &g.risks[i]
				if !struck[i] {
					continue // nor would it with a response that makes it less likely
				}
				any = true
				s.strikes[i]++
				again(chances{without: i, then: none}, play, s.gain[i])
				if r.responds() {
					again(chances{without: none, then: i}, play, s.then[i])
				}
			}
			if any {
				s.strikes[len(g.risks)]++
				again(chances{without: none, calm: true, then: none}, play, s.gain[len(g.risks)])
			}
		}
	})
	return a
}

// responds reports whether a response would change how the risk is played.
func (r *risk) responds() bool { return r.oddsThen < r.odds || r.shareThen < r.share }

func (a *appraisal) finishes(b *board, days []int32) {
	for f := range days {
		days[f] = a.g.finish(b, a.g.finals[f].nodes)
	}
}

// inTime is 1 where a release that lands on a day does so by its due date, else 0.
func (a *appraisal) inTime(f int, day int32) int {
	final := &a.g.finals[f]
	if int(day) < a.g.horizon && a.g.today.Add(int(day)) <= final.due {
		return 1
	}
	return 0
}

func (a *appraisal) worths() []Worth {
	g, all := a.g, make([]Worth, len(a.g.risks)+1)
	share := func(n int) float64 { return float64(n) / float64(a.plays) }
	for i := range all {
		at := i - 1 // all together come first
		w := &all[i]
		w.Releases = []ReleaseWorth{}
		if at < 0 {
			at = len(g.risks)
		} else {
			w.Risk = g.risks[at].key
		}
		total := func(of func(*sums) int) (n int) {
			for _, s := range a.parts {
				n += of(s)
			}
			return n
		}
		w.Strikes = share(total(func(s *sums) int { return s.strikes[at] }))
		for f := range g.releases {
			final := &g.finals[f]
			if final.left+final.rough == 0 || len(final.cannot) > 0 {
				continue
			}
			worth := ReleaseWorth{Release: final.key, Days: share(total(func(s *sums) int { return s.gain[at][f].days }))}
			if !final.due.IsZero() {
				chance := share(total(func(s *sums) int { return s.gain[at][f].inTime }))
				worth.Chance = &chance
			}
			if at < len(g.risks) && g.risks[at].responds() {
				days := share(total(func(s *sums) int { return s.then[at][f].days }))
				worth.DaysThen = &days
				if !final.due.IsZero() {
					chance := share(total(func(s *sums) int { return s.then[at][f].inTime }))
					worth.ChanceThen = &chance
				}
			}
			w.Releases = append(w.Releases, worth)
		}
	}
	return all
}

package forecast

import (
	"cmp"
	"slices"

	"jantrel/core/calendar"
	"jantrel/core/capacity"
	"jantrel/core/needs"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// nothing is a size that takes no time.
const nothing = 1e-9

// maxDays is how far ahead of today is played at the most.
const maxDays = 3000

// game is a program laid out for playing: everything that is the same in every
// play is worked out here.
type game struct {
	p        *plan.Plan
	tree     program.Tree
	today    Date
	share    program.SameIteration
	horizon  int  // days played
	atEnd    bool // work counts as done at the end of its iteration
	nodes    []node
	start    []state // of each node, before anything is drawn
	drawn    []int   // nodes whose size is drawn
	open     int     // how many nodes do not wait for what cannot be played
	nodeOf   []int   // by item, -1 for those that are not played
	teams    []team
	periods  []period // of all teams, by start
	groups   []group  // runs of periods with equal dates
	finals   []final
	releases int // how many of finals are releases; they come first
	dated    int // how many after these are items with a due date of their own
	paces    []Pace
	persist  *hand           // by which a play believes how far iterations follow each other
	persists [levels]uint8   // what it picks from
	shape    [levels]float64 // of what an iteration deviates by
	spread   float64         // of paces ÷ their mean, of all teams
	luck     luck
	deck     *Deck
	odds     []int // at which dates are given
	asIf     If
	watched  []int      // the nodes that alone are looked at after a play, which ends once they are done; nil: all are
	growers  [][]grower // by team
	risks    []risk
	hinders  bool // defects hinder something
}

// node is a leaf still to do.
type node struct {
	item      int
	team      int
	size      float64   // what is left of it
	sizes     []float64 // to draw a size from, or what it is multiplied by; nil where size is known
	share     float64   // of what is drawn
	luck      *hand     // by which a size is drawn; nil where none is
	slot      int       // slot of the team it is placed in (0 where that is over already); 0 if unplaced
	pinned    bool
	begun     bool // it is under way
	notBefore Date
	needs     []arc
	wanted    []arc // nodes that wait for it
	hindered  []int // defects before which it is not done, as its tests wait for them
	hinders   []int // nodes that are hindered by it
	frees     bool  // some of these could share an iteration with it, in its own team
	shares    bool  // it could share an iteration with something it needs
	never     bool  // it waits for something that cannot be played
	grower    int   // of its team, which grows while it is to do; -1 for none
}

type arc struct{ node, lag int }

// team is two queues of nodes and how fast it is believed to go.
type team struct {
	hash    uint64
	planned []int // what is under way, then what is placed by slot, then by rank: none before its slot
	ahead   []int // what has no place, and what may be taken before its own, by rank
	small   bool  // some of these may be of no size at all
	gait    gait
	spreads [levels]float64               // of its gait
	spread  *hand                         // by which a play believes one of these
	mean    *hand                         // and how fast the team goes
	daily   func(calendar.Span) []float64 // member-days of each day
	load    float64                       // size of all that can be played, but for what is drawn
	aside   float64                       // what is usually done of other things while one goes on, behind it
	beside  float64                       // how many other things usually go on beside one
}

// period is an iteration of a team, or one like it after the last.
type period struct {
	team, slot int
	iteration  int // of the team; -1 where it is not made yet
	calendar.Span
	base float64 // what a sample is multiplied by
	rest float64 // share of it that is still to come
	hash uint64  // of its key; where it is not made yet, of its first day
	days []int32 // the days on which somebody works from today on, in days after today
	seen *seen   // what is known of one that is under way
}

func (p *period) place() needs.Place { return needs.Place{Team: p.team, Slot: p.slot, Span: p.Span} }

type group struct{ from, to int }

func newGame(p *plan.Plan, o Options) *game {
	p = o.If.of(p).Whole()
	o.Past = o.If.past(o.Past)
	g := &game{p: p, asIf: o.If, odds: o.Odds, tree: p.Tree(), today: o.Today, share: p.Settings.SameIteration, atEnd: p.Settings.Landing == program.IterationEnd, luck: newLuck(o.Seed, o.Plays)}
	if len(g.odds) == 0 {
		g.odds = Odds
	}
	if g.deck = o.Deck; g.deck == nil {
		g.deck = NewDeck()
	}
	figures := capacity.Of(p)
	g.addTeams(figures)
	slots := g.addPeriods(figures)
	efforts := g.efforts()
	nodeOf := g.addNodes(slots, efforts, o)
	g.see(figures, efforts, nodeOf)
	g.addNeeds(nodeOf)
	g.addHindered(nodeOf)
	g.extend(figures)
	g.addFinals(nodeOf, o)
	g.addScope(nodeOf)
	g.addRisks(nodeOf)
	g.addGrowth(nodeOf, o.Past.Growth)
	g.setUp()
	g.nodeOf = nodeOf
	return g
}

// addTeams works out how fast each team is believed to go.
func (g *game) addTeams(figures [][]capacity.Figure) {
	g.teams = make([]team, len(g.p.Teams))
	pasts := make([][]float64, len(g.p.Teams))
	for t := range g.p.Teams {
		pasts[t] = g.asIf.latest(capacity.PaceSamples(&g.p.Teams[t], figures[t]))
	}
	believed := gaitsOf(pasts)
	g.shape, g.spread = believed.shape, believed.spread[0]
	g.persists, g.persist = persisting(believed.persists), g.deck.hand(g.luck.of(ofPersistence, 0), levels)
	for t := range g.p.Teams {
		key := g.p.Teams[t].Key
		pace := Pace{Team: key, Basis: FromHistory, Samples: len(pasts[t]), Drift: driftOf(pasts[t])}
		gait := believed.of[t]
		switch {
		case pace.Samples >= enough:
			pace.Persistence = meanOf(believed.persists)
		case believed.known:
			pace.Basis, gait = FromOthers, believed.unknown(1)
		default:
			pace.Basis, gait = Assumed, believed.unknown(assumedMean)
		}
		team := &g.teams[t]
		team.hash, team.daily = hash(key), capacity.Daily(g.p, t)
		team.gait = g.asIf.gait(key, gait, pasts[t], g.p.Settings.PaceSpread())
		team.spreads = team.gait.spreads()
		team.spread = g.deck.hand(g.luck.of(team.hash+ofSpread, 0), levels)
		team.mean = g.deck.hand(g.luck.of(team.hash+ofMean, 0), levels)
		g.paces = append(g.paces, pace)
		g.describe(t, pasts[t], figures[t])
	}
}

// enough is how many closed iterations make a history.
const enough = 3

// assumedMean is the mean velocity as a share of capacity where no team has a history.
const assumedMean = 0.92

// base is what a sample is multiplied by to give the velocity of an iteration:
// days worked where samples are units a day, capacity where they are shares.
func (g *game) base(t int, f capacity.Figure) float64 {
	return g.asIf.pace(g.paces[t].Team) * g.usual(t, f)
}

// usual is the same as things are.
func (g *game) usual(t int, f capacity.Figure) float64 {
	if g.paces[t].Basis != FromHistory {
		return f.Capacity
	}
	if f.Basis == capacity.ByHand && f.Full > 0 {
		return f.DaysPresent * f.Capacity / f.Full
	}
	return f.DaysWorked
}

// addPeriods lays out the iterations from today on, and returns for each team
// and iteration its slot, -1 for those that are over.
func (g *game) addPeriods(figures [][]capacity.Figure) [][]int {
	slots := make([][]int, len(g.p.Teams))
	for t := range g.p.Teams {
		iterations := g.p.Teams[t].Iterations
		slots[t] = make([]int, len(iterations))
		var order []int
		for i, it := range iterations {
			slots[t][i] = -1
			if it.Takes(g.today) {
				order = append(order, i)
			}
		}
		slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(iterations[a].Start, iterations[b].Start) })
		for slot, i := range order {
			slots[t][i] = slot
			span := iterations[i].Span()
			days, share := g.rest(t, span)
			g.periods = append(g.periods, period{t, slot, i, span, g.base(t, figures[t][i]) * share, share, hash(iterations[i].Key), days, nil})
		}
	}
	return slots
}

// rest returns the days of an iteration from today on on which somebody of the team works, in
// days after today, and the share of its member-days that lies on them: 1 of one to come.
// Where nobody works in it at all, its days count from Monday to Friday.
func (g *game) rest(t int, span calendar.Span) (days []int32, share float64) {
	all, left := 0.0, 0.0
	for i, worked := range g.workdays(t, span) {
		all += worked
		if day := span.Start.Add(i); worked > 0 && day >= g.today {
			left += worked
			days = append(days, int32(day-g.today))
		}
	}
	if all == 0 {
		return days, 1
	}
	return days, left / all
}

func (g *game) workdays(t int, span calendar.Span) []float64 {
	worked := g.teams[t].daily(span)
	for _, w := range worked {
		if w > 0 {
			return worked
		}
	}
	for i := range worked {
		if calendar.MondayToFriday.Has(span.Start.Add(i)) {
			worked[i] = 1
		}
	}
	return worked
}

// addNodes lists the leaves still to do and puts them into their teams' queues.
func (g *game) addNodes(slots [][]int, efforts []effort, o Options) []int {
	nodeOf, byRank := make([]int, len(g.p.Items)), o.ByRank
	for t := range g.paces {
		g.paces[t].Turned = turned(o.Past.Turned[g.paces[t].Team], g.p.Settings)
	}
	teams := g.p.TeamAt()
	past := plan.PastSizes(g.p)
	for i := range g.p.Items {
		nodeOf[i] = -1
		item := &g.p.Items[i]
		t, hasTeam := teams[item.Team]
		if !g.tree.ToSchedule(i) || !hasTeam {
			continue
		}
		n := node{item: i, team: t, share: 1, grower: -1, notBefore: item.NotBefore}
		luck := hash(item.Key)
		piece, rough := g.p.Piece(i)
		if rough && piece.Shares != nil { // all of one rough size turn out larger or smaller together
			n.sizes, n.share, luck = piece.Shares, *item.Size, hash(g.p.KeyOf(i)+item.Team)
		} else if item.Size != nil {
			n.size = *item.Size
		} else if n.sizes = past(item); len(n.sizes) == 0 {
			continue
		}
		underWay := item.State.UnderWay()
		n.begun = underWay
		if as := g.paces[t].Turned; item.Size != nil && !rough && !underWay && as != nil && as.Applied {
			n.size, n.sizes, n.share = 0, o.Past.Turned[item.Team], *item.Size
		}
		place, placed := g.p.Place(i)
		switch {
		case underWay && item.Left != nil:
			n.size, n.sizes, n.notBefore = *item.Left, nil, 0
		case underWay:
			n.notBefore = 0
			if share, estimated := item.TasksLeft(); estimated {
				n.share = share
				n.size *= share
			} else if shares := efforts[t].left(item, n.size+mean(n.sizes)); shares != nil && n.sizes != nil {
				n.share = mean(shares)
			} else if shares != nil {
				n.size, n.sizes, n.share = 0, shares, *item.Size
			}
		}
		if placed && !underWay {
			n.slot, n.pinned = max(0, slots[t][place.Slot]), item.Pinned
		}
		if n.sizes != nil {
			n.luck = g.deck.hand(g.luck.of(luck, ofSize), len(n.sizes))
		}
		nodeOf[i] = len(g.nodes)
		queues := &g.teams[t]
		queues.small = queues.small || n.size <= nothing && n.sizes == nil || n.share == 0 || slices.Contains(n.sizes, 0)
		fixed := underWay || placed && item.Pinned
		if fixed || placed && !byRank {
			queues.planned = append(queues.planned, len(g.nodes))
		}
		if !fixed && (byRank || g.p.Settings.PullsAhead()) {
			queues.ahead = append(queues.ahead, len(g.nodes))
		}
		g.nodes = append(g.nodes, n)
	}
	begun := func(n int) int {
		if g.nodes[n].begun {
			return 0
		}
		return 1
	}
	for t := range g.teams {
		slices.SortStableFunc(g.teams[t].planned, func(a, b int) int {
			return cmp.Or(cmp.Compare(begun(a), begun(b)), cmp.Compare(g.nodes[a].slot, g.nodes[b].slot))
		})
	}
	return nodeOf
}

func (g *game) addNeeds(nodeOf []int) {
	for _, e := range needs.Edges(g.p) {
		a, b := nodeOf[e.Item], nodeOf[e.Needs]
		// Who has started on an item no longer waits for what it needs.
		if a < 0 || g.p.Items[e.Item].State.UnderWay() {
			continue
		}
		g.nodes[a].never = g.nodes[a].never || b < 0 && g.tree.ToSchedule(e.Needs)
		if b >= 0 {
			g.nodes[a].needs = append(g.nodes[a].needs, arc{b, e.LagDays})
			g.nodes[b].wanted = append(g.nodes[b].wanted, arc{a, e.LagDays})
			shares := e.LagDays == 0 && g.share != program.ShareNever
			sameTeam := g.nodes[a].team == g.nodes[b].team
			g.nodes[b].frees = g.nodes[b].frees || shares && sameTeam
			g.nodes[a].shares = g.nodes[a].shares || shares && (sameTeam || g.share == program.ShareAlways)
		}
	}
}

// setUp notes how the nodes stand before anything is drawn.
func (g *game) setUp() {
	g.start = make([]state, len(g.nodes))
	for n := range g.nodes {
		node := &g.nodes[n]
		s := state{left: node.size, done: -1, open: int32(len(node.needs)), from: node.notBefore, slot: int32(node.slot), frees: node.frees, shares: node.shares, grown: node.item < 0 && node.grower >= 0}
		if node.never {
			s.open++ // which nothing takes away
		} else {
			g.open++
		}
		if team := &g.teams[node.team]; !node.never {
			team.load += node.size
		}
		if node.sizes != nil {
			g.drawn = append(g.drawn, n)
		}
		g.start[n] = s
	}
}

// extend adds periods after each team's last, up to the end of what is played.
func (g *game) extend(figures [][]capacity.Figure) {
	end := g.today.Add(g.span())
	for t := range g.teams {
		iterations := g.p.Teams[t].Iterations
		if len(iterations) == 0 {
			continue
		}
		last := 0
		for i := range iterations {
			if iterations[i].End > iterations[last].End {
				last = i
			}
		}
		length := iterations[last].Span().Days()
		for _, c := range g.p.Cadences {
			if c.Key == g.p.Teams[t].Cadence {
				length = c.LengthDays
			}
		}
		full := figures[t][last]
		if full.Full > 0 {
			full.Capacity = full.Full
		}
		if days := iterations[last].Span().Days(); days > 0 { // the last may be a short one
			scale := float64(length) / float64(days)
			full.Capacity, full.DaysPresent = full.Capacity*scale, full.DaysPresent*scale
		}
		full.DaysWorked = full.DaysPresent
		full.Basis = capacity.Agreed
		span, slot := iterations[last].Span(), len(iterations)
		for span.End < end {
			span = calendar.NextIteration(span, length)
			if span.End >= g.today {
				days, share := g.rest(t, span)
				g.periods = append(g.periods, period{t, slot, -1, span, g.base(t, full) * share, share, hash(span.Start.String()), days, nil})
				slot++
			}
		}
	}
	for _, p := range g.periods {
		g.horizon = max(g.horizon, int(p.End-g.today)+1)
	}
	slices.SortStableFunc(g.periods, func(a, b period) int {
		return cmp.Or(cmp.Compare(a.Start, b.Start), cmp.Compare(a.End, b.End), cmp.Compare(a.team, b.team))
	})
	for i := range g.periods {
		if i == 0 || g.periods[i].Span != g.periods[i-1].Span {
			g.groups = append(g.groups, group{i, i})
		}
		g.groups[len(g.groups)-1].to = i + 1
	}
}

// span is how many days ahead are played: a year past the plan as it stands, and
// at least three times what the slowest team would take over all it has.
func (g *game) span() int {
	longest := 365
	load, pace, days := make([]float64, len(g.teams)), make([]float64, len(g.teams)), make([]int, len(g.teams))
	for n := range g.nodes {
		node := &g.nodes[n]
		load[node.team] += node.size + node.share*mean(node.sizes)
	}
	delay := g.riskLoads(load)
	for i := range g.periods {
		p := &g.periods[i]
		longest = max(longest, int(p.End-g.today)+365)
		pace[p.team] += p.base * g.teams[p.team].gait.usual
		days[p.team] += p.Days()
	}
	for t := range g.teams {
		if pace[t] > 0 {
			longest = max(longest, int(3*load[t]/pace[t]*float64(days[t])))
		}
	}
	return min(longest+delay, maxDays)
}

func mean(samples []float64) float64 {
	sum := 0.0
	for _, s := range samples {
		sum += s / float64(len(samples))
	}
	return sum
}

package forecast

import (
	"cmp"
	"slices"

	"jantrel/core/needs"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// fitOdds are those of lines where none are asked for: what almost surely fits, and what fits as likely as not.
var fitOdds = []int{85, 50}

// FitQuestion asks what of a ranked list is done by a date, and when some items are.
type FitQuestion struct {
	Options          // Odds: of the lines, the highest first; empty: 85 and 50
	By      Date     // the date; none: not asked
	Items   []string // the list, in rank order; what is not to be scheduled is passed over
	When    []string // items of which it is asked when they are done; empty: not asked
}

// Fit answers a FitQuestion.
type Fit struct {
	Plays   int       `json:"plays"`
	By      Date      `json:"by,omitzero"`
	Items   []string  `json:"items"`          // what of the list is still to do and can be played, in rank order
	Chances []float64 `json:"chances"`        // chance of each of these, 0 to 1, of being done by the date
	Lines   []Line    `json:"lines"`          // how much of the list is done by the date
	Teams   []Lines   `json:"teams"`          // the same for the items of each team alone
	All     float64   `json:"all"`            // chance, 0 to 1, that all of the list is done by the date
	LeftOut []string  `json:"leftOut"`        // items that cannot be played: they have no team, or neither a size nor past sizes to draw one from
	When    *Landing  `json:"when,omitempty"` // when the items asked about are done
}

// Line is how far down a list everything is done at given odds.
type Line struct {
	Odds  int    `json:"odds"`
	Items int    `json:"items"`           // how many items stand above the line
	After string `json:"after,omitempty"` // the last of them
	Next  string `json:"next,omitempty"`  // the first item below the line, which keeps it from standing lower
	Waits string `json:"waits,omitempty"` // what that one needs and is ranked below it: ranking this higher may help
}

// Lines are the lines among the items of one team.
type Lines struct {
	Team  string `json:"team"`
	Items int    `json:"items"` // its items in the list
	Lines []Line `json:"lines"`
}

// AnswerFit plays the work by rank and reads off the lines.
//
// A team takes what is under way first, then whatever is most important and free
// to start; what it needs, dates, pinned places and everything ranked between the
// items of the list are kept. The line at odds q stands below the longest run of
// items, from the top, that is done whole by the date in q % of plays or more: in
// each play the first item of the list that is not done in time ends the run, and
// the line is the (100 − q)-th percentile of the lengths of these runs.
func AnswerFit(p *plan.Plan, q FitQuestion) Fit {
	q.Plays, q.ByRank = cmp.Or(max(0, q.Plays), defaultPlays), true
	q.Releases = []string{""} // none: their landings are not asked for
	lines := q.Odds
	if len(lines) == 0 {
		lines = fitOdds
	}
	q.Odds = nil
	g := newGame(p, q.Options)
	f := Fit{Plays: q.Plays, By: q.By, Items: []string{}, Chances: []float64{}, Lines: []Line{}, Teams: []Lines{}, LeftOut: []string{}}
	nodes := g.playable(q.Items, &f)
	when, whenLeft := g.asked(q.When)
	if len(q.When) == 0 { // nothing after the date is asked about
		g.groups = g.groups[:g.groupsBy(q.By)]
	}
	runs := newRuns(q.Workers, g, nodes)
	done := newTally(q.Workers, len(nodes))
	finishes := newTally(q.Workers, g.horizon+1)
	g.playAll(q.Options, func(worker int) func(*board) {
		inTime, part, days := done.parts[worker], runs.start(worker), finishes.parts[worker]
		return func(b *board) {
			for i, n := range nodes {
				if b.state[n].done >= 0 && g.today.Add(int(b.state[n].day)) <= q.By {
					inTime[i]++
				} else {
					part.ends(i)
				}
			}
			part.close()
			if len(when) > 0 {
				days[g.finish(b, when)]++
			}
		}
	})
	for _, n := range done.sum() {
		f.Chances = append(f.Chances, float64(n)/float64(q.Plays))
	}
	if !q.By.IsZero() {
		runs.read(&f, g, lines, q.Plays)
	}
	if len(q.When) > 0 {
		l := Landing{Left: len(when) + whenLeft, LeftOut: whenLeft, Dates: []Dated{}}
		for _, n := range when {
			if _, rough := g.p.Piece(g.nodes[n].item); rough {
				l.Left--
				l.Rough++
			}
		}
		if len(when) > 0 {
			g.read(&l, finishes.sum(), q.Plays)
		}
		f.When = &l
	}
	return f
}

// playable returns the nodes of a list, and notes in f which items these are and
// which cannot be played.
func (g *game) playable(keys []string, f *Fit) []int {
	var nodes []int
	for _, key := range keys {
		i, ok := g.tree.Index[key]
		switch {
		case !ok || !g.tree.ToSchedule(i):
		case g.nodeOf[i] < 0:
			f.LeftOut = append(f.LeftOut, key)
		default:
			f.Items = append(f.Items, key)
			nodes = append(nodes, g.nodeOf[i])
		}
	}
	return nodes
}

// asked returns the nodes of items, groups standing for what is below them, and how
// many of these are still to do and cannot be played.
func (g *game) asked(keys []string) (nodes []int, leftOut int) {
	seen := map[int]bool{}
	for _, key := range keys {
		i, ok := g.tree.Index[key]
		if !ok {
			continue
		}
		for _, leaf := range g.tree.Leaves(i) {
			switch {
			case seen[leaf] || !g.tree.ToSchedule(leaf):
			case g.nodeOf[leaf] < 0:
				leftOut++
			default:
				nodes = append(nodes, g.nodeOf[leaf])
			}
			seen[leaf] = true
		}
	}
	return nodes, leftOut
}

// groupsBy is how many groups of periods have to be played for what is done by a date.
func (g *game) groupsBy(day Date) int {
	n := 0
	for i, group := range g.groups {
		if g.periods[group.from].Start <= day {
			n = i + 1
		}
	}
	return n
}

// runs counts how long the runs of done items are from the top of a list: of all
// its items, and of those of each team.
type runs struct {
	nodes   []int
	team    []int // of each item
	nth     []int // how many of its team stand above it
	sizes   []int // items of each team
	workers []*run
}

type run struct {
	of      *runs
	whole   []uint32   // by length
	teams   [][]uint32 // by team and length
	ended   int        // where the run of this play ended, -1 while it has not
	endedAt []int      // the same by team
}

func newRuns(workers int, g *game, nodes []int) *runs {
	r := &runs{nodes: nodes, sizes: make([]int, len(g.teams)), workers: make([]*run, max(1, workers))}
	for _, n := range nodes {
		t := g.nodes[n].team
		r.team, r.nth = append(r.team, t), append(r.nth, r.sizes[t])
		r.sizes[t]++
	}
	return r
}

func (r *runs) start(worker int) *run {
	one := &run{of: r, whole: make([]uint32, len(r.nodes)+1), teams: make([][]uint32, len(r.sizes)), endedAt: make([]int, len(r.sizes))}
	for t, n := range r.sizes {
		one.teams[t] = make([]uint32, n+1)
	}
	one.reset()
	r.workers[worker] = one
	return one
}

func (r *run) reset() {
	r.ended = -1
	for t := range r.endedAt {
		r.endedAt[t] = -1
	}
}

// ends notes that item i was not done in time. Items come in rank order.
func (r *run) ends(i int) {
	if r.ended < 0 {
		r.ended = i
	}
	if t := r.of.team[i]; r.endedAt[t] < 0 {
		r.endedAt[t] = r.of.nth[i]
	}
}

// close counts the runs of a play.
func (r *run) close() {
	if r.ended < 0 {
		r.ended = len(r.of.nodes)
	}
	r.whole[r.ended]++
	for t, n := range r.of.sizes {
		if r.endedAt[t] < 0 {
			r.endedAt[t] = n
		}
		r.teams[t][r.endedAt[t]]++
	}
	r.reset()
}

// read fills in the lines.
func (r *runs) read(f *Fit, g *game, odds []int, plays int) {
	whole, teams := r.workers[0].whole, r.workers[0].teams
	for _, w := range r.workers[1:] {
		for i, n := range w.whole {
			whole[i] += n
		}
		for t := range w.teams {
			for i, n := range w.teams[t] {
				teams[t][i] += n
			}
		}
	}
	f.All = float64(whole[len(whole)-1]) / float64(plays)
	f.Lines = linesOf(odds, whole, plays, f.Items)
	for i := range f.Lines {
		f.Lines[i].Waits = g.waitsBelow(f.Lines[i].Next)
	}
	for t, n := range r.sizes {
		if n == 0 {
			continue
		}
		var own []string
		for i := range r.nodes {
			if r.team[i] == t {
				own = append(own, f.Items[i])
			}
		}
		f.Teams = append(f.Teams, Lines{g.p.Teams[t].Key, n, linesOf(odds, teams[t], plays, own)})
	}
}

// linesOf reads lines off the number of plays whose run was of each length.
func linesOf(at []int, lengths []uint32, plays int, items []string) []Line {
	lines := make([]Line, 0, len(at))
	for _, odds := range at {
		n, reach := len(lengths)-1, 0
		for ; n > 0; n-- {
			if reach += int(lengths[n]); reach*100 >= odds*plays {
				break
			}
		}
		line := Line{Odds: odds, Items: n}
		if n > 0 {
			line.After = items[n-1]
		}
		if n < len(items) {
			line.Next = items[n]
		}
		lines = append(lines, line)
	}
	return lines
}

// waitsBelow returns the lowest ranked of what an item needs that is not done, if
// that is ranked below it.
func (g *game) waitsBelow(key string) string {
	i, ok := g.tree.Index[key]
	if !ok {
		return ""
	}
	lowest := i
	for _, a := range g.nodes[g.nodeOf[i]].needs {
		lowest = max(lowest, g.nodes[a.node].item)
	}
	if lowest == i {
		return ""
	}
	return g.p.KeyOf(lowest)
}

// Start is the chance that an item can start where it is placed.
type Start struct {
	Item    string  `json:"item"`
	Chance  float64 `json:"chance"`  // chance, 0 to 1, that all it needs is done by the rule for needs before its iteration starts
	Blocker string  `json:"blocker"` // what it needs that is the least likely to be done in time
	Odds    float64 `json:"odds"`    // that one's own chance
}

// Starts plays the plan and returns, for each item that is placed, not begun and
// waits for something that is not done, the chance that it can start in its
// iteration. What cannot be played is never done.
func Starts(p *plan.Plan, o Options) []Start {
	o.Plays, o.Releases = cmp.Or(max(0, o.Plays), defaultPlays), []string{""}
	g := newGame(p, o)
	waits := g.waits()
	whole, ofEach := newTally(o.Workers, len(waits)), newTally(o.Workers, g.arcs(waits))
	g.playAll(o, func(worker int) func(*board) {
		all, each := whole.parts[worker], ofEach.parts[worker]
		return func(b *board) {
			at := 0
			for i := range waits {
				w, free := &waits[i], true
				for _, a := range w.needs {
					if a.node >= 0 && b.state[a.node].done >= 0 && g.inTime(b.state[a.node].done, w, a.lag) {
						each[at]++
					} else {
						free = false
					}
					at++
				}
				if free {
					all[i]++
				}
			}
		}
	})
	starts, counts, each, at := []Start{}, whole.sum(), ofEach.sum(), 0
	for i := range waits {
		s := Start{Item: g.p.KeyOf(waits[i].item), Chance: float64(counts[i]) / float64(o.Plays)}
		for n, a := range waits[i].needs {
			if odds := float64(each[at]) / float64(o.Plays); n == 0 || odds < s.Odds {
				s.Odds, s.Blocker = odds, g.p.KeyOf(a.item)
			}
			at++
		}
		starts = append(starts, s)
	}
	return starts
}

// waiting is a placed item and what it waits for.
type waiting struct {
	item  int
	place needs.Place
	needs []blocker
}

type blocker struct{ item, node, lag int }

func (g *game) waits() []waiting {
	byItem := map[int]int{}
	var waits []waiting
	spans := map[[2]int]period{}
	for _, p := range g.periods {
		spans[[2]int{p.team, p.slot}] = p
	}
	teams := g.p.TeamAt()
	for _, e := range needs.Edges(g.p) {
		item, needed := &g.p.Items[e.Item], &g.p.Items[e.Needs]
		begun := item.State.UnderWay()
		_, rough := g.p.Piece(e.Item)
		if _, placed := g.p.Place(e.Item); !placed || rough || begun || !g.tree.ToSchedule(e.Item) || needed.State == program.Done {
			continue
		}
		at, known := byItem[e.Item]
		if !known {
			n := g.nodeOf[e.Item]
			if n < 0 {
				continue
			}
			at = len(waits)
			byItem[e.Item] = at
			p := spans[[2]int{teams[item.Team], g.nodes[n].slot}]
			waits = append(waits, waiting{e.Item, p.place(), nil})
		}
		waits[at].needs = append(waits[at].needs, blocker{e.Needs, g.nodeOf[e.Needs], e.LagDays})
	}
	slices.SortStableFunc(waits, func(a, b waiting) int { return cmp.Compare(a.item, b.item) })
	return waits
}

func (g *game) arcs(waits []waiting) int {
	n := 0
	for i := range waits {
		n += len(waits[i].needs)
	}
	return n
}

func (g *game) inTime(done int32, w *waiting, lag int) bool {
	p := &g.periods[done]
	return needs.Holds(g.share, p.place(), w.place, lag)
}

package forecast

import (
	"cmp"
	"math"
	"slices"

	"jantrel/core/plan"
	"jantrel/core/program"
)

// OutlookQuestion asks when some work is done, and how it comes to be so.
type OutlookQuestion struct {
	Options
	Set     Set
	Measure Measure // in which the fan is drawn; the zero value: none is
}

// Outlook answers an OutlookQuestion.
type Outlook struct {
	Plays   int           `json:"plays"`
	Landing Landing       `json:"landing"` // of all of it
	Chances []float64     `json:"chances"` // chance, 0 to 1, that it has landed by today, by tomorrow …: up to the day on which nearly all plays have
	Teams   []TeamOutlook `json:"teams"`   // the one that decides most often first
	Fan     Fan           `json:"fan"`
	Paces   []Pace        `json:"paces"` // what the velocities of its teams are drawn from
}

// TeamOutlook is when a team is done with its part of some work.
type TeamOutlook struct {
	Landing         // of its part; its key is the team's
	Decides float64 `json:"decides"` // share of plays, 0 to 1, in which it is done on the day on which all of it lands
}

// FanOdds are the percentiles, over the plays, that a fan is drawn by.
var FanOdds = []int{10, 25, 50, 75, 90}

// Fan is how much there is of some work, and how much of it is done, as the plays have it: by days
// to come, at each of the percentiles of FanOdds. Each day is looked at by itself.
type Fan struct {
	Total float64 `json:"total"` // today
	Done  float64 `json:"done"`
	// Unsized is how many items to do count nothing here, as they have no size: the last of it may land later than it looks.
	Unsized int      `json:"unsized,omitempty"`
	Days    []FanDay `json:"days"`
}

// FanDay is the end of a day to come.
type FanDay struct {
	Day   Date      `json:"day"`
	Done  []float64 `json:"done"`
	Scope []float64 `json:"scope"` // what there is: known work, what is rough, and what it grows by
	Left  []float64 `json:"left"`  // scope less done, play by play
}

// fanDays is on how many days a fan is looked at, at the most.
const fanDays = 48

// nearlyAll is the share of plays that must have landed for what comes after not to be drawn.
const nearlyAll = 0.995

// OutlookOf plays the plan, with the same plays as Play, and looks at some work: when it lands, at
// which odds by which day, when each of its teams is done with its part, and how much is done by
// then.
//
// Work counts as done on the day on which the whole item is. What is rough, and what it grows by,
// counts in items by the mean size of its team's items; what it grows by comes with the first day of the
// iteration that brings it, and is done when all of it is. Without a size an item adds nothing to
// sizes and shares; see Measure.
//
// The time is that of Play, and plays × (items + days of the fan) on top.
func OutlookOf(p *plan.Plan, q OutlookQuestion) Outlook {
	o := q.Options
	o.Plays, o.Releases, o.Sets, o.Items = cmp.Or(max(0, o.Plays), defaultPlays), []string{""}, []Set{q.Set}, false
	g := newGame(p, o)
	g.watch(true)
	whole := &g.finals[len(g.finals)-1]
	v := g.view(o, whole.nodes)
	counts := make([]uint32, g.horizon+1)
	for play := range v.plays {
		counts[v.ends[play]]++
	}
	out := Outlook{Plays: o.Plays, Landing: g.landing(whole, counts, o.Plays, q.Set.Release != ""), Chances: []float64{}, Teams: []TeamOutlook{}, Paces: []Pace{}}
	out.Landing.Growth, out.Landing.Risks = whole.growth, len(g.risks)
	if len(whole.cannot) == 0 && whole.left+whole.rough > 0 {
		out.Chances = chancesOf(counts, o.Plays)
	}
	out.Teams = g.teamOutlooks(v, q.Set, o.Plays)
	for _, t := range out.Teams {
		at := slices.IndexFunc(g.paces, func(p Pace) bool { return p.Team == t.Key })
		out.Paces = append(out.Paces, g.paces[at])
	}
	if q.Measure.In != "" {
		out.Fan = g.fan(v, q, counts)
	}
	return out
}

// chancesOf are the shares of plays that have landed by today and the days after, up to when nearly all
// have, or the end of what is played.
func chancesOf(counts []uint32, plays int) (chances []float64) {
	by := 0
	for _, n := range counts[:len(counts)-1] {
		by += int(n)
		share := float64(by) / float64(plays)
		if chances = append(chances, share); share >= nearlyAll {
			break
		}
	}
	return chances
}

// views is what is noted of every play.
type views struct {
	plays int
	nodes []int
	days  [][]int32 // by play, of each node: the day on which it was done; the horizon where it was not
	ends  []int32   // by play: when the last of them was
	grown [][]grown // by play
}

// grown is what a node grew by in a play.
type grown struct {
	node int
	from Date
	more float64
}

func (g *game) view(o Options, nodes []int) *views {
	v := &views{o.Plays, nodes, make([][]int32, o.Plays), make([]int32, o.Plays), make([][]grown, o.Plays)}
	all := make([]int32, o.Plays*len(nodes))
	g.playEach(o, func(int) func(uint64) {
		b := g.newBoard()
		b.notes = true
		return func(play uint64) {
			b.grown = nil
			g.play(b, play)
			days := all[int(play)*len(nodes) : (int(play)+1)*len(nodes)]
			for i, n := range nodes {
				days[i] = int32(g.horizon)
				if b.state[n].done >= 0 {
					days[i] = b.state[n].day
				}
				v.ends[play] = max(v.ends[play], days[i])
			}
			v.days[play], v.grown[play] = days, b.grown
		}
	})
	return v
}

// teamOutlooks are the parts of the teams in some work.
func (g *game) teamOutlooks(v *views, set Set, plays int) []TeamOutlook {
	parts := make([]final, len(g.teams))
	for _, leaf := range g.leaves(set) {
		if t, ok := g.p.TeamAt()[g.p.Items[leaf].Team]; ok {
			parts[t].take(g, g.nodeOf, leaf)
		}
	}
	of := make([][]int, len(g.teams)) // positions in v.nodes
	for i, n := range v.nodes {
		of[g.nodes[n].team] = append(of[g.nodes[n].team], i)
	}
	teams := []TeamOutlook{}
	for t := range parts {
		if parts[t].left+parts[t].rough == 0 {
			continue
		}
		counts, decides := make([]uint32, g.horizon+1), 0
		for play := range v.plays {
			last := int32(0)
			for _, i := range of[t] {
				last = max(last, v.days[play][i])
			}
			counts[last]++
			if last == v.ends[play] {
				decides++
			}
		}
		parts[t].key, parts[t].due = g.p.Teams[t].Key, set.Due
		teams = append(teams, TeamOutlook{g.landing(&parts[t], counts, plays, set.Release != ""), float64(decides) / float64(plays)})
	}
	slices.SortStableFunc(teams, func(a, b TeamOutlook) int { return cmp.Compare(b.Decides, a.Decides) })
	return teams
}

// fan draws the fan. counts: how many plays ended on each day.
func (g *game) fan(v *views, q OutlookQuestion, counts []uint32) Fan {
	leaves := g.everything(q.Set)
	s := newScale(g.p, q.Measure, leaves)
	fan := Fan{Days: []FanDay{}}
	for _, i := range leaves {
		w := s.item(i)
		if s.unsized(i) && g.p.Items[i].State != program.Done {
			fan.Unsized++
		}
		if g.p.Items[i].State == program.Done {
			if q.Measure.In == InHours { // of what is done nothing is left
				continue
			}
			fan.Done += w
		}
		fan.Total += w
	}
	days := g.fanDays(v, counts, q.Set.Due)
	if len(v.nodes) == 0 || len(days) == 0 {
		return fan
	}
	weights, rough := make([]float64, len(v.nodes)), 0.0
	perSize := g.perSize(s)
	for i, n := range v.nodes {
		node := &g.nodes[n]
		if node.item < 0 {
			continue
		}
		if _, piece := g.p.Piece(node.item); piece {
			weights[i] = perSize[node.team] * *g.p.Items[node.item].Size
			rough += weights[i]
		} else {
			weights[i] = s.item(node.item)
		}
	}
	done, scope, left := make([][]float64, len(days)), make([][]float64, len(days)), make([][]float64, len(days))
	for d := range days {
		done[d], scope[d], left[d] = make([]float64, v.plays), make([]float64, v.plays), make([]float64, v.plays)
	}
	at := make([]int, g.horizon+1) // the first day of the fan that is no earlier
	for day, d := 0, 0; day <= g.horizon; day++ {
		for d < len(days) && g.today.Add(day) > days[d] {
			d++
		}
		at[day] = d
	}
	done0, scope0 := make([]float64, len(days)+1), make([]float64, len(days)+1)
	doneOn := map[int]int32{}
	for play := range v.plays {
		clear(done0)
		clear(scope0)
		for i, n := range v.nodes {
			done0[at[v.days[play][i]]] += weights[i]
			if g.nodes[n].item < 0 {
				doneOn[n] = v.days[play][i]
			}
		}
		for _, x := range v.grown[play] {
			if day, ours := doneOn[x.node]; ours {
				more := x.more * perSize[g.nodes[x.node].team]
				scope0[at[max(0, min(g.horizon, int(x.from-g.today)))]] += more
				done0[at[day]] += more
			}
		}
		was, there := fan.Done, fan.Total+rough
		for d := range days {
			was, there = was+done0[d], there+scope0[d]
			done[d][play], scope[d][play], left[d][play] = was, there, max(0, there-was)
		}
	}
	for d, day := range days {
		fan.Days = append(fan.Days, FanDay{day, percentiles(done[d]), percentiles(scope[d]), percentiles(left[d])})
	}
	return fan
}

// percentiles are those of FanOdds, by the nearest rank. They leave the values sorted.
func percentiles(values []float64) []float64 {
	slices.Sort(values)
	at := make([]float64, len(FanOdds))
	for i, odds := range FanOdds {
		at[i] = values[max(0, int(math.Ceil(float64(odds*len(values))/100))-1)]
	}
	return at
}

// perSize is what a unit of size of each team weighs for what is no item yet: what is rough, and
// what a release grows by.
func (g *game) perSize(s *scale) []float64 {
	per := make([]float64, len(g.teams))
	means := reckoner{p: g.p, tree: g.tree, teams: g.p.TeamAt()}
	means.means()
	for t := range per {
		team := g.p.Teams[t].Key
		switch {
		case !s.counts(team):
		case s.of.In == InItems:
			if means.mean[t] > 0 {
				per[t] = 1 / means.mean[t]
			}
		default:
			per[t] = s.size(team, 1)
		}
	}
	return per
}

// everything are the leaves that a set stands for, done or not.
func (g *game) everything(set Set) []int {
	return set.Leaves(g.p, func(i int) bool { return g.tree.IsLeaf(i) && !g.p.Items[i].KeptOut })
}

// fanDays are the days on which a fan is looked at: today, then evenly up to when nearly all plays
// have ended, and the due date.
func (g *game) fanDays(v *views, counts []uint32, due Date) []Date {
	end := 1
	if chances := chancesOf(counts, v.plays); len(chances) > 0 && chances[len(chances)-1] >= nearlyAll {
		end = max(end, len(chances)-1)
	} else { // it never lands, or not in some plays: up to the last day on which anything did that does
		for play := range v.plays {
			for _, day := range v.days[play] {
				if int(day) < g.horizon {
					end = max(end, int(day))
				}
			}
		}
	}
	step := max(1, (end+fanDays-2)/(fanDays-1))
	days := []Date{}
	for d := 0; d < end+step; d += step {
		days = append(days, g.today.Add(min(d, g.horizon)))
	}
	if at, on := slices.BinarySearch(days, due); !due.IsZero() && !on && at > 0 && at < len(days) {
		days = slices.Insert(days, at, due)
	}
	return days
}

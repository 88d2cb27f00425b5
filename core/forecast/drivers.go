package forecast

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"jantrel/core/needs"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// DriversQuestion asks what moves the date of some work.
type DriversQuestion struct {
	Options
	Set Set // with the due date, if there is one
}

// Drivers answers a DriversQuestion.
type Drivers struct {
	Plays   int      `json:"plays"`            // of each play that a driver is measured by
	Chance  *float64 `json:"chance,omitempty"` // as things are, by these plays
	Drivers []Driver `json:"drivers"`          // what moves the chance most first; then the date
	Ended   bool     `json:"ended,omitempty"`  // it was ended before all had been measured
}

// Driver is something that a date hinges on, and what would be gained if it were otherwise.
type Driver struct {
	Kind   DriverKind `json:"kind"`
	Team   string     `json:"team,omitempty"`
	Item   string     `json:"item,omitempty"`
	Needs  string     `json:"needs,omitempty"` // what the item needs
	Risk   string     `json:"risk,omitempty"`
	If     string     `json:"if"`               // what was otherwise when it was played again, as a clause: "did scope not grow"
	Days   float64    `json:"days"`             // by which it would land earlier on average
	Chance *float64   `json:"chance,omitempty"` // points of chance, 0 to 1, that would be gained; nil: it has no due date
}

// DriverKind is what sort of thing a driver is.
type DriverKind string

// The kinds.
const (
	DriverTeam    DriverKind = "team"    // how fast a team goes
	DriverPast    DriverKind = "past"    // how little is known of how fast a team goes
	DriverItem    DriverKind = "item"    // an item
	DriverNeed    DriverKind = "need"    // one item that waits for another
	DriverDaysOff DriverKind = "daysOff" // who is away
	DriverGrowth  DriverKind = "growth"  // what releases grow by
	DriverSizes   DriverKind = "sizes"   // sizes that turn out otherwise
	DriverRisk    DriverKind = "risk"    // a risk
)

// Limits of what is measured.
const (
	mostDriven    = 12 // drivers in an answer
	mostTeams     = 8  // teams tried
	mostOdd       = 4  // items without a size, and as many without a place
	mostLarge     = 4
	large         = 2 // times its team's mean size
	mostNeeds     = 8
	mostRisks     = 8
	leastDays     = 0.1 // a driver is worth so many days at least,
	leastPoints   = 0.005
	driverPlays   = 1000 // how often is played at the most
	shortestOfAll = 6    // fewer iterations make a short history
)

// DriversOf measures what moves the date of some work: the plan is played again with one thing otherwise,
// with the same luck, and the difference is what that is worth (common random numbers). Tried are: each team
// of the work as in the best third of its iterations, and, where its history is short, always at its mean; the
// items without a size with the usual one, those without a place in the first iteration, large ones half as
// large; the needs that what ends last hangs on as if they were not; who is away as if they were there;
// without growth, without sizes that turn out otherwise, without each risk.
//
// The time is that of a play of the plan for each, of which there are some dozens.
func DriversOf(p *plan.Plan, q DriversQuestion) Drivers {
	o := q.Options
	o.Plays = min(cmp.Or(max(0, o.Plays), defaultPlays), driverPlays)
	d := driven{p: p, o: o, set: q.Set}
	found := Drivers{Plays: o.Plays, Drivers: []Driver{}}
	d.now = d.stand(p, If{})
	if found.Chance = d.now.chance; d.now.cannot {
		return found
	}
	for _, try := range d.tries() {
		then := d.stand(try.plan, try.with)
		if o.Stop != nil && o.Stop() { // what it was stopped in is not known
			found.Ended = true
			break
		}
		one := try.driver
		one.Days = d.now.days - then.days
		points := 0.0
		if d.now.chance != nil && then.chance != nil {
			points = *then.chance - *d.now.chance
			one.Chance = &points
		}
		if math.Abs(one.Days) >= leastDays || math.Abs(points) >= leastPoints {
			found.Drivers = append(found.Drivers, one)
		}
	}
	slices.SortStableFunc(found.Drivers, func(a, b Driver) int {
		return cmp.Or(cmp.Compare(b.points(), a.points()), cmp.Compare(math.Abs(b.Days), math.Abs(a.Days)))
	})
	found.Drivers = found.Drivers[:min(mostDriven, len(found.Drivers))]
	return found
}

// points are those of chance that a driver moves, whole ones, up or down.
func (d *Driver) points() float64 {
	if d.Chance == nil {
		return 0
	}
	return math.Round(100 * math.Abs(*d.Chance))
}

// driven is the work whose date is looked at.
type driven struct {
	p   *plan.Plan
	o   Options
	set Set
	now stands
}

// stands is how the work stands.
type stands struct {
	chance *float64
	days   float64 // from today to the mean landing
	cannot bool    // it never lands
}

// attempt is one thing that is otherwise.
type attempt struct {
	driver Driver
	plan   *plan.Plan
	with   If
}

func (d *driven) stand(p *plan.Plan, with If) stands {
	o := d.o
	o.If = with
	l, days := playAlone(p, o, d.set)
	return stands{l.Chance, days, len(l.Cannot) > 0}
}

// playAlone plays the plan for the landing of some work alone, and for how many days from today on it is on average.
func playAlone(p *plan.Plan, o Options, set Set) (l Landing, days float64) {
	fromToday := set
	fromToday.Due = o.Today
	o.Releases, o.Sets = []string{""}, []Set{set, fromToday}
	played := Play(p, o).Sets
	return played[0], played[1].ExpectedLateDays
}

func (d *driven) tries() []attempt {
	p, tree := d.p, d.p.Tree()
	var all []attempt
	add := func(p *plan.Plan, with If, driver Driver) { all = append(all, attempt{driver, p, with}) }

	leaves := d.set.Leaves(p, tree.ToSchedule)
	teams := d.teams(leaves)
	for _, t := range teams {
		team := &p.Teams[t.at]
		if t.samples >= enough {
			add(p, If{best: team.Key}, Driver{Kind: DriverTeam, Team: team.Key, If: fmt.Sprintf("were %s as fast as in the best %d of its %d iterations", team.Name, thirdOf(t.samples), t.samples)})
		}
		if t.samples < shortestOfAll {
			add(p, If{steady: team.Key}, Driver{Kind: DriverPast, Team: team.Key, If: fmt.Sprintf("were %s sure to go at its mean pace, of which %d iterations tell", team.Name, t.samples)})
		}
	}
	weight := d.weights()
	all = append(all, d.items(leaves, weight)...)
	for _, n := range d.needs(weight) {
		need := p.Needs[n]
		add(d.without(n), If{}, Driver{Kind: DriverNeed, Item: need.Item, Needs: need.Needs, If: fmt.Sprintf("did %s not need %s", need.Item, need.Needs)})
	}
	for _, t := range teams {
		if present, ok := d.present(t.at); ok {
			add(present, If{}, Driver{Kind: DriverDaysOff, Team: p.Teams[t.at].Key, If: fmt.Sprintf("had nobody of %s days off from now on", p.Teams[t.at].Name)})
		}
	}
	add(p, If{NoGrowth: true}, Driver{Kind: DriverGrowth, If: "did scope not grow"})
	add(p, If{NoTurned: true}, Driver{Kind: DriverSizes, If: "did sizes turn out as they were set"})
	risks := 0
	for i := range p.Risks {
		if p.Risks[i].Plays() && p.Settings.PlaysRisks() && risks < mostRisks {
			risks++
			next := p.Program
			next.Risks = slices.Delete(slices.Clone(p.Risks), i, i+1)
			add(plan.After(d.p, next), If{}, Driver{Kind: DriverRisk, Risk: p.Risks[i].Key, If: fmt.Sprintf("did “%s” not strike", p.Risks[i].Title)})
		}
	}
	return all
}

// weights are, by leaf, how likely it is that it, or something that waits for it in the end, is the last to be
// done: 0 to 1.
func (d *driven) weights() []float64 {
	o := d.o
	o.Plays = min(o.Plays, searchPlays)
	tree := d.p.Tree()
	weight := make([]float64, len(d.p.Items))
	for key, share := range Last(d.p, o, d.set) {
		weight[tree.Index[key]] = share
	}
	edges := needs.Edges(d.p)
	for again := true; again; {
		again = false
		for _, e := range edges {
			if weight[e.Item] > weight[e.Needs] && tree.ToSchedule(e.Needs) {
				weight[e.Needs], again = weight[e.Item], true
			}
		}
	}
	return weight
}

// ofTeam is a team with work of the set, and how many past iterations tell of its pace.
type ofTeam struct{ at, samples int }

// teams are those with most items of it to do.
func (d *driven) teams(leaves []int) (teams []ofTeam) {
	at, counts := d.p.TeamAt(), make([]int, len(d.p.Teams))
	for _, i := range leaves {
		if t, ok := at[d.p.Items[i].Team]; ok {
			counts[t]++
		}
	}
	for i, pace := range newGame(d.p, Options{Today: d.o.Today, Plays: 1, Releases: []string{""}}).paces {
		if counts[i] > 0 {
			teams = append(teams, ofTeam{i, pace.Samples})
		}
	}
	slices.SortStableFunc(teams, func(a, b ofTeam) int { return cmp.Compare(counts[b.at], counts[a.at]) })
	return teams[:min(mostTeams, len(teams))]
}

// items are the odd ones: those without a size, with the usual one; those without a place, in the first iteration
// that there is; and those that the date hinges on and that are large, half as large.
func (d *driven) items(leaves []int, weight []float64) (all []attempt) {
	teams, usual := d.p.TeamAt(), plan.PastSizes(d.p)
	means := reckoner{p: d.p, tree: d.p.Tree(), teams: teams}
	means.means()
	byWeight := slices.Clone(leaves)
	slices.SortStableFunc(byWeight, func(a, b int) int { return cmp.Compare(weight[b], weight[a]) })
	tried := map[string]int{}
	try := func(i int, how, clause string, most int, change func(*program.Item)) {
		if tried[how]++; tried[how] > most {
			return
		}
		next := d.p.Program
		next.Items = slices.Clone(next.Items)
		change(&next.Items[i])
		key := next.Items[i].Key
		all = append(all, attempt{Driver{Kind: DriverItem, Item: key, If: fmt.Sprintf(clause, key)}, plan.After(d.p, next), If{}})
	}
	for _, i := range byWeight {
		item := &d.p.Items[i]
		t, ok := teams[item.Team]
		if !ok {
			continue
		}
		if past := usual(item); item.Size == nil && len(past) > 0 {
			size := mean(past)
			try(i, "size", "had %s the usual size for sure", mostOdd, func(item *program.Item) { item.Size = &size })
		}
		if first := d.first(t); item.Iteration == "" && first != "" && !item.State.UnderWay() {
			try(i, "place", "were %s placed in the first iteration", mostOdd, func(item *program.Item) { item.Iteration = first })
		}
		if item.Size != nil && weight[i] > 0 && *item.Size >= large*means.mean[t] && !item.State.UnderWay() {
			half := *item.Size / 2
			try(i, "half", "were %s half as large", mostLarge, func(item *program.Item) { item.Size = &half })
		}
	}
	return all
}

// first is the iteration that a team is in, or the next one.
func (d *driven) first(t int) string {
	best := -1
	iterations := d.p.Teams[t].Iterations
	for i := range iterations {
		if iterations[i].Takes(d.o.Today) && (best < 0 || iterations[i].Start < iterations[best].Start) {
			best = i
		}
	}
	if best < 0 {
		return ""
	}
	return iterations[best].Key
}

// needs are those on the ways to what ends last.
func (d *driven) needs(weight []float64) (list []int) {
	tree, of := d.p.Tree(), map[int]float64{}
	for _, e := range needs.Edges(d.p) {
		if w := weight[e.Item]; w > of[e.Need] && tree.ToSchedule(e.Needs) && !d.p.Items[e.Item].State.UnderWay() {
			of[e.Need] = w
		}
	}
	for n := range d.p.Needs {
		if of[n] > 0 {
			list = append(list, n)
		}
	}
	slices.SortStableFunc(list, func(a, b int) int { return cmp.Compare(of[b], of[a]) })
	return list[:min(mostNeeds, len(list))]
}

// without is the plan without a need.
func (d *driven) without(n int) *plan.Plan {
	next := d.p.Program
	next.Needs = slices.Delete(slices.Clone(next.Needs), n, n+1)
	return plan.After(d.p, next)
}

// present is the plan as if nobody of a team had days off from today on; false where nobody has.
func (d *driven) present(t int) (*plan.Plan, bool) {
	next, any := d.p.Program, false
	next.People = slices.Clone(next.People)
	for i := range next.People {
		person := &next.People[i]
		if !slices.ContainsFunc(d.p.Teams[t].Members, func(m program.Member) bool { return m.Person == person.Key }) {
			continue
		}
		var kept []program.DayOff
		for _, off := range person.DaysOff {
			if off.To >= d.o.Today {
				any, off.To = true, d.o.Today.Add(-1)
			}
			if off.From <= off.To {
				kept = append(kept, off)
			}
		}
		person.DaysOff = kept
	}
	if !any {
		return nil, false
	}
	return plan.After(d.p, next), true
}

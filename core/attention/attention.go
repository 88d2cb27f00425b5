// Package attention gathers what needs somebody now, by the program's own rules, and puts first what
// costs the releases the most.
package attention

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
	"time"

	"jantrel/core/calendar"
	"jantrel/core/capacity"
	"jantrel/core/forecast"
	"jantrel/core/needs"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/ready"
	"jantrel/core/risks"
	"jantrel/core/words"
)

// Entry is something that needs somebody.
type Entry struct {
	ID        string          `json:"id"` // its kind and what it is about: what it is put off under
	Kind      program.Call    `json:"kind"`
	Item      string          `json:"item,omitempty"`
	Needs     string          `json:"needs,omitempty"` // of a need: the item needed
	Team      string          `json:"team,omitempty"`
	Another   string          `json:"another,omitempty"` // of a need: the team of the item needed
	Iteration string          `json:"iteration,omitempty"`
	Risk      string          `json:"risk,omitempty"`
	Promise   string          `json:"promise,omitempty"`
	Release   string          `json:"release,omitempty"` // which it costs the most
	Text      string          `json:"text"`              // what is wrong, as goes on from its name
	By        program.Date    `json:"by,omitzero"`       // the day by which it matters
	Days      float64         `json:"days"`              // that are at stake, see Of
	Cost      float64         `json:"cost"`              // days of the release, on average: the days at stake × how often its team decides when it lands
	Off       *program.Snooze `json:"off,omitempty"`     // it was put off, and the day has not come
}

// Concerns reports whether an entry is about work of a team, or of what that waits for.
func (e *Entry) Concerns(team string) bool { return e.Team == team || e.Another == team }

// Costs is what plays tell of the releases.
type Costs struct {
	// Decides is, by release and team, how often the team decides when the release lands, 0 to 1: see
	// forecast.Decides.
	Decides map[string]map[string]float64
	// Risks is, by risk, which release it costs the most days on average, and how many.
	Risks map[string]RiskCost
	// Promises is how promises stand.
	Promises []forecast.Watched
}

// RiskCost is what a risk costs a release.
type RiskCost struct {
	Release string
	Days    float64
}

// Of gathers what needs somebody on a day; what costs the most days first, then what has the most at
// stake, then by the order of kinds and of the program. What was put off comes last.
//
// At stake are: of what is overdue, was not closed, or comes too late for what needs it, the days that it
// is late; of what is blocked, whose tests fail or are hindered, or what is not ready to begin, an iteration,
// as it will miss its own; of one over capacity, the share by which it is over of its days; of a red build
// the days since it is; of what nobody does, tests or has agreed to, one day. A risk costs what it is
// worth, a doubtful promise the days by which it is missed on average. Time is linear in items, needs and iterations, beside what costs tell.
func Of(p *plan.Plan, today program.Date, costs Costs) []Entry {
	g := &gathering{p: p, today: today, rule: p.Settings.AttentionRule(), costs: costs, off: map[string]*program.Snooze{}, work: map[[2]string][]string{}, list: []Entry{}}
	for i := range p.Snoozes {
		if s := &p.Snoozes[i]; s.Until > today {
			g.off[s.Key] = s
		}
	}
	g.iterations()
	g.items()
	g.needs()
	g.missed()
	g.tests()
	g.builds()
	g.risks()
	g.promises()
	for _, list := range [][]Entry{g.list, g.later} {
		slices.SortStableFunc(list, func(a, b Entry) int {
			return cmp.Or(cmp.Compare(b.Cost, a.Cost), cmp.Compare(b.Days, a.Days), slices.Index(program.Calls, a.Kind)-slices.Index(program.Calls, b.Kind))
		})
	}
	return append(g.list, g.later...)
}

type gathering struct {
	p     *plan.Plan
	today program.Date
	rule  program.AttentionRule
	costs Costs
	off   map[string]*program.Snooze
	work  map[[2]string][]string // by team and iteration: the releases that have work to do there
	list  []Entry
	later []Entry // what was put off
}

// add adds an entry about work of a team for some releases, and finds which of these it costs the most.
func (g *gathering) add(e Entry, releases []string) {
	if g.rule.IsOff(e.Kind) {
		return
	}
	subject := []string{string(e.Kind)}
	for _, part := range []string{e.Item, e.Needs, e.Iteration, e.Risk, e.Promise} {
		if part != "" {
			subject = append(subject, part)
		}
	}
	if e.Team != "" && e.Item == "" {
		subject = append(subject, e.Team)
	}
	e.ID = strings.Join(subject, " ")
	for _, r := range releases {
		if share := g.costs.Decides[r][e.Team]; e.Release == "" || share*e.Days > e.Cost {
			e.Release, e.Cost = r, share*e.Days
		}
	}
	if e.Off = g.off[e.ID]; e.Off != nil {
		g.later = append(g.later, e)
		return
	}
	g.list = append(g.list, e)
}

// releasesOf are the releases that a leaf belongs to: one, or none.
func (g *gathering) releasesOf(i int) []string {
	if r := g.p.Tree().Release(i); r != "" {
		return []string{r}
	}
	return nil
}

// iterations finds those that are over and not closed, and those that carry more than they can.
func (g *gathering) iterations() {
	figures, loads := capacity.Of(g.p), g.p.Loads()
	tree := g.p.Tree()
	for i := range g.p.Items {
		item := &g.p.Items[i]
		if !tree.ToSchedule(i) || item.Iteration == "" {
			continue
		}
		at := [2]string{item.Team, item.Iteration}
		for _, r := range g.releasesOf(i) {
			if !slices.Contains(g.work[at], r) {
				g.work[at] = append(g.work[at], r)
			}
		}
	}
	for t := range g.p.Teams {
		team := &g.p.Teams[t]
		for k := range team.Iterations {
			it := &team.Iterations[k]
			if it.State == program.Closed {
				continue
			}
			e := Entry{Team: team.Key, Iteration: it.Key, By: it.End}
			releases := g.work[[2]string{team.Key, it.Key}]
			can, load := figures[t][k].Capacity, loads.Size[t][k]
			switch {
			case it.End < g.today:
				e.Kind, e.Days = program.CallEnded, float64(g.today-it.End)
				e.Text = fmt.Sprintf("ended on %s and is not closed", it.End.Short())
				g.add(e, releases)
			case can > 0 && load > can+1e-9:
				e.Kind, e.By = program.CallOver, it.Start
				e.Days = (load/can - 1) * float64(it.Span().Days())
				e.Text = fmt.Sprintf("carries %.0f %% more than it can", (load/can-1)*100)
				g.add(e, releases)
			}
		}
	}
}

// items finds what is blocked, overdue, or not ready or owned when its iteration is about to begin.
func (g *gathering) items() {
	tree, lacks := g.p.Tree(), ready.Check(g.p)
	soon := g.today.Add(g.rule.Ahead())
	for i := range g.p.Items {
		item := &g.p.Items[i]
		if item.State == program.Done || item.KeptOut {
			continue
		}
		e := Entry{Item: item.Key, Team: item.Team}
		if !item.Due.IsZero() && item.Due < g.today {
			late := e
			late.Kind, late.By, late.Days = program.CallOverdue, item.Due, float64(g.today-item.Due)
			late.Text = fmt.Sprintf("was due on %s", item.Due.Short())
			g.add(late, g.releasesOf(i))
		}
		if !tree.IsLeaf(i) {
			continue
		}
		place, placed := g.p.Place(i)
		length := 1.0
		if placed {
			length, e.By = float64(place.Days()), place.End
		}
		if item.Blocked != "" {
			blocked := e
			blocked.Kind, blocked.Days, blocked.Text = program.CallBlocked, length, "is blocked: "+item.Blocked
			g.add(blocked, g.releasesOf(i))
		}
		near := item.State.UnderWay() || placed && place.Start <= soon && place.End >= g.today
		if !near {
			continue
		}
		if !item.State.UnderWay() && len(lacks[i]) > 0 {
			not := e
			not.Kind, not.Days, not.By = program.CallNotReady, length, place.Start
			texts := make([]string, len(lacks[i]))
			for n, l := range lacks[i] {
				texts[n] = l.Text
			}
			not.Text = strings.Join(texts, ", ")
			g.add(not, g.releasesOf(i))
		}
		if item.Assignee == "" {
			unowned := e
			unowned.Kind, unowned.Days, unowned.Text = program.CallUnowned, 1, "is nobody's"
			if placed {
				unowned.By = place.Start
			}
			g.add(unowned, g.releasesOf(i))
		}
	}
}

// needs finds those that come too late, and those across teams that nobody has agreed to although they are
// due soon: within twice the days ahead, as there are two teams to talk.
func (g *gathering) needs() {
	tree, states := g.p.Tree(), needs.Check(g.p)
	agree := needs.Agree(&g.p.Program)
	soon := g.today.Add(2 * g.rule.Ahead())
	for n := range g.p.Needs {
		need := &g.p.Needs[n]
		i, k := tree.Index[need.Item], tree.Index[need.Needs]
		by, of := &g.p.Items[i], &g.p.Items[k]
		if by.State == program.Done || of.State == program.Done || by.KeptOut || of.KeptOut {
			continue
		}
		e := Entry{Item: need.Item, Needs: need.Needs, Team: by.Team, Another: of.Team}
		place, placed := g.p.Place(i)
		if placed {
			e.By = place.Start.Add(-1 - need.LagDays)
		}
		if s := &states[n]; s.Status == needs.StatusBroken && s.Spare != nil {
			e.Kind, e.Days, e.Text = program.CallBroken, float64(-*s.Spare), fmt.Sprintf("needs %s, which comes too late", need.Needs)
			g.add(e, g.releasesOf(i))
			continue
		}
		if by.Team != of.Team {
			e.By, _ = needs.Due(&g.p.Program, need, e.By)
		}
		if agree && placed && by.Team != of.Team && need.Agreement != program.Agreed && e.By <= soon && !by.State.UnderWay() {
			said := "is not agreed"
			switch need.Agreement {
			case program.Declined:
				said = "was declined"
			case program.Offered:
				said = "is offered for " + need.Given.Short()
			}
			e.Kind, e.Days, e.Text = program.CallAgreement, 1, fmt.Sprintf("needs %s: that %s", need.Needs, said)
			g.add(e, g.releasesOf(i))
		}
	}
}

// missed finds what the plan has done after the day that two teams agreed on.
func (g *gathering) missed() {
	tree := g.p.Tree()
	for _, o := range needs.Missed(g.p) {
		e := Entry{Kind: program.CallAgreement, Item: o.Item, Needs: o.Needs, Team: o.Waits, Another: o.Gives, By: o.Given, Days: 1}
		e.Text = fmt.Sprintf("was to have %s by %s, as agreed, and the plan has it done nowhere", o.Needs, o.Given.Short())
		if !o.Until.IsZero() {
			e.Days = float64(max(1, o.Until-o.Given))
			e.Text = fmt.Sprintf("was to have %s by %s, as agreed, and the plan has it done on %s", o.Needs, o.Given.Short(), o.Until.Short())
		}
		g.add(e, g.releasesOf(tree.Index[o.Item]))
	}
}

// tests finds items whose tests fail, cannot be run before a defect is mended, or are not run although
// the item is in review.
func (g *gathering) tests() {
	hinders := g.p.Hindered()
	for i := range g.p.Items {
		item := &g.p.Items[i]
		if item.KeptOut {
			continue
		}
		e := Entry{Kind: program.CallTests, Item: item.Key, Team: item.Team}
		length := 1.0
		if place, placed := g.p.Place(i); placed && item.State != program.Done {
			length, e.By = float64(place.Days()), place.End
		}
		var texts []string
		if t := item.Tests; t != nil && t.Failed > 0 {
			texts, e.Days = append(texts, words.Count(t.Failed, "test fails", "tests fail")), length
		}
		if by := hinders[item.Key]; len(by) > 0 && item.State.UnderWay() {
			texts, e.Days = append(texts, "cannot be tested before "+strings.Join(by, " and ")+" is mended"), length
		}
		if t := item.Tests; t != nil && t.NotRun > 0 && item.State == program.Review {
			texts, e.Days = append(texts, words.Count(t.NotRun, "test is not run", "tests are not run")), max(e.Days, 1)
		}
		if len(texts) > 0 {
			e.Text = strings.Join(texts, ", ")
			g.add(e, g.releasesOf(i))
		}
	}
}

// builds finds teams with builds that are red: what they do cannot be put together, for the releases of
// their iteration under way, which iterations has found.
func (g *gathering) builds() {
	for t := range g.p.Teams {
		team := &g.p.Teams[t]
		e := Entry{Kind: program.CallBuild, Team: team.Key, Days: 1}
		var names []string
		for _, b := range team.Builds {
			if b.State != program.Red {
				continue
			}
			since := g.today
			if at, err := time.Parse(time.RFC3339, b.Since); err == nil {
				since = min(calendar.OfTime(at), g.today)
			}
			names = append(names, b.Name+" since "+since.Short())
			e.Days = max(e.Days, float64(g.today-since))
		}
		if len(names) == 0 {
			continue
		}
		e.Text = "build is red: " + strings.Join(names, ", ")
		var releases []string
		for k := range team.Iterations {
			if it := &team.Iterations[k]; it.State == program.Open {
				releases = append(releases, g.work[[2]string{team.Key, it.Key}]...)
			}
		}
		g.add(e, releases)
	}
}

func (g *gathering) risks() {
	for _, s := range risks.Register(g.p.Program, g.today) {
		if len(s.Calls) == 0 {
			continue
		}
		cost := g.costs.Risks[s.Risk]
		e := Entry{Kind: program.CallRisk, Risk: s.Risk, Release: cost.Release, Days: cost.Days, Cost: cost.Days, Text: strings.Join(s.Calls, ", ")}
		g.add(e, nil)
	}
}

func (g *gathering) promises() {
	for i := range g.costs.Promises {
		w := &g.costs.Promises[i]
		if !w.Doubtful() {
			continue
		}
		e := Entry{Kind: program.CallPromise, Promise: w.Promise.Key, Release: w.Promise.Release, By: w.Promise.Date, Days: w.Late, Cost: w.Late}
		e.Text = "has not landed"
		if w.Chance != nil {
			e.Text = fmt.Sprintf("is kept with %.0f %%", *w.Chance*100)
			if w.Promise.Chance != nil {
				e.Text += fmt.Sprintf(", %.0f %% when it was given", *w.Promise.Chance*100)
			}
		}
		g.add(e, nil)
	}
}

package attention_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/attention"
	"jantrel/core/calendar"
	"jantrel/core/capacity"
	"jantrel/core/forecast"
	"jantrel/core/needs"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/ready"
	"jantrel/core/risks"
	"jantrel/core/sample"
)

func ptr[T any](x T) *T { return &x }

var monday = calendar.MustParse("2027-03-01")

// harbour has two teams, in an iteration from 1 to 14 March and with one after it, on Wednesday 3 March.
func harbour() program.Program {
	team := func(key, name string) program.Team {
		return program.Team{Key: key, Name: name, Unit: program.Points, Velocity: ptr(10.0), Iterations: []program.Iteration{
			{Key: key + "1", Start: monday, End: monday.Add(13), State: program.Open}, {Key: key + "2", Start: monday.Add(14), End: monday.Add(27)}}}
	}
	work := func(key, team, iteration string) program.Item {
		return program.Item{Key: key, Title: key, Kind: program.Story, Team: team, Iteration: iteration, Release: "R", Size: ptr(2.0), Assignee: "ann"}
	}
	p := program.Program{
		Settings: program.Settings{SameIteration: program.ShareSameTeam, FillTo: 1}, People: []program.Person{{Key: "ann", Name: "Ann"}},
		Teams: []program.Team{team("Q", "Quay"), team("B", "Boats")}, Releases: []program.Release{{Key: "R", Name: "First"}},
		Items: []program.Item{work("stuck", "Q", "Q1"), work("late", "B", "B1"), work("bare", "Q", "Q1"), work("large", "B", "B2"), work("asks", "Q", "Q2"), work("gives", "B", "B1")},
		Needs: []program.Need{{Item: "asks", Needs: "gives"}, {Item: "bare", Needs: "late"}},
		Risks: []program.Risk{{Key: "RK-1", Title: "Ice", Chance: 1, Impact: 1}},
	}
	p.Items[0].Blocked, p.Items[0].State = "no boat", program.Doing
	p.Items[1].Due, p.Items[1].State = monday.Add(-3), program.Doing
	p.Items[2].Assignee, p.Items[2].Size = "", nil
	p.Items[3].Size = ptr(12.0)
	return p
}

// The list of docs/attention.md. Quay decides in 80 % of plays when First lands, Boats in 30 %.
func TestTheWorkedExample(t *testing.T) {
	costs := attention.Costs{Decides: map[string]map[string]float64{"R": {"Q": 0.8, "B": 0.3}}, Risks: map[string]attention.RiskCost{"RK-1": {Release: "R", Days: 1.2}}}
	p := harbour()
	today := monday.Add(2)
	says := func() (list []string) {
		for _, e := range attention.Of(plan.Of(p), today, costs) {
			off := ""
			if e.Off != nil {
				off = " off: " + e.Off.Why
			}
			list = append(list, fmt.Sprintf("%s: %.3g days, costs %.3g; %s%s", e.ID, e.Days, e.Cost, e.Text, off))
		}
		return list
	}
	assert.Equal(t, []string{
		"blocked stuck: 14 days, costs 11.2; is blocked: no boat",
		"broken bare late: 14 days, costs 11.2; needs late, which comes too late",
		"not-ready bare: 14 days, costs 11.2; has no size, needs late, placed too late for it",
		"overdue late: 5 days, costs 1.5; was due on 26 Feb",
		"risk RK-1: 1.2 days, costs 1.2; nobody watches it",
		"over B2 B: 2.8 days, costs 0.84; carries 20 % more than it can",
		"agreement asks gives: 1 days, costs 0.8; needs gives: that is not agreed",
		"unowned bare: 1 days, costs 0.8; is nobody's",
	}, says())

	// A promise that is doubtful, and one that is not.
	costs.Promises = []forecast.Watched{
		{Promise: program.Promise{Key: "PR-1", Release: "R", Date: monday.Add(20), Chance: ptr(0.9)}, Word: forecast.WordStands, Chance: ptr(0.4), Safety: forecast.InDanger, Late: 4.5},
		{Promise: program.Promise{Key: "PR-2", Release: "R", Date: monday.Add(60), Chance: ptr(0.9)}, Word: forecast.WordStands, Chance: ptr(0.95), Safety: forecast.Safe},
		{Promise: program.Promise{Key: "PR-3", Milestone: "M", Date: monday}, Word: forecast.WordMissed, Late: 0.5},
	}
	list := says()
	assert.Equal(t, "promise PR-1: 4.5 days, costs 4.5; is kept with 40 %, 90 % when it was given", list[3])
	assert.Equal(t, "promise PR-3: 0.5 days, costs 0.5; has not landed", list[len(list)-1])
	assert.Len(t, list, 10)
	costs.Promises = nil

	// Put off until a day, with a reason, it comes last; on that day it is back.
	p.Snoozes = []program.Snooze{{Key: "blocked stuck", Until: today.Add(1), Why: "the boat comes tomorrow"}}
	list = says()
	assert.Equal(t, "blocked stuck: 14 days, costs 11.2; is blocked: no boat off: the boat comes tomorrow", list[len(list)-1])
	today = today.Add(1)
	assert.NotContains(t, says()[len(says())-1], "off:")
	// The program's own rules.
	p.Settings.Attention = &program.AttentionRule{Off: []program.Call{program.CallRisk, program.CallBroken, program.CallOver}, AheadDays: ptr(0)}
	for _, line := range says() {
		assert.NotRegexp(t, "^(risk|broken|over) ", line)
	}
	today = monday.Add(14)
	assert.Contains(t, says(), "ended Q1 Q: 1 days, costs 0.8; ended on 14 Mar and is not closed")
}

// What services outside found: tests that fail or wait, and builds that are red; as docs/attention.md says.
func TestWhatSignalsCall(t *testing.T) {
	costs := attention.Costs{Decides: map[string]map[string]float64{"R": {"Q": 0.8, "B": 0.3}}}
	p := harbour()
	p.Settings.Attention = &program.AttentionRule{Off: []program.Call{program.CallOverdue, program.CallBlocked, program.CallBroken, program.CallOver, program.CallNotReady, program.CallAgreement, program.CallUnowned, program.CallRisk}}
	p.Items[0].Tests = &program.Tests{Passed: 3, Failed: 2, Since: "2027-03-03T07:00:00Z"}
	p.Items[1].State, p.Items[1].Tests = program.Review, &program.Tests{Passed: 9, NotRun: 1, Since: "2027-03-03T07:00:00Z"}
	p.Items[5].State, p.Items[3].Hinders = program.Doing, []string{"gives", "asks"} // of these asks is not begun
	p.Teams[0].Builds = []program.Build{{Name: "nightly", State: program.Red, Since: "2027-02-27T23:00:00Z"}, {Name: "main", State: program.Red, Since: "2027-03-03T10:00:00Z"}, {Name: "docs", State: program.Green, Since: "2027-03-03T10:00:00Z"}}
	says := func() (list []string) {
		for _, e := range attention.Of(plan.Of(p), monday.Add(2), costs) {
			list = append(list, fmt.Sprintf("%s: %.3g days, costs %.3g; %s", e.ID, e.Days, e.Cost, e.Text))
		}
		return list
	}
	assert.Equal(t, []string{
		"tests stuck: 14 days, costs 11.2; 2 tests fail",
		"tests gives: 14 days, costs 4.2; cannot be tested before large is mended",
		"build Q: 4 days, costs 3.2; build is red: nightly since 27 Feb, main since 3 Mar",
		"tests late: 1 days, costs 0.3; 1 test is not run",
	}, says())
	p.Items[3].State, p.Items[0].State = program.Done, program.Done
	assert.Equal(t, []string{
		"build Q: 4 days, costs 3.2; build is red: nightly since 27 Feb, main since 3 Mar",
		"tests stuck: 1 days, costs 0.8; 2 tests fail",
		"tests late: 1 days, costs 0.3; 1 test is not run",
	}, says(), "what is mended hinders nothing, and what was done and fails needs a day")
}

// Every entry is there for its reason, and every reason has its entry: counted one by one.
func TestTheListAgreesWithARecount(t *testing.T) {
	for seed := range uint64(40) {
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 6, Items: 50, Needs: 30})
		r := rand.New(rand.NewPCG(seed, 3))
		for i := range p.Items {
			if r.IntN(6) == 0 {
				p.Items[i].Blocked = "no boat"
			}
			if r.IntN(5) == 0 {
				p.Items[i].Tests = &program.Tests{Failed: r.IntN(2), NotRun: r.IntN(3), Since: "2027-03-01T09:00:00Z"}
			}
			if r.IntN(5) == 0 {
				p.Items[i].Hinders = []string{p.Items[r.IntN(len(p.Items))].Key}
			}
			if r.IntN(4) == 0 {
				p.Items[i].State = []program.ItemState{program.Doing, program.Review, program.Done}[r.IntN(3)]
			}
		}
		today := sample.Today.Add(r.IntN(30))
		pl := plan.Of(p)
		tree := pl.Tree()
		want := map[program.Call]int{}
		lacks, states, figures, loads := ready.Check(pl), needs.Check(pl), capacity.Of(pl), pl.Loads()
		for i, item := range p.Items {
			open := item.State != program.Done && !item.KeptOut
			place, placed := pl.Place(i)
			near := item.State.UnderWay() || placed && place.Start <= today.Add(7) && place.End >= today
			count := func(kind program.Call, is bool) {
				if is {
					want[kind]++
				}
			}
			count(program.CallOverdue, open && !item.Due.IsZero() && item.Due < today)
			hindered := slices.ContainsFunc(p.Items, func(d program.Item) bool { return d.State != program.Done && slices.Contains(d.Hinders, item.Key) })
			count(program.CallTests, !item.KeptOut && (item.Tests != nil && (item.Tests.Failed > 0 || item.Tests.NotRun > 0 && item.State == program.Review) || hindered && item.State.UnderWay()))
			open = open && tree.IsLeaf(i)
			count(program.CallBlocked, open && item.Blocked != "")
			count(program.CallNotReady, open && near && !item.State.UnderWay() && len(lacks[i]) > 0)
			count(program.CallUnowned, open && near && item.Assignee == "")
		}
		for n, s := range states {
			by, of := p.Items[tree.Index[p.Needs[n].Item]], p.Items[tree.Index[p.Needs[n].Needs]]
			if s.Status == needs.StatusBroken && s.Spare != nil && by.State != program.Done && of.State != program.Done && !by.KeptOut && !of.KeptOut {
				want[program.CallBroken]++
			}
		}
		for t := range p.Teams {
			for k, it := range p.Teams[t].Iterations {
				if it.State == program.Closed {
					continue
				}
				if it.End < today {
					want[program.CallEnded]++
				} else if can := figures[t][k].Capacity; can > 0 && loads.Size[t][k] > can+1e-9 {
					want[program.CallOver]++
				}
			}
		}
		for _, s := range risks.Register(p, today) {
			if len(s.Calls) > 0 {
				want[program.CallRisk]++
			}
		}
		costs := attention.Costs{Decides: map[string]map[string]float64{}}
		for n, w := range forecast.Promises(pl, forecast.Options{Today: today, Plays: 20, Seed: seed}) {
			w.Promise.Key = fmt.Sprint("PR-", n)
			costs.Promises = append(costs.Promises, w)
			if w.Doubtful() {
				want[program.CallPromise]++
			}
		}
		for _, rel := range p.Releases {
			costs.Decides[rel.Key] = map[string]float64{}
			for _, team := range p.Teams {
				costs.Decides[rel.Key][team.Key] = r.Float64()
			}
		}
		got, ids := map[program.Call]int{}, map[string]bool{}
		list := attention.Of(pl, today, costs)
		for i, e := range list {
			got[e.Kind]++
			require.False(t, ids[e.ID], "%d: %s stands twice", seed, e.ID)
			ids[e.ID] = true
			assert.NotEmpty(t, e.Text)
			assert.GreaterOrEqual(t, e.Days, 0.0, "%d %s", seed, e.ID)
			if i > 0 && (list[i-1].Off == nil) == (e.Off == nil) {
				assert.GreaterOrEqual(t, list[i-1].Cost, e.Cost, "%d %s", seed, e.ID)
			}
		}
		delete(got, program.CallAgreement)
		assert.Equal(t, want, got, "seed %d", seed)
	}
}

func ExampleOf() {
	costs := attention.Costs{Decides: map[string]map[string]float64{"R": {"Q": 0.8, "B": 0.3}}}
	e := attention.Of(plan.Of(harbour()), monday.Add(2), costs)[0]
	fmt.Printf("%s %s; %.1f days of %s\n", e.Item, e.Text, e.Cost, e.Release)
	// Output: stuck is blocked: no boat; 11.2 days of R
}

func BenchmarkOf5000Items(b *testing.B) {
	pl := plan.Of(sample.Program(1, sample.Shape{Teams: 40, Iterations: 12, Items: 5000, Needs: 6000}))
	for b.Loop() {
		attention.Of(pl, sample.Today, attention.Costs{})
	}
}

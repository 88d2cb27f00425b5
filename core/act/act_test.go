package act_test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/act"
	"jantrel/core/backlog"
	"jantrel/core/cadence"
	"jantrel/core/calendar"
	"jantrel/core/capacity"
	"jantrel/core/gate"
	"jantrel/core/intake"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/internal/demo"
)

func stateOf(p program.Program) act.State {
	return act.State{Plan: plan.Of(p), Today: sample.Today, Index: func() *backlog.Index { return backlog.NewIndex(plan.Of(p), backlog.Options{Today: sample.Today}) }}
}

// all is one intent of each kind that the demo takes.
func all() map[string]act.Intent {
	twenty := 20.0
	lc := func(key string) act.OfTeam { return act.OfTeam{Team: "LC", Key: key} }
	return map[string]act.Intent{
		"make":             act.Make{Label: "Rename", Changes: []program.Change{program.SetTo(program.Ref{Kind: program.KindItem, Key: "LC-8"}, "title", "New")}},
		"remove":           act.Remove{Ref: program.Ref{Kind: program.KindRelease, Key: "R2"}},
		"enter":            act.Enter{Keys: []string{"LC-8", "LC-7"}, Fields: []string{"size", "state"}, Cells: [][]string{{"3", "done"}}},
		"add outline":      act.AddOutline{Text: "- Fog bell (3)", Under: intake.Under{Team: "LC"}},
		"rank":             act.Rank{Keys: []string{"LC-8"}, To: backlog.Where{To: "top"}},
		"place":            act.Place{Label: "Place", Placements: []act.Placement{{Item: "LC-8", Iteration: "LC-i13"}, {Item: "LC-9"}}},
		"shift":            act.Shift{Item: "FE-17", Days: 14},
		"delete":           act.Delete{Keys: []string{"LC-5"}},
		"split":            act.Split{Key: "LC-8", Parts: []backlog.SplitPart{{Title: "a"}, {Title: "b"}}, Chain: true},
		"break down":       act.BreakDown{Key: "FE-1", Pattern: "across"},
		"repeat":           act.Repeat{Keys: []string{"watch"}, Until: sample.Today.Add(40)},
		"take in":          act.TakeIn{Columns: []string{"title", "parent"}, Rows: [][]string{{"Fog bell", "Fog"}}, MakeParents: true, Name: "more.csv"},
		"save cadence":     act.SaveCadence{Cadence: program.Cadence{Key: "week", Start: sample.Today, LengthDays: 7, Ahead: 3}},
		"follow cadence":   act.FollowCadence{Team: "LC", Cadence: "three-week", From: sample.Today.Add(30)},
		"add team":         act.AddTeam{Team: program.Team{Key: "PQ", Name: "Pier", Unit: program.Points, Cadence: "two-week"}},
		"set members":      act.SetMembers{Team: "LC"},
		"agree velocity":   act.AgreeVelocity{Team: "LC", Velocity: &twenty},
		"add people":       act.AddPeople{Text: "Ada Ng, LC 50%"},
		"close iteration":  act.CloseIteration{OfTeam: lc("LC-i10")},
		"close, said how":  act.CloseIteration{OfTeam: lc("LC-i10"), Unfinished: []cadence.Unfinished{{Item: "LC-5", Goes: cadence.Back}}},
		"reopen iteration": act.ReopenIteration{OfTeam: lc("LC-i9")},
		"resize iteration": act.ResizeIteration{OfTeam: lc("LC-i11"), End: calendar.MustParse("2027-03-28"), Along: true},
		"insert iteration": act.InsertIteration{OfTeam: lc("LC-i12"), Name: "Hardening", Days: 7},
		"move iteration":   act.MoveIteration{OfTeam: lc("LC-i12"), Days: 7},
		"remove iteration": act.RemoveIteration{OfTeam: lc("LC-i12")},
		"fit release":      act.FitRelease{Key: "R2"},
		"move release":     act.MoveRelease{Key: "R1", Days: -7},
		"lay phases":       act.LayPhases{Key: "R2", Template: "usual"},
		"keep template":    act.KeepTemplate{Key: "R1", Name: "As before"},
		"add risk":         act.AddRisk{Risk: program.Risk{Title: "Ice on the masts", Teams: []string{"FW"}}},
		"enter time":       act.EnterTime{Person: "p13", Date: sample.Today, Item: "MA-5", Hours: 2},
		"calendars": act.Calendars{Of: []act.Calendar{{Events: []program.DayOff{{From: sample.Today.Add(9), To: sample.Today.Add(9), Name: "Regatta", UID: "u"}}},
			{Person: demo.Program(sample.Today).People[0].Key, Trouble: fmt.Errorf("no line")}}},
	}
}

// Every intent, planned twice on one state, comes to the same, which the gate lets
// through; and planned where others have been busy it does there what was meant, or says
// why it cannot.
func TestEveryIntentIsPlannedOnWhatIsThere(t *testing.T) {
	p := demo.Program(sample.Today)
	before, err := json.Marshal(p)
	require.NoError(t, err)
	for name, intent := range all() {
		first, err := intent.Plan(stateOf(p))
		require.NoError(t, err, name)
		again, err := intent.Plan(stateOf(p))
		require.NoError(t, err, name)
		assert.Equal(t, act.Digest(first.Changes), act.Digest(again.Changes), name)
		assert.NotEmpty(t, first.Label, name)
		assert.NotEmpty(t, first.Changes, name)
		next, _, err := gate.Try(plan.Of(p), first.Changes)
		require.NoError(t, err, name)
		for _, c := range first.Says {
			assert.Contains(t, first.Changes, c, "%s says only what it does", name)
		}
		second, err := intent.Plan(stateOf(next.Program))
		if err == nil {
			_, _, err = gate.Try(next, second.Changes)
			assert.NoError(t, err, "%s, once more", name)
		}
	}
	after, err := json.Marshal(p)
	require.NoError(t, err)
	assert.Equal(t, string(before), string(after), "planning alters nothing")
}

// Ranked by an intent, an item comes to stand where it was meant, whatever others added
// and moved since it was seen.
func TestARankIsWhereItWasMeant(t *testing.T) {
	p := sample.Program(3, sample.Shape{Teams: 2, Iterations: 3, Items: 20})
	r := rand.New(rand.NewPCG(3, 3))
	for range 50 {
		mine, anchor := p.Items[r.IntN(len(p.Items))].Key, p.Items[r.IntN(len(p.Items))].Key
		at := 0
		next, _, err := gate.Try(plan.Of(p), []program.Change{{Op: program.Move, Ref: program.Ref{Kind: program.KindItem, Key: p.Items[r.IntN(len(p.Items))].Key}, At: &at}})
		require.NoError(t, err)
		planned, err := act.Rank{Keys: []string{mine}, To: backlog.Where{To: "above", Key: anchor}}.Plan(stateOf(next.Program))
		if err != nil || len(planned.Changes) == 0 {
			continue
		}
		ranked, _, err := gate.Try(next, planned.Changes)
		require.NoError(t, err)
		for i, x := range ranked.Items {
			if x.Key == anchor && i > 0 && ranked.Items[i-1].Parent != mine {
				assert.Equal(t, mine, ranked.Items[i-1].Key)
			}
		}
	}
}

func TestWhatAnIntentSays(t *testing.T) {
	p := demo.Program(sample.Today)
	enter, err := act.Enter{Keys: []string{"LC-8"}, Fields: []string{"state"}, Cells: [][]string{{"done"}}}.Plan(stateOf(p))
	require.NoError(t, err)
	require.Len(t, enter.Says, 1, "the day on which it was done follows")
	assert.Equal(t, "state", enter.Says[0].Field)
	gone, err := act.Delete{Keys: []string{"LC-5"}}.Plan(stateOf(p))
	require.NoError(t, err)
	require.Len(t, gone.Says, 1, "what needs it follows")
	assert.Equal(t, program.Remove, gone.Says[0].Op)
	rank, err := act.Rank{Keys: []string{"LC-8"}, To: backlog.Where{To: "bottom"}}.Plan(stateOf(p))
	require.NoError(t, err)
	assert.Empty(t, rank.Says, "a place is meant among what is there")
}

// What is done or pinned stays, and is named; the others move.
func TestPlacingLeavesWhatIsFixed(t *testing.T) {
	p := demo.Program(sample.Today)
	var free, done string
	for _, item := range p.Items {
		switch {
		case item.Team != "LC" || item.Kind.IsGroup():
		case item.State == program.Done:
			done = item.Key
		case !item.Pinned && item.State == program.Todo && item.Iteration != "LC-i13":
			free = item.Key
		}
	}
	planned, err := act.Place{Label: "Move", Placements: []act.Placement{{Item: free, Iteration: "LC-i13"}, {Item: done, Iteration: "LC-i13"}}}.Plan(stateOf(p))
	require.NoError(t, err)
	require.Len(t, planned.Changes, 1)
	assert.Equal(t, free, planned.Changes[0].Key)
	assert.Equal(t, []string{done + " cannot move: done, or pinned. The others were moved."}, planned.Notes)
	_, err = act.Place{Label: "Move", Placements: []act.Placement{{Item: "none"}}}.Plan(stateOf(p))
	assert.ErrorContains(t, err, "no item none any more")
}

func TestMovingAnIterationKeepsItsLength(t *testing.T) {
	p := demo.Program(sample.Today)
	planned, err := act.MoveIteration{OfTeam: act.OfTeam{Team: "LC", Key: "LC-i12"}, Days: 7}.Plan(stateOf(p))
	require.NoError(t, err)
	next, _, err := gate.Try(plan.Of(p), planned.Changes)
	require.NoError(t, err)
	before, _ := p.Teams[0].Find("LC-i12")
	after, _ := next.Teams[0].Find("LC-i12")
	assert.Equal(t, before.Start.Add(7), after.Start)
	assert.Equal(t, before.Span().Days(), after.Span().Days())
	_, err = act.MoveIteration{OfTeam: act.OfTeam{Team: "LC", Key: p.Teams[0].Iterations[0].Key}, Days: 7}.Plan(stateOf(p))
	assert.ErrorContains(t, err, "first iteration")
}

func TestATemplateOfThatNameGivesWay(t *testing.T) {
	p := demo.Program(sample.Today)
	keep := func(p program.Program) program.Program {
		planned, err := act.KeepTemplate{Key: "R1", Name: "As before"}.Plan(stateOf(p))
		require.NoError(t, err)
		next, _, err := gate.Try(plan.Of(p), planned.Changes)
		require.NoError(t, err)
		return next.Program
	}
	once := keep(p)
	assert.Len(t, once.PhaseTemplates, len(p.PhaseTemplates)+1)
	assert.Len(t, keep(once).PhaseTemplates, len(once.PhaseTemplates))
}

// What is beyond all sense is refused in words, whoever asks.
func TestWhatIsBeyondLimits(t *testing.T) {
	p := sample.Program(1, sample.Shape{Teams: 2, Iterations: 4, Items: 10})
	p.Releases = []program.Release{{Key: "R1", Name: "First Light", Start: sample.Today, Due: sample.Today.Add(90), Phases: []program.Phase{{Name: "Build", Start: sample.Today, End: sample.Today.Add(9)}}}}
	team := p.Teams[0]
	last := team.Iterations[len(team.Iterations)-1].Key
	for says, intent := range map[string]act.Intent{
		"5000 days are too far":           act.MoveRelease{Key: "R1", Days: 5000},
		"-367 days are too far":           act.MoveIteration{OfTeam: act.OfTeam{Team: team.Key, Key: last}, Days: -367},
		"from 1 to 366 days":              act.InsertIteration{OfTeam: act.OfTeam{Team: team.Key, Key: last}, Days: 367},
		"the template has no name":        act.KeepTemplate{Key: "R1", Name: " "},
		"split into 50 parts at most":     act.Split{Key: p.Items[leafOf(p)].Key, Parts: make([]backlog.SplitPart, 51)},
		"cells are entered in 100 fields": act.Enter{Keys: []string{"x"}, Fields: make([]string, 100), Cells: [][]string{{}}},
	} {
		_, err := intent.Plan(stateOf(p))
		assert.ErrorContains(t, err, says)
	}
}

// leafOf is the first item that groups no others.
func leafOf(p program.Program) int {
	tree := program.TreeOf(p)
	return slices.IndexFunc(p.Items, func(x program.Item) bool { return tree.IsLeaf(tree.Index[x.Key]) && x.State != program.Done })
}

// Teams that were left alone for years get their iterations when somebody asks.
func TestResumeIterations(t *testing.T) {
	s := stateOf(demo.Program(sample.Today))
	s.Today = sample.Today.Add(900)
	resume := act.ResumeIterations{Teams: cadence.Stalled(s.Program, s.Today)}
	planned, err := resume.Plan(s)
	require.NoError(t, err)
	next, _, err := gate.Try(s.Plan, planned.Changes)
	require.NoError(t, err)
	for _, team := range next.Program.Teams {
		last := team.Iterations[len(team.Iterations)-1]
		assert.Greater(t, last.Start, s.Today, team.Key)
	}
	s.Plan = next
	again, err := resume.Plan(s)
	require.NoError(t, err)
	assert.Empty(t, again.Changes)
}

// What is agreed on for all is what is suggested for each.
func TestAgreeOnAll(t *testing.T) {
	s := stateOf(demo.Program(sample.Today))
	planned, err := act.AgreeOn{Team: "LC", Confidence: 0.85}.Plan(s)
	require.NoError(t, err)
	next, _, err := gate.Try(s.Plan, planned.Changes)
	require.NoError(t, err)
	figures := capacity.Of(s.Plan)[0]
	agreed := 0
	for i, it := range next.Program.Teams[0].Iterations {
		before := s.Program.Teams[0].Iterations[i]
		if it.State == program.Closed || it.End < s.Today {
			assert.Equal(t, before, it, "what is over stays")
			continue
		}
		agreed++
		assert.InDelta(t, capacity.Suggest(&s.Program.Teams[0], figures, i).Amounts[2], *it.Capacity, 0.051)
		assert.Contains(t, it.CapacityNote, "85 %")
	}
	assert.Greater(t, agreed, 5)
	_, err = act.AgreeOn{Team: "LC", Confidence: 0.8}.Plan(s)
	assert.ErrorContains(t, err, "not at 0.8")
	_, err = act.AgreeOn{Team: "no", Confidence: 0.85}.Plan(s)
	assert.ErrorContains(t, err, `no team "no"`)
}

package roles_test

import (
	"encoding/json"
	"fmt"
	"reflect"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/program"
	"jantrel/core/roles"
)

// harbour has two teams. Ann leads A, and is assigned A-1; the other person and
// team are B's.
func harbour() program.Program {
	return program.Program{
		Cadences: []program.Cadence{{Key: "c"}},
		People:   []program.Person{{Key: "ann"}, {Key: "bo"}},
		Teams: []program.Team{
			{Key: "A", Members: []program.Member{{Person: "ann", Share: 1}}, Iterations: []program.Iteration{{Key: "A-i1"}}},
			{Key: "B", Members: []program.Member{{Person: "bo", Share: 1}}, Iterations: []program.Iteration{{Key: "B-i1"}}},
		},
		Releases:   []program.Release{{Key: "R"}},
		Milestones: []program.Milestone{{Key: "M"}},
		Items:      []program.Item{{Key: "A-1", Team: "A", Assignee: "ann"}, {Key: "B-1", Team: "B", Assignee: "bo"}, {Key: "F"}},
		Comments:   []program.Comment{{Key: "c1", Item: "A-1", By: "Ann", Author: "1"}, {Key: "c2", Item: "A-1", By: "Ann", Author: "2"}},
		Needs:      []program.Need{{Item: "A-1", Needs: "B-1"}, {Item: "B-1", Needs: "A-1"}},

		Snoozes:     []program.Snooze{{Key: "s1"}},
		Promises:    []program.Promise{{Key: "p1"}},
		Risks:       []program.Risk{{Key: "r1", Owner: "ann"}, {Key: "r2", Owner: "bo", Teams: []string{"B"}}},
		TimeEntries: []program.TimeEntry{{Key: "t1", Person: "ann", Item: "B-1", Hours: 1}, {Key: "t2", Person: "bo", Item: "B-1", Hours: 2}},
	}
}

// target is a thing of each kind that is Ann's own, or that is not.
var targets = map[program.Kind][2]program.Ref{
	program.KindProgram:   {{}, {}},
	program.KindCadence:   {{Key: "c"}, {Key: "c"}},
	program.KindTeam:      {{Key: "A"}, {Key: "B"}},
	program.KindIteration: {{In: "A", Key: "A-i1"}, {In: "B", Key: "B-i1"}},
	program.KindPerson:    {{Key: "ann"}, {Key: "bo"}},
	program.KindRelease:   {{Key: "R"}, {Key: "R"}},
	program.KindMilestone: {{Key: "M"}, {Key: "M"}},
	program.KindItem:      {{Key: "A-1"}, {Key: "B-1"}},
	program.KindNeed:      {{In: "A-1", Key: "B-1"}, {In: "B-1", Key: "A-1"}},
	program.KindComment:   {{In: "A-1", Key: "c1"}, {In: "A-1", Key: "c2"}},
	program.KindRisk:      {{Key: "r1"}, {Key: "r2"}},
	program.KindSnooze:    {{Key: "s1"}, {Key: "s1"}},
	program.KindPromise:   {{Key: "p1"}, {Key: "p1"}},
	program.KindTimeEntry: {{Key: "t1"}, {Key: "t2"}},
}

var things = map[program.Kind]any{
	program.KindProgram: program.Program{}, program.KindCadence: program.Cadence{}, program.KindTeam: program.Team{},
	program.KindIteration: program.Iteration{}, program.KindPerson: program.Person{}, program.KindRelease: program.Release{},
	program.KindMilestone: program.Milestone{}, program.KindItem: program.Item{}, program.KindNeed: program.Need{},
	program.KindComment: program.Comment{}, program.KindTimeEntry: program.TimeEntry{}, program.KindRisk: program.Risk{}, program.KindSnooze: program.Snooze{}, program.KindPromise: program.Promise{},
}

// What a team lead and a member may do, apart from the table: on their own things
// (own) and on others' (others). Everything else is refused to them.
var (
	leadOwn = []string{
		"set team velocity", "set team agreedOn", "set team agreedDays", "set team focus", "set team fillTo", "set team lookback", "set team builds", "set team deployed",
		"set iteration *", "add iteration", "remove iteration", "move iteration",
		"set person daysOff", "set person calendar",
		"set item *", "add item", "remove item", "move item",
		"set need item", "set need needs", "set need lagDays", "set need agreement", "set need wanted", "set need why", "add need", "remove need", "move need",
		"add comment", "set comment *", "remove comment",
		"add timeEntry", "set timeEntry key", "set timeEntry date", "set timeEntry hours", "set timeEntry item", "set timeEntry task", "set timeEntry activity", "set timeEntry note", "remove timeEntry",
	}
	leadRisks  = []string{"add risk", "set risk *", "remove risk"}
	leadAny    = []string{"add comment", "add snooze", "set snooze *", "remove snooze"}
	leadOthers = []string{"set need agreement", "set need given", "set need why"} // the needed item is theirs
	memberOwn  = []string{"set person daysOff", "set person calendar", "set item title", "set item state", "set item blocked", "set item step", "set item began", "set item doneOn", "set item size", "set item left", "set item role", "set item tags",
		"set item description", "set item tasks", "set item checks", "set item links", "set item foundIn", "set item fixedIn", "set item tests", "set item hinders", "set item attachments",
		"add comment", "set comment *", "remove comment",
		"add timeEntry", "set timeEntry key", "set timeEntry date", "set timeEntry hours", "set timeEntry item", "set timeEntry task", "set timeEntry activity", "set timeEntry note", "remove timeEntry"}
	memberRisks = []string{"add risk", "set risk title", "set risk cause", "set risk effect", "set risk state", "set risk again", "set risk chance", "set risk impact",
		"set risk response", "set risk answer", "set risk actions", "set risk items", "set risk needs"}
	memberOthers = []string{"add comment"}
)

func TestEveryChangeAndRole(t *testing.T) {
	p := harbour()
	allowed := map[roles.Role][2][]string{roles.Lead: {append(append(leadOwn, leadRisks...), leadAny...), append(leadOthers, leadAny...)}, roles.Member: {append(memberOwn, memberRisks...), memberOthers}}
	checked := 0
	for kind, thing := range things {
		for _, op := range []program.Op{program.Set, program.Add, program.Remove, program.Move} {
			fields := []string{""}
			if op == program.Set {
				fields = fieldsOf(thing)
			}
			for _, field := range fields {
				for _, role := range roles.All {
					for side, ref := range targets[kind] {
						ref.Kind = kind
						c := program.Change{Op: op, Ref: ref, Field: field}
						if kind == program.KindItem && op == program.Add {
							c.Value = json.RawMessage(fmt.Sprintf(`{"team":%q}`, "AB"[side:side+1]))
						}
						if kind == program.KindItem && field == "team" {
							c.Value = json.RawMessage(`"A"`)
						}
						if kind == program.KindRisk && op == program.Add {
							c.Value = json.RawMessage(fmt.Sprintf(`{"owner":%q}`, []string{"ann", "bo"}[side]))
						}
						if kind == program.KindTimeEntry && op == program.Add {
							c.Value = json.RawMessage(fmt.Sprintf(`{"person":%q}`, []string{"ann", "bo"}[side]))
						}
						name := strings.TrimSpace(fmt.Sprintf("%s %s %s", op, kind, field))
						want := role == roles.Administrator || role == roles.Manager
						if list, ok := allowed[role]; ok {
							want = slices.Contains(list[side], name) || slices.Contains(list[side], fmt.Sprintf("%s %s *", op, kind))
						}
						err := roles.Check(p, roles.Who{Role: role, Person: "ann", Author: "1"}, []program.Change{c})
						require.Equal(t, want, err == nil, "%s as %s, own %v: %v", name, role, side == 0, err)
						checked++
					}
				}
			}
		}
	}
	assert.Greater(t, checked, 900)
}

func fieldsOf(thing any) []string {
	var names []string
	for i := range reflect.TypeOf(thing).NumField() {
		name, _, _ := strings.Cut(reflect.TypeOf(thing).Field(i).Tag.Get("json"), ",")
		names = append(names, name)
	}
	if reflect.TypeOf(thing) == reflect.TypeFor[program.Item]() {
		names = append(names, roles.Attachments)
	}
	return names
}

// Who removes an item of their team takes it out of the hours that others spent on it, and can do
// nothing else about these.
func TestAnItemLeavesTheHoursOfOthers(t *testing.T) {
	p := harbour()
	p.TimeEntries[1].Item = "A-1"
	lead := roles.Who{Role: roles.Lead, Person: "ann"}
	spent := program.Ref{Kind: program.KindTimeEntry, Key: "t2"}
	assert.NoError(t, roles.Check(p, lead, []program.Change{program.SetTo(spent, "item", nil)}))
	assert.Error(t, roles.Check(p, lead, []program.Change{program.SetTo(spent, "hours", 3)}))
	assert.Error(t, roles.Check(p, roles.Who{Role: roles.Member, Person: "ann"}, []program.Change{program.SetTo(spent, "item", nil)}))
}

// Where others accept, nobody calls done what is assigned to them, whatever their role; a member
// accepts or sends back what another of the team did, and nothing else of theirs.
func TestOthersAccept(t *testing.T) {
	p := harbour()
	p.Settings.OthersAccept = true
	team := p.Teams[0].Key
	p.Teams[0].Members = []program.Member{{Person: "ann", Share: 1}, {Person: "bo", Share: 1}}
	p.Items = append(p.Items,
		program.Item{Key: "mine", Team: team, Assignee: "ann", State: program.Review},
		program.Item{Key: "his", Team: team, Assignee: "bo", State: program.Review},
		program.Item{Key: "begun", Team: team, Assignee: "bo", State: program.Doing},
		program.Item{Key: "afar", Team: p.Teams[1].Key, Assignee: "cy", State: program.Review})
	to := func(key string, state program.ItemState) program.Change {
		return program.SetTo(program.Ref{Kind: program.KindItem, Key: key}, "state", state)
	}
	for _, c := range []struct {
		change             program.Change
		member, lead, over bool // may as such
	}{
		{to("mine", program.Done), false, false, false},
		{to("mine", program.Doing), true, true, true},
		{to("his", program.Done), true, true, true},
		{to("his", program.Doing), true, true, true},
		{to("begun", program.Review), false, true, true},
		{program.SetTo(program.Ref{Kind: program.KindItem, Key: "his"}, "step", "done"), true, true, true},
		{program.SetTo(program.Ref{Kind: program.KindItem, Key: "begun"}, "step", "trial"), false, true, true},
		{to("afar", program.Done), false, false, true},
		{program.SetTo(program.Ref{Kind: program.KindItem, Key: "his"}, "title", "x"), false, true, true},
	} {
		for role, want := range map[roles.Role]bool{roles.Member: c.member, roles.Lead: c.lead, roles.Manager: c.over} {
			err := roles.Check(p, roles.Who{Role: role, Person: "ann"}, []program.Change{c.change})
			assert.Equal(t, want, err == nil, "%s as %s: %v", c.change.Key, role, err)
			assert.Equal(t, []bool{want, want}, roles.May(p, roles.Who{Role: role, Person: "ann"}, []program.Change{c.change, c.change}))
		}
	}
	err := roles.Check(p, roles.Who{Role: roles.Manager, Person: "ann"}, []program.Change{to("mine", program.Done)})
	assert.EqualError(t, err, "mine is assigned to you, and in this program somebody else accepts what you did")
	p.Settings.OthersAccept = false
	assert.NoError(t, roles.Check(p, roles.Who{Role: roles.Member, Person: "ann"}, []program.Change{to("mine", program.Done)}))
	assert.Error(t, roles.Check(p, roles.Who{Role: roles.Member, Person: "ann"}, []program.Change{to("his", program.Done)}))
}

// Who owns a task of somebody else's item says how it goes, and nothing of the others.
func TestTasksOfOnesOwn(t *testing.T) {
	p := harbour()
	hours := 4.0
	p.Items = append(p.Items, program.Item{Key: "his", Team: p.Teams[1].Key, Assignee: "bo", Tasks: []program.Task{{Title: "Wire", Owner: "ann"}, {Title: "Try", Owner: "bo", Hours: &hours}}})
	to := func(tasks ...program.Task) error {
		c := program.SetTo(program.Ref{Kind: program.KindItem, Key: "his"}, "tasks", tasks)
		return roles.Check(p, roles.Who{Role: roles.Member, Person: "ann"}, []program.Change{c})
	}
	try := program.Task{Title: "Try", Owner: "bo", Hours: &hours}
	assert.NoError(t, to(program.Task{Title: "Wire", Owner: "ann", Done: true}, try))
	assert.NoError(t, to(program.Task{Title: "Wire", Owner: "bo"}, try), "given away")
	assert.Error(t, to(program.Task{Title: "Wire", Owner: "ann"}, program.Task{Title: "Try", Owner: "bo", Done: true, Hours: &hours}))
	assert.Error(t, to(program.Task{Title: "Wire", Owner: "ann"}, program.Task{Title: "Try", Owner: "ann", Hours: &hours}), "taken")
	assert.Error(t, to(try))
	assert.Error(t, to())
}

func TestWhoIsNobodyOwnsNothing(t *testing.T) {
	p := harbour()
	p.Items = append(p.Items, program.Item{Key: "X"}) // no team, nobody's
	for _, role := range []roles.Role{roles.Lead, roles.Member, "", "owner"} {
		for _, key := range []string{"X", "A-1"} {
			c := program.Change{Op: program.Set, Ref: program.Ref{Kind: program.KindItem, Key: key}, Field: "title"}
			assert.Error(t, roles.Check(p, roles.Who{Role: role}, []program.Change{c}), role)
		}
	}
}

func TestALeadCannotGiveItemsAwayOrTakeThem(t *testing.T) {
	p := harbour()
	lead := roles.Who{Role: roles.Lead, Person: "ann"}
	give := program.Change{Op: program.Set, Ref: program.Ref{Kind: program.KindItem, Key: "A-1"}, Field: "team", Value: json.RawMessage(`"B"`)}
	take := program.Change{Op: program.Set, Ref: program.Ref{Kind: program.KindItem, Key: "B-1"}, Field: "team", Value: json.RawMessage(`"A"`)}
	later := program.Change{Op: program.Set, Ref: program.Ref{Kind: program.KindItem, Key: "B-1"}, Field: "title", Value: json.RawMessage(`"mine"`)}
	assert.ErrorContains(t, roles.Check(p, lead, []program.Change{give}), "only where it is your own")
	assert.Error(t, roles.Check(p, lead, []program.Change{take, later}), "own is judged before the changes")
}

func TestRightsAreTheTable(t *testing.T) {
	assert.Empty(t, roles.Rights(roles.Manager))
	assert.Empty(t, roles.Rights(roles.Viewer))
	for _, right := range roles.Rights(roles.Lead) {
		assert.Equal(t, roles.ReachOf(roles.Lead, right.Kind, right.Op, right.Field), right.Reach, right)
	}
}

// A lead adds an item of the own team along with what it needs; not one of another's, and
// not the needs of what is another's.
func TestALeadAddsAnItemWithItsNeeds(t *testing.T) {
	p := harbour()
	lead := roles.Who{Role: roles.Lead, Person: "ann"}
	add := func(key, team string) program.Change {
		return program.AddOf(program.Ref{Kind: program.KindItem, Key: key}, program.Item{Key: key, Title: key, Team: team})
	}
	need := func(item, on string) program.Change {
		return program.AddOf(program.Ref{Kind: program.KindNeed, In: item, Key: on}, program.Need{Item: item, Needs: on})
	}
	assert.NoError(t, roles.Check(p, lead, []program.Change{add("A-9", "A"), need("A-9", "B-1")}))
	assert.Error(t, roles.Check(p, lead, []program.Change{add("B-9", "B"), need("B-9", "A-1")}))
	assert.Error(t, roles.Check(p, lead, []program.Change{add("A-9", "A"), need("B-1", "A-9")}))
	assert.Error(t, roles.Check(p, lead, []program.Change{need("A-9", "B-1"), add("A-9", "A")}), "not before it is there")
	assert.Error(t, roles.Check(p, lead, []program.Change{add("B-1", "A"), need("B-1", "A-1")}), "what is another's stays that")
}

// Who leads the team that gives agrees or declines; who leads the one that waits asks, and asks again.
func TestWhoAgreesToANeed(t *testing.T) {
	p := harbour()
	agreement := func(item, needs, value string) program.Change {
		return program.SetTo(program.Ref{Kind: program.KindNeed, In: item, Key: needs}, "agreement", value)
	}
	add := func(item, needs string, said program.Agreement) program.Change {
		return program.AddOf(program.Ref{Kind: program.KindNeed, In: item, Key: needs}, program.Need{Item: item, Needs: needs, Agreement: said})
	}
	p.Items = append(p.Items, program.Item{Key: "A-2", Team: "A"})
	p.Needs = append(p.Needs, program.Need{Item: "A-2", Needs: "B-1", Agreement: program.Offered, Given: p.Today.Add(9)})
	set := func(item, needs, field string) program.Change {
		return program.SetTo(program.Ref{Kind: program.KindNeed, In: item, Key: needs}, field, p.Today.Add(9))
	}
	for _, c := range []struct {
		change program.Change
		may    bool
		why    string
	}{
		{agreement("B-1", "A-1", "agreed"), true, "her team gives it"},
		{agreement("B-1", "A-1", "declined"), true, "her team gives it"},
		{agreement("A-1", "B-1", "agreed"), false, "her team waits for it"},
		{agreement("A-1", "B-1", "declined"), false, "her team waits for it"},
		{agreement("A-1", "B-1", "asked"), true, "asking again"},
		{agreement("A-2", "B-1", "agreed"), true, "accepting what was offered"},
		{agreement("A-2", "B-1", "declined"), false, "her team waits for it"},
		{agreement("A-2", "B-1", "offered"), false, "offering is the other team's"},
		{agreement("B-1", "A-1", "offered"), true, "her team gives it"},
		{set("B-1", "A-1", "given"), true, "her team names the day"},
		{set("B-1", "A-1", "wanted"), false, "the other team asks"},
		{set("A-2", "B-1", "given"), false, "the other team names the day"},
		{set("A-2", "B-1", "wanted"), true, "her team asks"},
		{agreement("A-1", "A-2", "agreed"), true, "within her team"},
		{add("A-2", "B-1", program.Asked), true, "asking"},
		{add("A-2", "B-1", ""), true, "asking"},
		{add("A-2", "B-1", program.Agreed), false, "agreed to by who asks"},
		{add("A-2", "A-1", program.Agreed), true, "within her team"},
		{add("B-1", "A-2", program.Agreed), false, "another team's item needs it"},
	} {
		err := roles.Check(p, roles.Who{Role: roles.Lead, Person: "ann"}, []program.Change{c.change})
		assert.Equal(t, c.may, err == nil, "%s: %v", c.why, err)
		assert.NoError(t, roles.Check(p, roles.Who{Role: roles.Manager}, []program.Change{c.change}))
	}
}

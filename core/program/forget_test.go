package program_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/program"
	"jantrel/core/sample"
)

// Whatever is removed from whatever program: nothing refers to it any more, and
// taking it back gives the program from before.
func TestForgettingLeavesNothingHanging(t *testing.T) {
	for seed := range uint64(10) {
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 5, Items: 25, Needs: 20, Wild: true, Rough: true, Cycles: true})
		p.Repeats[0].Parent = "F0"
		refs := []program.Ref{{Kind: program.KindCadence, Key: "two"}}
		for _, x := range p.Teams {
			refs = append(refs, program.Ref{Kind: program.KindTeam, Key: x.Key})
		}
		for _, x := range p.People {
			refs = append(refs, program.Ref{Kind: program.KindPerson, Key: x.Key})
		}
		for _, x := range p.Releases {
			refs = append(refs, program.Ref{Kind: program.KindRelease, Key: x.Key})
		}
		for _, x := range p.Items {
			refs = append(refs, program.Ref{Kind: program.KindItem, Key: x.Key})
		}
		for _, ref := range refs {
			next, applied, err := program.ApplyAll(p, program.Forget(p, ref))
			require.NoError(t, err, "%s %s, seed %d", ref.Kind, ref.Key, seed)
			back, _, err := program.ApplyAll(next, program.Inverses(applied))
			require.NoError(t, err)
			require.Equal(t, p, back, "%s %s", ref.Kind, ref.Key)
		}
	}
}

func TestWhatAGroupHeldGoesUp(t *testing.T) {
	p := program.Program{Items: []program.Item{
		{Key: "I", Kind: program.Initiative}, {Key: "F", Kind: program.Feature, Parent: "I"}, {Key: "G", Kind: program.Feature, Parent: "F"}, {Key: "a", Kind: program.Story, Parent: "G"},
	}}.Normal()
	next, _, err := program.ApplyAll(p, program.ForgetItems(p, []string{"F", "G"}))
	require.NoError(t, err)
	assert.Equal(t, "I", next.Items[1].Parent, "past all that go")
	next, _, err = program.ApplyAll(p, program.ForgetItems(p, []string{"I"}))
	require.NoError(t, err)
	assert.Empty(t, next.Items[0].Parent)
}

func TestATeamLeavesPatternsAndRepeats(t *testing.T) {
	p := program.Program{
		Teams:    []program.Team{{Key: "A", Unit: program.Points}, {Key: "B", Unit: program.Points}},
		Patterns: []program.Pattern{{Key: "p", Name: "P", Parts: []program.PatternPart{{Title: "x", Kind: program.Story, Team: "A"}, {Title: "y", Kind: program.Story, Team: "B"}}}},
		Repeats: []program.Repeat{{Key: "both", Title: "x", Kind: program.Story, Teams: []string{"A", "B"}}, {Key: "one", Title: "y", Kind: program.Story, Teams: []string{"A"}},
			{Key: "all", Title: "z", Kind: program.Story}},
	}.Normal()
	next, _, err := program.ApplyAll(p, program.Forget(p, program.Ref{Kind: program.KindTeam, Key: "A"}))
	require.NoError(t, err)
	assert.Equal(t, []string{"", "B"}, []string{next.Patterns[0].Parts[0].Team, next.Patterns[0].Parts[1].Team})
	require.Len(t, next.Repeats, 2, "what was for it alone goes; what is for all stays")
	assert.Equal(t, []string{"B"}, next.Repeats[0].Teams)
	assert.Equal(t, "all", next.Repeats[1].Key)
}

func TestWhatTheBacklogMayNotHold(t *testing.T) {
	half, below := 0.6, -1.0
	for want, spoil := range map[string]func(*program.Program){
		"settings.ready.largest": func(p *program.Program) {
			p.Settings.Ready = &program.ReadyRule{Largest: map[program.Unit]float64{"stones": 3}}
		},
		"settings.ready.largest.points": func(p *program.Program) {
			p.Settings.Ready = &program.ReadyRule{Largest: map[program.Unit]float64{"points": 0}}
		},
		"settings.mix: \"feature\"": func(p *program.Program) { p.Settings.Mix = map[program.ItemKind]float64{program.Feature: 0.5} },
		"settings.mix.story":        func(p *program.Program) { p.Settings.Mix = map[program.ItemKind]float64{program.Story: below} },
		"120 %": func(p *program.Program) {
			p.Settings.Mix = map[program.ItemKind]float64{program.Story: half, program.Defect: half}
		},
		"items[0].tasks[0].title: is empty":  func(p *program.Program) { p.Items[0].Tasks = []program.Task{{}} },
		"items[0].tasks[0].hoursLeft":        func(p *program.Program) { p.Items[0].Tasks = []program.Task{{Title: "x", HoursLeft: &below}} },
		"items[0].checks[0].text: is empty":  func(p *program.Program) { p.Items[0].Checks = []program.Check{{}} },
		"items[0].links[0].address":          func(p *program.Program) { p.Items[0].Links = []program.Link{{Address: "javascript:alert(1)"}} },
		"items[0].tags[0]: is empty":         func(p *program.Program) { p.Items[0].Tags = []string{""} },
		"comments[0].item: no item \"none\"": func(p *program.Program) { p.Comments = []program.Comment{{Key: "c", Item: "none", Text: "?"}} },
		"comments[1].key: \"c\" stands twice": func(p *program.Program) {
			p.Comments = []program.Comment{{Key: "c", Item: "A", Text: "?"}, {Key: "c", Item: "A", Text: "!"}}
		},
		"patterns[0].parts[0].needs": func(p *program.Program) {
			p.Patterns = []program.Pattern{{Key: "p", Parts: []program.PatternPart{{Title: "x", Kind: program.Story, Needs: []int{0}}}}}
		},
		"patterns[0].parts[0].team": func(p *program.Program) {
			p.Patterns = []program.Pattern{{Key: "p", Parts: []program.PatternPart{{Title: "x", Kind: program.Story, Team: "none"}}}}
		},
		"repeats[0].kind": func(p *program.Program) { p.Repeats = []program.Repeat{{Key: "r", Title: "x", Kind: program.Feature}} },
		"repeats[0].parent": func(p *program.Program) {
			p.Repeats = []program.Repeat{{Key: "r", Title: "x", Kind: program.Story, Parent: "none"}}
		},
		"views[0].name: is empty": func(p *program.Program) { p.Views = []program.View{{Key: "v"}} },
		"views[0].columns[0].width": func(p *program.Program) {
			p.Views = []program.View{{Key: "v", Name: "V", Columns: []program.Column{{Field: "key", Width: 9999}}}}
		},
	} {
		p := program.Program{Items: []program.Item{{Key: "A", Kind: program.Story}}}.Normal()
		require.Empty(t, program.Validate(p))
		spoil(&p)
		assert.ErrorContains(t, program.Validate(p), want)
	}
}

func TestWhatAViewUses(t *testing.T) {
	v := program.View{Sort: "size", Group: "team", Columns: []program.Column{{Field: "key"}}, Filter: program.Filter{Conditions: []program.Condition{{Field: "due", Is: "filled"}}}}
	for _, field := range []string{"size", "team", "key", "due"} {
		assert.True(t, v.Uses(field), field)
	}
	assert.False(t, v.Uses("changed"))
}

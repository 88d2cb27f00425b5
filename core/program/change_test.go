package program_test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/program"
	"jantrel/core/sample"
)

// asJSON is what a program is compared by: absent and empty lists are the same.
func asJSON(t testing.TB, value any) string {
	t.Helper()
	text, err := json.Marshal(value)
	require.NoError(t, err)
	return string(text)
}

var wild = sample.Shape{Teams: 4, Iterations: 6, Items: 40, Needs: 25, Cycles: true, Wild: true, Rough: true}

func TestSamplesAreValid(t *testing.T) {
	for seed := range uint64(50) {
		require.Empty(t, program.Validate(sample.Program(seed, wild)))
	}
}

// randomChange makes a change of any kind; many are refused, which is as it should be.
func randomChange(r *rand.Rand, p program.Program) program.Change {
	item, team := p.Items[r.IntN(len(p.Items))], p.Teams[r.IntN(len(p.Teams))]
	for len(team.Iterations) == 0 { // one that an earlier change added
		team = p.Teams[r.IntN(len(p.Teams))]
	}
	iteration := team.Iterations[r.IntN(len(team.Iterations))]
	at := r.IntN(len(p.Items) + 2)
	raw := func(format string, args ...any) json.RawMessage { return json.RawMessage(fmt.Sprintf(format, args...)) }
	set := func(kind program.Kind, in, key, field string, value json.RawMessage) program.Change {
		return program.Change{Op: program.Set, Ref: program.Ref{Kind: kind, In: in, Key: key}, Field: field, Value: value}
	}
	fresh := fmt.Sprintf("N%d", r.IntN(1000))
	add := func(kind program.Kind, in, key string, value json.RawMessage) program.Change {
		return program.Change{Op: program.Add, Ref: program.Ref{Kind: kind, In: in, Key: key}, Value: value, At: &at}
	}
	remove := func(kind program.Kind, in, key string) program.Change {
		return program.Change{Op: program.Remove, Ref: program.Ref{Kind: kind, In: in, Key: key}}
	}
	switch r.IntN(20) {
	case 0:
		return set(program.KindItem, "", item.Key, "size", raw("%d", r.IntN(9)))
	case 1:
		return set(program.KindItem, "", item.Key, "size", raw("null"))
	case 2:
		return set(program.KindItem, "", item.Key, "iteration", raw("%q", iteration.Key))
	case 3:
		return set(program.KindItem, "", item.Key, "tags", raw(`["a","b"]`))
	case 4:
		return set(program.KindItem, "", item.Key, "due", raw(`"2027-05-0%d"`, 1+r.IntN(9)))
	case 5:
		return program.Change{Op: program.Move, Ref: program.Ref{Kind: program.KindItem, Key: item.Key}, At: &at}
	case 6:
		return add(program.KindItem, "", fresh, raw(`{"key":%q,"title":"New","kind":"story","team":%q}`, fresh, team.Key))
	case 7:
		return remove(program.KindItem, "", item.Key)
	case 8:
		return set(program.KindIteration, team.Key, iteration.Key, "capacity", raw("%d", r.IntN(30)))
	case 9:
		return remove(program.KindIteration, team.Key, iteration.Key)
	case 10:
		return add(program.KindIteration, team.Key, fresh, raw(`{"key":%q,"start":"2028-01-03","end":"2028-01-16"}`, fresh))
	case 11:
		other := p.Items[r.IntN(len(p.Items))].Key
		return add(program.KindNeed, item.Key, other, raw(`{"item":%q,"needs":%q,"lagDays":3}`, item.Key, other))
	case 12:
		if len(p.Needs) > 0 {
			n := p.Needs[r.IntN(len(p.Needs))]
			return remove(program.KindNeed, n.Item, n.Needs)
		}
		fallthrough
	case 13:
		return set(program.KindTeam, "", team.Key, "members", raw(`[{"person":"p0","share":0.25}]`))
	case 14:
		return set(program.KindProgram, "", "", "holidays", raw(`[{"date":"2027-05-03","name":"New"}]`))
	case 15:
		return set(program.KindProgram, "", "", "fillTo", raw("0.%d", 1+r.IntN(8)))
	case 16:
		return add(program.KindPerson, "", fresh, raw(`{"key":%q,"name":"Somebody"}`, fresh))
	case 17:
		return set(program.KindRelease, "", "R0", "phases", raw(`[]`))
	case 18:
		return set(program.KindMilestone, "", "M0", "date", raw(`"2027-07-01"`))
	default:
		return add(program.KindTeam, "", fresh, raw(`{"key":%q,"name":"New","unit":"hours"}`, fresh))
	}
}

func TestApplyThenInverseGivesTheSameProgram(t *testing.T) {
	for seed := range uint64(25) {
		p := sample.Program(seed, wild)
		r := rand.New(rand.NewPCG(seed, 1))
		applied := 0
		for range 60 {
			c := randomChange(r, p)
			before := asJSON(t, p)
			next, inverse, err := program.Apply(p, c)
			require.Equal(t, before, asJSON(t, p), "Apply altered what it was given: %s", c.Describe())
			if err != nil {
				continue
			}
			applied++
			back, again, err := program.Apply(next, inverse)
			require.NoError(t, err, c.Describe())
			require.Equal(t, before, asJSON(t, back), c.Describe())
			redone, _, err := program.Apply(back, again)
			require.NoError(t, err)
			require.Equal(t, asJSON(t, next), asJSON(t, redone), c.Describe())
			p = next
		}
		require.Greater(t, applied, 15)
	}
}

func TestApplyAllIsWholeOrNothing(t *testing.T) {
	p := sample.Program(3, wild)
	size := program.Change{Op: program.Set, Ref: program.Ref{Kind: program.KindItem, Key: "I1"}, Field: "title", Value: json.RawMessage(`"Renamed"`)}
	bad := program.Change{Op: program.Set, Ref: program.Ref{Kind: program.KindItem, Key: "I2"}, Field: "release", Value: json.RawMessage(`"none such"`)}
	next, applied, err := program.ApplyAll(p, []program.Change{size, bad})
	var problems program.Problems
	require.ErrorAs(t, err, &problems)
	assert.Equal(t, `no release "none such"`, problems[0].Text)
	assert.Nil(t, applied)
	assert.Equal(t, asJSON(t, p), asJSON(t, next))
}

// A list may pass through a state that breaks a rule, as long as it ends well.
func TestRulesAreCheckedAfterTheLast(t *testing.T) {
	p := sample.Program(3, sample.Shape{Teams: 2, Iterations: 3, Items: 4})
	var both []program.Change
	for _, c := range []struct{ field, value string }{{"iteration", `"T1-4"`}, {"team", `"T1"`}} {
		both = append(both, program.Change{Op: program.Set, Ref: program.Ref{Kind: program.KindItem, Key: "I0"}, Field: c.field, Value: json.RawMessage(c.value)})
	}
	next, applied, err := program.ApplyAll(p, both)
	require.NoError(t, err)
	assert.Equal(t, "T1", next.Items[1].Team)
	back, _, err := program.ApplyAll(next, program.Inverses(applied))
	require.NoError(t, err)
	assert.Equal(t, asJSON(t, p), asJSON(t, back))
}

func TestApplyRefusesWhatDoesNotFit(t *testing.T) {
	p := sample.Program(1, wild)
	item := program.Ref{Kind: program.KindItem, Key: "I1"}
	child := p.Items[slices.IndexFunc(p.Items, func(x program.Item) bool { return x.Parent == "F0" })].Key
	for name, c := range map[string]program.Change{
		"a field that there is not": {Op: program.Set, Ref: item, Field: "colour", Value: json.RawMessage(`"red"`)},
		"the key":                   {Op: program.Set, Ref: item, Field: "key", Value: json.RawMessage(`"I2"`)},
		"a text for a number":       {Op: program.Set, Ref: item, Field: "size", Value: json.RawMessage(`"big"`)},
		"a size below zero":         {Op: program.Set, Ref: item, Field: "size", Value: json.RawMessage(`-1`)},
		"an item there is not":      {Op: program.Set, Ref: program.Ref{Kind: program.KindItem, Key: "X"}, Field: "size", Value: json.RawMessage(`1`)},
		"one that is there already": {Op: program.Add, Ref: item, Value: json.RawMessage(`{"key":"I1","title":"","kind":"story"}`)},
		"another key in the value":  {Op: program.Add, Ref: program.Ref{Kind: program.KindItem, Key: "X"}, Value: json.RawMessage(`{"key":"Y","title":"","kind":"story"}`)},
		"an unknown field":          {Op: program.Add, Ref: program.Ref{Kind: program.KindItem, Key: "X"}, Value: json.RawMessage(`{"key":"X","title":"","kind":"story","colour":1}`)},
		"an unknown kind":           {Op: program.Set, Ref: program.Ref{Kind: "thing"}},
		"an unknown operation":      {Op: "turn", Ref: item},
		"removing the program":      {Op: program.Remove, Ref: program.Ref{Kind: program.KindProgram}},
		"a parent that is a child":  {Op: program.Set, Ref: program.Ref{Kind: program.KindItem, Key: "F0"}, Field: "parent", Value: json.RawMessage(`"` + child + `"`)},
	} {
		_, _, err := program.Apply(p, c)
		assert.Error(t, err, name)
	}
}

func TestValidateNamesThePlace(t *testing.T) {
	p := sample.Program(1, sample.Shape{Teams: 1, Iterations: 2, Items: 3})
	p.Items[2].Team = "LX"
	p.Items[3].Key = p.Items[1].Key
	p.Teams[0].Iterations[1].End = p.Teams[0].Iterations[1].Start.Add(-1)
	p.Settings.FillTo = 1.5
	text := program.Validate(p).Error()
	for _, line := range []string{
		`items[2].team: no team "LX"`,
		`items[3].key: "I0" stands twice`,
		`teams[0].iterations[1].end: `,
		`settings.fillTo: 1.5 is not above 0 and at most 1`,
	} {
		assert.Contains(t, text, line)
	}
}

func TestTree(t *testing.T) {
	p := program.Program{Items: []program.Item{
		{Key: "A", Release: "R"}, {Key: "B", Parent: "A"}, {Key: "C", Parent: "B"}, {Key: "D", Parent: "B", Release: "S"}, {Key: "E", KeptOut: true},
	}}
	tree := program.TreeOf(p)
	assert.Equal(t, []int{2, 3}, tree.Leaves(0))
	assert.Equal(t, "R", tree.Release(2))
	assert.Equal(t, "S", tree.Release(3))
	assert.False(t, tree.ToSchedule(1))
	assert.False(t, tree.ToSchedule(4))
}

func BenchmarkApply5000(b *testing.B) {
	p := sample.Program(1, sample.Shape{Teams: 40, Iterations: 26, Items: 5000, Needs: 6000})
	c := program.Change{Op: program.Set, Ref: program.Ref{Kind: program.KindItem, Key: "I2500"}, Field: "size", Value: json.RawMessage(`3`)}
	for b.Loop() {
		if _, _, err := program.Apply(p, c); err != nil {
			b.Fatal(err)
		}
	}
}

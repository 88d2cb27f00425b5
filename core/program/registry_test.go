package program_test

import (
	"encoding/json"
	"math/rand/v2"
	"reflect"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/program"
	"jantrel/core/sample"
)

// A field that the model has and the registry has not could not be set, stored words
// of or shown: this test is what a new field meets first.
func TestEveryFieldOfTheModelHasARow(t *testing.T) {
	// Lists of things with changes of their own, and what is reached through another field.
	elsewhere := map[program.Kind][]string{program.KindTeam: {"iterations"}, program.KindProgram: {"settings"}}
	for _, info := range program.Kinds {
		if info.List != "" {
			elsewhere[program.KindProgram] = append(elsewhere[program.KindProgram], info.List)
		}
	}
	for _, info := range program.Kinds {
		assert.NotEmpty(t, info.Title, info.Kind)
		var have []string
		for _, f := range info.Fields {
			have = append(have, f.Name)
			titled(t, string(info.Kind), f)
		}
		for _, name := range namesOf(program.Model(info.Kind).(reflect.Type)) {
			if !slices.Contains(elsewhere[info.Kind], name) {
				assert.Contains(t, have, name, "the registry has no row for %s of %s", name, info.Kind)
			}
		}
	}
	for _, name := range namesOf(reflect.TypeFor[program.Settings]()) {
		_, ok := program.FieldOf(program.KindProgram, name)
		assert.True(t, ok, "the registry has no row for the setting %s", name)
	}
}

func titled(t *testing.T, where string, f program.Field) {
	assert.NotEmpty(t, f.Title, "%s: %s has no name in words", where, f.Name)
	assert.NotEmpty(t, f.Sort, "%s: %s", where, f.Name)
	for _, part := range f.Parts {
		titled(t, where+"."+f.Name, part)
	}
}

func namesOf(model reflect.Type) []string {
	var names []string
	for i := range model.NumField() {
		name, _, _ := strings.Cut(model.Field(i).Tag.Get("json"), ",")
		names = append(names, name)
	}
	return names
}

// What is looked at after a few changes finds what looking at everything finds.
func TestCheckingWhatWasTouchedIsCheckingEverything(t *testing.T) {
	bad := 0
	for seed := range uint64(30) {
		p := sample.Program(seed, wild)
		r := rand.New(rand.NewPCG(seed, 9))
		for range 60 {
			c := randomChange(r, p)
			if r.IntN(3) == 0 { // one that names what there is not, or something else
				c = spoilt(r, p)
			}
			if c.Op == program.Remove {
				continue
			}
			next, applied, err := program.RunUnchecked(p, []program.Change{c})
			if err != nil {
				continue
			}
			all := program.Validate(next)
			require.ElementsMatch(t, all, program.ValidateAfter(next, applied), c.Describe())
			if len(all) == 0 {
				p = next
			} else {
				bad++
			}
		}
	}
	assert.Greater(t, bad, 100)
}

func spoilt(r *rand.Rand, p program.Program) program.Change {
	item := program.Ref{Kind: program.KindItem, Key: p.Items[r.IntN(len(p.Items))].Key}
	other := p.Items[r.IntN(len(p.Items))].Key
	return []program.Change{
		program.SetTo(item, "parent", other),
		program.SetTo(item, "team", "T1"),
		program.SetTo(item, "team", "none"),
		program.SetTo(item, "iteration", "T0-4"),
		program.SetTo(item, "kind", "stone"),
		program.SetTo(item, "tasks", []program.Task{{}}),
		program.SetTo(program.Ref{Kind: program.KindTeam, Key: "T0"}, "members", []program.Member{{Person: "nobody", Share: 2}}),
		program.SetTo(program.Ref{Kind: program.KindTeam, Key: "T0"}, "cadence", "none"),
		program.SetTo(program.Ref{Kind: program.KindMilestone, Key: "M0"}, "needs", []string{other, "none"}),
		program.SetTo(program.Ref{Kind: program.KindProgram}, "sameIteration", "sometimes"),
		program.SetTo(program.Ref{Kind: program.KindProgram}, "repeats", []program.Repeat{{Key: "r", Title: "x", Kind: program.Story, Teams: []string{"none"}, Parent: "none"}}),
		program.SetTo(program.Ref{Kind: program.KindRelease, Key: "R0"}, "documents", []program.Document{{Kind: "memo", Item: "none"}}),
		program.AddOf(program.Ref{Kind: program.KindItem, Key: "new"}, program.Item{Key: "new", Kind: program.Story, Parent: other, Release: "none"}),
		program.AddOf(program.Ref{Kind: program.KindNeed, In: item.Key, Key: "none"}, program.Need{Item: item.Key, Needs: "none", LagDays: -1}),
	}[r.IntN(14)]
}

// Stored thing by thing and put together again, a program is the same.
func TestThingsMakeTheProgramAgain(t *testing.T) {
	for seed := range uint64(20) {
		p := sample.Program(seed, wild)
		things, err := p.Things(func(program.Ref) bool { return true })
		require.NoError(t, err)
		again, err := program.FromThings(things)
		require.NoError(t, err)
		require.Equal(t, asJSON(t, p), asJSON(t, again))
	}
	_, err := program.FromThings([]program.Thing{{Ref: program.Ref{Kind: program.KindItem, Key: "A"}, Body: json.RawMessage(`{"key":"A","colour":1}`)}})
	assert.ErrorContains(t, err, "colour", "what is not of the model is never dropped silently")
	_, err = program.FromThings([]program.Thing{{Ref: program.Ref{Kind: program.KindIteration, In: "none", Key: "A"}, Body: json.RawMessage(`{}`)}})
	assert.ErrorContains(t, err, "none")
}

// A reference says exactly what its kind needs: more or less would be stored where
// nothing finds it again.
func TestAReferenceIsExact(t *testing.T) {
	p := sample.Program(1, sample.Shape{Teams: 2, Iterations: 3, Items: 6})
	title := json.RawMessage(`"x"`)
	for _, c := range []program.Change{
		{Op: program.Set, Ref: program.Ref{Kind: program.KindItem, In: "junk", Key: "I1"}, Field: "title", Value: title},
		{Op: program.Set, Ref: program.Ref{Kind: program.KindProgram, Key: "junk"}, Field: "name", Value: title},
		{Op: program.Set, Ref: program.Ref{Kind: program.KindProgram, In: "junk"}, Field: "name", Value: title},
		{Op: program.Set, Ref: program.Ref{Kind: program.KindTeam, In: "T1", Key: "T0"}, Field: "name", Value: title},
		{Op: program.Set, Ref: program.Ref{Kind: program.KindIteration, Key: "T0-4"}, Field: "name", Value: title},
		{Op: program.Add, Ref: program.Ref{Kind: program.KindComment, Key: "c"}, Value: json.RawMessage(`{"key":"c","text":"x"}`)},
	} {
		_, _, err := program.Apply(p, c)
		assert.Error(t, err, "%+v", c.Ref)
	}
}

func TestWhatMeansTheSame(t *testing.T) {
	for _, same := range [][3]string{{"title", "null", `""`}, {"title", ``, `""`}, {"tags", "[]", "null"}, {"size", "5", "5.0"}, {"pinned", "false", "null"}, {"due", `""`, "null"}} {
		assert.True(t, program.SameValue(program.KindItem, same[0], json.RawMessage(same[1]), json.RawMessage(same[2])), same)
	}
	assert.False(t, program.SameValue(program.KindItem, "size", json.RawMessage("0"), json.RawMessage("null")), "a size of 0 is one")
	assert.False(t, program.SameValue(program.KindItem, "none", json.RawMessage("0"), json.RawMessage("1")))
}

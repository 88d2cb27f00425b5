package gate_test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/cadence"
	"jantrel/core/gate"
	"jantrel/core/needs"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
)

func item(key string) program.Ref { return program.Ref{Kind: program.KindItem, Key: key} }

func need(item, needs string) program.Change {
	return program.AddOf(program.Ref{Kind: program.KindNeed, In: item, Key: needs}, program.Need{Item: item, Needs: needs})
}

func remove(ref program.Ref) program.Change { return program.Change{Op: program.Remove, Ref: ref} }

// pier has three items, of which the second needs the third; G groups nothing yet.
func pier() program.Program {
	return program.Program{
		Teams: []program.Team{{Key: "T", Unit: program.Points, Iterations: []program.Iteration{
			{Key: "1", Start: sample.Today, End: sample.Today + 13}, {Key: "2", Start: sample.Today + 14, End: sample.Today + 27}}}},
		Items: []program.Item{{Key: "G", Kind: program.Feature}, {Key: "A", Kind: program.Story}, {Key: "B", Kind: program.Story}, {Key: "C", Kind: program.Story, KeptOut: true}},
		Needs: []program.Need{{Item: "A", Needs: "B"}},
	}.Normal()
}

func TestNoCycleIsClosedInWhicheverWay(t *testing.T) {
	p := pier()
	var cycle *needs.CycleError
	_, _, err := gate.Try(plan.Of(p), []program.Change{need("B", "A")})
	require.ErrorAs(t, err, &cycle)

	// A group's needs hold for what comes under it.
	group, _, err := gate.Try(plan.Of(p), []program.Change{need("G", "A")})
	require.NoError(t, err)
	_, _, err = gate.Try(group, []program.Change{program.SetTo(item("B"), "parent", "G")})
	require.ErrorAs(t, err, &cycle)
	assert.Equal(t, []string{"B", "A", "B"}, cycle.Keys)

	// What is kept out is out of the way of needs; coming back it is in the way again.
	out, _, err := gate.Try(plan.Of(p), []program.Change{need("B", "C"), need("C", "A")})
	require.NoError(t, err)
	_, _, err = gate.Try(out, []program.Change{program.SetTo(item("C"), "keptOut", false)})
	require.ErrorAs(t, err, &cycle)
}

func TestACycleThatCameWithAProgramCanBeEdited(t *testing.T) {
	p := pier()
	p.Needs = append(p.Needs, program.Need{Item: "B", Needs: "A"})
	next, applied, err := gate.Try(plan.Of(p), program.Forget(p, item("B")))
	require.NoError(t, err)
	_, _, err = gate.Try(next, program.Inverses(applied))
	var cycle *needs.CycleError
	require.ErrorAs(t, err, &cycle, "it would be a new one")
	back, _, err := gate.Try(next, program.Inverses(applied), plan.Of(p))
	require.NoError(t, err, "but it leads back to what there was")
	assert.Equal(t, p, back.Program)
}

func TestNoTeamLosesOrDoublesDays(t *testing.T) {
	p := pier()
	end := program.SetTo(program.Ref{Kind: program.KindIteration, In: "T", Key: "1"}, "end", sample.Today+15)
	var breaks *cadence.BreakError
	_, _, err := gate.Try(plan.Of(p), []program.Change{end})
	require.ErrorAs(t, err, &breaks)
	p.Teams[0].Iterations[1].Start += 3 // a gap that came with the program
	next, applied, err := gate.Try(plan.Of(p), []program.Change{program.SetTo(program.Ref{Kind: program.KindIteration, In: "T", Key: "2"}, "start", sample.Today+14)})
	require.NoError(t, err, "mending it is fine")
	_, _, err = gate.Try(next, program.Inverses(applied))
	require.ErrorAs(t, err, &breaks)
	_, _, err = gate.Try(next, program.Inverses(applied), plan.Of(p))
	assert.NoError(t, err, "taking the mending back leads to what there was")
}

func TestWhatIsRefusedLeavesTheProgramAsItWas(t *testing.T) {
	p := pier()
	next, applied, err := gate.Try(plan.Of(p), []program.Change{program.SetTo(item("A"), "title", "New"), need("B", "A")})
	assert.Error(t, err)
	assert.Nil(t, applied)
	assert.Equal(t, pier(), next.Program)
	_, _, err = gate.Try(plan.Of(p), []program.Change{program.SetTo(item("A"), "team", "none")})
	var problems program.Problems
	assert.ErrorAs(t, err, &problems)
}

// edit is a random list of changes that a program takes.
func edit(r *rand.Rand, p program.Program, who string) ([]program.Change, program.Program, []program.Applied) {
	for {
		var changes []program.Change
		for range 1 + r.IntN(4) {
			x := p.Items[r.IntN(len(p.Items))]
			y := p.Items[r.IntN(len(p.Items))]
			fresh := fmt.Sprintf("N%d", r.IntN(4))
			it := p.Teams[0].Iterations[r.IntN(len(p.Teams[0].Iterations))]
			changes = append(changes, [][]program.Change{
				{program.SetTo(item(x.Key), "title", fmt.Sprint("title ", r.IntN(3)))},
				{program.SetTo(item(x.Key), "title", x.Title)},
				{program.SetTo(item(x.Key), "size", r.IntN(3))},
				{{Op: program.Set, Ref: item(x.Key), Field: "size", Value: json.RawMessage("null")}},
				{program.SetTo(item(x.Key), "tags", []string{"x", "y"}[:r.IntN(3)])},
				{remove(item(x.Key))},
				program.Forget(p, item(x.Key)),
				{program.AddOf(item(fresh), program.Item{Key: fresh, Title: []string{who, "same"}[r.IntN(2)], Kind: program.Story})},
				{need(x.Key, y.Key)},
				{program.SetTo(program.Ref{Kind: program.KindIteration, In: p.Teams[0].Key, Key: it.Key}, "capacity", 10+r.IntN(3))},
				{program.SetTo(program.Ref{Kind: program.KindProgram}, "name", fmt.Sprint("name ", r.IntN(2)))},
			}[r.IntN(11)]...)
		}
		if next, applied, err := gate.Try(plan.Of(p), changes); err == nil {
			return changes, next.Program, applied
		}
	}
}

// state is what a program holds, as things by name and their fields by name.
type state map[program.Ref]map[string]any

func stateOf(t *testing.T, p program.Program) state {
	things, err := p.Things(func(program.Ref) bool { return true })
	require.NoError(t, err)
	s := state{}
	for _, thing := range things {
		var fields map[string]any
		require.NoError(t, json.Unmarshal(thing.Body, &fields))
		if settings, ok := fields["settings"].(map[string]any); ok {
			for name, value := range settings {
				fields[name] = value
			}
			delete(fields, "settings")
		}
		s[thing.Ref] = fields
	}
	return s
}

func same(a, b any) bool { return assert.ObjectsAreEqual(a, b) }

// oracle says whether two edits of one base go together, from nothing but the three
// programs and, for fields that were set to what they had, the changes that say so.
func oracle(base, theirs, mine state, changes []program.Change) bool {
	owns := func(owner program.Ref, ref program.Ref) bool {
		info, _ := program.InfoOf(ref.Kind)
		return info.In == owner.Kind && ref.In == owner.Key && info.In != ""
	}
	said := map[string]bool{}
	for _, c := range changes {
		said[fmt.Sprint(c.Ref, c.Field)] = c.Op == program.Set
	}
	for ref := range union(base, theirs, mine) {
		b, inBase := base[ref]
		x, inTheirs := theirs[ref]
		y, inMine := mine[ref]
		switch {
		case !inBase && inTheirs && inMine && !same(x, y): // both added
			return false
		case inBase && !inTheirs && inMine: // they removed: mine may not have touched it, nor put anything in
			if !same(b, y) || touches(changes, ref) {
				return false
			}
			for other := range mine {
				if owns(ref, other) && !same(base[other], mine[other]) {
					return false
				}
			}
		case inBase && inTheirs && !inMine: // mine removes: they may not have touched it
			if !same(b, x) {
				return false
			}
			for other := range theirs {
				if owns(ref, other) && !same(base[other], theirs[other]) {
					return false
				}
			}
		case !inBase && !inTheirs && inMine: // mine adds into what they removed
			for owner := range base {
				if _, there := theirs[owner]; owns(owner, ref) && !there {
					return false
				}
			}
		case inBase && inTheirs && inMine:
			for name := range union(b, x, y) {
				mineSays := !same(b[name], y[name]) || said[fmt.Sprint(ref, name)]
				if mineSays && !same(b[name], x[name]) && !same(x[name], y[name]) {
					return false
				}
			}
		}
	}
	return true
}

func touches(changes []program.Change, ref program.Ref) bool {
	for _, c := range changes {
		if c.Ref == ref {
			return true
		}
	}
	return false
}

func union[K comparable, V any](maps ...map[K]V) map[K]bool {
	all := map[K]bool{}
	for _, m := range maps {
		for k := range m {
			all[k] = true
		}
	}
	return all
}

// Whatever two people do to one program: the conflicts found from their lists of changes
// are those that a comparison of the programs themselves finds; and where there is none,
// mine applied after theirs does both, or is refused by a rule.
func TestConflictsAreThoseThatTheProgramsShow(t *testing.T) {
	agreed, refused, both := 0, 0, 0
	for seed := range sample.Seeds(1500) {
		r := rand.New(rand.NewPCG(seed, 5))
		base := sample.Program(seed%7, sample.Shape{Teams: 1, Iterations: 2, Items: 4, Needs: 2, Wild: seed%2 == 0})
		_, theirs, applied := edit(r, base, "theirs")
		changes, mine, _ := edit(r, base, "mine")
		conflicts := gate.Conflicts([]gate.Edit{{By: "Ann", Changes: applied}}, changes)
		want := oracle(stateOf(t, base), stateOf(t, theirs), stateOf(t, mine), changes)
		if !assert.Equal(t, want, len(conflicts) == 0, "seed %d\ntheirs %v\nmine %v\nfound %v", seed, describe(applied), describe(nil, changes...), conflicts) {
			return
		}
		if !want {
			refused++
			for i := range conflicts {
				assert.Contains(t, conflicts[i].Error(), "Ann")
			}
			continue
		}
		agreed++
		merged, _, err := gate.Try(plan.Of(theirs), gate.Rebase(base, theirs, changes))
		if err != nil { // two edits that go together can break a rule together
			continue
		}
		both++
		b, x, y, m := stateOf(t, base), stateOf(t, theirs), stateOf(t, mine), stateOf(t, merged.Program)
		for ref := range union(b, x, y, m) {
			for name := range union(b[ref], x[ref], y[ref], m[ref]) {
				want := y[ref][name]
				if same(b[ref][name], y[ref][name]) {
					want = x[ref][name]
				}
				require.True(t, same(want, m[ref][name]), "seed %d: %s of %s is %v, not %v", seed, name, ref.Describe(), m[ref][name], want)
			}
		}
	}
	assert.Greater(t, agreed, 250)
	assert.Greater(t, refused, int(sample.Seeds(150)))
	assert.Greater(t, both, 200)
}

func describe(applied []program.Applied, changes ...program.Change) (words []string) {
	for _, a := range applied {
		changes = append(changes, a.Change)
	}
	for _, c := range changes {
		words = append(words, c.Describe()+" "+string(c.Value))
	}
	return words
}

func TestConflictsReadAsSentences(t *testing.T) {
	by := func(changes ...program.Change) []gate.Edit {
		_, applied, err := gate.Try(plan.Of(pier()), changes)
		require.NoError(t, err)
		return []gate.Edit{{By: "Ann", Changes: applied}}
	}
	five, one, two := program.SetTo(item("A"), "size", 5), 1, 2
	for want, c := range map[string]struct {
		theirs []gate.Edit
		mine   program.Change
	}{
		"Ann changed the size of A meanwhile to 5; yours is 3": {by(five), program.SetTo(item("A"), "size", 3)},
		"Ann removed C meanwhile":                              {by(remove(item("C"))), program.SetTo(item("C"), "size", 3)},
		"Ann changed C meanwhile, which you remove":            {by(program.SetTo(item("C"), "size", 3)), remove(item("C"))},
		"Ann added another N meanwhile":                        {by(program.AddOf(item("N"), program.Item{Key: "N", Kind: program.Story})), program.AddOf(item("N"), program.Item{Key: "N", Kind: program.Spike})},
		"Ann moved A meanwhile, to another place":              {by(program.Change{Op: program.Move, Ref: item("A"), At: &one}, program.Change{Op: program.Move, Ref: item("A"), At: &two}), program.Change{Op: program.Move, Ref: item("A"), At: &one}},
	} {
		conflicts := gate.Conflicts(c.theirs, []program.Change{c.mine})
		if assert.Len(t, conflicts, 1, want) {
			assert.Equal(t, want, conflicts[0].Error())
		}
	}
	cleared := program.Change{Op: program.Set, Ref: item("C"), Field: "keptOut", Value: json.RawMessage("null")}
	assert.Empty(t, gate.Conflicts(by(program.SetTo(item("C"), "keptOut", false)), []program.Change{cleared}), "two who clear one field mean the same")
	assert.Empty(t, gate.Conflicts(by(five, program.Change{Op: program.Set, Ref: item("A"), Field: "size"}), []program.Change{program.SetTo(item("A"), "size", 3)}), "they left it as it was")
}

// A place is kept by what stands before it.
func TestAMoveKeepsItsNeighbour(t *testing.T) {
	base := program.Program{}.Normal()
	for i := range 6 {
		base.Items = append(base.Items, program.Item{Key: fmt.Sprint(i), Kind: program.Story})
	}
	move := func(key string, at int) program.Change {
		return program.Change{Op: program.Move, Ref: item(key), At: &at}
	}
	zero := 0
	for want, c := range map[string][2][]program.Change{
		"[n 0 1 2 5 3 4]": {{{Op: program.Add, Ref: item("n"), Value: json.RawMessage(`{"key":"n","title":"","kind":"story"}`), At: &zero}}, {move("5", 3)}},
		"[1 2 5 3 4]":     {{remove(item("0"))}, {move("5", 3)}},
		"[0 1 5 3 4]":     {{remove(item("2"))}, {move("5", 3)}},
		"[5 4 3 2 1 0]":   {{move("0", 5), move("1", 4), move("2", 3), move("3", 2), move("4", 1)}, {move("5", 0)}},
		"[4 0 1 5 3 2]":   {{move("4", 0), move("2", 5)}, {move("5", 2), move("3", 3)}},
		"[0 1 2 3 4 5]":   {{}, {move("5", 5)}},
	} {
		now, _, err := gate.Try(plan.Of(base), c[0])
		require.NoError(t, err)
		next, _, err := gate.Try(now, gate.Rebase(base, now.Program, c[1]))
		require.NoError(t, err)
		var keys []string
		for _, x := range next.Items {
			keys = append(keys, x.Key)
		}
		assert.Equal(t, want, fmt.Sprint(keys))
	}
}

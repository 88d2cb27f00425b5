package scenario_test

import (
	"encoding/json"
	"fmt"
	"maps"
	"math/rand/v2"
	"reflect"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/act"
	"jantrel/core/gate"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/core/scenario"
)

// edits makes some random edits of a program; who tells those of two sides apart.
func edits(r *rand.Rand, p program.Program, who string, many int) program.Program {
	for range many {
		item := p.Items[r.IntN(len(p.Items))]
		ref, at := program.Ref{Kind: program.KindItem, Key: item.Key}, r.IntN(len(p.Items))
		key := fmt.Sprintf("%s%d", who, r.IntN(1_000_000))
		var changes []program.Change
		switch r.IntN(8) {
		case 0:
			changes = []program.Change{program.SetTo(ref, "size", r.IntN(5))}
		case 1:
			changes = []program.Change{program.SetTo(ref, "title", fmt.Sprint(r.IntN(4)))}
		case 2:
			changes = program.Forget(p, ref)
		case 3:
			changes = []program.Change{program.AddOf(program.Ref{Kind: program.KindItem, Key: key}, program.Item{Key: key, Kind: program.Story, Title: key})}
		case 4:
			team := p.Teams[r.IntN(len(p.Teams))].Key
			changes = []program.Change{program.SetTo(program.Ref{Kind: program.KindTeam, Key: team}, "velocity", 10+r.IntN(3))}
		case 5:
			changes = []program.Change{program.SetTo(ref, "tags", []string{fmt.Sprint(r.IntN(3))})}
		case 6:
			if len(p.Needs) > 0 {
				n := p.Needs[r.IntN(len(p.Needs))]
				need := program.Ref{Kind: program.KindNeed, In: n.Item, Key: n.Needs}
				changes = []program.Change{{Op: program.Remove, Ref: need}}
				if r.IntN(2) == 0 {
					changes = []program.Change{program.SetTo(need, "lagDays", r.IntN(3))}
				}
			}
		case 7:
			changes = []program.Change{{Op: program.Move, Ref: ref, At: &at}}
		}
		if next, _, err := gate.Try(plan.Of(p), changes); err == nil && len(next.Items) > 0 {
			p = next.Program
		}
	}
	return p
}

// fields are the things of a program by their fields, read from JSON: nothing of it is Go's.
func fields(t *testing.T, p program.Program) map[program.Ref]map[string]any {
	t.Helper()
	things, err := p.Things(func(program.Ref) bool { return true })
	require.NoError(t, err)
	all := map[program.Ref]map[string]any{}
	for _, thing := range things {
		var body map[string]any
		require.NoError(t, json.Unmarshal(thing.Body, &body))
		all[thing.Ref] = body
	}
	return all
}

// threeWay is the merge by brute force, told once more: thing by thing and field by field, the live plan's
// word counting where both differ from the base. It returns how many places are in conflict.
func threeWay(base, mine, live map[program.Ref]map[string]any) (map[program.Ref]map[string]any, int) {
	merged, conflicts := map[program.Ref]map[string]any{}, 0
	refs := map[program.Ref]bool{}
	for _, all := range []map[program.Ref]map[string]any{base, mine, live} {
		for ref := range all {
			refs[ref] = true
		}
	}
	kept := map[any]bool{} // items that the scenario removes and that stay
	for ref := range refs {
		if b, l := base[ref], live[ref]; ref.Kind == program.KindItem && b != nil && mine[ref] == nil && l != nil && !reflect.DeepEqual(b, l) {
			kept[ref.Key] = true
		}
		if b, l := base[ref], live[ref]; ref.Kind == program.KindNeed && b != nil && mine[ref] == nil && l != nil && !reflect.DeepEqual(b, l) {
			for _, end := range []string{ref.In, ref.Key} { // it went with an item, or by itself
				if item := (program.Ref{Kind: program.KindItem, Key: end}); mine[item] == nil {
					kept[end] = kept[end] || live[item] != nil
					break
				}
			}
		}
	}
	conflicts += len(kept)
	for ref := range refs {
		b, m, l := base[ref], mine[ref], live[ref]
		switch { // what went only along with what stays
		case ref.Kind == program.KindItem && kept[ref.Key], ref.Kind == program.KindNeed && m == nil && (kept[ref.In] || kept[ref.Key]):
			m = b
		case ref.Kind == program.KindItem && b != nil && m != nil && b["parent"] != m["parent"]: // no edit is of it but through items that go
			m = maps.Clone(m)
			m["parent"] = b["parent"]
		case ref.Kind == program.KindMilestone:
			m = b // no edit is of these but through items that go, see below
		}
		switch {
		case reflect.DeepEqual(m, b), reflect.DeepEqual(m, l):
			merged[ref] = l
		case reflect.DeepEqual(l, b):
			merged[ref] = m
		case m == nil || l == nil: // one removed what the other changed
			merged[ref] = l
			conflicts++
		default:
			merged[ref] = map[string]any{}
			for _, side := range []map[string]any{b, m, l} {
				for name := range side {
					value := l[name]
					if reflect.DeepEqual(l[name], b[name]) {
						value = m[name]
					}
					if value != nil {
						merged[ref][name] = value
					}
				}
			}
			for name := range union(m, l) {
				if !reflect.DeepEqual(m[name], l[name]) && !reflect.DeepEqual(m[name], b[name]) && !reflect.DeepEqual(l[name], b[name]) {
					conflicts++
				}
			}
		}
		if merged[ref] == nil {
			delete(merged, ref)
		}
	}
	for ref := range merged { // what is of something that is gone is gone
		if ref.Kind == program.KindNeed && gone(merged, ref) {
			delete(merged, ref)
		}
		if parent, _ := merged[ref]["parent"].(string); merged[program.Ref{Kind: program.KindItem, Key: parent}] == nil {
			delete(merged[ref], "parent")
		}
		if named, _ := merged[ref]["needs"].([]any); ref.Kind == program.KindMilestone && len(named) > 0 {
			merged[ref]["needs"] = slices.DeleteFunc(named, func(key any) bool { return merged[program.Ref{Kind: program.KindItem, Key: key.(string)}] == nil })
			if len(merged[ref]["needs"].([]any)) == 0 {
				delete(merged[ref], "needs")
			}
		}
	}
	return merged, conflicts
}

// alike holds two programs against each other, thing by thing.
func alike(t *testing.T, want, got map[program.Ref]map[string]any, seed uint64) {
	t.Helper()
	for ref := range want {
		require.Equal(t, want[ref], got[ref], "seed %d, %v", seed, ref)
	}
	for ref := range got {
		require.Contains(t, want, ref, "seed %d", seed)
	}
}

// gone reports whether an end of a need is missing.
func gone(p map[program.Ref]map[string]any, need program.Ref) bool {
	return p[program.Ref{Kind: program.KindItem, Key: need.In}] == nil || p[program.Ref{Kind: program.KindItem, Key: need.Key}] == nil
}

func union(a, b map[string]any) map[string]bool {
	all := map[string]bool{}
	for name := range a {
		all[name] = true
	}
	for name := range b {
		all[name] = true
	}
	return all
}

// lines are a random base and two random histories of it.
func lines(seed uint64) scenario.Lines {
	r := rand.New(rand.NewPCG(seed, 9))
	base := sample.Program(seed, sample.Shape{Teams: 2, Iterations: 3, Items: 10 + r.IntN(20), Needs: 8})
	return scenario.Lines{Base: base, Mine: plan.Of(edits(r, base, "S", r.IntN(14))), Live: plan.Of(edits(r, base, "L", r.IntN(14)))}
}

func TestAMergeIsTheThreeWayMergeByBruteForce(t *testing.T) {
	compared, inConflict := 0, 0
	for seed := range sample.Seeds(300) {
		l := lines(seed)
		m, err := scenario.Merge(l, scenario.Choice{})
		require.NoError(t, err)
		if len(m.Refused) > 0 || len(m.Rekeyed) > 0 {
			continue
		}
		want, conflicts := threeWay(fields(t, l.Base), fields(t, l.Mine.Program), fields(t, l.Live.Program))
		moved := 0
		for _, c := range m.Conflicts {
			if c.Sort == gate.BothMoved {
				moved++
			}
		}
		alike(t, want, fields(t, m.Plan.Program), seed)
		require.Equal(t, conflicts, len(m.Conflicts)-moved, "seed %d: %v", seed, m.Conflicts)
		require.Empty(t, program.Validate(m.Plan.Program))
		compared++
		inConflict += min(1, conflicts)
	}
	assert.Greater(t, compared, int(sample.Seeds(220)))
	assert.Greater(t, inConflict, int(sample.Seeds(60)))
}

// Where the live plan has not gone on, the merge is the scenario; where the scenario changed nothing, the
// live plan. Without conflicts it is the changes made on the live plan, as the gate brings them up to date.
func TestAMergeWithoutConflictsIsTheChangesMadeOnTheLivePlan(t *testing.T) {
	compared := 0
	for seed := range sample.Seeds(300) {
		l := lines(seed)
		still, err := scenario.Merge(scenario.Lines{Base: l.Base, Mine: l.Mine, Live: plan.Of(l.Base)}, scenario.Choice{})
		require.NoError(t, err)
		require.Empty(t, program.Between(l.Mine.Program, still.Plan.Program), "seed %d", seed)
		none, err := scenario.Merge(scenario.Lines{Base: l.Base, Mine: plan.Of(l.Base), Live: l.Live}, scenario.Choice{})
		require.NoError(t, err)
		require.Empty(t, none.Changes, "seed %d", seed)

		m, err := scenario.Merge(l, scenario.Choice{})
		require.NoError(t, err)
		if len(m.Conflicts)+len(m.Refused)+len(m.Rekeyed) > 0 {
			continue
		}
		made, _, err := gate.Try(l.Live, gate.Rebase(l.Base, l.Live.Program, program.Between(l.Base, l.Mine.Program)))
		if err != nil {
			continue // a need that is new in the live plan of an item that the scenario removes
		}
		require.Equal(t, fields(t, made.Program), fields(t, m.Plan.Program), "seed %d", seed)
		compared++
	}
	assert.Greater(t, compared, 60)
}

// Each conflict can be settled either way, and the side that was chosen is what comes to be.
func TestTheSideThatWasChosenComesToBe(t *testing.T) {
	seen := map[gate.Sort]int{}
	for seed := range sample.Seeds(300) {
		l := lines(seed)
		open, err := scenario.Merge(l, scenario.Choice{})
		require.NoError(t, err)
		if len(open.Refused)+len(open.Rekeyed) > 0 {
			continue
		}
		for _, take := range []scenario.Side{scenario.TakeLive, scenario.TakeScenario} {
			var choice scenario.Choice
			for _, c := range open.Conflicts {
				choice.Settle = append(choice.Settle, scenario.Settled{Ref: c.Ref, Field: c.Field, Sort: c.Sort, Take: take})
			}
			m, err := scenario.Merge(l, choice)
			require.NoError(t, err)
			require.Empty(t, m.Open())
			got, wanted := fields(t, m.Plan.Program), fields(t, l.Live.Program)
			if take == scenario.TakeScenario {
				wanted = fields(t, l.Mine.Program)
			}
			for _, c := range m.Conflicts {
				if c.Sort == gate.BothMoved || len(m.Refused) > 0 {
					continue
				}
				seen[c.Sort]++
				if c.Field != "" {
					require.Equal(t, wanted[c.Ref][c.Field], got[c.Ref][c.Field], "seed %d %v %s", seed, c, take)
					continue
				}
				require.Equal(t, wanted[c.Ref] != nil, got[c.Ref] != nil, "seed %d %v %s", seed, c, take)
			}
			require.Empty(t, program.Validate(m.Plan.Program))
		}
	}
	for _, sort := range []gate.Sort{gate.BothSet, gate.TheyRemoved, gate.YouRemove} {
		assert.Greater(t, seen[sort], 20, "%s: %v", sort, seen)
	}
}

// Published and undone, the live plan is as it was, to the byte.
func TestPublishedAndUndoneIsTheLivePlanToTheByte(t *testing.T) {
	for seed := range sample.Seeds(200) {
		l := lines(seed)
		m, err := scenario.Merge(l, scenario.Choice{})
		require.NoError(t, err)
		next, applied, err := gate.Try(l.Live, m.Changes)
		require.NoError(t, err)
		require.Empty(t, program.Between(next.Program, m.Plan.Program))
		back, _, err := gate.Try(next, program.Inverses(applied), l.Live)
		require.NoError(t, err)
		was, err := json.Marshal(l.Live.Program)
		require.NoError(t, err)
		is, err := json.Marshal(back.Program)
		require.NoError(t, err)
		require.Equal(t, string(was), string(is), "seed %d", seed)
	}
}

// Of what is left out nothing comes, but new things that something needs which is taken.
func TestWhatIsLeftOutStaysOut(t *testing.T) {
	for seed := range sample.Seeds(200) {
		l := lines(seed)
		whole, err := scenario.Merge(l, scenario.Choice{})
		require.NoError(t, err)
		r := rand.New(rand.NewPCG(seed, 4))
		var choice scenario.Choice
		for _, c := range whole.Changed {
			if r.IntN(2) == 0 {
				choice.LeaveOut = append(choice.LeaveOut, scenario.PartOf(c))
			}
		}
		m, err := scenario.Merge(l, choice)
		require.NoError(t, err)
		along := map[program.Ref]bool{}
		for _, ref := range m.Along {
			along[ref] = true
		}
		live, got := fields(t, l.Live.Program), fields(t, m.Plan.Program)
		for _, p := range choice.LeaveOut {
			switch {
			case along[p.Ref]:
			case p.Op == program.Add:
				require.Equal(t, live[p.Ref] != nil, got[p.Ref] != nil, "seed %d %v", seed, p)
			case p.Op == program.Set && live[p.Ref] != nil && got[p.Ref] != nil && p.Field != "parent" && p.Field != "needs":
				require.Equal(t, live[p.Ref][p.Field], got[p.Ref][p.Field], "seed %d %v", seed, p)
			}
		}
		choice = scenario.Choice{}
		for _, c := range whole.Changed {
			choice.LeaveOut = append(choice.LeaveOut, scenario.PartOf(c))
		}
		none, err := scenario.Merge(l, choice)
		require.NoError(t, err)
		require.Empty(t, none.Changes)
	}
}

// Two new items under one key are both kept: the scenario's gets the next one, and its need goes along.
func TestTwoNewItemsWithOneKeyAreBothKept(t *testing.T) {
	base := program.Program{Items: []program.Item{{Key: "A-1", Kind: program.Story}}}.Normal()
	add := func(title string) program.Change {
		return program.AddOf(program.Ref{Kind: program.KindItem, Key: "A-2"}, program.Item{Key: "A-2", Kind: program.Story, Title: title})
	}
	need := program.AddOf(program.Ref{Kind: program.KindNeed, In: "A-2", Key: "A-1"}, program.Need{Item: "A-2", Needs: "A-1"})
	mine, _, err := gate.Try(plan.Of(base), []program.Change{add("mine"), need})
	require.NoError(t, err)
	live, _, err := gate.Try(plan.Of(base), []program.Change{add("live")})
	require.NoError(t, err)
	m, err := scenario.Merge(scenario.Lines{Base: base, Mine: mine, Live: live}, scenario.Choice{})
	require.NoError(t, err)
	require.Empty(t, m.Conflicts)
	assert.Equal(t, []scenario.Rekeyed{{Ref: program.Ref{Kind: program.KindItem, Key: "A-2"}, To: "A-3"}}, m.Rekeyed)
	assert.Equal(t, "mine", m.Plan.Items[1].Title)
	assert.Equal(t, "live", m.Plan.Items[2].Title)
	assert.Equal(t, "A-3", m.Plan.Needs[0].Item)
}

// What the rules refuse on the live plan stays out by itself, and the rest is laid.
func TestWhatTheRulesRefuseStaysOut(t *testing.T) {
	base := program.Program{Items: []program.Item{{Key: "A", Kind: program.Story}, {Key: "B", Kind: program.Story}}}.Normal()
	need := func(item, needs string) program.Change {
		return program.AddOf(program.Ref{Kind: program.KindNeed, In: item, Key: needs}, program.Need{Item: item, Needs: needs})
	}
	mine, _, err := gate.Try(plan.Of(base), []program.Change{need("A", "B"), program.SetTo(program.Ref{Kind: program.KindItem, Key: "A"}, "title", "x")})
	require.NoError(t, err)
	live, _, err := gate.Try(plan.Of(base), []program.Change{need("B", "A")})
	require.NoError(t, err)
	m, err := scenario.Merge(scenario.Lines{Base: base, Mine: mine, Live: live}, scenario.Choice{})
	require.NoError(t, err)
	require.Len(t, m.Refused, 1)
	assert.Equal(t, program.Ref{Kind: program.KindNeed, In: "A", Key: "B"}, m.Refused[0].Ref)
	assert.Equal(t, "x", m.Plan.Items[0].Title)
	assert.Len(t, m.Plan.Needs, 1)
}

// BenchmarkMerge5000 lays 200 changes on a live plan of 5,000 items that has gone on by as many.
func BenchmarkMerge5000(b *testing.B) {
	base := sample.Program(1, sample.Shape{Teams: 40, Iterations: 12, Items: 5000, Needs: 6000})
	change := func(from int) *plan.Plan {
		var changes []program.Change
		for i := range 200 {
			changes = append(changes, program.SetTo(program.Ref{Kind: program.KindItem, Key: base.Items[from+20*i].Key}, "title", "x"))
		}
		next, _, err := gate.Try(plan.Of(base), changes)
		require.NoError(b, err)
		return next
	}
	l := scenario.Lines{Base: base, Mine: change(0), Live: change(10)}
	for b.Loop() {
		m, err := scenario.Merge(l, scenario.Choice{})
		require.NoError(b, err)
		require.Len(b, m.Changes, 200)
	}
}

// Where a removal is left out, what would have followed from it stays as well.
func TestARemovalThatIsLeftOut(t *testing.T) {
	base := program.Program{Items: []program.Item{{Key: "F", Kind: program.Feature}, {Key: "A", Kind: program.Story, Parent: "F"}, {Key: "B", Kind: program.Story}},
		Needs: []program.Need{{Item: "B", Needs: "F"}}}.Normal()
	mine := after(base, program.Forget(base, item("F"))...)
	l := scenario.Lines{Base: base, Mine: mine, Live: plan.Of(base)}
	whole, err := scenario.Merge(l, scenario.Choice{})
	require.NoError(t, err)
	assert.Len(t, whole.Plan.Items, 2)
	rows := scenario.Rows(l, whole)
	for _, r := range rows {
		assert.Equal(t, program.Remove, r.Op, "what follows is no row of its own")
	}
	left, err := scenario.Merge(l, scenario.Choice{LeaveOut: []scenario.Part{{Ref: item("F"), Op: program.Remove}}})
	require.NoError(t, err)
	assert.Empty(t, left.Changes)
}

// Taken back, a removal brings the thing itself back, under its key and with what went along; an edit in between stays.
func TestARemovalThatIsTakenBack(t *testing.T) {
	for seed := range sample.Seeds(60) {
		l := lines(seed)
		before := l.Live
		gone := before.Items[int(seed)%len(before.Items)].Key
		removed := after(before.Program, program.Forget(before.Program, item(gone))...)
		removed.Without([]string{gone})
		back, err := scenario.TakeBack{Label: "Remove", After: removed.Program, Was: before}.Plan(act.State{Plan: removed})
		require.NoError(t, err)
		next, _, err := gate.Try(removed, back.Changes)
		require.NoError(t, err)
		require.Empty(t, program.Between(before.Program, next.Program), "seed %d", seed)
	}
}

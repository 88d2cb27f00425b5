package store_test

import (
	"cmp"
	"encoding/json"
	"errors"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jantrel/core/gate"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/internal/journal"
	"jantrel/internal/live"
	"jantrel/internal/store/memory"
)

// What tests keep in memory is told as the database tells it: random histories of a live plan and a scenario, and
// whatever can be asked of them.
func TestMemoryTellsWhatTheDatabaseTells(t *testing.T) {
	for seed := range sample.Seeds(6) {
		r := rand.New(rand.NewPCG(seed, 7))
		first := sample.Program(seed, sample.Shape{Teams: 2, Iterations: 4, Items: 20, Needs: 10, Wild: true, Rough: true})
		both := [2]live.Store{open(t, t.TempDir()), memory.New()}
		var line [2]journal.Line
		for i, s := range both {
			id, err := s.Create(ctx, first)
			require.NoError(t, err)
			line[i], err = s.Live(ctx, id)
			require.NoError(t, err)
		}
		require.Equal(t, line[0], line[1])
		at, end := write(t, r, both, line[0], plan.Of(first), 30)
		ask(t, r, both, line[0].ID, end)

		// A scenario goes on from a revision in the middle; what comes later in the live plan is none of its own.
		revision := end / 2
		var scenario [2]journal.Line
		for i, s := range both {
			var err error
			scenario[i], err = s.MakeScenario(ctx, line[i], revision, journal.About{Name: "What if", By: "Ann"})
			require.NoError(t, err)
		}
		require.Equal(t, scenario[0], scenario[1])
		_, mine := write(t, r, both, scenario[0], at[revision], 20)
		_, end = write(t, r, both, journal.Line{ID: line[0].ID, Revision: end}, at[end], 20)
		ask(t, r, both, scenario[0].ID, mine)
		ask(t, r, both, line[0].ID, end)
		ask(t, r, both, 99, 3) // there is none

		alike(t, both, "lines", func(s live.Store) (any, error) { return s.Lines(ctx, 1) })
		alike(t, both, "deleting one", func(s live.Store) (any, error) { return nil, s.DeleteScenario(ctx, scenario[0].ID) })
		alike(t, both, "deleted", func(s live.Store) (any, error) { return s.Line(ctx, scenario[0].ID) })
		alike(t, both, "deleting the program", func(s live.Store) (any, error) { return nil, s.Delete(ctx, 1) })
		alike(t, both, "deleting it again", func(s live.Store) (any, error) { return nil, s.Delete(ctx, 1) })
		alike(t, both, "all gone", func(s live.Store) (any, error) { return s.Lines(ctx, 1) })
	}
}

// write makes so many random edits of a line in both stores, and returns the plan after each revision and the last one.
func write(t *testing.T, r *rand.Rand, both [2]live.Store, line journal.Line, p *plan.Plan, edits int) (map[int64]*plan.Plan, int64) {
	t.Helper()
	plans := map[int64]*plan.Plan{line.Revision: p}
	revision := line.Revision
	noon := time.Date(2027, 3, 2, 12, 0, 0, 5, time.FixedZone("east", 3600))
	for range edits {
		next, applied, err := gate.Try(p, changes(r, p.Program))
		if err != nil {
			continue
		}
		p, revision = next, revision+1
		plans[revision] = p
		e := journal.Edit{Revision: revision, At: noon.Add(time.Duration(revision) * time.Hour), Actor: pick(r, "Ann", "Ben", "Änn_%"), Client: pick(r, "a", "b"),
			Label: pick(r, "Edit", "Move it", "50% more"), Sort: pick(r, journal.Plain, journal.Undo, journal.Redo), Changes: applied}
		if revision > line.Revision+1 && r.IntN(5) == 0 {
			e.Undoes = line.Revision + 1 + r.Int64N(revision-line.Revision-1)
		}
		if r.IntN(3) == 0 {
			e.Request, e.Said = fmt.Sprint("r", revision), journal.Said{Digest: "d", Keys: []string{"A"}}
		}
		if line.Base != nil && r.IntN(3) == 0 {
			upTo := revision
			e.UpTo = &upTo
		}
		for _, s := range both {
			require.NoError(t, s.Commit(ctx, line.ID, p.Program, e))
			require.ErrorIs(t, s.Commit(ctx, line.ID, p.Program, e), journal.ErrNotFound, "it is at that revision already")
		}
		if r.IntN(4) == 0 {
			alike(t, both, "a reason", func(s live.Store) (any, error) { return nil, s.Explain(ctx, line.ID, revision, "So that it burns") })
		}
		if r.IntN(6) == 0 {
			alike(t, both, "a checkpoint", func(s live.Store) (any, error) {
				return nil, s.SaveCheckpoint(ctx, line.ID, journal.Checkpoint{Revision: revision, Program: p.Program})
			})
		}
		day := journal.ForecastDay{Day: sample.Today.Add(int(revision % 5)), Body: fmt.Sprint(revision)}
		rules := 1 + r.IntN(2)
		alike(t, both, "a day", func(s live.Store) (any, error) { return nil, s.KeepForecastDay(ctx, line.ID, day, rules) })
	}
	require.Greater(t, revision, line.Revision+int64(edits)/6, "edits were made")
	return plans, revision
}

// ask asks both stores all that can be asked of a line.
func ask(t *testing.T, r *rand.Rand, both [2]live.Store, line, end int64) {
	t.Helper()
	is := func(what string, of func(live.Store) (any, error)) { t.Helper(); alike(t, both, what, of) }
	is("line", func(s live.Store) (any, error) { return s.Line(ctx, line) })
	is("gone", func(s live.Store) (any, error) {
		keys, err := s.GoneItems(ctx, line)
		slices.Sort(keys)
		return keys, err
	})
	is("checkpoints", func(s live.Store) (any, error) { return s.Checkpoints(ctx, line) })
	refs := []program.Ref{{Kind: program.KindItem, Key: "I1"}}
	edits, _ := both[0].EditsAfter(ctx, line, 0)
	for _, e := range edits {
		for _, a := range e.Changes {
			refs = append(refs, a.Change.Ref)
		}
	}
	is("undoings", func(s live.Store) (any, error) { return s.Undoings(ctx, line) })
	for range 30 {
		without := []int64{r.Int64N(end + 2), r.Int64N(end + 2), r.Int64N(end + 2)}[:r.IntN(4)]
		a, b := r.Int64N(end+2), r.Int64N(end+2)
		ref, when := refs[r.IntN(len(refs))], time.Date(2027, 3, 2, 11, 0, 0, 0, time.UTC).Add(time.Duration(a)*time.Hour)
		is("load", func(s live.Store) (any, error) { p, revision, err := s.Load(ctx, line); return []any{p, revision}, err })
		is("up to", func(s live.Store) (any, error) { return s.UpTo(ctx, line, a) })
		is("at", func(s live.Store) (any, error) { return s.RevisionAt(ctx, line, when) })
		is("made", func(s live.Store) (any, error) { at, made, err := s.MadeAt(ctx, line, a); return []any{at, made}, err })
		is("count", func(s live.Store) (any, error) { return s.CountChanges(ctx, line, a, b) })
		is("checkpoint", func(s live.Store) (any, error) { return s.LoadCheckpoint(ctx, line, a) })
		is("after", func(s live.Store) (any, error) { return s.EditsAfter(ctx, line, a) })
		is("between", func(s live.Store) (any, error) { return s.EditsBetween(ctx, line, a, b) })
		is("edit", func(s live.Store) (any, error) { return s.EditAt(ctx, line, a) })
		client, request := pick(r, "a", "b", "c"), fmt.Sprint("r", a)
		is("of a request", func(s live.Store) (any, error) {
			e, made, err := s.EditOf(ctx, line, client, request)
			return []any{e, made}, err
		})
		is("of a thing", func(s live.Store) (any, error) { return s.EditsOf(ctx, line, a, ref, int(b)) })
		is("of kinds", func(s live.Store) (any, error) {
			return s.EditsOfKinds(ctx, line, a, b, []program.Kind{ref.Kind, program.KindTeam})
		})
		is("tracked", func(s live.Store) (any, error) {
			return s.TrackedEdits(ctx, line, when, a/2, b, []string{"size", "iteration"})
		})
		is("heads", func(s live.Store) (any, error) { return s.Heads(ctx, line, client, int(b)) })
		field := pick(r, "size", "title", "velocity")
		is("last set", func(s live.Store) (any, error) {
			e, is, err := s.LastSet(ctx, line, a, without, ref, field)
			return []any{e, is}, err
		})
		is("sizes", func(s live.Store) (any, error) {
			c, at, err := s.SizeChanges(ctx, line, a, b)
			return []any{c, at}, err
		})
		is("last changes", func(s live.Store) (any, error) { return s.LastChanges(ctx, line, a, without) })
		is("last words", func(s live.Store) (any, error) {
			words, err := s.LastWords(ctx, line, a, without)
			slices.SortFunc(words, func(a, b journal.Word) int {
				return cmp.Or(cmp.Compare(a.Item, b.Item), cmp.Compare(a.Needs, b.Needs))
			})
			return words, err
		})
		is("days", func(s live.Store) (any, error) {
			return s.ForecastDays(ctx, line, sample.Today.Add(int(a%5)), 1+int(b%2))
		})
		is("a day", func(s live.Store) (any, error) {
			body, known, err := s.ForecastDay(ctx, line, sample.Today.Add(int(a%5)), 1)
			return []any{body, known}, err
		})
		sought := journal.Sought{By: pick(r, "", "ann", "Ä", "_", "%"), Words: pick(r, "", "edit", "50%", "i1", "BURNS", "_"), Field: pick(r, "", "", "size"), Without: without}
		if r.IntN(3) == 0 {
			sought.Kind = ref.Kind
		}
		if r.IntN(3) == 0 {
			sought.Among = []journal.Changed{{Kind: ref.Kind}, {Kind: program.KindTeam, Field: "velocity"}}
		}
		if r.IntN(3) == 0 {
			sought.From, sought.To = when, when.Add(9*time.Hour)
		}
		is(fmt.Sprintf("looked for %+v", sought), func(s live.Store) (any, error) { return s.LatestEdits(ctx, line, a, int(b), sought) })
	}
}

// alike asks both the same: what they tell, as JSON, and whether there is none, must be the same. A list with nothing in
// it is none.
func alike(t *testing.T, both [2]live.Store, what string, of func(live.Store) (any, error)) {
	t.Helper()
	var said [2]string
	for i, s := range both {
		told, err := of(s)
		text, failed := json.Marshal(told)
		require.NoError(t, failed)
		said[i] = strings.ReplaceAll(string(text), "[]", "null")
		if err != nil {
			said[i] = fmt.Sprint("an error; not found: ", errors.Is(err, journal.ErrNotFound))
		}
	}
	require.Equal(t, said[0], said[1], what)
}

func pick[T any](r *rand.Rand, from ...T) T { return from[r.IntN(len(from))] }

// changes are one to three changes; some are refused.
func changes(r *rand.Rand, p program.Program) []program.Change {
	var list []program.Change
	for range 1 + r.IntN(3) {
		item, other := p.Items[r.IntN(len(p.Items))].Key, p.Items[r.IntN(len(p.Items))].Key
		at, key := r.IntN(len(p.Items)), fmt.Sprintf("N%d", r.IntN(1_000_000))
		ref := program.Ref{Kind: program.KindItem, Key: item}
		need := program.Ref{Kind: program.KindNeed, In: item, Key: other}
		if len(p.Needs) > 0 && r.IntN(2) == 0 {
			one := p.Needs[r.IntN(len(p.Needs))]
			need = program.Ref{Kind: program.KindNeed, In: one.Item, Key: one.Needs}
		}
		list = append(list, pick(r,
			program.Change{Op: program.Set, Ref: ref, Field: "size", Value: json.RawMessage(fmt.Sprint(r.IntN(13)))},
			program.Change{Op: program.Set, Ref: ref, Field: "iteration", Value: json.RawMessage(`""`)},
			program.Change{Op: program.Set, Ref: ref, Field: "title", Value: json.RawMessage(fmt.Sprintf("%q", key))},
			program.Change{Op: program.Move, Ref: ref, At: &at},
			program.Change{Op: program.Add, Ref: program.Ref{Kind: program.KindItem, Key: key}, At: &at, Value: json.RawMessage(fmt.Sprintf(`{"key":%q,"title":"New","kind":"story"}`, key))},
			program.Change{Op: program.Remove, Ref: ref},
			program.Change{Op: program.Set, Ref: program.Ref{Kind: program.KindTeam, Key: "T0"}, Field: "velocity", Value: json.RawMessage(fmt.Sprint(10 + r.IntN(20)))},
			program.Change{Op: program.Add, Ref: need, Value: json.RawMessage(fmt.Sprintf(`{"item":%q,"needs":%q}`, need.In, need.Key))},
			program.Change{Op: program.Set, Ref: need, Field: "agreement", Value: json.RawMessage(pick(r, `"agreed"`, `"asked"`))},
			program.Change{Op: program.Remove, Ref: need},
		))
	}
	return list
}

package live_test

import (
	"fmt"
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/core/needs"
	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/internal/journal"
	"jantrel/internal/live"
)

// clocked is a hub whose clock goes on by an hour an edit, on a day that stays.
func clocked(t testing.TB, folder string) *live.Hub {
	t.Helper()
	s := keep(t, folder)
	now := time.Date(2027, 3, 2, 8, 0, 0, 0, time.UTC)
	h := live.NewHub(s, func() time.Time { now = now.Add(time.Hour); return now }, func() program.Date { return sample.Today })
	t.Cleanup(h.Close)
	return h
}

// Whatever was edited, undone and redone by two clients: every revision can be seen
// again as it was, from the line that made it and from one that only has the files, and
// a scenario made there begins with it.
func TestEveryRevisionCanBeSeenAgain(t *testing.T) {
	computes(t)
	for seed := range uint64(4) {
		folder := t.TempDir()
		h := clocked(t, folder)
		id, err := h.Create(ctx, sample.Program(seed, sample.Shape{Teams: 2, Iterations: 4, Items: 14, Needs: 6, Wild: true, Rough: true}))
		require.NoError(t, err)
		l, err := h.Open(ctx, id)
		require.NoError(t, err)
		r := rand.New(rand.NewPCG(seed, 8))
		base := l.State().Revision
		was := map[int64]string{base: asJSON(t, l.State().Program)}
		for range 80 {
			by := []live.Author{ann, ben}[r.IntN(2)]
			switch r.IntN(6) {
			case 0:
				_, _ = l.Undo(ctx, by)
			case 1:
				_, _ = l.Redo(ctx, by)
			default:
				_, _ = l.Apply(ctx, by, l.State().Revision-int64(r.IntN(3)), "Edit", randomEdit(r, l.State().Program))
			}
			was[l.State().Revision] = asJSON(t, l.State().Program)
		}
		require.Greater(t, len(was), 30)
		again, err := clocked(t, folder).Open(ctx, id)
		require.NoError(t, err)
		for _, line := range []*live.Line{l, again} {
			for revision, want := range was {
				state, err := line.At(ctx, revision)
				require.NoError(t, err, "revision %d", revision)
				require.Equal(t, want, asJSON(t, state.Program), "revision %d", revision)
				require.Equal(t, revision, state.Revision)
			}
		}
		middle := base + int64(len(was)/2)
		made, err := h.MakeScenario(ctx, ann, l, middle, journal.About{Name: "What if"})
		require.NoError(t, err)
		assert.Equal(t, was[middle], asJSON(t, made.State().Program))
		_, err = made.Apply(ctx, ann, middle, "Rename", []program.Change{program.SetTo(program.Ref{Kind: program.KindProgram}, "name", "Another")})
		require.NoError(t, err)
		assert.Equal(t, was[l.State().Revision], asJSON(t, l.State().Program), "a scenario has a journal of its own")
		begun, err := made.At(ctx, middle)
		require.NoError(t, err)
		assert.Equal(t, was[middle], asJSON(t, begun.Program))
	}
}

func TestThePastIsSeenOnItsOwnDay(t *testing.T) {
	h := clocked(t, t.TempDir())
	id, err := h.Create(ctx, sample.Program(1, sample.Shape{Teams: 2, Iterations: 4, Items: 12}))
	require.NoError(t, err)
	l, err := h.Open(ctx, id)
	require.NoError(t, err)
	for i := range 40 { // an hour each: into the next day
		_, err := l.Apply(ctx, ann, l.State().Revision, "Rename", []program.Change{title("I1", fmt.Sprint(i))})
		require.NoError(t, err)
	}
	state, err := l.At(ctx, 38)
	require.NoError(t, err)
	assert.Equal(t, calendar.MustParse("2027-03-03"), state.Today)
	assert.Equal(t, "37", state.Program.Items[2].Title)
	first, err := l.At(ctx, 0)
	require.NoError(t, err)
	assert.Equal(t, calendar.MustParse("2027-03-02"), first.Today, "what it began with, on the day of its first edit")
	noon, err := l.AsOf(ctx, time.Date(2027, 3, 2, 12, 0, 0, 0, time.UTC))
	require.NoError(t, err)
	assert.Equal(t, int64(4), noon.Revision)
	before, err := l.AsOf(ctx, time.Date(2027, 3, 1, 12, 0, 0, 0, time.UTC))
	require.NoError(t, err)
	assert.Zero(t, before.Revision)
	for _, none := range []int64{-1, 41} {
		_, err = l.At(ctx, none)
		assert.ErrorIs(t, err, journal.ErrNotFound)
	}
	same, err := l.At(ctx, 38)
	require.NoError(t, err)
	assert.Same(t, state, same, "asked again, it is the same")
}

// An undo may not close a cycle that an edit may not; but one leads back to what a
// program came with.
func TestUndoPassesTheGate(t *testing.T) {
	h := clocked(t, t.TempDir())
	p := program.Program{Items: []program.Item{{Key: "A", Kind: program.Story}, {Key: "B", Kind: program.Story}, {Key: "C", Kind: program.Story}, {Key: "D", Kind: program.Story}},
		Needs: []program.Need{{Item: "A", Needs: "B"}, {Item: "C", Needs: "D"}, {Item: "D", Needs: "C"}}}.Normal()
	id, err := h.Create(ctx, p)
	require.NoError(t, err)
	l, err := h.Open(ctx, id)
	require.NoError(t, err)
	need := func(item, needs string) program.Ref {
		return program.Ref{Kind: program.KindNeed, In: item, Key: needs}
	}
	_, err = l.Apply(ctx, ann, 0, "Away", []program.Change{{Op: program.Remove, Ref: need("A", "B")}})
	require.NoError(t, err)
	_, err = l.Apply(ctx, ben, 1, "The other way", []program.Change{program.AddOf(need("B", "A"), program.Need{Item: "B", Needs: "A"})})
	require.NoError(t, err)
	_, err = l.Undo(ctx, ann)
	var cycle *needs.CycleError
	require.ErrorAs(t, err, &cycle)
	_, err = l.Apply(ctx, ben, 2, "Delete", program.Forget(l.State().Program, program.Ref{Kind: program.KindItem, Key: "C"}))
	require.NoError(t, err)
	_, err = l.Undo(ctx, ben)
	require.NoError(t, err, "the cycle of C and D was there before")
	assert.Len(t, l.State().Program.Needs, 3)
}

// Where things stand in a list is kept by what stands before them, also when taken back.
func TestAnUndoPutsThingsWhereTheyWereAmongTheOthers(t *testing.T) {
	h := clocked(t, t.TempDir())
	id, err := h.Create(ctx, sample.Program(1, sample.Shape{Teams: 1, Iterations: 4, Items: 6}))
	require.NoError(t, err)
	l, err := h.Open(ctx, id)
	require.NoError(t, err)
	last := len(l.State().Program.Items) - 1
	moved := l.State().Program.Items[last].Key
	before := l.State().Program.Items[last-1].Key
	zero := 0
	_, err = l.Apply(ctx, ann, 0, "To the top", []program.Change{{Op: program.Move, Ref: program.Ref{Kind: program.KindItem, Key: moved}, At: &zero}})
	require.NoError(t, err)
	var added []program.Change
	for _, key := range []string{"X", "Y", "Z"} {
		c := program.AddOf(program.Ref{Kind: program.KindItem, Key: key}, program.Item{Key: key, Kind: program.Story})
		c.At = &zero
		added = append(added, c)
	}
	_, err = l.Apply(ctx, ben, 1, "Three more", added)
	require.NoError(t, err)
	_, err = l.Undo(ctx, ann)
	require.NoError(t, err)
	keys := map[string]int{}
	for i, x := range l.State().Program.Items {
		keys[x.Key] = i
	}
	assert.Equal(t, keys[before]+1, keys[moved])
}

func TestAnEditFromLongAgoHasToLookAgain(t *testing.T) {
	_, p := start(t, t.TempDir())
	_, err := p.Apply(ctx, ann, -6000, "Rename", []program.Change{title("I1", "x")})
	assert.ErrorIs(t, err, live.ErrTooOld)
}

// BenchmarkPast100000 reaches revisions anywhere in a history of 100,000 changes of a program of 5,000 items.
func BenchmarkPast100000(b *testing.B) {
	folder := b.TempDir()
	h := clocked(b, folder)
	id, err := h.Create(ctx, sample.Program(1, sample.Shape{Teams: 40, Iterations: 12, Items: 5000, Needs: 6000}))
	require.NoError(b, err)
	l, err := h.Open(ctx, id)
	require.NoError(b, err)
	for i := range 10_000 {
		var changes []program.Change
		for j := range 10 {
			changes = append(changes, title(fmt.Sprintf("I%d", (i*10+j)%5000), fmt.Sprint(i)))
		}
		_, err := l.Apply(ctx, ann, l.State().Revision, "Rename", changes)
		require.NoError(b, err)
	}
	r := rand.New(rand.NewPCG(1, 1))
	for b.Loop() {
		_, err := l.At(ctx, 1+r.Int64N(10_000))
		require.NoError(b, err)
	}
}

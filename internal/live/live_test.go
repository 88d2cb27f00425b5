package live_test

import (
	"context"
	"encoding/json"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/needs"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/core/standing"
	"jantrel/internal/journal"
	"jantrel/internal/live"
)

var ctx = context.Background()

var (
	ann = live.Author{Actor: "Ann", Client: "a"}
	ben = live.Author{Actor: "Ben", Client: "b"}
)

func hub(t testing.TB, folder string) *live.Hub {
	t.Helper()
	return live.NewHub(keep(t, folder), func() time.Time { return time.Unix(0, 0) }, func() program.Date { return sample.Today })
}

func start(t testing.TB, folder string) (*live.Hub, *live.Line) {
	t.Helper()
	h := hub(t, folder)
	id, err := h.Create(ctx, sample.Program(1, sample.Shape{Teams: 2, Iterations: 4, Items: 12, Needs: 6}))
	require.NoError(t, err)
	p, err := h.Open(ctx, id)
	require.NoError(t, err)
	return h, p
}

func title(key, to string) program.Change {
	value, _ := json.Marshal(to)
	return program.Change{Op: program.Set, Ref: program.Ref{Kind: program.KindItem, Key: key}, Field: "title", Value: value}
}

func steps(t *testing.T, l *live.Line) (undo, redo string) {
	t.Helper()
	undo, redo, err := l.Steps(ctx, "a")
	require.NoError(t, err)
	return undo, redo
}

func titleOf(p *live.Line, key string) string {
	state := p.State()
	return state.Program.Items[program.TreeOf(state.Program).Index[key]].Title
}

func TestUndoAndRedoAreEachClientsOwn(t *testing.T) {
	_, p := start(t, t.TempDir())
	do := func(by live.Author, key, to string) {
		_, err := p.Apply(ctx, by, p.State().Revision, "Rename "+key, []program.Change{title(key, to)})
		require.NoError(t, err)
	}
	do(ann, "I1", "one")
	do(ann, "I2", "two")
	do(ben, "I3", "three")
	undo, redo := steps(t, p)
	assert.Equal(t, "Rename I2", undo)
	assert.Empty(t, redo)
	_, err := p.Undo(ctx, ann)
	require.NoError(t, err)
	assert.Equal(t, "Item 2", titleOf(p, "I2"))
	assert.Equal(t, "three", titleOf(p, "I3"), "Ben's edit stays")
	_, err = p.Redo(ctx, ann)
	require.NoError(t, err)
	assert.Equal(t, "two", titleOf(p, "I2"))
	_, err = p.Undo(ctx, ann)
	require.NoError(t, err)
	_, err = p.Undo(ctx, ann)
	require.NoError(t, err)
	assert.Equal(t, "Item 1", titleOf(p, "I1"))
	_, err = p.Undo(ctx, ann)
	assert.ErrorIs(t, err, live.ErrNothingToDo)
	do(ann, "I4", "four")
	_, err = p.Redo(ctx, ann)
	assert.ErrorIs(t, err, live.ErrNothingToDo, "a new edit ends what could be redone")
}

func TestUndoRefusesToTakeBackSomebodyElsesEdit(t *testing.T) {
	_, p := start(t, t.TempDir())
	_, err := p.Apply(ctx, ann, 0, "Rename", []program.Change{title("I1", "mine")})
	require.NoError(t, err)
	_, err = p.Apply(ctx, ben, 1, "Rename", []program.Change{title("I1", "theirs")})
	require.NoError(t, err)
	_, err = p.Undo(ctx, ann)
	var conflict *live.Conflict
	require.ErrorAs(t, err, &conflict)
	assert.Equal(t, "theirs", titleOf(p, "I1"))
}

func TestAChangeToWhatAnotherChangedMeanwhileIsRefused(t *testing.T) {
	_, p := start(t, t.TempDir())
	_, err := p.Apply(ctx, ann, 0, "Rename", []program.Change{title("I1", "mine")})
	require.NoError(t, err)
	_, err = p.Apply(ctx, ben, 0, "Rename", []program.Change{title("I2", "other"), title("I1", "theirs")})
	var conflict *live.Conflict
	require.ErrorAs(t, err, &conflict)
	assert.JSONEq(t, `"mine"`, string(conflict.Theirs))
	assert.JSONEq(t, `"theirs"`, string(conflict.Yours))
	assert.Equal(t, "Ann", conflict.By)
	assert.Equal(t, "Item 2", titleOf(p, "I2"), "nothing is half applied")
	_, err = p.Apply(ctx, ben, 0, "Rename", []program.Change{title("I2", "other")})
	assert.NoError(t, err, "another field on the old revision is fine")
	_, err = p.Apply(ctx, ann, 0, "Rename", []program.Change{title("I1", "mine again")})
	assert.NoError(t, err, "one's own edits are no conflict")
	_, err = p.Apply(ctx, ann, 99, "Rename", []program.Change{title("I1", "x")})
	assert.ErrorIs(t, err, live.ErrFuture)
}

func TestANeedThatClosesACycleIsRefused(t *testing.T) {
	_, p := start(t, t.TempDir())
	add := func(item, needs string) program.Change {
		return program.Change{Op: program.Add, Ref: program.Ref{Kind: program.KindNeed, In: item, Key: needs}, Value: json.RawMessage(`{"item":"` + item + `","needs":"` + needs + `"}`)}
	}
	// New items, so that the sample's own needs do not matter.
	var changes []program.Change
	for _, key := range []string{"A", "B", "C"} {
		changes = append(changes, program.Change{Op: program.Add, Ref: program.Ref{Kind: program.KindItem, Key: key}, Value: json.RawMessage(`{"key":"` + key + `","title":"","kind":"story"}`)})
	}
	_, err := p.Apply(ctx, ann, 0, "Add", append(changes, add("A", "B"), add("B", "C")))
	require.NoError(t, err)
	_, err = p.Apply(ctx, ann, 1, "Add", []program.Change{add("C", "A")})
	var cycle *needs.CycleError
	require.ErrorAs(t, err, &cycle)
	assert.Equal(t, []string{"C", "A", "B", "C"}, cycle.Keys)
	_, err = p.Apply(ctx, ann, 1, "Add", []program.Change{{Op: program.Remove, Ref: program.Ref{Kind: program.KindNeed, In: "B", Key: "C"}}, add("C", "A")})
	assert.NoError(t, err)
}

func TestSubscribersSeeEveryEditInOrder(t *testing.T) {
	h, p := start(t, t.TempDir())
	updates, end := p.Subscribe()
	for i := range 5 {
		_, err := p.Apply(ctx, ann, int64(i), "Size", []program.Change{{Op: program.Set, Ref: program.Ref{Kind: program.KindItem, Key: "I1"}, Field: "size", Value: json.RawMessage("null")}})
		require.NoError(t, err)
		u := <-updates
		assert.Equal(t, int64(i), u.From)
		assert.Equal(t, int64(i+1), u.Revision)
		if i == 0 {
			assert.NotEmpty(t, u.Facts.Items)
		}
	}
	assert.Contains(t, p.State().Facts.Counts.NotReady, "I1")
	end()
	_, open := <-updates
	assert.False(t, open)
	again, _ := p.Subscribe()
	h.Close()
	_, open = <-again
	assert.False(t, open)
}

func TestAStopLosesNothing(t *testing.T) {
	folder := t.TempDir()
	_, p := start(t, folder)
	for i := range 3 {
		_, err := p.Apply(ctx, ann, int64(i), "Rename", []program.Change{title("I1", string(rune('a'+i)))})
		require.NoError(t, err)
	}
	_, err := p.Undo(ctx, ann)
	require.NoError(t, err)
	again, err := hub(t, folder).Open(ctx, 1)
	require.NoError(t, err)
	assert.Equal(t, p.State().Revision, again.State().Revision)
	assert.Equal(t, "b", titleOf(again, "I1"))
	undo, redo := steps(t, again)
	assert.Equal(t, "Rename", undo)
	assert.Equal(t, "Rename", redo)
	_, err = again.Redo(ctx, ann)
	require.NoError(t, err)
	assert.Equal(t, "c", titleOf(again, "I1"))
}

func TestManyWritersLoseNoEdit(t *testing.T) {
	_, p := start(t, t.TempDir())
	var wait sync.WaitGroup
	for w := range 4 {
		wait.Go(func() {
			by := live.Author{Actor: "W", Client: string(rune('a' + w))}
			key := []string{"I1", "I2", "I3", "I4"}[w]
			for i := range 10 {
				_, err := p.Apply(ctx, by, p.State().Revision, "Rename", []program.Change{title(key, string(rune('0'+i)))})
				assert.NoError(t, err)
			}
		})
	}
	wait.Wait()
	assert.Equal(t, int64(40), p.State().Revision)
	for _, key := range []string{"I1", "I2", "I3", "I4"} {
		assert.Equal(t, "9", titleOf(p, key))
	}
	assert.Equal(t, standing.Of(plan.Of(p.State().Program), sample.Today), p.State().Facts)
}

// computes skips a test that computes much and does little at once when only the latter is asked
// about: with the race detector.
func computes(t *testing.T) {
	t.Helper()
	if testing.Short() {
		t.Skip("computes much, does little at once")
	}
}

func TestLandingsRememberTheOnesBefore(t *testing.T) {
	_, p := start(t, t.TempDir())
	now, before, err := p.Landings(ctx)
	require.NoError(t, err)
	assert.Zero(t, now.Revision)
	assert.Nil(t, before)
	_, err = p.Apply(ctx, ann, 0, "Rename", []program.Change{title("I1", "x")})
	require.NoError(t, err)
	now, before, err = p.Landings(ctx)
	require.NoError(t, err)
	assert.Equal(t, int64(1), now.Revision)
	assert.Equal(t, now.Result.Releases, before.Result.Releases, "a new title changes no date: the luck is the same")
}

// What cannot be taken back is stepped past, by its name, and undo goes on with the one before.
func TestUndoStepsPastWhatIsSomebodyElses(t *testing.T) {
	_, l := start(t, t.TempDir())
	keys := l.State().Program.Items
	first, second := keys[0].Key, keys[1].Key
	edit := func(by live.Author, label, key, to string) {
		_, err := l.Apply(ctx, by, l.State().Revision, label, []program.Change{title(key, to)})
		require.NoError(t, err)
	}
	before := titleOf(l, first)
	edit(ann, "First", first, "ann's")
	edit(ann, "Second", second, "ann's too")
	edit(ben, "Ben's", second, "ben's")
	_, err := l.Undo(ctx, ann)
	var conflict *live.Conflict
	require.ErrorAs(t, err, &conflict)
	assert.ErrorIs(t, l.StepPast(ctx, "a", journal.Undo, "Another"), live.ErrNothingToDo, "only what is named")
	require.NoError(t, l.StepPast(ctx, "a", journal.Undo, "Second"))
	undo, redo := steps(t, l)
	assert.Equal(t, "First", undo)
	assert.Empty(t, redo)
	_, err = l.Undo(ctx, ann)
	require.NoError(t, err)
	assert.Equal(t, before, titleOf(l, first))
	assert.Equal(t, "ben's", titleOf(l, second))
	assert.ErrorIs(t, l.StepPast(ctx, "a", journal.Undo, ""), live.ErrNothingToDo)
}

package store_test

import (
	"context"
	"encoding/json"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/program"
	"jantrel/internal/sample"
	"jantrel/internal/store"
)

func open(t testing.TB, folder string) *store.Store {
	t.Helper()
	s, err := store.Open(folder)
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Close() })
	return s
}

func same(t *testing.T, want, got program.Program, why ...any) {
	t.Helper()
	a, err := json.Marshal(want)
	require.NoError(t, err)
	b, err := json.Marshal(got)
	require.NoError(t, err)
	require.Equal(t, string(a), string(b), why...)
}

var ctx = context.Background()

func TestWhatIsStoredIsWhatIsLoaded(t *testing.T) {
	s := open(t, t.TempDir())
	for seed := range uint64(12) {
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 4, Items: 25, Needs: 20, Wild: true, Cycles: true})
		id, err := s.Create(ctx, p)
		require.NoError(t, err)
		got, revision, err := s.Load(ctx, id)
		require.NoError(t, err)
		assert.Zero(t, revision)
		same(t, p, got)
	}
	list, err := s.Programs(ctx)
	require.NoError(t, err)
	assert.Len(t, list, 12)
}

// Every kind of change: the rows after it are those of the program after it.
func TestCommitWritesWhatChanged(t *testing.T) {
	s := open(t, t.TempDir())
	p := sample.Program(3, sample.Shape{Teams: 3, Iterations: 4, Items: 25, Needs: 20, Wild: true})
	id, err := s.Create(ctx, p)
	require.NoError(t, err)
	need := p.Needs[0]
	at := 2
	change := func(op program.Op, kind program.Kind, in, key, field, value string) program.Change {
		c := program.Change{Op: op, Ref: program.Ref{Kind: kind, In: in, Key: key}, Field: field, At: &at}
		if value != "" {
			c.Value = json.RawMessage(value)
		}
		return c
	}
	for revision, changes := range [][]program.Change{
		{change(program.Set, program.KindItem, "", "I1", "size", "13")},
		{change(program.Move, program.KindItem, "", "I9", "", "")},
		{change(program.Add, program.KindItem, "", "NEW", "", `{"key":"NEW","title":"New","kind":"spike","tags":["a"]}`), change(program.Set, program.KindItem, "", "NEW", "due", `"2027-06-01"`)},
		{change(program.Remove, program.KindItem, "", "NEW", "", "")},
		{change(program.Remove, program.KindNeed, need.Item, need.Needs, "", ""), change(program.Add, program.KindNeed, need.Item, need.Needs, "", `{"item":"`+need.Item+`","needs":"`+need.Needs+`","lagDays":4}`)},
		{change(program.Move, program.KindNeed, p.Needs[4].Item, p.Needs[4].Needs, "", "")},
		{change(program.Set, program.KindTeam, "", "T1", "members", `[{"person":"p1","share":0.5,"roles":["x"]}]`), change(program.Set, program.KindTeam, "", "T1", "name", `"Renamed"`)},
		{change(program.Add, program.KindTeam, "", "NT", "", `{"key":"NT","name":"New","unit":"hours","iterations":[{"key":"a","start":"2027-03-01","end":"2027-03-07"}],"members":[{"person":"p0","share":1}]}`)},
		{change(program.Set, program.KindIteration, "NT", "a", "capacity", "7"), change(program.Add, program.KindIteration, "NT", "b", "", `{"key":"b","start":"2027-03-08","end":"2027-03-14"}`)},
		{change(program.Move, program.KindIteration, "NT", "a", "", "")},
		{change(program.Remove, program.KindTeam, "", "NT", "", "")},
		{change(program.Set, program.KindPerson, "", "p0", "daysOff", `[{"from":"2027-04-01","to":"2027-04-02"}]`)},
		{change(program.Set, program.KindRelease, "", "R0", "phases", `[{"key":"x","name":"X","start":"2027-04-01","end":"2027-04-02"}]`)},
		{change(program.Move, program.KindRelease, "", "R0", "", "")},
		{change(program.Set, program.KindMilestone, "", "M0", "needs", `["I1","I2"]`), change(program.Set, program.KindCadence, "", "two", "lengthDays", "7")},
		{change(program.Set, program.KindProgram, "", "", "name", `"Renamed"`), change(program.Set, program.KindProgram, "", "", "holidays", `[{"date":"2027-05-05","name":"H","teams":["T0"]}]`)},
		{change(program.Set, program.KindProgram, "", "", "fillTo", "0.5")},
		{change(program.Set, program.KindItem, "", "I1", "tasks", `[{"title":"Mount","hoursLeft":2}]`), change(program.Set, program.KindItem, "", "I1", "description", `"Why"`),
			change(program.Set, program.KindItem, "", "I2", "checks", `[{"text":"Seen","done":true}]`), change(program.Set, program.KindItem, "", "I2", "links", `[{"address":"https://docs.example.org"}]`)},
		{change(program.Set, program.KindProgram, "", "", "ready", `{"team":true}`), change(program.Set, program.KindProgram, "", "", "mix", `{"defect":0.2}`),
			change(program.Set, program.KindProgram, "", "", "views", `[]`), change(program.Set, program.KindProgram, "", "", "repeats", `[]`), change(program.Set, program.KindProgram, "", "", "patterns", `[]`)},
		{change(program.Set, program.KindProgram, "", "", "ready", `null`), change(program.Set, program.KindProgram, "", "", "mix", `null`)},
		{change(program.Add, program.KindComment, "I1", "new", "", `{"key":"new","item":"I1","by":"Bo","at":"2027-03-02T10:00:00Z","text":"Yes"}`)},
		{change(program.Set, program.KindComment, "I1", "new", "text", `"No"`), change(program.Move, program.KindComment, "I1", "new", "", "")},
		{change(program.Remove, program.KindComment, "I1", "new", "", "")},
	} {
		next, applied, err := program.ApplyAll(p, changes)
		require.NoError(t, err)
		edit := store.Edit{Revision: int64(revision + 1), At: time.Unix(int64(revision), 5).UTC(), Actor: "A", Client: "c", Label: "Edit", Sort: store.Plain, Changes: applied}
		require.NoError(t, s.Commit(ctx, id, next, edit))
		got, at, err := s.Load(ctx, id)
		require.NoError(t, err)
		same(t, next, got, changes[0].Describe())
		assert.Equal(t, edit.Revision, at)
		back, err := s.EditAt(ctx, id, edit.Revision)
		require.NoError(t, err)
		assert.Equal(t, edit, back, "the journal gives back the changes and their inverses")
		p = next
	}
	latest, err := s.LatestEdits(ctx, id, 0, 3)
	require.NoError(t, err)
	assert.Equal(t, []int64{23, 22, 21}, []int64{latest[0].Revision, latest[1].Revision, latest[2].Revision})
}

func TestAnEditOnAnotherRevisionWritesNothing(t *testing.T) {
	s := open(t, t.TempDir())
	p := sample.Program(1, sample.Shape{Teams: 1, Iterations: 2, Items: 4})
	id, err := s.Create(ctx, p)
	require.NoError(t, err)
	next, applied, err := program.ApplyAll(p, []program.Change{{Op: program.Set, Ref: program.Ref{Kind: program.KindItem, Key: "I1"}, Field: "title", Value: json.RawMessage(`"X"`)}})
	require.NoError(t, err)
	assert.Error(t, s.Commit(ctx, id, next, store.Edit{Revision: 5, Sort: store.Plain, Changes: applied}))
	got, _, err := s.Load(ctx, id)
	require.NoError(t, err)
	same(t, p, got)
}

func TestDeleteTakesEverything(t *testing.T) {
	s := open(t, t.TempDir())
	id, err := s.Create(ctx, sample.Program(1, sample.Shape{Teams: 1, Iterations: 2, Items: 4}))
	require.NoError(t, err)
	require.NoError(t, s.Delete(ctx, id))
	_, _, err = s.Load(ctx, id)
	assert.ErrorIs(t, err, store.ErrNotFound)
	assert.ErrorIs(t, s.Delete(ctx, id), store.ErrNotFound)
}

func TestAFolderThatCannotBeWritten(t *testing.T) {
	file := filepath.Join(t.TempDir(), "file")
	require.NoError(t, os.WriteFile(file, nil, 0o600))
	_, err := store.Open(filepath.Join(file, "below"))
	assert.ErrorContains(t, err, "cannot be made")
}

// A data folder of an earlier version opens with all it had.
func TestAnEarlierDatabaseIsBroughtUpToDate(t *testing.T) {
	folder := t.TempDir()
	s := open(t, folder)
	p := sample.Program(4, sample.Shape{Teams: 3, Iterations: 3, Items: 10})
	p.Teams[0].Members = []program.Member{{Person: "p0", Share: 0.5, Roles: []string{"any"}}, {Person: "p1", Share: 1}}
	id, err := s.Create(ctx, p)
	require.NoError(t, err)
	require.NoError(t, s.Close())
	require.NoError(t, store.MigrateTo(folder, 1))
	same(t, p, func() program.Program {
		got, _, err := open(t, folder).Load(ctx, id)
		require.NoError(t, err)
		return got
	}())
}

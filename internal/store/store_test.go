package store_test

import (
	"compress/gzip"
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"io"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/internal/exchange"
	"jantrel/internal/journal"
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
	a, err := json.MarshalIndent(want, "", " ")
	require.NoError(t, err)
	b, err := json.MarshalIndent(got, "", " ")
	require.NoError(t, err)
	require.Equal(t, strings.Split(string(a), "\n"), strings.Split(string(b), "\n"), why...)
}

var ctx = context.Background()

func TestWhatIsStoredIsWhatIsLoaded(t *testing.T) {
	s := open(t, t.TempDir())
	for seed := range uint64(12) {
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 4, Items: 25, Needs: 20, Wild: true, Rough: true, Cycles: true})
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
	p := sample.Program(3, sample.Shape{Teams: 3, Iterations: 4, Items: 25, Needs: 20, Wild: true, Rough: true})
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
		edit := journal.Edit{Revision: int64(revision + 1), At: time.Unix(int64(revision), 5).UTC(), Actor: "A", Client: "c", Label: "Edit", Sort: journal.Plain, Changes: applied}
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
	latest, err := s.LatestEdits(ctx, id, 0, 3, journal.Sought{})
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
	assert.Error(t, s.Commit(ctx, id, next, journal.Edit{Revision: 5, Sort: journal.Plain, Changes: applied}))
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
	assert.ErrorIs(t, err, journal.ErrNotFound)
	assert.ErrorIs(t, s.Delete(ctx, id), journal.ErrNotFound)
}

func TestAFolderThatCannotBeWritten(t *testing.T) {
	file := filepath.Join(t.TempDir(), "file")
	require.NoError(t, os.WriteFile(file, nil, 0o600))
	_, err := store.Open(filepath.Join(file, "below"))
	assert.ErrorContains(t, err, "cannot be made")
}

// A database of the version before lines, made by the program of that time, opens with
// all it had: the program, its journal, what is beside it, and whose comments are whose.
func TestAnEarlierDatabaseIsBroughtUpToDate(t *testing.T) {
	folder := t.TempDir()
	packed, err := os.Open("testdata/version4.db.gz")
	require.NoError(t, err)
	unpacked, err := gzip.NewReader(packed)
	require.NoError(t, err)
	database, err := io.ReadAll(unpacked)
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(filepath.Join(folder, store.FileName), database, 0o600))
	document, err := os.Open("testdata/version4.json") // exported by the same program
	require.NoError(t, err)
	want, err := exchange.ReadDocument(document)
	require.NoError(t, err)

	s := open(t, folder)
	list, err := s.Programs(ctx)
	require.NoError(t, err)
	require.Equal(t, []store.Summary{{ID: 2, Name: want.Name, Revision: 11, Items: len(want.Items)}}, list)
	line, err := s.Live(ctx, 2)
	require.NoError(t, err)
	got, revision, err := s.Load(ctx, line.ID)
	require.NoError(t, err)
	assert.Equal(t, int64(11), revision)
	said := slices.IndexFunc(want.Comments, func(c program.Comment) bool { return c.By == "Solveig Aune" })
	want.Comments[said].Author = "1" // the one account that has this name; nobody here is called Ann
	same(t, want, got)

	edits, err := s.EditsAfter(ctx, line.ID, 0)
	require.NoError(t, err)
	require.Len(t, edits, 11)
	assert.Equal(t, journal.Undo, edits[5].Sort)
	before := got
	for i := len(edits) - 1; i >= 0; i-- {
		before, _, err = program.ApplyAll(before, program.Inverses(edits[i].Changes))
		require.NoError(t, err, "edit %d", i+1)
	}
	again := before
	for _, e := range edits {
		for _, a := range e.Changes {
			again, _, err = program.Apply(again, a.Change)
			require.NoError(t, err)
		}
	}
	again.Comments[said].Author = "1" // comments of today say more than their entries in the journal
	same(t, got, again, "the journal leads back to the beginning and forth again")

	heads, err := s.Heads(ctx, line.ID, "1:b", 10)
	require.NoError(t, err)
	assert.Len(t, heads, 3)
	files, err := s.Attachments(ctx, 2, "I2")
	require.NoError(t, err)
	assert.Len(t, files, 1)
	views, err := s.PrivateViews(ctx, 2, 1)
	require.NoError(t, err)
	assert.Len(t, views, 1)
}

// The past of a line: when what was, checkpoints, and a copy that begins there.
func TestLinesAndTheirPast(t *testing.T) {
	folder := t.TempDir()
	s := open(t, folder)
	p := sample.Program(2, sample.Shape{Teams: 2, Iterations: 2, Items: 8, Needs: 4, Wild: true, Rough: true})
	id, err := s.Create(ctx, p)
	require.NoError(t, err)
	line, err := s.Live(ctx, id)
	require.NoError(t, err)
	noon := time.Date(2027, 3, 2, 12, 0, 0, 0, time.UTC)
	now := p
	for i := range 3 {
		next, applied, err := program.ApplyAll(now, []program.Change{program.SetTo(program.Ref{Kind: program.KindItem, Key: "I1"}, "title", strings.Repeat("x", i+1))})
		require.NoError(t, err)
		// Fractions of a second of every length stand in the order of time.
		at := noon.Add(time.Duration(i) * 100 * time.Millisecond)
		require.NoError(t, s.Commit(ctx, line.ID, next, journal.Edit{Revision: int64(i + 1), At: at, Client: "c", Sort: journal.Plain, Changes: applied}))
		now = next
	}
	for after, want := range map[time.Duration]int64{-time.Second: 0, 0: 1, 99 * time.Millisecond: 1, 100 * time.Millisecond: 2, time.Hour: 3} {
		got, err := s.RevisionAt(ctx, line.ID, noon.Add(after))
		require.NoError(t, err)
		assert.Equal(t, want, got, after)
	}
	n, err := s.CountChanges(ctx, line.ID, 1, 3)
	require.NoError(t, err)
	assert.Equal(t, int64(2), n)
	require.NoError(t, s.SaveCheckpoint(ctx, line.ID, journal.Checkpoint{Revision: 0, Program: p}))
	c, err := s.LoadCheckpoint(ctx, line.ID, 0)
	require.NoError(t, err)
	same(t, p, c.Program)

	copied, err := s.MakeScenario(ctx, line, 2, journal.About{Name: "Two seats more", Shared: true})
	require.NoError(t, err)
	require.NoError(t, s.Commit(ctx, copied.ID, now, journal.Edit{Revision: 3, At: noon, Client: "c", Label: "Theirs", Sort: journal.Plain, UpTo: new(int64(2))}))
	edits, err := s.LatestEdits(ctx, copied.ID, 0, 10, journal.Sought{})
	require.NoError(t, err)
	require.Len(t, edits, 3, "its own, after those of the live plan that it began with")
	assert.Equal(t, "Theirs", edits[0].Label)
	upTo, err := s.UpTo(ctx, copied.ID, 3)
	require.NoError(t, err)
	assert.Equal(t, int64(2), upTo)
	var kept int
	db, err := sql.Open("sqlite", filepath.Join(folder, store.FileName))
	require.NoError(t, err)
	require.NoError(t, db.QueryRowContext(ctx, `SELECT count(*) FROM things WHERE line_id = ?`, copied.ID).Scan(&kept))
	require.NoError(t, db.Close())
	assert.Zero(t, kept, "a scenario keeps its changes alone")
	lines, err := s.Lines(ctx, id)
	require.NoError(t, err)
	require.Len(t, lines, 2)
	assert.Nil(t, lines[0].Base)
	assert.Equal(t, line.ID, *lines[1].Base)
	list, err := s.Programs(ctx)
	require.NoError(t, err)
	assert.Len(t, list, 1, "a copy is no program of its own")
	require.NoError(t, s.Delete(ctx, id))
	_, err = s.Line(ctx, copied.ID)
	assert.ErrorIs(t, err, journal.ErrNotFound, "copies go with their program")
}

// A journal of a later program is not guessed at.
func TestAJournalOfALaterFormatIsRefused(t *testing.T) {
	folder := t.TempDir()
	s := open(t, folder)
	p := sample.Program(2, sample.Shape{Teams: 1, Iterations: 2, Items: 2})
	id, err := s.Create(ctx, p)
	require.NoError(t, err)
	next, applied, err := program.ApplyAll(p, []program.Change{program.SetTo(program.Ref{Kind: program.KindItem, Key: "I1"}, "title", "x")})
	require.NoError(t, err)
	require.NoError(t, s.Commit(ctx, id, next, journal.Edit{Revision: 1, Sort: journal.Plain, Changes: applied}))
	require.NoError(t, s.Close())
	db, err := sql.Open("sqlite", filepath.Join(folder, store.FileName))
	require.NoError(t, err)
	_, err = db.ExecContext(ctx, `UPDATE edits SET format = 99`)
	require.NoError(t, err)
	require.NoError(t, db.Close())
	_, err = open(t, folder).EditsAfter(ctx, id, 0)
	assert.ErrorContains(t, err, "use a newer one")
}

// A full disk refuses edits by a word of its own; reading goes on, and once there is room,
// writing too.
func TestAFullDisk(t *testing.T) {
	s, err := store.Open(t.TempDir())
	require.NoError(t, err)
	defer func() { _ = s.Close() }()
	p := sample.Program(1, sample.Shape{Teams: 2, Iterations: 3, Items: 10})
	id, err := s.Create(t.Context(), p)
	require.NoError(t, err)
	require.NoError(t, s.Fill(t.Context()))
	_, err = s.Create(t.Context(), sample.Program(2, sample.Shape{Teams: 20, Iterations: 20, Items: 500}))
	var fault *journal.Fault
	require.ErrorAs(t, err, &fault)
	assert.True(t, fault.Full())
	line, err := s.Live(t.Context(), id)
	require.NoError(t, err)
	read, _, err := s.Load(t.Context(), line.ID)
	require.NoError(t, err)
	assert.Equal(t, p.Name, read.Name)
	require.NoError(t, s.Empty(t.Context()))
	_, err = s.Create(t.Context(), p)
	assert.NoError(t, err)
	assert.False(t, (&journal.Fault{Err: errors.New("other")}).Full())
}

func TestADatabaseOfALaterVersionIsRefused(t *testing.T) {
	folder := t.TempDir()
	s, err := store.Open(folder)
	require.NoError(t, err)
	require.NoError(t, s.Later(t.Context()))
	require.NoError(t, s.Close())
	_, err = store.Open(folder)
	require.ErrorContains(t, err, "made by a later version of Jantrel")
	assert.ErrorContains(t, err, "version 999")
}

func TestOneServerAFolder(t *testing.T) {
	folder := filepath.Join(t.TempDir(), "data")
	release, err := store.Lock(folder)
	require.NoError(t, err)
	_, err = store.Lock(folder)
	require.ErrorContains(t, err, "another server runs on the data folder")
	require.NoError(t, release())
	release, err = store.Lock(folder)
	require.NoError(t, err)
	require.NoError(t, release())
	_, err = store.OpenExisting(folder)
	require.ErrorContains(t, err, "there is no database in")
	s, err := store.Open(folder)
	require.NoError(t, err)
	require.NoError(t, s.Close())
	info, err := os.Stat(filepath.Join(folder, store.FileName))
	require.NoError(t, err)
	assert.Equal(t, os.FileMode(0o600), info.Mode().Perm(), "others on the machine do not read it")
}

func TestVerifyFindsDamage(t *testing.T) {
	s, err := store.Open(t.TempDir())
	require.NoError(t, err)
	defer func() { _ = s.Close() }()
	id, err := s.Create(t.Context(), sample.Program(1, sample.Shape{Teams: 2, Iterations: 3, Items: 10}))
	require.NoError(t, err)
	_, err = s.AddAttachment(t.Context(), id, store.Attachment{Item: "I1", Name: "plan.txt"}, []byte("three words long"))
	require.NoError(t, err)
	faults, err := s.Verify(t.Context())
	require.NoError(t, err)
	assert.Empty(t, faults)
	require.NoError(t, s.Damage(t.Context()))
	faults, err = s.Verify(t.Context())
	require.NoError(t, err)
	assert.Equal(t, []string{"the file plan.txt of I1 in program 1 is not what it was"}, faults)
}

package store_test

import (
	"encoding/json"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/internal/journal"
	"jantrel/internal/store"
)

func TestFilesAndPrivateViewsAreKeptBesideAProgram(t *testing.T) {
	s := open(t, t.TempDir())
	id, err := s.Create(ctx, sample.Program(1, sample.Shape{Teams: 1, Iterations: 4, Items: 4}))
	require.NoError(t, err)
	other, err := s.Create(ctx, sample.Program(2, sample.Shape{Teams: 1, Iterations: 4, Items: 4}))
	require.NoError(t, err)

	added, err := s.AddAttachment(ctx, id, store.Attachment{Item: "I1", Name: "a.txt", Type: "text/plain", AddedBy: "Ann", AddedAt: "2027-03-02T10:00:00Z"}, []byte("hello"))
	require.NoError(t, err)
	list, err := s.Attachments(ctx, id, "I1")
	require.NoError(t, err)
	assert.Equal(t, []store.Attachment{added}, list)
	got, content, err := s.Attachment(ctx, id, added.ID)
	require.NoError(t, err)
	assert.Equal(t, added, got)
	assert.Equal(t, "hello", string(content))
	size, err := s.AttachmentsSize(ctx, id)
	require.NoError(t, err)
	assert.Equal(t, int64(5), size)
	_, _, err = s.Attachment(ctx, other, added.ID)
	assert.ErrorIs(t, err, store.ErrNoAttachment, "another program's files are out of reach")
	require.NoError(t, s.RemoveAttachment(ctx, other, added.ID))
	_, _, err = s.Attachment(ctx, id, added.ID)
	require.NoError(t, err, "and cannot be removed from there")
	require.NoError(t, s.RemoveAttachment(ctx, id, added.ID))
	_, _, err = s.Attachment(ctx, id, added.ID)
	assert.ErrorIs(t, err, store.ErrNoAttachment)

	account, err := s.AddAccount(ctx, store.Account{Login: "ann", Name: "Ann", CreatedAt: "2027-03-02T10:00:00Z"})
	require.NoError(t, err)
	views, err := s.PrivateViews(ctx, id, account.ID)
	require.NoError(t, err)
	assert.Empty(t, views)
	for _, name := range []string{"Mine", "Still mine"} {
		kept := []program.View{{Key: "v", Name: name, Group: "team"}}
		require.NoError(t, s.KeepPrivateViews(ctx, id, account.ID, kept))
		views, err = s.PrivateViews(ctx, id, account.ID)
		require.NoError(t, err)
		assert.Equal(t, kept, views)
	}
	views, err = s.PrivateViews(ctx, other, account.ID)
	require.NoError(t, err)
	assert.Empty(t, views)
}

func TestTheJournalKnowsWhatHappenedToAnItem(t *testing.T) {
	s := open(t, t.TempDir())
	p := sample.Program(1, sample.Shape{Teams: 1, Iterations: 4, Items: 6})
	id, err := s.Create(ctx, p)
	require.NoError(t, err)
	commit := func(label string, changes ...program.Change) {
		t.Helper()
		next, applied, err := program.ApplyAll(p, changes)
		require.NoError(t, err)
		_, revision, err := s.Load(ctx, id)
		require.NoError(t, err)
		at := time.Date(2027, 3, int(revision)+1, 12, 0, 0, 0, time.UTC)
		require.NoError(t, s.Commit(ctx, id, next, journal.Edit{Revision: revision + 1, At: at, Actor: "Ann", Client: "c", Label: label, Sort: journal.Plain, Changes: applied}))
		p = next
	}
	set := func(key, title string) program.Change {
		return program.SetTo(program.Ref{Kind: program.KindItem, Key: key}, "title", title)
	}
	commit("both", set("I1", "a"), set("I2", "b"))
	commit("other", set("I3", "c"))
	commit("need", program.AddOf(program.Ref{Kind: program.KindNeed, In: "I1", Key: "I2"}, program.Need{Item: "I1", Needs: "I2"}))
	commit("said", program.Change{Op: program.Add, Ref: program.Ref{Kind: program.KindComment, In: "I1", Key: "k"}, Value: json.RawMessage(`{"key":"k","item":"I1","by":"Ann","text":"?"}`)})

	labels := func(item string, limit int) (found []string) {
		edits, err := s.EditsOf(ctx, id, 1<<40, program.Ref{Kind: program.KindItem, Key: item}, limit)
		require.NoError(t, err)
		for _, e := range edits {
			found = append(found, e.Label)
			for _, a := range e.Changes {
				ref := a.Change.Ref
				assert.True(t, ref.Key == item || ref.In == item, "only what is about it: %s", a.Change.Describe())
			}
		}
		return found
	}
	assert.Equal(t, []string{"said", "need", "both"}, labels("I1", 10))
	assert.Equal(t, []string{"need", "both"}, labels("I2", 10), "a need on it is about it, too")
	assert.Equal(t, []string{"said"}, labels("I1", 1))
	assert.Empty(t, labels("I5", 10))

	last, err := s.LastChanges(ctx, id, 1<<40, nil)
	require.NoError(t, err)
	assert.Equal(t, map[string]int{"I1": 4, "I2": 1, "I3": 2}, map[string]int{"I1": last["I1"].Day(), "I2": last["I2"].Day(), "I3": last["I3"].Day()})
	assert.NotContains(t, last, "I5")
	last, err = s.LastChanges(ctx, id, 1<<40, []int64{4})
	require.NoError(t, err)
	assert.Less(t, last["I1"].Day(), 4)
}

// Files that somebody keeps, and their views, are kept side by side.
func TestExportsOfOnesOwn(t *testing.T) {
	s := open(t, t.TempDir())
	id, err := s.Create(ctx, sample.Program(1, sample.Shape{Teams: 1, Iterations: 4, Items: 4}))
	require.NoError(t, err)
	account, err := s.AddAccount(ctx, store.Account{Login: "ann", Name: "Ann", CreatedAt: "2027-03-02T10:00:00Z"})
	require.NoError(t, err)
	none, err := s.Exports(ctx, id, account.ID)
	require.NoError(t, err)
	assert.Empty(t, none)
	exports := []store.Export{{Name: "Capacity", File: "capacity", Way: "XLSX", Ago: 28, Ahead: 84}}
	require.NoError(t, s.KeepExports(ctx, id, account.ID, exports))
	require.NoError(t, s.KeepPrivateViews(ctx, id, account.ID, []program.View{{Key: "v", Name: "Mine"}}))
	kept, err := s.Exports(ctx, id, account.ID)
	require.NoError(t, err)
	assert.Equal(t, exports, kept)
	views, err := s.PrivateViews(ctx, id, account.ID)
	require.NoError(t, err)
	assert.Len(t, views, 1)
	require.NoError(t, s.KeepExports(ctx, id, account.ID, nil))
	views, err = s.PrivateViews(ctx, id, account.ID)
	require.NoError(t, err)
	assert.Len(t, views, 1)
}

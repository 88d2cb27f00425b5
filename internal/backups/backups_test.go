package backups_test

import (
	"context"
	"log/slog"
	"os"
	"path/filepath"
	"testing"
	"testing/synctest"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/sample"
	"jantrel/internal/backups"
	"jantrel/internal/store"
)

func keeper(t *testing.T, keep int, every time.Duration) (*backups.Keeper, *time.Time) {
	t.Helper()
	s, err := store.Open(t.TempDir())
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Close() })
	now := time.Date(2027, 3, 2, 12, 0, 0, 0, time.UTC)
	return &backups.Keeper{Store: s, Folder: filepath.Join(t.TempDir(), "backups"), Keep: keep, Every: every, Clock: func() time.Time { return now }, Log: slog.New(slog.DiscardHandler)}, &now
}

// So many are kept, the newest; what is no backup stays, and what is half made goes.
func TestTheNewestAreKept(t *testing.T) {
	k, now := keeper(t, 3, 0)
	_, err := k.Store.Create(t.Context(), sample.Wide(2, 3, 4))
	require.NoError(t, err)
	list, err := k.List()
	require.NoError(t, err)
	assert.Empty(t, list)
	for i := range 5 {
		if i == 1 {
			for _, name := range []string{"notes.txt", "jantrel-20270101-000000.db.part", "jantrel-20270101-000000.db.part-wal"} {
				require.NoError(t, os.WriteFile(filepath.Join(k.Folder, name), nil, 0o600))
			}
		}
		made, err := k.Make(t.Context())
		require.NoError(t, err)
		assert.Positive(t, made.Size)
		*now = now.Add(time.Hour)
	}
	list, err = k.List()
	require.NoError(t, err)
	var names []string
	for _, b := range list {
		names = append(names, b.Name)
	}
	assert.Equal(t, []string{"jantrel-20270302-160000.db", "jantrel-20270302-150000.db", "jantrel-20270302-140000.db"}, names)
	files, err := os.ReadDir(k.Folder)
	require.NoError(t, err)
	assert.Len(t, files, 4, "three, and the notes")

	restored := t.TempDir()
	require.NoError(t, store.Restore(t.Context(), filepath.Join(k.Folder, names[0]), filepath.Join(restored, "data")))
	s, err := store.OpenExisting(filepath.Join(restored, "data"))
	require.NoError(t, err)
	defer func() { _ = s.Close() }()
	programs, err := s.Programs(t.Context())
	require.NoError(t, err)
	assert.Len(t, programs, 1)
}

// Nothing but backups can be opened.
func TestOnlyBackupsAreOpened(t *testing.T) {
	k, _ := keeper(t, 0, 0)
	made, err := k.Make(t.Context())
	require.NoError(t, err)
	f, err := k.Open(made.Name)
	require.NoError(t, err)
	require.NoError(t, f.Close())
	require.NoError(t, os.WriteFile(filepath.Join(k.Folder, "notes.txt"), nil, 0o600))
	for _, name := range []string{"notes.txt", "../" + made.Name, "", "jantrel-20270101-000000.db", "/etc/passwd", made.Name + "/"} {
		_, err := k.Open(name)
		assert.ErrorIs(t, err, backups.ErrNone, name)
	}
}

// The schedule goes by the last one that there is, over restarts too.
func TestTheSchedule(t *testing.T) {
	k, _ := keeper(t, 0, 24*time.Hour)
	synctest.Test(t, func(t *testing.T) {
		k.Clock = time.Now
		run := func(d time.Duration) int {
			ctx, end := context.WithTimeout(t.Context(), d)
			defer end()
			k.Run(ctx)
			list, err := k.List()
			require.NoError(t, err)
			return len(list)
		}
		assert.Equal(t, 1, run(time.Hour), "one at once")
		assert.Equal(t, 1, run(22*time.Hour), "it started again, and the last is not a day old")
		assert.Equal(t, 2, run(2*time.Hour))
		assert.Equal(t, 5, run(73*time.Hour))
		k.Every = 0
		assert.Equal(t, 5, run(time.Hour), "and none without a schedule")
	})
}

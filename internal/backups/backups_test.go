package backups_test

import (
	"context"
	"log/slog"
	"os"
	"path/filepath"
	"strings"
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

// A clock that ran ahead takes no backup away and stops none: those of times to come stay, are told, and do not count.
func TestAClockThatRanAhead(t *testing.T) {
	k, now := keeper(t, 2, 24*time.Hour)
	var log strings.Builder
	k.Log = slog.New(slog.NewTextHandler(&log, nil))
	begin := *now
	*now = begin.AddDate(5, 0, 0)
	for range 3 {
		_, err := k.Make(t.Context())
		require.NoError(t, err)
		*now = now.Add(24 * time.Hour)
	}
	*now = begin
	var made []string
	for range 4 {
		b, err := k.Make(t.Context())
		require.NoError(t, err)
		made = append(made, b.Name)
		list, err := k.List()
		require.NoError(t, err)
		last, has := backups.Last(list)
		require.True(t, has)
		assert.Equal(t, b.Name, last.Name, "what was just made is there, and the newest")
		*now = now.Add(time.Hour)
	}
	list, err := k.List()
	require.NoError(t, err)
	var names []string
	for _, b := range list {
		names = append(names, b.Name)
		assert.Equal(t, strings.HasPrefix(b.Name, "jantrel-2032"), b.Ahead, b.Name)
	}
	assert.Equal(t, []string{"jantrel-20320304-120000.db", "jantrel-20320303-120000.db", made[3], made[2]}, names)
	assert.Contains(t, log.String(), "the clock ran ahead")
}

// Two backups within a second are two files, the later one newer.
func TestTwoBackupsWithinASecond(t *testing.T) {
	k, _ := keeper(t, 2, 0)
	for _, want := range []string{"jantrel-20270302-120000.db", "jantrel-20270302-120000-2.db", "jantrel-20270302-120000-3.db"} {
		made, err := k.Make(t.Context())
		require.NoError(t, err)
		assert.Equal(t, want, made.Name)
		f, err := k.Open(made.Name)
		require.NoError(t, err)
		require.NoError(t, f.Close())
	}
	list, err := k.List()
	require.NoError(t, err)
	require.Len(t, list, 2)
	assert.Equal(t, "jantrel-20270302-120000-3.db", list[0].Name)
	assert.Equal(t, "jantrel-20270302-120000-2.db", list[1].Name)
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
		require.NoError(t, os.WriteFile(filepath.Join(k.Folder, "jantrel-29990101-000000.db"), nil, 0o600))
		assert.Equal(t, 7, run(25*time.Hour), "one that a clock made that ran ahead stops none")
		k.Every = 0
		assert.Equal(t, 7, run(time.Hour), "and none without a schedule")
	})
}

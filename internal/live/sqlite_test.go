//go:build !memory

package live_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"jantrel/internal/live"
	"jantrel/internal/store"
)

// keep opens what is kept in a folder. With the tag memory it is kept in memory instead, by internal/store/memory: the
// race detector then has no database to compile and to slow down.
func keep(t testing.TB, folder string) live.Store {
	t.Helper()
	s, err := store.Open(folder)
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Close() })
	return s
}

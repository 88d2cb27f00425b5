package store_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/internal/store"
)

// Many refusals drive out refusals alone: whoever signed in, or was given a role, stays in the audit log.
func TestEachEventOfTheAuditLogHasItsOwnQuota(t *testing.T) {
	s, err := store.Open(t.TempDir())
	require.NoError(t, err)
	t.Cleanup(func() { require.NoError(t, s.Close()) })
	note := func(event store.Event, name string) {
		require.NoError(t, s.Note(t.Context(), time.Unix(0, 0), store.Audited{Event: event, Account: name}))
	}
	note(store.SignedIn, "ann")
	for i := range 250 {
		note(store.SignInRefused, fmt.Sprint(i))
	}
	note(store.RoleGiven, "ann")
	for _, event := range store.Events {
		require.NoError(t, s.TrimAudit(t.Context(), event, 20))
	}
	of := func(event store.Event) []store.Audited {
		list, err := s.Audit(t.Context(), store.AuditOf{Event: event}, 1000)
		require.NoError(t, err)
		return list
	}
	refused := of(store.SignInRefused)
	require.Len(t, refused, 20)
	assert.Equal(t, "249", refused[0].Account, "the newest stay")
	assert.Len(t, of(store.SignedIn), 1)
	assert.Len(t, of(store.RoleGiven), 1)
}

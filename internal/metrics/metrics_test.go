package metrics_test

import (
	"net/http"
	"net/http/httptest"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/internal/demo"
	"jantrel/internal/live"
	"jantrel/internal/metrics"
	"jantrel/internal/store"
)

// What a server did and holds can be read; nobody can make up more series by asking oddly.
func TestMetrics(t *testing.T) {
	folder := t.TempDir()
	s, err := store.Open(folder)
	require.NoError(t, err)
	defer func() { _ = s.Close() }()
	hub := live.NewHub(s, time.Now, func() program.Date { return sample.Today })
	defer hub.Close()
	m := metrics.New(metrics.Of{Hub: hub, Store: s, Data: folder, Version: "1.2"})
	read := func() string {
		answer := httptest.NewRecorder()
		m.Handler().ServeHTTP(answer, httptest.NewRequest(http.MethodGet, "/metrics", nil))
		require.Equal(t, http.StatusOK, answer.Code)
		return answer.Body.String()
	}
	assert.Contains(t, read(), "jantrel_lines 0\n")

	id, err := hub.Create(t.Context(), demo.Program(sample.Today))
	require.NoError(t, err)
	l, err := hub.Open(t.Context(), id)
	require.NoError(t, err)
	before := hub.Counts().Edits
	_, err = l.Apply(t.Context(), live.Author{Client: "a"}, l.State().Revision, "Edit", []program.Change{
		program.SetTo(program.Ref{Kind: program.KindItem, Key: "LC-8"}, "title", "A"), program.SetTo(program.Ref{Kind: program.KindItem, Key: "LC-7"}, "title", "B"),
	})
	require.NoError(t, err)
	assert.Equal(t, before+1, hub.Counts().Edits)
	now, _, err := l.Landings(t.Context())
	require.NoError(t, err)
	_, end := l.Subscribe()
	for _, method := range []string{"GET", "GET", "BREW", "STIR"} {
		m.Seen("/api/v1/programs/:id", method, 200, 3*time.Millisecond)
	}
	text := read()
	for _, line := range []string{
		`jantrel_info{version="1.2"} 1`, "jantrel_lines 1", "jantrel_listeners 1", "jantrel_answers_waiting 0",
		`jantrel_request_seconds_count{method="GET",operation="/api/v1/programs/:id",status="200"} 2`,
		`jantrel_request_seconds_count{method="other",operation="/api/v1/programs/:id",status="200"} 2`,
	} {
		assert.Contains(t, text, line+"\n")
	}
	assert.EqualValues(t, now.Result.Plays, hub.Counts().Plays)
	for _, name := range []string{"jantrel_edits_total ", "jantrel_changes_total ", "jantrel_plays_total ", "jantrel_database_bytes ", "jantrel_disk_free_bytes ", "go_memstats_alloc_bytes "} {
		assert.Contains(t, text, "\n"+name)
	}
	end()
	assert.Contains(t, read(), "jantrel_listeners 0\n")
}

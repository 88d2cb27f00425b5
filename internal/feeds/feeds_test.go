package feeds_test

import (
	"net/http/httptest"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/core/sample"
	"jantrel/internal/feeds"
	"jantrel/internal/standin"
)

// What a stand-in serves is read back: the program's own days off, and beside them
// what it adds.
func TestTheStandInIsReadBack(t *testing.T) {
	p := sample.Program(3, sample.Shape{Teams: 3, Iterations: 3, Items: 1, Wild: true})
	server := httptest.NewServer(standin.Calendars(p, sample.Today))
	defer server.Close()
	fetcher := feeds.NewCalendars(server.URL)
	span := calendar.Span{Start: sample.Today.Add(-400), End: sample.Today.Add(400)}
	for i, x := range p.People {
		events, err := fetcher.Fetch(t.Context(), "standin:"+x.Key, span)
		require.NoError(t, err)
		want := len(x.DaysOff)
		if i%3 == 2 {
			want++
		}
		assert.Len(t, events, want, x.Key)
		for _, e := range events {
			assert.NotContains(t, e.Name, "fell through")
			assert.NotContains(t, e.Name, "choir")
		}
	}
	_, err := fetcher.Fetch(t.Context(), "standin:nobody", span)
	assert.ErrorContains(t, err, "404")
	for _, address := range []string{"file:///etc/passwd", "ftp://example.org/a.ics", "nonsense", "http://169.254.169.254/latest"} {
		_, err := fetcher.Fetch(t.Context(), address, span)
		assert.Error(t, err, address)
	}
	_, err = feeds.NewCalendars("").Fetch(t.Context(), "standin:p0", span)
	assert.ErrorContains(t, err, "no stand-in runs")
}

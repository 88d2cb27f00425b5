package forecast_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/forecast"
	"jantrel/core/sample"
	"jantrel/internal/api/apitest"
	"jantrel/internal/demo"
)

// A promise is noted with the odds that the strip reads for its day; it is watched beside the dates, and calls for
// somebody once it will rather be missed.
func TestAPromiseHasTheOddsOfTheStrip(t *testing.T) {
	t.Parallel()
	p := demo.Program(sample.Today)
	due := p.Releases[0].Due
	url := apitest.Serve(t, p).URL + "/api/v1/programs/1"
	var landings struct{ Releases []forecast.Landing }
	require.NoError(t, json.Unmarshal([]byte(apitest.OK(t, http.MethodGet, url+"/landings", "").Text), &landings))
	strip := *landings.Releases[0].Chance

	give := func(revision int, intent string) map[string]any {
		return apitest.OK(t, http.MethodPost, url+"/do/give-promise", fmt.Sprintf(`{"client":"a","revision":%d,"intent":%s}`, revision, intent)).Body
	}
	assert.Equal(t, []any{"PR-1"}, give(0, fmt.Sprintf(`{"release":"R1","date":%q,"to":"Harbour board","note":"In the hall"}`, due))["keys"])
	give(1, fmt.Sprintf(`{"milestone":"M1","date":%q,"to":"Pilots","made":%q}`, due.Add(90), sample.Today.Add(-3)))

	type watch struct {
		Dates    []struct{ Safety forecast.Safety }
		Promises []forecast.Watched
	}
	read := func() (w watch) {
		require.NoError(t, json.Unmarshal([]byte(apitest.OK(t, http.MethodGet, url+"/forecast/dates", "").Text), &w))
		return w
	}
	w := read()
	require.Len(t, w.Promises, 2)
	board, pilots := w.Promises[0], w.Promises[1]
	assert.Equal(t, sample.Today, board.Promise.Made)
	assert.InDelta(t, strip, *board.Promise.Chance, 1e-9)
	assert.InDelta(t, strip, *board.Chance, 1e-9)
	assert.Equal(t, w.Dates[0].Safety, board.Safety, "promised for its due date")
	assert.Nil(t, pilots.Promise.Chance, "the journal does not reach back to the day on which it was given")
	assert.Equal(t, forecast.Safe, pilots.Safety)

	// What is put in its way shows at once.
	apitest.OK(t, http.MethodPost, url+"/changes", apitest.Edit("a", 2, `{"op":"set","kind":"item","key":"LC-5","field":"size","value":90}`))
	board = read().Promises[0]
	assert.True(t, board.Fell)
	assert.Equal(t, forecast.InDanger, board.Safety)
	called := apitest.OK(t, http.MethodGet, url+"/attention", "").Text
	assert.Contains(t, called, `"id":"promise PR-1"`)
	assert.NotContains(t, called, `"id":"promise PR-2"`)
	assert.Contains(t, apitest.OK(t, http.MethodGet, url+"/reports/release-review?release=R1", "").Text,
		fmt.Sprintf("## What was promised\n\n- By %s, to Harbour board on %s, at %.0f %%: %.0f %% now\n", due, sample.Today, 100*strip, 100**board.Chance))
	apitest.OK(t, http.MethodPost, url+"/changes", apitest.Edit("a", 3, fmt.Sprintf(`{"op":"set","kind":"promise","key":"PR-1","field":"withdrawn","value":%q}`, sample.Today)))
	assert.Equal(t, forecast.WordTakenBack, read().Promises[0].Word)
	assert.NotContains(t, apitest.OK(t, http.MethodGet, url+"/attention", "").Text, `"id":"promise PR-1"`)

	for intent, why := range map[string]string{
		`{"release":"R1","milestone":"M1","date":"2027-06-01","to":"x"}`:    "Name one of them",
		`{"release":"R7","date":"2027-06-01","to":"x"}`:                     "there is no release",
		`{"release":"R1","date":"2027-01-01","to":"x"}`:                     "that day is over",
		`{"release":"R1","date":"2027-06-01","to":"x","made":"2027-04-01"}`: "is after today",
	} {
		refused := apitest.Call(t, http.MethodPost, url+"/do/give-promise", fmt.Sprintf(`{"client":"a","revision":4,"intent":%s}`, intent))
		assert.Equal(t, http.StatusUnprocessableEntity, refused.Status, intent)
		assert.Contains(t, refused.Text, why)
	}
}

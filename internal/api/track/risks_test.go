package track_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/forecast"
	"jantrel/core/risks"
	"jantrel/internal/api/apitest"
)

// What the strip reads without a risk is what it reads with it and what the risk is worth; what is
// noted, rated and taken out stands in its history.
func TestRisksAreWorthWhatTheStripSays(t *testing.T) {
	t.Parallel()
	url := apitest.ServeDemo(t)
	var register struct{ Risks []risks.Standing }
	require.NoError(t, json.Unmarshal([]byte(apitest.OK(t, http.MethodGet, url+"/risks", "").Text), &register))
	require.Len(t, register.Risks, 5)
	assert.True(t, register.Risks[4].Over)

	landings := func() map[string]float64 {
		var read struct {
			Releases []forecast.Landing
		}
		require.NoError(t, json.Unmarshal([]byte(apitest.OK(t, http.MethodGet, url+"/landings", "").Text), &read))
		chances := map[string]float64{}
		for _, r := range read.Releases {
			chances[r.Key] = *r.Chance
			assert.Equal(t, 3, r.Risks)
		}
		return chances
	}
	is := landings()
	require.Len(t, is, 2)
	var played struct{ Worths []forecast.Worth }
	require.NoError(t, json.Unmarshal([]byte(apitest.OK(t, http.MethodGet, url+"/risk-worths", "").Text), &played))
	require.Len(t, played.Worths, 4, "all together, and three that say enough to be played")
	assert.InDelta(t, 0.15, played.Worths[1].Strikes, 0.001)

	apitest.OK(t, http.MethodPost, url+"/changes", apitest.Edit("a", 0, `{"op":"set","kind":"program","field":"playRisks","value":false}`))
	calm := apitest.OK(t, http.MethodGet, url+"/risk-worths", "")
	assert.Contains(t, calm.Text, `"worths":[]`)
	var without struct {
		Releases []forecast.Landing
	}
	require.NoError(t, json.Unmarshal([]byte(apitest.OK(t, http.MethodGet, url+"/landings", "").Text), &without))
	for i, r := range without.Releases {
		assert.InDelta(t, is[r.Key]+*played.Worths[0].Releases[i].Chance, *r.Chance, 1e-9, r.Key)
		assert.Greater(t, *r.Chance, is[r.Key])
	}

	added := apitest.OK(t, http.MethodPost, url+"/do/add-risk", `{"client":"a","revision":1,"intent":{"risk":{"key":"","title":"Ice on the masts"}}}`)
	key := added.Body["keys"].([]any)[0].(string)
	assert.Equal(t, "RK-6", key)
	apitest.OK(t, http.MethodPost, url+"/changes", apitest.Edit("a", 2, fmt.Sprintf(`{"op":"set","kind":"risk","key":%q,"field":"chance","value":4}`, key)))
	bad := apitest.Call(t, http.MethodPost, url+"/changes", apitest.Edit("a", 3, fmt.Sprintf(`{"op":"set","kind":"risk","key":%q,"field":"odds","value":1.5}`, key)))
	assert.Equal(t, http.StatusUnprocessableEntity, bad.Status)
	assert.Contains(t, bad.Text, "1.5 is not above 0 and at most 1")
	var history []struct{ Label string }
	require.NoError(t, json.Unmarshal([]byte(apitest.OK(t, http.MethodGet, url+"/history?risk="+key, "").Text), &history))
	require.Len(t, history, 2)
	assert.Equal(t, "Risk: Ice on the masts", history[1].Label)
	assert.Equal(t, http.StatusUnprocessableEntity, apitest.Call(t, http.MethodGet, url+"/history", "").Status)
}

package forecast_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/forecast"
	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/internal/api/apitest"
	"jantrel/internal/demo"
	"jantrel/internal/live"
)

// A feature lands with the last of its items, by the plays from which every date comes: one with a
// single item to do lands as that item does, and one that is done is not told of.
func TestWhenFeaturesLand(t *testing.T) {
	t.Parallel()
	p := demo.Program(sample.Today)
	tree := program.TreeOf(p)
	dimming := tree.Nearest(tree.Index["LC-8"], program.Feature)
	for i := range p.Items { // of it all but one are not planned
		if tree.Nearest(i, program.Feature) == dimming && i != dimming && p.Items[i].Key != "LC-8" {
			p.Items[i].KeptOut = true
		}
	}
	url := apitest.Serve(t, p).URL + "/api/v1/programs/1"
	var told struct{ Features []forecast.Landing }
	require.NoError(t, json.Unmarshal([]byte(apitest.OK(t, http.MethodGet, url+"/feature-landings", "").Text), &told))
	var items forecast.Forecast
	require.NoError(t, json.Unmarshal([]byte(apitest.OK(t, http.MethodGet, fmt.Sprintf("%s/forecast?items=true&plays=%d&seed=%d", url, live.Plays(len(p.Items)), live.ForecastSeed), "").Text), &items))
	dates := map[string][]forecast.Dated{}
	for _, l := range items.Items {
		dates[l.Key] = l.Dates
	}
	open := map[string][]string{}
	for i := range p.Items {
		if feature := tree.Nearest(i, program.Feature); feature >= 0 && tree.ToSchedule(i) {
			key := p.Items[feature].Key
			open[key] = append(open[key], p.Items[i].Key)
		}
	}
	alone := 0
	for _, f := range told.Features {
		if keys := open[f.Key]; len(keys) == 1 && f.Rough == 0 {
			assert.Equal(t, dates[keys[0]], f.Dates, f.Key)
			alone++
		} else {
			for _, key := range keys {
				for n, d := range f.Dates {
					assert.False(t, !d.Date.IsZero() && d.Date < dates[key][n].Date, "%s before %s", f.Key, key)
				}
			}
		}
		if len(open[f.Key]) == 0 {
			assert.Positive(t, f.Rough, f.Key)
		}
	}
	assert.Positive(t, alone)
	assert.GreaterOrEqual(t, len(told.Features), len(open))
}

package api_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/internal/api/track"
	"jantrel/internal/demo"
)

// What is edited shows in the iteration under way, with who did it; as of before, it does not; and
// what is done and left is what the plan says.
func TestHowIterationsUnderWayStand(t *testing.T) {
	url := serve(t, demo.Program(sample.Today)).URL + "/api/v1/programs/1"
	read := func(query string) map[string]track.UnderWay {
		var found struct {
			Iterations []track.UnderWay `json:"iterations"`
		}
		require.NoError(t, json.Unmarshal([]byte(ok(t, http.MethodGet, url+"/under-way"+query, "").text), &found))
		all := map[string]track.UnderWay{}
		for _, u := range found.Iterations {
			all[u.Team] = u
		}
		return all
	}
	before := read("")
	assert.Len(t, before, 6)
	lamp := before["LC"]
	assert.Equal(t, "LC-i10", lamp.Iteration.Iteration)
	assert.Len(t, lamp.Courses, lamp.Total.Items)
	assert.Len(t, lamp.Chances, lamp.Left.Items)
	ok(t, http.MethodPost, url+"/changes", edit("a", 0, fmt.Sprintf(set, "LC-5", "size", "9"), fmt.Sprintf(set, "LC-5", "state", `"done"`)))
	for _, u := range read("") {
		total := 0.0
		for _, item := range demo.Program(sample.Today).Items {
			if item.Team == u.Team && item.Iteration == u.Iteration.Iteration && item.Size != nil && !item.KeptOut {
				total += *item.Size
			}
		}
		if u.Team == "LC" {
			total++
		}
		assert.InDelta(t, total, u.Total.Size, 1e-9, u.Team)
		for _, l := range u.Likely {
			assert.GreaterOrEqual(t, l.Size, u.Done.Size)
			assert.LessOrEqual(t, l.Size, u.Total.Size)
		}
	}
	now := read("")["LC"]
	require.Len(t, now.Steps, 2)
	assert.Equal(t, []any{"grown", "finished"}, []any{string(now.Steps[0].What), string(now.Steps[1].What)})
	assert.Equal(t, lamp.Done.Size+9, now.Done.Size)
	assert.Equal(t, program.Done, now.Steps[1].To)
	assert.Empty(t, read("?at=0")["LC"].Steps)
}

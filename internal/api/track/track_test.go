package track_test

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
	core "jantrel/core/track"
	"jantrel/internal/api/apitest"
	"jantrel/internal/api/track"
	"jantrel/internal/demo"
)

// What is edited shows in the iteration under way, with who did it; as of before, it does not; and
// what is done and left is what the plan says.
func TestHowIterationsUnderWayStand(t *testing.T) {
	t.Parallel()
	url := apitest.ServeDemo(t)
	read := func(query string) map[string]track.UnderWay {
		var found struct {
			Iterations []track.UnderWay `json:"iterations"`
		}
		require.NoError(t, json.Unmarshal([]byte(apitest.OK(t, http.MethodGet, url+"/under-way"+query, "").Text), &found))
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
	apitest.OK(t, http.MethodPost, url+"/changes", apitest.Edit("a", 0, fmt.Sprintf(apitest.Set, "LC-5", "size", "9"), fmt.Sprintf(apitest.Set, "LC-5", "state", `"done"`)))
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

// The history of a release tells of an edit, adds up, agrees with the backlog's own count, and is
// as it was when it is asked of the past; what is not there is said so.
func TestTheHistoryOfARelease(t *testing.T) {
	t.Parallel()
	url := apitest.ServeDemo(t)
	type told struct {
		All, Since track.Told
		Teams      []track.Told
		Parts      []core.Part
		Features   []core.Grouped
		Flow       []core.Flow
		LeftOut    int
	}
	read := func(query string) (h told) {
		require.NoError(t, json.Unmarshal([]byte(apitest.OK(t, http.MethodGet, url+"/scope-history?release=R1"+query, "").Text), &h))
		return h
	}
	before := read("")
	assert.Equal(t, core.Sum{Items: before.All.Total.Items}, before.All.Total, "in items alone")
	apitest.OK(t, http.MethodPost, url+"/changes", apitest.Edit("a", 0, fmt.Sprintf(apitest.Set, "LC-5", "size", "9"), fmt.Sprintf(apitest.Set, "LC-5", "state", `"done"`)))
	apitest.OK(t, http.MethodPost, url+"/changes", apitest.Edit("a", 1, fmt.Sprintf(apitest.Set, "FE-3", "release", `"R2"`)))
	now := read("")
	left := now.All.Removed.Items
	assert.Greater(t, left, 1, "what is below the feature goes along")
	assert.Equal(t, before.All.Total.Items-left, now.All.Total.Items)
	require.Len(t, now.All.Steps, 1+left)
	assert.Equal(t, core.Finished, now.All.Steps[0].What)
	items := 0
	for i, team := range now.Teams {
		assert.Empty(t, team.Steps)
		p := now.Parts[i]
		assert.InDelta(t, team.Total.Size, p.Todo.Size+p.Doing.Size+p.Review.Size+p.Done.Size, 1e-9)
		assert.Equal(t, team.Total.Items, p.Todo.Items+p.Doing.Items+p.Review.Items+p.Done.Items)
		items += team.Total.Items
	}
	assert.Equal(t, now.All.Total.Items, items)
	items = 0
	for _, f := range now.Features {
		items += f.Items
	}
	assert.Equal(t, now.All.Total.Items, items)
	last := now.Flow[len(now.Flow)-1]
	assert.Equal(t, []int{now.All.Total.Items, now.All.Done.Items}, []int{last.Todo + last.Doing + last.Review + last.Done, last.Done})

	var listed struct {
		Groups []struct {
			Value string
			Items int
			Done  int
		}
	}
	require.NoError(t, json.Unmarshal([]byte(apitest.OK(t, http.MethodPost, url+"/backlog", `{"view":{"key":"scope","name":"Scope","group":"release","filter":{"conditions":[{"field":"keptOut","is":"is","values":["no"]}]}}}`).Text), &listed))
	counted := false
	for _, g := range listed.Groups {
		if g.Value == "R1" {
			counted = true
			assert.Equal(t, []int{now.All.Total.Items, now.All.Done.Items}, []int{g.Items, g.Done}, "as the backlog counts")
		}
	}
	assert.True(t, counted)
	// The review as a file says the same, and what the strip says of when it lands.
	var strip struct{ Releases []forecast.Landing }
	require.NoError(t, json.Unmarshal([]byte(apitest.OK(t, http.MethodGet, url+"/landings", "").Text), &strip))
	review := apitest.Call(t, http.MethodGet, url+"/reports/release-review?release=R1", "")
	assert.Contains(t, review.Header.Get("Content-Disposition"), "review-R1.md")
	for _, want := range []string{
		"# First Light\n", fmt.Sprintf("\n%d of %d items done, due ", now.All.Done.Items, now.All.Total.Items),
		fmt.Sprintf("Lands between %s and %s (50 to 85 %%).", strip.Releases[0].At(50), strip.Releases[0].At(85)),
		fmt.Sprintf("Chance to land by its due date: %.0f %%.", 100**strip.Releases[0].Chance),
		fmt.Sprintf("| all, in items | %d | %d | %d | | | %d | %d | %d |", now.All.Start.Items, now.All.Added.Items, now.All.Removed.Items, now.All.Total.Items, now.All.Done.Items, now.All.Left.Items),
		" taken out, by ", "- FE-1 Lamp heartbeat: ", "## Documents still missing\n\n- Harbour trial report\n",
	} {
		assert.Contains(t, review.Text, want)
	}
	assert.Equal(t, http.StatusNotFound, apitest.Call(t, http.MethodGet, url+"/reports/release-review?release=R9", "").Status)

	lamp := read("&line=LC")
	assert.Empty(t, lamp.All.Steps)
	for _, team := range lamp.Teams {
		assert.Equal(t, team.Team == "LC", len(team.Steps) > 0, team.Team)
	}
	assert.Empty(t, read("&at=0").All.Steps)
	assert.Zero(t, read("&since=2030-01-01").All.Since.Removed.Items)
	assert.Equal(t, http.StatusNotFound, apitest.Call(t, http.MethodGet, url+"/scope-history?release=R9", "").Status)
	assert.Equal(t, http.StatusUnprocessableEntity, apitest.Call(t, http.MethodGet, url+"/scope-history?since=soon", "").Status)

	// What a view holds, ready-made, shared or one's own: the defects of the program.
	defects := 0
	for _, item := range demo.Program(sample.Today).Items {
		if item.Kind == program.Defect && !item.KeptOut {
			defects++
		}
	}
	apitest.OK(t, http.MethodPut, url+"/private-views", `[{"key":"mine","name":"Mine","filter":{"conditions":[{"field":"kind","is":"is","values":["defect"]}]}}]`)
	for _, of := range []string{"view=defects", "view=mine&mine=true"} {
		all := apitest.OK(t, http.MethodGet, url+"/scope-history?"+of, "").Body["all"].(map[string]any)
		assert.Equal(t, float64(defects), all["total"].(map[string]any)["items"], of)
	}
	// A view of nothing is not taken for no view at all.
	apitest.OK(t, http.MethodPut, url+"/private-views", `[{"key":"none","name":"None","filter":{"conditions":[{"field":"kind","is":"is","values":["defect"]},{"field":"kind","is":"is","values":["story"]}]}}]`)
	for of, some := range map[string]bool{"": true, "view=none&mine=true": false} {
		all := apitest.OK(t, http.MethodGet, url+"/scope-history?"+of, "").Body["all"].(map[string]any)
		assert.Equal(t, some, all["total"].(map[string]any)["items"] != 0.0, of)
	}
	for _, of := range []string{"view=mine", "view=defects&mine=true"} {
		assert.Equal(t, http.StatusNotFound, apitest.Call(t, http.MethodGet, url+"/scope-history?"+of, "").Status, of)
	}
}

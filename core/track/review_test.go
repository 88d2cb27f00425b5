package track_test

import (
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/cadence"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/core/track"
)

// The worked example of docs/track.md, section "Looking back".
func TestLookingBackOnAnIteration(t *testing.T) {
	j := &journal{t: t, p: lamp()}
	j.p.Teams[0].Iterations[0].Actions = []program.Action{{Text: "Try on the pier first"}, {Text: "Two at a lamp", Done: true}}
	j.p.Teams[0].Iterations[0].State = program.Closed
	ref := program.Ref{Kind: program.KindIteration, In: "LC", Key: "LC10"}
	j.must(program.SetTo(ref, "state", program.Open), program.SetTo(ref, "committed", 18)) // 12:00
	j.must(set("D", "state", program.Doing))                                               // 13:00, sent back
	j.must(set("D", "state", program.Review))                                              // 14:00
	j.must(set("D", "state", program.Doing))                                               // 15:00, again
	j.must(add(program.Item{Key: "E", Title: "E", Kind: program.Story, Team: "LC", Size: ptr(1.0), Iteration: "LC10"}),
		add(program.Item{Key: "F", Title: "F", Kind: program.Story, Team: "LC", Size: ptr(2.0), Iteration: "LC10"})) // 16:00
	j.must(set("F", "iteration", nil))                           // 17:00, came and went
	j.must(set("B", "iteration", nil))                           // 18:00
	j.must(set("A", "size", 6), set("A", "state", program.Done)) // 19:00
	changes, _, err := cadence.Close(j.p, day("2027-03-14"), "LC", "LC10", cadence.Closing{})
	require.NoError(t, err)
	j.must(changes...) // 20:00
	resolved := plan.Of(j.p)
	since, ok := track.ReviewSince(resolved, "LC", "LC10", time.UTC)
	require.True(t, ok)
	assert.False(t, since.After(noon))
	r := track.ReviewOf(resolved, "LC", "LC10", day("2027-03-14"), j.events, noon.Add(-time.Hour), time.UTC)
	assert.Equal(t, noon.Add(8*time.Hour), r.Closed)
	assert.Equal(t, []string{"A", "C"}, r.Finished)
	assert.ElementsMatch(t, []string{"D", "E"}, r.CarriedOn)
	assert.Equal(t, track.Sum{Items: 2, Size: 9}, r.Carried)
	assert.Equal(t, []string{"E"}, r.CameIn)
	assert.Equal(t, []string{"B"}, r.WentOut)
	assert.Equal(t, []track.SentBack{{Item: "D", Times: 2}}, r.SentBack)
	assert.Equal(t, []track.StillOpen{{Action: program.Action{Text: "Try on the pier first"}, Iteration: "LC9", At: 0}}, r.Earlier)
	assert.Equal(t, []track.Sum{{Items: 4, Size: 18}, {Items: 2, Size: 3}, {Items: 4, Size: 14}, {Size: 1}, {Items: 2, Size: 8}},
		[]track.Sum{r.Start, r.Added, r.Removed, r.Grown, r.Total}, "18 + 3 − 14 + 1 = 8, of which the close took 9")
	assert.Equal(t, r.Done, r.Total, "nothing is left in it")
	_, ok = track.ReviewSince(resolved, "LC", "none", time.UTC)
	assert.False(t, ok)
}

// Whatever is edited: what an iteration is made of now is what is said to be done, and what came
// and stayed, with what was there and did not go.
func TestReviewsAddUp(t *testing.T) {
	came, carried := 0, 0
	for seed := range uint64(20) {
		r := rand.New(rand.NewPCG(seed, 3))
		j := &journal{t: t, p: sample.Program(seed, sample.Shape{Teams: 2, Iterations: 4, Items: 25, Wild: seed%2 == 0})}
		for range 60 {
			j.edit(wildEdit(r, j.p)...)
		}
		for _, team := range j.p.Teams {
			for _, it := range team.Iterations {
				if it.State != program.Open || it.Start > sample.Today {
					continue
				}
				if changes, _, err := cadence.Close(j.p, sample.Today, team.Key, it.Key, cadence.Closing{}); err == nil {
					j.edit(changes...)
				}
			}
		}
		began := noon.Add(-time.Hour)
		for _, team := range j.p.Teams {
			for _, it := range team.Iterations {
				v := track.ReviewOf(plan.Of(j.p), team.Key, it.Key, sample.Today, j.events, began, time.UTC)
				same(t, v.Total, track.Sum{Items: v.Start.Items + v.Added.Items - v.Removed.Items, Size: v.Start.Size + v.Added.Size - v.Removed.Size + v.Grown.Size - v.Shrunk.Size})
				assert.Len(t, v.Finished, v.Done.Items)
				assert.Len(t, v.CarriedOn, v.Carried.Items)
				assert.LessOrEqual(t, v.Carried.Items, v.Removed.Items)
				assert.Equal(t, v.Total.Items+v.Carried.Items, v.Start.Items+len(v.CameIn)-len(v.WentOut), "%s: what there was until the close", it.Key)
				for _, key := range v.CameIn {
					assert.False(t, slices.Contains(v.WentOut, key))
				}
				came, carried = came+len(v.CameIn), carried+v.Carried.Items
			}
		}
	}
	assert.Positive(t, came)
	assert.Positive(t, carried)
}

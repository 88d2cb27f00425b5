package plan_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
)

func ptr(x float64) *float64 { return &x }

// harbour is a team whose stories usually are of 5, with three iterations, and a feature.
func harbour(feature program.Item, items ...program.Item) program.Program {
	p := program.Program{Teams: []program.Team{{Key: "LC", Unit: program.Points}}}
	for i := range 3 {
		start := calendar.MustParse("2027-03-01").Add(14 * i)
		p.Teams[0].Iterations = append(p.Teams[0].Iterations, program.Iteration{Key: fmt.Sprint(i + 1), Start: start, End: start.Add(13)})
	}
	for i := range 3 {
		p.Items = append(p.Items, program.Item{Key: fmt.Sprintf("D%d", i), Kind: program.Story, Team: "LC", Size: ptr(5), State: program.Done})
	}
	feature.Key, feature.Kind = "F", program.Feature
	p.Items = append(append(p.Items, feature), items...)
	return p.Normal()
}

func part(key, iteration string, size *float64) program.Item {
	return program.Item{Key: key, Parent: "F", Kind: program.Story, Team: "LC", Iteration: iteration, Size: size}
}

func lc(size float64, upTo *float64) []program.Rough {
	return []program.Rough{{Team: "LC", Size: size, UpTo: upTo}}
}

// pieces are the sizes of what is rough, with their iterations.
func pieces(p *plan.Plan) (list []string) {
	whole := p.Whole()
	for i := range whole.Items {
		if _, is := whole.Piece(i); is {
			list = append(list, fmt.Sprintf("%s %v@%s", whole.KeyOf(i), *whole.Items[i].Size, whole.Items[i].Iteration))
		}
	}
	return list
}

// The examples of docs/program-document.md.
func TestPiecesOfARoughSize(t *testing.T) {
	at := func(iteration string, size float64) program.RoughPlace {
		return program.RoughPlace{Team: "LC", Iteration: iteration, Size: size}
	}
	for _, x := range []struct {
		name    string
		feature program.Item
		items   []program.Item
		want    []string
	}{
		{"a figure, in pieces of the usual size", program.Item{Rough: lc(12, nil)}, nil, []string{"F 5@", "F 5@", "F 2@"}},
		{"items take their place, without a size at the usual one", program.Item{Rough: lc(12, nil)}, []program.Item{part("A", "", ptr(3)), part("B", "", nil)}, []string{"F 4@"}},
		{"a range: its middle", program.Item{Rough: lc(6, ptr(14))}, nil, []string{"F 5@", "F 5@"}},
		{"a range of which a part is covered: 16 ÷ 16 more", program.Item{Rough: lc(6, ptr(14))}, []program.Item{part("A", "", ptr(10))}, []string{"F 1@"}},
		{"covered", program.Item{Rough: lc(6, ptr(14))}, []program.Item{part("A", "", ptr(20))}, nil},
		{"placed, as far as that goes", program.Item{Rough: lc(12, nil), RoughPlaces: []program.RoughPlace{at("2", 4), at("1", 6)}}, nil, []string{"F 5@1", "F 1@1", "F 4@2", "F 2@"}},
		{"an item takes the place in its own iteration", program.Item{Rough: lc(12, nil), RoughPlaces: []program.RoughPlace{at("1", 6), at("2", 6)}}, []program.Item{part("A", "2", ptr(4))}, []string{"F 5@1", "F 1@1", "F 2@2"}},
		{"elsewhere, of the earliest", program.Item{Rough: lc(12, nil), RoughPlaces: []program.RoughPlace{at("1", 6), at("2", 6)}}, []program.Item{part("A", "", ptr(4))}, []string{"F 2@1", "F 5@2", "F 1@2"}},
		{"done", program.Item{Rough: lc(12, nil), State: program.Done}, nil, nil},
		{"kept out", program.Item{Rough: lc(12, nil), KeptOut: true}, nil, nil},
	} {
		t.Run(x.name, func(t *testing.T) {
			assert.Equal(t, x.want, pieces(plan.Of(harbour(x.feature, x.items...))))
		})
	}
}

func TestWhatIsRoughBelowCoversWhatIsRoughAbove(t *testing.T) {
	p := harbour(program.Item{Parent: "I", Rough: lc(8, nil)}, part("A", "", ptr(3)))
	p.Items = append(p.Items, program.Item{Key: "I", Kind: program.Initiative, Rough: lc(20, nil)})
	states := plan.Roughs(plan.Of(p))
	require.Len(t, states, 2)
	assert.Equal(t, []float64{3, 5}, []float64{states[0].Covered, states[0].Rest})
	assert.Equal(t, []float64{8, 12}, []float64{states[1].Covered, states[1].Rest})
}

func TestMoreThanTheRoughSizeSaysSo(t *testing.T) {
	states := plan.Roughs(plan.Of(harbour(program.Item{Rough: lc(4, ptr(6))}, part("A", "", ptr(9)))))
	assert.Equal(t, 3.0, states[0].Over())
}

// A leaf with a rough size is no leaf any more: its own size and place do not count beside it.
func TestALeafTooLargeForOneIteration(t *testing.T) {
	p := plan.Of(harbour(program.Item{}, program.Item{Key: "L", Kind: program.Story, Team: "LC", Iteration: "1", Size: ptr(40), Rough: lc(10, nil), RoughPlaces: []program.RoughPlace{{Team: "LC", Iteration: "2", Size: 10}}}))
	assert.Equal(t, []float64{0, 10, 0}, p.Loads().Size[0])
	assert.Equal(t, []string{"L 5@2", "L 5@2"}, pieces(p))
}

// What must hold of any program: the pieces are as much as is to be expected, stand where the
// states say, and their shares are 1 in the mean; nothing else changes.
func TestTheWholeOfAnyProgram(t *testing.T) {
	for seed := range uint64(60) {
		p := plan.Of(sample.Program(seed, sample.Shape{Teams: 3, Iterations: 6, Items: 40, Needs: 20, Wild: true, Rough: true}))
		require.Empty(t, program.Validate(p.Program))
		whole := p.Whole()
		assert.Same(t, whole, whole.Whole())
		sums, loose, real := map[[2]string]float64{}, map[[2]string]float64{}, 0
		for i := range whole.Items {
			piece, is := whole.Piece(i)
			if !is {
				require.Equal(t, p.Items[real], whole.Items[i])
				real++
				continue
			}
			key := [2]string{whole.KeyOf(i), whole.Items[i].Team}
			sums[key] += *whole.Items[i].Size
			if whole.Items[i].Iteration == "" {
				loose[key] += *whole.Items[i].Size
			}
			require.Less(t, piece.Nth, 40)
			mean := 0.0
			for _, share := range piece.Shares {
				mean += share / float64(len(piece.Shares))
			}
			if piece.Shares != nil {
				require.InDelta(t, 1, mean, 1e-9)
			}
		}
		require.Equal(t, len(p.Items), real)
		for _, s := range plan.Roughs(p) {
			key := [2]string{p.Items[s.Item].Key, s.Rough.Team}
			require.InDelta(t, s.Rest, sums[key], 1e-6)
			require.InDelta(t, s.Loose, loose[key], 1e-6)
		}
	}
}

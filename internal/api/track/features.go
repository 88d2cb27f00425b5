package track

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/forecast"
	"jantrel/core/program"
	"jantrel/internal/api/door"
)

// featureLandings is when features land.
type featureLandings struct {
	Revision int64              `json:"revision"`
	Features []forecast.Landing `json:"features" doc:"By rank, of those with work to do; from the plays of the standing strip"`
	LeftOut  int                `json:"leftOut" doc:"How many less important ones are not told of"`
}

// mostFeatures is how many features are told of: each is looked at after every play.
const mostFeatures = 300

func (s stage) registerFeatures(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "get-feature-landings", Method: http.MethodGet, Path: "/api/v1/programs/{id}/feature-landings", Summary: "When features land",
	}, func(ctx context.Context, in *struct{ door.Reading }) (*door.Answered[featureLandings], error) {
		l, state, err := s.Read(ctx, in.Reading)
		if err != nil {
			return nil, err
		}
		return door.LongAnswer(ctx, s.Door, l, state, "feature landings", func(ctx context.Context) (featureLandings, error) {
			sets := openFeatures(state.Program)
			all := featureLandings{Revision: state.Revision, Features: []forecast.Landing{}, LeftOut: max(0, len(sets)-mostFeatures)}
			if len(sets) == 0 {
				return all, nil
			}
			o, err := l.Playing(ctx, state)
			if err != nil {
				return all, err
			}
			o.Sets = sets[:min(len(sets), mostFeatures)]
			all.Features = l.Play(state.Plan, o).Sets
			return all, ctx.Err()
		})
	})
}

// openFeatures are the features with work to do, by rank.
func openFeatures(p program.Program) (sets []forecast.Set) {
	tree := program.TreeOf(p)
	open := make([]bool, len(p.Items))
	for i := range p.Items {
		if tree.ToSchedule(i) || len(p.Items[i].Rough) > 0 {
			for at := i; at >= 0 && !open[at]; at = tree.Parent[at] {
				open[at] = true
			}
		}
	}
	for i := range p.Items {
		if open[i] && p.Items[i].Kind == program.Feature {
			sets = append(sets, forecast.Set{Key: p.Items[i].Key, Items: []string{p.Items[i].Key}})
		}
	}
	return sets
}

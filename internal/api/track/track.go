// Package track serves the track stage: how iterations under way stand, and what starts, closes
// and reopens them.
package track

import (
	"context"
	"fmt"
	"net/http"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/act"
	"jantrel/core/forecast"
	"jantrel/core/program"
	"jantrel/core/track"
	"jantrel/internal/api/door"
	"jantrel/internal/live"
)

// UnderWay is how an iteration stands, and what is likely to be done by its last day.
type UnderWay struct {
	track.Iteration
	Likely  []forecast.Amount `json:"likely" doc:"Sizes likely to be done by its last day, with those done already, in the team's unit"`
	Chances []Chance          `json:"chances" doc:"Of items still to do, by rank"`
}

// Chance is how likely an item is to be done by the last day of its iteration.
type Chance struct {
	Item   string  `json:"item"`
	Chance float64 `json:"chance" doc:"0 to 1"`
}

// tracked is how all iterations under way stand.
type tracked struct {
	Revision   int64      `json:"revision"`
	Iterations []UnderWay `json:"iterations" doc:"One a team, in the order of the teams; none of a team without any"`
}

// Register adds the operations.
func Register(api huma.API, d *door.Door) {
	s := stage{d}
	huma.Register(api, huma.Operation{
		OperationID: "get-under-way", Method: http.MethodGet, Path: "/api/v1/programs/{id}/under-way", Summary: "How the iterations under way stand",
	}, s.underWay)
	huma.Register(api, huma.Operation{
		OperationID: "get-scope-history", Method: http.MethodGet, Path: "/api/v1/programs/{id}/scope-history", Summary: "How the work of a release, a feature, a team or all came about",
	}, s.history)
	s.registerReviews(api)
	s.registerHours(api)
	s.registerRisks(api, d)
	s.registerAttention(api)
	s.registerHealth(api)
	s.registerSignals(api)
	s.registerFeatures(api)
	door.Intent[act.StartIterations](api, d, "start-iterations", "Start iterations, with what each is for")
	door.Intent[act.SetSteps](api, d, "set-steps", "Divide states into steps")
	door.Intent[act.EnterTime](api, d, "enter-time", "Enter hours that were spent")
	door.Intent[act.ReopenIteration](api, d, "reopen-iteration", "Open the last closed iteration of a team again")
}

// stage is the door with this package's operations.
type stage struct{ *door.Door }

func (s stage) underWay(ctx context.Context, in *struct{ door.Reading }) (*door.Answered[tracked], error) {
	l, state, err := s.Read(ctx, in.Reading)
	if err != nil {
		return nil, err
	}
	return door.Answer(ctx, s.Door, l, state, fmt.Sprintf("under way %d", l.Explained()), func(ctx context.Context) (tracked, error) {
		found, err := l.UnderWay(ctx, state)
		if err != nil {
			return tracked{}, err
		}
		playing, err := l.Playing(ctx, state)
		if err != nil {
			return tracked{}, err
		}
		all := tracked{state.Revision, make([]UnderWay, len(found))}
		asked := make([]forecast.ReachAsked, len(found))
		for i := range found {
			all.Iterations[i] = UnderWay{found[i], []forecast.Amount{}, []Chance{}}
			asked[i] = leftOf(state, &found[i])
		}
		if !slices.ContainsFunc(asked, func(a forecast.ReachAsked) bool { return len(a.Items) > 0 }) {
			return all, nil
		}
		for i, r := range forecast.Reaches(state.Plan, playing, asked) {
			of := &all.Iterations[i]
			for _, a := range r.Amounts {
				of.Likely = append(of.Likely, forecast.Amount{Odds: a.Odds, Size: found[i].Done.Size + a.Size})
			}
			for _, key := range asked[i].Items {
				of.Chances = append(of.Chances, Chance{key, r.Chances[key]})
			}
		}
		return all, ctx.Err()
	})
}

// leftOf asks about what is still to do of an iteration, by its last day.
func leftOf(state *live.State, of *track.Iteration) forecast.ReachAsked {
	team := state.Plan.Teams[state.Plan.TeamAt()[of.Team]]
	it, _ := team.Find(of.Iteration)
	asked := forecast.ReachAsked{By: it.End}
	tree := state.Plan.Tree()
	for _, c := range of.Courses {
		if state.Plan.Items[tree.Index[c.Item]].State != program.Done {
			asked.Items = append(asked.Items, c.Item)
		}
	}
	return asked
}

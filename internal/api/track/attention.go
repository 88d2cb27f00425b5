package track

import (
	"context"
	"net/http"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/attention"
	"jantrel/core/forecast"
	"jantrel/core/risks"
	"jantrel/internal/api/door"
	"jantrel/internal/live"
)

// calling is what needs somebody.
type calling struct {
	Revision int64             `json:"revision"`
	Entries  []attention.Entry `json:"entries" doc:"What costs the most first; what was put off last"`
}

// costPlays is how often the plan is played to put what needs somebody in order: enough to tell what
// costs much from what costs little, and quick also where the program is large.
const costPlays = 300

func (s stage) registerAttention(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "get-attention", Method: http.MethodGet, Path: "/api/v1/programs/{id}/attention", Summary: "What needs somebody now, what costs the releases the most first",
	}, s.attention)
}

func (s stage) attention(ctx context.Context, in *struct{ door.Reading }) (*door.Answered[calling], error) {
	l, state, err := s.Read(ctx, in.Reading)
	if err != nil {
		return nil, err
	}
	return door.LongAnswer(ctx, s.Door, l, state, "attention", func(ctx context.Context) (calling, error) {
		entries, err := entriesOf(ctx, l, state)
		return calling{state.Revision, entries}, err
	})
}

// AskAttention is what needs somebody now, as get-attention answers it.
func AskAttention(ctx context.Context, d *door.Door, in door.Reading) ([]attention.Entry, error) {
	found, err := stage{d}.attention(ctx, &struct{ door.Reading }{in})
	if err != nil {
		return nil, err
	}
	return found.Body.Entries, nil
}

// entriesOf gathers what needs somebody, what costs the most first.
func entriesOf(ctx context.Context, l *live.Line, state *live.State) ([]attention.Entry, error) {
	costs, err := costsOf(ctx, l, state)
	if err != nil {
		return nil, err
	}
	return attention.Of(state.Plan, state.Today, costs), ctx.Err()
}

// costsOf plays the plan for what lost days cost.
func costsOf(ctx context.Context, l *live.Line, state *live.State) (costs attention.Costs, err error) {
	o, err := l.Playing(ctx, state)
	if err != nil {
		return costs, err
	}
	o.Plays = costPlays
	costs = attention.Costs{Decides: forecast.Decides(state.Plan, o), Risks: map[string]attention.RiskCost{}}
	if costs.Promises, err = l.PromisesAt(ctx, state); err != nil {
		return costs, err
	}
	played := func(s risks.Standing) bool { return s.Played && len(s.Calls) > 0 }
	if !slices.ContainsFunc(risks.Register(state.Program, state.Today), played) {
		return costs, nil
	}
	for _, w := range forecast.Worths(state.Plan, o) {
		var cost attention.RiskCost
		for _, r := range w.Releases {
			if r.Days > cost.Days {
				cost = attention.RiskCost{Release: r.Release, Days: r.Days}
			}
		}
		costs.Risks[w.Risk] = cost
	}
	return costs, nil
}

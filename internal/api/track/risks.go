package track

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/act"
	"jantrel/core/forecast"
	"jantrel/core/program"
	"jantrel/core/risks"
	"jantrel/internal/api/door"
)

// register is how the risks stand.
type register struct {
	Revision int64            `json:"revision"`
	Scales   program.Scales   `json:"scales" doc:"That they are rated on"`
	Risks    []risks.Standing `json:"risks" doc:"Those that may happen first, the most exposed first"`
}

// worths is what risks are worth.
type worths struct {
	Revision int64            `json:"revision"`
	Plays    int              `json:"plays"`
	Worths   []forecast.Worth `json:"worths" doc:"Of all that are played together, then of each; nothing where none is played"`
}

func (s stage) registerRisks(api huma.API, d *door.Door) {
	huma.Register(api, huma.Operation{
		OperationID: "get-risks", Method: http.MethodGet, Path: "/api/v1/programs/{id}/risks", Summary: "How the risks stand",
	}, func(ctx context.Context, in *struct{ door.Reading }) (*struct{ Body register }, error) {
		_, state, err := s.Read(ctx, in.Reading)
		if err != nil {
			return nil, err
		}
		return &struct{ Body register }{register{state.Revision, state.Settings.RiskScales(), risks.Register(state.Program, state.Today)}}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "get-risk-worths", Method: http.MethodGet, Path: "/api/v1/programs/{id}/risk-worths", Summary: "What each risk, and its response, is worth in chance and days of the releases",
	}, func(ctx context.Context, in *struct{ door.Reading }) (*door.Answered[worths], error) {
		l, state, err := s.Read(ctx, in.Reading)
		if err != nil {
			return nil, err
		}
		return door.LongAnswer(ctx, s.Door, l, state, "risk worths", func(ctx context.Context) (worths, error) {
			o, err := l.Playing(ctx, state)
			if err != nil {
				return worths{}, err
			}
			// The plays of the standing strip: what it would read without a risk is what it reads and that risk's worth.
			return worths{state.Revision, o.Plays, forecast.Worths(state.Plan, o)}, ctx.Err()
		})
	})
	door.Intent[act.AddRisk](api, d, "add-risk", "Note something that may happen")
}

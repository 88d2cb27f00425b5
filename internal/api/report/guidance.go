package report

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/guide"
	"jantrel/core/program"
	"jantrel/internal/api/door"
)

// guided is a step with what the program adds to it, and what of it is open.
type guided struct {
	guide.Step
	Own    []program.Guide `json:"own" doc:"In the program's own words: for all, then for who asks"`
	Checks []guide.Check   `json:"checks"`
}

// guidance is how the work is done, step by step.
type guidance struct {
	Revision int64        `json:"revision"`
	On       bool         `json:"on" doc:"The program wants it beside each stage"`
	Steps    []guided     `json:"steps" doc:"In working order"`
	Rules    []guide.Rule `json:"rules" doc:"What the program agreed on"`
}

func (s stage) guidance(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "get-guidance", Method: http.MethodGet, Path: "/api/v1/programs/{id}/guidance", Summary: "How each step is done well, and what of it is open",
	}, func(ctx context.Context, in *struct{ door.Reading }) (*struct{ Body guidance }, error) {
		l, who, state, err := s.ReadAs(ctx, in.Reading)
		if err != nil {
			return nil, err
		}
		lands, err := l.LandingsAt(ctx, state)
		if err != nil {
			return nil, s.Problem(ctx, err)
		}
		known := guide.Known{Plan: state.Plan, Today: state.Today, Facts: state.Facts, Lands: lands.Releases}
		briefs, err := s.Store().Briefs(ctx, in.ID)
		if err != nil {
			return nil, s.Failed(ctx, err)
		}
		for i := range briefs {
			if b := &briefs[i]; b.Number > 0 && b.Day <= state.Today {
				known.Briefs++
				known.Latest = max(known.Latest, b.Day)
			}
		}
		checks := guide.Checks(known)
		out := guidance{Revision: state.Revision, On: state.Settings.Guides(), Rules: guide.Rules(&state.Program)}
		for _, step := range guide.Steps {
			own := guide.Of(&state.Program, step.Stage, string(who.Role))
			out.Steps = append(out.Steps, guided{step, append([]program.Guide{}, own...), checks[step.Stage]})
		}
		return &struct{ Body guidance }{out}, nil
	})
}

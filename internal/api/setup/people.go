package setup

import (
	"context"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/people"
	"jantrel/internal/api/door"
)

func (s stage) people(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "find-people", Method: http.MethodGet, Path: "/api/v1/programs/{id}/free", Summary: "Who has free days",
	}, func(ctx context.Context, in *struct {
		door.Reading
		Role string `query:"role" maxLength:"200"`
		Team string `query:"team"`
		door.Range
		Days float64 `query:"days" minimum:"0" maximum:"4000"`
		Open bool    `query:"open" doc:"Open seats too"`
		Idle bool    `query:"idle" doc:"What a team holds of them and has no work placed for counts as free, too"`
	}) (*struct{ Body []people.Free }, error) {
		_, state, err := s.Read(ctx, in.Reading)
		if err != nil {
			return nil, err
		}
		span, err := in.Span()
		if err != nil {
			return nil, err
		}
		return &struct{ Body []people.Free }{people.Find(state.Plan, people.Wanted{
			Role: strings.TrimSpace(in.Role), Team: in.Team, From: span.Start, To: span.End, Days: in.Days, Open: in.Open, Idle: in.Idle,
		})}, nil
	})
}

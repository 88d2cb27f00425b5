// Package forecast serves what the plays of a plan say: landings and dates at stated odds.
package forecast

import (
	"context"
	"fmt"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/forecast"
	"jantrel/internal/api/door"
)

// landings is the forecast behind the standing strip.
type landings struct {
	Revision int64              `json:"revision"`
	Plays    int                `json:"plays"`
	Releases []forecast.Landing `json:"releases"`
	Before   []forecast.Landing `json:"before,omitempty" doc:"The same before the last edit; missing on the first view"`
	Teams    []forecast.Pace    `json:"teams" doc:"What each team's velocities are drawn from"`

	ExpectedLateDays float64 `json:"expectedLateDays" doc:"Of all releases and items with a due date"`
}

// stage is the door with this package's operations.
type stage struct{ *door.Door }

// Register adds the operations.
func Register(api huma.API, d *door.Door) {
	s := stage{d}
	s.keepIf(api)
	huma.Register(api, huma.Operation{
		OperationID: "get-landings", Method: http.MethodGet, Path: "/api/v1/programs/{id}/landings", Summary: "When the releases land, and what the last edit did to it",
	}, func(ctx context.Context, in *door.ProgramID) (*struct{ Body landings }, error) {
		l, err := s.Open(ctx, in.ID)
		if err != nil {
			return nil, err
		}
		now, before, err := l.Landings(ctx)
		if err != nil {
			return nil, s.Problem(ctx, err)
		}
		out := &struct{ Body landings }{landings{
			Revision: now.Revision, Plays: now.Result.Plays, Releases: now.Result.Releases, Teams: now.Result.Teams, ExpectedLateDays: now.Result.ExpectedLateDays,
		}}
		if before != nil {
			out.Body.Before = before.Result.Releases
		}
		return out, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "get-forecast", Method: http.MethodGet, Path: "/api/v1/programs/{id}/forecast", Summary: "Landing dates at stated odds",
	}, s.forecast)
	s.registerQuestions(api)
}

func (s stage) forecast(ctx context.Context, in *struct {
	door.Reading
	Plays int    `query:"plays" minimum:"1" maximum:"100000" default:"10000"`
	Seed  uint64 `query:"seed" default:"1"`
	Items bool   `query:"items" doc:"Dates of the items too"`
}) (*door.Answered[forecast.Forecast], error) {
	l, state, err := s.Read(ctx, in.Reading)
	if err != nil {
		return nil, err
	}
	question := fmt.Sprintf("forecast %d %d %v", in.Plays, in.Seed, in.Items)
	return door.LongAnswer(ctx, s.Door, l, state, question, func(ctx context.Context) (forecast.Forecast, error) {
		o, err := l.Playing(ctx, state)
		if err != nil {
			return forecast.Forecast{}, err
		}
		o.Plays, o.Seed, o.Items = in.Plays, in.Seed, in.Items
		return l.Play(state.Plan, o), nil
	})
}

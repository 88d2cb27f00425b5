package forecast

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/forecast"
	"jantrel/core/scenario"
	"jantrel/internal/api/door"
)

// KeptIf is what was supposed of some work, to be made part of the plan.
type KeptIf struct {
	About
	If forecast.If `json:"if" doc:"What was supposed"`
}

func (s stage) keepIf(api huma.API) {
	huma.Register(api, door.Operation("keep-what-if", "Make what a forecast supposed part of the plan, as far as a plan can say it: for a scenario to begin with"),
		func(ctx context.Context, in *door.Request[KeptIf]) (*door.Planned, error) {
			l, err := s.Open(ctx, in.ID)
			if err != nil {
				return nil, err
			}
			meant := in.Body.Intent
			w, err := s.workOf(ctx, in.ID, l.State(), &meant.About)
			if err != nil {
				return nil, err
			}
			meant.If.ScopeOf = w.Set
			return door.Say(ctx, s.Door, "keep-what-if", in, scenario.WhatIf{If: meant.If, Name: w.Name})
		})
}

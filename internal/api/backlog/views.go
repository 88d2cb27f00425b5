package backlog

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/program"
	"jantrel/internal/api/door"
)

// views are those that one keeps for oneself, beside the program.
func (s stage) views(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "get-private-views", Method: http.MethodGet, Path: "/api/v1/programs/{id}/private-views", Summary: "The views that one keeps for oneself",
	}, func(ctx context.Context, in *door.ProgramID) (*struct{ Body []program.View }, error) {
		if _, err := s.Open(ctx, in.ID); err != nil {
			return nil, err
		}
		views, err := s.Store().PrivateViews(ctx, in.ID, door.VisitorOf(ctx).Account.ID)
		if err != nil {
			return nil, s.Failed(ctx, err)
		}
		return &struct{ Body []program.View }{views}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "put-private-views", Metadata: door.Keeps, Method: http.MethodPut, Path: "/api/v1/programs/{id}/private-views", Summary: "Keep views for oneself",
	}, func(ctx context.Context, in *struct {
		door.ProgramID
		Body []program.View `maxItems:"200"`
	}) (*struct{}, error) {
		p, err := s.Open(ctx, in.ID)
		if err != nil {
			return nil, err
		}
		for _, view := range in.Body {
			if err := p.State().Index().CheckView(view); err != nil {
				return nil, huma.Error422UnprocessableEntity("The view " + view.Name + " cannot be kept: " + err.Error())
			}
		}
		if err := s.Store().KeepPrivateViews(ctx, in.ID, door.VisitorOf(ctx).Account.ID, in.Body); err != nil {
			return nil, s.Failed(ctx, err)
		}
		return nil, nil
	})
}

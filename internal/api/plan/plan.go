// Package plan serves the plan stage: drafts, what places would do, and reasons.
package plan

import (
	"context"
	"encoding/json"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/act"
	"jantrel/core/forecast"
	"jantrel/core/schedule"
	"jantrel/core/standing"
	"jantrel/internal/api/door"
)

type draftRequest struct {
	door.Reading
	Body struct {
		Items     []string `json:"items,omitempty" doc:"Only these may move; groups stand for their items"`
		KeepClose bool     `json:"keepClose,omitempty" doc:"Fewest moves come first"`
		FillTo    float64  `json:"fillTo,omitempty" minimum:"0" maximum:"1" doc:"Share of capacity to use; 0 takes the program's own"`
	}
}

// drafted is a draft and what it would change.
type drafted struct {
	Revision int64              `json:"revision" doc:"The revision it was drafted on"`
	Draft    schedule.Schedule  `json:"draft"`
	Today    schedule.Score     `json:"today" doc:"How good the plan is as it stands"`
	Before   []forecast.Landing `json:"before"`
	After    []forecast.Landing `json:"after"`
	Over     [2]int             `json:"over" doc:"Iterations over capacity, before and after"`
	Broken   [2]int             `json:"broken" doc:"Broken needs, before and after"`
}

// draftTime is how long a draft may search.
const draftTime = 4 * time.Second

// stage is the door with this package's operations.
type stage struct{ *door.Door }

// Register adds the operations.
func Register(api huma.API, d *door.Door) {
	s := stage{d}
	s.answers(api)
	door.Intent[act.Place](api, d, "place", "Put items into iterations, or take their places away")
}

func (s stage) answers(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "draft-schedule", Metadata: door.Asks, Method: http.MethodPost, Path: "/api/v1/programs/{id}/draft", Summary: "Draft a schedule; nothing moves",
	}, s.draft)
	huma.Register(api, huma.Operation{
		OperationID: "get-reason", Method: http.MethodGet, Path: "/api/v1/programs/{id}/reason", Summary: "Why an item is where it is",
	}, func(ctx context.Context, in *struct {
		door.Reading
		Item string `query:"item" required:"true"`
	}) (*struct{ Body schedule.Why }, error) {
		_, state, err := s.Read(ctx, in.Reading)
		if err != nil {
			return nil, err
		}
		why, ok := schedule.Explain(state.Plan, schedule.Options{Today: state.Today}, in.Item)
		if !ok {
			return nil, huma.Error404NotFound("Only items that are still to do are placed; " + in.Item + " is done, kept out, a group, or gone.")
		}
		return &struct{ Body schedule.Why }{why}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "get-fits", Method: http.MethodGet, Path: "/api/v1/programs/{id}/fits", Summary: "What placing items in each iteration of a team would do",
	}, func(ctx context.Context, in *struct {
		door.Reading
		Team  string   `query:"team" required:"true"`
		Items []string `query:"items,explode" required:"true"`
	}) (*struct{ Body []standing.Fit }, error) {
		_, state, err := s.Read(ctx, in.Reading)
		if err != nil {
			return nil, err
		}
		return &struct{ Body []standing.Fit }{standing.Fits(state.Plan, state.Today, in.Team, in.Items)}, nil
	})
}

func (s stage) draft(ctx context.Context, in *draftRequest) (*door.Answered[drafted], error) {
	l, state, err := s.Read(ctx, in.Reading)
	if err != nil {
		return nil, err
	}
	asked, err := json.Marshal(in.Body)
	if err != nil {
		return nil, err
	}
	return door.Answer(ctx, s.Door, l, state, "draft "+string(asked), func(ctx context.Context) (drafted, error) {
		end := time.Now().Add(draftTime)
		o := schedule.Options{
			Today: state.Today, FillTo: in.Body.FillTo, KeepClose: in.Body.KeepClose, Items: in.Body.Items,
			Stop: func() bool { return ctx.Err() != nil || time.Now().After(end) },
		}
		out := drafted{Revision: state.Revision, Draft: schedule.Draft(state.Plan, o), Today: schedule.Rate(state.Plan, o)}
		after := schedule.Place(state.Plan, out.Draft)
		facts := standing.Of(after, state.Today)
		out.Over = [2]int{len(state.Facts.Counts.Over), len(facts.Counts.Over)}
		out.Broken = [2]int{len(state.Facts.Counts.Broken), len(facts.Counts.Broken)}
		out.Before = l.Play(state.Plan, state.Playing(ctx)).Releases
		out.After = l.Play(after, state.Playing(ctx)).Releases
		return out, nil
	})
}

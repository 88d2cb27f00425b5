package programs

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/program"
	"jantrel/internal/api/door"
	"jantrel/internal/journal"
	"jantrel/internal/live"
)

type changesRequest struct {
	door.ProgramID
	door.Once
	Body struct {
		door.Client
		Revision int64            `json:"revision" minimum:"0" doc:"The revision that the changes were made on"`
		Label    string           `json:"label" minLength:"1" maxLength:"200" doc:"What the edit is, in a few words"`
		Changes  []program.Change `json:"changes" minItems:"1" maxItems:"50000"`
	}
}

type stepRequest struct {
	door.ProgramID
	door.Once
	Body door.Client
}

// edited is the answer to an edit: the update, and what undo and redo do next.
type edited struct {
	Body struct {
		Update live.Update `json:"update"`
		door.Steps
	}
}

// maxChanges is how many bytes a list of changes may have.
const maxChanges = 8 << 20

func (s stage) edits(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "apply-changes", Metadata: door.OnLine, Method: http.MethodPost, Path: "/api/v1/programs/{id}/changes",
		Summary: "Apply changes, all or none", MaxBodyBytes: maxChanges, BodyReadTimeout: 20 * time.Second,
		Errors: []int{http.StatusNotFound, http.StatusConflict, http.StatusUnprocessableEntity},
	}, func(ctx context.Context, in *changesRequest) (*edited, error) {
		p, who, err := s.OpenAs(ctx, in.ID)
		if err != nil {
			return nil, err
		}
		by := in.Sent(s.Author(ctx, who, in.Body.Client.Client), "changes", in.Body)
		update, err := p.Apply(ctx, by, in.Body.Revision, in.Body.Label, in.Body.Changes)
		return s.answer(ctx, p, by, update, err)
	})
	step := func(name, summary string, do func(*live.Line, context.Context, live.Author) (live.Update, error)) {
		huma.Register(api, huma.Operation{
			OperationID: name, Metadata: door.OnLine, Method: http.MethodPost, Path: "/api/v1/programs/{id}/" + name, Summary: summary,
			Errors: []int{http.StatusNotFound, http.StatusConflict},
		}, func(ctx context.Context, in *stepRequest) (*edited, error) {
			p, who, err := s.OpenAs(ctx, in.ID)
			if err != nil {
				return nil, err
			}
			by := in.Sent(s.Author(ctx, who, in.Body.Client), name, in.Body)
			update, err := do(p, ctx, by)
			return s.answer(ctx, p, by, update, err)
		})
	}
	step("undo", "Take back this page's last edit", (*live.Line).Undo)
	step("redo", "Do again what undo took back", (*live.Line).Redo)
	huma.Register(api, huma.Operation{
		OperationID: "step-past", Metadata: door.OnLine, Method: http.MethodPost, Path: "/api/v1/programs/{id}/step-past", Summary: "Leave as it is what undo or redo is stuck at, and go on to what is before it",
		Errors: []int{http.StatusNotFound, http.StatusConflict},
	}, func(ctx context.Context, in *struct {
		door.ProgramID
		Body struct {
			door.Client
			What  journal.Sort `json:"what" enum:"undo,redo"`
			Label string       `json:"label" maxLength:"1000" doc:"What is stepped past, as it is called"`
		}
	}) (*struct{ Body door.Steps }, error) {
		p, who, err := s.OpenAs(ctx, in.ID)
		if err != nil {
			return nil, err
		}
		by := s.Author(ctx, who, in.Body.Client.Client)
		if err := p.StepPast(ctx, by.Client, in.Body.What, in.Body.Label); err != nil {
			return nil, s.Problem(ctx, err)
		}
		out := &struct{ Body door.Steps }{}
		out.Body, err = s.Steps(ctx, p, by)
		return out, err
	})
	huma.Register(api, huma.Operation{
		OperationID: "get-steps", Method: http.MethodGet, Path: "/api/v1/programs/{id}/steps", Summary: "What undo and redo would do",
	}, func(ctx context.Context, in *struct {
		door.ProgramID
		Client string `query:"client" required:"true" maxLength:"80"`
	}) (*struct{ Body door.Steps }, error) {
		p, who, err := s.OpenAs(ctx, in.ID)
		if err != nil {
			return nil, err
		}
		out := &struct{ Body door.Steps }{}
		out.Body, err = s.Steps(ctx, p, s.Author(ctx, who, in.Client))
		return out, err
	})
}

func (s stage) answer(ctx context.Context, p *live.Line, by live.Author, update live.Update, err error) (*edited, error) {
	if err != nil {
		return nil, s.Problem(ctx, err)
	}
	out := &edited{}
	out.Body.Update = update
	out.Body.Steps, err = s.Steps(ctx, p, by)
	return out, err
}

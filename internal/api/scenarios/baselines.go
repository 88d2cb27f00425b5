package scenarios

import (
	"context"
	"errors"
	"net/http"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/program"
	"jantrel/core/roles"
	"jantrel/internal/api/door"
	"jantrel/internal/journal"
	"jantrel/internal/store"
)

// Frozen is a baseline: the live plan as it was on a day, under a name.
type Frozen struct {
	ID       int64        `json:"id" doc:"With baseline- before it, it goes into at of every request that is about it"`
	Revision int64        `json:"revision"`
	Day      program.Date `json:"day" doc:"On which it is seen"`
	Name     string       `json:"name"`
	Note     string       `json:"note,omitempty"`
	By       string       `json:"by" doc:"Who froze it"`
	At       time.Time    `json:"at" doc:"When"`
}

func (s stage) baselines(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "list-baselines", Method: http.MethodGet, Path: "/api/v1/programs/{id}/baselines", Summary: "The baselines, the newest first",
	}, func(ctx context.Context, in *door.ProgramID) (*struct{ Body []Frozen }, error) {
		if _, _, err := s.LiveAs(ctx, in.ID); err != nil {
			return nil, err
		}
		list, err := s.Store().Baselines(ctx, in.ID)
		if err != nil {
			return nil, s.Failed(ctx, err)
		}
		out := &struct{ Body []Frozen }{[]Frozen{}}
		for _, b := range list {
			out.Body = append(out.Body, frozen(b))
		}
		return out, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "freeze-baseline", Metadata: map[string]any{"past": true}, Method: http.MethodPost, Path: "/api/v1/programs/{id}/baselines", Summary: "Freeze the live plan, as it is or was, under a name",
		MaxBodyBytes: 16 << 10, DefaultStatus: http.StatusCreated, Errors: []int{http.StatusForbidden, http.StatusNotFound, http.StatusConflict, http.StatusUnprocessableEntity},
	}, s.freeze)
	huma.Register(api, huma.Operation{
		OperationID: "remove-baseline", Method: http.MethodDelete, Path: "/api/v1/programs/{id}/baselines/{baseline}", Summary: "Forget a baseline; the journal keeps what it was",
		Errors: []int{http.StatusForbidden, http.StatusNotFound},
	}, func(ctx context.Context, in *struct {
		door.ProgramID
		Baseline int64 `path:"baseline"`
	}) (*struct{}, error) {
		if err := s.mayFreeze(ctx, in.ID); err != nil {
			return nil, err
		}
		err := s.Store().RemoveBaseline(ctx, in.ID, in.Baseline)
		if errors.Is(err, journal.ErrNotFound) {
			return nil, huma.Error404NotFound("There is no such baseline. It may have been removed.")
		}
		if err != nil {
			return nil, s.Failed(ctx, err)
		}
		return nil, nil
	})
}

func frozen(b store.Baseline) Frozen {
	at, _ := time.Parse(time.RFC3339Nano, b.At) // written by freeze
	return Frozen{b.ID, b.Revision, b.Day, b.Name, b.Note, b.By, at}
}

func (s stage) mayFreeze(ctx context.Context, id int64) error {
	_, who, err := s.LiveAs(ctx, id)
	if err == nil && !roles.MayBeside(who.Role, roles.Baselines) {
		err = s.Denied(ctx, "As "+string(who.Role)+" you may not freeze or remove baselines; ask a program manager.")
	}
	return err
}

func (s stage) freeze(ctx context.Context, in *struct {
	door.Reading
	Body struct {
		Name string `json:"name" minLength:"1" maxLength:"120"`
		Note string `json:"note,omitempty" maxLength:"2000"`
	}
}) (*struct{ Body Frozen }, error) {
	_, state, err := s.Read(ctx, in.Reading)
	if err != nil {
		return nil, err
	}
	if err := s.mayFreeze(ctx, in.ID); err != nil {
		return nil, err
	}
	name := strings.TrimSpace(in.Body.Name)
	if name == "" {
		return nil, huma.Error422UnprocessableEntity("Give the baseline a name.")
	}
	made, err := s.Store().AddBaseline(ctx, store.Baseline{
		Program: in.ID, Revision: state.Revision, Day: state.Today, Name: name, Note: strings.TrimSpace(in.Body.Note),
		By: door.VisitorOf(ctx).Account.Name, At: s.Hub.Now().UTC().Format(time.RFC3339Nano),
	})
	switch {
	case errors.Is(err, store.ErrManyBaselines):
		return nil, huma.Error409Conflict("Nothing was frozen: " + err.Error() + ".")
	case err != nil:
		return nil, s.Failed(ctx, err)
	}
	return &struct{ Body Frozen }{frozen(made)}, nil
}

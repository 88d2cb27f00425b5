package api

import (
	"bytes"
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/program"
	"jantrel/core/roles"
	"jantrel/core/standing"
	"jantrel/internal/exchange"
	"jantrel/internal/store"
)

// ProgramID names the program that an operation is about.
type ProgramID struct {
	ID int64 `path:"id" doc:"The program"`
}

// snapshot is all of a program that a page draws.
type snapshot struct {
	ID       int64           `json:"id"`
	Revision int64           `json:"revision"`
	Today    program.Date    `json:"today"`
	Program  program.Program `json:"program"`
	Facts    standing.Facts  `json:"facts"`
	Mine     Mine            `json:"mine"`
}

type newProgram struct {
	Body struct {
		Name string `json:"name" minLength:"1" maxLength:"200"`
	}
}

type created struct {
	Body struct {
		ID int64 `json:"id"`
	}
}

func (s *server) programs(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "list-programs", Method: http.MethodGet, Path: "/api/v1/programs", Summary: "The programs that one belongs to, oldest first",
	}, func(ctx context.Context, _ *struct{}) (*struct{ Body []store.Summary }, error) {
		list, err := s.hub.Store().Programs(ctx)
		if err != nil {
			return nil, s.failed(ctx, err)
		}
		v := visitorOf(ctx)
		memberships, err := s.accounts.Store().Memberships(ctx, v.account.ID)
		if err != nil {
			return nil, s.failed(ctx, err)
		}
		yours := []store.Summary{}
		for _, summary := range list {
			if v.in(memberships, summary.ID).Role != "" {
				yours = append(yours, summary)
			}
		}
		return &struct{ Body []store.Summary }{yours}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "create-program", Method: http.MethodPost, Path: "/api/v1/programs", Summary: "A new, empty program",
		DefaultStatus: http.StatusCreated,
	}, func(ctx context.Context, in *newProgram) (*created, error) {
		return s.create(ctx, program.Program{Name: in.Body.Name}.Normal())
	})
	huma.Register(api, huma.Operation{
		OperationID: "import-program", Method: http.MethodPost, Path: "/api/v1/programs/import", Summary: "A program from its document",
		DefaultStatus: http.StatusCreated, MaxBodyBytes: maxDocument, BodyReadTimeout: 30 * time.Second, SkipValidateBody: true,
	}, func(ctx context.Context, in *struct {
		RawBody []byte `contentType:"application/json"`
	}) (*created, error) {
		p, err := exchange.ReadDocument(bytes.NewReader(in.RawBody))
		if err != nil {
			return nil, s.problem(ctx, err)
		}
		return s.create(ctx, p)
	})
	huma.Register(api, huma.Operation{
		OperationID: "delete-program", Method: http.MethodDelete, Path: "/api/v1/programs/{id}", Summary: "Delete a program with its journal",
	}, func(ctx context.Context, in *ProgramID) (*struct{}, error) {
		if _, err := s.administrator(ctx, in.ID); err != nil {
			return nil, err
		}
		if err := s.hub.Delete(ctx, in.ID); err != nil {
			return nil, s.failed(ctx, err)
		}
		return nil, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "get-program", Method: http.MethodGet, Path: "/api/v1/programs/{id}", Summary: "A program as it is, and what is known of it",
	}, s.snapshot)
	huma.Register(api, huma.Operation{
		OperationID: "export-program", Method: http.MethodGet, Path: "/api/v1/programs/{id}/document", Summary: "A program as a document",
	}, s.export)
}

func (s *server) create(ctx context.Context, p program.Program) (*created, error) {
	v := visitorOf(ctx)
	memberships, err := s.accounts.Store().Memberships(ctx, v.account.ID)
	if err != nil {
		return nil, s.failed(ctx, err)
	}
	if !mayCreate(v.account, memberships) || v.token != nil {
		return nil, s.denied(ctx, "Only administrators and program managers may make a program.")
	}
	id, err := s.hub.Create(ctx, p)
	if err == nil {
		err = s.accounts.Store().SaveMembership(ctx, store.Membership{AccountID: v.account.ID, ProgramID: id, Role: roles.Administrator})
	}
	if err != nil {
		return nil, s.failed(ctx, err)
	}
	out := &created{}
	out.Body.ID = id
	return out, nil
}

func (s *server) snapshot(ctx context.Context, in *Reading) (*struct{ Body snapshot }, error) {
	_, who, state, err := s.readAs(ctx, *in)
	if err != nil {
		return nil, err
	}
	return &struct{ Body snapshot }{snapshot{in.ID, state.Revision, state.Today, state.Program, state.Facts, mine(state.Program, who)}}, nil
}

func (s *server) export(ctx context.Context, in *Reading) (*struct {
	ContentType string `header:"Content-Type"`
	Disposition string `header:"Content-Disposition"`
	Body        []byte
}, error) {
	_, state, err := s.read(ctx, *in)
	if err != nil {
		return nil, err
	}
	var out bytes.Buffer
	if err := exchange.WriteDocument(&out, state.Program); err != nil {
		return nil, s.failed(ctx, err)
	}
	return &struct {
		ContentType string `header:"Content-Type"`
		Disposition string `header:"Content-Disposition"`
		Body        []byte
	}{"application/json", `attachment; filename="program.json"`, out.Bytes()}, nil
}

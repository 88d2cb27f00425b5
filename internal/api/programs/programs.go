// Package programs serves what every stage works with: the programs themselves, what the page
// draws lists and lanes from, edits and the journal.
package programs

import (
	"bytes"
	"context"
	"errors"
	"net/http"
	"slices"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/act"
	"jantrel/core/program"
	"jantrel/core/roles"
	"jantrel/core/standing"
	"jantrel/core/starting"
	"jantrel/internal/api/door"
	"jantrel/internal/demo"
	"jantrel/internal/exchange"
	"jantrel/internal/store"
)

// snapshot is all of a program that a page draws.
type snapshot struct {
	ID       int64           `json:"id"`
	Revision int64           `json:"revision"`
	Today    program.Date    `json:"today"`
	Program  program.Program `json:"program"`
	Facts    standing.Facts  `json:"facts"`
	Mine     door.Mine       `json:"mine"`
}

type newProgram struct {
	Body struct {
		Name     string `json:"name" minLength:"1" maxLength:"200"`
		Template string `json:"template,omitempty" maxLength:"50" doc:"Of the template that it starts from; none: empty"`
		SetUpOf  int64  `json:"setUpOf,omitempty" minimum:"0" doc:"The program whose set-up it starts with"`
		Sample   bool   `json:"sample,omitempty" doc:"The sample program, with work in it, laid around today"`
	}
}

// begin makes what a new program starts with.
func (s stage) begin(ctx context.Context, in *newProgram) (program.Program, error) {
	today := s.Hub.Today()
	switch b := in.Body; {
	case b.Sample:
		p := demo.Program(today)
		p.Name = b.Name
		return p, nil
	case b.SetUpOf != 0:
		_, state, err := s.Read(ctx, door.Reading{ProgramID: door.ProgramID{ID: b.SetUpOf}})
		if err != nil {
			return program.Program{}, err
		}
		return starting.SetUpOf(state.Program, b.Name), nil
	case b.Template != "":
		at := slices.IndexFunc(starting.Templates, func(t starting.Template) bool { return t.Key == b.Template })
		if at < 0 {
			return program.Program{}, huma.Error422UnprocessableEntity("There is no template " + b.Template + ".")
		}
		return starting.From(starting.Templates[at], b.Name, today), nil
	}
	return program.Program{Name: in.Body.Name}.Normal(), nil
}

type created struct {
	Body struct {
		ID int64 `json:"id"`
	}
}

// stage is the door with this package's operations.
type stage struct{ *door.Door }

// Register adds the operations.
func Register(api huma.API, d *door.Door) {
	s := stage{d}
	s.programs(api)
	s.templates(api)
	s.outlines(api)
	s.edits(api)
	s.journal(api)
	s.events(api)
	door.Intent[act.Make](api, d, "make", "Changes, with what they would do shown before")
	door.Intent[act.Remove](api, d, "remove", "Remove a thing with all that names it")
}

func (s stage) programs(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "list-programs", Method: http.MethodGet, Path: "/api/v1/programs", Summary: "The programs that one belongs to, oldest first",
	}, func(ctx context.Context, _ *struct{}) (*struct{ Body []store.Summary }, error) {
		list, err := s.Store().Programs(ctx)
		if err != nil {
			return nil, s.Failed(ctx, err)
		}
		v := door.VisitorOf(ctx)
		memberships, err := s.Store().Memberships(ctx, v.Account.ID)
		if err != nil {
			return nil, s.Failed(ctx, err)
		}
		yours := []store.Summary{}
		for _, summary := range list {
			if v.In(memberships, summary.ID).Role != "" {
				yours = append(yours, summary)
			}
		}
		return &struct{ Body []store.Summary }{yours}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "create-program", Metadata: door.Creates, Method: http.MethodPost, Path: "/api/v1/programs", Summary: "A new program: empty, or from a template, another's set-up or the sample",
		DefaultStatus: http.StatusCreated,
	}, func(ctx context.Context, in *newProgram) (*created, error) {
		if kept, is := keptOf(in.Body.Template); is {
			_, made, err := s.template(ctx, kept)
			if err != nil {
				return nil, err
			}
			out, err := s.create(ctx, made.Start(in.Body.Name, s.Hub.Today()))
			if err != nil {
				return nil, err
			}
			if err := s.furnish(ctx, out.Body.ID, in.Body.Name, &made); err != nil {
				return nil, s.Failed(ctx, errors.Join(err, s.Hub.Delete(ctx, out.Body.ID))) // whole or not at all
			}
			return out, nil
		}
		p, err := s.begin(ctx, in)
		if err != nil {
			return nil, err
		}
		return s.create(ctx, p)
	})
	huma.Register(api, huma.Operation{
		OperationID: "import-program", Metadata: door.Creates, Method: http.MethodPost, Path: "/api/v1/programs/import", Summary: "A program from its document",
		DefaultStatus: http.StatusCreated, MaxBodyBytes: exchange.MaxDocument + 1, BodyReadTimeout: 30 * time.Second, SkipValidateBody: true,
	}, func(ctx context.Context, in *struct {
		RawBody []byte `contentType:"application/json"`
	}) (*created, error) {
		p, err := exchange.ReadDocument(bytes.NewReader(in.RawBody))
		if err != nil {
			return nil, s.Problem(ctx, err)
		}
		return s.create(ctx, p)
	})
	huma.Register(api, huma.Operation{
		OperationID: "delete-program", Method: http.MethodDelete, Path: "/api/v1/programs/{id}", Summary: "Delete a program with its journal",
	}, func(ctx context.Context, in *door.ProgramID) (*struct{}, error) {
		p, err := s.Administrator(ctx, in.ID)
		if err != nil {
			return nil, err
		}
		name := p.State().Program.Name
		if err := s.Hub.Delete(ctx, in.ID); err != nil {
			return nil, s.Failed(ctx, err)
		}
		s.Note(ctx, store.ProgramDeleted, name, "")
		return nil, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "get-program", Method: http.MethodGet, Path: "/api/v1/programs/{id}", Summary: "A program as it is, and what is known of it",
	}, s.snapshot)
	huma.Register(api, huma.Operation{
		OperationID: "export-program", Method: http.MethodGet, Path: "/api/v1/programs/{id}/document", Summary: "A program as a document",
	}, s.export)
}

func (s stage) create(ctx context.Context, p program.Program) (*created, error) {
	v := door.VisitorOf(ctx)
	id, err := s.Hub.Create(ctx, p)
	if err == nil {
		err = s.Store().SaveMembership(ctx, store.Membership{AccountID: v.Account.ID, ProgramID: id, Role: roles.Administrator})
	}
	if err != nil {
		return nil, s.Failed(ctx, err)
	}
	s.Note(ctx, store.ProgramMade, p.Name, "")
	out := &created{}
	out.Body.ID = id
	return out, nil
}

func (s stage) snapshot(ctx context.Context, in *door.Reading) (*struct{ Body snapshot }, error) {
	_, who, state, err := s.ReadAs(ctx, *in)
	if err != nil {
		return nil, err
	}
	return &struct{ Body snapshot }{snapshot{in.ID, state.Revision, state.Today, state.Program, state.Facts, door.MineOf(state.Program, who)}}, nil
}

func (s stage) export(ctx context.Context, in *door.Reading) (*door.File, error) {
	_, state, err := s.Read(ctx, *in)
	if err != nil {
		return nil, err
	}
	var out bytes.Buffer
	if err := exchange.WriteDocument(&out, state.Program); err != nil {
		return nil, s.Failed(ctx, err)
	}
	return door.Attached("program.json", "application/json", out.Bytes()), nil
}

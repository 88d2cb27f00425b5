package accounts

import (
	"context"
	"errors"
	"net/http"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/program"
	"jantrel/core/roles"
	"jantrel/internal/api/door"
	"jantrel/internal/store"
)

func (s stage) members(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "list-members", Method: http.MethodGet, Path: "/api/v1/programs/{id}/members", Summary: "Who belongs to the program",
	}, func(ctx context.Context, in *door.ProgramID) (*struct{ Body []store.Belonging }, error) {
		if _, err := s.Administrator(ctx, in.ID); err != nil {
			return nil, err
		}
		list, err := s.Store().Belongings(ctx, in.ID)
		if err != nil {
			return nil, s.Failed(ctx, err)
		}
		return &struct{ Body []store.Belonging }{list}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "save-member", Method: http.MethodPut, Path: "/api/v1/programs/{id}/members", Summary: "Let an account belong to the program, or give it another role",
		MaxBodyBytes: 4 << 10,
	}, func(ctx context.Context, in *struct {
		door.ProgramID
		Body struct {
			Login  string     `json:"login" minLength:"1" maxLength:"200"`
			Role   roles.Role `json:"role" enum:"administrator,program manager,team lead,member,viewer"`
			Person string     `json:"person,omitempty" maxLength:"200" doc:"The person of the program who they are"`
		}
	}) (*struct{}, error) {
		p, err := s.Administrator(ctx, in.ID)
		if err != nil {
			return nil, err
		}
		if in.Body.Person != "" && !slices.ContainsFunc(p.State().Program.People, func(x program.Person) bool { return x.Key == in.Body.Person }) {
			return nil, huma.Error422UnprocessableEntity("Nothing was changed: the program has no person " + in.Body.Person + ".")
		}
		a, err := s.Store().AccountBy(ctx, "login", in.Body.Login)
		if err == nil {
			err = s.Store().SaveMembership(ctx, store.Membership{AccountID: a.ID, ProgramID: in.ID, Role: in.Body.Role, Person: in.Body.Person})
		}
		if err == nil {
			s.Note(ctx, store.RoleGiven, a.Login, string(in.Body.Role)+" of "+p.State().Program.Name)
		}
		if errors.Is(err, store.ErrNoAccount) {
			return nil, huma.Error422UnprocessableEntity("There is no account with the sign-in name " + in.Body.Login + ". An administrator of the server makes accounts, under The server.")
		}
		return nil, s.unsaved(ctx, err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "remove-member", Method: http.MethodDelete, Path: "/api/v1/programs/{id}/members/{account}", Summary: "End an account's belonging to the program",
	}, func(ctx context.Context, in *struct {
		door.ProgramID
		Account int64 `path:"account"`
	}) (*struct{}, error) {
		p, err := s.Administrator(ctx, in.ID)
		if err != nil {
			return nil, err
		}
		a, err := s.Store().AccountBy(ctx, "id", in.Account)
		if err == nil {
			err = s.Store().RemoveMembership(ctx, in.Account, in.ID)
		}
		if err == nil {
			s.Note(ctx, store.RoleEnded, a.Login, "of "+p.State().Program.Name)
		}
		return nil, s.unsaved(ctx, err)
	})
}

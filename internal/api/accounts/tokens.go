package accounts

import (
	"context"
	"net/http"
	"slices"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/program"
	"jantrel/core/roles"
	"jantrel/internal/api/door"
	"jantrel/internal/store"
)

type newToken struct {
	door.ProgramID
	Body struct {
		Name    string       `json:"name" minLength:"1" maxLength:"120" doc:"What it is for"`
		Role    roles.Role   `json:"role" enum:"administrator,program manager,team lead,member,viewer" doc:"At most one's own"`
		Expires program.Date `json:"expires" doc:"The last day it can be used, at most a year ahead"`
	}
}

// MadeToken is a token that has just been made.
type MadeToken struct {
	Token string `json:"token" doc:"Shown this once; send it as Authorization: Bearer …"`
}

func (s stage) tokens(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "list-tokens", Method: http.MethodGet, Path: "/api/v1/programs/{id}/tokens", Summary: "One's tokens for the program",
	}, func(ctx context.Context, in *door.ProgramID) (*struct{ Body []store.Token }, error) {
		if _, err := s.Open(ctx, in.ID); err != nil {
			return nil, err
		}
		list, err := s.Store().Tokens(ctx, door.VisitorOf(ctx).Account.ID, in.ID)
		if err != nil {
			return nil, s.Failed(ctx, err)
		}
		return &struct{ Body []store.Token }{list}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "make-token", Metadata: door.Asks, Method: http.MethodPost, Path: "/api/v1/programs/{id}/tokens", Summary: "A token for a program of one's own to use this interface",
		DefaultStatus: http.StatusCreated, MaxBodyBytes: 4 << 10,
	}, func(ctx context.Context, in *newToken) (*struct{ Body MadeToken }, error) {
		l, who, err := s.OpenAs(ctx, in.ID)
		if err != nil {
			return nil, err
		}
		if err := s.Person(ctx); err != nil {
			return nil, err
		}
		v := door.VisitorOf(ctx)
		if slices.Index(roles.All, in.Body.Role) < slices.Index(roles.All, who.Role) { // an unknown one too
			return nil, s.Denied(ctx, "A token's role is at most your own, "+string(who.Role)+".")
		}
		text, err := s.Accounts.NewToken(ctx, v.Account.ID, in.ID, in.Body.Name, in.Body.Role, in.Body.Expires.Add(1).Time().Add(-time.Second))
		if err == nil {
			s.Note(ctx, store.TokenMade, in.Body.Name, string(in.Body.Role)+" of "+l.State().Program.Name)
		}
		return &struct{ Body MadeToken }{MadeToken{text}}, s.unsaved(ctx, err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "remove-token", Method: http.MethodDelete, Path: "/api/v1/programs/{id}/tokens/{token}", Summary: "End a token",
	}, func(ctx context.Context, in *struct {
		door.ProgramID
		Token int64 `path:"token"`
	}) (*struct{}, error) {
		if _, err := s.Open(ctx, in.ID); err != nil {
			return nil, err
		}
		if err := s.Person(ctx); err != nil {
			return nil, err
		}
		return nil, s.endToken(ctx, door.VisitorOf(ctx).Account, in.Token)
	})
}

// endToken ends a token of an account.
func (s stage) endToken(ctx context.Context, of store.Account, token int64) error {
	tokens, err := s.Store().TokensOf(ctx, of.ID)
	if err == nil {
		err = s.Store().RemoveToken(ctx, of.ID, token)
	}
	if err != nil {
		return s.unsaved(ctx, err)
	}
	if i := slices.IndexFunc(tokens, func(t store.TokenOf) bool { return t.ID == token }); i >= 0 {
		s.Note(ctx, store.TokenEnded, tokens[i].Name, "of "+of.Login)
	}
	return nil
}

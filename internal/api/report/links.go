package report

import (
	"context"
	"errors"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/internal/api/door"
	"jantrel/internal/journal"
	"jantrel/internal/store"
)

// BriefLink lets whoever has it read a published brief.
type BriefLink struct {
	ID     int64      `json:"id"`
	By     string     `json:"by" doc:"Who made it: it leads there as long as they belong to the program"`
	MadeAt time.Time  `json:"madeAt"`
	ReadAt *time.Time `json:"readAt,omitempty" doc:"When it was last followed; missing: never"`
	Path   string     `json:"path,omitempty" doc:"Where it leads; told once, when it is made"`
}

func (s stage) links(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "list-brief-links", Method: http.MethodGet, Path: "/api/v1/programs/{id}/briefs/{brief}/links", Summary: "The links by which a published brief is read without an account",
		Errors: []int{http.StatusForbidden, http.StatusNotFound},
	}, func(ctx context.Context, in *OneBrief) (*struct{ Body []BriefLink }, error) {
		if _, err := s.mayWrite(ctx, in.ID); err != nil {
			return nil, err
		}
		list, err := s.Store().Links(ctx, store.LinksOf{Program: &in.ID, Kind: store.ToBrief, About: &in.Brief})
		if err != nil {
			return nil, s.Failed(ctx, err)
		}
		out := []BriefLink{}
		for i := range list {
			out = append(out, briefLink(&list[i]))
		}
		return &struct{ Body []BriefLink }{out}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "add-brief-link", Method: http.MethodPost, Path: "/api/v1/programs/{id}/briefs/{brief}/links", Summary: "Make a link by which a published brief is read without an account",
		DefaultStatus: http.StatusCreated, Errors: []int{http.StatusForbidden, http.StatusNotFound, http.StatusConflict, http.StatusUnprocessableEntity},
	}, func(ctx context.Context, in *OneBrief) (*struct{ Body BriefLink }, error) {
		if _, err := s.mayWrite(ctx, in.ID); err != nil {
			return nil, err
		}
		if err := s.Person(ctx); err != nil {
			return nil, err
		}
		_, b, err := s.brief(ctx, in.ID, in.Brief)
		if err != nil {
			return nil, err
		}
		if b.Number == 0 {
			return nil, huma.Error422UnprocessableEntity("No link was made: this is a draft. Publish it first.")
		}
		link, secret, err := s.MakeLink(ctx, store.Link{Program: in.ID, Kind: store.ToBrief, About: in.Brief}, "link")
		if err != nil {
			return nil, err
		}
		out := briefLink(&link)
		out.Path = door.SharedPath + secret
		return &struct{ Body BriefLink }{out}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "list-links", Method: http.MethodGet, Path: "/api/v1/programs/{id}/links", Summary: "All links by which something of the program is seen without an account; of who does not manage it, their own",
	}, func(ctx context.Context, in *door.ProgramID) (*struct{ Body []door.Link }, error) {
		_, who, err := s.LiveAs(ctx, in.ID)
		if err != nil {
			return nil, err
		}
		of := store.LinksOf{Program: &in.ID}
		if !door.Manages(who.Role) {
			of.Maker = &door.VisitorOf(ctx).Account.ID
		}
		list, err := s.Links(ctx, of)
		return &struct{ Body []door.Link }{list}, err
	})
	huma.Register(api, huma.Operation{
		OperationID: "end-link", Method: http.MethodDelete, Path: "/api/v1/programs/{id}/links/{link}", Summary: "End a link: it leads nowhere from now on",
		Errors: []int{http.StatusForbidden, http.StatusNotFound},
	}, func(ctx context.Context, in *struct {
		door.ProgramID
		Link int64 `path:"link"`
	}) (*struct{}, error) {
		_, who, err := s.LiveAs(ctx, in.ID)
		if err != nil {
			return nil, err
		}
		return nil, s.EndLink(ctx, store.LinksOf{Program: &in.ID, ID: &in.Link}, who.Role)
	})
	huma.Register(api, huma.Operation{
		OperationID: "read-shared", Metadata: door.Public, Method: http.MethodGet, Path: door.SharedPath + "{secret}", Summary: "What a link leads to, as a page of its own",
		Errors: []int{http.StatusNotFound, http.StatusTooManyRequests},
	}, func(ctx context.Context, in *struct {
		Secret string `path:"secret" maxLength:"100"`
	}) (*door.Page, error) {
		const nowhere = "This link leads nowhere: it was ended, or never was one. Ask whoever gave it to you."
		link, _, err := s.Follow(ctx, store.ToBrief, in.Secret, nowhere)
		if err != nil {
			return nil, err
		}
		b, err := s.Store().Brief(ctx, link.Program, link.About)
		if errors.Is(err, journal.ErrNotFound) || err == nil && b.Written == nil {
			return nil, huma.Error404NotFound(nowhere)
		}
		if err != nil {
			return nil, s.Failed(ctx, err)
		}
		text, err := fileOf(&b, b.Written, "html", "")
		if err != nil {
			return nil, s.Failed(ctx, err)
		}
		return &door.Page{ContentType: htmlType, Robots: "noindex", Body: text}, nil
	})
}

func briefLink(l *store.Link) BriefLink {
	return BriefLink{ID: l.ID, By: l.Maker, MadeAt: l.Made(), ReadAt: l.Used()}
}

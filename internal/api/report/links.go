package report

import (
	"context"
	"errors"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/internal/account"
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
		list, err := s.Store().Links(ctx, in.ID, in.Brief)
		if err != nil {
			return nil, s.Failed(ctx, err)
		}
		out := []BriefLink{}
		for _, l := range list {
			out = append(out, briefLink(l))
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
		v := door.VisitorOf(ctx)
		secret, hash := account.NewSecret()
		link, err := s.Store().AddLink(ctx, store.Link{Program: in.ID, Brief: in.Brief, Secret: hash, MakerID: v.Account.ID, Maker: v.Account.Name, MadeAt: s.Hub.Now().UTC().Format(time.RFC3339Nano)})
		if err != nil {
			return nil, s.unkept(ctx, err)
		}
		out := briefLink(link)
		out.Path = door.SharedPath + secret
		return &struct{ Body BriefLink }{out}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "end-brief-link", Method: http.MethodDelete, Path: "/api/v1/programs/{id}/links/{link}", Summary: "End a link: it leads nowhere from now on",
		Errors: []int{http.StatusForbidden, http.StatusNotFound},
	}, func(ctx context.Context, in *struct {
		door.ProgramID
		Link int64 `path:"link"`
	}) (*struct{}, error) {
		if _, err := s.mayWrite(ctx, in.ID); err != nil {
			return nil, err
		}
		err := s.Store().EndLink(ctx, in.ID, in.Link)
		if errors.Is(err, journal.ErrNotFound) {
			return nil, huma.Error404NotFound("There is no such link. It may have been ended.")
		}
		return nil, s.unkept(ctx, err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "read-shared", Metadata: door.Public, Method: http.MethodGet, Path: door.SharedPath + "{secret}", Summary: "What a link leads to, as a page of its own",
		Errors: []int{http.StatusNotFound},
	}, func(ctx context.Context, in *struct {
		Secret string `path:"secret" maxLength:"100"`
	}) (*door.Page, error) {
		b, err := s.Store().Linked(ctx, account.HashSecret(in.Secret), s.Hub.Now().UTC().Format(time.RFC3339Nano))
		if errors.Is(err, journal.ErrNotFound) || err == nil && b.Written == nil {
			return nil, huma.Error404NotFound("This link leads nowhere: it was ended, or never was one. Ask whoever gave it to you.")
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

func briefLink(l store.Link) BriefLink {
	made, _ := time.Parse(time.RFC3339Nano, l.MadeAt) // written by add-brief-link
	return BriefLink{ID: l.ID, By: l.Maker, MadeAt: made, ReadAt: lastAt(l.ReadAt)}
}

// lastAt is when something was last done, as the store has it; nil for never.
func lastAt(text string) *time.Time {
	at, err := time.Parse(time.RFC3339Nano, text)
	if err != nil {
		return nil
	}
	return &at
}

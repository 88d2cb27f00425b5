package report

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/roles"
	"jantrel/internal/api/door"
	"jantrel/internal/exchange"
	"jantrel/internal/store"
)

// DateFeed is a private address at which a calendar fetches dates of a program.
type DateFeed struct {
	ID     int64      `json:"id"`
	What   []string   `json:"what" doc:"What it holds: iterations, releases, milestones, and mine for what is due of one's own"`
	MadeAt time.Time  `json:"madeAt"`
	ReadAt *time.Time `json:"readAt,omitempty" doc:"When it was last fetched; missing: never"`
	Path   string     `json:"path,omitempty" doc:"Where it is; told once, when it is made"`
}

// OneDateFeed names a feed of one's own.
type OneDateFeed struct {
	door.ProgramID
	Feed int64 `path:"feed"`
}

func (s stage) dateFeeds(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "list-date-feeds", Method: http.MethodGet, Path: "/api/v1/programs/{id}/date-feeds", Summary: "One's private addresses for a calendar",
	}, func(ctx context.Context, in *door.ProgramID) (*struct{ Body []DateFeed }, error) {
		if _, err := s.Open(ctx, in.ID); err != nil {
			return nil, err
		}
		list, err := s.Store().Links(ctx, store.LinksOf{Program: &in.ID, Kind: store.ToDates, Maker: &door.VisitorOf(ctx).Account.ID})
		if err != nil {
			return nil, s.Failed(ctx, err)
		}
		out := make([]DateFeed, len(list))
		for i := range list {
			if out[i], err = dateFeed(&list[i]); err != nil {
				return nil, s.Failed(ctx, err)
			}
		}
		return &struct{ Body []DateFeed }{out}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "add-date-feed", Metadata: door.Keeps, Method: http.MethodPost, Path: "/api/v1/programs/{id}/date-feeds", Summary: "Make a private address at which a calendar fetches dates",
		MaxBodyBytes: 1 << 10, DefaultStatus: http.StatusCreated, Errors: []int{http.StatusForbidden, http.StatusConflict},
	}, func(ctx context.Context, in *struct {
		door.ProgramID
		Body struct {
			What []string `json:"what" minItems:"1" maxItems:"4" uniqueItems:"true" enum:"iterations,releases,milestones,mine"`
		}
	}) (*struct{ Body DateFeed }, error) {
		if _, err := s.Open(ctx, in.ID); err != nil {
			return nil, err
		}
		if err := s.Person(ctx); err != nil {
			return nil, err
		}
		what, err := json.Marshal(in.Body.What)
		if err != nil {
			return nil, s.Failed(ctx, err)
		}
		made, secret, err := s.MakeLink(ctx, store.Link{Program: in.ID, Kind: store.ToDates, Body: what}, "address")
		if err != nil {
			return nil, err
		}
		out, err := dateFeed(&made)
		out.Path = door.SharedPath + secret + "/dates.ics"
		return &struct{ Body DateFeed }{out}, err
	})
	huma.Register(api, huma.Operation{
		OperationID: "end-date-feed", Metadata: door.Keeps, Method: http.MethodDelete, Path: "/api/v1/programs/{id}/date-feeds/{feed}", Summary: "End a private address of one's own: it leads nowhere from now on",
	}, func(ctx context.Context, in *OneDateFeed) (*struct{}, error) {
		if _, err := s.Open(ctx, in.ID); err != nil {
			return nil, err
		}
		return nil, s.EndLink(ctx, store.LinksOf{Program: &in.ID, Kind: store.ToDates, Maker: &door.VisitorOf(ctx).Account.ID, ID: &in.Feed}, roles.Viewer)
	})
	huma.Register(api, huma.Operation{
		OperationID: "fetch-dates", Metadata: door.Public, Method: http.MethodGet, Path: door.SharedPath + "{secret}/dates.ics", Summary: "The dates of a private address, as iCalendar",
		Errors: []int{http.StatusNotFound, http.StatusTooManyRequests},
	}, func(ctx context.Context, in *struct {
		Secret string `path:"secret" maxLength:"100"`
	}) (*door.File, error) {
		feed, whose, err := s.Follow(ctx, store.ToDates, in.Secret, "This address leads nowhere: it was ended, or never was one.")
		if err != nil {
			return nil, err
		}
		var what []string
		if err := json.Unmarshal(feed.Body, &what); err != nil {
			return nil, s.Failed(ctx, err)
		}
		_, who, state, err := s.ReadAs(door.Looking(ctx, fmt.Sprintf("calendar address %d", feed.ID), whose, feed.Program), door.Reading{ProgramID: door.ProgramID{ID: feed.Program}})
		if err != nil {
			return nil, err
		}
		var out bytes.Buffer
		if err := exchange.WriteDates(&out, state.Program, state.Today, what, nil, who.Person); err != nil {
			return nil, s.Failed(ctx, err)
		}
		return door.Attached("dates.ics", door.MediaTypes["ics"], out.Bytes()), nil
	})
}

func dateFeed(l *store.Link) (DateFeed, error) {
	out := DateFeed{ID: l.ID, MadeAt: l.Made(), ReadAt: l.Used()}
	return out, json.Unmarshal(l.Body, &out.What)
}

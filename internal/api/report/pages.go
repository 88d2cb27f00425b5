package report

import (
	"context"
	"errors"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/reports"
	"jantrel/core/roles"
	"jantrel/internal/api/door"
	"jantrel/internal/journal"
	"jantrel/internal/store"
)

// Head is a page without its cards.
type Head struct {
	ID        int64         `json:"id"`
	Name      string        `json:"name"`
	Note      string        `json:"note,omitempty"`
	Owner     string        `json:"owner" doc:"Who keeps it"`
	Mine      bool          `json:"mine" doc:"It is who asks; of one that somebody shares who left, who manages the program: by changing it they take it over"`
	MayEdit   bool          `json:"mayEdit"`
	Shared    store.Sharing `json:"shared" enum:",read,edit" doc:"What others may do with it; empty: it is its owner's alone"`
	People    []int64       `json:"people" doc:"Accounts that it is shared with; none: all who belong to the program"`
	Version   int64         `json:"version" doc:"Counts its changes: to be sent with the next one"`
	ChangedBy string        `json:"changedBy"`
	ChangedAt time.Time     `json:"changedAt"`
}

// Whole is a page with its cards.
type Whole struct {
	Head
	Cards []reports.Card `json:"cards"`
}

// Colleague is somebody whom a page can be shared with.
type Colleague struct {
	Account int64  `json:"account"`
	Name    string `json:"name"`
}

// shelf are the pages of a program that somebody sees.
type shelf struct {
	Pages  []Head          `json:"pages" doc:"The oldest first"`
	Ready  []reports.Ready `json:"ready" doc:"That come with Jantrel, made for this program and who asks"`
	People []Colleague     `json:"people" doc:"Who belongs to the program besides"`
}

// kept is a page as it is to be kept.
type kept struct {
	Version int64          `json:"version,omitempty" doc:"Of a page that is there: the one that was changed"`
	Name    string         `json:"name" maxLength:"200"`
	Note    string         `json:"note,omitempty" maxLength:"20000"`
	Cards   []reports.Card `json:"cards" maxItems:"40"`
	Shared  store.Sharing  `json:"shared,omitempty" enum:",read,edit"`
	People  []int64        `json:"people,omitempty" maxItems:"200"`
}

// OnePage names a page of a program.
type OnePage struct {
	door.ProgramID
	Page int64 `path:"page"`
}

func (s stage) pages(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "list-pages", Method: http.MethodGet, Path: "/api/v1/programs/{id}/pages", Summary: "The pages of charts that one sees",
	}, s.list)
	huma.Register(api, huma.Operation{
		OperationID: "get-page", Method: http.MethodGet, Path: "/api/v1/programs/{id}/pages/{page}", Summary: "A page of charts",
		Errors: []int{http.StatusNotFound},
	}, func(ctx context.Context, in *OnePage) (*struct{ Body Whole }, error) {
		page, head, err := s.seen(ctx, in.ID, in.Page)
		if err != nil {
			return nil, err
		}
		return &struct{ Body Whole }{Whole{head, page.Body.Cards}}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "add-page", Metadata: door.Keeps, Method: http.MethodPost, Path: "/api/v1/programs/{id}/pages", Summary: "Keep a new page of charts",
		MaxBodyBytes: maxPage, DefaultStatus: http.StatusCreated, Errors: []int{http.StatusConflict, http.StatusUnprocessableEntity},
	}, func(ctx context.Context, in *struct {
		door.ProgramID
		Body kept
	}) (*struct{ Body Whole }, error) {
		if _, err := s.Open(ctx, in.ID); err != nil {
			return nil, err
		}
		v := door.VisitorOf(ctx)
		return s.keep(ctx, store.Page{Program: in.ID, OwnerID: v.Account.ID, Owner: v.Account.Name}, in.Body)
	})
	huma.Register(api, huma.Operation{
		OperationID: "put-page", Metadata: door.Keeps, Method: http.MethodPut, Path: "/api/v1/programs/{id}/pages/{page}", Summary: "Change a page of charts, or whom it is shared with",
		MaxBodyBytes: maxPage, Errors: []int{http.StatusForbidden, http.StatusNotFound, http.StatusConflict, http.StatusUnprocessableEntity},
	}, func(ctx context.Context, in *struct {
		OnePage
		Body kept
	}) (*struct{ Body Whole }, error) {
		page, head, err := s.seen(ctx, in.ID, in.Page)
		if err != nil {
			return nil, err
		}
		if !head.MayEdit {
			return nil, s.Denied(ctx, "Nothing was changed: "+page.Owner+" shares this page to look at. Make a copy, and change that.")
		}
		page.Version = in.Body.Version
		if v := door.VisitorOf(ctx); head.Mine { // or becomes theirs, as whose it was has left
			page.OwnerID, page.Owner = v.Account.ID, v.Account.Name
		}
		return s.keep(ctx, page, in.Body)
	})
	huma.Register(api, huma.Operation{
		OperationID: "remove-page", Metadata: door.Keeps, Method: http.MethodDelete, Path: "/api/v1/programs/{id}/pages/{page}", Summary: "Remove a page of charts of one's own",
		Errors: []int{http.StatusForbidden, http.StatusNotFound},
	}, func(ctx context.Context, in *OnePage) (*struct{}, error) {
		page, head, err := s.seen(ctx, in.ID, in.Page)
		if err != nil {
			return nil, err
		}
		if !head.Mine {
			return nil, s.Denied(ctx, "Nothing was removed: the page is "+page.Owner+"'s.")
		}
		if err := s.Store().RemovePage(ctx, in.ID, in.Page); err != nil {
			return nil, s.Failed(ctx, err)
		}
		return nil, nil
	})
}

// maxPage is how large a page is at most when it is sent.
const maxPage = 1 << 20

func (s stage) list(ctx context.Context, in *door.ProgramID) (*struct{ Body shelf }, error) {
	l, who, err := s.OpenAs(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	pages, err := s.Store().Pages(ctx, in.ID)
	if err != nil {
		return nil, s.Failed(ctx, err)
	}
	belong, err := s.Store().Belongings(ctx, in.ID)
	if err != nil {
		return nil, s.Failed(ctx, err)
	}
	me := door.VisitorOf(ctx).Account.ID
	p := l.State().Program
	out := shelf{[]Head{}, reports.ReadyPages(&p, who.Person), []Colleague{}}
	for _, page := range pages {
		if sees(page, me) {
			head, err := s.headOf(ctx, page, who)
			if err != nil {
				return nil, err
			}
			out.Pages = append(out.Pages, head)
		}
	}
	for _, b := range belong {
		if b.AccountID != me {
			out.People = append(out.People, Colleague{b.AccountID, b.Name})
		}
	}
	return &struct{ Body shelf }{out}, nil
}

// sees reports whether an account that belongs to the program sees a page.
func sees(p store.Page, account int64) bool {
	return p.OwnerID == account || p.Shared != store.Private && isFor(p, account)
}

func isFor(p store.Page, account int64) bool {
	return len(p.People) == 0 || slices.Contains(p.People, account)
}

// headOf is a page as the visitor has it. A shared one of somebody who left is as good as theirs to who manages the program.
func (s stage) headOf(ctx context.Context, p store.Page, who roles.Who) (Head, error) {
	me := door.VisitorOf(ctx).Account.ID
	at, _ := time.Parse(time.RFC3339Nano, p.ChangedAt) // written by keep
	mine := p.OwnerID == me
	if !mine && door.Manages(who.Role) {
		left, err := s.Left(ctx, p.Program, &p.OwnerID)
		if err != nil {
			return Head{}, s.Failed(ctx, err)
		}
		mine = left
	}
	return Head{p.ID, p.Body.Name, p.Body.Note, p.Owner, mine, mine || p.Shared == store.SharedEdit && isFor(p, me), p.Shared, p.People, p.Version, p.ChangedBy, at}, nil
}

// seen is a page that the visitor sees; to others it looks as if there were none.
func (s stage) seen(ctx context.Context, id, page int64) (store.Page, Head, error) {
	_, who, err := s.OpenAs(ctx, id)
	if err != nil {
		return store.Page{}, Head{}, err
	}
	p, err := s.Store().Page(ctx, id, page)
	switch {
	case errors.Is(err, journal.ErrNotFound) || err == nil && !sees(p, door.VisitorOf(ctx).Account.ID):
		return p, Head{}, huma.Error404NotFound("There is no such page. It may have been removed, or is not shared with you any more.")
	case err != nil:
		return p, Head{}, s.Failed(ctx, err)
	}
	head, err := s.headOf(ctx, p, who)
	return p, head, err
}

// keep keeps a page as it is sent. Whom it is shared with is for its owner to say.
func (s stage) keep(ctx context.Context, page store.Page, as kept) (*struct{ Body Whole }, error) {
	v := door.VisitorOf(ctx)
	page.Body = reports.Page{Name: strings.TrimSpace(as.Name), Note: as.Note, Cards: as.Cards}
	if err := page.Body.Check(); err != nil {
		return nil, huma.Error422UnprocessableEntity("Nothing was kept: " + err.Error() + ".")
	}
	if page.OwnerID == v.Account.ID {
		page.Shared, page.People = as.Shared, as.People
	}
	page.ChangedBy, page.ChangedAt = v.Account.Name, s.Hub.Now().UTC().Format(time.RFC3339Nano)
	var err error
	if page.ID == 0 {
		page, err = s.Store().AddPage(ctx, page)
	} else {
		page, err = s.Store().KeepPage(ctx, page)
	}
	switch {
	case errors.Is(err, store.ErrManyPages), errors.Is(err, store.ErrPageMoved):
		return nil, huma.Error409Conflict("Nothing was kept: " + err.Error() + ".")
	case err != nil:
		return nil, s.Failed(ctx, err)
	}
	head, err := s.headOf(ctx, page, roles.Who{}) // who kept it may edit it, whatever they are
	return &struct{ Body Whole }{Whole{head, page.Body.Cards}}, err
}

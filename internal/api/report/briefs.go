package report

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/briefs"
	"jantrel/core/program"
	"jantrel/core/roles"
	"jantrel/internal/api/door"
	"jantrel/internal/exchange"
	"jantrel/internal/journal"
	"jantrel/internal/live"
	"jantrel/internal/store"
)

// BriefHead is a brief without what it says.
type BriefHead struct {
	ID        int64        `json:"id"`
	Number    int64        `json:"number" doc:"Of the program's published ones; 0: a draft"`
	Title     string       `json:"title"`
	About     briefs.About `json:"about"`
	Name      string       `json:"name" doc:"What it is about, in words"`
	Author    string       `json:"author" doc:"Who wrote it last, or published it"`
	ChangedAt time.Time    `json:"changedAt" doc:"Of a published one when it was"`
	Day       program.Date `json:"day,omitzero" doc:"Of a published one: the day on which the plan was seen"`
	Revision  int64        `json:"revision,omitempty" doc:"Of a published one: of the live plan"`
	Version   int64        `json:"version"`
}

// BriefWhole is a brief with its sections, and what they say: of a draft as the plan is now.
type BriefWhole struct {
	BriefHead
	Sections []briefs.Section `json:"sections"`
	Written  briefs.Written   `json:"written"`
	Lacks    []string         `json:"lacks" doc:"Of a draft about an iteration: sections that every iteration plan has, and that say nothing here"`
}

// briefShelf are the briefs of a program that somebody sees.
type briefShelf struct {
	Briefs   []BriefHead        `json:"briefs" doc:"Drafts first, where one may write them; then the newest published one first"`
	MayWrite bool               `json:"mayWrite"`
	Lives    []briefs.LiveWords `json:"lives" doc:"What a plan can say in a section"`
}

// OneBrief names a brief of a program.
type OneBrief struct {
	door.ProgramID
	Brief int64 `path:"brief"`
}

func (s stage) briefs(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "list-briefs", Method: http.MethodGet, Path: "/api/v1/programs/{id}/briefs", Summary: "The briefs of a program",
	}, s.listBriefs)
	huma.Register(api, huma.Operation{
		OperationID: "get-brief", Method: http.MethodGet, Path: "/api/v1/programs/{id}/briefs/{brief}", Summary: "A brief: a draft as the plan is now, a published one as it was",
		Errors: []int{http.StatusForbidden, http.StatusNotFound},
	}, func(ctx context.Context, in *OneBrief) (*struct{ Body BriefWhole }, error) {
		l, b, err := s.brief(ctx, in.ID, in.Brief)
		if err != nil {
			return nil, err
		}
		return s.whole(ctx, l, b)
	})
	huma.Register(api, huma.Operation{
		OperationID: "add-brief", Method: http.MethodPost, Path: "/api/v1/programs/{id}/briefs", Summary: "Begin a brief: with the words of the last one about the same, else from the form that the program has for it, or a template",
		MaxBodyBytes: 4 << 10, DefaultStatus: http.StatusCreated, Errors: []int{http.StatusForbidden, http.StatusConflict, http.StatusUnprocessableEntity},
	}, s.addBrief)
	huma.Register(api, huma.Operation{
		OperationID: "put-brief", Method: http.MethodPut, Path: "/api/v1/programs/{id}/briefs/{brief}", Summary: "Change a draft",
		MaxBodyBytes: maxPage, Errors: []int{http.StatusForbidden, http.StatusNotFound, http.StatusConflict, http.StatusUnprocessableEntity},
	}, s.putBrief)
	huma.Register(api, huma.Operation{
		OperationID: "publish-brief", Method: http.MethodPost, Path: "/api/v1/programs/{id}/briefs/{brief}/publish", Summary: "Publish a draft: from now on it stands as it is",
		MaxBodyBytes: 1 << 10, Errors: []int{http.StatusForbidden, http.StatusNotFound, http.StatusConflict},
	}, s.publish)
	huma.Register(api, huma.Operation{
		OperationID: "remove-brief", Method: http.MethodDelete, Path: "/api/v1/programs/{id}/briefs/{brief}", Summary: "Remove a draft; what was published stays",
		Errors: []int{http.StatusForbidden, http.StatusNotFound},
	}, func(ctx context.Context, in *OneBrief) (*struct{}, error) {
		if _, err := s.mayWrite(ctx, in.ID); err != nil {
			return nil, err
		}
		return nil, s.unkept(ctx, s.Store().RemoveBrief(ctx, in.ID, in.Brief))
	})
	huma.Register(api, huma.Operation{
		OperationID: "export-brief", Method: http.MethodGet, Path: "/api/v1/programs/{id}/reports/brief", Summary: "A brief as Markdown, or as HTML in one file",
		Errors: []int{http.StatusForbidden, http.StatusNotFound},
	}, func(ctx context.Context, in *struct {
		door.ProgramID
		Brief  int64  `query:"brief" required:"true"`
		Format string `query:"format" enum:"md,html" default:"md"`
	}) (*door.File, error) {
		l, b, err := s.brief(ctx, in.ID, in.Brief)
		if err != nil {
			return nil, err
		}
		whole, err := s.whole(ctx, l, b)
		if err != nil {
			return nil, err
		}
		text, err := fileOf(&b, &whole.Body.Written, in.Format, fmt.Sprintf("%s/programs/%d", door.VisitorOf(ctx).Site, in.ID))
		if err != nil {
			return nil, s.Failed(ctx, err)
		}
		kind := door.MediaTypes["md"]
		if in.Format == "html" {
			kind = htmlType
		}
		return door.Attached("brief."+in.Format, kind, text), nil
	})
	s.links(api)
}

const htmlType = "text/html; charset=utf-8"

// fileOf is a brief as a file, whose items are seen in a program at an address; empty: they are not.
func fileOf(b *store.Brief, written *briefs.Written, format, program string) ([]byte, error) {
	var out bytes.Buffer
	head := exchange.Masthead{Number: b.Number, By: b.Author, Program: program}
	write := exchange.WriteBrief
	if format == "html" {
		write = exchange.WriteBriefPage
	}
	err := write(&out, written, head)
	return out.Bytes(), err
}

func (s stage) listBriefs(ctx context.Context, in *door.ProgramID) (*struct{ Body briefShelf }, error) {
	l, who, err := s.LiveAs(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	list, err := s.Store().Briefs(ctx, in.ID)
	if err != nil {
		return nil, s.Failed(ctx, err)
	}
	p := &l.State().Program
	out := briefShelf{[]BriefHead{}, roles.MayBeside(who.Role, roles.Briefs), briefs.Lives}
	for i := range list {
		if list[i].Number > 0 || out.MayWrite {
			out.Briefs = append(out.Briefs, briefHead(p, &list[i]))
		}
	}
	return &struct{ Body briefShelf }{out}, nil
}

func briefHead(p *program.Program, b *store.Brief) BriefHead {
	at, _ := time.Parse(time.RFC3339Nano, b.ChangedAt) // written here
	return BriefHead{b.ID, b.Number, b.Body.Title, b.Body.About, briefs.NameOf(p, b.Body.About), b.Author, at, b.Day, b.Revision, b.Version}
}

// brief is one that the visitor sees: a published one, or a draft where they may write. Briefs are of the live plan.
func (s stage) brief(ctx context.Context, id, brief int64) (*live.Line, store.Brief, error) {
	l, who, err := s.LiveAs(ctx, id)
	if err != nil {
		return nil, store.Brief{}, err
	}
	b, err := s.Store().Brief(ctx, id, brief)
	if err == nil && b.Number == 0 && !roles.MayBeside(who.Role, roles.Briefs) {
		return nil, b, s.Denied(ctx, "This is a draft: it is for who may write briefs, until it is published.")
	}
	return l, b, s.unkept(ctx, err)
}

// unkept is the answer to what came of keeping a brief.
func (s stage) unkept(ctx context.Context, err error) error {
	switch {
	case err == nil:
		return nil
	case errors.Is(err, journal.ErrNotFound):
		return huma.Error404NotFound("There is no such brief. It may have been removed, or published meanwhile.")
	case errors.Is(err, store.ErrManyBriefs), errors.Is(err, store.ErrBriefMoved):
		return huma.Error409Conflict("Nothing was kept: " + err.Error() + ".")
	}
	return s.Problem(ctx, err)
}

// mayWrite refuses who may not write briefs.
func (s stage) mayWrite(ctx context.Context, id int64) (*live.Line, error) {
	l, who, err := s.LiveAs(ctx, id)
	if err == nil && !roles.MayBeside(who.Role, roles.Briefs) {
		err = s.Denied(ctx, "As "+string(who.Role)+" you may not write briefs; ask a team lead or a program manager.")
	}
	return l, err
}

// whole is a brief with what it says.
func (s stage) whole(ctx context.Context, l *live.Line, b store.Brief) (*struct{ Body BriefWhole }, error) {
	state := l.State()
	out := BriefWhole{BriefHead: briefHead(&state.Program, &b), Sections: b.Body.Sections, Lacks: []string{}}
	if b.Written != nil {
		out.Written = *b.Written
		return &struct{ Body BriefWhole }{out}, nil
	}
	written, err := s.write(ctx, l, state, &b.Body)
	if err != nil {
		return nil, s.Problem(ctx, err)
	}
	out.Written, out.Lacks = written, briefs.Lacks(&state.Program, &b.Body)
	return &struct{ Body BriefWhole }{out}, nil
}

// write writes a draft as a state of the live plan has it.
func (s stage) write(ctx context.Context, l *live.Line, state *live.State, b *briefs.Brief) (briefs.Written, error) {
	var failed error
	review := func() string {
		text, err := door.ReviewOf(ctx, l, state, b.About)
		failed = errors.Join(failed, err)
		return text
	}
	var before *briefs.Before
	if slices.ContainsFunc(b.Sections, func(x briefs.Section) bool { return x.Live == briefs.Since && !x.Out }) {
		last, err := s.last(ctx, l, b.About)
		if err != nil {
			return briefs.Written{}, err
		}
		if last != nil {
			then, err := l.SeenOn(ctx, last.Revision, last.Day)
			if err != nil {
				return briefs.Written{}, err
			}
			before = &briefs.Before{Number: last.Number, Day: last.Day, Plan: then.Plan, Said: last.Written.Said}
		}
	}
	written, err := l.WriteBrief(ctx, state, b, review, before)
	return written, errors.Join(failed, err)
}

// last is the last published brief about the same; nil where there is none.
func (s stage) last(ctx context.Context, l *live.Line, about briefs.About) (*store.Brief, error) {
	list, err := s.Store().Briefs(ctx, l.Program())
	if err != nil {
		return nil, err
	}
	for i := range list { // the newest first
		if list[i].Number > 0 && list[i].Body.About == about {
			b, err := s.Store().Brief(ctx, l.Program(), list[i].ID)
			return &b, err
		}
	}
	return nil, nil
}

func (s stage) addBrief(ctx context.Context, in *struct {
	door.ProgramID
	Body struct {
		About briefs.About `json:"about,omitzero"`
	}
}) (*struct{ Body BriefWhole }, error) {
	l, err := s.mayWrite(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	p := &l.State().Program
	if !briefs.Has(p, in.Body.About) {
		return nil, huma.Error422UnprocessableEntity("Nothing was begun: there is no such release or iteration. It may have been removed.")
	}
	forms, err := s.Store().BriefForms(ctx, in.ID)
	if err != nil {
		return nil, s.Failed(ctx, err)
	}
	body := forms.Begin(briefs.Template(p, in.Body.About))
	briefs.Complete(p, &body)
	if err := body.Check(); err != nil {
		return nil, huma.Error422UnprocessableEntity("Nothing was begun: " + err.Error() + ".")
	}
	last, err := s.last(ctx, l, in.Body.About)
	if err != nil {
		return nil, s.Problem(ctx, err)
	}
	if last != nil { // goes on with the same sections and words
		body = last.Body
		briefs.Complete(p, &body)
	}
	b, err := s.Store().AddBrief(ctx, s.signed(ctx, store.Brief{Program: in.ID, Body: body}))
	if err != nil {
		return nil, s.unkept(ctx, err)
	}
	return s.whole(ctx, l, b)
}

// signed is a brief with who changes it, and when.
func (s stage) signed(ctx context.Context, b store.Brief) store.Brief {
	b.Author, b.ChangedAt = door.VisitorOf(ctx).Account.Name, s.Hub.Now().UTC().Format(time.RFC3339Nano)
	return b
}

func (s stage) putBrief(ctx context.Context, in *struct {
	OneBrief
	Body struct {
		Version  int64            `json:"version" doc:"The one that was changed"`
		Title    string           `json:"title" maxLength:"400"`
		Sections []briefs.Section `json:"sections" maxItems:"40"`
	}
}) (*struct{ Body BriefWhole }, error) {
	l, err := s.mayWrite(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	_, b, err := s.brief(ctx, in.ID, in.Brief)
	if err != nil {
		return nil, err
	}
	b.Version, b.Body.Title, b.Body.Sections = in.Body.Version, strings.TrimSpace(in.Body.Title), in.Body.Sections
	if err := b.Body.Check(); err != nil {
		return nil, huma.Error422UnprocessableEntity("Nothing was kept: " + err.Error() + ".")
	}
	if b, err = s.Store().KeepBrief(ctx, s.signed(ctx, b)); err != nil {
		return nil, s.unkept(ctx, err)
	}
	return s.whole(ctx, l, b)
}

func (s stage) publish(ctx context.Context, in *struct {
	OneBrief
	Body struct {
		Version int64 `json:"version" doc:"The one that is to be published"`
	}
}) (*struct{ Body BriefWhole }, error) {
	l, err := s.mayWrite(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	_, b, err := s.brief(ctx, in.ID, in.Brief)
	if err != nil {
		return nil, err
	}
	state := l.State()
	written, err := s.write(ctx, l, state, &b.Body)
	if err != nil {
		return nil, s.Problem(ctx, err)
	}
	b.Written, b.Version, b.Revision, b.Day = &written, in.Body.Version, state.Revision, state.Today
	if b, err = s.Store().PublishBrief(ctx, s.signed(ctx, b)); err != nil {
		return nil, s.unkept(ctx, err)
	}
	return s.whole(ctx, l, b)
}

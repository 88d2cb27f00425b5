package programs

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/program"
	"jantrel/core/reports"
	"jantrel/core/roles"
	"jantrel/core/starting"
	"jantrel/internal/api/door"
	"jantrel/internal/exchange"
	"jantrel/internal/journal"
	"jantrel/internal/store"
)

// Offer is something that a new program can start from.
type Offer struct {
	Key  string `json:"key" doc:"To be named when a program is made"`
	Name string `json:"name"`
	Says string `json:"says"`

	Kept   int64      `json:"kept,omitempty" doc:"Of one that was made from a program or brought along: its number"`
	By     string     `json:"by,omitempty" doc:"Who made it, or brought it along"`
	MadeAt *time.Time `json:"madeAt,omitempty"`
	Mine   bool       `json:"mine,omitempty" doc:"One may remove it"`
}

// keptKey begins the key of a template that is kept; its number follows.
const keptKey = "kept:"

// OneTemplate names a template that is kept.
type OneTemplate struct {
	Template int64 `path:"template"`
}

func (s stage) templates(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "list-templates", Method: http.MethodGet, Path: "/api/v1/templates", Summary: "What a new program can start from",
	}, s.listTemplates)
	huma.Register(api, huma.Operation{
		OperationID: "keep-template", Method: http.MethodPost, Path: "/api/v1/programs/{id}/template", Summary: "Make a template of how a program works",
		MaxBodyBytes: 16 << 10, DefaultStatus: http.StatusCreated, Errors: []int{http.StatusForbidden, http.StatusConflict, http.StatusUnprocessableEntity},
	}, s.keepTemplate)
	huma.Register(api, huma.Operation{
		OperationID: "import-template", Metadata: door.Creates, Method: http.MethodPost, Path: "/api/v1/templates", Summary: "A template from its document",
		MaxBodyBytes: exchange.MaxTemplate + 1, DefaultStatus: http.StatusCreated, SkipValidateBody: true, Errors: []int{http.StatusForbidden, http.StatusConflict, http.StatusUnprocessableEntity},
	}, func(ctx context.Context, in *struct {
		RawBody []byte `contentType:"application/json"`
	}) (*struct{ Body Offer }, error) {
		made, err := exchange.ReadTemplate(bytes.NewReader(in.RawBody))
		var problems program.Problems
		if err != nil && !errors.As(err, &problems) {
			return nil, huma.Error422UnprocessableEntity("Nothing was taken in: " + err.Error() + ".")
		}
		if err != nil {
			return nil, s.Problem(ctx, err)
		}
		return s.addTemplate(ctx, &made)
	})
	huma.Register(api, huma.Operation{
		OperationID: "export-template", Method: http.MethodGet, Path: "/api/v1/templates/{template}/document", Summary: "A template as a document",
		Errors: []int{http.StatusForbidden, http.StatusNotFound},
	}, func(ctx context.Context, in *OneTemplate) (*door.File, error) {
		may, err := s.MayMake(ctx)
		if err == nil && !may {
			err = s.Denied(ctx, "Only those who may make programs see templates that others made.")
		}
		if err != nil {
			return nil, err
		}
		_, made, err := s.template(ctx, in.Template)
		if err != nil {
			return nil, err
		}
		var text bytes.Buffer
		if err := exchange.WriteTemplate(&text, made); err != nil {
			return nil, s.Failed(ctx, err)
		}
		return door.Attached("template.json", "application/json", text.Bytes()), nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "remove-template", Metadata: door.Creates, Method: http.MethodDelete, Path: "/api/v1/templates/{template}", Summary: "Remove a template that one made",
		Errors: []int{http.StatusForbidden, http.StatusNotFound},
	}, func(ctx context.Context, in *OneTemplate) (*struct{}, error) {
		t, _, err := s.template(ctx, in.Template)
		if err != nil {
			return nil, err
		}
		if !mayRemove(ctx, &t) {
			return nil, s.Denied(ctx, "Nothing was removed: the template is "+t.Maker+"'s.")
		}
		if err := s.Store().RemoveTemplate(ctx, t.ID); err != nil {
			return nil, s.Failed(ctx, err)
		}
		return nil, nil
	})
}

func mayRemove(ctx context.Context, t *store.Template) bool {
	a := door.VisitorOf(ctx).Account
	return a.Admin || a.ID == t.MakerID
}

// template is a template that is kept, or the problem to answer with.
func (s stage) template(ctx context.Context, id int64) (store.Template, starting.Made, error) {
	t, made, err := s.Store().TemplateOf(ctx, id)
	if errors.Is(err, journal.ErrNotFound) {
		return t, made, huma.Error404NotFound("There is no such template. It may have been removed.")
	}
	if err != nil {
		return t, made, s.Failed(ctx, err)
	}
	return t, made, nil
}

// listTemplates lists those that come with Jantrel, and for those who may make programs the ones that are kept.
func (s stage) listTemplates(ctx context.Context, _ *struct{}) (*struct{ Body []Offer }, error) {
	offers := []Offer{}
	for _, t := range starting.Templates {
		offers = append(offers, Offer{Key: t.Key, Name: t.Name, Says: t.Says})
	}
	if may, err := s.MayMake(ctx); err != nil || !may {
		return &struct{ Body []Offer }{offers}, err
	}
	kept, err := s.Store().Templates(ctx)
	if err != nil {
		return nil, s.Failed(ctx, err)
	}
	for i := range kept {
		offers = append(offers, offerOf(ctx, &kept[i]))
	}
	return &struct{ Body []Offer }{offers}, nil
}

func offerOf(ctx context.Context, t *store.Template) Offer {
	made, _ := time.Parse(time.RFC3339Nano, t.MadeAt) // written by addTemplate
	return Offer{Key: fmt.Sprint(keptKey, t.ID), Name: t.Name, Says: t.Says, Kept: t.ID, By: t.Maker, MadeAt: &made, Mine: mayRemove(ctx, t)}
}

// keepTemplate makes a template of a program, with the pages that all of it see and the sections of its latest briefs.
func (s stage) keepTemplate(ctx context.Context, in *struct {
	door.ProgramID
	Body struct {
		Name string `json:"name" minLength:"1" maxLength:"200"`
		Says string `json:"says,omitempty" maxLength:"2000" doc:"What it is for"`
	}
},
) (*struct{ Body Offer }, error) {
	l, who, err := s.LiveAs(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	if who.Role != roles.Administrator && who.Role != roles.Manager {
		return nil, s.Denied(ctx, "Only an administrator or a program manager of the program may make a template of it.")
	}
	if err := s.Person(ctx); err != nil {
		return nil, err
	}
	kept, err := s.Store().Pages(ctx, in.ID)
	if err != nil {
		return nil, s.Failed(ctx, err)
	}
	var pages []reports.Page
	for i := range kept {
		if kept[i].Shared != store.Private && len(kept[i].People) == 0 {
			pages = append(pages, kept[i].Body)
		}
	}
	all, err := s.Store().Briefs(ctx, in.ID)
	if err != nil {
		return nil, s.Failed(ctx, err)
	}
	forms, err := s.Store().BriefForms(ctx, in.ID)
	if err != nil {
		return nil, s.Failed(ctx, err)
	}
	for i := range slices.Backward(all) { // of what was published about the same sort of thing the newest comes first
		if b := &all[i]; b.Number > 0 {
			*forms.Of(b.Body.About) = b.Body.Sections
		}
	}
	made := starting.Of(l.State().Program, strings.TrimSpace(in.Body.Name), strings.TrimSpace(in.Body.Says), pages, forms)
	if err := made.Check(); err != nil {
		return nil, huma.Error422UnprocessableEntity("No template was made: " + err.Error() + ".")
	}
	return s.addTemplate(ctx, &made)
}

func (s stage) addTemplate(ctx context.Context, made *starting.Made) (*struct{ Body Offer }, error) {
	v := door.VisitorOf(ctx)
	t, err := s.Store().AddTemplate(ctx, store.Template{MakerID: v.Account.ID, Maker: v.Account.Name, MadeAt: s.Hub.Now().UTC().Format(time.RFC3339Nano)}, made)
	if errors.Is(err, store.ErrManyTemplates) {
		return nil, huma.Error409Conflict("No template was kept: " + err.Error() + ".")
	}
	if err != nil {
		return nil, s.Failed(ctx, err)
	}
	return &struct{ Body Offer }{offerOf(ctx, &t)}, nil
}

// keptOf is the number in the key of a template that is kept.
func keptOf(key string) (int64, bool) {
	text, is := strings.CutPrefix(key, keptKey)
	id, err := strconv.ParseInt(text, 10, 64)
	return id, is && err == nil
}

// furnish gives a program that started from a template its pages, the forms of its briefs, and the brief that it begins with.
func (s stage) furnish(ctx context.Context, id int64, name string, made *starting.Made) error {
	v := door.VisitorOf(ctx)
	at := s.Hub.Now().UTC().Format(time.RFC3339Nano)
	for _, page := range made.Pages {
		if _, err := s.Store().AddPage(ctx, store.Page{Program: id, OwnerID: v.Account.ID, Owner: v.Account.Name, Shared: store.SharedRead, ChangedBy: v.Account.Name, ChangedAt: at, Body: page}); err != nil {
			return err
		}
	}
	if err := s.Store().KeepBriefForms(ctx, id, made.Forms); err != nil {
		return err
	}
	if brief, has := made.FirstBrief(name); has {
		_, err := s.Store().AddBrief(ctx, store.Brief{Program: id, Author: v.Account.Name, ChangedAt: at, Body: brief})
		return err
	}
	return nil
}

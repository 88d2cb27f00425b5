package api

import (
	"context"
	"errors"
	"mime"
	"net/http"
	"path"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/program"
	"jantrel/core/roles"
	"jantrel/internal/store"
)

// Limits of files of items.
const (
	maxAttachment  = 10 << 20  // one file
	maxAttachments = 500 << 20 // all of a program
)

// beside serves what is kept beside a program: files of items and private views.
func (s *server) beside(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "get-private-views", Method: http.MethodGet, Path: "/api/v1/programs/{id}/private-views", Summary: "The views that one keeps for oneself",
	}, func(ctx context.Context, in *ProgramID) (*struct{ Body []program.View }, error) {
		if _, err := s.open(ctx, in.ID); err != nil {
			return nil, err
		}
		views, err := s.hub.Store().PrivateViews(ctx, in.ID, visitorOf(ctx).account.ID)
		if err != nil {
			return nil, s.failed(ctx, err)
		}
		return &struct{ Body []program.View }{views}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "put-private-views", Method: http.MethodPut, Path: "/api/v1/programs/{id}/private-views", Summary: "Keep views for oneself",
	}, func(ctx context.Context, in *struct {
		ProgramID
		Body []program.View `maxItems:"200"`
	}) (*struct{}, error) {
		p, err := s.open(ctx, in.ID)
		if err != nil {
			return nil, err
		}
		for _, view := range in.Body {
			if err := p.State().Index().CheckView(view); err != nil {
				return nil, huma.Error422UnprocessableEntity("The view " + view.Name + " cannot be kept: " + err.Error())
			}
		}
		if err := s.hub.Store().KeepPrivateViews(ctx, in.ID, visitorOf(ctx).account.ID, in.Body); err != nil {
			return nil, s.failed(ctx, err)
		}
		return nil, nil
	})
	s.attachments(api)
}

func (s *server) attachments(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "list-attachments", Method: http.MethodGet, Path: "/api/v1/programs/{id}/attachments", Summary: "The files of an item",
	}, func(ctx context.Context, in *struct {
		ProgramID
		Item string `query:"item" required:"true"`
	}) (*struct{ Body []store.Attachment }, error) {
		if _, err := s.open(ctx, in.ID); err != nil {
			return nil, err
		}
		list, err := s.hub.Store().Attachments(ctx, in.ID, in.Item)
		if err != nil {
			return nil, s.failed(ctx, err)
		}
		return &struct{ Body []store.Attachment }{list}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "add-attachment", Method: http.MethodPost, Path: "/api/v1/programs/{id}/attachments", Summary: "Attach a file to an item",
		DefaultStatus: http.StatusCreated, MaxBodyBytes: maxAttachment, BodyReadTimeout: importTime, SkipValidateBody: true,
		Errors: []int{http.StatusForbidden, http.StatusRequestEntityTooLarge, http.StatusUnprocessableEntity},
	}, s.attach)
	huma.Register(api, huma.Operation{
		OperationID: "get-attachment", Method: http.MethodGet, Path: "/api/v1/programs/{id}/attachments/{attachment}", Summary: "A file of an item",
	}, func(ctx context.Context, in *attachmentID) (*file, error) {
		a, content, err := s.attachment(ctx, in)
		if err != nil {
			return nil, err
		}
		// Saved, never shown: what somebody attached must not run as part of the page.
		return &file{"application/octet-stream", mime.FormatMediaType("attachment", map[string]string{"filename": a.Name}), content}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "remove-attachment", Method: http.MethodDelete, Path: "/api/v1/programs/{id}/attachments/{attachment}", Summary: "Remove a file for good",
		Errors: []int{http.StatusForbidden, http.StatusNotFound},
	}, func(ctx context.Context, in *attachmentID) (*struct{}, error) {
		a, _, err := s.attachment(ctx, in)
		if err != nil {
			return nil, err
		}
		if err := s.mayAttach(ctx, in.ID, a.Item); err != nil {
			return nil, err
		}
		if err := s.hub.Store().RemoveAttachment(ctx, in.ID, a.ID); err != nil {
			return nil, s.failed(ctx, err)
		}
		return nil, nil
	})
}

type attachmentID struct {
	ProgramID
	Attachment int64 `path:"attachment"`
}

func (s *server) attachment(ctx context.Context, in *attachmentID) (store.Attachment, []byte, error) {
	if _, err := s.open(ctx, in.ID); err != nil {
		return store.Attachment{}, nil, err
	}
	a, content, err := s.hub.Store().Attachment(ctx, in.ID, in.Attachment)
	if errors.Is(err, store.ErrNoAttachment) {
		return a, nil, huma.Error404NotFound("There is no such file; it may have been removed.")
	}
	if err != nil {
		return a, nil, s.failed(ctx, err)
	}
	return a, content, nil
}

// mayAttach refuses who may not add files to an item or remove them.
func (s *server) mayAttach(ctx context.Context, id int64, item string) error {
	p, who, err := s.openAs(ctx, id)
	if err != nil {
		return err
	}
	state := p.State()
	if _, ok := state.Index().Tree().Index[item]; !ok {
		return huma.Error404NotFound("There is no item " + item + ".")
	}
	change := program.SetTo(program.Ref{Kind: program.KindItem, Key: item}, roles.Attachments, nil)
	if err := roles.Check(state.Program, who, []program.Change{change}); err != nil {
		return s.problem(ctx, err)
	}
	return nil
}

func (s *server) attach(ctx context.Context, in *struct {
	ProgramID
	Item    string `query:"item" required:"true"`
	Name    string `query:"name" required:"true" minLength:"1" maxLength:"200"`
	RawBody []byte `contentType:"application/octet-stream"`
}) (*struct{ Body store.Attachment }, error) {
	if err := s.mayAttach(ctx, in.ID, in.Item); err != nil {
		return nil, err
	}
	taken, err := s.hub.Store().AttachmentsSize(ctx, in.ID)
	if err != nil {
		return nil, s.failed(ctx, err)
	}
	if taken+int64(len(in.RawBody)) > maxAttachments {
		return nil, huma.Error422UnprocessableEntity("The program's files would take more than 500 MB. Remove some first.")
	}
	name := path.Base(strings.ReplaceAll(in.Name, "\\", "/"))
	a, err := s.hub.Store().AddAttachment(ctx, in.ID, store.Attachment{
		Item: in.Item, Name: name, Type: mime.TypeByExtension(path.Ext(name)), AddedBy: visitorOf(ctx).account.Name, AddedAt: time.Now().UTC().Format(time.RFC3339),
	}, in.RawBody)
	if err != nil {
		return nil, s.failed(ctx, err)
	}
	return &struct{ Body store.Attachment }{a}, nil
}

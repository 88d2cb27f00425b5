package backlog

import (
	"context"
	"encoding/json"
	"errors"
	"mime"
	"net/http"
	"path"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/program"
	"jantrel/core/roles"
	"jantrel/internal/api/door"
	"jantrel/internal/live"
	"jantrel/internal/store"
)

// Limits of files of items.
const (
	maxAttachment  = 10 << 20  // one file
	maxAttachments = 500 << 20 // all of a program
)

func (s stage) attachments(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "list-attachments", Method: http.MethodGet, Path: "/api/v1/programs/{id}/attachments", Summary: "The files of an item",
	}, func(ctx context.Context, in *struct {
		door.ProgramID
		Item string `query:"item" required:"true"`
	}) (*struct{ Body []store.Attachment }, error) {
		if _, err := s.Open(ctx, in.ID); err != nil {
			return nil, err
		}
		list, err := s.Store().Attachments(ctx, in.ID, in.Item)
		if err != nil {
			return nil, s.Failed(ctx, err)
		}
		return &struct{ Body []store.Attachment }{list}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "list-gone-files", Method: http.MethodGet, Path: "/api/v1/programs/{id}/attachments/gone", Summary: "The files of items that are gone",
	}, s.filesOfGone)
	huma.Register(api, huma.Operation{
		OperationID: "add-attachment", Method: http.MethodPost, Path: "/api/v1/programs/{id}/attachments", Summary: "Attach a file to an item",
		DefaultStatus: http.StatusCreated, MaxBodyBytes: maxAttachment + 1, BodyReadTimeout: door.ImportTime, SkipValidateBody: true,
		Errors: []int{http.StatusForbidden, http.StatusRequestEntityTooLarge, http.StatusUnprocessableEntity},
	}, s.attach)
	huma.Register(api, huma.Operation{
		OperationID: "get-attachment", Method: http.MethodGet, Path: "/api/v1/programs/{id}/attachments/{attachment}", Summary: "A file of an item",
	}, func(ctx context.Context, in *attachmentID) (*door.File, error) {
		a, content, err := s.attachment(ctx, in)
		if err != nil {
			return nil, err
		}
		// Saved, never shown: what somebody attached must not run as part of the page.
		return door.Attached(a.Name, "application/octet-stream", content), nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "remove-attachment", Method: http.MethodDelete, Path: "/api/v1/programs/{id}/attachments/{attachment}", Summary: "Remove a file for good",
		Errors: []int{http.StatusForbidden, http.StatusNotFound},
	}, func(ctx context.Context, in *attachmentID) (*struct{}, error) {
		a, _, err := s.attachment(ctx, in)
		if err != nil {
			return nil, err
		}
		if err := s.mayRemove(ctx, in.ID, a.Item); err != nil {
			return nil, err
		}
		if err := s.Store().RemoveAttachment(ctx, in.ID, a.ID); err != nil {
			return nil, s.Failed(ctx, err)
		}
		return nil, nil
	})
}

type attachmentID struct {
	door.ProgramID
	Attachment int64 `path:"attachment"`
}

func (s stage) attachment(ctx context.Context, in *attachmentID) (store.Attachment, []byte, error) {
	if _, err := s.Open(ctx, in.ID); err != nil {
		return store.Attachment{}, nil, err
	}
	a, content, err := s.Store().Attachment(ctx, in.ID, in.Attachment)
	if errors.Is(err, store.ErrNoAttachment) {
		return a, nil, huma.Error404NotFound("There is no such file; it may have been removed.")
	}
	if err != nil {
		return a, nil, s.Failed(ctx, err)
	}
	return a, content, nil
}

// mayAttach refuses who may not add files to an item or remove them.
func (s stage) mayAttach(ctx context.Context, id int64, item string) error {
	p, who, err := s.OpenAs(ctx, id)
	if err != nil {
		return err
	}
	state := p.State()
	if _, ok := state.Tree().Index[item]; !ok {
		return huma.Error404NotFound("There is no item " + item + ".")
	}
	change := program.SetTo(program.Ref{Kind: program.KindItem, Key: item}, roles.Attachments, nil)
	if err := roles.Check(state.Program, who, []program.Change{change}); err != nil {
		return s.Problem(ctx, err)
	}
	return nil
}

// manages refuses who may not look after all of a program.
func (s stage) manages(ctx context.Context, id int64) (*live.Line, error) {
	l, who, err := s.OpenAs(ctx, id)
	if err == nil && who.Role != roles.Administrator && who.Role != roles.Manager {
		err = s.Denied(ctx, "Only administrators and program managers look after the files of items that are gone.")
	}
	return l, err
}

// mayRemove refuses who may not remove a file of an item. Files of an item that is gone are
// for those who look after all of the program.
func (s stage) mayRemove(ctx context.Context, id int64, item string) error {
	l, err := s.Open(ctx, id)
	if err != nil {
		return err
	}
	if _, ok := l.State().Tree().Index[item]; ok {
		return s.mayAttach(ctx, id, item)
	}
	_, err = s.manages(ctx, id)
	return err
}

// GoneFile is a file of an item that is gone.
type GoneFile struct {
	store.Attachment
	Title  string `json:"title" doc:"What the item was called last; empty where that is not known"`
	GoneBy string `json:"goneBy,omitempty" doc:"Who removed the item"`
	GoneAt string `json:"goneAt,omitempty"`
}

// GoneFiles are those, and how much room all files of the program take.
type GoneFiles struct {
	Files []GoneFile `json:"files"`
	Taken int64      `json:"taken" doc:"Bytes of all files of the program"`
	Most  int64      `json:"most" doc:"Bytes that they may take"`
}

func (s stage) filesOfGone(ctx context.Context, in *door.ProgramID) (*struct{ Body GoneFiles }, error) {
	l, err := s.manages(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	files, err := s.Store().FilesOfGone(ctx, in.ID)
	if err != nil {
		return nil, s.Failed(ctx, err)
	}
	list := make([]GoneFile, len(files))
	for i, f := range files {
		list[i] = GoneFile{Attachment: f}
		if i > 0 && list[i-1].Item == f.Item {
			list[i].Title, list[i].GoneBy, list[i].GoneAt = list[i-1].Title, list[i-1].GoneBy, list[i-1].GoneAt
			continue
		}
		edits, err := l.HistoryOf(ctx, program.Ref{Kind: program.KindItem, Key: f.Item}, 1)
		if err != nil {
			return nil, s.Failed(ctx, err)
		}
		for _, e := range edits {
			for _, a := range e.Changes {
				var item program.Item
				if a.Change.Kind == program.KindItem && a.Change.Op == program.Remove && json.Unmarshal(a.Inverse.Value, &item) == nil {
					list[i].Title, list[i].GoneBy, list[i].GoneAt = item.Title, e.Actor, e.At.UTC().Format(time.RFC3339)
				}
			}
		}
	}
	taken, err := s.Store().AttachmentsSize(ctx, in.ID)
	if err != nil {
		return nil, s.Failed(ctx, err)
	}
	return &struct{ Body GoneFiles }{GoneFiles{list, taken, maxAttachments}}, nil
}

func (s stage) attach(ctx context.Context, in *struct {
	door.ProgramID
	Item    string `query:"item" required:"true"`
	Name    string `query:"name" required:"true" minLength:"1" maxLength:"200"`
	RawBody []byte `contentType:"application/octet-stream"`
}) (*struct{ Body store.Attachment }, error) {
	if err := s.mayAttach(ctx, in.ID, in.Item); err != nil {
		return nil, err
	}
	taken, err := s.Store().AttachmentsSize(ctx, in.ID)
	if err != nil {
		return nil, s.Failed(ctx, err)
	}
	if taken+int64(len(in.RawBody)) > maxAttachments {
		return nil, huma.Error422UnprocessableEntity("The program's files would take more than 500 MB. Remove some first.")
	}
	name := path.Base(strings.ReplaceAll(in.Name, "\\", "/"))
	a, err := s.Store().AddAttachment(ctx, in.ID, store.Attachment{
		Item: in.Item, Name: name, Type: mime.TypeByExtension(path.Ext(name)), AddedBy: door.VisitorOf(ctx).Account.Name, AddedAt: time.Now().UTC().Format(time.RFC3339),
	}, in.RawBody)
	if err != nil {
		return nil, s.Failed(ctx, err)
	}
	return &struct{ Body store.Attachment }{a}, nil
}

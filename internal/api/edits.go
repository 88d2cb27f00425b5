package api

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/program"
	"jantrel/internal/live"
	"jantrel/internal/store"
)

// Client is where an edit is made.
type Client struct {
	Client string `json:"client" minLength:"1" maxLength:"80" doc:"Which open page: undo takes back its own edits"`
}

type changesRequest struct {
	ProgramID
	Body struct {
		Client
		Revision int64            `json:"revision" minimum:"0" doc:"The revision that the changes were made on"`
		Label    string           `json:"label" minLength:"1" maxLength:"200" doc:"What the edit is, in a few words"`
		Changes  []program.Change `json:"changes" minItems:"1" maxItems:"50000"`
	}
}

type stepRequest struct {
	ProgramID
	Body Client
}

// edited is the answer to an edit: the update, and what undo and redo do next.
type edited struct {
	Body struct {
		Update live.Update `json:"update"`
		Steps
	}
}

// Steps says what undo and redo do next.
type Steps struct {
	Undo string `json:"undo" doc:"What undo would take back; empty for nothing"`
	Redo string `json:"redo" doc:"What redo would do again; empty for nothing"`
}

func (s *server) edits(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "apply-changes", Method: http.MethodPost, Path: "/api/v1/programs/{id}/changes",
		Summary: "Apply changes, all or none", MaxBodyBytes: maxChanges, BodyReadTimeout: 20 * time.Second,
		Errors: []int{http.StatusNotFound, http.StatusConflict, http.StatusUnprocessableEntity},
	}, func(ctx context.Context, in *changesRequest) (*edited, error) {
		p, who, err := s.openAs(ctx, in.ID)
		if err != nil {
			return nil, err
		}
		by := s.author(ctx, who, in.Body.Client.Client)
		update, err := p.Apply(ctx, by, in.Body.Revision, in.Body.Label, in.Body.Changes)
		return s.answer(ctx, p, by, update, err)
	})
	step := func(name, summary string, do func(*live.Line, context.Context, live.Author) (live.Update, error)) {
		huma.Register(api, huma.Operation{
			OperationID: name, Method: http.MethodPost, Path: "/api/v1/programs/{id}/" + name, Summary: summary,
			Errors: []int{http.StatusNotFound, http.StatusConflict},
		}, func(ctx context.Context, in *stepRequest) (*edited, error) {
			p, who, err := s.openAs(ctx, in.ID)
			if err != nil {
				return nil, err
			}
			by := s.author(ctx, who, in.Body.Client)
			update, err := do(p, ctx, by)
			return s.answer(ctx, p, by, update, err)
		})
	}
	step("undo", "Take back this page's last edit", (*live.Line).Undo)
	step("redo", "Do again what undo took back", (*live.Line).Redo)
	huma.Register(api, huma.Operation{
		OperationID: "get-steps", Method: http.MethodGet, Path: "/api/v1/programs/{id}/steps", Summary: "What undo and redo would do",
	}, func(ctx context.Context, in *struct {
		ProgramID
		Client string `query:"client" required:"true"`
	}) (*struct{ Body Steps }, error) {
		p, who, err := s.openAs(ctx, in.ID)
		if err != nil {
			return nil, err
		}
		out := &struct{ Body Steps }{}
		out.Body, err = s.steps(ctx, p, s.author(ctx, who, in.Client))
		return out, err
	})
	s.journal(api)
}

func (s *server) answer(ctx context.Context, p *live.Line, by live.Author, update live.Update, err error) (*edited, error) {
	if err != nil {
		return nil, s.problem(ctx, err)
	}
	out := &edited{}
	out.Body.Update = update
	out.Body.Steps, err = s.steps(ctx, p, by)
	return out, err
}

// steps says what an author's undo and redo would do.
func (s *server) steps(ctx context.Context, l *live.Line, by live.Author) (Steps, error) {
	undo, redo, err := l.Steps(ctx, by.Client)
	if err != nil {
		return Steps{}, s.failed(ctx, err)
	}
	return Steps{undo, redo}, nil
}

// journalEntry is one edit as the journal shows it.
type journalEntry struct {
	Revision int64           `json:"revision"`
	At       time.Time       `json:"at"`
	Actor    string          `json:"actor"`
	Label    string          `json:"label"`
	Sort     store.Sort      `json:"sort" enum:"edit,undo,redo"`
	Changes  []journalChange `json:"changes"`
	More     int             `json:"more,omitempty" doc:"Changes beyond those listed"`
}

// journalChange is a change with what was before.
type journalChange struct {
	program.Change
	Before any `json:"before,omitempty"`
}

// maxListed is how many changes of one edit the journal lists.
const maxListed = 50

func (s *server) journal(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "get-journal", Method: http.MethodGet, Path: "/api/v1/programs/{id}/journal", Summary: "The edits, newest first",
	}, func(ctx context.Context, in *struct {
		ProgramID
		Before int64 `query:"before" doc:"Only edits before this revision"`
		Limit  int   `query:"limit" minimum:"1" maximum:"200" default:"50"`
	}) (*struct{ Body []journalEntry }, error) {
		p, err := s.open(ctx, in.ID)
		if err != nil {
			return nil, err
		}
		edits, err := p.Journal(ctx, in.Before, in.Limit)
		if err != nil {
			return nil, s.failed(ctx, err)
		}
		return &struct{ Body []journalEntry }{entries(edits)}, nil
	})
}

// entries are edits as the journal shows them.
func entries(edits []store.Edit) []journalEntry {
	list := []journalEntry{}
	for _, e := range edits {
		entry := journalEntry{Revision: e.Revision, At: e.At, Actor: e.Actor, Label: e.Label, Sort: e.Sort, Changes: []journalChange{}}
		for i, a := range e.Changes {
			if i == maxListed {
				entry.More = len(e.Changes) - i
				break
			}
			entry.Changes = append(entry.Changes, journalChange{a.Change, a.Inverse.Value})
		}
		list = append(list, entry)
	}
	return list
}

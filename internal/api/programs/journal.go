package programs

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/program"
	"jantrel/internal/api/door"
	"jantrel/internal/store"
)

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

// maxHistory is how many edits of an item are listed.
const maxHistory = 100

// maxListed is how many changes of one edit the journal lists.
const maxListed = 50

func (s stage) journal(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "get-journal", Method: http.MethodGet, Path: "/api/v1/programs/{id}/journal", Summary: "The edits, newest first",
	}, func(ctx context.Context, in *struct {
		door.ProgramID
		Before int64 `query:"before" doc:"Only edits before this revision"`
		Limit  int   `query:"limit" minimum:"1" maximum:"200" default:"50"`
	}) (*struct{ Body []journalEntry }, error) {
		p, err := s.Open(ctx, in.ID)
		if err != nil {
			return nil, err
		}
		edits, err := p.Journal(ctx, in.Before, in.Limit)
		if err != nil {
			return nil, s.Failed(ctx, err)
		}
		return &struct{ Body []journalEntry }{entries(edits)}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "get-history", Method: http.MethodGet, Path: "/api/v1/programs/{id}/history", Summary: "The edits of one item, or risk, newest first",
	}, func(ctx context.Context, in *struct {
		door.ProgramID
		Item string `query:"item" doc:"Of which item"`
		Risk string `query:"risk" doc:"Or of which risk"`
	}) (*struct{ Body []journalEntry }, error) {
		p, err := s.Open(ctx, in.ID)
		if err != nil {
			return nil, err
		}
		of := program.Ref{Kind: program.KindItem, Key: in.Item}
		if in.Item == "" {
			of = program.Ref{Kind: program.KindRisk, Key: in.Risk}
		}
		if of.Key == "" {
			return nil, huma.Error422UnprocessableEntity("Say of which item or risk.")
		}
		edits, err := p.HistoryOf(ctx, of, maxHistory)
		if err != nil {
			return nil, s.Failed(ctx, err)
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

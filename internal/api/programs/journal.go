package programs

import (
	"context"
	"errors"
	"net/http"
	"strconv"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/calendar"
	"jantrel/core/program"
	"jantrel/core/roles"
	"jantrel/internal/api/door"
	"jantrel/internal/journal"
)

// journalEntry is one edit as the journal shows it.
type journalEntry struct {
	Revision int64           `json:"revision"`
	At       time.Time       `json:"at"`
	Actor    string          `json:"actor"`
	Label    string          `json:"label"`
	Sort     journal.Sort    `json:"sort" enum:"edit,undo,redo"`
	Why      string          `json:"why,omitempty" doc:"The reason that its author gave"`
	Changes  []journalChange `json:"changes"`
	More     int             `json:"more,omitempty" doc:"Changes beyond those listed"`
	Undone   bool            `json:"undone,omitempty" doc:"It was undone, or reverted with nothing changed in between: the edit that did so is not listed by itself, and what is told of how things went goes without both"`
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

// ofStages is what each stage is for, as the journal has it.
var ofStages = map[string][]journal.Changed{
	"set-up": {{Kind: program.KindProgram}, {Kind: program.KindCadence}, {Kind: program.KindTeam}, {Kind: program.KindPerson}, {Kind: program.KindRelease}, {Kind: program.KindMilestone}, {Kind: program.KindIteration, Field: "capacity"}},
	"backlog": {
		{Kind: program.KindItem, Field: "title"}, {Kind: program.KindItem, Field: "kind"}, {Kind: program.KindItem, Field: "size"}, {Kind: program.KindItem, Field: "rough"}, {Kind: program.KindItem, Field: "parent"},
		{Kind: program.KindItem, Field: "release"}, {Kind: program.KindItem, Field: "team"}, {Kind: program.KindItem, Field: "tags"}, {Kind: program.KindItem, Field: "description"}, {Kind: program.KindItem, Field: "checks"}, {Kind: program.KindItem, Field: "keptOut"}},
	"plan":     {{Kind: program.KindItem, Field: "iteration"}, {Kind: program.KindItem, Field: "pinned"}, {Kind: program.KindItem, Field: "notBefore"}, {Kind: program.KindNeed}},
	"forecast": {{Kind: program.KindPromise}, {Kind: program.KindItem, Field: "due"}, {Kind: program.KindRelease, Field: "due"}},
	"track": {
		{Kind: program.KindItem, Field: "state"}, {Kind: program.KindItem, Field: "step"}, {Kind: program.KindItem, Field: "tasks"}, {Kind: program.KindItem, Field: "assignee"}, {Kind: program.KindItem, Field: "blocked"},
		{Kind: program.KindIteration, Field: "state"}, {Kind: program.KindTimeEntry}, {Kind: program.KindRisk}, {Kind: program.KindSnooze}, {Kind: program.KindComment}},
}

func (s stage) journal(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "get-journal", Method: http.MethodGet, Path: "/api/v1/programs/{id}/journal", Summary: "The edits, newest first",
	}, func(ctx context.Context, in *struct {
		door.ProgramID
		Before int64  `query:"before" doc:"Only edits before this revision"`
		Limit  int    `query:"limit" minimum:"1" maximum:"200" default:"50"`
		By     string `query:"by" maxLength:"100" doc:"Only of whom: part of a name"`
		Kind   string `query:"kind" maxLength:"40" doc:"Only with a change to a thing of this kind"`
		Stage  string `query:"stage" enum:"set-up,backlog,plan,forecast,track" doc:"Only with a change of what this stage is for"`
		Field  string `query:"field" maxLength:"40" doc:"Only with a change of this field"`
		Words  string `query:"words" maxLength:"200" doc:"Only with these words in what it is called, why it was made, or a key of what it changed"`
		From   string `query:"from" maxLength:"10" doc:"Only from this day on"`
		To     string `query:"to" maxLength:"10" doc:"Only up to this day, with it"`
	}) (*struct{ Body []journalEntry }, error) {
		p, err := s.Open(ctx, in.ID)
		if err != nil {
			return nil, err
		}
		sought := journal.Sought{By: in.By, Kind: program.Kind(in.Kind), Field: in.Field, Words: strings.TrimSpace(in.Words), Among: ofStages[in.Stage]}
		for _, end := range []struct {
			text string
			at   *time.Time
			days int
		}{{in.From, &sought.From, 0}, {in.To, &sought.To, 1}} {
			if end.text == "" {
				continue
			}
			day, err := calendar.Parse(end.text)
			if err != nil {
				return nil, huma.Error422UnprocessableEntity("from, to: " + err.Error())
			}
			*end.at = p.Midnight(day.Add(end.days))
		}
		edits, undone, err := p.Folded(ctx, in.Before, in.Limit, sought)
		if err != nil {
			return nil, s.Failed(ctx, err)
		}
		return &struct{ Body []journalEntry }{entries(edits, undone)}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "explain-edit", Metadata: door.OnLine, Method: http.MethodPut, Path: "/api/v1/programs/{id}/journal/{revision}/why", Summary: "Say why an edit was made",
		MaxBodyBytes: 4 << 10, Errors: []int{http.StatusForbidden, http.StatusNotFound, http.StatusUnprocessableEntity},
	}, s.explain)
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
		edits, undone, err := p.FoldedOf(ctx, of, maxHistory)
		if err != nil {
			return nil, s.Failed(ctx, err)
		}
		return &struct{ Body []journalEntry }{entries(edits, undone)}, nil
	})
}

// explain keeps the reason that somebody gives for an edit: their own, or as who may make every change.
func (s stage) explain(ctx context.Context, in *struct {
	door.ProgramID
	Revision int64 `path:"revision" doc:"The edit's"`
	Body     struct {
		Why string `json:"why" maxLength:"300" doc:"Empty: none any more"`
	}
}) (*struct{}, error) {
	l, who, err := s.OpenAs(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	mine := strconv.FormatInt(door.VisitorOf(ctx).Account.ID, 10) + ":"
	err = l.Explain(ctx, in.Revision, strings.TrimSpace(in.Body.Why), func(e journal.Edit) error {
		if roles.ReachOf(who.Role, program.KindProgram, program.Set, "askWhy") == roles.Any || strings.HasPrefix(e.Client, mine) {
			return nil
		}
		return s.Denied(ctx, "Only who made an edit, or a program manager, says why.")
	})
	var answered huma.StatusError
	switch {
	case err == nil, errors.As(err, &answered):
		return nil, err
	case errors.Is(err, journal.ErrNotFound):
		return nil, huma.Error404NotFound("There is no such edit.")
	}
	return nil, s.Failed(ctx, err)
}

// entries are edits as the journal shows them.
func entries(edits []journal.Edit, undone map[int64]int64) []journalEntry {
	list := []journalEntry{}
	for _, e := range edits {
		entry := journalEntry{Revision: e.Revision, At: e.At, Actor: e.Actor, Label: e.Label, Sort: e.Sort, Why: e.Why, Changes: []journalChange{}, Undone: undone[e.Revision] != 0}
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

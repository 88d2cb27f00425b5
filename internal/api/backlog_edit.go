package api

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/backlog"
	"jantrel/core/intake"
	"jantrel/core/program"
	"jantrel/internal/exchange"
	"jantrel/internal/live"
)

// BacklogEdit is an edit of the backlog as people make it; the changes are worked
// out here. Do says what; the other fields are what that takes.
type BacklogEdit struct {
	Client
	Revision int64  `json:"revision" minimum:"0" doc:"The revision that it is made on"`
	Dry      bool   `json:"dry,omitempty" doc:"Only say what it would do"`
	Do       string `json:"do" enum:"enter,outline,rank,delete,split,break-down,repeat"`

	Keys    []string            `json:"keys,omitempty" maxItems:"50000" doc:"The items it is about"`
	Fields  []string            `json:"fields,omitempty" maxItems:"50" doc:"enter: the fields that cells are entered in"`
	Cells   [][]string          `json:"cells,omitempty" maxItems:"50000" doc:"enter: a row for each item, a cell for each field; a single row is for all"`
	Text    string              `json:"text,omitempty" maxLength:"4000000" doc:"outline: lines, one an item"`
	Under   intake.Under        `json:"under,omitzero" doc:"outline: where the items go"`
	To      backlog.Where       `json:"to,omitzero" doc:"rank: where to"`
	Shown   []string            `json:"shown,omitempty" maxItems:"50000" doc:"rank up or down: the items in view, in order"`
	Below   bool                `json:"below,omitempty" doc:"delete: what is below groups goes too"`
	Parts   []backlog.SplitPart `json:"parts,omitempty" maxItems:"50" doc:"split: into these"`
	Chain   bool                `json:"chain,omitempty" doc:"split: each part needs the one before it"`
	Pattern string              `json:"pattern,omitempty" doc:"break-down: its key"`
	Until   program.Date        `json:"until,omitzero" doc:"repeat: the last day on which an iteration may start"`
}

// EditedBacklog is what an edit of the backlog did or, dry, would do.
type EditedBacklog struct {
	Label   string       `json:"label"`
	Keys    []string     `json:"keys" doc:"Items that are new, or that go"`
	Notes   []string     `json:"notes" doc:"What else is to be known"`
	Changes int          `json:"changes" doc:"How many changes it is made of; 0: there is nothing to change"`
	Update  *live.Update `json:"update,omitempty" doc:"Missing where nothing was changed"`
	Steps
}

type editedBacklog struct{ Body EditedBacklog }

func (s *server) backlogEdits(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "edit-backlog", Method: http.MethodPost, Path: "/api/v1/programs/{id}/backlog/edits",
		Summary: "An edit of the backlog: cells, lines, ranks, parts", MaxBodyBytes: maxChanges,
		Errors: []int{http.StatusNotFound, http.StatusConflict, http.StatusUnprocessableEntity},
	}, func(ctx context.Context, in *struct {
		ProgramID
		Body BacklogEdit
	}) (*editedBacklog, error) {
		p, who, err := s.openAs(ctx, in.ID)
		if err != nil {
			return nil, err
		}
		state := p.State()
		edit, changes, err := planEdit(state, &in.Body)
		if err != nil {
			return nil, s.problem(ctx, err)
		}
		return s.made(ctx, p, s.author(ctx, who, in.Body.Client.Client), in.Body.Revision, in.Body.Dry, edit, changes)
	})
	s.imports(api)
}

// made applies the changes of an edit, unless it is dry.
func (s *server) made(ctx context.Context, p *live.Program, by live.Author, revision int64, dry bool, edit EditedBacklog, changes []program.Change) (*editedBacklog, error) {
	edit.Changes = len(changes)
	if edit.Keys == nil {
		edit.Keys = []string{}
	}
	if edit.Notes == nil {
		edit.Notes = []string{}
	}
	if !dry && len(changes) > 0 {
		update, err := p.Apply(ctx, by, revision, edit.Label, changes)
		if err != nil {
			return nil, s.problem(ctx, err)
		}
		edit.Update = &update
	}
	edit.Undo, edit.Redo = p.Steps(by.Client)
	return &editedBacklog{edit}, nil
}

func planEdit(state *live.State, in *BacklogEdit) (edit EditedBacklog, changes []program.Change, err error) {
	p := state.Program
	first := ""
	if len(in.Keys) > 0 {
		first = in.Keys[0]
	}
	these := first
	if len(in.Keys) > 1 {
		these = fmt.Sprintf("%d items", len(in.Keys))
	}
	switch in.Do {
	case "enter":
		return planEntry(state, in, these)
	case "outline":
		changes, edit.Keys, err = intake.AddOutline(state.Index(), state.Today, in.Text, in.Under)
		edit.Label = fmt.Sprintf("Add %d items", len(edit.Keys))
		if len(edit.Keys) == 1 {
			edit.Label = "Add " + edit.Keys[0]
		}
	case "rank":
		changes, err = backlog.Rank(p, in.Keys, in.To, in.Shown)
		edit.Label = strings.TrimSpace(fmt.Sprintf("Rank %s %s %s", these, in.To.To, in.To.Key))
	case "delete":
		changes, edit.Keys, edit.Notes, err = backlog.Delete(p, in.Keys, in.Below)
		edit.Label = "Delete " + these
	case "split":
		changes, edit.Keys, err = backlog.Split(p, first, in.Parts, in.Chain)
		edit.Label = fmt.Sprintf("Split %s into %d", first, len(in.Parts))
	case "break-down":
		changes, edit.Keys, err = backlog.BreakDown(p, first, in.Pattern)
		edit.Label = fmt.Sprintf("Break %s down", first)
	case "repeat":
		changes, edit.Keys, err = backlog.RepeatItems(p, state.Today, in.Until, in.Keys)
		edit.Label = fmt.Sprintf("Add %d repeated items", len(edit.Keys))
	}
	return edit, changes, err
}

// planEntry takes cells in. A single row of cells is entered in every item.
func planEntry(state *live.State, in *BacklogEdit, these string) (EditedBacklog, []program.Change, error) {
	if len(in.Cells) != len(in.Keys) && len(in.Cells) != 1 {
		return EditedBacklog{}, nil, fmt.Errorf("there are %d rows of cells for %d items", len(in.Cells), len(in.Keys))
	}
	t := intake.Table{Columns: append([]string{"key"}, in.Fields...), Rows: make([][]string, len(in.Keys))}
	for i, key := range in.Keys {
		cells := in.Cells[0]
		if len(in.Cells) > 1 {
			cells = in.Cells[i]
		}
		t.Rows[i] = append([]string{key}, cells...)
	}
	r := intake.Read(state.Index(), t, intake.Options{Today: state.Today, OnlyKnown: true})
	if len(r.Problems) > 0 {
		return EditedBacklog{}, nil, cellError(t, r.Problems)
	}
	titles := make([]string, len(in.Fields))
	for i, name := range in.Fields {
		if field, ok := backlog.FieldOf(name); ok {
			titles[i] = field.Title
		}
	}
	label := fmt.Sprintf("%s of %s", strings.Join(titles, ", "), these)
	if runes := []rune(label); len(runes) > maxLabel {
		label = string(runes[:maxLabel])
	}
	return EditedBacklog{Label: label, Notes: r.Notes}, r.Changes, nil
}

// maxLabel is how long the label of an edit may be.
const maxLabel = 200

// cellError names the first cells that are wrong.
func cellError(t intake.Table, problems []intake.Problem) error {
	const most = 3
	var lines []string
	for i, problem := range problems {
		if i == most {
			lines = append(lines, fmt.Sprintf("and %d more", len(problems)-most))
			break
		}
		text := problem.Text
		if problem.Row >= 0 {
			text = t.Rows[problem.Row][0] + ": " + text
		}
		lines = append(lines, text)
	}
	return errors.New(strings.Join(lines, "; "))
}

func (s *server) imports(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "read-table", Method: http.MethodPost, Path: "/api/v1/tables", Summary: "A CSV or XLSX file as a table; nothing is kept",
		MaxBodyBytes: maxDocument, BodyReadTimeout: importTime, SkipValidateBody: true,
	}, func(_ context.Context, in *struct {
		RawBody []byte `contentType:"application/octet-stream"`
	}) (*struct{ Body readSheet }, error) {
		sheet, err := exchange.ReadSheet(in.RawBody)
		if err != nil {
			return nil, huma.Error422UnprocessableEntity(err.Error())
		}
		return &struct{ Body readSheet }{readSheet{sheet, intake.Guess(sheet.Headings)}}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "check-import", Method: http.MethodPost, Path: "/api/v1/programs/{id}/imports/check", Summary: "What taking a table in would do",
		MaxBodyBytes: maxDocument, BodyReadTimeout: importTime,
	}, func(ctx context.Context, in *struct {
		ProgramID
		Body Importing
	}) (*struct{ Body intake.Result }, error) {
		p, err := s.open(ctx, in.ID)
		if err != nil {
			return nil, err
		}
		return &struct{ Body intake.Result }{takeIn(p.State(), &in.Body)}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "apply-import", Method: http.MethodPost, Path: "/api/v1/programs/{id}/imports", Summary: "Take a table in, as one edit",
		MaxBodyBytes: maxDocument, BodyReadTimeout: importTime,
		Errors: []int{http.StatusNotFound, http.StatusConflict, http.StatusUnprocessableEntity},
	}, func(ctx context.Context, in *struct {
		ProgramID
		Body struct {
			Client
			Importing
			Revision int64  `json:"revision" minimum:"0" doc:"The revision that it was checked on"`
			Name     string `json:"name,omitempty" maxLength:"150" doc:"The file's"`
		}
	}) (*editedBacklog, error) {
		p, who, err := s.openAs(ctx, in.ID)
		if err != nil {
			return nil, err
		}
		r := takeIn(p.State(), &in.Body.Importing)
		if len(r.Problems) > 0 {
			return nil, s.problem(ctx, fmt.Errorf("the table has %d problems, the first in row %d: %s", len(r.Problems), r.Problems[0].Row+1, r.Problems[0].Text))
		}
		edit := EditedBacklog{Label: strings.TrimSpace("Import " + in.Body.Name), Keys: r.Keys, Notes: r.Notes}
		return s.made(ctx, p, s.author(ctx, who, in.Body.Client.Client), in.Body.Revision, false, edit, r.Changes)
	})
}

func takeIn(state *live.State, in *Importing) intake.Result {
	return intake.Read(state.Index(), intake.Table{Columns: in.Columns, Rows: in.Rows}, intake.Options{Today: state.Today, MakeParents: in.MakeParents})
}

package report

import (
	"bytes"
	"context"
	"errors"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/calendar"
	"jantrel/internal/api/door"
	"jantrel/internal/exchange"
	"jantrel/internal/journal"
	"jantrel/internal/live"
	"jantrel/internal/store"
)

// journalChanges is how many changes a file of the journal holds at most.
const journalChanges = 200_000

func (s stage) files(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "get-exports", Method: http.MethodGet, Path: "/api/v1/programs/{id}/exports", Summary: "The files that one makes again and again",
	}, func(ctx context.Context, in *door.ProgramID) (*struct{ Body []store.Export }, error) {
		if _, err := s.Open(ctx, in.ID); err != nil {
			return nil, err
		}
		kept, err := s.Store().Exports(ctx, in.ID, door.VisitorOf(ctx).Account.ID)
		if err != nil {
			return nil, s.Failed(ctx, err)
		}
		return &struct{ Body []store.Export }{kept}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "put-exports", Metadata: door.Keeps, Method: http.MethodPut, Path: "/api/v1/programs/{id}/exports", Summary: "Keep the files that one makes again and again",
		MaxBodyBytes: 64 << 10,
	}, func(ctx context.Context, in *struct {
		door.ProgramID
		Body []store.Export `maxItems:"50"`
	}) (*struct{}, error) {
		if _, err := s.Open(ctx, in.ID); err != nil {
			return nil, err
		}
		if err := s.Store().KeepExports(ctx, in.ID, door.VisitorOf(ctx).Account.ID, in.Body); err != nil {
			return nil, s.Failed(ctx, err)
		}
		return nil, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "report-plan", Method: http.MethodGet, Path: "/api/v1/programs/{id}/reports/plan", Summary: "The plan as a workbook: an overview, releases, a sheet for each team",
	}, func(ctx context.Context, in *struct{ door.Reading }) (*door.File, error) {
		l, state, err := s.Read(ctx, in.Reading)
		if err != nil {
			return nil, err
		}
		played, err := l.LandingsAt(ctx, state)
		if err != nil {
			return nil, s.Problem(ctx, err)
		}
		var out bytes.Buffer
		if err := exchange.WritePlan(&out, state.Plan, played.Releases); err != nil {
			return nil, s.Failed(ctx, err)
		}
		return door.Attached("plan-"+state.Today.String()+".xlsx", door.MediaTypes["xlsx"], out.Bytes()), nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "report-dates", Method: http.MethodGet, Path: "/api/v1/programs/{id}/reports/dates", Summary: "Iterations, due dates of releases, milestones and what is due of one's own as iCalendar",
	}, func(ctx context.Context, in *struct {
		door.Reading
		What []string `query:"what,explode" minItems:"1" maxItems:"4" enum:"iterations,releases,milestones,mine" required:"true"`
		Team []string `query:"team,explode" maxItems:"100" doc:"Of iterations: of which teams; missing: of all"`
	}) (*door.File, error) {
		_, who, state, err := s.ReadAs(ctx, in.Reading)
		if err != nil {
			return nil, err
		}
		var out bytes.Buffer
		if err := exchange.WriteDates(&out, state.Program, state.Today, in.What, in.Team, who.Person); err != nil {
			return nil, s.Failed(ctx, err)
		}
		return door.Attached("dates.ics", door.MediaTypes["ics"], out.Bytes()), nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "report-journal", Method: http.MethodGet, Path: "/api/v1/programs/{id}/reports/journal", Summary: "The journal, a change a row or a line, the oldest first",
		Errors: []int{http.StatusUnprocessableEntity},
	}, func(ctx context.Context, in *struct {
		door.Reading
		From   string `query:"from" maxLength:"10" doc:"From this day on; missing: from the first edit"`
		To     string `query:"to" maxLength:"10" doc:"Up to this day, with it"`
		Format string `query:"format" enum:"csv,jsonl" default:"csv"`
	}) (*door.File, error) {
		l, err := s.Open(ctx, in.ID)
		if err != nil {
			return nil, err
		}
		sought := journal.Sought{}
		if in.From != "" {
			day, err := calendar.Parse(in.From)
			if err != nil {
				return nil, huma.Error422UnprocessableEntity("from: " + err.Error())
			}
			sought.From = l.Midnight(day)
		}
		if in.To != "" {
			day, err := calendar.Parse(in.To)
			if err != nil {
				return nil, huma.Error422UnprocessableEntity("to: " + err.Error())
			}
			sought.To = l.Midnight(day.Add(1))
		}
		var out bytes.Buffer
		j, err := exchange.NewJournalWriter(&out, in.Format)
		if err == nil {
			err = l.Edits(ctx, sought, journalChanges, func(e *journal.Edit) error {
				return j.Write(exchange.Told{Revision: e.Revision, At: e.At, By: e.Actor, Label: e.Label, Why: e.Why, Changes: e.Changes})
			})
		}
		if err == nil {
			err = j.End()
		}
		switch {
		case errors.Is(err, live.ErrManyEdits):
			return nil, huma.Error422UnprocessableEntity(sentence(err.Error()))
		case err != nil:
			return nil, s.Problem(ctx, err)
		}
		return door.Attached("journal."+in.Format, map[string]string{"csv": door.MediaTypes["csv"], "jsonl": "application/jsonl"}[in.Format], out.Bytes()), nil
	})
}

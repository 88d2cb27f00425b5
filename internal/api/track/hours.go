package track

import (
	"bytes"
	"context"
	"fmt"
	"net/http"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/calendar"
	"jantrel/core/hours"
	"jantrel/core/program"
	"jantrel/core/roles"
	"jantrel/internal/api/door"
	"jantrel/internal/exchange"
	"jantrel/internal/live"
)

// personWeek is a person's week to enter hours in.
type personWeek struct {
	hours.Week
	Revision int64 `json:"revision"`
	May      bool  `json:"may" doc:"Whether who asks may enter hours of this person"`
}

// hoursReport is a report of hours.
type hoursReport struct {
	hours.Report
	Revision int64 `json:"revision"`
}

// HoursAsked is what hours are asked about.
type HoursAsked struct {
	door.Reading
	door.Range
	By     string   `query:"by" enum:"person,team,item,activity" default:"person"`
	Teams  []string `query:"teams,explode" maxItems:"200" doc:"Of which teams; missing: of all"`
	People []string `query:"people,explode" maxItems:"500" doc:"Of which people; missing: of all"`
}

func (s stage) registerHours(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "get-hours-week", Method: http.MethodGet, Path: "/api/v1/programs/{id}/hours-week", Summary: "A person's week to enter hours in",
	}, s.hoursWeek)
	huma.Register(api, huma.Operation{
		OperationID: "get-hours", Method: http.MethodGet, Path: "/api/v1/programs/{id}/hours", Summary: "Capacity, planned and spent hours over some days",
	}, func(ctx context.Context, in *HoursAsked) (*struct{ Body hoursReport }, error) {
		state, asked, err := s.hours(ctx, in)
		if err != nil {
			return nil, err
		}
		return &struct{ Body hoursReport }{hoursReport{hours.ReportOf(state.Plan, asked), state.Revision}}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "export-hours", Method: http.MethodGet, Path: "/api/v1/programs/{id}/reports/hours", Summary: "The same as a file",
	}, func(ctx context.Context, in *struct {
		HoursAsked
		Format string `query:"format" enum:"xlsx,csv" default:"xlsx" doc:"XLSX holds all ways to put hours together, and the time entries"`
	}) (*door.File, error) {
		state, asked, err := s.hours(ctx, &in.HoursAsked)
		if err != nil {
			return nil, err
		}
		write := map[string]func(*bytes.Buffer) error{
			"csv":  func(out *bytes.Buffer) error { return exchange.WriteHoursCSV(out, state.Plan, asked) },
			"xlsx": func(out *bytes.Buffer) error { return exchange.WriteHoursXLSX(out, state.Plan, asked) },
		}[in.Format]
		var out bytes.Buffer
		if err := write(&out); err != nil {
			return nil, s.Failed(ctx, err)
		}
		return door.Attached(fmt.Sprintf("hours-%s-%s.%s", asked.Start, asked.End, in.Format), door.MediaTypes[in.Format], out.Bytes()), nil
	})
}

func (s stage) hoursWeek(ctx context.Context, in *struct {
	door.Reading
	Person string `query:"person" required:"true"`
	Day    string `query:"day" format:"date" doc:"Any of the week; missing: today"`
}) (*struct{ Body personWeek }, error) {
	_, who, state, err := s.ReadAs(ctx, in.Reading)
	if err != nil {
		return nil, err
	}
	if !slices.ContainsFunc(state.People, func(p program.Person) bool { return p.Key == in.Person }) {
		return nil, huma.Error404NotFound("There is no person " + in.Person + ". They may have been removed.")
	}
	day := state.Today
	if in.Day != "" {
		if day, err = calendar.Parse(in.Day); err != nil {
			return nil, huma.Error422UnprocessableEntity("day: " + err.Error())
		}
	}
	entry := program.TimeEntry{Key: "new", Person: in.Person, Date: day, Hours: 1}
	may := roles.Check(state.Program, who, []program.Change{program.AddOf(program.Ref{Kind: program.KindTimeEntry, Key: entry.Key}, entry)}) == nil
	return &struct{ Body personWeek }{personWeek{hours.WeekOf(state.Plan, in.Person, day), state.Revision, may}}, nil
}

// hours reads what hours are asked about.
func (s stage) hours(ctx context.Context, in *HoursAsked) (*live.State, hours.Asked, error) {
	_, state, err := s.Read(ctx, in.Reading)
	if err != nil {
		return nil, hours.Asked{}, err
	}
	span, err := in.Span()
	if err != nil {
		return nil, hours.Asked{}, err
	}
	if span.Days() > hours.MaxDays {
		return nil, hours.Asked{}, huma.Error422UnprocessableEntity(fmt.Sprintf("These are %d days; ask for %d at most.", span.Days(), hours.MaxDays))
	}
	return state, hours.Asked{Span: span, By: hours.By(in.By), Teams: in.Teams, People: in.People}, nil
}

package setup

import (
	"bytes"
	"context"
	"fmt"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/cadence"
	"jantrel/core/capacity"
	"jantrel/core/people"
	"jantrel/core/program"
	"jantrel/internal/api/door"
	"jantrel/internal/exchange"
	"jantrel/internal/live"
)

// SetUp is what the set-up stage shows beside the program itself.
type SetUp struct {
	Revision int64              `json:"revision"`
	Breaks   []cadence.Break    `json:"breaks" doc:"Where a team's iterations overlap or leave days out"`
	Stalled  []string           `json:"stalled" doc:"Teams whose last iteration ended so long ago that none are made by themselves"`
	People   []people.Committed `json:"people" doc:"What teams hold of each person"`
	Teams    []TeamVelocity     `json:"teams"`
}

// TeamVelocity is a team's past, and what it says of the iterations to come.
type TeamVelocity struct {
	Team     string                `json:"team"`
	History  []capacity.Past       `json:"history" doc:"The last closed iterations, oldest first"`
	Counting int                   `json:"counting" doc:"Closed iterations that count"`
	Mean     float64               `json:"mean" doc:"Mean of the normalised velocities that count: units an iteration with nobody away"`
	Spread   float64               `json:"spread" doc:"Their standard deviation"`
	Coming   []capacity.Suggestion `json:"coming" doc:"For the next iterations"`
}

const (
	suggested = 4  // coming iterations of a team that get a suggestion
	shownPast = 40 // closed iterations of a team that are listed; more may count
)

func setUpOf(state *live.State) SetUp {
	p := state.Program
	out := SetUp{Revision: state.Revision, Breaks: cadence.Breaks(p), Stalled: cadence.Stalled(p, state.Today), People: people.Commitments(p, state.Today), Teams: []TeamVelocity{}}
	figures, histories := capacity.Of(state.Plan), capacity.Histories(state.Plan)
	for t := range p.Teams {
		team := &p.Teams[t]
		v := TeamVelocity{Team: team.Key, History: histories[t], Coming: []capacity.Suggestion{}}
		if v.History == nil {
			v.History = []capacity.Past{}
		}
		v.Counting, v.Mean, v.Spread = capacity.Normalised(v.History)
		v.History = v.History[max(0, len(v.History)-shownPast):]
		for i, it := range team.Iterations {
			if it.State != program.Closed && it.End >= state.Today && len(v.Coming) < suggested {
				v.Coming = append(v.Coming, capacity.Suggest(team, figures[t], i))
			}
		}
		out.Teams = append(out.Teams, v)
	}
	return out
}

// CapacityDetail is how a capacity comes about, and who set it by hand.
type CapacityDetail struct {
	capacity.Detail
	SetBy string    `json:"setBy,omitempty" doc:"Who set it by hand, as the journal has it"`
	SetAt time.Time `json:"setAt,omitzero"`
}

func (s stage) capacity(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "get-set-up", Method: http.MethodGet, Path: "/api/v1/programs/{id}/set-up", Summary: "Velocity, suggested capacities, what people are promised to, breaks in the calendar",
	}, func(ctx context.Context, in *door.Reading) (*struct{ Body SetUp }, error) {
		_, state, err := s.Read(ctx, *in)
		if err != nil {
			return nil, err
		}
		return &struct{ Body SetUp }{setUpOf(state)}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "get-capacity", Method: http.MethodGet, Path: "/api/v1/programs/{id}/capacity", Summary: "How the capacity of an iteration comes about",
	}, func(ctx context.Context, in *struct {
		door.Reading
		Team      string `query:"team" required:"true"`
		Iteration string `query:"iteration" required:"true"`
	}) (*struct{ Body CapacityDetail }, error) {
		l, state, err := s.Read(ctx, in.Reading)
		if err != nil {
			return nil, err
		}
		return s.explain(ctx, l, state, in.Team, in.Iteration)
	})
	huma.Register(api, huma.Operation{
		OperationID: "get-capacity-rows", Method: http.MethodGet, Path: "/api/v1/programs/{id}/capacity/rows", Summary: "What roles or people can carry, and what is placed for them",
	}, func(ctx context.Context, in *struct {
		door.Reading
		By string `query:"by" enum:"role,person" required:"true"`
	}) (*struct{ Body []capacity.Row }, error) {
		_, state, err := s.Read(ctx, in.Reading)
		if err != nil {
			return nil, err
		}
		rows := capacity.ByPerson
		if in.By == "role" {
			rows = capacity.ByRole
		}
		list := rows(state.Plan, capacity.Coming(state.Today))
		if list == nil {
			list = []capacity.Row{}
		}
		return &struct{ Body []capacity.Row }{list}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "report-capacity", Method: http.MethodGet, Path: "/api/v1/programs/{id}/reports/capacity", Summary: "Planned against available time as a file",
	}, s.report)
}

func (s stage) explain(ctx context.Context, l *live.Line, state *live.State, team, iteration string) (*struct{ Body CapacityDetail }, error) {
	for t := range state.Program.Teams {
		for i, it := range state.Program.Teams[t].Iterations {
			if state.Program.Teams[t].Key != team || it.Key != iteration {
				continue
			}
			out := CapacityDetail{Detail: capacity.Explain(state.Plan, t, i)}
			if it.Capacity != nil {
				edit, found, err := l.LastSet(ctx, program.Ref{Kind: program.KindIteration, In: team, Key: iteration}, "capacity")
				if err != nil {
					return nil, s.Failed(ctx, err)
				}
				if found {
					out.SetBy, out.SetAt = edit.Actor, edit.At
				}
			}
			return &struct{ Body CapacityDetail }{out}, nil
		}
	}
	return nil, huma.Error404NotFound("There is no iteration " + iteration + " of a team " + team + ".")
}

func (s stage) report(ctx context.Context, in *struct {
	door.Reading
	door.Range
	By     string `query:"by" enum:"team,role,person" default:"team" doc:"Of CSV; XLSX holds all"`
	Format string `query:"format" enum:"xlsx,csv" default:"xlsx"`
}) (*door.File, error) {
	_, state, err := s.Read(ctx, in.Reading)
	if err != nil {
		return nil, err
	}
	span, err := in.Span()
	if err != nil {
		return nil, err
	}
	var out bytes.Buffer
	if in.Format == "csv" {
		err = exchange.WriteCapacityCSV(&out, state.Plan, span, in.By)
	} else {
		err = exchange.WriteCapacityXLSX(&out, state.Plan, span)
	}
	if err != nil {
		return nil, s.Failed(ctx, err)
	}
	return door.Attached(fmt.Sprintf("capacity-%s-%s.%s", span.Start, span.End, in.Format), door.MediaTypes[in.Format], out.Bytes()), nil
}

package api

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/backlog"
	"jantrel/core/forecast"
	"jantrel/core/program"
	"jantrel/core/ready"
	"jantrel/internal/exchange"
	"jantrel/internal/live"
)

// Asked is a list of the backlog that is asked for.
type Asked struct {
	View  program.View `json:"view"`
	Words string       `json:"words,omitempty" maxLength:"1000" doc:"What an item must have in its key, title or tags, all of them"`
}

// Listed is a list at a revision.
type Listed struct {
	Revision int64 `json:"revision"`
	backlog.List
}

// Vocabulary is what views are made of.
type Vocabulary struct {
	Fields      []backlog.Field      `json:"fields"`
	Comparisons []backlog.Comparison `json:"comparisons"`
	ReadyMade   []program.View       `json:"readyMade" doc:"Views that every program has"`
	Standard    []program.Column     `json:"standard" doc:"The columns of a view that names none"`
	Ready       program.ReadyRule    `json:"ready" doc:"What ready means where a program says nothing"`
	Lacks       []backlog.LackWords  `json:"lacks" doc:"The rules of readiness, as they stand in a sentence"`
	Readiness   map[string]string    `json:"readiness" doc:"How comparisons of readiness read"`
}

// FitAsked asks what of a list is done by a date, and when some of it is.
type FitAsked struct {
	Asked
	By     program.Date `json:"by,omitzero" doc:"The date; missing: only when is asked"`
	When   []string     `json:"when,omitempty" doc:"Items of which it is asked when they are done; missing: all of the list"`
	Buffer float64      `json:"buffer,omitempty" minimum:"0" maximum:"5" doc:"What the plain arithmetic adds to the time, 0.2 for a fifth"`
}

// Fitted is the answer, with the plain arithmetic beside it.
type Fitted struct {
	Revision int64 `json:"revision"`
	forecast.Fit
	Simple forecast.Simple `json:"simple"`
}

func (s *server) backlog(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "get-vocabulary", Method: http.MethodGet, Path: "/api/v1/backlog-vocabulary", Summary: "Fields, comparisons and ready-made views",
	}, func(context.Context, *struct{}) (*struct{ Body Vocabulary }, error) {
		return &struct{ Body Vocabulary }{Vocabulary{backlog.Fields, backlog.Comparisons, backlog.ReadyMade(), backlog.Standard(), program.DefaultReady, backlog.Lacks, backlog.ReadinessWords}}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "list-backlog", Method: http.MethodPost, Path: "/api/v1/programs/{id}/backlog", Summary: "The items of a view, in order, under heads",
	}, func(ctx context.Context, in *struct {
		Reading
		Body Asked
	}) (*struct{ Body Listed }, error) {
		_, state, _, list, err := s.list(ctx, in.Reading, &in.Body)
		if err != nil {
			return nil, err
		}
		return &struct{ Body Listed }{Listed{state.Revision, list}}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "fit-backlog", Method: http.MethodPost, Path: "/api/v1/programs/{id}/fit", Summary: "What of a view is done by a date, and when some of it is",
	}, s.fit)
	huma.Register(api, huma.Operation{
		OperationID: "get-starts", Method: http.MethodGet, Path: "/api/v1/programs/{id}/starts", Summary: "The chance that what items wait for is done before they start",
	}, func(ctx context.Context, in *Reading) (*struct{ Body []forecast.Start }, error) {
		l, state, err := s.read(ctx, *in)
		if err != nil {
			return nil, err
		}
		found, err := live.Answer(ctx, l, state, "starts", func(ctx context.Context) ([]forecast.Start, error) {
			return forecast.Starts(state.Plan, state.Playing(ctx)), nil
		})
		return &struct{ Body []forecast.Start }{found}, err
	})
	huma.Register(api, huma.Operation{
		OperationID: "get-mix", Method: http.MethodPost, Path: "/api/v1/programs/{id}/mix", Summary: "What kinds of work a scope is made of, against the mix that is wanted",
	}, func(ctx context.Context, in *struct {
		Reading
		Body ready.Asked
	}) (*struct{ Body ready.Mix }, error) {
		_, state, err := s.read(ctx, in.Reading)
		if err != nil {
			return nil, err
		}
		return &struct{ Body ready.Mix }{ready.MixOf(state.Plan, ready.ScopeOf(state.Plan, in.Body))}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "write-backlog", Method: http.MethodPost, Path: "/api/v1/programs/{id}/backlog/file", Summary: "A view as a file",
	}, s.write)
	huma.Register(api, huma.Operation{
		OperationID: "get-history", Method: http.MethodGet, Path: "/api/v1/programs/{id}/history", Summary: "The edits of one item, newest first",
	}, func(ctx context.Context, in *struct {
		ProgramID
		Item string `query:"item" required:"true"`
	}) (*struct{ Body []journalEntry }, error) {
		p, err := s.open(ctx, in.ID)
		if err != nil {
			return nil, err
		}
		edits, err := p.HistoryOf(ctx, in.Item, maxHistory)
		if err != nil {
			return nil, s.failed(ctx, err)
		}
		return &struct{ Body []journalEntry }{entries(edits)}, nil
	})
}

// maxHistory is how many edits of an item are listed.
const maxHistory = 100

// minFitPlays keeps the error of a chance near 85 % below two percent.
const minFitPlays = 500

// list makes the list that is asked for.
func (s *server) list(ctx context.Context, in Reading, asked *Asked) (*live.Line, *live.State, *backlog.Index, backlog.List, error) {
	l, state, err := s.read(ctx, in)
	if err != nil {
		return nil, nil, nil, backlog.List{}, err
	}
	index := state.Index()
	if asked.View.Uses("changed") { // only then is the journal read
		if index, err = l.Index(ctx, state); err != nil {
			return nil, nil, nil, backlog.List{}, s.failed(ctx, err)
		}
	}
	list, err := index.List(asked.View, asked.Words)
	if err != nil {
		return nil, nil, nil, list, huma.Error422UnprocessableEntity("This view cannot be shown: " + err.Error())
	}
	return l, state, index, list, nil
}

func (s *server) fit(ctx context.Context, in *struct {
	Reading
	Body FitAsked
}) (*struct{ Body Fitted }, error) {
	ranked := in.Body.Asked
	ranked.View.Group, ranked.View.Sort, ranked.View.Descending = "", "", false
	l, state, _, list, err := s.list(ctx, in.Reading, &ranked)
	if err != nil {
		return nil, err
	}
	when := in.Body.When
	if when == nil {
		when = list.Rows
	}
	asked, err := json.Marshal(in.Body)
	if err != nil {
		return nil, err
	}
	found, err := live.Answer(ctx, l, state, "fit "+string(asked), func(ctx context.Context) (Fitted, error) {
		o := state.Playing(ctx)
		o.Plays = max(minFitPlays, o.Plays/2) // asked after every edit, beside the landings
		out := Fitted{Revision: state.Revision, Fit: forecast.AnswerFit(state.Plan, forecast.FitQuestion{Options: o, By: in.Body.By, Items: list.Rows, When: when})}
		out.Simple = forecast.Reckon(state.Plan, state.Today, when, list.Rows, in.Body.By, in.Body.Buffer)
		return out, nil
	})
	return &struct{ Body Fitted }{found}, err
}

func (s *server) write(ctx context.Context, in *struct {
	Reading
	Body struct {
		Asked
		Format string `json:"format" enum:"csv,xlsx"`
		All    bool   `json:"all,omitempty" doc:"Every field that can be entered, not only the columns of the view"`
	}
}) (*file, error) {
	_, _, index, list, err := s.list(ctx, in.Reading, &in.Body.Asked)
	if err != nil {
		return nil, err
	}
	columns := in.Body.View.Columns
	if len(columns) == 0 {
		columns = backlog.Standard()
	}
	var fields []string
	for _, c := range columns {
		fields = append(fields, c.Field)
	}
	// Without keys nothing could be read in again.
	if !slices.Contains(fields, "key") {
		fields = append([]string{"key"}, fields...)
	}
	for _, f := range backlog.Fields {
		if in.Body.All && f.Enter && !slices.Contains(fields, f.Name) {
			fields = append(fields, f.Name)
		}
	}
	var out bytes.Buffer
	if err := exchange.WriteList(&out, in.Body.Format, index, list.Rows, fields); err != nil {
		return nil, huma.Error422UnprocessableEntity(err.Error())
	}
	return attached("backlog."+in.Body.Format, mediaTypes[in.Body.Format], out.Bytes()), nil
}

var mediaTypes = map[string]string{"csv": "text/csv; charset=utf-8", "xlsx": "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"}

// file is an answer that browsers save.
type file struct {
	ContentType string `header:"Content-Type"`
	Disposition string `header:"Content-Disposition"`
	Body        []byte
}

func attached(name, kind string, content []byte) *file {
	return &file{kind, fmt.Sprintf("attachment; filename=%q", name), content}
}

// Package backlog serves the ranked list: views of it, what fits by a date, what stands beside
// an item, edits of lines and cells, and tables in and out.
package backlog

import (
	"bytes"
	"context"
	"encoding/json"
	"net/http"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/act"
	"jantrel/core/backlog"
	"jantrel/core/forecast"
	"jantrel/core/program"
	"jantrel/core/ready"
	"jantrel/internal/api/door"
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

// stage is the door with this package's operations.
type stage struct{ *door.Door }

// Register adds the operations.
func Register(api huma.API, d *door.Door) {
	s := stage{d}
	s.lists(api)
	s.imports(api)
	s.views(api)
	s.attachments(api)
	door.Intent[act.Enter](api, d, "enter", "Write cells into fields of items")
	door.Intent[act.AddOutline](api, d, "add-outline", "Add items from lines of text")
	door.Intent[act.Rank](api, d, "rank", "Give items another place in the rank")
	door.Intent[act.Delete](api, d, "delete", "Delete items")
	door.Intent[act.Split](api, d, "split", "Make several items of one")
	door.Intent[act.BreakDown](api, d, "break-down", "Make the parts of a pattern below a feature")
	door.Intent[act.Repeat](api, d, "repeat", "Make the items that every iteration repeats")
	door.Intent[act.TakeIn](api, d, "take-in", "Take a table in, as one edit")
}

func (s stage) lists(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "get-vocabulary", Method: http.MethodGet, Path: "/api/v1/backlog-vocabulary", Summary: "Fields, comparisons and ready-made views",
	}, func(context.Context, *struct{}) (*struct{ Body Vocabulary }, error) {
		return &struct{ Body Vocabulary }{Vocabulary{backlog.Fields, backlog.Comparisons, backlog.ReadyMade(), backlog.Standard(), program.DefaultReady, backlog.Lacks, backlog.ReadinessWords}}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "list-backlog", Metadata: door.Asks, Method: http.MethodPost, Path: "/api/v1/programs/{id}/backlog", Summary: "The items of a view, in order, under heads",
	}, func(ctx context.Context, in *struct {
		door.Reading
		Body Asked
	}) (*struct{ Body Listed }, error) {
		_, state, _, list, err := s.list(ctx, in.Reading, &in.Body)
		if err != nil {
			return nil, err
		}
		return &struct{ Body Listed }{Listed{state.Revision, list}}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "paint-plan", Metadata: door.Asks, Method: http.MethodPost, Path: "/api/v1/programs/{id}/paint", Summary: "Which items a view leaves out of the plan, and in which of its colours the others are",
	}, s.paint)
	huma.Register(api, huma.Operation{
		OperationID: "get-rollups", Method: http.MethodGet, Path: "/api/v1/programs/{id}/rollups", Summary: "What the items below each feature and initiative add up to, by its key",
	}, func(ctx context.Context, in *door.Reading) (*struct{ Body map[string]backlog.Rollup }, error) {
		_, state, err := s.Read(ctx, *in)
		if err != nil {
			return nil, err
		}
		return &struct{ Body map[string]backlog.Rollup }{state.Index().Rollups()}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "fit-backlog", Metadata: door.Asks, Method: http.MethodPost, Path: "/api/v1/programs/{id}/fit", Summary: "What of a view is done by a date, and when some of it is",
	}, s.fit)
	huma.Register(api, huma.Operation{
		OperationID: "get-starts", Method: http.MethodGet, Path: "/api/v1/programs/{id}/starts", Summary: "The chance that what items wait for is done before they start",
	}, func(ctx context.Context, in *door.Reading) (*door.Answered[[]forecast.Start], error) {
		l, state, err := s.Read(ctx, *in)
		if err != nil {
			return nil, err
		}
		return door.Answer(ctx, s.Door, l, state, "starts", func(ctx context.Context) ([]forecast.Start, error) {
			o, err := l.Playing(ctx, state)
			if err != nil {
				return nil, err
			}
			return forecast.Starts(state.Plan, o), nil
		})
	})
	huma.Register(api, huma.Operation{
		OperationID: "get-mix", Metadata: door.Asks, Method: http.MethodPost, Path: "/api/v1/programs/{id}/mix", Summary: "What kinds of work a scope is made of, against the mix that is wanted",
	}, func(ctx context.Context, in *struct {
		door.Reading
		Body ready.Asked
	}) (*struct{ Body ready.Mix }, error) {
		_, state, err := s.Read(ctx, in.Reading)
		if err != nil {
			return nil, err
		}
		return &struct{ Body ready.Mix }{ready.MixOf(state.Plan, ready.ScopeOf(state.Plan, in.Body))}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "write-backlog", Metadata: door.Asks, Method: http.MethodPost, Path: "/api/v1/programs/{id}/backlog/file", Summary: "A view as a file",
	}, s.write)
}

// minFitPlays keeps the error of a chance near 85 % below two percent.
const minFitPlays = 500

// list makes the list that is asked for.
// Painted is what a view makes of the plan at a revision.
type Painted struct {
	Revision int64 `json:"revision"`
	backlog.Paint
}

func (s stage) paint(ctx context.Context, in *struct {
	door.Reading
	Body struct {
		View program.View `json:"view"`
	}
}) (*struct{ Body Painted }, error) {
	_, state, index, err := s.index(ctx, in.Reading, in.Body.View)
	if err != nil {
		return nil, err
	}
	paint, err := index.Paint(in.Body.View)
	if err != nil {
		return nil, cannotBeShown(err)
	}
	return &struct{ Body Painted }{Painted{state.Revision, paint}}, nil
}

func cannotBeShown(err error) error {
	return huma.Error422UnprocessableEntity("This view cannot be shown: " + err.Error())
}

// index is what a view is asked of: with what the journal says where the view asks for that.
func (s stage) index(ctx context.Context, in door.Reading, v program.View) (*live.Line, *live.State, *backlog.Index, error) {
	l, state, err := s.Read(ctx, in)
	if err != nil {
		return nil, nil, nil, err
	}
	index := state.Index()
	if v.Uses("changed") {
		if index, err = l.Index(ctx, state); err != nil {
			return nil, nil, nil, s.Failed(ctx, err)
		}
	}
	return l, state, index, nil
}

func (s stage) list(ctx context.Context, in door.Reading, asked *Asked) (*live.Line, *live.State, *backlog.Index, backlog.List, error) {
	l, state, index, err := s.index(ctx, in, asked.View)
	if err != nil {
		return nil, nil, nil, backlog.List{}, err
	}
	list, err := index.List(asked.View, asked.Words)
	if err != nil {
		return nil, nil, nil, list, cannotBeShown(err)
	}
	return l, state, index, list, nil
}

func (s stage) fit(ctx context.Context, in *struct {
	door.Reading
	Body FitAsked
}) (*door.Answered[Fitted], error) {
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
	return door.LongAnswer(ctx, s.Door, l, state, "fit "+string(asked), func(ctx context.Context) (Fitted, error) {
		o, err := l.Playing(ctx, state)
		if err != nil {
			return Fitted{}, err
		}
		o.Plays = max(minFitPlays, o.Plays/2) // asked after every edit, beside the landings
		out := Fitted{Revision: state.Revision, Fit: forecast.AnswerFit(state.Plan, forecast.FitQuestion{Options: o, By: in.Body.By, Items: list.Rows, When: when})}
		out.Simple = forecast.Reckon(state.Plan, state.Today, when, list.Rows, in.Body.By, forecast.Buffer{Share: in.Body.Buffer})
		return out, nil
	})
}

func (s stage) write(ctx context.Context, in *struct {
	door.Reading
	Body struct {
		Asked
		Format string `json:"format" enum:"csv,xlsx"`
		All    bool   `json:"all,omitempty" doc:"Every field that can be entered, not only the columns of the view"`
	}
}) (*door.File, error) {
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
	return door.Attached("backlog."+in.Body.Format, door.MediaTypes[in.Body.Format], out.Bytes()), nil
}

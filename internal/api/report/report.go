// Package report serves the report stage: pages of charts, the charts themselves, and briefs.
package report

import (
	"context"
	"crypto/sha256"
	"encoding/json"
	"fmt"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/calendar"
	"jantrel/core/program"
	"jantrel/core/reports"
	"jantrel/internal/api/door"
)

type stage struct{ *door.Door }

// vocabulary is what pages and charts are made of.
type vocabulary struct {
	Sources []reports.SourceWords `json:"sources"`
	Cards   []reports.CardWords   `json:"cards"`
}

// drawn is the answer to some charts.
type drawn struct {
	Revision int64           `json:"revision"`
	At       time.Time       `json:"at" doc:"When it was worked out"`
	Charts   []reports.Drawn `json:"charts" doc:"In the order in which they were asked for"`
}

// Charts are asked about together: as many as a page has, and no more.
type chartsAsked struct {
	door.Reading
	Body struct {
		Charts []reports.Chart `json:"charts" minItems:"1" maxItems:"40"`
	}
}

// behindAsked is a mark of a chart.
type behindAsked struct {
	door.Reading
	Body struct {
		Chart  reports.Chart `json:"chart"`
		Row    string        `json:"row,omitempty" maxLength:"400" doc:"Key of the value of its first split"`
		Column string        `json:"column,omitempty" maxLength:"400" doc:"Of its second"`
		Day    string        `json:"day,omitempty" format:"date" doc:"Of a chart over time: at the end of this day. Missing: now"`
	}
}

// behind is what stands behind a mark of a chart.
type behind struct {
	Revision int64           `json:"revision"`
	Count    int             `json:"count"`
	Things   []reports.Thing `json:"things" doc:"The first 200"`
}

// Register adds the operations.
func Register(api huma.API, d *door.Door) {
	s := stage{d}
	huma.Register(api, huma.Operation{
		OperationID: "get-chart-vocabulary", Method: http.MethodGet, Path: "/api/v1/chart-vocabulary", Summary: "What pages and charts are made of",
	}, func(context.Context, *struct{}) (*struct{ Body vocabulary }, error) {
		return &struct{ Body vocabulary }{vocabulary{reports.Vocabulary(), reports.CardKinds}}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "draw-charts", Metadata: door.Asks, Method: http.MethodPost, Path: "/api/v1/programs/{id}/charts", Summary: "Answer charts",
		MaxBodyBytes: 256 << 10,
	}, s.draw)
	huma.Register(api, huma.Operation{
		OperationID: "get-behind-chart", Metadata: door.Asks, Method: http.MethodPost, Path: "/api/v1/programs/{id}/charts/behind", Summary: "What stands behind a mark of a chart",
		MaxBodyBytes: 64 << 10,
	}, s.behind)
	s.pages(api)
	s.screens(api)
	s.guidance(api)
	s.briefs(api)
	s.files(api)
	s.dateFeeds(api)
}

func (s stage) draw(ctx context.Context, in *chartsAsked) (*door.Answered[drawn], error) {
	l, state, err := s.Read(ctx, in.Reading)
	if err != nil {
		return nil, err
	}
	own, err := s.ownViews(ctx, in.ID, in.Body.Charts)
	if err != nil {
		return nil, err
	}
	text, err := json.Marshal([]any{in.Body.Charts, own}) // own views are others for somebody else
	if err != nil {
		return nil, s.Failed(ctx, err)
	}
	question := fmt.Sprintf("charts %x", sha256.Sum256(text))
	return door.LongAnswer(ctx, s.Door, l, state, question, func(ctx context.Context) (drawn, error) {
		charts, err := l.Charts(ctx, state, in.Body.Charts, own)
		for i := range charts {
			charts[i].Failed = sentence(charts[i].Failed)
		}
		return drawn{state.Revision, s.Hub.Now(), charts}, err
	})
}

// ownViews are the views that the visitor keeps for themselves, where charts ask for some.
func (s stage) ownViews(ctx context.Context, id int64, charts []reports.Chart) ([]program.View, error) {
	if !slices.ContainsFunc(charts, func(c reports.Chart) bool { return c.Mine }) {
		return nil, nil
	}
	return s.OwnViews(ctx, id)
}

func (s stage) behind(ctx context.Context, in *behindAsked) (*struct{ Body behind }, error) {
	l, state, err := s.Read(ctx, in.Reading)
	if err != nil {
		return nil, err
	}
	own, err := s.ownViews(ctx, in.ID, []reports.Chart{in.Body.Chart})
	if err != nil {
		return nil, err
	}
	views, of := state.ChartViews(own), state
	if in.Body.Day != "" {
		day, err := calendar.Parse(in.Body.Day)
		if err != nil {
			return nil, huma.Error422UnprocessableEntity("day: " + err.Error())
		}
		if day < state.Today {
			then, there, err := l.EndOf(ctx, day)
			if err != nil {
				return nil, s.Problem(ctx, err)
			}
			if !there {
				return nil, huma.Error404NotFound("The journal began later than " + day.Time().Format("2 Jan 2006") + ".")
			}
			of = then
		}
	}
	k, err := l.Known(ctx, of, []reports.Chart{in.Body.Chart}, views)
	if err != nil {
		return nil, s.Problem(ctx, err)
	}
	things, count, err := reports.Behind(k, &in.Body.Chart, in.Body.Row, in.Body.Column)
	if err != nil {
		return nil, huma.Error422UnprocessableEntity(sentence(err.Error()))
	}
	return &struct{ Body behind }{behind{state.Revision, count, things}}, nil
}

// sentence makes a sentence of what the core says is wrong.
func sentence(text string) string {
	if text == "" {
		return ""
	}
	return strings.ToUpper(text[:1]) + text[1:] + "."
}

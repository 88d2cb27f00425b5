package forecast

import (
	"context"
	"errors"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/forecast"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/internal/api/door"
	"jantrel/internal/live"
)

// whenAsked asks when some work is done.
type whenAsked struct {
	About
	By      program.Date     `json:"by,omitzero" doc:"The date that is asked about; missing: the due date of the work, if it has one"`
	Measure forecast.Measure `json:"measure,omitzero" doc:"What it is drawn in; missing: the size of a single team, else the share of the whole"`
	If      forecast.If      `json:"if,omitzero" doc:"What is otherwise than the plan and its past say"`
	Buffer  forecast.Buffer  `json:"buffer,omitzero" doc:"What the plain arithmetic adds to the time"`
	Last    int              `json:"last,omitempty" minimum:"0" maximum:"40" doc:"Through how many ends of iterations the trend goes; missing: 6"`
}

// When is when some work is done, and what people check that with.
type When struct {
	Revision int64            `json:"revision"`
	Name     string           `json:"name"`
	By       program.Date     `json:"by,omitzero"`
	Measure  forecast.Measure `json:"measure"`
	Began    time.Time        `json:"began" doc:"When the journal begins: nothing is known of before"`
	forecast.Outlook
	Past  []forecast.Burned `json:"past" doc:"By the journal, up to today"`
	Plain []forecast.Simple `json:"plain" doc:"The plain arithmetic without a buffer, and with it"`
	Trend forecast.Trend    `json:"trend"`
}

// trendEnds is through how many ends of iterations a trend goes, where it is not said.
const trendEnds = 6

func (s stage) when(ctx context.Context, in *asking[whenAsked]) (*door.Answered[When], error) {
	return ask(ctx, s, &in.Reading, question{"when", &in.Body.About, in.Body.By, false, in.Body, func(p *plan.Plan) error { return errors.Join(in.Body.Measure.Check(p), in.Body.If.Check(p)) }}, func(ctx context.Context, l *live.Line, state *live.State, w work) (When, error) {
		return whenOf(ctx, l, state, w, &in.Body)
	})
}

// AskWhen is when some work is done, as ask-when answers it.
func AskWhen(ctx context.Context, d *door.Door, in door.Reading, about About) (*When, error) {
	found, err := stage{d}.when(ctx, &asking[whenAsked]{Reading: in, Body: whenAsked{About: about}})
	if err != nil {
		return nil, err
	}
	return &found.Body, nil
}

func whenOf(ctx context.Context, l *live.Line, state *live.State, w work, q *whenAsked) (When, error) {
	as := q.If
	as.ScopeOf = w.Set
	c, err := l.Outlook(ctx, state, w.Work, q.Measure, as)
	if err != nil {
		return When{}, err
	}
	a := When{Revision: state.Revision, Name: w.Name, By: w.Set.Due, Measure: c.Measure, Began: c.Began, Outlook: c.Outlook, Past: c.Past}
	items := w.ranked(state)
	for _, buffer := range []forecast.Buffer{{}, q.Buffer} {
		a.Plain = append(a.Plain, forecast.Reckon(state.Plan, state.Today, items, nil, w.Set.Due, buffer))
	}
	ends := q.Last
	if ends == 0 {
		ends = trendEnds
	}
	a.Trend = forecast.TrendOf(forecast.BurnedBy(state.Plan, &c.History, a.Measure, forecast.EndsOf(state.Plan, c.Teams, c.From, state.Today, ends)))
	return a, ctx.Err()
}

// fitsAsked asks what of some work is done by a date.
type fitsAsked struct {
	About
	By    program.Date `json:"by" doc:"The date"`
	Teams []string     `json:"teams,omitempty" maxItems:"200" doc:"Work of these teams alone"`
}

// fits is what of some work is done by a date.
type fits struct {
	Revision int64  `json:"revision"`
	Name     string `json:"name"`
	forecast.Fit
	Plain forecast.Simple `json:"plain"`
}

// fitOdds are the odds at which lines are drawn.
var fitOdds = []int{95, 85, 50}

func (s stage) fits(ctx context.Context, in *asking[fitsAsked]) (*door.Answered[fits], error) {
	return ask(ctx, s, &in.Reading, question{"fits", &in.Body.About, in.Body.By, true, in.Body, nil}, func(ctx context.Context, l *live.Line, state *live.State, w work) (fits, error) {
		o, err := l.Playing(ctx, state)
		if err != nil {
			return fits{}, err
		}
		o.Odds = fitOdds
		items := w.of(state, in.Body.Teams)
		a := fits{Revision: state.Revision, Name: w.Name, Fit: forecast.AnswerFit(state.Plan, forecast.FitQuestion{Options: o, By: in.Body.By, Items: items})}
		a.Plain = forecast.Reckon(state.Plan, state.Today, items, items, in.Body.By, forecast.Buffer{})
		l.Played(a.Plays)
		return a, ctx.Err()
	})
}

func (s stage) registerQuestions(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "ask-when", Metadata: door.Asks, Method: http.MethodPost, Path: "/api/v1/programs/{id}/forecast/when", Summary: "When some work is done, how it comes to be so, and two answers to check that with",
	}, s.when)
	huma.Register(api, huma.Operation{
		OperationID: "ask-fits", Metadata: door.Asks, Method: http.MethodPost, Path: "/api/v1/programs/{id}/forecast/fits", Summary: "How far down the rank everything is done by a date",
	}, s.fits)
	huma.Register(api, huma.Operation{
		OperationID: "ask-cut", Metadata: door.Asks, Method: http.MethodPost, Path: "/api/v1/programs/{id}/forecast/cut", Summary: "What would have to go for the rest to be done by a date",
	}, s.cut)
	huma.Register(api, huma.Operation{
		OperationID: "ask-pace", Metadata: door.Asks, Method: http.MethodPost, Path: "/api/v1/programs/{id}/forecast/pace", Summary: "At which pace, or with how much less work, a date would be met",
	}, s.pace)
	huma.Register(api, huma.Operation{
		OperationID: "ask-chains", Metadata: door.Asks, Method: http.MethodPost, Path: "/api/v1/programs/{id}/forecast/chains", Summary: "The longest chains of needs that some work ends with, and how often it hangs on them",
	}, s.chains)
	huma.Register(api, huma.Operation{
		OperationID: "ask-drivers", Metadata: door.Asks, Method: http.MethodPost, Path: "/api/v1/programs/{id}/forecast/drivers", Summary: "What moves the date of some work, what moves it most first",
	}, s.drivers)
	huma.Register(api, huma.Operation{
		OperationID: "ask-causes", Metadata: door.Asks, Method: http.MethodPost, Path: "/api/v1/programs/{id}/forecast/causes", Summary: "What moved the forecast of some work since a day",
	}, s.causes)
	huma.Register(api, huma.Operation{
		OperationID: "ask-moves", Metadata: door.Asks, Method: http.MethodPost, Path: "/api/v1/programs/{id}/forecast/moves", Summary: "Which edits of a day moved the forecast of some work",
	}, s.moves)
	huma.Register(api, huma.Operation{
		OperationID: "get-back-test", Method: http.MethodGet, Path: "/api/v1/programs/{id}/forecast/back-test", Summary: "How often what forecasts said came",
	}, s.backTest)
	huma.Register(api, huma.Operation{
		OperationID: "get-forecast-history", Method: http.MethodGet, Path: "/api/v1/programs/{id}/forecast/history", Summary: "What the forecast of a release or a milestone said, day by day",
	}, s.history)
	huma.Register(api, huma.Operation{
		OperationID: "get-dates", Method: http.MethodGet, Path: "/api/v1/programs/{id}/forecast/dates", Summary: "Whether the dates of releases and milestones are safe, now and then",
	}, s.dates)
	huma.Register(api, door.Operation("give-promise", "Note a date that somebody was given, with the odds that it has"), s.givePromise)
}

// Package plan serves the plan stage: drafts, what places would do, and reasons.
package plan

import (
	"cmp"
	"context"
	"encoding/json"
	"net/http"
	"runtime"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/act"
	"jantrel/core/forecast"
	"jantrel/core/gate"
	"jantrel/core/needs"
	"jantrel/core/plan"
	"jantrel/core/schedule"
	"jantrel/core/standing"
	"jantrel/internal/api/door"
	"jantrel/internal/live"
)

type draftRequest struct {
	door.Reading
	Body struct {
		DraftOptions
		KeepClose bool         `json:"keepClose,omitempty" doc:"Fewest moves come first"`
		Aim       schedule.Aim `json:"aim,omitempty" doc:"What makes a schedule better; missing: by odds"`
		Quick     bool         `json:"quick,omitempty" doc:"By odds: the first good draft, in a fraction of the time"`
	}
}

// DraftOptions say what a draft is about, and so what its figures count.
type DraftOptions struct {
	Items       []string `json:"items,omitempty" doc:"Only these may move; groups stand for their items"`
	Releases    []string `json:"releases,omitempty" doc:"Only what is of these releases may move"`
	Teams       []string `json:"teams,omitempty" doc:"Only what is of these teams may move"`
	FillTo      float64  `json:"fillTo,omitempty" minimum:"0" maximum:"1" doc:"Share of capacity to use; 0 takes the program's own"`
	Freeze      int      `json:"freeze,omitempty" minimum:"0" maximum:"100" doc:"So many of each team's next iterations stay as they are"`
	Roles       bool     `json:"roles,omitempty" doc:"What a role, or who is assigned, can carry of an iteration is a limit too"`
	AssumeSizes bool     `json:"assumeSizes,omitempty" doc:"Items without a size are drafted with the usual size of their team and kind"`
	LeaveAgreed bool     `json:"leaveAgreed,omitempty" doc:"Days that teams agreed on for their needs are no dates to meet; missing: they are"`
}

func (d DraftOptions) on(state *live.State) schedule.Options {
	return schedule.Options{
		Today: state.Today, Items: d.Items, Releases: d.Releases, Teams: d.Teams,
		FillTo: d.FillTo, Freeze: d.Freeze, Roles: d.Roles, AssumeSizes: d.AssumeSizes, LeaveAgreed: d.LeaveAgreed,
	}
}

// drafted is a draft and what it would change.
type drafted struct {
	Revision int64             `json:"revision" doc:"The revision it was drafted on"`
	Draft    schedule.Schedule `json:"draft"`
	Before   Figures           `json:"before" doc:"How good the plan is as it stands"`
	After    Figures           `json:"after" doc:"The same with all of the draft in place"`

	ExpectedLateDaysBound float64 `json:"expectedLateDaysBound" doc:"No plan of this work expects fewer, by the same plays: each with its velocities known beforehand"`
}

// Figures say how good a plan is, whoever placed its items.
type Figures struct {
	Score    schedule.Score     `json:"score"`
	Over     int                `json:"over" doc:"Iterations over capacity"`
	Broken   int                `json:"broken" doc:"Broken needs"`
	Unplaced int                `json:"unplaced" doc:"Items to be scheduled without a place"`
	Missed   []needs.Owed       `json:"missed" doc:"Needs that the plan has done after the day that was agreed on"`
	Landings []forecast.Landing `json:"landings"`

	ExpectedLateDays float64 `json:"expectedLateDays" doc:"Over the same plays as the landings: the strip reads them too"`
}

func figures(l *live.Line, state *live.State, p *plan.Plan, o schedule.Options, playing forecast.Options) Figures {
	playing.LeaveAgreed = o.LeaveAgreed
	counts, played := standing.Of(p, state.Today).Counts, l.Play(p, playing)
	return Figures{
		Missed: needs.Missed(p),
		Score:  schedule.Rate(p, o), Over: len(counts.Over), Broken: len(counts.Broken), Unplaced: len(counts.Unplaced),
		Landings: played.Releases, ExpectedLateDays: played.ExpectedLateDays,
	}
}

type triedRequest struct {
	door.Reading
	Body struct {
		DraftOptions                 // as of the draft that the placements are part of
		Placements   []act.Placement `json:"placements"`
		Rough        []act.RoughPart `json:"rough,omitempty"`
	}
}

// try says how good the plan would be with some items placed elsewhere, as with a part of a draft.
func (s stage) try(ctx context.Context, in *triedRequest) (*door.Answered[Figures], error) {
	return ask(ctx, s, in.Reading, "try", in.Body, func(ctx context.Context, l *live.Line, state *live.State) (Figures, error) {
		meant, err := act.Place{Placements: in.Body.Placements, Rough: in.Body.Rough}.Plan(state.Acting())
		if err != nil {
			return Figures{}, err
		}
		next, _, err := gate.Try(state.Plan, meant.Changes)
		if err != nil {
			return Figures{}, err
		}
		playing, err := l.Playing(ctx, state)
		if err != nil {
			return Figures{}, err
		}
		return figures(l, state, next, in.Body.on(state), playing), nil
	})
}

// ask has an answer computed once for a state and what a request says.
func ask[B, T any](ctx context.Context, s stage, in door.Reading, name string, body B, compute func(context.Context, *live.Line, *live.State) (T, error)) (*door.Answered[T], error) {
	l, state, err := s.Read(ctx, in)
	if err != nil {
		return nil, err
	}
	asked, err := json.Marshal(body)
	if err != nil {
		return nil, err
	}
	return door.LongAnswer(ctx, s.Door, l, state, name+" "+string(asked), func(ctx context.Context) (T, error) { return compute(ctx, l, state) })
}

// draftTime is how long a draft may search.
const draftTime = 3 * time.Second

// stage is the door with this package's operations.
type stage struct{ *door.Door }

// Register adds the operations.
func Register(api huma.API, d *door.Door) {
	s := stage{d}
	s.answers(api)
	s.needs(api)
	door.Intent[act.Place](api, d, "place", "Put items into iterations, or take their places away")
	door.Intent[act.MoveRough](api, d, "move-rough", "Move what is rough of an item between iterations, place it, or take its place away")
	door.Intent[act.AddNeeds](api, d, "add-needs", "Add needs written in lines: an item, what it needs, and perhaps the days between")
	door.Intent[act.AnswerNeed](api, d, "answer-need", "Ask, agree, offer another day, accept or decline: the next word on a need between two teams")
	door.Intent[act.Shift](api, d, "shift", "Move a feature, an initiative or an item by dates, with what is placed of it")
}

func (s stage) answers(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "draft-schedule", Metadata: door.Asks, Method: http.MethodPost, Path: "/api/v1/programs/{id}/draft", Summary: "Draft a schedule; nothing moves",
	}, s.draft)
	huma.Register(api, huma.Operation{
		OperationID: "try-places", Metadata: door.Asks, Method: http.MethodPost, Path: "/api/v1/programs/{id}/places/try", Summary: "How good the plan would be with items placed elsewhere; nothing moves",
	}, s.try)
	huma.Register(api, huma.Operation{
		OperationID: "find-levers", Metadata: door.Asks, Method: http.MethodPost, Path: "/api/v1/programs/{id}/levers", Summary: "Small changes that mend a release, a milestone or a need, the best first; nothing changes",
	}, s.levers)
	huma.Register(api, huma.Operation{
		OperationID: "get-reason", Method: http.MethodGet, Path: "/api/v1/programs/{id}/reason", Summary: "Why an item is where it is",
	}, func(ctx context.Context, in *struct {
		door.Reading
		Item string `query:"item" required:"true"`
	}) (*struct{ Body schedule.Why }, error) {
		_, state, err := s.Read(ctx, in.Reading)
		if err != nil {
			return nil, err
		}
		why, ok := schedule.Explain(state.Plan, schedule.Options{Today: state.Today}, in.Item)
		if !ok {
			return nil, huma.Error404NotFound("Only items that are still to do are placed; " + in.Item + " is done, kept out, a group, or gone.")
		}
		return &struct{ Body schedule.Why }{why}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "get-fits", Method: http.MethodGet, Path: "/api/v1/programs/{id}/fits", Summary: "What placing items in each iteration of a team would do",
	}, func(ctx context.Context, in *struct {
		door.Reading
		Team  string   `query:"team" required:"true"`
		Items []string `query:"items,explode"`
		Rough string   `query:"rough" doc:"What is rough of this item as well"`
		From  string   `query:"from" doc:"And stands in this iteration of the team; missing: nowhere"`
	}) (*struct{ Body []standing.Fit }, error) {
		_, state, err := s.Read(ctx, in.Reading)
		if err != nil {
			return nil, err
		}
		return &struct{ Body []standing.Fit }{standing.Fits(state.Plan, state.Today, in.Team, append(in.Items, state.Plan.Pieces(in.Rough, in.Team, in.From)...))}, nil
	})
}

func (s stage) draft(ctx context.Context, in *draftRequest) (*door.Answered[drafted], error) {
	return ask(ctx, s, in.Reading, "draft", in.Body, func(ctx context.Context, l *live.Line, state *live.State) (drafted, error) {
		end := time.Now().Add(draftTime)
		playing, err := l.Playing(ctx, state)
		if err != nil {
			return drafted{}, err
		}
		o := in.Body.on(state)
		o.Past = playing.Past
		o.Quick = in.Body.Quick
		o.KeepClose, o.Aim, o.Workers = in.Body.KeepClose, cmp.Or(in.Body.Aim, schedule.ByOdds), runtime.GOMAXPROCS(0)
		o.Stop = func() bool { return ctx.Err() != nil || time.Now().After(end) }
		out := drafted{Revision: state.Revision, Draft: schedule.Draft(state.Plan, o), Before: figures(l, state, state.Plan, o, playing)}
		out.After = figures(l, state, schedule.Place(state.Plan, out.Draft), o, playing)
		playing.LeaveAgreed = o.LeaveAgreed
		out.ExpectedLateDaysBound = forecast.Hindsight(state.Plan, playing)
		return out, nil
	})
}

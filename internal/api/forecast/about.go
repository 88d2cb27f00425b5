package forecast

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/forecast"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/track"
	"jantrel/internal/api/door"
	"jantrel/internal/live"
)

// About is the work that a question is about: one of these. None: all work.
type About struct {
	Release   string   `json:"release,omitempty" maxLength:"64" doc:"What this release holds"`
	Milestone string   `json:"milestone,omitempty" maxLength:"64" doc:"What this milestone needs"`
	Item      string   `json:"item,omitempty" maxLength:"64" doc:"What is below this item, or itself"`
	Team      string   `json:"team,omitempty" maxLength:"64" doc:"What is of this team"`
	View      string   `json:"view,omitempty" maxLength:"64" doc:"What this view holds now: a ready-made or shared one"`
	Mine      bool     `json:"mine,omitempty" doc:"The view is one that one keeps for oneself"`
	Items     []string `json:"items,omitempty" maxItems:"5000" doc:"These, and what is below them"`
}

// work is what a question is about.
type work struct{ live.Work }

// workOf finds the work that is asked about. What is not there is an error.
func (s stage) workOf(ctx context.Context, id int64, state *live.State, a *About) (work, error) {
	p := state.Plan
	for _, ref := range []program.Ref{{Kind: program.KindRelease, Key: a.Release}, {Kind: program.KindMilestone, Key: a.Milestone}, {Kind: program.KindItem, Key: a.Item}, {Kind: program.KindTeam, Key: a.Team}} {
		if ref.Key != "" && !p.Has(ref) {
			return work{}, huma.Error404NotFound(fmt.Sprintf("There is no %s %s. It may have been removed.", ref.Kind, ref.Key))
		}
	}
	switch {
	case a.Release != "":
		return work{state.ReleaseWork(door.ReleaseAt(state, a.Release))}, nil
	case a.Milestone != "":
		m := p.Milestones[slices.IndexFunc(p.Milestones, func(m program.Milestone) bool { return m.Key == a.Milestone })]
		return work{state.PickedWork(m.Name, m.Needs, m.Date)}, nil
	case a.Item != "":
		item := &p.Items[p.Tree().Index[a.Item]]
		return work{live.Work{Name: item.Key + " " + item.Title, Set: forecast.Set{Key: item.Key, Items: []string{item.Key}, Due: item.Due}, Scope: track.Scope{Item: item.Key}}}, nil
	case a.Team != "":
		team := p.Teams[p.TeamAt()[a.Team]]
		w := state.LeafWork(team.Name, func(i *program.Item) bool { return i.Team == a.Team })
		w.Scope = track.Scope{Team: a.Team}
		return work{w}, nil
	case a.View != "":
		rows, err := s.PickedBy(ctx, id, state, a.View, a.Mine)
		return work{state.PickedWork("What the view holds", rows, 0)}, err
	case len(a.Items) > 0:
		for _, key := range a.Items {
			if !p.Has(program.Ref{Kind: program.KindItem, Key: key}) {
				return work{}, huma.Error404NotFound(fmt.Sprintf("There is no item %s. It may have been removed.", key))
			}
		}
		return work{state.PickedWork(fmt.Sprintf("These %d items", len(a.Items)), a.Items, 0)}, nil
	}
	return work{state.AllWork()}, nil
}

// ranked are the leaves of some work that are to do, by rank.
func (w *work) ranked(state *live.State) []string { return w.of(state, nil) }

// of are the same of some teams; none: of all.
func (w *work) of(state *live.State, teams []string) (keys []string) {
	at := w.Set.Leaves(state.Plan, state.Tree().ToSchedule)
	slices.Sort(at)
	for _, i := range at {
		if len(teams) == 0 || slices.Contains(teams, state.Items[i].Team) {
			keys = append(keys, state.Items[i].Key)
		}
	}
	return keys
}

// asking is a question about some work.
type asking[Q any] struct {
	door.Reading
	Body Q
}

// errNoDate is the fault of a question that needs a date.
var errNoDate = huma.Error422UnprocessableEntity("This work has no due date. Say by which date it is to be done.")

// question is one about some work.
type question struct {
	kind  string
	about *About
	by    program.Date           // the date that is asked about, in place of the work's own
	dated bool                   // it needs one
	body  any                    // all that is asked
	check func(*plan.Plan) error // what is wrong with it; nil: nothing can be
}

// ask has a question about some work answered once for each state, whoever asks.
func ask[T any](ctx context.Context, s stage, in *door.Reading, q question, compute func(context.Context, *live.Line, *live.State, work) (T, error)) (*door.Answered[T], error) {
	l, state, err := s.Read(ctx, *in)
	if err != nil {
		return nil, err
	}
	w, err := s.workOf(ctx, in.ID, state, q.about)
	if err != nil {
		return nil, err
	}
	if !q.by.IsZero() {
		w.Set.Due = q.by
	}
	if q.check != nil {
		if err := q.check(state.Plan); err != nil {
			return nil, huma.Error422UnprocessableEntity("This cannot be asked: " + err.Error() + ".")
		}
	}
	if q.dated && w.Set.Due.IsZero() {
		return nil, errNoDate
	}
	asked, err := json.Marshal(q.body)
	if err != nil {
		return nil, err
	}
	return door.LongAnswer(ctx, s.Door, l, state, fmt.Sprintf("%s %q %s", q.kind, w.Set, asked), func(ctx context.Context) (T, error) { return compute(ctx, l, state, w) })
}

package track

import (
	"context"
	"fmt"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/calendar"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/reports"
	"jantrel/core/track"
	"jantrel/internal/api/door"
	"jantrel/internal/live"
)

// mostSteps is how many steps of a history are told one by one, the latest ones; before them one a day.
const mostSteps = 2000

// History is how the work of a scope came about.
type History struct {
	Revision int64           `json:"revision"`
	Began    time.Time       `json:"began" doc:"When the journal begins: nothing is known of before"`
	All      Told            `json:"all" doc:"Of all teams, in items alone: sizes of several teams are never added up"`
	Teams    []Told          `json:"teams" doc:"Of each team with work there, in its unit; without a key, what has no team"`
	Parts    []track.Part    `json:"parts" doc:"How far each of these is now, in the same order"`
	Features []track.Grouped `json:"features" doc:"By rank; without a key, what is in no feature"`
	Flow     []track.Flow    `json:"flow" doc:"Day by day"`
	Pass     track.Pass      `json:"pass"`
	Ideal    []track.Point   `json:"ideal" doc:"Of a release with a due date: what would be left of the line that is told, at an even pace over the member-days of its teams"`
	LeftOut  int             `json:"leftOut" doc:"How many of the earlier steps are not told, but for the last one of each day"`
}

// Told is a run with what has come of it since a later day.
type Told struct {
	track.Run
	Since track.Run `json:"since" doc:"The same since the day asked about, without its steps"`
}

// asked is a question for a history.
type asked struct {
	door.Reading
	Release string `query:"release" doc:"Of what this release holds"`
	Item    string `query:"item" doc:"Of what is below this item, or of itself"`
	Team    string `query:"team" doc:"Of what is of this team"`
	View    string `query:"view" doc:"Of what this view holds now: a ready-made or shared one"`
	Mine    bool   `query:"mine" doc:"The view is one that one keeps for oneself"`
	Line    string `query:"line" doc:"Whose steps are told: a team's, in its unit. Missing: those of all, in items"`
	Since   string `query:"since" format:"date" doc:"From which day on changes are summed up. Missing: from the start"`
}

func (s stage) history(ctx context.Context, in *asked) (*door.Answered[History], error) {
	l, state, err := s.Read(ctx, in.Reading)
	if err != nil {
		return nil, err
	}
	for _, ref := range []program.Ref{{Kind: program.KindRelease, Key: in.Release}, {Kind: program.KindItem, Key: in.Item}, {Kind: program.KindTeam, Key: in.Team}, {Kind: program.KindTeam, Key: in.Line}} {
		if ref.Key != "" && !state.Program.Has(ref) {
			return nil, huma.Error404NotFound(fmt.Sprintf("There is no %s %s. It may have been removed.", ref.Kind, ref.Key))
		}
	}
	picked, err := s.PickedBy(ctx, in.ID, state, in.View, in.Mine)
	if err != nil {
		return nil, err
	}
	question := fmt.Sprintf("history %q %q %q %q %q %q %q %d", in.Release, in.Item, in.Team, in.View, picked, in.Line, in.Since, l.Explained())
	return door.LongAnswer(ctx, s.Door, l, state, question, func(ctx context.Context) (History, error) {
		return historyOf(ctx, l, state, in, picked)
	})
}

// AskHistory is how the work that a card is about came about, as get-scope-history answers it.
func AskHistory(ctx context.Context, d *door.Door, in door.Reading, about reports.About) (*History, error) {
	found, err := stage{d}.history(ctx, &asked{Reading: in, Release: about.Release, Team: about.Team, Item: about.Item, View: about.View, Mine: about.Mine})
	if err != nil {
		return nil, err
	}
	return &found.Body, nil
}

func historyOf(ctx context.Context, l *live.Line, state *live.State, in *asked, picked []string) (History, error) {
	scope := track.Scope{Release: in.Release, Item: in.Item, Team: in.Team}
	if in.View != "" {
		scope.Picked = track.Pick(picked)
	}
	found, began, err := l.History(ctx, state, scope, l.StartOf(state, in.Release))
	if err != nil {
		return History{}, err
	}
	since := found.All.From
	if in.Since != "" {
		day, err := calendar.Parse(in.Since)
		if err != nil {
			return History{}, err
		}
		since = l.Midnight(day)
	}
	h := History{state.Revision, began, Told{}, []Told{}, found.Parts, track.FeaturesOf(state.Plan, found.Items), found.Flow, found.Pass, []track.Point{}, 0}
	tell := func(run track.Run, steps bool) Told {
		told := Told{run, run.Since(since)}
		told.Since.Steps, told.Since.Hours.Steps = []track.Step{}, []track.HoursStep{}
		if !steps {
			told.Steps, told.Hours.Steps = []track.Step{}, []track.HoursStep{}
		} else {
			h.LeftOut = told.Thin(mostSteps)
		}
		return told
	}
	h.All = tell(found.All, in.Line == "")
	for i := range found.Teams {
		h.Teams = append(h.Teams, tell(found.Teams[i], in.Line != "" && in.Line == found.Teams[i].Team))
	}
	for i := range state.Releases {
		if r := &state.Releases[i]; r.Key == in.Release && !r.Due.IsZero() {
			h.Ideal = idealOf(state.Plan, found, in.Line, r.Due)
		}
	}
	return h, ctx.Err()
}

// idealOf is the ideal line of a team's work, or of all of a history, up to a day.
func idealOf(p *plan.Plan, found track.History, line string, due program.Date) []track.Point {
	at, run := p.TeamAt(), &found.All
	var teams []int
	for i := range found.Teams {
		if t, ok := at[found.Teams[i].Team]; ok && (line == "" || line == found.Teams[i].Team) {
			teams = append(teams, t)
			if line != "" {
				run = &found.Teams[i]
			}
		}
	}
	return track.IdealOf(p, teams, run, due)
}

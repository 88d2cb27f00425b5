package api

import (
	"context"
	"net/http"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/act"
	"jantrel/core/program"
	"jantrel/core/standing"
	"jantrel/internal/exchange"
	"jantrel/internal/live"
)

// Meant is what comes with every intent.
type Meant struct {
	Client
	Revision int64  `json:"revision" minimum:"0" doc:"The revision that was in view when it was said"`
	Digest   string `json:"digest,omitempty" maxLength:"64" doc:"Of a proposal that was agreed to: it is made only if it still comes out like that"`
	Dry      bool   `json:"dry,omitempty" doc:"Only say what it would do"`
}

// Outcome is what an intent did or, dry, would do.
type Outcome struct {
	Label    string            `json:"label"`
	Keys     []string          `json:"keys" doc:"Items that are new, or that go"`
	Notes    []string          `json:"notes" doc:"What else is to be known"`
	Changes  int               `json:"changes" doc:"How many changes it is made of; 0: there is nothing to change"`
	Revision int64             `json:"revision" doc:"Dry: the revision it was planned on"`
	Digest   string            `json:"digest,omitempty" doc:"Dry: to send along with a yes"`
	Effects  *standing.Effects `json:"effects,omitempty" doc:"Dry: what it would do to the plan"`
	Update   *live.Update      `json:"update,omitempty" doc:"Missing where nothing was changed"`
	Steps
}

type outcome struct{ Body Outcome }

func (s *server) intents(api huma.API) {
	intent[act.Make](s, api, "make", "Changes, with what they would do shown before")
	intent[act.Remove](s, api, "remove", "Remove a thing with all that names it")

	intent[act.Enter](s, api, "enter", "Write cells into fields of items")
	intent[act.AddOutline](s, api, "add-outline", "Add items from lines of text")
	intent[act.Rank](s, api, "rank", "Give items another place in the rank")
	intent[act.Place](s, api, "place", "Put items into iterations, or take their places away")
	intent[act.Delete](s, api, "delete", "Delete items")
	intent[act.Split](s, api, "split", "Make several items of one")
	intent[act.BreakDown](s, api, "break-down", "Make the parts of a pattern below a feature")
	intent[act.Repeat](s, api, "repeat", "Make the items that every iteration repeats")
	intent[act.TakeIn](s, api, "take-in", "Take a table in, as one edit")

	intent[act.SaveCadence](s, api, "save-cadence", "Change a cadence and its teams' coming iterations, or add one")
	intent[act.FollowCadence](s, api, "follow-cadence", "Move a team to another cadence")
	intent[act.AddTeam](s, api, "add-team", "Add a team with its iterations")
	intent[act.AddPeople](s, api, "add-people", "Add people from lines of text")
	intent[act.StartIteration](s, api, "start-iteration", "Start an iteration")
	intent[act.CloseIteration](s, api, "close-iteration", "Close an iteration")
	intent[act.ResizeIteration](s, api, "resize-iteration", "Give an iteration another last day")
	intent[act.InsertIteration](s, api, "insert-iteration", "Put an iteration after another")
	intent[act.MoveIteration](s, api, "move-iteration", "Move an iteration and all after it")
	intent[act.RemoveIteration](s, api, "remove-iteration", "Take an iteration out")
	intent[act.FitRelease](s, api, "fit-release", "Fit a release to its phases and items")
	intent[act.MoveRelease](s, api, "move-release", "Move a release with its phases")
	intent[act.LayPhases](s, api, "lay-phases", "Give a release the phases of a template")
	intent[act.KeepTemplate](s, api, "keep-template", "Keep the phases of a release as a template")
	s.calendars(api)
	s.imports(api)
}

// operation is the operation of an intent: one for each, so that each says exactly what
// it takes.
func operation(name, summary string) huma.Operation {
	return huma.Operation{
		OperationID: "do-" + name, Method: http.MethodPost, Path: "/api/v1/programs/{id}/do/" + name, Summary: summary,
		MaxBodyBytes: maxDocument, BodyReadTimeout: importTime,
		Errors: []int{http.StatusForbidden, http.StatusNotFound, http.StatusConflict, http.StatusUnprocessableEntity},
	}
}

type request[I any] struct {
	ProgramID
	Body struct {
		Meant
		Intent I `json:"intent"`
	}
}

// intent registers the operation of one intent.
func intent[I act.Intent](s *server, api huma.API, name, summary string) {
	huma.Register(api, operation(name, summary), func(ctx context.Context, in *request[I]) (*outcome, error) {
		return s.do(ctx, in.ID, in.Body.Meant, in.Body.Intent)
	})
}

// do makes an edit of an intent or, dry, says what it would do.
func (s *server) do(ctx context.Context, id int64, m Meant, meant act.Intent) (*outcome, error) {
	l, who, err := s.openAs(ctx, id)
	if err != nil {
		return nil, err
	}
	by := s.author(ctx, who, m.Client.Client)
	var out outcome
	if m.Dry {
		proposal, err := l.Propose(by, meant)
		if err != nil {
			return nil, s.problem(ctx, err)
		}
		out.Body = proposed(proposal)
	} else {
		done, err := l.Do(ctx, by, live.Request{Intent: meant, Base: m.Revision, Digest: m.Digest})
		if err != nil {
			return nil, s.problem(ctx, err)
		}
		out.Body = Outcome{Label: done.Label, Keys: done.Keys, Notes: done.Notes, Changes: len(done.Changes), Revision: l.State().Revision, Update: done.Update}
	}
	out.Body.Steps, err = s.steps(ctx, l, by)
	return &out, err
}

func proposed(p live.Proposal) Outcome {
	return Outcome{Label: p.Label, Keys: p.Keys, Notes: p.Notes, Changes: len(p.Changes), Revision: p.Revision, Digest: p.Digest, Effects: &p.Effects}
}

// ReadCalendar takes days off, or holidays, from a file.
type ReadCalendar struct {
	Text   string `json:"text" maxLength:"8000000" doc:"The iCalendar file"`
	Person string `json:"person,omitempty" doc:"Whose; missing: the holidays of all"`
}

// FetchCalendars takes them from the addresses that are known.
type FetchCalendars struct {
	Person string `json:"person,omitempty" doc:"Whose; missing: everybody's, and the holidays"`
}

// calendars are the intents for which calendars have to be read first.
func (s *server) calendars(api huma.API) {
	huma.Register(api, operation("read-calendar", "Take days off or holidays from an iCalendar file"), func(ctx context.Context, in *request[ReadCalendar]) (*outcome, error) {
		l, _, err := s.openAs(ctx, in.ID)
		if err != nil {
			return nil, err
		}
		events, err := exchange.ReadCalendar(strings.NewReader(in.Body.Intent.Text), act.CalendarWindow(l.State().Today))
		if err != nil {
			return nil, huma.Error422UnprocessableEntity("The calendar cannot be read: " + err.Error())
		}
		return s.do(ctx, in.ID, in.Body.Meant, act.Calendars{Of: []act.Calendar{{Person: in.Body.Intent.Person, Events: events}}})
	})
	huma.Register(api, operation("fetch-calendars", "Fetch calendars anew"), func(ctx context.Context, in *request[FetchCalendars]) (*outcome, error) {
		l, _, err := s.openAs(ctx, in.ID)
		if err != nil {
			return nil, err
		}
		state := l.State()
		return s.do(ctx, in.ID, in.Body.Meant, s.fetch(ctx, state.Program, in.Body.Intent.Person, state.Today))
	})
}

// fetch reads the calendars whose addresses are known: of one person, or of all and the
// holidays.
func (s *server) fetch(ctx context.Context, p program.Program, person string, today program.Date) act.Calendars {
	window := act.CalendarWindow(today)
	var all act.Calendars
	take := func(whose, address string) {
		events, err := s.feeds.Fetch(ctx, address, window)
		all.Of = append(all.Of, act.Calendar{Person: whose, Events: events, Trouble: err})
	}
	for i := range p.People {
		if x := &p.People[i]; x.Calendar != "" && (person == "" || x.Key == person) {
			take(x.Key, x.Calendar)
		}
	}
	if p.Settings.HolidayCalendar != "" && person == "" {
		take("", p.Settings.HolidayCalendar)
	}
	return all
}

// importTime is how long the body of an import may take to arrive.
const importTime = 60 * time.Second

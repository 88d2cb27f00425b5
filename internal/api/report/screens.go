package report

import (
	"context"
	"crypto/sha256"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/attention"
	coreforecast "jantrel/core/forecast"
	"jantrel/core/needs"
	"jantrel/core/program"
	"jantrel/core/ready"
	"jantrel/core/reports"
	"jantrel/core/roles"
	"jantrel/core/standing"
	"jantrel/internal/api/door"
	"jantrel/internal/api/forecast"
	"jantrel/internal/api/track"
	"jantrel/internal/journal"
	"jantrel/internal/live"
	"jantrel/internal/store"
)

// ScreenLink lets a screen show a page without an account.
type ScreenLink struct {
	ID     int64          `json:"id"`
	By     string         `json:"by" doc:"Who made it: it shows what they may see, as long as they belong to the program"`
	MadeAt time.Time      `json:"madeAt"`
	SeenAt *time.Time     `json:"seenAt,omitempty" doc:"When a screen last asked; missing: never"`
	Screen reports.Screen `json:"screen"`
	Path   string         `json:"path,omitempty" doc:"Where it is shown; told once, when it is made"`
}

// screenPath is where the page shows a screen; the secret comes behind it, where it is not sent to a server.
const screenPath = "/screen#"

// ScreenTold is what a screen is told: what it shows, where it does not have that yet.
type ScreenTold struct {
	Stamp string       `json:"stamp" doc:"Of what there is to show: it is another one when something else is"`
	At    time.Time    `json:"at" doc:"As of when"`
	Shown *ScreenShown `json:"shown,omitempty" doc:"Missing: what the screen has is of now"`
}

// ScreenShown is all that a screen knows of a program.
type ScreenShown struct {
	Version    string                    `json:"version" doc:"Of the server: a page that came from another one loads itself anew"`
	Program    int64                     `json:"program"`
	Name       string                    `json:"name" doc:"Of the page"`
	Revision   int64                     `json:"revision"`
	Today      program.Date              `json:"today"`
	Screen     reports.Screen            `json:"screen"`
	Kinds      []reports.CardWords       `json:"kinds"`
	Excerpt    program.Program           `json:"excerpt" doc:"The names and dates of what its cards are about"`
	Iterations []standing.IterationFacts `json:"iterations" doc:"Of the teams whose capacity is shown"`
	Landings   []coreforecast.Landing    `json:"landings" doc:"Of the releases, where dates are shown"`
	Cards      []ScreenCard              `json:"cards"`
}

// ScreenCard is a card with what it shows, as the operations that a page asks answer it.
type ScreenCard struct {
	reports.Card
	Failed  string            `json:"failed,omitempty" doc:"Why there is nothing to show"`
	Drawn   *reports.Drawn    `json:"drawn,omitempty" doc:"Of a chart"`
	When    *forecast.When    `json:"when,omitempty" doc:"Of odds, a burn-up and a burndown"`
	History *track.History    `json:"history,omitempty" doc:"Of flow and scope, without what it consists of"`
	Mix     *ready.Mix        `json:"mix,omitempty"`
	Entries []attention.Entry `json:"entries,omitempty" doc:"Of attention"`
	Cells   []needs.Cell      `json:"cells,omitempty" doc:"Of needs across teams"`
}

// OneScreen names a screen of a page.
type OneScreen struct {
	OnePage
	Screen int64 `path:"screen"`
}

func (s stage) screens(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "list-screens", Method: http.MethodGet, Path: "/api/v1/programs/{id}/pages/{page}/screens", Summary: "The screens that show a page without an account",
		Errors: []int{http.StatusForbidden, http.StatusNotFound},
	}, func(ctx context.Context, in *OnePage) (*struct{ Body []ScreenLink }, error) {
		if _, err := s.lets(ctx, in.ID, in.Page); err != nil {
			return nil, err
		}
		list, err := s.Store().Links(ctx, store.LinksOf{Program: &in.ID, Kind: store.ToScreen, About: &in.Page})
		if err != nil {
			return nil, s.Failed(ctx, err)
		}
		out := make([]ScreenLink, len(list))
		for i := range list {
			if out[i], err = screenLink(&list[i]); err != nil {
				return nil, s.Failed(ctx, err)
			}
		}
		return &struct{ Body []ScreenLink }{out}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "add-screen", Method: http.MethodPost, Path: "/api/v1/programs/{id}/pages/{page}/screens", Summary: "Make a link by which a screen shows a page without an account",
		MaxBodyBytes: 8 << 10, DefaultStatus: http.StatusCreated, Errors: []int{http.StatusForbidden, http.StatusNotFound, http.StatusConflict, http.StatusUnprocessableEntity},
	}, s.addScreen)
	huma.Register(api, huma.Operation{
		OperationID: "end-screen", Method: http.MethodDelete, Path: "/api/v1/programs/{id}/pages/{page}/screens/{screen}", Summary: "End a screen: its link leads nowhere from now on",
		Errors: []int{http.StatusForbidden, http.StatusNotFound},
	}, func(ctx context.Context, in *OneScreen) (*struct{}, error) {
		if _, err := s.lets(ctx, in.ID, in.Page); err != nil {
			return nil, err
		}
		return nil, s.EndLink(ctx, store.LinksOf{Program: &in.ID, Kind: store.ToScreen, About: &in.Page, ID: &in.Screen}, roles.Lead) // who may make one
	})
	huma.Register(api, huma.Operation{
		OperationID: "show-screen", Metadata: door.Public, Method: http.MethodGet, Path: door.SharedPath + "{secret}/screen", Summary: "What a screen shows",
		Errors: []int{http.StatusNotFound, http.StatusTooManyRequests},
	}, s.show)
}

// lets is a page that the visitor sees, where they may let others see it without an account.
func (s stage) lets(ctx context.Context, id, page int64) (store.Page, error) {
	_, who, err := s.LiveAs(ctx, id)
	if err == nil && !roles.MayBeside(who.Role, roles.Briefs) {
		err = s.Denied(ctx, "As "+string(who.Role)+" you may not let others see a page without an account; ask a team lead or a program manager.")
	}
	if err != nil {
		return store.Page{}, err
	}
	if err := s.Person(ctx); err != nil {
		return store.Page{}, err
	}
	p, _, err := s.seen(ctx, id, page)
	return p, err
}

func (s stage) addScreen(ctx context.Context, in *struct {
	OnePage
	Body reports.Screen
},
) (*struct{ Body ScreenLink }, error) {
	page, err := s.lets(ctx, in.ID, in.Page)
	if err != nil {
		return nil, err
	}
	if err := in.Body.Check(&page.Body); err != nil {
		return nil, huma.Error422UnprocessableEntity("No screen was made: " + err.Error() + ".")
	}
	body, err := json.Marshal(in.Body)
	if err != nil {
		return nil, s.Failed(ctx, err)
	}
	made, secret, err := s.MakeLink(ctx, store.Link{Program: in.ID, Kind: store.ToScreen, About: in.Page, Body: body}, "screen")
	if err != nil {
		return nil, err
	}
	out, err := screenLink(&made)
	out.Path = screenPath + secret
	return &struct{ Body ScreenLink }{out}, err
}

func screenLink(l *store.Link) (ScreenLink, error) {
	out := ScreenLink{ID: l.ID, By: l.Maker, MadeAt: l.Made(), SeenAt: l.Used()}
	return out, json.Unmarshal(l.Body, &out.Screen)
}

func (s stage) show(ctx context.Context, in *struct {
	Secret string `path:"secret" maxLength:"100"`
	Known  string `query:"known" maxLength:"100" doc:"The stamp of what the screen has: only what is new is told"`
},
) (*struct{ Body ScreenTold }, error) {
	const nowhere = "This screen was ended, or never was one. Ask whoever made it for another one."
	screen, maker, err := s.Follow(ctx, store.ToScreen, in.Secret, nowhere)
	if err != nil {
		return nil, err
	}
	var wanted reports.Screen
	if err := json.Unmarshal(screen.Body, &wanted); err != nil {
		return nil, s.Failed(ctx, err)
	}
	// What it shows is asked as by who made it, with the rights of somebody who only looks.
	ctx = door.Looking(ctx, fmt.Sprintf("screen %d", screen.ID), maker, screen.Program)
	l, err := s.Open(ctx, screen.Program)
	if err != nil {
		return nil, err
	}
	page, err := s.Store().Page(ctx, screen.Program, screen.About)
	if errors.Is(err, journal.ErrNotFound) || err == nil && !sees(page, maker.ID) {
		return nil, huma.Error404NotFound(nowhere)
	}
	if err != nil {
		return nil, s.Failed(ctx, err)
	}
	state, cards := l.State(), wanted.Shown(&page.Body)
	own, err := s.ownShown(ctx, screen.Program, cards)
	if err != nil {
		return nil, err
	}
	told := ScreenTold{Stamp: stampOf(&screen, &page, state, own, s.Version), At: s.Hub.Now()}
	if told.Stamp != in.Known {
		if told.Shown, err = s.shown(ctx, l, state, wanted, page.Body.Name, cards, own); err != nil {
			return nil, err
		}
	}
	return &struct{ Body ScreenTold }{told}, nil
}

// stampOf is another one whenever a screen would show something else.
func stampOf(screen *store.Link, page *store.Page, state *live.State, own []program.View, version string) string {
	views := ""
	if len(own) > 0 {
		text, _ := json.Marshal(own) // plain data
		views = fmt.Sprintf("-%x", sha256.Sum256(text))[:17]
	}
	return fmt.Sprintf("%d-%d-%s-%d-%s%s", screen.ID, state.Revision, state.Today, page.Version, version, views)
}

// ownShown are the views that whoever made a screen keeps for themselves, where its cards are about some.
func (s stage) ownShown(ctx context.Context, id int64, cards []reports.Card) ([]program.View, error) {
	if !slices.ContainsFunc(cards, func(c reports.Card) bool { return c.About.Mine || c.Chart != nil && c.Chart.Mine }) {
		return nil, nil
	}
	return s.OwnViews(ctx, id)
}

// shown is what a screen shows of a state.
func (s stage) shown(ctx context.Context, l *live.Line, state *live.State, screen reports.Screen, name string, cards []reports.Card, own []program.View) (*ScreenShown, error) {
	out := &ScreenShown{
		Version: s.Version, Program: l.Program(), Name: name, Revision: state.Revision, Today: state.Today, Screen: screen, Kinds: reports.CardKinds,
		Iterations: []standing.IterationFacts{}, Landings: []coreforecast.Landing{}, Cards: make([]ScreenCard, len(cards)),
	}
	named := reports.Named{}
	named.Cards(&state.Program, cards)
	for i := range cards {
		card := &out.Cards[i]
		card.Card = cards[i]
		if err := s.tell(ctx, l.Program(), state, card, named); err != nil {
			if ctx.Err() != nil {
				return nil, s.Problem(ctx, ctx.Err())
			}
			card.Failed = wordsOf(err) // the others are shown all the same
		}
		switch card.Kind {
		case reports.CardDates:
			f, err := l.LandingsAt(ctx, state)
			if err != nil {
				return nil, s.Problem(ctx, err)
			}
			out.Landings = f.Releases
		case reports.CardCapacity:
			for _, facts := range state.Facts.Iterations {
				if card.About.Team == "" || facts.Team == card.About.Team {
					facts.Away = nil // who is away is not shown
					out.Iterations = append(out.Iterations, facts)
				}
			}
		}
	}
	out.Excerpt = named.Excerpt(&state.Program)
	for _, v := range own {
		if slices.ContainsFunc(cards, func(c reports.Card) bool { return c.About.Mine && c.About.View == v.Key }) {
			out.Excerpt.Views = append(out.Excerpt.Views, program.View{Key: v.Key, Name: v.Name})
		}
	}
	return out, nil
}

// tell asks what a card shows, as a page would, and notes what is named there.
func (s stage) tell(ctx context.Context, id int64, state *live.State, card *ScreenCard, named reports.Named) error {
	reading := door.Reading{ProgramID: door.ProgramID{ID: id}}
	switch card.Kind {
	case reports.CardChart:
		asked := chartsAsked{Reading: reading}
		asked.Body.Charts = []reports.Chart{*card.Chart}
		found, err := s.draw(ctx, &asked)
		if err != nil {
			return err
		}
		card.Drawn = &found.Body.Charts[0]
	case reports.CardOdds, reports.CardBurnUp, reports.CardBurnDown:
		found, err := forecast.AskWhen(ctx, s.Door, reading, forecast.About{Release: card.About.Release, Team: card.About.Team, Item: card.About.Item, View: card.About.View, Mine: card.About.Mine})
		if err != nil {
			return err
		}
		card.When = found
		named.Team(found.Measure.Team)
	case reports.CardFlow, reports.CardLedger:
		found, err := track.AskHistory(ctx, s.Door, reading, card.About)
		if err != nil {
			return err
		}
		bare := *found // what it consists of is not shown
		bare.Teams, bare.Parts, bare.Features = nil, nil, nil
		bare.All.Steps, bare.All.Hours.Steps, bare.All.Since.Steps, bare.All.Since.Hours.Steps = nil, nil, nil, nil
		card.History = &bare
	case reports.CardMix:
		scope := ready.Scope{In: func(int) bool { return true }, Out: func(int) bool { return false }}
		if card.About.Release != "" {
			scope = ready.ScopeOf(state.Plan, ready.Asked{Release: card.About.Release})
			scope.Out = func(int) bool { return false } // what could be pulled in is not shown
		}
		mix := ready.MixOf(state.Plan, scope)
		card.Mix = &mix
	case reports.CardAttention:
		entries, err := track.AskAttention(ctx, s.Door, reading)
		if err != nil {
			return err
		}
		card.Entries = card.About.Calls(entries)
		named.Entries(&state.Program, card.Entries)
	case reports.CardNeeds:
		card.Cells = needs.MapOf(state.Plan, state.Today)
		named.Cells(card.Cells)
	}
	return nil
}

// wordsOf is what somebody reads of an error that an operation answers.
func wordsOf(err error) string {
	var problem *huma.ErrorModel
	if errors.As(err, &problem) && problem.Detail != "" {
		return problem.Detail
	}
	return "This cannot be shown now."
}

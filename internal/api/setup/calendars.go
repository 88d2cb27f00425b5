package setup

import (
	"context"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/act"
	"jantrel/core/program"
	"jantrel/internal/api/door"
	"jantrel/internal/exchange"
)

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
func (s stage) calendars(api huma.API) {
	huma.Register(api, door.Operation("read-calendar", "Take days off or holidays from an iCalendar file"), func(ctx context.Context, in *door.Request[ReadCalendar]) (*door.Planned, error) {
		l, _, err := s.OpenAs(ctx, in.ID)
		if err != nil {
			return nil, err
		}
		events, err := exchange.ReadCalendar(strings.NewReader(in.Body.Intent.Text), act.CalendarWindow(l.State().Today))
		if err != nil {
			return nil, huma.Error422UnprocessableEntity("The calendar cannot be read: " + err.Error())
		}
		return s.Do(ctx, in.ID, in.Body.Meant, act.Calendars{Of: []act.Calendar{{Person: in.Body.Intent.Person, Events: events}}})
	})
	huma.Register(api, door.Operation("fetch-calendars", "Fetch calendars anew"), func(ctx context.Context, in *door.Request[FetchCalendars]) (*door.Planned, error) {
		l, _, err := s.OpenAs(ctx, in.ID)
		if err != nil {
			return nil, err
		}
		state := l.State()
		return s.Do(ctx, in.ID, in.Body.Meant, s.fetch(ctx, state.Program, in.Body.Intent.Person, state.Today))
	})
}

// fetch reads the calendars whose addresses are known: of one person, or of all and the
// holidays.
func (s stage) fetch(ctx context.Context, p program.Program, person string, today program.Date) act.Calendars {
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

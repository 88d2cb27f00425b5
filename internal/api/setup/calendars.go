package setup

import (
	"context"
	"strings"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/act"
	"jantrel/core/program"
	"jantrel/core/roles"
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
		reading, cancel := context.WithTimeout(ctx, fetchTime)
		defer cancel()
		events, err := exchange.ReadCalendar(reading, strings.NewReader(in.Body.Intent.Text), act.CalendarWindow(l.State().Today))
		if err != nil {
			return nil, huma.Error422UnprocessableEntity("The calendar cannot be read: " + err.Error())
		}
		return door.Say(ctx, s.Door, "read-calendar", in, act.Calendars{Of: []act.Calendar{{Person: in.Body.Intent.Person, Events: events}}})
	})
	huma.Register(api, door.Operation("fetch-calendars", "Fetch calendars anew"), func(ctx context.Context, in *door.Request[FetchCalendars]) (*door.Planned, error) {
		l, who, err := s.OpenAs(ctx, in.ID)
		if err != nil {
			return nil, err
		}
		state := l.State()
		return door.Say(ctx, s.Door, "fetch-calendars", in, s.fetch(ctx, state.Program, who, in.Body.Intent.Person, state.Today))
	})
}

// feedsTogether is how many feeds are fetched at once, fetchTime how long all of them may take.
const (
	feedsTogether = 8
	fetchTime     = 20 * time.Second
)

// fetch reads the calendars whose addresses are known: of one person, or of all and the
// holidays. It asks for those alone whose days off the visitor may set.
func (s stage) fetch(ctx context.Context, p program.Program, who roles.Who, person string, today program.Date) act.Calendars {
	type feed struct{ person, address string }
	var known []feed
	add := func(f feed, ref program.Ref, field string) {
		if f.address != "" && roles.Check(p, who, []program.Change{program.SetTo(ref, field, nil)}) == nil {
			known = append(known, f)
		}
	}
	for i := range p.People {
		if x := &p.People[i]; person == "" || x.Key == person {
			add(feed{x.Key, x.Calendar}, program.Ref{Kind: program.KindPerson, Key: x.Key}, "daysOff")
		}
	}
	if person == "" {
		add(feed{"", p.Settings.HolidayCalendar}, program.Ref{Kind: program.KindProgram}, "holidays")
	}
	ctx, cancel := context.WithTimeout(ctx, fetchTime)
	defer cancel()
	window := act.CalendarWindow(today)
	all := act.Calendars{Of: make([]act.Calendar, len(known))}
	places := make(chan struct{}, feedsTogether)
	var fetching sync.WaitGroup
	for i, f := range known {
		fetching.Go(func() {
			places <- struct{}{}
			defer func() { <-places }()
			events, err := s.feeds.Fetch(ctx, f.address, window)
			all.Of[i] = act.Calendar{Person: f.person, Events: events, Trouble: err}
		})
	}
	fetching.Wait()
	return all
}

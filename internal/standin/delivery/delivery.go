package delivery

import (
	"context"
	"errors"
	"hash/fnv"
	"math/rand/v2"
	"net/http"
	"slices"
	"time"

	"jantrel/core/act"
	"jantrel/core/calendar"
	"jantrel/core/capacity"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// Delivery is the teams of a program at work. It remembers how much of what is under way is left,
// and what it did; nothing else is kept between days.
type Delivery struct {
	Client *Client
	Seed   uint64

	// At is told before something is done when that is: the clock of a simulated time, or a wait.
	// nil: all of a day is done at once.
	At func(ctx context.Context, when time.Time) error

	// Refused is told what the server refused, as somebody else was there first; the teams go on.
	// nil: they stop.
	Refused func(*Refused)

	Record Record

	ahead    int                     // by how many days simulated time has run ahead of the server's today
	days     int                     // simulated so far: luck differs from day to day even where the date does not
	found    time.Time               // when something was found last
	left     map[string]float64      // units of work that items still take
	rejected map[string]bool         // items whose tests failed: they are sent back
	spent    map[string][]spell      // by team: who worked on what this week
	logged   map[string]program.Date // by team: the last day whose hours were entered
	versions map[string]int          // by team: what was deployed last
	planned  map[string]bool         // iterations that were, and what comes after them
}

// spell is what a person worked on on a day.
type spell struct {
	person string
	date   program.Date
	hours  float64
	items  []string
}

// New returns teams that begin to work, with luck of a seed.
func New(client *Client, seed uint64) *Delivery {
	return &Delivery{Client: client, Seed: seed, Record: Record{Hours: map[string]float64{}, Red: map[string]bool{}},
		left: map[string]float64{}, rejected: map[string]bool{}, spent: map[string][]spell{}, logged: map[string]program.Date{},
		versions: map[string]int{}, planned: map[string]bool{}}
}

// luck is that of a team on a simulated day, or of anything else that is named.
func (d *Delivery) luck(of string, n int) *rand.Rand {
	h := fnv.New64a()
	_, _ = h.Write([]byte(of))
	return rand.New(rand.NewPCG(d.Seed^h.Sum64(), uint64(n)))
}

// event is something that is done at some minute of a day.
type event struct {
	minute int
	do     func(ctx context.Context) error
}

// Day simulates a day. In the morning iterations that are over are closed, and the next are started;
// then every team does what it does on a working day, one thing after another over all teams.
func (d *Delivery) Day(ctx context.Context, day program.Date) error {
	d.days++
	w, err := d.Client.Look(ctx)
	if err != nil {
		return err
	}
	changed, err := d.turn(ctx, w, day)
	if err != nil {
		return err
	}
	if changed {
		if w, err = d.Client.Look(ctx); err != nil {
			return err
		}
	}
	crews := crewsOn(w.Program, day)
	var events []event
	for t := range w.Program.Teams {
		if team := newShift(d, w, t, day, crews[t]); team != nil {
			team.plan()
			events = append(events, team.events...)
		}
	}
	slices.SortStableFunc(events, func(a, b event) int { return a.minute - b.minute })
	for _, e := range events {
		if err := d.at(ctx, day, e.minute); err != nil {
			return err
		}
		if err := d.mayFail(e.do(ctx)); err != nil {
			return err
		}
	}
	return nil
}

// mayFail lets pass what may be refused as people work on the same program.
func (d *Delivery) mayFail(err error) error {
	var refused *Refused
	if d.Refused != nil && errors.As(err, &refused) && (refused.Status == http.StatusConflict || refused.Status == http.StatusUnprocessableEntity) {
		d.Refused(refused)
		return nil
	}
	return err
}

// present is somebody who works on a day, and how many hours.
type present struct {
	person string
	hours  float64
}

// crewsOn are those who work on a day, by team.
func crewsOn(p program.Program, day program.Date) [][]present {
	crews := make([][]present, len(p.Teams))
	capacity.Hours(plan.Of(p), calendar.Span{Start: day, End: day}, func(team int, person *program.Person, _ program.Date, hours float64) {
		if !person.OpenSeat {
			crews[team] = append(crews[team], present{person.Key, hours})
		}
	})
	return crews
}

// turn closes iterations that are over, which opens the next ones, and starts those of teams that have
// none under way. It says whether anything was.
func (d *Delivery) turn(ctx context.Context, w *World, day program.Date) (changed bool, err error) {
	for t := range w.Program.Teams {
		team := &w.Program.Teams[t]
		for i := range team.Iterations {
			it := &team.Iterations[i]
			of := act.OfTeam{Team: team.Key, Key: it.Key}
			var name string
			var intent act.Intent
			switch {
			case it.State == program.Open && it.End < day:
				name, intent = "close-iteration", act.CloseIteration{OfTeam: of}
			case it.State == program.Planned && it.Span().Holds(day) && !slices.ContainsFunc(team.Iterations, func(x program.Iteration) bool { return x.State == program.Open }):
				name, intent = "start-iterations", act.StartIterations{Iterations: []act.Start{{OfTeam: of}}}
			default:
				continue
			}
			if err := d.at(ctx, day, 8*60+3*t); err != nil {
				return changed, err
			}
			d.Record.Edits++
			_, err := d.Client.Do(ctx, name, intent)
			if err := d.mayFail(err); err != nil {
				return changed, err
			}
			if err == nil && name == "close-iteration" {
				d.Record.Closed = append(d.Record.Closed, Closed{Team: team.Key, Iteration: it.Key})
			}
			changed = true
			break
		}
	}
	return changed, nil
}

// at says when the next thing is done.
func (d *Delivery) at(ctx context.Context, day program.Date, minute int) error {
	if d.At == nil {
		return ctx.Err()
	}
	return d.At(ctx, day.Add(d.ahead).Time().Add(time.Duration(minute)*time.Minute))
}

// moment is when something was found: never before what was found last, also where one date is worked
// on for several days.
func (d *Delivery) moment(day program.Date, minute int) time.Time {
	at := day.Time().Add(time.Duration(minute) * time.Minute)
	if !at.After(d.found) {
		at = d.found.Add(time.Second)
	}
	d.found = at
	return at
}

// Days simulates days one after another, the weekends too: builds run on these.
func (d *Delivery) Days(ctx context.Context, span calendar.Span) error {
	for day := span.Start; day <= span.End; day++ {
		if err := d.Day(ctx, day); err != nil {
			return err
		}
	}
	return nil
}

// Live simulates so many days, each on what the server calls today, or goes on until ctx ends where
// that is 0. After each it says so.
func (d *Delivery) Live(ctx context.Context, days int, said func(today program.Date)) error {
	for n := 0; days == 0 || n < days; n++ {
		w, err := d.Client.Look(ctx)
		if err != nil {
			return err
		}
		d.ahead = n
		if err := d.Day(ctx, w.Today); err != nil {
			return err
		}
		if err := d.at(ctx, w.Today, 18*60); err != nil { // also of a day on which nothing was done
			return err
		}
		said(w.Today)
	}
	return nil
}

// workday is how long teams do something on a day.
const workday = 16 * time.Hour

// Paced waits between things so that a day takes as long as it says.
func Paced(day time.Duration) func(ctx context.Context, when time.Time) error {
	var last time.Time
	return func(ctx context.Context, when time.Time) error {
		gap := when.Sub(last)
		gap = max(0, min(gap, workday/8)) // the night is short
		last = when
		return wait(ctx, time.Duration(float64(day)*float64(gap)/float64(workday)))
	}
}

package live

import (
	"context"
	"time"

	"jantrel/core/calendar"
	"jantrel/core/forecast"
	"jantrel/core/program"
	"jantrel/core/track"
)

// Work is some work that a forecast is asked about.
type Work struct {
	Name  string
	Set   forecast.Set // with its date as due date, where it has one
	Scope track.Scope  // the same, for the journal
}

// ReleaseWork is what the release at a position holds.
func (s *State) ReleaseWork(at int) Work {
	r := &s.Releases[at]
	return Work{r.Name, forecast.Set{Key: r.Key, Release: r.Key, Due: r.Due}, track.Scope{Release: r.Key}}
}

// PickedWork is work that somebody picked, groups standing for what is below them.
func (s *State) PickedWork(name string, keys []string, due program.Date) Work {
	tree, all := s.Tree(), map[string]bool{}
	for _, key := range keys {
		if i, ok := tree.Index[key]; ok {
			for _, leaf := range tree.Leaves(i) {
				all[s.Items[leaf].Key] = true
			}
		}
	}
	return Work{name, forecast.Set{Key: "picked", Items: keys, Due: due}, track.Scope{Picked: all}}
}

// LeafWork is work of the leaves that count.
func (s *State) LeafWork(name string, counts func(*program.Item) bool) Work {
	var keys []string
	for i := range s.Items {
		if s.Tree().IsLeaf(i) && counts(&s.Items[i]) {
			keys = append(keys, s.Items[i].Key)
		}
	}
	return s.PickedWork(name, keys, 0)
}

// AllWork is all that a program has.
func (s *State) AllWork() Work {
	w := s.LeafWork("All work", func(*program.Item) bool { return true })
	w.Scope = track.Scope{}
	return w
}

// Outlook is how some work came about, and how the plays go on.
type Outlook struct {
	forecast.Outlook
	Measure forecast.Measure // in which it is told
	Began   time.Time        // when the journal began: nothing is known of before
	From    program.Date     // the first day that History tells of
	History track.History
	Teams   []string // that have some of it, or had
	Past    []forecast.Burned
}

// pastDays is on how many days of the past the work is looked at, at the most.
const pastDays = 180

// Outlook looks back on some work by the journal, and ahead by the plays. Without a measure it is told in the size of a
// single team, else in shares of the whole.
func (l *Line) Outlook(ctx context.Context, s *State, w Work, in forecast.Measure, as forecast.If) (Outlook, error) {
	o, err := l.Playing(ctx, s)
	if err != nil {
		return Outlook{}, err
	}
	c := Outlook{Measure: in, Past: []forecast.Burned{}}
	if c.History, c.Began, err = l.History(ctx, s, w.Scope, l.StartOf(s, w.Set.Release)); err != nil {
		return Outlook{}, err
	}
	for i := range c.History.Teams {
		if team := c.History.Teams[i].Team; team != "" {
			c.Teams = append(c.Teams, team)
		}
	}
	if c.Measure.In == "" {
		c.Measure.In = forecast.InShare
		if len(c.Teams) == 1 {
			c.Measure = forecast.Measure{In: forecast.InSize, Team: c.Teams[0]}
		}
	}
	o.If = as
	c.Outlook = forecast.OutlookOf(s.Plan, forecast.OutlookQuestion{Options: o, Set: w.Set, Measure: c.Measure})
	l.Played(c.Plays)
	if c.From = calendar.OfTime(c.History.All.From); c.From <= s.Today {
		c.Past = forecast.BurnedBy(s.Plan, &c.History, c.Measure, calendar.Spread(c.From, s.Today, pastDays))
	}
	return c, ctx.Err()
}

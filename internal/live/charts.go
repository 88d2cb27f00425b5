package live

import (
	"cmp"
	"context"
	"encoding/json"
	"slices"
	"sync"
	"time"

	"jantrel/core/backlog"
	"jantrel/core/calendar"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/reports"
	"jantrel/core/track"
)

// drawnDays are the answers to charts at the end of days that are over: they stay as they are. Those asked for the
// longest ago are forgotten first.
type drawnDays struct {
	mu     sync.Mutex
	charts map[string]map[program.Date]reports.Table
	kept   []string
	turns  int // as of scopes
}

// forget forgets all days.
func (d *drawnDays) forget(turns int) { d.charts, d.kept, d.turns = nil, nil, turns }

// mostDrawn is how many charts over time a line remembers.
const mostDrawn = 300

// of are the days of a chart that are known; who asks may write to them while holding the lock.
func (d *drawnDays) of(chart string) map[program.Date]reports.Table {
	if d.charts == nil {
		d.charts = map[string]map[program.Date]reports.Table{}
	}
	if d.charts[chart] == nil {
		d.charts[chart] = map[program.Date]reports.Table{}
		if d.kept = append(d.kept, chart); len(d.kept) > mostDrawn {
			delete(d.charts, d.kept[0])
			d.kept = d.kept[1:]
		}
	}
	return d.charts[chart]
}

// Charts answers charts of a state, each by itself: one that cannot be answered says why. Those over time are asked of
// the line as it was at the end of each of their days, which is remembered. own are views that whoever asks keeps for
// themselves.
func (l *Line) Charts(ctx context.Context, s *State, charts []reports.Chart, own []program.View) ([]reports.Drawn, error) {
	now, err := l.Known(ctx, s, charts, s.ChartViews(own))
	if err != nil {
		return nil, err
	}
	began, err := l.began(ctx)
	if err != nil {
		return nil, err
	}
	drawn, tables := make([]reports.Drawn, len(charts)), make([]reports.Table, len(charts))
	days, since := make([][]program.Date, len(charts)), make([]program.Date, len(charts))
	for i := range charts {
		c := &charts[i]
		if tables[i], err = reports.Of(now, c); err != nil {
			drawn[i] = reports.Drawn{Failed: err.Error()}
			continue
		}
		drawn[i].Filter = now.Sentence(c.Filter)
		if c.OverTime() {
			days[i], since[i] = c.DaysOf(s.Today, calendar.OfTime(began.In(l.hub.clock().Location())))
		}
	}
	past, err := l.drawPast(ctx, charts, days, now.Views)
	if err != nil {
		return nil, err
	}
	for i := range charts {
		c := &charts[i]
		switch {
		case drawn[i].Failed != "":
		case !c.OverTime():
			drawn[i].Table, drawn[i].Sentence = &tables[i], c.Sentence(&tables[i])
		default:
			series := reports.SeriesOf(append(days[i], s.Today), since[i], append(past[i], tables[i]))
			drawn[i].Series, drawn[i].Sentence = &series, c.SentenceOver(&series)
		}
	}
	return drawn, ctx.Err()
}

// drawPast answers charts at the end of days that are over. What could not be answered then, as sizes were of several
// teams, has nothing that day.
func (l *Line) drawPast(ctx context.Context, charts []reports.Chart, days [][]program.Date, views reports.Views) ([][]reports.Table, error) {
	l.drawn.mu.Lock()
	defer l.drawn.mu.Unlock()
	if turns := l.undid.turns(); turns != l.drawn.turns {
		l.drawn.forget(turns)
	}
	known, lacking := make([]map[program.Date]reports.Table, len(charts)), map[program.Date][]int{}
	for i := range charts {
		if len(days[i]) == 0 {
			continue
		}
		known[i] = l.drawn.of(questionOf(charts[i], views))
		for _, day := range days[i] {
			if _, has := known[i][day]; !has {
				lacking[day] = append(lacking[day], i)
			}
		}
	}
	all := make([]program.Date, 0, len(lacking))
	for day := range lacking {
		all = append(all, day)
	}
	slices.SortFunc(all, func(a, b program.Date) int { return int(b - a) })
	var x *backlog.Index
	walked := &walk{line: l, asOf: l.now()}
	for _, day := range all {
		revision, _, err := l.endOf(ctx, day)
		if err != nil {
			return nil, err
		}
		o := backlog.Options{Today: day, Clock: day}
		p, err := walked.to(ctx, revision)
		if err != nil {
			return nil, err
		}
		if x != nil && x.Plan() == p { // on days without edits the plan is the same
			x = x.With(o)
		} else {
			x = backlog.NewIndex(p, o)
		}
		asked := make([]reports.Chart, 0, len(lacking[day]))
		for _, i := range lacking[day] {
			asked = append(asked, charts[i])
		}
		k, err := l.knownOf(ctx, x, revision, o, asked, views)
		if err != nil {
			return nil, err
		}
		for n, i := range lacking[day] {
			table, err := reports.Of(k, &asked[n])
			if err != nil {
				table = reports.Table{}
			}
			table.Cells, table.Counts, table.Things = nil, nil, nil
			known[i][day] = table
		}
		if err := ctx.Err(); err != nil {
			return nil, err
		}
	}
	past := make([][]reports.Table, len(charts))
	for i := range charts {
		for _, day := range days[i] {
			past[i] = append(past[i], known[i][day])
		}
	}
	return past, nil
}

// questionOf is what a chart asks of one day, whatever it looks like and how far it goes back.
func questionOf(c reports.Chart, views reports.Views) string {
	c.Form, c.Back, c.From, c.Largest = "", 0, 0, false
	asked := struct {
		Chart reports.Chart
		View  program.Filter
	}{Chart: c}
	if v, has := views.Of(&c); has {
		asked.View = v.Filter
	}
	text, _ := json.Marshal(asked) // plain data
	return string(text)
}

// ChartViews are the views that charts of a state may name, with some that are of whoever asks.
func (s *State) ChartViews(own []program.View) reports.Views {
	return reports.Views{All: append(backlog.ReadyMade(), s.Views...), Own: own}
}

// Known is what charts of a state go by, with some views: those of the newest state, also where it is one of before.
func (l *Line) Known(ctx context.Context, s *State, charts []reports.Chart, views reports.Views) (*reports.Known, error) {
	o := backlog.Options{Today: s.Today, Clock: calendar.OfTime(l.hub.clock())}
	if l.frozen || s.Revision != l.now() {
		o.Clock = s.Today // as it was asked then
	}
	return l.knownOf(ctx, s.Index(), s.Revision, o, charts, views)
}

func usesChanged(charts []reports.Chart, views reports.Views) bool {
	return slices.ContainsFunc(charts, func(c reports.Chart) bool {
		view, _ := views.Of(&c)
		return slices.Contains(c.Split, "changed") || (program.View{Filter: c.Filter}).Uses("changed") || view.Uses("changed")
	})
}

// knownOf is what charts go by of a plan that is indexed, at a revision. Only what they need is looked up.
func (l *Line) knownOf(ctx context.Context, x *backlog.Index, revision int64, o backlog.Options, charts []reports.Chart, views reports.Views) (*reports.Known, error) {
	if usesChanged(charts, views) {
		without, err := l.without(ctx, l.now())
		if err != nil {
			return nil, err
		}
		last, err := l.hub.store.LastChanges(ctx, l.id, revision, without)
		if err != nil {
			return nil, err
		}
		o.Changed = datesOf(last)
		x = x.With(o)
	}
	k := &reports.Known{Index: x, Today: o.Today, Views: views}
	if slices.ContainsFunc(charts, func(c reports.Chart) bool { return c.Measure == "age" }) {
		began, err := l.begunBy(ctx, x.Plan(), revision, o.Today)
		if err != nil {
			return nil, err
		}
		k.Began = func(item string) (program.Date, bool) { day, ok := began[item]; return day, ok }
	}
	return k, nil
}

// begunBy is when work began on the items that were under way at a revision, as the flow of all work has it.
func (l *Line) begunBy(ctx context.Context, p *plan.Plan, revision int64, today program.Date) (map[string]program.Date, error) {
	in := l.hub.clock().Location()
	// What led to here is known from now on; of the past what came later is left out again.
	events, err := l.trackedUntil(ctx, l.now(), time.Time{}, in)
	if err != nil {
		return nil, err
	}
	later, _ := slices.BinarySearchFunc(events, revision+1, func(e track.Event, at int64) int { return cmp.Compare(e.Revision, at) })
	events = events[:later]
	began, err := l.began(ctx)
	if err != nil {
		return nil, err
	}
	days := map[string]program.Date{}
	for _, going := range track.HistoryOf(p.Program, track.Scope{}, time.Time{}, events, began.In(in), today).Pass.Going {
		days[going.Item] = today.Add(1 - going.Days)
	}
	return days, nil
}

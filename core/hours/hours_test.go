package hours_test

import (
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/core/hours"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
)

func ptr(x float64) *float64 { return &x }

var monday = calendar.MustParse("2027-03-01")

// quay is a team of Ann, who works half for it, and Bo, in its iteration of two weeks.
func quay() program.Program {
	return program.Program{
		People:   []program.Person{{Key: "ann", Name: "Ann", DaysOff: []program.DayOff{{From: monday.Add(4), To: monday.Add(4)}}}, {Key: "bo", Name: "Bo", HoursPerDay: 7}},
		Holidays: []program.Holiday{{Date: monday.Add(2), Name: "Harbour day"}},
		Teams: []program.Team{{Key: "Q", Name: "Quay", Unit: program.Points,
			Members:    []program.Member{{Person: "ann", Share: 0.5}, {Person: "bo", Share: 1}},
			Iterations: []program.Iteration{{Key: "Q1", Start: monday, End: monday.Add(13), State: program.Open}}}},
		Items: []program.Item{
			{Key: "A", Title: "Lamp", Kind: program.Story, Team: "Q", Iteration: "Q1", Size: ptr(5), State: program.Doing, Assignee: "ann", Tasks: []program.Task{
				{Title: "Wire", Hours: ptr(9), HoursLeft: ptr(4), Activity: "building"}, {Title: "Try", Hours: ptr(4.5), Owner: "bo", Activity: "testing"}}},
			{Key: "B", Title: "Horn", Kind: program.Story, Team: "Q", Iteration: "Q1", Size: ptr(2), State: program.Done, DoneOn: monday.Add(1), Assignee: "bo"},
		},
		TimeEntries: []program.TimeEntry{
			{Key: "1", Person: "ann", Date: monday, Hours: 3, Item: "A", Task: "Wire", Activity: "building"},
			{Key: "2", Person: "ann", Date: monday, Hours: 1, Item: "A", Task: "Wire", Activity: "building", Note: "second lead"},
			{Key: "3", Person: "bo", Date: monday.Add(1), Hours: 5, Item: "B"},
			{Key: "4", Person: "bo", Date: monday.Add(7), Hours: 2, Activity: "meetings"},
		},
	}
}

// The worked example of docs/hours.md.
func TestTheWorkedExample(t *testing.T) {
	p := plan.Of(quay())
	week := hours.WeekOf(p, "ann", monday.Add(3))
	assert.Equal(t, monday, week.Monday)
	assert.InDelta(t, 12, week.Capacity, 1e-9, "Monday, Tuesday and Thursday, half of 8 hours each")
	assert.Equal(t, "Harbour day", week.Days[2].Away)
	assert.Equal(t, "day off", week.Days[4].Away)
	require.Len(t, week.Rows, 1)
	assert.Equal(t, []float64{4, 0, 0, 0, 0, 0, 0}, week.Rows[0].Hours, "what was entered twice adds up")
	assert.Equal(t, "second lead", week.Rows[0].Notes[0])
	assert.InDelta(t, 4, *week.Rows[0].Left, 1e-9)

	asked := hours.Asked{Span: calendar.Span{Start: monday, End: monday.Add(6)}, By: hours.ByPerson}
	r := hours.ReportOf(p, asked)
	require.Len(t, r.Lines, 2)
	ann, bo := r.Lines[0], r.Lines[1]
	assert.InDelta(t, 12, ann.Capacity, 1e-9)
	assert.InDelta(t, 4, ann.Planned, 1e-9, "9 hours on 9 working days, 4 of them this week")
	assert.InDelta(t, 4, ann.Spent, 1e-9)
	assert.InDelta(t, 4, ann.Left, 1e-9)
	assert.InDelta(t, 28, bo.Capacity, 1e-9)
	assert.InDelta(t, 2, bo.Planned, 1e-9, "4.5 hours on the same days")
	assert.InDelta(t, 5, bo.Spent, 1e-9)
	assert.InDelta(t, 4.5, bo.Left, 1e-9)
	assert.Equal(t, []hours.Sized{{Team: "Q", Unit: program.Points, Size: 2, Hours: 5, PerUnit: 2.5, Items: []hours.SizedItem{{Item: "B", Size: 2, Hours: 5}}}}, r.Sized)

	asked.By, asked.End = hours.ByActivity, monday.Add(13)
	r = hours.ReportOf(p, asked)
	var titles []string
	for _, l := range r.Lines {
		titles = append(titles, l.Key)
	}
	assert.Equal(t, []string{"building", "meetings", "testing", ""}, titles)
	assert.InDelta(t, 2, r.Lines[1].Weeks[1].Spent, 1e-9)
	assert.Zero(t, r.All.Capacity, "nobody works for an activity")

	asked.By = hours.ByTeam
	assert.InDelta(t, 11, hours.ReportOf(p, asked).Lines[0].Spent, 1e-9, "what is on no item is the home team's")
}

// What a person is likely to enter hours on: what they spent some on last week, and what they are at.
func TestRowsForWhatComesNext(t *testing.T) {
	p := quay()
	week := hours.WeekOf(plan.Of(p), "ann", monday.Add(7))
	require.Len(t, week.Rows, 1)
	assert.Equal(t, hours.What{Item: "A", Task: "Wire", Activity: "building"}, week.Rows[0].What)
	assert.InDelta(t, 4, week.Rows[0].All, 1e-9)
	week = hours.WeekOf(plan.Of(p), "bo", monday.Add(7))
	require.Len(t, week.Rows, 2)
	assert.Equal(t, hours.What{Item: "A", Task: "Try", Activity: "testing"}, week.Rows[0].What, "B is done")
	assert.Equal(t, hours.What{Activity: "meetings"}, week.Rows[1].What)
	assert.Empty(t, hours.WeekOf(plan.Of(p), "nobody", monday).Rows)
}

// with gives a random program tasks with hours, and time entries.
func with(seed uint64) program.Program {
	p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 5, Items: 40})
	r := rand.New(rand.NewPCG(seed, 1))
	p.TimeEntries = nil
	person := func() string { return p.People[r.IntN(len(p.People))].Key }
	for i := range p.Items {
		p.Items[i].Tasks = nil
		for range r.IntN(3) {
			p.Items[i].Tasks = append(p.Items[i].Tasks, program.Task{Title: "t", Hours: ptr(float64(r.IntN(12))), Owner: []string{"", person()}[r.IntN(2)], Activity: []string{"", "x", "y"}[r.IntN(3)]})
		}
	}
	for i := range 200 {
		e := program.TimeEntry{Key: string(rune('a'+i%26)) + string(rune('a'+i/26)), Person: person(), Date: sample.Today.Add(r.IntN(80) - 40), Hours: float64(1+r.IntN(16)) / 2, Activity: []string{"", "x"}[r.IntN(2)]}
		if r.IntN(5) > 0 {
			e.Item = p.Items[r.IntN(len(p.Items))].Key
		}
		p.TimeEntries = append(p.TimeEntries, e)
	}
	return p
}

// However hours are put together, they are the same hours: those counted one by one.
func TestReportsAgreeWithARecount(t *testing.T) {
	for seed := range uint64(30) {
		p := with(seed)
		pl := plan.Of(p)
		r := rand.New(rand.NewPCG(seed, 2))
		start := sample.Today.Add(r.IntN(60) - 40)
		span := calendar.Span{Start: start, End: start.Add(r.IntN(40))}
		asked := hours.Asked{Span: span}
		if r.IntN(2) == 0 {
			asked.People = []string{p.People[0].Key, p.People[1].Key}
		}
		spent := 0.0
		for _, e := range p.TimeEntries {
			if span.Holds(e.Date) && (asked.People == nil || slices.Contains(asked.People, e.Person)) {
				spent += e.Hours
			}
		}
		var first hours.Report
		for n, by := range hours.Splits {
			asked.By = by
			found := hours.ReportOf(pl, asked)
			if n == 0 {
				first = found
			}
			assert.InDelta(t, spent, found.All.Spent, 1e-6, "%d by %s", seed, by)
			entered := 0.0
			for _, e := range hours.Entries(pl, asked) {
				entered += e.Hours
			}
			assert.InDelta(t, spent, entered, 1e-6, "%d by %s", seed, by)
			assert.InDelta(t, first.All.Planned, found.All.Planned, 1e-6, "%d by %s", seed, by)
			assert.InDelta(t, first.All.Left, found.All.Left, 1e-6, "%d by %s", seed, by)
			if by == hours.ByTeam {
				assert.InDelta(t, first.All.Capacity, found.All.Capacity, 1e-6)
			}
			sum := hours.Line{}
			for _, l := range append([]hours.Line{found.All}, found.Lines...) {
				weeks := hours.Cell{}
				for _, c := range l.Weeks {
					weeks.Capacity, weeks.Planned, weeks.Spent = weeks.Capacity+c.Capacity, weeks.Planned+c.Planned, weeks.Spent+c.Spent
				}
				assert.InDelta(t, l.Spent, weeks.Spent, 1e-6)
				assert.InDelta(t, l.Planned, weeks.Planned, 1e-6)
				assert.InDelta(t, l.Capacity, weeks.Capacity, 1e-6)
			}
			for _, l := range found.Lines {
				sum.Spent, sum.Planned, sum.Left = sum.Spent+l.Spent, sum.Planned+l.Planned, sum.Left+l.Left
			}
			assert.InDelta(t, found.All.Spent, sum.Spent, 1e-6)
			assert.InDelta(t, found.All.Planned, sum.Planned, 1e-6)
		}
	}
}

// What is planned for an item lies in its iteration, all of it and nowhere else.
func TestPlannedHoursLieInTheirIteration(t *testing.T) {
	for seed := range uint64(20) {
		p := with(seed)
		pl := plan.Of(p)
		tree := pl.Tree()
		for i := range p.Items {
			place, placed := pl.Place(i)
			if !placed || p.Items[i].KeptOut || !tree.IsLeaf(i) || len(p.Items[i].Tasks) == 0 {
				continue
			}
			want := 0.0
			for _, task := range p.Items[i].Tasks {
				want += *task.Hours
			}
			r := hours.ReportOf(pl, hours.Asked{Span: place.Span, By: hours.ByItem})
			at := slices.IndexFunc(r.Lines, func(l hours.Line) bool { return l.Key == p.Items[i].Key })
			if want > 0 {
				require.GreaterOrEqual(t, at, 0)
				assert.InDelta(t, want, r.Lines[at].Planned, 1e-6)
			}
		}
	}
}

// A week holds what the entries of its days say, and the report of the week says the same.
func TestAWeekAgreesWithTheReport(t *testing.T) {
	for seed := range uint64(30) {
		p := with(seed)
		pl := plan.Of(p)
		for _, person := range p.People {
			week := hours.WeekOf(pl, person.Key, sample.Today)
			r := hours.ReportOf(pl, hours.Asked{Span: calendar.Span{Start: week.Monday, End: week.Monday.Add(6)}, By: hours.ByPerson, People: []string{person.Key}})
			assert.InDelta(t, r.All.Spent, week.Spent, 1e-6)
			assert.InDelta(t, r.All.Capacity, week.Capacity, 1e-6)
			rows, days := 0.0, 0.0
			for _, row := range week.Rows {
				rows += row.Spent
				if row.Item != "" {
					assert.LessOrEqual(t, row.Spent, row.All+1e-9)
				}
			}
			for _, d := range week.Days {
				days += d.Spent
			}
			assert.InDelta(t, week.Spent, rows, 1e-6)
			assert.InDelta(t, week.Spent, days, 1e-6)
		}
	}
}

func BenchmarkReport(b *testing.B) {
	p := sample.Program(1, sample.Shape{Teams: 40, Iterations: 26, Items: 5000})
	r := rand.New(rand.NewPCG(1, 1))
	for range 20_000 {
		p.TimeEntries = append(p.TimeEntries, program.TimeEntry{Person: p.People[r.IntN(len(p.People))].Key, Date: sample.Today.Add(-r.IntN(360)), Hours: 2, Item: p.Items[r.IntN(len(p.Items))].Key})
	}
	pl := plan.Of(p)
	for b.Loop() {
		hours.ReportOf(pl, hours.Asked{Span: calendar.Span{Start: sample.Today.Add(-360), End: sample.Today}, By: hours.ByPerson})
	}
}

package capacity_test

import (
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/stat"

	"jantrel/core/calendar"
	"jantrel/core/capacity"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
)

// The worked examples of docs/capacity.md: the same names, the same numbers.

func day(text string) program.Date { return calendar.MustParse(text) }

func off(from, to string) program.DayOff { return program.DayOff{From: day(from), To: day(to)} }

// team is five people with the shares 1, 1, 1, 1 and 0.5, agreed velocity 45, in
// two-week iterations from Monday 1 March 2027: 45 member-days each.
func fiveWithAHalf() program.Program {
	p := crew(program.Points)
	p.Cadences = []program.Cadence{{Key: "two", Start: day("2027-03-01"), LengthDays: 14}}
	p.Teams[0].Cadence = "two"
	return p
}

func TestExampleOneHalfShare(t *testing.T) {
	got := capacity.Of(plan.Of(fiveWithAHalf()))[0][0]
	assert.InDelta(t, 45, got.DaysFull, 1e-9, "4 × 10 + 0.5 × 10")
	assert.InDelta(t, 45, got.Capacity, 1e-9)
}

func TestExampleTwoOnHolidayForAWeek(t *testing.T) {
	p := fiveWithAHalf()
	p.People[0].DaysOff = []program.DayOff{off("2027-03-08", "2027-03-14")}
	p.People[4].DaysOff = []program.DayOff{off("2027-03-08", "2027-03-14")}
	got := capacity.Of(plan.Of(p))[0][0]
	assert.InDelta(t, 37.5, got.DaysWorked, 1e-9, "45 − 5 − 0.5 × 5")
	assert.InDelta(t, 37.5, got.Capacity, 1e-9, "45 × 37.5/45")
}

func TestExamplePublicHoliday(t *testing.T) {
	p := fiveWithAHalf()
	p.Holidays = []program.Holiday{{Date: day("2027-03-05"), Name: "Lantern Day"}, {Date: day("2027-03-06"), Name: "A Saturday"}}
	got := capacity.Of(plan.Of(p))[0][0]
	assert.InDelta(t, 40.5, got.Capacity, 1e-9, "45 × 40.5/45: a Saturday takes nothing")
}

func TestExampleOpenSeatFromMidIteration(t *testing.T) {
	p := fiveWithAHalf()
	p.People = append(p.People, program.Person{Key: "seat", Name: "Open seat", OpenSeat: true})
	p.Teams[0].Members = append(p.Teams[0].Members, program.Member{Person: "seat", Share: 1, From: day("2027-03-22")})
	got := capacity.Of(plan.Of(p))[0]
	// The complete team is now 5.5: 55 member-days. Velocity 45 is agreed for it.
	assert.InDelta(t, 45*45.0/55, got[0].Capacity, 1e-9, "before the seat is filled")
	assert.InDelta(t, 45*50.0/55, got[1].Capacity, 1e-9, "from the second week of the second iteration on: 5 days")
	assert.InDelta(t, 45, got[2].Capacity, 1e-9)
	assert.InDelta(t, 50, got[1].DaysPresent, 1e-9)
}

func TestExampleOpenSeatAfterTheVelocityWasAgreed(t *testing.T) {
	p := fiveWithAHalf()
	week := capacity.WeekOf(plan.Of(p), 0)
	assert.InDelta(t, 22.5, week, 1e-9)
	p.Teams[0].AgreedDays = &week
	p.People = append(p.People, program.Person{Key: "seat", Name: "Open seat", OpenSeat: true})
	p.Teams[0].Members = append(p.Teams[0].Members, program.Member{Person: "seat", Share: 1, From: day("2027-03-22")})
	got := capacity.Of(plan.Of(p))[0]
	assert.InDelta(t, 45, got[0].Capacity, 1e-9, "who joins later lowers nothing now")
	assert.InDelta(t, 50, got[1].Capacity, 1e-9)
	assert.InDelta(t, 55, got[2].Capacity, 1e-9)
	assert.InDelta(t, 22.5, capacity.WeekOn(plan.Of(p), 0, day("2027-03-01")), 1e-9)
	assert.InDelta(t, 27.5, capacity.WeekOn(plan.Of(p), 0, day("2027-03-22")), 1e-9)
	assert.InDelta(t, 55, capacity.Rates(plan.Of(p))[0].Velocity, 1e-9, "the rate is the complete team's")

	p.Teams[0].Members = p.Teams[0].Members[:4]
	assert.InDelta(t, 40, capacity.Of(plan.Of(p))[0][0].Capacity, 1e-9, "who leaves takes away")
}

func TestExampleOneLeavesAndAnotherTakesOver(t *testing.T) {
	p := fiveWithAHalf()
	p.People = append(p.People, program.Person{Key: "new", Name: "Successor"})
	p.Teams[0].Members[0].To = day("2027-03-14")
	p.Teams[0].Members = append(p.Teams[0].Members, program.Member{Person: "new", Share: 1, From: day("2027-03-15")})
	for _, f := range capacity.Of(plan.Of(p))[0] {
		assert.InDelta(t, 45, f.Capacity, 1e-9, "the team is complete before and after")
	}
}

func TestExampleShortIteration(t *testing.T) {
	p := fiveWithAHalf()
	p.Teams[0].Iterations[1].End = day("2027-03-21") // one week instead of two
	assert.InDelta(t, 22.5, capacity.Of(plan.Of(p))[0][1].Capacity, 1e-9, "45 × 7/14")
}

func TestExampleThreeWeekTeamInDays(t *testing.T) {
	p := program.Program{
		People: []program.Person{{Key: "a"}, {Key: "b", Weekdays: []int{1, 2, 3}}},
		Teams: []program.Team{{Key: "FW", Unit: program.Days, Focus: ptr(0.6), Members: []program.Member{{Person: "a", Share: 1}, {Person: "b", Share: 0.8}},
			Iterations: []program.Iteration{{Key: "1", Start: day("2027-03-01"), End: day("2027-03-21")}}}},
		Holidays: []program.Holiday{{Date: day("2027-03-03"), Name: "Lantern Day"}},
	}
	p.People[0].DaysOff = []program.DayOff{off("2027-03-10", "2027-03-11")}
	// a: 15 − 1 − 2 = 12; b: (9 − 1) × 0.8 = 6.4; together 18.4 × 0.6.
	assert.InDelta(t, 11.04, capacity.Of(plan.Of(p))[0][0].Capacity, 1e-9)
	p.Teams[0].Unit = program.Hours
	assert.InDelta(t, 11.04*8, capacity.Of(plan.Of(p))[0][0].Capacity, 1e-9)
}

// nine is a team of one who works every weekday, with nine closed two-week
// iterations and three to come.
func nine(completed ...float64) program.Program {
	p := program.Program{People: []program.Person{{Key: "a", Name: "A"}}, Teams: []program.Team{{Key: "T", Unit: program.Points, Members: []program.Member{{Person: "a", Share: 1}}}}}
	span := calendar.Span{End: day("2026-11-01")}
	for i := range len(completed) + 3 {
		span = calendar.NextIteration(span, 14)
		it := program.Iteration{Key: span.Start.String(), Start: span.Start, End: span.End}
		if i < len(completed) {
			it.State, it.Completed = program.Closed, ptr(completed[i])
		}
		p.Teams[0].Iterations = append(p.Teams[0].Iterations, it)
	}
	return p
}

func TestExampleVelocityOverNineWithOneLeftOut(t *testing.T) {
	p := nine(12, 14, 10, 13, 2, 12, 15, 11, 12)
	p.Teams[0].Iterations[4].LeftOut = "The boat was in dock"
	// The third had a holiday week: 10 points in 5 days are 20 in 10.
	p.People[0].DaysOff = []program.DayOff{{From: p.Teams[0].Iterations[2].Start, To: p.Teams[0].Iterations[2].Start.Add(6)}}
	history := capacity.History(&p.Teams[0], capacity.Of(plan.Of(p))[0])
	n, mean, spread := capacity.Normalised(history)
	assert.Equal(t, 8, n)
	assert.InDelta(t, 13.625, mean, 1e-9, "(12 + 14 + 20 + 13 + 12 + 15 + 11 + 12) / 8")
	assert.InDelta(t, 2.8754, spread, 1e-4, "√(57.875 / 7)")
	assert.False(t, history[4].Counts)
	assert.InDelta(t, 20, history[2].Normalised, 1e-9)

	p.Teams[0].Lookback = 3
	history = capacity.History(&p.Teams[0], capacity.Of(plan.Of(p))[0])
	n, mean, _ = capacity.Normalised(history)
	assert.Equal(t, 3, n)
	assert.InDelta(t, 38.0/3, mean, 1e-9, "15, 11 and 12")
	p.Teams[0].Lookback = 5 // reaches back past the one left out
	n, _, _ = capacity.Normalised(capacity.History(&p.Teams[0], capacity.Of(plan.Of(p))[0]))
	assert.Equal(t, 5, n)
}

// The suggested capacities against another method: the same posterior, drawn from.
// With unknown mean and variance and no prior knowledge, σ² is (n−1)s²/χ²(n−1), the
// mean N(m, σ²/n), and what comes next N(mean, σ²).
func TestExampleSuggestedCapacityAtFourConfidences(t *testing.T) {
	completed := []float64{12, 14, 10, 13, 9, 12, 15, 11, 12}
	p := nine(completed...)
	got := capacity.Suggest(&p.Teams[0], capacity.Of(plan.Of(p))[0], len(completed))
	assert.Equal(t, capacity.FromHistory, got.Trust)
	assert.InDelta(t, 12, got.Amounts[0], 1e-9, "at even odds the mean, 108/9")
	// s = 1.8708, √(1 + 1/9) = 1.0541, t(8) = 0.5459, 1.1081 and 1.8595
	assert.InDelta(t, 10.923, got.Amounts[1], 1e-3)
	assert.InDelta(t, 9.815, got.Amounts[2], 1e-3)
	assert.InDelta(t, 8.333, got.Amounts[3], 1e-3)

	r := rand.New(rand.NewPCG(1, 2))
	mean, deviation := stat.MeanStdDev(completed, nil)
	n := float64(len(completed))
	draws := make([]float64, 400_000)
	for i := range draws {
		chi := 0.0
		for range len(completed) - 1 {
			x := r.NormFloat64()
			chi += x * x
		}
		sigma := deviation * math.Sqrt((n-1)/chi)
		draws[i] = mean + sigma/math.Sqrt(n)*r.NormFloat64() + sigma*r.NormFloat64()
	}
	slices.Sort(draws)
	for i, confidence := range capacity.Confidences {
		assert.InDelta(t, stat.Quantile(1-confidence, stat.Empirical, draws, nil), got.Amounts[i], 0.03, confidence)
	}
}

func TestSuggestionFollowsWhoIsThere(t *testing.T) {
	p := nine(12, 14, 10, 13, 9, 12, 15, 11, 12)
	next := &p.Teams[0].Iterations[9]
	full := capacity.Suggest(&p.Teams[0], capacity.Of(plan.Of(p))[0], 9)
	p.People[0].DaysOff = []program.DayOff{{From: next.Start, To: next.Start.Add(6)}}
	half := capacity.Suggest(&p.Teams[0], capacity.Of(plan.Of(p))[0], 9)
	for i := range full.Amounts {
		assert.InDelta(t, full.Amounts[i]/2, half.Amounts[i], 1e-9)
	}
}

func TestTooLittleHistoryWidensAndSaysSo(t *testing.T) {
	width := func(p program.Program) (capacity.Trust, float64) {
		s := capacity.Suggest(&p.Teams[0], capacity.Of(plan.Of(p))[0], len(p.Teams[0].Iterations)-3)
		if s.Amounts[0] == 0 {
			return s.Trust, 0
		}
		return s.Trust, (s.Amounts[0] - s.Amounts[2]) / s.Amounts[0]
	}
	nineTrust, nineWidth := width(nine(12, 14, 10, 13, 9, 12, 15, 11, 12))
	threeTrust, threeWidth := width(nine(12, 14, 10))
	oneTrust, oneWidth := width(nine(12))
	none := nine()
	none.Teams[0].Velocity = ptr(12)
	noneTrust, noneWidth := width(none)
	nothing, _ := width(nine())
	assert.Equal(t, []capacity.Trust{capacity.FromHistory, capacity.ShortHistory, capacity.ShortHistory, capacity.NoHistory, capacity.NothingToGoBy},
		[]capacity.Trust{nineTrust, threeTrust, oneTrust, noneTrust, nothing})
	assert.Less(t, nineWidth, threeWidth)
	assert.Less(t, threeWidth, oneWidth)
	assert.LessOrEqual(t, oneWidth, noneWidth)
}

// Whatever the program: more confidence never promises more, and nothing below 0.
func TestSuggestionsFallWithConfidence(t *testing.T) {
	for seed := range uint64(60) {
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 4, Items: 3, Wild: true})
		figures := capacity.Of(plan.Of(p))
		for team := range p.Teams {
			for i := range p.Teams[team].Iterations {
				s := capacity.Suggest(&p.Teams[team], figures[team], i)
				for j := range s.Amounts {
					require.GreaterOrEqual(t, s.Amounts[j], 0.0)
					require.True(t, j == 0 || s.Amounts[j] <= s.Amounts[j-1]+1e-9)
				}
			}
		}
	}
}

func TestExplainAddsUp(t *testing.T) {
	for seed := range uint64(40) {
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 4, Items: 3, Wild: true})
		figures := capacity.Of(plan.Of(p))
		for team := range p.Teams {
			for i := range p.Teams[team].Iterations {
				d := capacity.Explain(plan.Of(p), team, i)
				parts, worked := 0.0, 0.0
				for _, s := range d.Seats {
					parts += s.Part
					worked += s.Share * float64(s.Worked)
					require.Equal(t, s.Present, s.Worked+s.Holidays+s.Off)
				}
				require.InDelta(t, figures[team][i].Capacity, d.Capacity, 1e-9)
				if len(d.Seats) > 0 && d.DaysWorked > 0 {
					require.InDelta(t, d.Capacity, parts, 1e-6, "the seats' parts are the capacity")
					require.InDelta(t, d.DaysWorked, worked, 1e-9)
				}
				if p.Teams[team].Iterations[i].Capacity == nil {
					require.InDelta(t, d.Capacity, d.Reckoned, 1e-9)
				}
			}
		}
	}
}

// Day by day, the slow way, gives the same counts.
func TestDaysAreCountedRight(t *testing.T) {
	for seed := range uint64(60) {
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 4, Items: 3, Wild: true})
		people := map[string]program.Person{}
		for _, x := range p.People {
			people[x.Key] = x
		}
		for team := range p.Teams {
			for i, it := range p.Teams[team].Iterations {
				for s, seat := range capacity.Seats(plan.Of(p), team)[i] {
					m, x := p.Teams[team].Members[s], people[seat.Person]
					worked := 0
					for d := it.Start; d <= it.End; d++ {
						holiday := slices.ContainsFunc(p.Holidays, func(h program.Holiday) bool {
							return h.Date == d && (len(h.Teams) == 0 || slices.Contains(h.Teams, p.Teams[team].Key))
						})
						away := slices.ContainsFunc(x.DaysOff, func(o program.DayOff) bool { return o.From <= d && d <= o.To })
						if calendar.WeekdaysOf(x.Weekdays).Has(d) && m.Span().Holds(d) && !holiday && !away {
							worked++
						}
					}
					require.Equal(t, worked, seat.Worked, "seed %d, %s, %s", seed, it.Key, seat.Person)
				}
			}
		}
	}
}

func TestRolesAndPeople(t *testing.T) {
	p := fiveWithAHalf()
	for i := range p.People {
		p.People[i].Roles = []string{"firmware"}
	}
	p.People[0].Roles = []string{"design", "firmware"}
	p.Teams[0].Members[1].Roles = []string{"design"} // in this team
	key := p.Teams[0].Iterations[0].Key
	for i, size := range []float64{8, 8, 1, 1, 2, 2} {
		item := program.Item{Key: string(rune('A' + i)), Team: "LC", Size: ptr(size), Iteration: key, Role: "design", Kind: program.Story}
		if i < 2 {
			item.Assignee = "e" // has half a share: 5 of 45 member-days, 5 of 45 points
		}
		p.Items = append(p.Items, item)
	}
	today := day("2027-03-01")
	roles := capacity.ByRole(plan.Of(p), capacity.Coming(today))
	require.Len(t, roles, 2)
	assert.Equal(t, "design", roles[0].Key)
	assert.InDelta(t, 20, roles[0].Parts[0].Capacity, 1e-9, "two of whole share: 20 of 45")
	assert.InDelta(t, 22, roles[0].Parts[0].Load, 1e-9)
	assert.True(t, roles[0].Parts[0].Over)
	assert.InDelta(t, 35, roles[1].Parts[0].Capacity, 1e-9, "firmware: all but the second")
	people := capacity.ByPerson(plan.Of(p), capacity.Coming(today))
	last := people[len(people)-1]
	assert.Equal(t, "e", last.Key)
	assert.InDelta(t, 5, last.Parts[0].Capacity, 1e-9)
	assert.True(t, last.Parts[0].Over)
	assert.Equal(t, []string{"A", "B"}, last.Parts[0].Large, "two large items in one iteration")
	assert.Empty(t, capacity.ByPerson(plan.Of(p), capacity.Coming(day("2028-01-01"))))
}

// 200 teams of ten with 300 iterations each.
func BenchmarkCapacity200Teams(b *testing.B) {
	p := sample.Wide(200, 10, 300)
	for b.Loop() {
		capacity.Of(plan.Of(p))
	}
}

// A team that goes from three weeks to two at the same pace: 15 in 21 days are 10 in 14.
func TestExampleAnotherCadence(t *testing.T) {
	p := nine(10, 10)
	p.Cadences = []program.Cadence{{Key: "two", Start: day("2026-11-02"), LengthDays: 14}}
	p.Teams[0].Cadence = "two"
	it := &p.Teams[0].Iterations[0]
	it.Start, it.Completed = it.Start.Add(-7), ptr(15)
	_, mean, spread := capacity.Normalised(capacity.Histories(plan.Of(p))[0])
	assert.InDelta(t, 10, mean, 1e-9)
	assert.InDelta(t, 0, spread, 1e-9)
}

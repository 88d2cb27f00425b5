package forecast_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"jantrel/core/forecast"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// The example of docs/forecast.md. A team does 10 an iteration, a point a day. A, of 2, is in review with nothing left to do;
// its tests wait for D, a defect of 3 that another team has in its second iteration: A is done when that is, on 17 March, and
// B, which needs A, in the iteration after that.
func TestAnItemWaitsForTheDefectThatHindersIt(t *testing.T) {
	p := pier(10, 10, 10)
	other := pier(10, 10, 10).Teams[0]
	other.Key = "O"
	p.Teams = append(p.Teams, other)
	p.Items = []program.Item{work("A", 2, "d"), work("B", 1, "d"), work("D", 3, "e"), work("E", 10, "d")}
	p.Items[0].State, p.Items[0].Left = program.Review, ptr(0)
	p.Items[2].Kind, p.Items[2].Team, p.Items[2].Hinders, p.Items[3].Team = program.Defect, "O", []string{"A", "gone"}, "O"
	p.Needs = []program.Need{{Item: "B", Needs: "A"}}
	lands := func() (days []string) {
		for _, item := range forecast.Play(plan.Of(p), forecast.Options{Today: monday, Plays: 20, Seed: 1, Items: true}).Items {
			days = append(days, item.At(95).String())
		}
		return days
	}
	assert.Equal(t, []string{"2027-03-17", "2027-03-29", "2027-03-17", "2027-03-12"}, lands())
	p.Items[2].State = program.Done
	assert.Equal(t, []string{"2027-03-01", "2027-03-01", "2027-03-12"}, lands(), "it hinders no more")

	// Where the defect itself needs the item it waits for nothing, or neither would ever be done.
	p.Items[2].State = program.Todo
	p.Needs = append(p.Needs, program.Need{Item: "D", Needs: "A"})
	assert.Equal(t, "2027-03-01", lands()[0])
	p.Needs = p.Needs[:1]

	// What waits for what cannot be played never lands.
	p.Items[2].Team = ""
	l := forecast.Play(plan.Of(p), forecast.Options{Today: monday, Plays: 20}).Releases[0]
	assert.Equal(t, []string{"A", "D"}, l.Cannot)
}

// What waits for a defect is not worked on again, from whichever queue it comes: A, of 2, is done but for its tests on 2 March.
// Its team then has X, of 8, and Y, of 5, until 19 March, and meets A again there, which it could take ahead. D comes on 17 March.
func TestWhatWaitsForADefectIsNotWorkedOnAgain(t *testing.T) {
	p := pier(10, 10, 10)
	other := pier(10, 10, 10).Teams[0]
	other.Key = "O"
	p.Teams = append(p.Teams, other)
	p.Items = []program.Item{work("A", 2, "d"), work("X", 8, "d"), work("Y", 5, "e"), work("D", 3, "e"), work("E", 10, "d")}
	p.Items[3].Team, p.Items[3].Hinders, p.Items[4].Team = "O", []string{"A"}, "O"
	items := forecast.Play(plan.Of(p), forecast.Options{Today: monday, Plays: 20, Seed: 1, Items: true}).Items
	assert.Equal(t, "2027-03-19", items[2].At(95).String())
	assert.Equal(t, "2027-03-17", items[0].At(95).String())
}

// Two defects hinder an item, and one of them is hindered by the other: all are done when the last is.
func TestDefectsHinderOneAnother(t *testing.T) {
	p := pier(10, 10, 10)
	p.Items = []program.Item{work("A", 1, "d"), work("D", 1, "d"), work("E", 3, "d")}
	p.Items[1].Hinders, p.Items[2].Hinders = []string{"A"}, []string{"A", "D"}
	l := forecast.Play(plan.Of(p), forecast.Options{Today: monday, Plays: 20, Seed: 1, Items: true})
	for _, item := range l.Items {
		assert.Equal(t, "2027-03-05", item.At(95).String(), item.Key)
	}
}

package forecast_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"jantrel/core/calendar"
	"jantrel/core/forecast"
)

// The release of docs/forecast.md, and one that was said to land beyond what is played.
func TestWhatWasSaidOfReleasesBeforeTheyLanded(t *testing.T) {
	landed := calendar.MustParse("2027-03-20")
	says := func(even, safe string) forecast.Landing {
		l := forecast.Landing{Key: "R", Dates: []forecast.Dated{{Odds: 10}, {Odds: 50}, {Odds: 85}}}
		if even != "" {
			l.Dates[1].Date, l.Dates[2].Date = calendar.MustParse(even), calendar.MustParse(safe)
		}
		return l
	}
	all := []forecast.SaidLanding{
		forecast.SaidLandingOf(says("2027-03-14", "2027-03-20"), 4, landed.Add(-28), landed),
		forecast.SaidLandingOf(says("2027-03-22", "2027-03-30"), 2, landed.Add(-14), landed),
		forecast.SaidLandingOf(says("2027-03-10", "2027-03-14"), 4, landed.Add(-28), landed),
		forecast.SaidLandingOf(says("", ""), 26, landed.Add(-182), landed),
	}
	assert.Equal(t, 6, *all[0].Days)
	assert.Len(t, all[0].Said, 2, "at 50 and 85 %")
	assert.Nil(t, all[3].Days)
	assert.Equal(t, []forecast.LandingError{{Weeks: 2, Of: 1, Mean: -2, Early: 1, By85: 1}, {Weeks: 4, Of: 2, Mean: 8, Late: 2, By85: 1}}, forecast.ErrorsOf(all))
}

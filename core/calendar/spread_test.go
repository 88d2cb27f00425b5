package calendar_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"jantrel/core/calendar"
)

func TestDaysSpreadOut(t *testing.T) {
	from := calendar.MustParse("2027-03-01")
	assert.Equal(t, []calendar.Date{from, from.Add(1), from.Add(2)}, calendar.Spread(from, from.Add(2), 5))
	assert.Equal(t, []calendar.Date{from, from.Add(1), from.Add(4), from.Add(7)}, calendar.Spread(from, from.Add(7), 3))
	assert.Equal(t, []calendar.Date{from}, calendar.Spread(from, from, 3))
	assert.Empty(t, calendar.Spread(from, from.Add(-1), 3))
	for days := range 40 {
		for most := 1; most < 12; most++ {
			spread := calendar.Spread(from, from.Add(days), most)
			assert.LessOrEqual(t, len(spread), most+1)
			assert.Equal(t, from, spread[0])
			assert.Equal(t, from.Add(days), spread[len(spread)-1])
		}
	}
}

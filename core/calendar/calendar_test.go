package calendar_test

import (
	"encoding/json"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
)

func TestDatesAgreeWithTheStandardLibrary(t *testing.T) {
	day := time.Date(1890, 1, 1, 0, 0, 0, 0, time.UTC)
	for d := calendar.On(1890, 1, 1); d < calendar.On(2110, 1, 1); d = d.Add(13) {
		require.Equal(t, day.Format("2006-01-02"), d.String())
		weekday := int(day.Weekday())
		if weekday == 0 {
			weekday = 7
		}
		require.Equal(t, weekday, d.Weekday(), d.String())
		parsed, err := calendar.Parse(d.String())
		require.NoError(t, err)
		require.Equal(t, d, parsed)
		day = day.AddDate(0, 0, 13)
	}
}

func TestDateAsJSON(t *testing.T) {
	var in struct {
		A calendar.Date `json:"a"`
		B calendar.Date `json:"b,omitzero"`
	}
	require.NoError(t, json.Unmarshal([]byte(`{"a":"2027-06-25"}`), &in))
	out, err := json.Marshal(in)
	require.NoError(t, err)
	assert.Equal(t, `{"a":"2027-06-25"}`, string(out))
	assert.Equal(t, "25 Jun", in.A.Short())
	assert.True(t, in.B.IsZero())
	for _, bad := range []string{`{"a":"2027-13-01"}`, `{"a":"25 Jun"}`, `{"a":"2027-02-29"}`, `{"a":5}`} {
		assert.Error(t, json.Unmarshal([]byte(bad), &in), bad)
	}
}

func FuzzParseGivesBackWhatItRead(f *testing.F) {
	f.Add("2027-03-23")
	f.Add("0001-01-01")
	f.Add("9999-12-31")
	f.Fuzz(func(t *testing.T, text string) {
		if d, err := calendar.Parse(text); err == nil {
			assert.Equal(t, text, d.String())
		}
	})
}

func TestWorkingDays(t *testing.T) {
	// 1 March 2027 is a Monday: two weeks hold ten working days.
	span := calendar.Span{Start: calendar.MustParse("2027-03-01"), End: calendar.MustParse("2027-03-14")}
	assert.Equal(t, 14, span.Days())
	assert.Equal(t, 10, calendar.WorkingDays(span, calendar.MondayToFriday, nil))
	holiday := calendar.MustParse("2027-03-05")
	assert.Equal(t, 9, calendar.WorkingDays(span, calendar.MondayToFriday, func(d calendar.Date) bool { return d == holiday }))
	assert.Equal(t, 4, calendar.WorkingDays(span, calendar.WeekdaysOf([]int{6, 7}), nil))
}

func TestNextIterationFollowsWithoutAGap(t *testing.T) {
	span := calendar.Span{Start: calendar.MustParse("2027-03-01"), End: calendar.MustParse("2027-03-14")}
	next := calendar.NextIteration(span, 21)
	assert.Equal(t, "2027-03-15", next.Start.String())
	assert.Equal(t, "2027-04-04", next.End.String())
	assert.False(t, next.Meets(span))
	assert.True(t, next.Holds(next.End))
}

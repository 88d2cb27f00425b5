package calendar_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"jantrel/core/calendar"
)

func TestASpanWithAnother(t *testing.T) {
	at := func(a, b string) calendar.Span {
		return calendar.Span{Start: calendar.MustParse(a), End: calendar.MustParse(b)}
	}
	early, late := at("2027-03-01", "2027-03-14"), at("2027-03-10", "2027-03-20")
	assert.Equal(t, at("2027-03-01", "2027-03-20"), early.With(late))
	assert.Equal(t, at("2027-03-01", "2027-03-20"), late.With(early))
	assert.Equal(t, early, early.With(calendar.Span{}))
	assert.Equal(t, early, calendar.Span{}.With(early))
}

package exchange_test

import (
	"bytes"
	"io"
	"testing"
	"time"

	ical "github.com/emersion/go-ical"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/internal/demo"
	"jantrel/internal/exchange"
)

// calEvent is what a reader that others wrote makes of one.
type calEvent struct {
	summary    string
	first, end time.Time
}

func eventsOf(t *testing.T, text []byte) (events []calEvent) {
	t.Helper()
	in := ical.NewDecoder(bytes.NewReader(text))
	for {
		c, err := in.Decode()
		if err == io.EOF {
			return events
		}
		require.NoError(t, err)
		// It writes out again only what has all that the standard asks for.
		require.NoError(t, ical.NewEncoder(io.Discard).Encode(c))
		for _, e := range c.Events() {
			summary, err := e.Props.Text(ical.PropSummary)
			require.NoError(t, err)
			first, err := e.DateTimeStart(time.UTC)
			require.NoError(t, err)
			end, err := e.DateTimeEnd(time.UTC)
			require.NoError(t, err)
			events = append(events, calEvent{summary, first, end})
		}
	}
}

// A reader that is not ours finds the same events in our calendars as are in the program: of the demo, and of any.
func TestCalendarsAreReadByOthers(t *testing.T) {
	programs := []program.Program{demo.Program(sample.Today)}
	for seed := range uint64(10) {
		programs = append(programs, sample.Program(seed, sample.Shape{Teams: 3, Iterations: 4, Items: 20, Needs: 8}))
	}
	for _, p := range programs {
		var out bytes.Buffer
		require.NoError(t, exchange.WriteDates(&out, p, sample.Today, []string{exchange.DatesIterations, exchange.DatesReleases, exchange.DatesMilestones}, nil, ""))
		want := []calEvent{}
		for _, team := range p.Teams {
			for _, it := range team.Iterations {
				want = append(want, calEvent{it.Label() + ", " + team.Name, it.Start.Time(), it.End.Add(1).Time()})
			}
		}
		for _, r := range p.Releases {
			if !r.Due.IsZero() {
				want = append(want, calEvent{r.Name + " is due", r.Due.Time(), r.Due.Add(1).Time()})
			}
		}
		for _, m := range p.Milestones {
			want = append(want, calEvent{m.Name, m.Date.Time(), m.Date.Add(1).Time()})
		}
		assert.ElementsMatch(t, want, eventsOf(t, out.Bytes()))
	}
}

package exchange_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/core/program"
	"jantrel/core/track"
	"jantrel/internal/exchange"
)

func TestAReviewAsMarkdown(t *testing.T) {
	p := program.Program{
		Teams: []program.Team{{Key: "LC", Name: "Lamp Control", Unit: program.Points, Iterations: []program.Iteration{
			{Key: "8", Name: "LC·8"},
			{Key: "9", Name: "LC·9", Start: calendar.MustParse("2027-02-08"), End: calendar.MustParse("2027-02-21"), Goal: "The lens *dims*", WentWell: "- Two at a lamp", Actions: []program.Action{{Text: "Try on the pier", Owner: "p1", Done: true}}}}}},
		People: []program.Person{{Key: "p1", Name: "Ann"}},
		Items:  []program.Item{{Key: "A", Title: "Dim"}, {Key: "B", Title: "Flash | blink"}},
	}
	r := track.Review{Run: track.Run{Team: "LC", Iteration: "9", Start: track.Sum{Items: 2, Size: 8}, Removed: track.Sum{Items: 1, Size: 3}, Done: track.Sum{Items: 1, Size: 5.100000001}},
		Carried: track.Sum{Items: 1, Size: 3}, Finished: []string{"A"}, CarriedOn: []string{"B"}, SentBack: []track.SentBack{{Item: "B", Times: 2}},
		Velocity: track.Measured{Before: 16, After: 15.333333, Of: 3}, Earlier: []track.StillOpen{{Action: program.Action{Text: "Ask the keepers"}, Iteration: "8"}}}
	var out strings.Builder
	require.NoError(t, exchange.WriteReview(&out, p, &r))
	assert.Equal(t, `# Lamp Control LC·9, 2027-02-08 – 2027-02-21

Goal: The lens \*dims\*

| what | items | size |
| --- | ---: | ---: |
| at the start | 2 | 8 points |
| added | 0 | 0 points |
| taken out before the close | 0 | 0 points |
| carried on | 1 | 3 points |
| grown | | 0 points |
| smaller | | 0 points |
| done | 1 | 5.1 points |

Measured velocity: 16 points before, 15.33 points with it, of 3 iterations.

## Done

- A Dim

## Carried on

- B Flash \| blink

## Sent back

- B Flash \| blink: 2 times

## What went well

- Two at a lamp

## Actions

- [x] Try on the pier, Ann
- [ ] Ask the keepers, since LC·8
`, out.String())
}

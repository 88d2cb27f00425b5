package plan

import (
	"context"
	"encoding/json"
	"time"

	"jantrel/core/levers"
	"jantrel/internal/api/door"
	"jantrel/internal/live"
)

type leversRequest struct {
	door.Reading
	Body leversAsked
}

// leversAsked is what is to be mended, and how soon an answer is wanted.
type leversAsked struct {
	levers.Question
	Quick bool `json:"quick,omitempty" doc:"The first that come to mind, in a fraction of the time"`
}

// leversFound are the levers of a question, on a revision.
type leversFound struct {
	Revision int64 `json:"revision" doc:"The revision that they are levers of"`
	levers.Answer
}

// leversTime is how long levers are looked for before it is told what was found; who asks again has it gone on with.
const leversTime = 3 * time.Second

// levers finds what mends a release, a milestone or a need. The plays are those of the standing
// strip, so that it reads what a lever promised once that is applied. Of a quick question the first turn is the answer.
func (s stage) levers(ctx context.Context, in *leversRequest) (*door.Answered[leversFound], error) {
	return ask(ctx, s, in.Reading, "levers", in.Body, func(ctx context.Context, l *live.Line, state *live.State) (leversFound, error) {
		end := time.Now().Add(leversTime)
		search, err := searchOf(ctx, l, state, in.Body.Question)
		if err != nil {
			return leversFound{}, err
		}
		turns := 0
		if in.Body.Quick {
			turns = 1
		}
		search.Go(turns, func() bool { return ctx.Err() != nil || time.Now().After(end) })
		return leversFound{state.Revision, search.Answer()}, ctx.Err()
	})
}

// searchOf is the search for the levers of a question, as far as it got.
func searchOf(ctx context.Context, l *live.Line, state *live.State, q levers.Question) (*levers.Search, error) {
	playing, err := l.Playing(ctx, state)
	if err != nil {
		return nil, err
	}
	asked, err := json.Marshal(q)
	if err != nil {
		return nil, err
	}
	return live.Search(state, "levers "+string(asked), func() (*levers.Search, error) {
		return levers.Begin(state.Plan, q, levers.Options{
			Today: state.Today, Plays: playing.Plays, Seed: playing.Seed, Workers: playing.Workers, Past: playing.Past,
		})
	})
}

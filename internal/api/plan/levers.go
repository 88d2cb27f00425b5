package plan

import (
	"context"
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

// leversTime is how long levers may be looked for.
const leversTime = 10 * time.Second

// levers finds what mends a release, a milestone or a need. The plays are those of the standing
// strip, so that it reads what a lever promised once that is applied.
func (s stage) levers(ctx context.Context, in *leversRequest) (*door.Answered[leversFound], error) {
	return ask(ctx, s, in.Reading, "levers", in.Body, func(ctx context.Context, l *live.Line, state *live.State) (leversFound, error) {
		end := time.Now().Add(leversTime)
		playing, err := l.Playing(ctx, state)
		if err != nil {
			return leversFound{}, err
		}
		found, err := levers.Find(state.Plan, in.Body.Question, levers.Options{
			Today: state.Today, Plays: playing.Plays, Seed: playing.Seed, Workers: playing.Workers, Past: playing.Past, Quick: in.Body.Quick,
			Stop: func() bool { return ctx.Err() != nil || time.Now().After(end) },
		})
		if err != nil {
			return leversFound{}, err
		}
		return leversFound{state.Revision, found}, nil
	})
}

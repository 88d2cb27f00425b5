package forecast

import (
	"context"
	"time"

	"jantrel/core/forecast"
	"jantrel/internal/api/door"
)

// backTest is how good forecasts were.
type backTest struct {
	Revision   int64                 `json:"revision"`
	Kept       []forecast.Kept       `json:"kept" doc:"How often what was said of iterations came"`
	Iterations []forecast.Said       `json:"iterations" doc:"The oldest first: those that the journal tells of from their start on, with work of a size"`
	Teams      []forecast.Commitment `json:"teams"`
	LeftOut    int                   `json:"leftOut" doc:"How many earlier iterations were not looked at"`
}

// backTestTime is how long may be looked back.
const backTestTime = 8 * time.Second

func (s stage) backTest(ctx context.Context, in *struct{ door.Reading }) (*door.Answered[backTest], error) {
	l, state, err := s.Read(ctx, in.Reading)
	if err != nil {
		return nil, err
	}
	return door.Answer(ctx, s.Door, l, state, "back-test", func(ctx context.Context) (backTest, error) {
		said, leftOut, err := l.SaidOf(ctx, state, backTestTime)
		return backTest{state.Revision, forecast.KeptOf(said), append([]forecast.Said{}, said...), forecast.CommitmentsOf(state.Plan), leftOut}, err
	})
}

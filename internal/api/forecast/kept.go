package forecast

import (
	"context"
	"fmt"
	"time"

	"jantrel/core/forecast"
	"jantrel/internal/api/door"
)

// backTest is how good forecasts were.
type backTest struct {
	Revision int64 `json:"revision"`
	forecast.BackTest
}

// backTestTime is how long may be looked back.
const backTestTime = 4 * time.Second

func (s stage) backTest(ctx context.Context, in *struct{ door.Reading }) (*door.Answered[backTest], error) {
	l, state, err := s.Read(ctx, in.Reading)
	if err != nil {
		return nil, err
	}
	// Asked again, it goes on from what is known by now.
	return door.LongAnswer(ctx, s.Door, l, state, fmt.Sprintf("back-test %d", l.LookedBack()), func(ctx context.Context) (backTest, error) {
		found, err := l.BackTest(ctx, state, backTestTime)
		return backTest{state.Revision, found}, err
	})
}

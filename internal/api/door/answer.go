package door

import (
	"context"

	"jantrel/internal/live"
)

// Answered is the answer of a reading operation.
type Answered[T any] struct{ Body T }

// Answer has something computed of a state once, whoever asks; see [live.Answer].
func Answer[T any](ctx context.Context, d *Door, l *live.Line, s *live.State, question string, ask func(context.Context) (T, error)) (*Answered[T], error) {
	found, err := live.Answer(ctx, l, s, question, ask)
	if err != nil {
		return nil, d.Problem(ctx, err)
	}
	return &Answered[T]{found}, nil
}

// LongAnswer is Answer, for what may take seconds; see [live.LongAnswer].
func LongAnswer[T any](ctx context.Context, d *Door, l *live.Line, s *live.State, question string, ask func(context.Context) (T, error)) (*Answered[T], error) {
	found, err := live.LongAnswer(ctx, l, s, question, ask)
	if err != nil {
		return nil, d.Problem(ctx, err)
	}
	return &Answered[T]{found}, nil
}

package act

import (
	"errors"
	"fmt"

	"jantrel/core/program"
)

// GivePromise notes a date that somebody was given. It gets the next free key.
type GivePromise struct {
	Promise program.Promise // its key is left out; Made none: today
}

// Plan implements Intent.
func (x GivePromise) Plan(s State) (Plan, error) {
	promise := x.Promise
	if promise.Made.IsZero() {
		promise.Made = s.Today
	}
	if promise.Made > s.Today {
		return Plan{}, fmt.Errorf("a promise is noted once it is given, and %s is after today", promise.Made.Short())
	}
	if promise.Date < s.Today {
		return Plan{}, errors.New("that day is over: a promise is noted while it can be kept")
	}
	if !s.Has(promise.Of()) {
		return Plan{}, fmt.Errorf("there is no %s %q", promise.Of().Kind, promise.Of().Key)
	}
	promise.Key = nextKey(s, program.KindPromise, "PR-", len(s.Promises))
	label := fmt.Sprintf("Promise: %s by %s, to %s", s.Called(promise.Of()), promise.Date.Short(), promise.To)
	p, err := made(label, []program.Change{program.AddOf(program.Ref{Kind: program.KindPromise, Key: promise.Key}, promise)}, nil)
	return p.with([]string{promise.Key}, nil), err
}

// nextKey is the first free key of one more thing of a kind, of which there are so many, after a prefix.
func nextKey(s State, kind program.Kind, prefix string, many int) string {
	for n := many + 1; ; n++ {
		if key := fmt.Sprint(prefix, n); !s.Has(program.Ref{Kind: kind, Key: key}) {
			return key
		}
	}
}

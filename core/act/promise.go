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
	used := make(map[string]bool, len(s.Promises))
	for i := range s.Promises {
		used[s.Promises[i].Key] = true
	}
	promise.Key = nextKey("PR-", used)
	label := fmt.Sprintf("Promise: %s by %s, to %s", s.Called(promise.Of()), promise.Date.Short(), promise.To)
	p, err := made(label, []program.Change{program.AddOf(program.Ref{Kind: program.KindPromise, Key: promise.Key}, promise)}, nil)
	return p.with([]string{promise.Key}, nil), err
}

// nextKey is the first free key of so many things and one more, after a prefix.
func nextKey(prefix string, used map[string]bool) string {
	n := len(used) + 1
	for used[fmt.Sprint(prefix, n)] {
		n++
	}
	return fmt.Sprint(prefix, n)
}

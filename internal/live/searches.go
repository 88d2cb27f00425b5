package live

import (
	"slices"
	"sync"
)

// searches are what is looked for a little at a time on a state, by question: whoever asks goes on where the one before
// stopped. They go with the state.
type searches struct {
	mu    sync.Mutex
	open  map[string]any
	order []string // of the questions, the one asked last at the end
}

// maxSearches is how many a state remembers; one that is forgotten begins anew.
const maxSearches = 8

// Search returns the search for a question on a state of the line; begin makes it for the first who asks. What begin
// cannot make is tried again by the next. begin is to be quick: others wait for it.
func Search[T any](s *State, question string, begin func() (T, error)) (T, error) {
	f := &s.searches
	f.mu.Lock()
	defer f.mu.Unlock()
	if found, ok := f.open[question]; ok {
		f.order = append(slices.DeleteFunc(f.order, func(q string) bool { return q == question }), question)
		return found.(T), nil
	}
	found, err := begin()
	if err != nil {
		return found, err
	}
	if f.open == nil {
		f.open = map[string]any{}
	}
	f.open[question] = found
	if f.order = append(f.order, question); len(f.order) > maxSearches {
		delete(f.open, f.order[0])
		f.order = f.order[1:]
	}
	return found, nil
}

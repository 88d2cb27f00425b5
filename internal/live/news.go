package live

import (
	"context"
	"slices"

	"jantrel/core/watch"
	"jantrel/internal/store"
)

const (
	newsDays = 30  // older edits are no news any more
	mostNews = 100 // pieces of news are told, the latest ones
)

// News is what others did up to a state that concerns a person, the latest first, since a revision
// that they have seen, but for at most a month; whether there is more than is told. Edits by name
// are their own. It reads the journal back from the state, and no further than it tells.
func (l *Line) News(ctx context.Context, s *State, person, by string, seen int64) (news []watch.News, more bool, err error) {
	reader := watch.NewReader(s.Plan, person, by)
	oldest := l.hub.clock().AddDate(0, 0, -newsDays)
	for to := s.Revision; to > seen; {
		var edits []store.Edit
		if edits, err = l.stretch(ctx, to, max(seen, to-stretch)); err != nil {
			return nil, false, err
		}
		for _, e := range slices.Backward(edits) {
			if e.At.Before(oldest) {
				return news, false, nil
			}
			news = append(news, reader.Take(watch.Edit{Revision: e.Revision, At: e.At, By: e.Actor, Changes: e.Changes})...)
			if len(news) > mostNews {
				return news[:mostNews], true, nil
			}
		}
		to = max(seen, to-stretch)
	}
	return news, false, ctx.Err()
}

package live

import (
	"context"
	"slices"

	"jantrel/core/program"
	"jantrel/core/watch"
)

const (
	newsDays  = 30   // older edits are no news any more
	mostNews  = 100  // pieces of news are told, the latest ones
	newsEdits = 8000 // edits are looked through at most, the latest ones
)

// newsKinds are the kinds of things whose changes may be news.
var newsKinds = []program.Kind{program.KindItem, program.KindComment, program.KindNeed}

// News is what others did up to a state that concerns a person, the latest first, since a revision
// that they have seen, but for at most a month; whether there may be more than is told. Edits by
// name are their own. It reads the journal back from the state, and no further than it tells.
func (l *Line) News(ctx context.Context, s *State, person, by string, seen int64) (news []watch.News, more bool, err error) {
	reader := watch.NewReader(s.Plan, person, by)
	oldest := l.hub.clock().AddDate(0, 0, -newsDays)
	last := max(seen, s.Revision-newsEdits)
	for to := s.Revision; to > last; to -= stretch {
		edits, err := l.hub.store.EditsOfKinds(ctx, l.id, max(last, to-stretch), to, newsKinds)
		if err != nil {
			return nil, false, err
		}
		if edits, err = l.standing(ctx, edits, s.Revision); err != nil {
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
	}
	return news, last > seen, ctx.Err()
}

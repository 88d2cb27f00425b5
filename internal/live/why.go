package live

import (
	"context"

	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/track"
	"jantrel/internal/journal"
)

// Explain keeps the reason that somebody gives for an edit, which may says they may: a line of the
// journal, and no edit itself. Series that tell of the edit tell it from then on.
func (l *Line) Explain(ctx context.Context, revision int64, why string, may func(journal.Edit) error) error {
	if l.frozen || revision <= l.begin && !l.live {
		return journal.ErrNotFound // it is another line's to explain
	}
	edit, err := l.hub.store.EditAt(ctx, l.id, revision)
	if err == nil && edit.Revision == 0 {
		err = journal.ErrNotFound
	}
	if err == nil {
		err = may(edit)
	}
	if err == nil {
		err = l.hub.store.Explain(ctx, l.id, revision, why)
	}
	if err != nil {
		return err
	}
	l.tracked.mu.Lock()
	defer l.tracked.mu.Unlock()
	for i := range l.tracked.events {
		if e := &l.tracked.events[i]; e.Revision == revision {
			e.Why = why
		}
	}
	l.explained.Add(1)
	return nil
}

// Explained is how often reasons were given since the line was opened: what was answered before one
// does not tell it.
func (l *Line) Explained() int64 { return l.explained.Load() }

// asksWhy returns the items by which an edit changed the scope of what has begun, for its author to be
// asked for a reason: at most so many; none where the program does not ask.
func asksWhy(before, after *plan.Plan, applied []program.Applied, today program.Date) []string {
	if !after.Settings.AskWhy {
		return nil
	}
	keys := track.Rescoped(before, after, applied, today)
	return keys[:min(len(keys), mostAsked)]
}

// mostAsked is about how many items of an edit somebody is asked by name.
const mostAsked = 20

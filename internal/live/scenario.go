package live

import (
	"context"
	"fmt"

	"jantrel/core/act"
	"jantrel/core/gate"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/scenario"
	"jantrel/internal/journal"
)

// Scenarios: lines that begin with the live plan at a revision and keep their own changes alone. What they
// share with the live plan is in memory once.

// IsLive reports whether the line is the live plan.
func (l *Line) IsLive() bool { return l.live }

// ID is the line's.
func (l *Line) ID() int64 { return l.id }

// Program is the id of the program that the line belongs to.
func (l *Line) Program() int64 { return l.program }

// Begin is the revision of the live plan that a scenario began with: its own revisions go on from there.
func (l *Line) Begin() int64 { return l.begin }

// liveLine is the live plan that a line belongs to: itself, or the one beside it.
func (l *Line) liveLine(ctx context.Context) (*Line, error) {
	if l.live {
		return l, nil
	}
	return l.hub.Open(ctx, l.program)
}

// scenarioPlan is what a scenario is by now: the live plan where it began, or the scenario at its newest checkpoint,
// and its edits since.
func (h *Hub) scenarioPlan(ctx context.Context, found journal.Line) (*plan.Plan, error) {
	kept, err := h.store.Checkpoints(ctx, found.ID)
	if err != nil {
		return nil, err
	}
	var p *plan.Plan
	from := *found.BaseRevision
	if n := len(kept); n > 0 && kept[n-1] > from {
		from = kept[n-1]
		checkpoint, err := h.store.LoadCheckpoint(ctx, found.ID, from)
		if err != nil {
			return nil, err
		}
		p = plan.Of(checkpoint.Program)
		gone, err := h.store.GoneItems(ctx, found.ID)
		if err != nil {
			return nil, err
		}
		p.Without(gone)
	} else {
		live, err := h.Open(ctx, found.Program)
		if err != nil {
			return nil, err
		}
		state, err := live.At(ctx, from)
		if err != nil {
			return nil, err
		}
		p = state.Plan
	}
	edits, err := h.store.EditsBetween(ctx, found.ID, from, found.Revision)
	if err != nil || len(edits) == 0 {
		return p, err
	}
	var changes []program.Change
	for _, e := range edits {
		for _, a := range e.Changes {
			changes = append(changes, a.Change)
		}
	}
	next, _, err := gate.Again(p, changes)
	return next, err
}

// MakeScenario makes a scenario of a line as it was at a revision. One of another scenario begins with the same live
// plan, and with what that one had changed as its first edit.
func (h *Hub) MakeScenario(ctx context.Context, by Author, of *Line, revision int64, about journal.About) (*Line, error) {
	begin, first, err := h.beginOf(ctx, of, revision)
	if err != nil {
		return nil, err
	}
	live, err := h.store.Live(ctx, of.program)
	if err != nil {
		return nil, err
	}
	made, err := h.store.MakeScenario(ctx, live, begin, about)
	if err != nil {
		return nil, err
	}
	l, err := h.OpenScenario(ctx, of.program, made.ID)
	if err == nil && len(first) > 0 {
		_, err = l.Do(ctx, by, Request{Intent: begun{about.From, first}, Base: begin})
	}
	if err != nil {
		return nil, fmt.Errorf("the scenario was made, but not as the other: %w", err)
	}
	return l, nil
}

// begun is what a scenario of another one begins with: it was made there.
type begun struct {
	label   string
	changes []program.Change
}

// Plan implements act.Intent.
func (b begun) Plan(act.State) (act.Plan, error) { return act.Merged(b.label, b.changes, nil), nil }

// beginOf is the revision of the live plan that a scenario of a line begins with, and what it changes first.
func (h *Hub) beginOf(ctx context.Context, of *Line, revision int64) (int64, []program.Change, error) {
	state, err := of.At(ctx, revision)
	if err != nil || of.live || revision <= of.begin {
		return revision, nil, err
	}
	begin, err := h.store.UpTo(ctx, of.id, revision)
	if err != nil {
		return 0, nil, err
	}
	base, err := of.liveAt(ctx, begin)
	if err != nil {
		return 0, nil, err
	}
	return begin, program.Between(base.Program, state.Program), nil
}

// liveAt is the live plan beside a line at a revision.
func (l *Line) liveAt(ctx context.Context, revision int64) (*State, error) {
	live, err := l.liveLine(ctx)
	if err != nil {
		return nil, err
	}
	return live.At(ctx, revision)
}

// LiveRevision is the newest revision of the live plan; 0 where it cannot be opened.
func (l *Line) LiveRevision(ctx context.Context) int64 {
	live, err := l.liveLine(ctx)
	if err != nil {
		return 0
	}
	return live.State().Revision
}

// UpTo is the revision of the live plan that a scenario has last been brought up to.
func (l *Line) UpTo(ctx context.Context, s *State) (int64, error) {
	return l.hub.store.UpTo(ctx, l.id, s.Revision)
}

// Lines are the three programs of a scenario at a state: what it was last brought up to, itself, and the live plan
// as it is, with that one's state.
func (l *Line) Lines(ctx context.Context, s *State) (scenario.Lines, *State, error) {
	upTo, err := l.UpTo(ctx, s)
	if err != nil {
		return scenario.Lines{}, nil, err
	}
	live, err := l.liveLine(ctx)
	if err != nil {
		return scenario.Lines{}, nil, err
	}
	base, err := live.At(ctx, upTo)
	if err != nil {
		return scenario.Lines{}, nil, err
	}
	now := live.State()
	return scenario.Lines{Base: base.Program, Mine: s.Plan, Live: now.Plan}, now, nil
}

// Edit is one edit of the line, with the line as it left it and as it was before.
func (l *Line) Edit(ctx context.Context, revision int64) (edit journal.Edit, after, before *State, err error) {
	if edit, err = l.hub.store.EditAt(ctx, l.id, revision); err == nil && (edit.Revision == 0 || revision > l.now()) {
		err = journal.ErrNotFound
	}
	if err == nil {
		after, err = l.At(ctx, revision)
	}
	if err == nil {
		before, err = l.seen(ctx, revision-1, after.Today)
	}
	return edit, after, before, err
}

// upToAfter is, of a scenario, which revision of the live plan it is up to after an edit is taken back or done
// again; nil where that stays.
func (l *Line) upToAfter(ctx context.Context, edit journal.Edit, sort journal.Sort) (*int64, error) {
	if l.live || edit.UpTo == nil || sort == journal.Redo {
		return edit.UpTo, nil
	}
	before, err := l.hub.store.UpTo(ctx, l.id, edit.Revision-1)
	return &before, err
}

// DeleteScenario removes a scenario for good, and ends its subscriptions.
func (h *Hub) DeleteScenario(ctx context.Context, line int64) error {
	if err := h.store.DeleteScenario(ctx, line); err != nil {
		return err
	}
	h.end(h.scenarios, line)
	return nil
}

package live

import (
	"context"
	"encoding/json"
	"errors"
	"log/slog"
	"slices"
	"time"

	"jantrel/core/act"
	"jantrel/core/backlog"
	"jantrel/core/cadence"
	"jantrel/core/gate"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/standing"
	"jantrel/internal/journal"
)

// Author says who makes an edit, from which open page.
type Author struct {
	Actor   string // their name
	Account string // whose comments are theirs; empty for nobody's
	Client  string // the open page
	// Request is the name that the client gave the request, and Digest is of all that was sent:
	// sent again, it is not made again. Empty for none.
	Request, Digest string
	// May refuses changes that the author may not make on a program; nil allows all.
	May func(program.Program, []program.Change) error
}

func (a Author) check(p program.Program, changes []program.Change) error {
	if a.May == nil {
		return nil
	}
	return a.May(p, changes)
}

// Conflict says that somebody else changed meanwhile what an edit is about.
type Conflict = gate.Conflict

// Errors that an edit may meet. Others are those of gate.Try, *Conflict and *Changed.
var (
	ErrFuture      = errors.New("this revision does not exist yet; load the program again")
	ErrTooOld      = errors.New("too much has changed since this revision; load the program again")
	ErrNothingToDo = errors.New("there is nothing to take back or do again")
	ErrPast        = errors.New("this is the past, which stays as it was; go back to the live plan, or make a scenario of it")
	ErrOtherEdit   = errors.New("another edit was sent under this name before; each needs a name of its own")
)

// Changed says that an edit that somebody agreed to would come out differently by now:
// nothing was changed, and this is what it would do.
type Changed struct{ Proposal }

func (*Changed) Error() string {
	return "the plan has changed meanwhile, and this would do something else now"
}

// Proposal is an edit that was not made: what it would change, and what that would do.
type Proposal struct {
	act.Plan
	Revision int64            `json:"revision" doc:"The revision it was planned on"`
	Digest   string           `json:"digest" doc:"Names exactly these changes: sent along with a yes, it is made only if it still comes out like this"`
	Effects  standing.Effects `json:"effects"`

	on   *State     // what it was planned on
	next *plan.Plan // what it would make of that
}

// Request is an edit that is to be made.
type Request struct {
	Intent act.Intent
	Base   int64  // the revision that was in view
	Digest string // of a proposal that was agreed to; empty: whatever it comes out as
	UpTo   *int64 // of a scenario: the revision of the live plan that it is brought up to
}

// Propose says what an edit would do on the line as it is. It meets the same errors as
// the edit itself would.
func (l *Line) Propose(by Author, intent act.Intent) (Proposal, error) {
	return l.propose(l.State(), by, intent)
}

func (l *Line) propose(now *State, by Author, intent act.Intent) (Proposal, error) {
	plan, err := l.plan(now, by, intent)
	if err != nil {
		return Proposal{}, err
	}
	next, _, err := try(now.Plan, plan)
	if err != nil {
		return Proposal{}, err
	}
	return Proposal{plan, now.Revision, act.Digest(plan.Changes), standing.EffectsOf(now.Plan, next, now.Today), now, next}, nil
}

// try takes what people mean through the gate; taking back and doing again have ways of
// their own, as they may bring back what is gone.
func try(now *plan.Plan, p act.Plan) (*plan.Plan, []program.Applied, error) {
	if !p.AsMade {
		if err := gate.RefuseUsed(now, p.Changes); err != nil {
			return nil, nil, err
		}
	}
	return gate.Try(now, p.Changes)
}

// plan works an intent out on a state, and asks whether its author may do it.
func (l *Line) plan(now *State, by Author, intent act.Intent) (act.Plan, error) {
	plan, err := intent.Plan(now.Acting())
	if err != nil {
		return plan, err
	}
	if plan.AsMade {
		return plan, by.check(now.Program, slices.Concat(plan.Changes, plan.Would))
	}
	plan.Changes = l.sign(by, plan.Changes)
	err = by.check(now.Program, slices.Concat(plan.Changes, plan.Would))
	plan.Changes = now.Acting().Dated(plan.Changes) // who may set a state may have the days that follow from it set
	return plan, err
}

// Done is what came of a request. Where there was nothing to change, there is no update.
type Done struct {
	act.Plan
	Update *Update
}

// Do makes an edit: what it changes is planned on the line as it is, within the one
// writer's turn. What somebody saw on an older revision and others have changed since is
// refused with a *Conflict, a proposal that comes out differently by now with a *Changed.
func (l *Line) Do(ctx context.Context, by Author, r Request) (Done, error) {
	return l.once(ctx, by, r.Base, func(b *behind) (Done, error) {
		now := l.state.Load()
		plan, err := l.plan(now, by, r.Intent)
		if err != nil {
			return Done{}, err
		}
		if err := l.conflict(b, by.Client, plan.Says); err != nil {
			return Done{}, err
		}
		if r.Digest != "" && r.Digest != act.Digest(plan.Changes) {
			proposal, err := l.propose(now, by, r.Intent)
			if err != nil {
				return Done{}, err
			}
			return Done{}, &Changed{proposal}
		}
		if len(plan.Changes) == 0 && r.UpTo == nil {
			return Done{Plan: plan}, nil
		}
		update, err := l.make(ctx, by, plan, r.UpTo)
		if err != nil {
			return Done{}, err
		}
		return Done{plan, &update}, nil
	})
}

// Apply makes changes that were worked out on a revision of the line, by whoever sends
// them: places in lists are brought up to date, and what another client changed since is
// refused with a *Conflict.
func (l *Line) Apply(ctx context.Context, by Author, base int64, label string, changes []program.Change) (Update, error) {
	return updated(l.once(ctx, by, base, func(b *behind) (Done, error) {
		now := l.state.Load()
		if err := by.check(now.Program, changes); err != nil {
			return Done{}, err
		}
		if err := l.conflict(b, by.Client, changes); err != nil {
			return Done{}, err
		}
		changes, err := l.rebase(b, by.Client, changes)
		if err != nil {
			return Done{}, err
		}
		update, err := l.make(ctx, by, act.Plan{Label: label, Changes: now.Acting().Dated(l.sign(by, changes))}, nil)
		return Done{Update: &update}, err
	}))
}

// make takes changes through the gate and stores them. The caller holds the writer's turn
// and has asked for rights and conflicts.
func (l *Line) make(ctx context.Context, by Author, p act.Plan, upTo *int64) (Update, error) {
	next, applied, err := try(l.state.Load().Plan, p)
	if err != nil {
		return Update{}, err
	}
	edit := by.edit(p.Label, journal.Plain, applied)
	edit.Said.Keys, edit.Said.Notes, edit.UpTo = p.Keys, p.Notes, upTo
	if edit.Undoes, err = l.tookBack(ctx, p.TakesBack, applied); err != nil {
		return Update{}, err
	}
	return l.commit(ctx, next, edit)
}

// edit is an edit of the author's.
func (a Author) edit(label string, sort journal.Sort, changes []program.Applied) journal.Edit {
	return journal.Edit{Actor: a.Actor, Client: a.Client, Label: label, Sort: sort, Changes: changes, Request: a.Request, Said: journal.Said{Digest: a.Digest}}
}

// sign puts who says it and when on comments that are added: a page may not say.
func (l *Line) sign(by Author, changes []program.Change) []program.Change {
	isNew := func(c program.Change) bool { return c.Kind == program.KindComment && c.Op == program.Add }
	if !slices.ContainsFunc(changes, isNew) {
		return changes
	}
	changes = slices.Clone(changes)
	for i, c := range changes {
		var comment program.Comment
		if !isNew(c) || json.Unmarshal(c.Value, &comment) != nil {
			continue // one that cannot be read is refused when it is applied
		}
		comment.By, comment.Author, comment.At = by.Actor, by.Account, l.hub.clock().UTC().Format(time.RFC3339)
		changes[i] = program.AddOf(c.Ref, comment)
	}
	return changes
}

// keep makes the iterations that cadences keep ahead, where some have begun since. A scenario
// is a question about a plan, and gets none. The caller holds the writer's turn, or is the
// only one who has the line.
func (l *Line) keep(ctx context.Context) {
	now := l.state.Load()
	changes := cadence.Keep(now.Program, now.Today)
	if len(changes) == 0 || !l.live {
		return
	}
	if _, err := l.make(ctx, Author{Actor: "Jantrel", Client: "cadence"}, act.Plan{Label: "Keep iterations ahead", Changes: changes}, nil); err != nil {
		// Shown as it was; it is tried again on the next day.
		slog.ErrorContext(ctx, "keeping iterations ahead", "line", l.id, "error", err)
		return
	}
	now = l.state.Load()
	items, err := backlog.RepeatInNew(now.Plan, now.Today, changes)
	if err == nil && len(items) > 0 {
		_, err = l.make(ctx, Author{Actor: "Jantrel", Client: "cadence"}, act.Plan{Label: "Repeat items in new iterations", Changes: items}, nil)
	}
	if err != nil {
		slog.ErrorContext(ctx, "repeating items in new iterations", "line", l.id, "error", err)
	}
}

// maxRecent is how many edits are kept in memory, for who is a little behind.
const maxRecent = 200

// commit stores an edit that led to next, swaps the state and announces it. The caller
// holds the writer's turn.
func (l *Line) commit(ctx context.Context, next *plan.Plan, edit journal.Edit) (Update, error) {
	now := l.state.Load()
	edit.Revision, edit.At = now.Revision+1, l.hub.clock()
	// An edit that has come this far is carried through, even if who sent it hangs up.
	if err := l.hub.store.Commit(context.WithoutCancel(ctx), l.id, next.Program, edit); err != nil {
		l.hub.full.note(journal.IsFull(err), edit.At)
		return Update{}, err
	}
	l.hub.full.note(false, edit.At)
	l.hub.counts.edits.Add(1)
	l.hub.counts.changes.Add(int64(len(edit.Changes)))
	state := newState(next, edit.Revision, l.hub.today())
	l.state.Store(state)
	now.answers.retire(&l.hub.budget)
	if edit.Undoes != 0 {
		made, _, err := l.hub.store.MadeAt(ctx, l.id, edit.Undoes)
		if err != nil { // it counts as of another day: then nothing that is remembered is wrong
			made = time.Time{}
		}
		l.undid.note(&edit, made)
	}
	l.remember(edit)
	l.recent = append(l.recent, edit)
	if len(l.recent) > 2*maxRecent {
		l.recent = slices.Clone(l.recent[len(l.recent)-maxRecent:])
	}
	l.checkpoint(state, len(edit.Changes))
	update := updateOf(edit, state.Facts.Since(now.Facts))
	if edit.Sort == journal.Plain {
		update.Why = asksWhy(now.Plan, next, edit.Changes, state.Today)
	}
	l.announce(update)
	return update, nil
}

func updateOf(e journal.Edit, facts standing.Facts) Update {
	u := Update{From: e.Revision - 1, Revision: e.Revision, At: e.At, Actor: e.Actor, Client: e.Client, Label: e.Label,
		Changes: make([]program.Change, len(e.Changes)), Facts: facts}
	for i, a := range e.Changes {
		u.Changes[i] = a.Change
	}
	return u
}

// Package live holds programs in memory: one writer and many readers each. A
// list of changes is applied whole, stored with its journal, and announced to
// subscribers; undo and redo go the same way.
package live

import (
	"context"
	"encoding/json"
	"errors"
	"log/slog"
	"slices"
	"sync"
	"time"

	"jantrel/core/backlog"
	"jantrel/core/cadence"
	"jantrel/core/calendar"
	"jantrel/core/needs"
	"jantrel/core/program"
	"jantrel/core/standing"
	"jantrel/internal/store"
)

// Hub holds the programs that are in use.
type Hub struct {
	store *store.Store
	clock func() time.Time
	today func() program.Date

	mu       sync.Mutex
	programs map[int64]*Program
}

// NewHub makes a hub over a store. clock stamps journal entries; today is the
// day that plans are seen on.
func NewHub(s *store.Store, clock func() time.Time, today func() program.Date) *Hub {
	return &Hub{store: s, clock: clock, today: today, programs: map[int64]*Program{}}
}

// Today is the day that plans are seen on.
func (h *Hub) Today() program.Date { return h.today() }

// Store is where the hub keeps its programs.
func (h *Hub) Store() *store.Store { return h.store }

// Open returns a program, loading it where it is not in memory yet.
func (h *Hub) Open(ctx context.Context, id int64) (*Program, error) {
	h.mu.Lock()
	defer h.mu.Unlock()
	if p, ok := h.programs[id]; ok {
		return p, nil
	}
	loaded, revision, err := h.store.Load(ctx, id)
	if err != nil {
		return nil, err
	}
	heads, err := h.store.Heads(ctx, id)
	if err != nil {
		return nil, err
	}
	p := &Program{hub: h, id: id, subscribers: map[chan Update]bool{}, histories: map[string]*history{}}
	p.state.Store(newState(loaded, revision, h.today()))
	for _, head := range heads {
		p.remember(head)
	}
	p.keep(ctx)
	h.programs[id] = p
	return p, nil
}

// Create stores a new program. It is refused with program.Problems if it breaks
// a rule.
func (h *Hub) Create(ctx context.Context, p program.Program) (int64, error) {
	if problems := program.Validate(p); len(problems) > 0 {
		return 0, problems
	}
	return h.store.Create(ctx, p)
}

// Delete removes a program for good and ends its subscriptions.
func (h *Hub) Delete(ctx context.Context, id int64) error {
	h.mu.Lock()
	defer h.mu.Unlock()
	if err := h.store.Delete(ctx, id); err != nil {
		return err
	}
	if p, ok := h.programs[id]; ok {
		p.close()
		delete(h.programs, id)
	}
	return nil
}

// Close ends all subscriptions, so that a server can shut down.
func (h *Hub) Close() {
	h.mu.Lock()
	defer h.mu.Unlock()
	for _, p := range h.programs {
		p.close()
	}
}

// State is a program at one revision, with what is known of it on a day. It is
// never altered.
type State struct {
	Program  program.Program
	Revision int64
	Today    program.Date
	Facts    standing.Facts

	indexing sync.Once
	index    *backlog.Index
}

func newState(p program.Program, revision int64, today program.Date) *State {
	return &State{Program: p, Revision: revision, Today: today, Facts: standing.Of(p, today)}
}

// Index returns the index that lists are made from. It is made when it is first
// asked for.
func (s *State) Index() *backlog.Index {
	s.indexing.Do(func() {
		options := backlog.Options{Today: s.Today}
		s.index = backlog.NewIndex(s.Program, options)
	})
	return s.index
}

// Index is State.Index that also knows when each item was last changed.
func (p *Program) Index(ctx context.Context, s *State) (*backlog.Index, error) {
	last, err := p.hub.store.LastChanges(ctx, p.id)
	if err != nil {
		return nil, err
	}
	changed := make(map[string]program.Date, len(last))
	for item, at := range last {
		changed[item] = calendar.OfTime(at)
	}
	return s.Index().With(backlog.Options{Today: s.Today, Clock: calendar.OfTime(p.hub.clock()), Changed: changed}), nil
}

// Author says who makes an edit, from which open page.
type Author struct {
	Actor  string
	Client string
	// May refuses changes that the author may not make on a program; nil allows all.
	May func(program.Program, []program.Change) error
}

func (a Author) check(p program.Program, changes []program.Change) error {
	if a.May == nil {
		return nil
	}
	return a.May(p, changes)
}

// Update tells what an edit changed: from one revision to the next.
type Update struct {
	From     int64            `json:"from"`
	Revision int64            `json:"revision"`
	At       time.Time        `json:"at"`
	Actor    string           `json:"actor"`
	Client   string           `json:"client"`
	Label    string           `json:"label"`
	Changes  []program.Change `json:"changes"`
	Facts    standing.Facts   `json:"facts" doc:"Only the entries that differ; counts are whole"`
}

// Errors that an edit may meet. Others are program.Problems, *needs.CycleError
// and *Conflict.
var (
	ErrFuture      = errors.New("this revision does not exist yet; load the program again")
	ErrNothingToDo = errors.New("there is nothing to take back or do again")
)

// Apply applies changes that were made on a revision of the program. A change to
// a field that another client changed since is refused with a *Conflict.
func (p *Program) Apply(ctx context.Context, by Author, base int64, label string, changes []program.Change) (Update, error) {
	p.writing.Lock()
	defer p.writing.Unlock()
	now := p.state.Load()
	if base > now.Revision {
		return Update{}, ErrFuture
	}
	changes = p.sign(by, changes)
	if err := by.check(now.Program, changes); err != nil {
		return Update{}, err
	}
	if err := p.conflict(ctx, by.Client, base, changes); err != nil {
		return Update{}, err
	}
	next, applied, err := program.ApplyAll(now.Program, changes)
	if err != nil {
		return Update{}, err
	}
	if err := refuseCycles(next, changes); err != nil {
		return Update{}, err
	}
	if touchesIterations(changes) {
		if err := cadence.Refuse(now.Program, next); err != nil {
			return Update{}, err
		}
	}
	return p.commit(ctx, next, store.Edit{Actor: by.Actor, Client: by.Client, Label: label, Sort: store.Plain, Changes: applied})
}

// sign puts who says it and when on comments that are added: a page may not say.
func (p *Program) sign(by Author, changes []program.Change) []program.Change {
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
		comment.By, comment.At = by.Actor, p.hub.clock().UTC().Format(time.RFC3339)
		changes[i] = program.AddOf(c.Ref, comment)
	}
	return changes
}

func touchesIterations(changes []program.Change) bool {
	return slices.ContainsFunc(changes, func(c program.Change) bool { return c.Kind == program.KindIteration || c.Kind == program.KindTeam })
}

// keep makes the iterations that cadences keep ahead, where some have begun since.
// The caller holds the writing lock, or is the only one who has the program.
func (p *Program) keep(ctx context.Context) {
	now := p.state.Load()
	changes := cadence.Keep(now.Program, now.Today)
	if len(changes) == 0 {
		return
	}
	next, applied, err := program.ApplyAll(now.Program, changes)
	if err == nil {
		_, err = p.commit(ctx, next, store.Edit{Actor: "Jantrel", Client: "cadence", Label: "Keep iterations ahead", Sort: store.Plain, Changes: applied})
	}
	if err != nil { // shown as it was; it is tried again on the next day
		slog.ErrorContext(ctx, "keeping iterations ahead", "program", p.id, "error", err)
	}
}

// refuseCycles refuses needs that close a cycle in the program that the changes
// lead to.
func refuseCycles(next program.Program, changes []program.Change) error {
	var added []program.Need
	for _, c := range changes {
		if c.Kind == program.KindNeed && c.Op == program.Add {
			added = append(added, program.Need{Item: c.In, Needs: c.Key})
		}
	}
	if len(added) == 0 {
		return nil
	}
	return needs.RefuseAll(next, added)
}

// commit stores an edit that led to next, swaps the program and announces it.
// The caller holds the writing lock.
func (p *Program) commit(ctx context.Context, next program.Program, edit store.Edit) (Update, error) {
	now := p.state.Load()
	edit.Revision, edit.At = now.Revision+1, p.hub.clock()
	// An edit that has come this far is carried through, even if who sent it hangs up.
	if err := p.hub.store.Commit(context.WithoutCancel(ctx), p.id, next, edit); err != nil {
		return Update{}, err
	}
	state := newState(next, edit.Revision, p.hub.today())
	p.state.Store(state)
	p.remember(edit)
	update := Update{From: now.Revision, Revision: edit.Revision, At: edit.At, Actor: edit.Actor, Client: edit.Client, Label: edit.Label,
		Changes: make([]program.Change, len(edit.Changes)), Facts: state.Facts.Since(now.Facts)}
	for i, a := range edit.Changes {
		update.Changes[i] = a.Change
	}
	p.announce(update)
	return update, nil
}

package live

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"sync"
	"sync/atomic"

	"jantrel/core/program"
	"jantrel/internal/store"
)

// Program is one program in memory.
type Program struct {
	hub   *Hub
	id    int64
	state atomic.Pointer[State]

	writing   sync.Mutex // held by the one writer
	histories map[string]*history

	listening   sync.Mutex
	subscribers map[chan Update]bool
	closed      bool

	landing sync.Mutex
	now     *Landings
	before  *Landings
}

// State returns the program as it is now.
func (p *Program) State() *State {
	state := p.state.Load()
	if today := p.hub.today(); today != state.Today { // midnight went by
		p.writing.Lock()
		defer p.writing.Unlock()
		state = p.state.Load()
		if today != state.Today {
			p.state.Store(newState(state.Program, state.Revision, today))
			p.keep(context.Background())
			state = p.state.Load()
		}
	}
	return state
}

// Subscribe returns a channel of updates and a function that ends it. The
// channel is closed when the program goes, or when its reader falls far behind:
// it then has to load the program again.
func (p *Program) Subscribe() (<-chan Update, func()) {
	p.listening.Lock()
	defer p.listening.Unlock()
	updates := make(chan Update, 256)
	if p.closed {
		close(updates)
		return updates, func() {}
	}
	p.subscribers[updates] = true
	return updates, func() {
		p.listening.Lock()
		defer p.listening.Unlock()
		p.drop(updates)
	}
}

// drop ends a subscription. The caller holds the listening lock.
func (p *Program) drop(updates chan Update) {
	if p.subscribers[updates] {
		delete(p.subscribers, updates)
		close(updates)
	}
}

func (p *Program) announce(u Update) {
	p.listening.Lock()
	defer p.listening.Unlock()
	for updates := range p.subscribers {
		select {
		case updates <- u:
		default:
			p.drop(updates)
		}
	}
}

func (p *Program) close() {
	p.listening.Lock()
	defer p.listening.Unlock()
	p.closed = true
	for updates := range p.subscribers {
		p.drop(updates)
	}
}

// Conflict says that somebody else changed the same field meanwhile.
type Conflict struct {
	Ref    program.Ref     `json:"ref"`
	Field  string          `json:"field,omitempty"`
	Yours  json.RawMessage `json:"yours,omitempty"`
	Theirs json.RawMessage `json:"theirs,omitempty"`
	By     string          `json:"by"`
}

func (c *Conflict) Error() string {
	what := fmt.Sprintf("%s %s", c.Ref.Kind, c.Ref.Key)
	if c.Field != "" {
		what = fmt.Sprintf("the %s of %s", c.Field, c.Ref.Key)
	}
	return fmt.Sprintf("%s changed %s meanwhile to %s; yours is %s", c.By, what, orNothing(c.Theirs), orNothing(c.Yours))
}

func orNothing(value json.RawMessage) string {
	switch string(value) {
	case "", "null", `""`:
		return "nothing"
	}
	return string(value)
}

// conflict looks for edits of other clients since base to what changes set.
func (p *Program) conflict(ctx context.Context, client string, base int64, changes []program.Change) error {
	now := p.state.Load()
	if base == now.Revision {
		return nil
	}
	edits, err := p.hub.store.EditsAfter(ctx, p.id, base)
	if err != nil {
		return err
	}
	type field struct {
		program.Ref
		name string
	}
	type change struct {
		value json.RawMessage
		by    string
	}
	theirs := map[field]change{}
	for _, e := range edits {
		if e.Client == client {
			continue
		}
		for _, a := range e.Changes {
			theirs[field{a.Change.Ref, a.Change.Field}] = change{a.Change.Value, e.Actor}
		}
	}
	for _, c := range changes {
		if other, ok := theirs[field{c.Ref, c.Field}]; ok && c.Op == program.Set && !bytes.Equal(other.value, c.Value) {
			return &Conflict{c.Ref, c.Field, c.Value, other.value, other.by}
		}
	}
	return nil
}

// history is what a client can undo and redo: revisions, the next one last.
type history struct {
	undo, redo []step
}

type step struct {
	revision int64
	label    string
}

// remember takes an edit into its client's history. A new edit ends what could
// be redone.
func (p *Program) remember(e store.Edit) {
	h := p.histories[e.Client]
	if h == nil {
		h = &history{}
		p.histories[e.Client] = h
	}
	switch e.Sort {
	case store.Undo:
		if n := len(h.undo); n > 0 {
			h.redo, h.undo = append(h.redo, h.undo[n-1]), h.undo[:n-1]
		}
	case store.Redo:
		if n := len(h.redo); n > 0 {
			h.undo, h.redo = append(h.undo, h.redo[n-1]), h.redo[:n-1]
		}
	default:
		h.undo, h.redo = append(h.undo, step{e.Revision, e.Label}), nil
	}
}

// Steps says what a client would undo and redo next; empty for nothing.
func (p *Program) Steps(client string) (undo, redo string) {
	p.writing.Lock()
	defer p.writing.Unlock()
	if h := p.histories[client]; h != nil {
		if n := len(h.undo); n > 0 {
			undo = h.undo[n-1].label
		}
		if n := len(h.redo); n > 0 {
			redo = h.redo[n-1].label
		}
	}
	return undo, redo
}

// Undo takes back the client's last edit that stands. It is refused with a
// *Conflict where others have changed the same since.
func (p *Program) Undo(ctx context.Context, by Author) (Update, error) {
	return p.step(ctx, by, store.Undo)
}

// Redo does again what the client's last undo took back.
func (p *Program) Redo(ctx context.Context, by Author) (Update, error) {
	return p.step(ctx, by, store.Redo)
}

func (p *Program) step(ctx context.Context, by Author, sort store.Sort) (Update, error) {
	p.writing.Lock()
	defer p.writing.Unlock()
	var steps []step
	if h := p.histories[by.Client]; h != nil {
		steps = h.undo
		if sort == store.Redo {
			steps = h.redo
		}
	}
	if len(steps) == 0 {
		return Update{}, ErrNothingToDo
	}
	target := steps[len(steps)-1]
	edit, err := p.hub.store.EditAt(ctx, p.id, target.revision)
	if err != nil {
		return Update{}, err
	}
	changes, expected := stepChanges(edit.Changes, sort)
	if err := by.check(p.state.Load().Program, changes); err != nil {
		return Update{}, err
	}
	next, applied, err := program.ApplyAll(p.state.Load().Program, changes)
	if err != nil {
		return Update{}, fmt.Errorf("%q cannot be taken back or done again: %w", target.label, err)
	}
	for i, a := range applied {
		// What was there must be what the edit left there: else it is somebody else's.
		if was := a.Inverse.Value; expected[i] != nil && !bytes.Equal(was, expected[i]) {
			return Update{}, &Conflict{a.Change.Ref, a.Change.Field, a.Change.Value, was, "Somebody"}
		}
	}
	return p.commit(ctx, next, store.Edit{Actor: by.Actor, Client: by.Client, Label: target.label, Sort: sort, Changes: applied})
}

// stepChanges returns the changes of an undo or redo, and for each the value that
// it should find.
func stepChanges(edit []program.Applied, sort store.Sort) (changes []program.Change, expected []json.RawMessage) {
	for i := range edit {
		a := edit[i]
		do, was := a.Change, a.Inverse.Value
		if sort == store.Undo {
			a = edit[len(edit)-1-i]
			do, was = a.Inverse, a.Change.Value
		}
		changes, expected = append(changes, do), append(expected, was)
	}
	return changes, expected
}

// Journal returns edits before a revision (0: the newest), newest first.
func (p *Program) Journal(ctx context.Context, before int64, limit int) ([]store.Edit, error) {
	return p.hub.store.LatestEdits(ctx, p.id, before, limit)
}

// LastSet returns the edit that gave a field of a thing its value, and whether
// the journal has one: what came with the program has none.
func (p *Program) LastSet(ctx context.Context, ref program.Ref, field string) (store.Edit, bool, error) {
	return p.hub.store.LastSet(ctx, p.id, ref, field)
}

// HistoryOf returns the edits that changed an item, its needs or what was said about
// it, newest first, each with these changes alone.
func (p *Program) HistoryOf(ctx context.Context, item string, limit int) ([]store.Edit, error) {
	return p.hub.store.EditsOf(ctx, p.id, item, limit)
}

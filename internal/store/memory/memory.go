// Package memory keeps lines in memory, for tests: what internal/store keeps in SQLite, told in the same way. A test of
// that package asks both the same and compares.
package memory

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"strings"
	"sync"

	"jantrel/core/program"
	"jantrel/internal/journal"
)

// Store keeps lines until it is let go. Its zero value is not of use: New makes one. Many may use it at once.
type Store struct {
	mu       sync.RWMutex
	programs int64           // ids that were given
	lines    map[int64]*line // by id
	ids      int64           // of lines, that were given
}

// line is one with all that belongs to it.
type line struct {
	journal.Line
	program     program.Program // of a live plan, as it is now
	edits       []journal.Edit  // of its own, oldest first; their changes have no other order than they were made in
	checkpoints map[int64]program.Program
	days        map[program.Date]forecastDay
}

type forecastDay struct {
	rules int
	body  string
}

// New returns a store with nothing in it.
func New() *Store { return &Store{lines: map[int64]*line{}} }

func (s *Store) add(l journal.Line) *line {
	s.ids++
	l.ID = s.ids
	made := &line{Line: l, checkpoints: map[int64]program.Program{}, days: map[program.Date]forecastDay{}}
	s.lines[l.ID] = made
	return made
}

// find returns a line by its id. The caller holds the lock.
func (s *Store) find(id int64) (*line, error) {
	if l := s.lines[id]; l != nil {
		return l, nil
	}
	return nil, journal.ErrNotFound
}

// Create keeps a new program and returns its id.
func (s *Store) Create(ctx context.Context, p program.Program) (int64, error) {
	s.mu.Lock()
	defer s.mu.Unlock()
	s.programs++
	s.add(journal.Line{Program: s.programs}).program = p
	return s.programs, ctx.Err()
}

// Delete removes a program with all its lines and their journals.
func (s *Store) Delete(_ context.Context, id int64) error {
	s.mu.Lock()
	defer s.mu.Unlock()
	before := len(s.lines)
	for key, l := range s.lines {
		if l.Program == id {
			delete(s.lines, key)
		}
	}
	if len(s.lines) == before {
		return journal.ErrNotFound
	}
	return nil
}

// Lines lists the lines of a program, the live plan first.
func (s *Store) Lines(ctx context.Context, id int64) ([]journal.Line, error) {
	s.mu.RLock()
	defer s.mu.RUnlock()
	list := []journal.Line{}
	for _, l := range s.lines {
		if l.Program == id {
			list = append(list, l.Line)
		}
	}
	// A program's live plan is made before its scenarios.
	slices.SortFunc(list, func(a, b journal.Line) int { return int(a.ID - b.ID) })
	return list, ctx.Err()
}

// Live returns the line of a program's live plan.
func (s *Store) Live(ctx context.Context, id int64) (journal.Line, error) {
	list, err := s.Lines(ctx, id)
	if err == nil && len(list) == 0 {
		err = journal.ErrNotFound
	}
	if err != nil {
		return journal.Line{}, err
	}
	return list[0], nil
}

// Line returns a line by its id.
func (s *Store) Line(ctx context.Context, id int64) (journal.Line, error) {
	s.mu.RLock()
	defer s.mu.RUnlock()
	l, err := s.find(id)
	if err != nil {
		return journal.Line{}, err
	}
	return l.Line, ctx.Err()
}

// MakeScenario makes a scenario of a live plan as it was at a revision.
func (s *Store) MakeScenario(ctx context.Context, live journal.Line, revision int64, about journal.About) (journal.Line, error) {
	s.mu.Lock()
	defer s.mu.Unlock()
	has, own := 0, 0
	for _, l := range s.lines {
		if l.Program == live.Program && l.Base != nil {
			has++
			if l.Owner != nil && about.Owner != nil && *l.Owner == *about.Owner {
				own++
			}
		}
	}
	if err := journal.RoomFor(has, own); err != nil {
		return journal.Line{}, err
	}
	return s.add(journal.Line{Program: live.Program, Base: &live.ID, BaseRevision: &revision, Revision: revision, About: about}).Line, ctx.Err()
}

// DeleteScenario removes a scenario with its journal, for good.
func (s *Store) DeleteScenario(ctx context.Context, id int64) error {
	s.mu.Lock()
	defer s.mu.Unlock()
	if l := s.lines[id]; l != nil && l.Base != nil {
		delete(s.lines, id)
	}
	return ctx.Err()
}

// UpTo is the revision of the live plan that a scenario had last been brought up to by one of its revisions.
func (s *Store) UpTo(ctx context.Context, id, revision int64) (int64, error) {
	s.mu.RLock()
	defer s.mu.RUnlock()
	l, err := s.find(id)
	if err != nil || l.Base == nil {
		return 0, journal.ErrNotFound
	}
	upTo := *l.BaseRevision
	for _, e := range l.edits {
		if e.UpTo != nil && e.Revision <= revision {
			upTo = *e.UpTo
		}
	}
	return upTo, ctx.Err()
}

// Load returns a live plan as it is now, and its revision. Of a scenario the journal alone is kept.
func (s *Store) Load(ctx context.Context, id int64) (program.Program, int64, error) {
	s.mu.RLock()
	defer s.mu.RUnlock()
	l, err := s.find(id)
	if err != nil {
		return program.Program{}, 0, err
	}
	return l.program, l.Revision, ctx.Err()
}

// Commit keeps what an edit made of a line. next is the program after it.
func (s *Store) Commit(ctx context.Context, id int64, next program.Program, edit journal.Edit) error {
	s.mu.Lock()
	defer s.mu.Unlock()
	if err := ctx.Err(); err != nil {
		return err
	}
	l, err := s.find(id)
	if err != nil || l.Revision != edit.Revision-1 {
		return fmt.Errorf("line %d is not at revision %d: %w", id, edit.Revision-1, journal.ErrNotFound)
	}
	if l.Base == nil {
		l.program = next
	}
	l.Revision = edit.Revision
	edit.Changes = slices.Clone(edit.Changes)
	edit.At, edit.Why = edit.At.UTC(), ""
	if edit.Request == "" {
		edit.Said = journal.Said{}
	}
	l.edits = append(l.edits, edit)
	return nil
}

// Explain keeps the reason that was given for an edit.
func (s *Store) Explain(ctx context.Context, id, revision int64, why string) error {
	s.mu.Lock()
	defer s.mu.Unlock()
	if l := s.lines[id]; l != nil {
		for i := range l.edits {
			if l.edits[i].Revision == revision {
				l.edits[i].Why = why
			}
		}
	}
	return ctx.Err()
}

// Probe says that there is room.
func (s *Store) Probe(ctx context.Context) error { return ctx.Err() }

// SaveCheckpoint keeps a line as it was at a revision.
func (s *Store) SaveCheckpoint(ctx context.Context, id int64, c journal.Checkpoint) error {
	s.mu.Lock()
	defer s.mu.Unlock()
	l, err := s.find(id)
	if err != nil {
		return err
	}
	if _, has := l.checkpoints[c.Revision]; !has {
		l.checkpoints[c.Revision] = c.Program
	}
	return ctx.Err()
}

// Checkpoints lists the revisions of which a line has checkpoints, in order.
func (s *Store) Checkpoints(ctx context.Context, id int64) ([]int64, error) {
	s.mu.RLock()
	defer s.mu.RUnlock()
	var list []int64
	err := s.told(id, func(l *line, end int64) {
		for revision := range l.checkpoints {
			if revision <= end {
				list = append(list, revision)
			}
		}
	})
	slices.Sort(list)
	return list, cmp.Or(err, ctx.Err())
}

// LoadCheckpoint returns a checkpoint.
func (s *Store) LoadCheckpoint(ctx context.Context, id, revision int64) (journal.Checkpoint, error) {
	s.mu.RLock()
	defer s.mu.RUnlock()
	c, found := journal.Checkpoint{Revision: revision}, false
	err := s.told(id, func(l *line, end int64) {
		if p, has := l.checkpoints[revision]; has && revision <= end {
			c.Program, found = p, true
		}
	})
	if err == nil && !found {
		err = journal.ErrNotFound
	}
	return c, cmp.Or(err, ctx.Err())
}

// ForecastDays lists what is kept of a line from a day on, by the rules of playing that are asked for, by day.
func (s *Store) ForecastDays(ctx context.Context, id int64, from program.Date, rules int) ([]journal.ForecastDay, error) {
	s.mu.RLock()
	defer s.mu.RUnlock()
	list := []journal.ForecastDay{}
	if l := s.lines[id]; l != nil {
		for day, said := range l.days {
			if day >= from && said.rules == rules {
				list = append(list, journal.ForecastDay{Day: day, Body: said.body})
			}
		}
	}
	slices.SortFunc(list, func(a, b journal.ForecastDay) int { return int(a.Day - b.Day) })
	return list, ctx.Err()
}

// ForecastDay is what is kept of a line and a day, by the rules of playing that are asked for, and whether something is.
func (s *Store) ForecastDay(ctx context.Context, id int64, day program.Date, rules int) (string, bool, error) {
	s.mu.RLock()
	defer s.mu.RUnlock()
	if l := s.lines[id]; l != nil {
		if said, known := l.days[day]; known && said.rules == rules {
			return said.body, true, ctx.Err()
		}
	}
	return "", false, ctx.Err()
}

// KeepForecastDay keeps what the forecast of a line said at the end of a day, in place of what other rules said.
func (s *Store) KeepForecastDay(ctx context.Context, id int64, day journal.ForecastDay, rules int) error {
	s.mu.Lock()
	defer s.mu.Unlock()
	l, err := s.find(id)
	if err != nil {
		return err
	}
	l.days[day.Day] = forecastDay{rules, day.Body}
	return ctx.Err()
}

// told calls do with a line and, of a scenario, with the live plan up to where it begins: where its journal is read
// from, the older part first, each up to a revision. The caller holds the lock.
func (s *Store) told(id int64, do func(l *line, end int64)) error {
	l, err := s.find(id)
	if err != nil {
		return err
	}
	if l.Base != nil {
		if base := s.lines[*l.Base]; base != nil {
			do(base, *l.BaseRevision)
		}
	}
	do(l, 1<<62)
	return nil
}

// like reports whether a text holds another, whatever the case of ASCII letters, as SQL's LIKE does.
func like(text, part string) bool { return strings.Contains(lower(text), lower(part)) }

func lower(text string) string {
	return strings.Map(func(r rune) rune {
		if r >= 'A' && r <= 'Z' {
			return r + 'a' - 'A'
		}
		return r
	}, text)
}

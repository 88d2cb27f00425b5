package live

import (
	"bytes"
	"context"
	"fmt"
	"log/slog"
	"slices"

	"jantrel/core/program"
	"jantrel/internal/journal"
)

// Checked is what a check of a stored line found.
type Checked struct {
	Revision int64
	Changes  int      // that were gone through, since a checkpoint or since its beginning
	Faults   []string // what is wrong, in words; none: all is well
}

// maxFaults is how many faults of a line are named.
const maxFaults = 20

// Check holds what is stored of a line against its journal: the things as they are must be
// what its edits, gone through again, lead to. Nothing is altered. It goes from the last
// checkpoint where there is one, else back to the beginning and forth again.
//
// Of a scenario nothing is stored but its edits: they must lead on from the live plan where it began.
func Check(ctx context.Context, s Store, line int64) (Checked, error) {
	found, err := s.Line(ctx, line)
	if err != nil {
		return Checked{}, err
	}
	if found.Base != nil {
		return checkScenario(ctx, s, found)
	}
	p, revision, err := s.Load(ctx, line)
	if err != nil {
		return Checked{}, err
	}
	return check(ctx, s, line, p, revision)
}

func check(ctx context.Context, s Store, line int64, stored program.Program, revision int64) (Checked, error) {
	c := Checked{Revision: revision}
	kept, err := s.Checkpoints(ctx, line)
	if err != nil {
		return c, err
	}
	kept = slices.DeleteFunc(kept, func(at int64) bool { return at > revision })
	from := journal.Checkpoint{}
	if len(kept) > 0 {
		if from, err = s.LoadCheckpoint(ctx, line, kept[len(kept)-1]); err != nil {
			return c, err
		}
	}
	edits, err := s.EditsBetween(ctx, line, from.Revision, revision)
	if err != nil {
		return c, err
	}
	if int64(len(edits)) != revision-from.Revision {
		c.Faults = append(c.Faults, fmt.Sprintf("the journal lacks edits after revision %d", from.Revision))
		return c, nil
	}
	var changes []program.Applied
	for _, e := range edits {
		changes = append(changes, e.Changes...)
	}
	c.Changes = len(changes)
	if len(kept) == 0 {
		if from.Program, err = program.Rewind(stored, changes); err != nil {
			c.Faults = append(c.Faults, fmt.Sprintf("its edits cannot be taken back: %v", err))
			return c, nil
		}
	}
	replayed, err := program.Replay(from.Program, changes)
	if err != nil {
		c.Faults = append(c.Faults, fmt.Sprintf("its edits cannot be done again: %v", err))
		return c, nil
	}
	different, err := differences(stored, replayed)
	if err != nil {
		return c, err
	}
	for i, ref := range different {
		if i == maxFaults {
			c.Faults = append(c.Faults, fmt.Sprintf("and %d more", len(different)-i))
			break
		}
		c.Faults = append(c.Faults, fmt.Sprintf("%s is stored otherwise than its edits say", ref.Describe()))
	}
	return c, nil
}

func checkScenario(ctx context.Context, s Store, line journal.Line) (Checked, error) {
	c := Checked{Revision: line.Revision}
	p, revision, err := s.Load(ctx, *line.Base)
	if err != nil {
		return c, err
	}
	way := func(of, from, to int64, along func(program.Program, []program.Applied) (program.Program, error)) error {
		edits, err := s.EditsBetween(ctx, of, from, to)
		if err != nil {
			return err
		}
		var changes []program.Applied
		for _, e := range edits {
			changes = append(changes, e.Changes...)
		}
		c.Changes += len(changes)
		if p, err = along(p, changes); err != nil || int64(len(edits)) != to-from {
			c.Faults = append(c.Faults, fmt.Sprintf("its edits after revision %d cannot be gone through: %v", from, err))
		}
		return nil
	}
	if err := way(*line.Base, *line.BaseRevision, revision, program.Rewind); err != nil || len(c.Faults) > 0 {
		return c, err
	}
	return c, way(line.ID, *line.BaseRevision, line.Revision, program.Replay)
}

// differences are the things that two programs do not both have, or have otherwise or in
// another place.
func differences(a, b program.Program) ([]program.Ref, error) {
	all := func(program.Ref) bool { return true }
	things, err := a.Things(all)
	if err != nil {
		return nil, err
	}
	others, err := b.Things(all)
	if err != nil {
		return nil, err
	}
	had := make(map[program.Ref]*program.Thing, len(things))
	for i := range things {
		had[things[i].Ref] = &things[i]
	}
	var refs []program.Ref
	for i := range others {
		x := &others[i]
		if was := had[x.Ref]; was == nil || was.At != x.At || !bytes.Equal(was.Body, x.Body) {
			refs = append(refs, x.Ref)
		}
		delete(had, x.Ref)
	}
	for i := range things {
		if had[things[i].Ref] != nil {
			refs = append(refs, things[i].Ref)
		}
	}
	return refs, nil
}

// checkSoon checks a line that was just loaded for the first time, in the background and one after the other, and logs what
// it finds. What happens to it from then on happens here.
// After a long way it leaves a checkpoint, so that the next start has a short one, however
// often the server starts.
func (l *Line) checkSoon(ctx context.Context, stored program.Program, revision int64) {
	if _, before := l.hub.checked.LoadOrStore(l.id, true); before {
		return
	}
	ctx = context.WithoutCancel(ctx)
	l.hub.jobs.Go(func() {
		l.hub.checking.Lock()
		defer l.hub.checking.Unlock()
		c, err := check(ctx, l.hub.store, l.id, stored, revision)
		switch {
		case err != nil:
			slog.ErrorContext(ctx, "checking what is stored", "line", l.id, "error", err)
		case len(c.Faults) > 0:
			slog.ErrorContext(ctx, "what is stored is not what was edited; see: jantrel check", "line", l.id, "revision", c.Revision, "faults", c.Faults)
		case c.Changes >= betweenCheckpoints:
			if err := l.hub.store.SaveCheckpoint(ctx, l.id, journal.Checkpoint{Revision: revision, Program: stored}); err != nil {
				slog.ErrorContext(ctx, "keeping a checkpoint", "line", l.id, "revision", revision, "error", err)
			}
		}
	})
}

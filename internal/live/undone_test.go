package live_test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"regexp"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/core/program"
	"jantrel/core/reports"
	"jantrel/core/sample"
	"jantrel/core/track"
	"jantrel/internal/live"
	"jantrel/internal/store/memory"
)

// made is an edit of a history, in the time that it was made.
type made struct {
	at      time.Time
	by      live.Author
	changes []program.Change
	undone  bool
}

// history is a line with random edits of two people, some of them undone, and done again.
type history struct {
	now   time.Time
	hub   *live.Hub
	line  *live.Line
	edits []*made
}

func newHistory(t *testing.T, p program.Program) *history {
	t.Helper()
	h := &history{now: sample.Today.Add(-24).Time().Add(9 * time.Hour)}
	h.hub = live.NewHub(memory.New(), func() time.Time { return h.now }, func() program.Date { return calendar.OfTime(h.now) })
	t.Cleanup(h.hub.Close)
	id, err := h.hub.Create(ctx, p)
	require.NoError(t, err)
	h.line, err = h.hub.Open(ctx, id)
	require.NoError(t, err)
	// The journal begins with the first edit, whatever became of that: it is the same in all histories.
	require.True(t, h.apply(live.Author{Actor: "Cy", Client: "c"}, []program.Change{title(p.Items[0].Key, "The first")}))
	return h
}

// apply makes an edit, if that may be.
func (h *history) apply(by live.Author, changes []program.Change) bool {
	_, err := h.line.Apply(ctx, by, h.line.State().Revision, "Edit", changes)
	return err == nil
}

// work is an edit as people make them while work goes on.
func work(r *rand.Rand, p program.Program) []program.Change {
	item := p.Items[r.IntN(len(p.Items))]
	set := func(field string, value any) []program.Change {
		return []program.Change{program.SetTo(program.Ref{Kind: program.KindItem, Key: item.Key}, field, value)}
	}
	switch r.IntN(9) {
	case 0:
		return set("size", r.IntN(13))
	case 1, 2:
		for _, team := range p.Teams {
			if team.Key == item.Team && len(team.Iterations) > 0 {
				return set("iteration", team.Iterations[r.IntN(len(team.Iterations))].Key)
			}
		}
	case 3, 4, 5:
		return set("state", pickOf(r, program.Todo, program.Doing, program.Review, program.Done))
	case 6:
		return set("blocked", pickOf(r, "", "Fog"))
	case 7:
		key := fmt.Sprintf("N%d", r.IntN(1_000_000))
		return []program.Change{{Op: program.Add, Ref: program.Ref{Kind: program.KindItem, Key: key},
			Value: json.RawMessage(fmt.Sprintf(`{"key":%q,"title":"New","kind":"story","team":%q,"iteration":%q,"size":3}`, key, item.Team, item.Iteration))}}
	}
	return set("title", fmt.Sprint("Lamp ", r.IntN(100)))
}

func pickOf[T any](r *rand.Rand, from ...T) T { return from[r.IntN(len(from))] }

var revisions = regexp.MustCompile(`"revision":\d+`)

// record is all that is told of how things went.
func (h *history) record(t *testing.T) map[string]string {
	t.Helper()
	s := h.line.State()
	told := map[string]string{"program": asJSON(t, s.Program)}
	tell := func(what string, value any, err error) {
		require.NoError(t, err, what)
		told[what] = revisions.ReplaceAllString(asJSON(t, value), "")
	}
	underWay, err := h.line.UnderWay(ctx, s)
	tell("under way", underWay, err)
	ledger, _, err := h.line.History(ctx, s, track.Scope{}, time.Time{})
	tell("scope", ledger, err)
	for _, team := range s.Teams {
		for _, it := range team.Iterations {
			review, _, err := h.line.Review(ctx, s, team.Key, it.Key)
			tell("review of "+it.Key, review, err)
		}
	}
	for _, person := range s.People {
		news, _, err := h.line.News(ctx, s, person.Key, "Nobody", 0)
		tell("news of "+person.Key, news, err)
	}
	playing, err := h.line.Playing(ctx, s)
	growth := map[string][]float64{}
	for part, shares := range playing.Past.Growth {
		growth[fmt.Sprint(part)] = shares
	}
	tell("growth", growth, err)
	tell("turned out", playing.Past.Turned, nil)
	charts, err := h.line.Charts(ctx, s, []reports.Chart{
		{Of: reports.Items, Split: []string{"state"}, Measure: "number", Form: reports.Lines, Back: 20},
		{Of: reports.Items, Split: []string{"changed"}, Measure: "number", Form: reports.Bars},
		{Of: reports.Items, Measure: "age", Form: reports.Figure},
	}, nil)
	tell("charts", charts, err)
	return told
}

// A random history with undo and redo has the record of that history without the edits that were undone.
func TestWhatWasUndoneNeverHappened(t *testing.T) {
	computes(t)
	undone, compared := 0, 0
	for seed := uint64(0); compared < 200; seed++ {
		require.Less(t, seed, uint64(240))
		r := rand.New(rand.NewPCG(seed, 9))
		p := sample.Program(seed, sample.Shape{Teams: 2, Iterations: 4, Items: 12, Needs: 4})
		h := newHistory(t, p)
		type stacks struct{ undo, redo []*made }
		of := map[string]*stacks{"a": {}, "b": {}}
		pop := func(list *[]*made) *made {
			last := (*list)[len(*list)-1]
			*list = (*list)[:len(*list)-1]
			return last
		}
		for range 40 {
			h.now = h.now.Add(time.Duration(r.IntN(24*60)) * time.Minute)
			by := pickOf(r, ann, ben)
			mine := of[by.Client]
			last := func() []program.Change {
				edit, _, _, err := h.line.Edit(ctx, h.line.State().Revision)
				require.NoError(t, err)
				var changes []program.Change
				for _, a := range edit.Changes {
					changes = append(changes, a.Change)
				}
				return changes
			}
			switch {
			case len(mine.undo) > 0 && r.IntN(3) == 0:
				if _, err := h.line.Undo(ctx, by); err == nil {
					e := pop(&mine.undo)
					e.undone = true
					mine.redo = append(mine.redo, e)
					undone++
				}
			case len(mine.redo) > 0 && r.IntN(3) == 0:
				if _, err := h.line.Redo(ctx, by); err == nil {
					pop(&mine.redo)
					e := &made{at: h.now, by: by, changes: last()}
					h.edits, mine.undo = append(h.edits, e), append(mine.undo, e)
				}
			default:
				if h.apply(by, work(r, h.line.State().Program)) {
					e := &made{at: h.now, by: by, changes: last()}
					h.edits, mine.undo, mine.redo = append(h.edits, e), append(mine.undo, e), nil
				}
			}
			if r.IntN(8) == 0 {
				h.record(t) // what is remembered of it is of that moment
			}
		}
		end := sample.Today.Time().Add(18 * time.Hour)
		h.now = end
		bare := newHistory(t, p)
		for _, e := range slices.DeleteFunc(h.edits, func(e *made) bool { return e.undone }) {
			bare.now = e.at
			require.True(t, bare.apply(e.by, e.changes), "seed %d", seed)
		}
		bare.now = end
		want := bare.record(t)
		if want["program"] != asJSON(t, h.line.State().Program) {
			continue // somebody set what was there already, or set it back: then undoing what it was set by undoes that too
		}
		compared++
		for what, told := range h.record(t) {
			require.Equal(t, want[what], told, "seed %d: %s", seed, what)
		}
	}
	require.Greater(t, undone, 500)
}

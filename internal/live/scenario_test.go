package live_test

import (
	"fmt"
	"math/rand/v2"
	"runtime"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/core/scenario"
	"jantrel/internal/journal"
	"jantrel/internal/live"
)

// publishing says a publication of a scenario as it is.
func publishing(t *testing.T, s *live.Line, c scenario.Choice) scenario.Publish {
	t.Helper()
	lines, _, err := s.Lines(ctx, s.State())
	require.NoError(t, err)
	return scenario.Publish{Name: "What if", Base: lines.Base, Mine: lines.Mine, Choice: c}
}

// settleAll settles every conflict of a merge for one side.
func settleAll(t *testing.T, s *live.Line, take scenario.Side) scenario.Choice {
	t.Helper()
	lines, _, err := s.Lines(ctx, s.State())
	require.NoError(t, err)
	m, err := scenario.Merge(lines, scenario.Choice{})
	require.NoError(t, err)
	var c scenario.Choice
	for _, x := range m.Conflicts {
		c.Settle = append(c.Settle, scenario.Settled{Ref: x.Ref, Field: x.Field, Sort: x.Sort, Take: take})
	}
	return c
}

// Whatever is edited, undone and redone in a live plan and in scenarios of it, brought up to date and published:
// neither touches the other but by that, a scenario is found again from its edits alone, and a publication that is
// undone leaves the live plan to the byte.
func TestScenariosAndTheLivePlanGoTheirOwnWays(t *testing.T) {
	computes(t)
	published, upToDate := 0, 0
	for seed := range uint64(6) {
		folder := t.TempDir()
		h := clocked(t, folder)
		id, err := h.Create(ctx, sample.Program(seed, sample.Shape{Teams: 2, Iterations: 4, Items: 14, Needs: 6, Rough: true}))
		require.NoError(t, err)
		l, err := h.Open(ctx, id)
		require.NoError(t, err)
		s, err := h.MakeScenario(ctx, ann, l, 0, journal.About{Name: "What if"})
		require.NoError(t, err)
		r := rand.New(rand.NewPCG(seed, 8))
		for range 60 {
			of, other := l, s
			if r.IntN(2) == 0 {
				of, other = s, l
			}
			was := asJSON(t, other.State().Program)
			switch by := []live.Author{ann, ben}[r.IntN(2)]; r.IntN(10) {
			case 0, 1:
				_, _ = of.Undo(ctx, by)
			case 2:
				_, _ = of.Redo(ctx, by)
			case 3:
				before := asJSON(t, l.State().Program)
				if _, err := l.Do(ctx, by, live.Request{Intent: publishing(t, s, settleAll(t, s, scenario.TakeScenario)), Base: l.State().Revision}); err != nil {
					continue
				}
				published++
				if r.IntN(2) == 0 && asJSON(t, l.State().Program) != before {
					_, err := l.Undo(ctx, by)
					require.NoError(t, err)
					require.Equal(t, before, asJSON(t, l.State().Program))
				}
				continue
			case 4:
				lines, now, err := s.Lines(ctx, s.State())
				require.NoError(t, err)
				bring := scenario.BringUpToDate{Base: lines.Base, Live: lines.Live, Choice: settleAll(t, s, scenario.TakeLive)}
				done, err := s.Do(ctx, by, live.Request{Intent: bring, Base: s.State().Revision, UpTo: &now.Revision})
				if err != nil || done.Update == nil {
					continue
				}
				upToDate++
				upTo, err := s.UpTo(ctx, s.State())
				require.NoError(t, err)
				require.Equal(t, now.Revision, upTo)
				continue
			default:
				_, _ = of.Apply(ctx, by, of.State().Revision, "Edit", randomEdit(r, of.State().Program))
			}
			require.Equal(t, was, asJSON(t, other.State().Program), "the other line is as it was")
		}
		for _, line := range []*live.Line{l, s} {
			found, err := live.Check(ctx, h.Store(), line.ID())
			require.NoError(t, err)
			require.Empty(t, found.Faults)
		}
		again := clocked(t, folder)
		found, err := again.OpenScenario(ctx, id, s.ID())
		require.NoError(t, err)
		require.Equal(t, asJSON(t, s.State().Program), asJSON(t, found.State().Program))
		require.Equal(t, s.State().Revision, found.State().Revision)
		copied, err := again.MakeScenario(ctx, ann, found, found.State().Revision, journal.About{Name: "Another"})
		require.NoError(t, err)
		require.Empty(t, program.Between(found.State().Program, copied.State().Program), "one of another scenario is as that one")
	}
	assert.Greater(t, published, 10)
	assert.Greater(t, upToDate, 10)
}

// Bringing up to date is one step: undone, the scenario is as it was, up to what it was up to.
func TestBringingUpToDateIsOneStep(t *testing.T) {
	h := clocked(t, t.TempDir())
	id, err := h.Create(ctx, sample.Program(1, sample.Shape{Teams: 2, Iterations: 4, Items: 12}))
	require.NoError(t, err)
	l, err := h.Open(ctx, id)
	require.NoError(t, err)
	s, err := h.MakeScenario(ctx, ann, l, 0, journal.About{Name: "What if"})
	require.NoError(t, err)
	_, err = s.Apply(ctx, ann, 0, "Rename", []program.Change{title("I1", "ours")})
	require.NoError(t, err)
	_, err = l.Apply(ctx, ben, 0, "Rename", []program.Change{title("I1", "theirs"), title("I2", "x")})
	require.NoError(t, err)
	before := asJSON(t, s.State().Program)
	bring := func(c scenario.Choice) error {
		lines, now, err := s.Lines(ctx, s.State())
		require.NoError(t, err)
		_, err = s.Do(ctx, ann, live.Request{Intent: scenario.BringUpToDate{Base: lines.Base, Live: lines.Live, Choice: c}, Base: 1, UpTo: &now.Revision})
		return err
	}
	upTo := func() int64 {
		revision, err := s.UpTo(ctx, s.State())
		require.NoError(t, err)
		return revision
	}
	var open *scenario.Unsettled
	require.ErrorAs(t, bring(scenario.Choice{}), &open)
	assert.Len(t, open.Conflicts, 1)
	require.NoError(t, bring(settleAll(t, s, scenario.TakeScenario)))
	assert.Equal(t, int64(1), upTo())
	assert.Equal(t, "ours", s.State().Items[2].Title)
	_, err = s.Undo(ctx, ann)
	require.NoError(t, err)
	assert.Equal(t, before, asJSON(t, s.State().Program))
	assert.Zero(t, upTo())
	_, err = s.Redo(ctx, ann)
	require.NoError(t, err)
	assert.Equal(t, int64(1), upTo())
	_, err = h.OpenScenario(ctx, id+1, s.ID())
	require.ErrorIs(t, err, journal.ErrNotFound, "of another program it is none")
	require.NoError(t, h.DeleteScenario(ctx, s.ID()))
	_, err = h.OpenScenario(ctx, id, s.ID())
	require.ErrorIs(t, err, journal.ErrNotFound)
}

// BenchmarkOpenScenario opens scenarios of a program of 5,000 items, each with 100 edits, and says what each holds.
func BenchmarkOpenScenario(b *testing.B) {
	folder := b.TempDir()
	h := clocked(b, folder)
	id, err := h.Create(ctx, sample.Program(1, sample.Shape{Teams: 40, Iterations: 12, Items: 5000, Needs: 6000}))
	require.NoError(b, err)
	l, err := h.Open(ctx, id)
	require.NoError(b, err)
	var made []int64
	for i := range 20 {
		s, err := h.MakeScenario(ctx, ann, l, l.State().Revision, journal.About{Name: "What if"})
		require.NoError(b, err)
		for j := range 100 {
			_, err := s.Apply(ctx, ann, s.State().Revision, "Rename", []program.Change{title(fmt.Sprintf("I%d", 50*j+i), "x")})
			require.NoError(b, err)
		}
		made = append(made, s.ID())
		_, err = l.Apply(ctx, ann, l.State().Revision, "Rename", []program.Change{title(fmt.Sprintf("I%d", i), "y")})
		require.NoError(b, err)
	}
	held := func() float64 {
		runtime.GC()
		var m runtime.MemStats
		runtime.ReadMemStats(&m)
		return float64(m.HeapAlloc) / 1e6
	}
	for b.Loop() {
		b.StopTimer()
		s := keep(b, folder)
		again := live.NewHub(s, time.Now, func() program.Date { return sample.Today })
		_, err = again.Open(ctx, id)
		require.NoError(b, err)
		again.Close()
		before := held()
		b.StartTimer()
		for _, line := range made {
			_, err := again.OpenScenario(ctx, id, line)
			require.NoError(b, err)
		}
		b.StopTimer()
		b.ReportMetric(held()-before, "MB/20-held")
		runtime.KeepAlive(again)
		again.Close()
		b.StartTimer()
	}
}

package live_test

import (
	"context"
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"jantrel/core/act"
	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/internal/demo"
	"jantrel/internal/live"
)

// widest is the widest program: 200 teams of 300 iterations, 20,000 items.
func widest(b *testing.B) *live.Line {
	h := clocked(b, b.TempDir())
	id, err := h.Create(ctx, sample.Program(1, sample.Shape{Teams: 200, Iterations: 300, Items: 20_000, Needs: 12_000}))
	require.NoError(b, err)
	l, err := h.Open(ctx, id)
	require.NoError(b, err)
	return l
}

// BenchmarkEditWidest is a change, from planning to the disk and the facts of it.
func BenchmarkEditWidest(b *testing.B) {
	l := widest(b)
	n := 0
	for b.Loop() {
		n++
		ref := program.Ref{Kind: program.KindItem, Key: fmt.Sprintf("I%d", n%20_000)}
		_, err := l.Apply(ctx, ann, l.State().Revision, "Size", []program.Change{program.SetTo(ref, "size", n%9)})
		require.NoError(b, err)
	}
}

// BenchmarkEnterWidest is a cell typed into the grid.
func BenchmarkEnterWidest(b *testing.B) {
	l := widest(b)
	n := 0
	for b.Loop() {
		n++
		enter := act.Enter{Keys: []string{fmt.Sprintf("I%d", n%20_000)}, Fields: []string{"size"}, Cells: [][]string{{fmt.Sprint(n % 9)}}}
		_, err := l.Do(ctx, ann, live.Request{Intent: enter, Base: l.State().Revision})
		require.NoError(b, err)
	}
}

// Landings as they are asked for after each edit of 5,000 items of 40 teams, and of the demo.
func BenchmarkLandings5000(b *testing.B) {
	benchmarkLandings(b, sample.Program(1, sample.Shape{Teams: 40, Iterations: 26, Items: 5000, Needs: 6000}), "I7")
}

func BenchmarkLandingsDemo(b *testing.B) { benchmarkLandings(b, demo.Program(sample.Today), "LC-8") }

func benchmarkLandings(b *testing.B, p program.Program, item string) {
	h := clocked(b, b.TempDir())
	id, err := h.Create(ctx, p.Normal())
	require.NoError(b, err)
	l, err := h.Open(ctx, id)
	require.NoError(b, err)
	_, _, err = l.Landings(ctx)
	require.NoError(b, err)
	n := 0
	for b.Loop() {
		b.StopTimer()
		n++
		_, err := l.Apply(ctx, ann, l.State().Revision, "Size", []program.Change{program.SetTo(program.Ref{Kind: program.KindItem, Key: item}, "size", 1+n%9)})
		require.NoError(b, err)
		b.StartTimer()
		_, _, err = l.Landings(ctx)
		require.NoError(b, err)
	}
}

// How iterations of 5,000 items stand, by 20,000 changes of the journal.
func BenchmarkUnderWay20000(b *testing.B) {
	h := clocked(b, b.TempDir())
	id, err := h.Create(ctx, sample.Program(1, sample.Shape{Teams: 40, Iterations: 26, Items: 5000, Needs: 100}).Normal())
	require.NoError(b, err)
	l, err := h.Open(ctx, id)
	require.NoError(b, err)
	for n := range 4 {
		var changes []program.Change
		for _, item := range l.State().Program.Items {
			if item.Kind != program.Feature && item.Kind != program.Initiative {
				changes = append(changes, program.SetTo(program.Ref{Kind: program.KindItem, Key: item.Key}, "size", 1+n))
			}
		}
		_, err := l.Apply(ctx, ann, l.State().Revision, "Sizes", changes)
		require.NoError(b, err)
	}
	for b.Loop() {
		_, err := l.UnderWay(ctx, l.State())
		require.NoError(b, err)
	}
}

// BenchmarkComeBack5000 opens a line of 5,000 items that was released.
func BenchmarkComeBack5000(b *testing.B) {
	h := clocked(b, b.TempDir())
	id, err := h.Create(ctx, sample.Program(1, sample.Shape{Teams: 40, Iterations: 26, Items: 5000, Needs: 6000}).Normal())
	require.NoError(b, err)
	open := func() {
		request, end := context.WithCancel(ctx)
		_, err := h.Open(request, id)
		require.NoError(b, err)
		end()
	}
	open()
	for b.Loop() {
		b.StopTimer()
		for h.Counts().Lines > 0 { // its request has just ended
			h.Limit(1)
		}
		h.Limit(400 << 20)
		b.StartTimer()
		open()
	}
}

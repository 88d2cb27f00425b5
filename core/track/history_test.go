package track_test

import (
	"fmt"
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/core/track"
)

// firstLight is lamp with two features, of which one belongs to a release.
func firstLight() program.Program {
	p := lamp()
	p.Teams = append(p.Teams, program.Team{Key: "FW", Name: "Field Works", Unit: program.Days})
	p.Releases = []program.Release{{Key: "R1", Name: "First Light"}}
	p.Items = append(p.Items, program.Item{Key: "F1", Title: "F1", Kind: program.Feature, Release: "R1"}, program.Item{Key: "F2", Title: "F2", Kind: program.Feature})
	p.Items[0].Parent, p.Items[1].Parent, p.Items[2].Parent = "F1", "F1", "F2"
	return p
}

// The worked example of docs/track.md, section "A release".
func TestTheHistoryOfARelease(t *testing.T) {
	j := &journal{t: t, p: firstLight()}
	j.must(set("B", "state", program.Doing))                                                                       // Tue 12:00
	j.must(set("F2", "release", "R1"))                                                                             // 13:00, C comes along
	j.must(set("F1", "noRelease", true), set("F1", "release", nil))                                                // 14:00, A and B go
	j.must(set("F1", "release", "R1"))                                                                             // 15:00, and come again
	j.must(add(program.Item{Key: "E", Title: "E", Kind: program.Story, Team: "FW", Size: ptr(2.0), Parent: "F1"})) // 16:00
	j.must(set("B", "team", "FW"), set("B", "iteration", nil))                                                     // 17:00, from one team to the other
	j.must(set("B", "state", program.Done), set("B", "size", 4))                                                   // 18:00
	j.must(add(program.Item{Key: "G", Title: "G", Kind: program.Story, Team: "LC", Size: ptr(1.0), Parent: "E"}))  // 19:00, E is no leaf any more
	h := track.HistoryOf(j.p, track.Scope{Release: "R1"}, noon.Add(-time.Hour), j.events, noon.Add(-time.Hour), calendar.MustParse("2027-03-04"))
	all := h.All
	assert.Equal(t, track.Sum{Items: 2}, all.Start)
	assert.Equal(t, track.Sum{Items: 1 + 2 + 1 + 1}, all.Added)
	assert.Equal(t, track.Sum{Items: 2 + 1}, all.Removed)
	assert.Equal(t, track.Sum{Items: 4}, all.Total)
	assert.Equal(t, track.Sum{Items: 2}, all.Done, "B and C")
	var told, sizes []string
	for _, s := range all.Steps {
		told = append(told, fmt.Sprint(s.Item, " ", s.What, ": ", s.Total.Items, ", ", s.Done.Items, " done"))
	}
	assert.Equal(t, []string{"B moved: 2, 0 done", "C added: 3, 1 done", "A removed: 2, 1 done", "B removed: 1, 1 done", "A added: 2, 1 done", "B added: 3, 1 done",
		"E added: 4, 1 done", "B finished: 4, 2 done", "G added: 5, 2 done", "E removed: 4, 2 done"}, told, "from one team to the other it stays")
	require.Len(t, h.Teams, 2)
	lc, fw := h.Teams[0], h.Teams[1]
	for n := range j.events { // what there was after each edit
		size := func(run track.Run) float64 {
			total := run.Start.Size
			for _, s := range run.Steps {
				if s.Revision <= int64(n+1) {
					total = s.Total.Size
				}
			}
			return total
		}
		sizes = append(sizes, fmt.Sprint(size(lc), " ", size(fw)))
	}
	assert.Equal(t, []string{"8 0", "10 0", "2 0", "10 0", "10 2", "7 5", "7 6", "8 4"}, sizes)
	assert.Equal(t, []string{"LC", "FW"}, []string{lc.Team, fw.Team})
	assert.Equal(t, track.Sum{Items: 2, Size: 8}, lc.Start)
	assert.Equal(t, track.Sum{Items: 3, Size: 8}, lc.Total, "A, C and G")
	assert.Equal(t, track.Sum{Items: 1, Size: 4}, fw.Total)
	assert.Equal(t, track.Sum{Size: 1}, fw.Grown)

	assert.Equal(t, []track.Flow{
		{Day: calendar.MustParse("2027-03-02"), Todo: 1, Doing: 1, Done: 2},
		{Day: calendar.MustParse("2027-03-03"), Todo: 1, Doing: 1, Done: 2},
		{Day: calendar.MustParse("2027-03-04"), Todo: 1, Doing: 1, Done: 2},
	}, h.Flow)
	assert.Equal(t, []track.Passed{{Item: "B", Days: 1, On: calendar.MustParse("2027-03-02")}}, h.Pass.Done)
	assert.Equal(t, []track.Aged{{Item: "A", Days: 3, Over: true, Long: true}}, h.Pass.Going, "A was under way before")
	assert.Equal(t, []track.Week{{Monday: calendar.MustParse("2027-03-01"), Done: 1}}, h.Pass.Weeks)

	since := all.Since(noon.Add(4 * time.Hour))
	assert.Equal(t, track.Sum{Items: 3}, since.Start)
	assert.Equal(t, []track.Sum{{Items: 2}, {Items: 1}, {Items: 4}}, []track.Sum{since.Added, since.Removed, since.Total})
	assert.Equal(t, 8, all.Thin(2), "all of one day but the two last")
	assert.Len(t, all.Steps, 2)
}

// Whatever is edited, and whatever scope: sums always add up, and each step, each day and the end
// are what a recount of the program as it then was comes to; a part of a history is the history
// from then on.
func TestHistoriesAreWhatARecountSays(t *testing.T) {
	steps, drawn := 0, 0
	for seed := range uint64(24) {
		r := rand.New(rand.NewPCG(seed, 9))
		j := &journal{t: t, p: sample.Program(seed, sample.Shape{Teams: 3, Iterations: 4, Items: 25, Needs: 5, Wild: seed%2 == 0, Rough: seed%3 == 0})}
		first := j.p
		for range 150 {
			j.edit(hungEdit(r, j.p)...)
		}
		for _, scope := range []track.Scope{{}, {Release: "R0"}, {Item: anItem(r, j.p, program.Feature)}, {Team: "T1"}, {Release: "R1", Team: "T0"}, {Picked: map[string]bool{"I0": true, "I3": true, "I7": true, "F0": true}}} {
			from := noon.Add(time.Duration(r.IntN(80)) * time.Hour)
			today := calendar.OfTime(j.events[len(j.events)-1].At)
			h := track.HistoryOf(j.p, scope, from, j.events, noon, today)
			at := func(revision int64) program.Program {
				if revision < 1 {
					return first
				}
				return j.seen[revision-1]
			}
			started := int64(from.Sub(noon) / time.Hour) // edits come by the hour
			holds := func(run *track.Run, of track.Scope, sizes bool) {
				total, done, _ := scoped(at(started), of, sizes)
				same(t, total, run.Start)
				same(t, done, run.DoneBefore)
				for n, s := range run.Steps {
					if n+1 == len(run.Steps) || run.Steps[n+1].Revision != s.Revision { // the last of its edit
						total, done, _ := scoped(at(s.Revision), of, sizes)
						same(t, total, s.Total)
						same(t, done, s.Done)
					}
					steps++
				}
				total, done, _ = scoped(j.p, of, sizes)
				same(t, total, run.Total)
				same(t, done, run.Done)
				same(t, run.Total, track.Sum{Items: run.Start.Items + run.Added.Items - run.Removed.Items, Size: run.Start.Size + run.Added.Size - run.Removed.Size + run.Grown.Size - run.Shrunk.Size})
				same(t, run.Total, track.Sum{Items: run.Done.Items + run.Left.Items, Size: run.Done.Size + run.Left.Size})
			}
			holds(&h.All, scope, false)
			items := 0
			for i := range h.Teams {
				if run := &h.Teams[i]; run.Team != "" {
					holds(run, track.Scope{Release: scope.Release, Item: scope.Item, Picked: scope.Picked, Team: run.Team}, true)
				}
				items += h.Teams[i].Total.Items
			}
			assert.Equal(t, h.All.Total.Items, items, "each item is of one team, or of none")

			for _, flow := range h.Flow {
				last := int64(0)
				for _, e := range j.events {
					if calendar.OfTime(e.At) <= flow.Day {
						last = e.Revision
					}
				}
				_, _, states := scoped(at(last), scope, false)
				assert.Equal(t, []int{states[program.Todo], states[program.Doing], states[program.Review], states[program.Done]}, []int{flow.Todo, flow.Doing, flow.Review, flow.Done}, flow.Day)
			}
			later := from.Add(time.Duration(r.IntN(60)) * time.Hour)
			anew := track.HistoryOf(j.p, scope, later, j.events, noon, today)
			part := h.All.Since(later)
			require.Equal(t, anew.All, part)
			for _, s := range h.All.Steps {
				if changed := j.made[s.Revision-1]; (s.What == track.Added || s.What == track.Removed) && changed[0].Change.Key != s.Item {
					drawn++
				}
			}
		}
	}
	assert.Greater(t, steps, 1000)
	assert.Greater(t, drawn, 50, "items come and go with what they hang from")
}

// scoped is what counts in a scope, and is done, by a plain walk over the tree.
func scoped(p program.Program, scope track.Scope, sizes bool) (total, done track.Sum, states map[program.ItemState]int) {
	tree := program.TreeOf(p)
	states = map[program.ItemState]int{}
	for i := range p.Items {
		item := &p.Items[i]
		if item.KeptOut || scope.Picked != nil && !scope.Picked[item.Key] || !tree.IsLeaf(i) || scope.Team != "" && item.Team != scope.Team || scope.Release != "" && tree.Release(i) != scope.Release {
			continue
		}
		if scope.Item != "" {
			at := i
			for at >= 0 && p.Items[at].Key != scope.Item {
				at = tree.Parent[at]
			}
			if at < 0 {
				continue
			}
		}
		size := 0.0
		if sizes && item.Size != nil {
			size = *item.Size
		}
		total.Items, total.Size = total.Items+1, total.Size+size
		if item.State == program.Done {
			done.Items, done.Size = done.Items+1, done.Size+size
		}
		state := item.State
		if state == "" {
			state = program.Todo
		}
		states[state]++
	}
	return total, done, states
}

func anItem(r *rand.Rand, p program.Program, kind program.ItemKind) string {
	for {
		if i := p.Items[r.IntN(len(p.Items))]; i.Kind == kind {
			return i.Key
		}
	}
}

// hungEdit is an edit that may also hang an item elsewhere, or take it with all below it to another
// release; or a wildEdit.
func hungEdit(r *rand.Rand, p program.Program) []program.Change {
	i := p.Items[r.IntN(len(p.Items))]
	switch r.IntN(10) {
	case 0:
		return []program.Change{set(i.Key, "parent", anItem(r, p, program.Feature))}
	case 1:
		return []program.Change{set(i.Key, "parent", nil)}
	case 2:
		return []program.Change{set(anItem(r, p, program.Feature), "release", []any{nil, "R0", "R1"}[r.IntN(3)])}
	case 3:
		return []program.Change{set(i.Key, "noRelease", r.IntN(2) == 0)}
	case 4:
		return []program.Change{set(i.Key, "rough", []any{nil, []program.Rough{{Team: "T0", Size: 3}}}[r.IntN(2)])}
	case 5:
		return []program.Change{set(i.Key, "team", p.Teams[r.IntN(len(p.Teams))].Key), set(i.Key, "iteration", nil)}
	}
	return wildEdit(r, p)
}

// What becomes of documents needs libraries that the race detector would have to compile, and does nothing at once.

//go:build !memory

package live_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/act"
	"jantrel/core/cadence"
	"jantrel/core/intake"
	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/internal/exchange"
	"jantrel/internal/journal"
	"jantrel/internal/live"
)

// odd are texts that have broken programs: some are accepted as keys, all as titles.
var odd = []string{
	"A & B <c>", "a/b", "a b", "Ünïcödé", "日本", "'; DROP TABLE things; --", `"quoted"`, `back\slash`, "per%cent", "dot.", "#hash", "?q=1", "[0]", "null", "0", "-1",
	"\u2028", "e\u0301", "é", "a\nb", "tab\t", "\u0000", " lead", "trail ", "", strings.Repeat("k", 200), strings.Repeat("k", 201), "{\"a\":1}", "𝔘", "\ufeffbom", "junk",
}

// oddChange is a change whose references, keys and texts nobody would type: most should be
// refused, and what is accepted has to last.
func oddChange(r *rand.Rand, p program.Program) program.Change {
	text := func() string { return odd[r.IntN(len(odd))] }
	info := program.Kinds[r.IntN(len(program.Kinds))]
	things, err := p.Things(func(ref program.Ref) bool { return ref.Kind == info.Kind })
	if err != nil {
		panic(err)
	}
	c := program.Change{Op: []program.Op{program.Set, program.Set, program.Add, program.Remove, program.Move}[r.IntN(5)], Ref: program.Ref{Kind: info.Kind}}
	if len(things) > 0 && r.IntN(8) > 0 {
		some := things[r.IntN(len(things))]
		c.Ref = some.Ref
		if c.Op == program.Add { // one like it, under another name
			var body map[string]any
			if json.Unmarshal(some.Body, &body) == nil {
				c.Key = text()
				body[map[program.Kind]string{program.KindNeed: "needs"}[info.Kind]+map[bool]string{true: "", false: "key"}[info.Kind == program.KindNeed]] = c.Key
				for _, f := range []string{"title", "name", "text"} {
					if _, ok := body[f]; ok {
						body[f] = text()
					}
				}
				c.Value, _ = json.Marshal(body)
			}
		}
	}
	switch r.IntN(12) { // say more than is needed, or less
	case 0:
		c.In = text()
	case 1:
		c.Key = text()
	case 2:
		c.In, c.Key = "", ""
	}
	if c.Op == program.Set {
		field := info.Fields[r.IntN(len(info.Fields))]
		c.Field = field.Name
		switch r.IntN(4) {
		case 0:
			c.Value = json.RawMessage(`null`)
		case 1:
			c.Value = json.RawMessage(fmt.Sprint(r.IntN(20)))
		default:
			c.Value, _ = json.Marshal(text())
		}
	}
	if at := r.IntN(len(things) + 2); c.Op == program.Move || r.IntN(3) == 0 {
		c.At = &at
	}
	return c
}

// Whatever odd change is accepted: what is in memory, what is stored, what the journal leads
// to and what is written to a document are the same, before and after a stop.
func TestWhatIsAcceptedLasts(t *testing.T) {
	accepted := map[program.Kind]int{}
	for seed := range uint64(6) {
		folder := t.TempDir()
		h := hub(t, folder)
		p := sample.Program(seed, sample.Shape{Teams: 2, Iterations: 4, Items: 14, Needs: 6, Wild: true, Rough: true})
		p.Items[0].Title, p.Milestones = "A & B", []program.Milestone{{Key: "m & n", Name: "Trial", Date: sample.Today}}
		for i := range p.Cadences {
			p.Cadences[i].Ahead = 0 // a start keeps iterations ahead, by an edit
		}
		id, err := h.Create(ctx, p)
		require.NoError(t, err)
		l, err := h.Open(ctx, id)
		require.NoError(t, err)
		r := rand.New(rand.NewPCG(seed, 31))
		for range 500 {
			c := oddChange(r, l.State().Program)
			if _, err := l.Apply(ctx, ann, l.State().Revision, "Odd", []program.Change{c}); err == nil {
				accepted[c.Kind]++
			}
		}
		// A team that came without iterations gets those that its cadence keeps ahead when the line is opened: that is
		// an edit, and no loss.
		if kept := cadence.Keep(l.State().Program, l.State().Today); len(kept) > 0 {
			_, err = l.Apply(ctx, ann, l.State().Revision, "Keep iterations ahead", kept)
			require.NoError(t, err)
		}
		now := asJSON(t, l.State().Program)
		line, err := h.Store().Live(ctx, id)
		require.NoError(t, err)
		found, err := live.Check(ctx, h.Store(), line.ID)
		require.NoError(t, err)
		require.Empty(t, found.Faults, "seed %d", seed)
		again, err := hub(t, folder).Open(ctx, id)
		require.NoError(t, err)
		then := asJSON(t, again.State().Program)
		if at := firstDifference(now, then); at >= 0 {
			require.Fail(t, "a stop changed something", "seed %d: …%.200s… became …%.200s…", seed, now[max(0, at-80):], then[max(0, at-80):])
		}
		var document bytes.Buffer
		require.NoError(t, exchange.WriteDocument(&document, again.State().Program))
		read, err := exchange.ReadDocument(&document)
		require.NoError(t, err, "seed %d", seed)
		require.Equal(t, asJSON(t, again.State().Program.WithoutAuthors()), asJSON(t, read), "seed %d", seed)
		_, err = again.Apply(ctx, ann, again.State().Revision, "Name", []program.Change{program.SetTo(program.Ref{Kind: program.KindProgram}, "name", "Still works")})
		require.NoError(t, err)
	}
	for _, info := range program.Kinds {
		assert.Greater(t, accepted[info.Kind], 3, "%s: enough of the odd changes are accepted for this to say something", info.Kind)
	}
}

// A row that does not say what its edits say is found.
func TestWhatIsStoredOtherwiseIsFound(t *testing.T) {
	h := hub(t, t.TempDir())
	id, err := h.Create(ctx, sample.Program(1, sample.Shape{Teams: 2, Iterations: 4, Items: 14, Needs: 6}))
	require.NoError(t, err)
	l, err := h.Open(ctx, id)
	require.NoError(t, err)
	before := l.State().Program
	ref := program.Ref{Kind: program.KindItem, Key: before.Items[2].Key}
	_, err = l.Apply(ctx, ann, l.State().Revision, "Title", []program.Change{program.SetTo(ref, "title", "Acknowledged")})
	require.NoError(t, err)
	line, err := h.Store().Live(ctx, id)
	require.NoError(t, err)
	edits, err := h.Store().EditsBetween(ctx, line.ID, line.Revision-1, line.Revision)
	require.NoError(t, err)
	lost := edits[0]
	lost.Revision++
	// The same again, journalled, but with the things of before: as when a row is not written.
	require.NoError(t, h.Store().Commit(ctx, line.ID, before, journal.Edit{Revision: lost.Revision, At: lost.At, Actor: "x", Client: "x", Label: "x", Sort: journal.Plain, Changes: lost.Changes}))
	found, err := live.Check(ctx, h.Store(), line.ID)
	require.NoError(t, err)
	require.Len(t, found.Faults, 1)
	assert.Contains(t, found.Faults[0], ref.Describe())
}

// firstDifference is where two texts begin to differ; -1: nowhere.
func firstDifference(a, b string) int {
	if a == b {
		return -1
	}
	at := 0
	for at < len(a) && at < len(b) && a[at] == b[at] {
		at++
	}
	return at
}

// The key of an item that is gone is given to no other, before or after a stop, by whatever
// way; taking the removal back brings the item itself.
func TestKeysAreNotUsedTwice(t *testing.T) {
	folder := t.TempDir()
	h := hub(t, folder)
	p := program.Program{Name: "P", Teams: []program.Team{{Key: "LC", Name: "Lamp Control", Unit: program.Points}},
		Items: []program.Item{{Key: "LC-1", Title: "One", Kind: program.Story, Team: "LC"}, {Key: "LC-2", Title: "Two", Kind: program.Story, Team: "LC"}}}.Normal()
	id, err := h.Create(ctx, p)
	require.NoError(t, err)
	l, err := h.Open(ctx, id)
	require.NoError(t, err)
	do := func(l *live.Line, intent act.Intent) (live.Done, error) {
		return l.Do(ctx, ann, live.Request{Intent: intent, Base: l.State().Revision})
	}
	_, err = do(l, act.Delete{Keys: []string{"LC-2"}})
	require.NoError(t, err)
	check := func(l *live.Line, next string) {
		made, err := do(l, act.AddOutline{Text: "Another", Under: intake.Under{Team: "LC"}})
		require.NoError(t, err)
		assert.Equal(t, []string{next}, made.Keys)
		add := program.AddOf(program.Ref{Kind: program.KindItem, Key: "LC-2"}, program.Item{Key: "LC-2", Title: "Again", Kind: program.Story})
		_, err = l.Apply(ctx, ann, l.State().Revision, "Add", []program.Change{add})
		assert.ErrorContains(t, err, "of an item that is gone")
		_, err = l.Propose(ann, act.Make{Changes: []program.Change{add}})
		assert.ErrorContains(t, err, "of an item that is gone")
		_, err = do(l, act.TakeIn{Columns: []string{"key", "title"}, Rows: [][]string{{"LC-2", "Again"}}})
		assert.ErrorContains(t, err, "of an item that is gone")
	}
	check(l, "LC-3")
	again, err := hub(t, folder).Open(ctx, id)
	require.NoError(t, err)
	check(again, "LC-4")
	for range 2 { // the outline, then the removal; those of another start
		_, err = again.Undo(ctx, ann)
		require.NoError(t, err)
	}
	_, err = again.Undo(ctx, ann)
	require.NoError(t, err)
	assert.Equal(t, asJSON(t, p.Items), asJSON(t, again.State().Program.Items), "undone, the item itself is back")
	_, err = again.Redo(ctx, ann)
	require.NoError(t, err)
	check(again, "LC-5")
}

// A server that starts often and makes little each time never has a long way to check.
func TestStartsThatDoLittleKeepTheCheckShort(t *testing.T) {
	computes(t)
	folder := t.TempDir()
	h, l := start(t, folder)
	longest := 0
	for round := range 8 {
		keys := l.State().Program.Items
		changes := make([]program.Change, 1500)
		for i := range changes {
			changes[i] = title(keys[i%len(keys)].Key, fmt.Sprintf("%d %d", round, i))
		}
		_, err := l.Apply(ctx, ann, l.State().Revision, "Many", changes)
		require.NoError(t, err)
		h.Close()
		h = hub(t, folder)
		l, err = h.Open(ctx, 1)
		require.NoError(t, err)
		h.Close() // waits for what goes on in the background
		checked, err := live.Check(ctx, h.Store(), 1)
		require.NoError(t, err)
		assert.Empty(t, checked.Faults)
		longest = max(longest, checked.Changes)
	}
	assert.Less(t, longest, 4000)
	assert.Greater(t, longest, 1500, "a checkpoint is not left behind each time")
}

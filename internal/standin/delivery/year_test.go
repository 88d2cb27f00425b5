package delivery_test

import (
	"context"
	"encoding/json"
	"fmt"
	"log/slog"
	"math"
	"net/http"
	"net/http/httptest"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/act"
	"jantrel/core/calendar"
	"jantrel/core/forecast"
	"jantrel/core/program"
	"jantrel/core/roles"
	"jantrel/core/sample"
	"jantrel/core/track"
	"jantrel/internal/account"
	"jantrel/internal/api"
	"jantrel/internal/demo"
	"jantrel/internal/feeds"
	"jantrel/internal/live"
	"jantrel/internal/standin/delivery"
	"jantrel/internal/store"
)

// harbour is a server whose clock is set, and teams that work on its one program with a token.
type harbour struct {
	*delivery.Delivery
	url string
	now time.Time
	hub *live.Hub
	id  int64
}

func newHarbour(t *testing.T, p program.Program, day program.Date, seed uint64) *harbour {
	t.Helper()
	db, err := store.Open(t.TempDir())
	require.NoError(t, err)
	h := &harbour{now: day.Time()}
	hub := live.NewHub(db, func() time.Time { return h.now }, func() program.Date { return calendar.OfTime(h.now) })
	id, err := hub.Create(t.Context(), p)
	require.NoError(t, err)
	accounts := account.New(db, time.Now)
	made, err := accounts.AddWithoutPassword(t.Context(), "delivery", "Delivery", false)
	require.NoError(t, err)
	require.NoError(t, db.SaveMembership(t.Context(), store.Membership{AccountID: made.ID, ProgramID: id, Role: roles.Manager}))
	token, err := accounts.NewToken(t.Context(), made.ID, id, "Delivery", roles.Manager, time.Now().Add(time.Hour))
	require.NoError(t, err)
	server := httptest.NewServer(api.New(api.Options{Hub: hub, Accounts: accounts, Feeds: feeds.NewCalendars(""), Log: slog.New(slog.DiscardHandler), Version: "test"}))
	t.Cleanup(func() {
		hub.Close()
		server.Close()
		_ = db.Close()
	})
	h.hub, h.id = hub, id
	h.url = fmt.Sprintf("%s/api/v1/programs/%d", server.URL, id)
	h.Delivery = delivery.New(&delivery.Client{Base: server.URL, Program: id, Token: token, HTTP: server.Client()}, seed)
	h.At = func(ctx context.Context, when time.Time) error {
		h.now = when
		return ctx.Err()
	}
	return h
}

// get asks the server something.
func (h *harbour) get(t *testing.T, path string, into any) {
	t.Helper()
	request, err := http.NewRequestWithContext(t.Context(), http.MethodGet, h.url+path, nil)
	require.NoError(t, err)
	request.Header.Set("Authorization", "Bearer "+h.Client.Token)
	response, err := h.Client.HTTP.Do(request)
	require.NoError(t, err)
	defer func() { _ = response.Body.Close() }()
	require.Equal(t, http.StatusOK, response.StatusCode, path)
	require.NoError(t, json.NewDecoder(response.Body).Decode(into))
}

// sums are what became of an iteration, from one side or the other.
type sums struct {
	Completed, Added, Removed, Grown, Shrunk float64
	Items, In, Out, Back                     int
}

// remembered is what those who worked remember, by iteration; and what was done on each day, by team.
func remembered(r *delivery.Record) (map[string]sums, map[string]map[program.Date]float64) {
	all, days := map[string]sums{}, map[string]map[program.Date]float64{}
	for _, x := range r.Done {
		s := all[x.Iteration]
		s.Completed, s.Items = s.Completed+x.Size, s.Items+1
		all[x.Iteration] = s
		if days[x.Team] == nil {
			days[x.Team] = map[program.Date]float64{}
		}
		days[x.Team][x.On] += x.Size
	}
	for _, x := range r.Scope {
		s := all[x.Iteration]
		switch {
		case x.Kind == delivery.Added:
			s.Added, s.In = s.Added+x.Size, s.In+1
		case x.Kind == delivery.Removed:
			s.Removed, s.Out = s.Removed+x.Size, s.Out+1
		case x.Size > 0:
			s.Grown += x.Size
		default:
			s.Shrunk -= x.Size
		}
		all[x.Iteration] = s
	}
	for _, x := range r.SentBack {
		s := all[x.Iteration]
		s.Back++
		all[x.Iteration] = s
	}
	return all, days
}

// A year of six teams, or as many days of it as a run of the tests has time for, worked through the interface as any service works. What the server then says of
// it - velocities, ledgers, burndowns, hours - is what those remember who did it.
func TestAYear(t *testing.T) {
	day := calendar.MustParse("2027-01-04")
	h := newHarbour(t, demo.Program(day), day, 7)
	last := day.Add(int(sample.Seeds(364)))
	if testing.Short() {
		last = day.Add(60)
	}
	require.NoError(t, h.Days(t.Context(), calendar.Span{Start: day, End: last}))
	t.Logf("%d things done: %d items done, %d sent back, %d iterations closed, %d changes of scope", h.Record.Edits, len(h.Record.Done), len(h.Record.SentBack), len(h.Record.Closed), len(h.Record.Scope))
	w, err := h.Client.Look(t.Context())
	require.NoError(t, err)
	require.Empty(t, program.Validate(w.Program))
	all, days := remembered(&h.Record)
	assert.Greater(t, len(h.Record.Closed), 6*len(days)/2)

	// Velocity and ledger of every iteration that was closed: the sums add up.
	teams := w.Program.TeamIndex()
	for _, c := range h.Record.Closed {
		it, _ := w.Program.Teams[teams[c.Team]].Find(c.Iteration)
		want := all[c.Iteration]
		assert.InDelta(t, want.Completed, *it.Completed, 1e-9, c.Iteration)
		assert.Equal(t, want.Items, *it.CompletedItems, c.Iteration)
		var r track.Review
		h.get(t, fmt.Sprintf("/iteration-review?team=%s&iteration=%s", c.Team, c.Iteration), &r)
		got := sums{Completed: r.Done.Size - r.DoneBefore.Size, Items: r.Done.Items - r.DoneBefore.Items, Added: r.Added.Size, In: r.Added.Items,
			Removed: r.Removed.Size - r.Carried.Size, Out: r.Removed.Items - r.Carried.Items, Grown: r.Grown.Size, Shrunk: r.Shrunk.Size}
		for _, b := range r.SentBack {
			got.Back += b.Times
		}
		assert.Equal(t, want, got, c.Iteration)
		assert.InDelta(t, r.Start.Size+got.Added-r.Removed.Size+got.Grown-got.Shrunk, r.Total.Size, 1e-9, c.Iteration)
	}

	// The burndown of each team: what was done by the end of each day, and in all.
	for _, team := range w.Program.Teams {
		var told struct{ Teams []track.Run }
		h.get(t, fmt.Sprintf("/scope-history?team=%s&line=%s", team.Key, team.Key), &told)
		require.Len(t, told.Teams, 1, team.Key)
		run, sum, at := told.Teams[0], 0.0, 0
		for d := day; d <= last; d++ {
			sum += days[team.Key][d]
			done := run.DoneBefore.Size
			for ; at < len(run.Steps) && calendar.OfTime(run.Steps[at].At.UTC()) <= d; at++ {
			}
			if at > 0 {
				done = run.Steps[at-1].Done.Size
			}
			require.InDelta(t, run.DoneBefore.Size+sum, done, 1e-9, "%s on %s", team.Key, d)
		}
		assert.InDelta(t, run.Done.Size, run.DoneBefore.Size+sum, 1e-9, team.Key)
		assert.InDelta(t, run.Total.Size-run.Done.Size, run.Left.Size, 1e-9, team.Key)
	}

	// Hours, by person.
	var report struct {
		Lines []struct {
			Key   string
			Spent float64
		}
	}
	h.get(t, fmt.Sprintf("/hours?from=%s&to=%s&by=person", day, last), &report)
	spent := map[string]float64{}
	for _, line := range report.Lines {
		if line.Spent > 0 {
			spent[line.Key] = line.Spent
		}
	}
	assert.Equal(t, h.Record.Hours, spent)
	h.lookBack(t, last, last == day.Add(364))
	for _, team := range w.Program.Teams {
		assert.Equal(t, h.Record.Red[team.Key], team.Builds[len(team.Builds)-1].State == program.Red, team.Key)
	}
}

// lookBack compares what forecasts said with what those remember who did the work: what was said at some odds came
// at least as often, as far as luck lets one tell.
func (h *harbour) lookBack(t *testing.T, last program.Date, year bool) {
	t.Helper()
	h.now = last.Add(1).Time().Add(9 * time.Hour)
	line, err := h.hub.Open(t.Context(), h.id)
	require.NoError(t, err)
	state := line.State()
	short, err := line.BackTest(t.Context(), state, 0)
	require.NoError(t, err)
	assert.True(t, short.More, "there was no time")
	assert.Positive(t, short.LeftOut)
	found, err := line.BackTest(t.Context(), state, time.Hour)
	require.NoError(t, err)
	assert.Zero(t, found.LeftOut)
	assert.False(t, found.More)
	assert.GreaterOrEqual(t, line.LookedBack(), len(found.Iterations))
	closed := map[string]bool{}
	for _, c := range h.Record.Closed {
		closed[c.Iteration] = true
	}
	for i, s := range found.Iterations {
		assert.True(t, closed[s.Iteration], s.Iteration)
		assert.LessOrEqual(t, s.Came, s.Size, s.Iteration)
		assert.True(t, i == 0 || found.Iterations[i-1].By <= s.By)
	}
	for _, k := range found.Kept {
		t.Logf("at %d %%: really said %.1f %%, came %d of %d, luck alone %d to %d", k.Odds, 100*k.Said, k.Came, k.Of, k.Least, k.Most)
		odds := float64(k.Odds) / 100
		spread := math.Sqrt(float64(k.Of) * odds * (1 - odds))
		assert.Greater(t, float64(k.Came), float64(k.Of)*odds-1.645*spread, "at %d %%", k.Odds)
	}

	// Where they were too sure, wider paces are tried until they are no more; who asks again is told the same.
	assert.Equal(t, forecast.TooSure(found.Kept), len(found.Wider) > 0)
	for i, w := range found.Wider {
		last := i == len(found.Wider)-1
		assert.Equal(t, !last, forecast.TooSure(w.Kept) && w.Spread < slices.Max(forecast.WiderSpreads), "%v", w.Spread)
	}
	again, err := line.BackTest(t.Context(), state, time.Hour)
	require.NoError(t, err)
	assert.Equal(t, found, again)

	// A release has landed on the day on which those who worked on it were done with it.
	done := map[string]program.Date{}
	for _, x := range h.Record.Done {
		done[x.Item] = max(done[x.Item], x.On)
	}
	landed := map[string]program.Date{}
	for i := range state.Items {
		if r := state.Tree().Release(i); r != "" {
			landed[r] = max(landed[r], done[state.Items[i].Key])
		}
	}
	for _, r := range found.Releases {
		assert.Equal(t, landed[r.Release], r.Landed, r.Release)
		assert.Equal(t, r.Landed.Add(-7*r.Weeks), r.On)
	}
	for _, e := range found.Errors {
		t.Logf("%d weeks before, of %d releases: landed %.1f days later than said at even odds, %d by what was said at 85 %%", e.Weeks, e.Of, e.Mean, e.By85)
	}
	if year {
		assert.GreaterOrEqual(t, len(found.Iterations), len(closed)*9/10, "those that were under way when the journal began are not told")
		assert.Len(t, found.Errors, len(forecast.WeeksBefore), "both releases landed")
	}
}

// The same seed on the same program comes to the same, another does not.
func TestTheSameSeed(t *testing.T) {
	day := calendar.MustParse("2027-01-04")
	after := func(seed uint64) string {
		h := newHarbour(t, demo.Program(day), day, seed)
		require.NoError(t, h.Days(t.Context(), calendar.Span{Start: day, End: day.Add(20)}))
		w, err := h.Client.Look(t.Context())
		require.NoError(t, err)
		text, err := json.Marshal(w.Program)
		require.NoError(t, err)
		return string(text)
	}
	first := after(3)
	assert.Equal(t, first, after(3))
	assert.NotEqual(t, first, after(4))
}

// On a clock that stands still, and where nobody works, days go by at their pace: simulated time always
// runs on, and every day has an end.
func TestDaysOnWhichNothingIsDone(t *testing.T) {
	day := calendar.MustParse("2027-01-09") // a Saturday
	h := newHarbour(t, program.Program{Name: "Quiet"}.Normal(), day, 1)
	var ends []time.Time
	h.At = func(_ context.Context, when time.Time) error {
		ends = append(ends, when)
		return nil
	}
	require.NoError(t, h.Live(t.Context(), 3, func(today program.Date) { assert.Equal(t, day, today) }))
	require.Len(t, ends, 3)
	for n, end := range ends {
		assert.Equal(t, day.Add(n).Time().Add(18*time.Hour), end)
	}
}

// A server that asks to wait is asked again; what it refuses is told in its words.
func TestWhatAServerAnswers(t *testing.T) {
	asked := 0
	server := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		asked++
		switch {
		case asked == 1:
			w.Header().Set("Retry-After", "0")
			w.WriteHeader(http.StatusTooManyRequests)
		case asked == 2:
			_, _ = w.Write([]byte(`{"revision":12,"program":{"name":"P"}}`))
		case asked == 3:
			w.WriteHeader(http.StatusForbidden)
			_, _ = w.Write([]byte(`{"title":"Forbidden","detail":"Nothing was changed: ask a program manager."}`))
		default:
			w.WriteHeader(http.StatusBadGateway)
			_, _ = w.Write([]byte("<html>"))
		}
	}))
	defer server.Close()
	c := &delivery.Client{Base: server.URL + "/", Program: 3, HTTP: server.Client()}
	w, err := c.Look(t.Context())
	require.NoError(t, err)
	assert.Equal(t, "P", w.Program.Name)
	_, err = c.Look(t.Context())
	assert.EqualError(t, err, "the server says 403: Nothing was changed: ask a program manager.")
	_, err = c.Signal(t.Context(), act.ReportSignals{})
	assert.ErrorContains(t, err, "is this a Jantrel server?")
	gone, cancel := context.WithCancel(t.Context())
	cancel()
	assert.ErrorIs(t, delivery.New(c, 1).Live(gone, 0, func(program.Date) {}), context.Canceled)
}

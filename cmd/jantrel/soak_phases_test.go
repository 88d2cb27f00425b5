package main_test

import (
	"context"
	"fmt"
	"io"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/briefs"
	"jantrel/core/roles"
	"jantrel/core/sample"
	"jantrel/internal/account"
	"jantrel/internal/journal"
	"jantrel/internal/store"
)

const (
	soakMany  = 500  // programs that are opened one after the other, where there is time for it, and then scenarios of one
	soakItems = 5000 // of each
)

// fill makes what the phases are about: links, and programs that are only opened.
func (s *soak) fill(t *testing.T, db *store.Store, many int) {
	t.Helper()
	ctx := t.Context()
	maker, err := db.AccountBy(ctx, "login", "client0")
	require.NoError(t, err)
	link := func(l store.Link, end string) {
		secret, hash := account.NewSecret()
		l.Program, l.MakerID, l.MadeAt = 1, maker.ID, time.Now().UTC().Format(time.RFC3339Nano)
		_, err := db.AddLink(ctx, l, hash)
		require.NoError(t, err)
		s.links = append(s.links, "/shared/"+secret+end)
	}
	b, err := db.AddBrief(ctx, store.Brief{Program: 1, Author: "client0", Body: briefs.Brief{Title: "Plan", Sections: []briefs.Section{}}})
	require.NoError(t, err)
	b.Written = &briefs.Written{Title: "Plan", Sections: []briefs.Told{}}
	b, err = db.PublishBrief(ctx, b)
	require.NoError(t, err)
	link(store.Link{Kind: store.ToBrief, About: b.ID}, "")
	link(store.Link{Kind: store.ToDates, Body: []byte(`["releases","iterations"]`)}, "/dates.ics")

	looks, err := db.AccountBy(ctx, "login", "viewer")
	require.NoError(t, err)
	p := sample.Program(1, sample.Shape{Teams: 40, Iterations: 20, Items: soakItems, Needs: soakItems / 4})
	for n := range many {
		p.Name = fmt.Sprintf("Large %d", n)
		id, err := db.Create(ctx, p)
		require.NoError(t, err)
		require.NoError(t, db.SaveMembership(ctx, store.Membership{AccountID: looks.ID, ProgramID: id, Role: roles.Viewer}))
		s.many = append(s.many, id)
	}
	first, err := db.Live(ctx, s.many[0])
	require.NoError(t, err)
	for n := range journal.MaxScenarios {
		made, err := db.MakeScenario(ctx, first, 0, journal.About{Name: fmt.Sprintf("What if %d", n), Shared: true})
		require.NoError(t, err)
		s.lines = append(s.lines, made.ID)
	}
}

// phases are what happens beside, one after the other, each for a part of the time.
func (s *soak) phases(ctx context.Context, t *testing.T, lasts time.Duration) {
	wait := func(share float64) bool {
		select {
		case <-ctx.Done():
			return false
		case <-time.After(time.Duration(share * float64(lasts))):
			return true
		}
	}
	during := func(share float64, many int, do func(ctx context.Context, n int)) {
		part, end := context.WithTimeout(ctx, time.Duration(share*float64(lasts)))
		defer end()
		var at sync.WaitGroup
		for n := range many {
			at.Go(func() { do(part, n) })
		}
		at.Wait()
	}
	if !wait(0.1) {
		return
	}
	during(0.15, 45, s.long)
	during(0.15, 90, s.follow)
	s.restore(t)
	during(0.5, 1, s.open)
}

// long asks for what takes long as somebody who only looks, each time for something else.
func (s *soak) long(ctx context.Context, n int) {
	for seed := 1; ctx.Err() == nil; seed++ {
		s.ask(ctx, s.looks, "long", http.MethodGet, fmt.Sprintf("/programs/1/forecast?items=true&plays=100000&seed=%d", n*100_000+seed), "", nil)
	}
}

// follow follows links as fast as it can.
func (s *soak) follow(ctx context.Context, n int) {
	for ctx.Err() == nil {
		s.ask(ctx, "", "link", http.MethodGet, s.links[n%len(s.links)], "", nil)
	}
}

// open opens many programs, and scenarios of one of them, again and again.
func (s *soak) open(ctx context.Context, _ int) {
	for ctx.Err() == nil {
		for _, id := range s.many {
			s.ask(ctx, s.looks, "open a program", http.MethodGet, fmt.Sprintf("/programs/%d/outline", id), "", nil)
		}
		for _, line := range s.lines {
			s.ask(ctx, s.looks, "open a scenario", http.MethodGet, fmt.Sprintf("/programs/%d/outline?scenario=%d", s.many[0], line), "", nil)
		}
	}
}

// restore makes a backup while all go on, stops the server, and goes on with what the backup holds.
func (s *soak) restore(t *testing.T) {
	backup := filepath.Join(t.TempDir(), "backup.db")
	out, errs, code := run(t, "", "backup", backup, "--data", s.data)
	assert.Zero(t, code, out+errs)
	s.down.Store(true)
	s.peak = max(s.peak, s.memory("VmHWM"))
	assert.NoError(t, s.server.Process.Signal(syscall.SIGTERM))
	assert.NoError(t, s.server.Wait())
	_, errs, code = run(t, "", "restore", backup, "--data", s.data)
	assert.NotZero(t, code, "there is a database")
	assert.Contains(t, errs, "move it away")
	assert.NoError(t, os.Rename(s.data, s.data+".before"))
	out, errs, code = run(t, "", "restore", backup, "--data", s.data)
	assert.Zero(t, code, out+errs)
	at := strings.TrimPrefix(s.url, "http://")
	s.start(t, at)
	for id := 1; id <= soakPrograms; id++ {
		s.revision[id].Store(s.newest(id))
	}
	s.down.Store(false)
}

// newest is the revision that a program has.
func (s *soak) newest(id int) (revision int64) {
	request, err := http.NewRequest(http.MethodGet, fmt.Sprintf("%s/api/v1/programs/%d/journal?limit=1", s.url, id), nil)
	if err != nil {
		return 0
	}
	request.AddCookie(&http.Cookie{Name: "jantrel-session", Value: s.sessions[id-1]})
	response, err := patient.Do(request)
	if err != nil {
		return 0
	}
	defer func() { _ = response.Body.Close() }()
	text, _ := io.ReadAll(response.Body)
	_, _ = fmt.Sscanf(string(text), `[{"revision":%d`, &revision)
	return revision
}

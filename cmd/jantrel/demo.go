package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"net"
	"net/http"
	"os"
	"time"

	"github.com/spf13/cobra"

	"jantrel/core/calendar"
	"jantrel/core/program"
	"jantrel/core/roles"
	"jantrel/internal/account"
	"jantrel/internal/api"
	"jantrel/internal/demo"
	"jantrel/internal/feeds"
	"jantrel/internal/live"
	"jantrel/internal/standin"
	"jantrel/internal/standin/delivery"
	"jantrel/internal/store"
)

func demoCommand() *cobra.Command {
	var f serveFlags
	var pace time.Duration
	cmd := &cobra.Command{
		Use: "demo", Short: "Serve a fresh demo program", Args: cobra.NoArgs,
		Long: "Serve a fresh demo program, Beacon Renewal, laid around today. A click signs in as one of its made-up\naccounts, one of each role and a second team lead; so it listens on addresses of this machine alone.\n\nWithout --data it lives in a temporary folder that goes when the server stops. With --data the\ndemo is made once and kept: edits are still there the next time.\n\nIts teams work while it is up: a stand-in simulates them, as jantrel standin delivery does. With --today they\nkeep still unless --pace says otherwise.",
		RunE: func(cmd *cobra.Command, _ []string) error {
			if f.data == "" {
				folder, err := os.MkdirTemp("", "jantrel-demo-")
				if err != nil {
					return err
				}
				defer func() { _ = os.RemoveAll(folder) }()
				f.data = folder
			}
			if !f.today.date.IsZero() && !cmd.Flags().Changed("pace") {
				pace = 0
			}
			return f.serve(cmd.Context(), func(ctx context.Context, hub *live.Hub, accounts *account.Service, listener net.Listener) (api.Options, error) {
				o, err := prepareDemo(ctx, hub, accounts, listener)
				if err == nil && pace > 0 {
					err = bringToLife(ctx, accounts, listener, pace)
				}
				return o, err
			})
		},
	}
	f.register(cmd, "", "folder to keep the demo in; a temporary one where left out")
	cmd.Flags().DurationVar(&pace, "pace", 20*time.Minute, "how long a day of the simulated teams takes; 0: nobody works")
	return cmd
}

// makeDemo makes the demo program: as it was when the iterations under way began, and then edit by
// edit, each at its time.
func makeDemo(ctx context.Context, db *store.Store, today program.Date) (int64, error) {
	first, edits := demo.Past(today, time.Local)
	var now time.Time
	hub := live.NewHub(db, func() time.Time { return now }, func() program.Date { return calendar.OfTime(now) })
	defer hub.Close()
	now = edits[0].At
	id, err := hub.Create(ctx, first)
	if err != nil {
		return 0, err
	}
	line, err := hub.Open(ctx, id)
	if err != nil {
		return 0, err
	}
	promises := demo.Promises(today, time.Local)
	for _, e := range edits {
		for len(promises) > 0 && !promises[0].At.After(e.At) {
			if err := give(ctx, line, &now, promises[0]); err != nil {
				return 0, err
			}
			promises = promises[1:]
		}
		now = e.At
		if _, err := line.Apply(ctx, live.Author{Actor: e.By}, line.State().Revision, e.Label, e.Changes); err != nil {
			return 0, fmt.Errorf("the demo's past, %s: %w", e.Label, err)
		}
	}
	return id, nil
}

// give gives a promise at its time.
func give(ctx context.Context, line *live.Line, now *time.Time, p demo.Promised) error {
	*now = p.At
	intent, err := line.Promise(ctx, p.Promise)
	if err == nil {
		_, err = line.Do(ctx, live.Author{Actor: p.By}, live.Request{Intent: intent, Base: line.State().Revision})
	}
	if err != nil {
		return fmt.Errorf("the demo's past, a promise to %s: %w", p.Promise.To, err)
	}
	return nil
}

// prepareDemo makes the demo program and its accounts where they are missing, and
// starts the stand-in calendars.
func prepareDemo(ctx context.Context, hub *live.Hub, accounts *account.Service, listener net.Listener) (api.Options, error) {
	var o api.Options
	if !isLoopback(listener) {
		return o, fmt.Errorf("the demo lets in whoever clicks, so it is not served on %s, which others can reach; use an address like 127.0.0.1:8080", listener.Addr())
	}
	list, err := accounts.Store().Programs(ctx)
	if err != nil {
		return o, err
	}
	if len(list) == 0 {
		id, err := makeDemo(ctx, accounts.Store(), hub.Today())
		if err != nil {
			return o, err
		}
		for _, a := range demo.Accounts {
			made, err := accounts.AddWithoutPassword(ctx, a.Login, a.Name, a.Admin)
			if err == nil {
				err = accounts.Store().SaveMembership(ctx, store.Membership{AccountID: made.ID, ProgramID: id, Role: a.Role, Person: a.Person})
			}
			if err != nil {
				return o, err
			}
		}
	}
	for _, a := range demo.Accounts {
		o.Demo = append(o.Demo, api.DemoAccount{Login: a.Login, Name: a.Name, Role: string(a.Role)})
	}
	calendars, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return o, err
	}
	server := &http.Server{Handler: standin.Calendars(demo.Program(hub.Today()), hub.Today()), ReadHeaderTimeout: 5 * time.Second}
	go func() { _ = serveUntil(ctx, server, calendars) }()
	o.Feeds = feeds.NewCalendars("http://" + calendars.Addr().String())
	return o, nil
}

// teamsLogin is the account of the simulated teams.
const teamsLogin = "teams"

// bringToLife has simulated teams work on the demo until ctx ends: over the interface, with an account
// and a token of their own.
func bringToLife(ctx context.Context, accounts *account.Service, listener net.Listener, pace time.Duration) error {
	db := accounts.Store()
	programs, err := db.Programs(ctx)
	if err != nil || len(programs) == 0 {
		return err
	}
	id := programs[0].ID
	teams, err := db.AccountBy(ctx, "login", teamsLogin)
	if errors.Is(err, store.ErrNoAccount) {
		if teams, err = accounts.AddWithoutPassword(ctx, teamsLogin, "Simulated teams", false); err == nil {
			err = db.SaveMembership(ctx, store.Membership{AccountID: teams.ID, ProgramID: id, Role: roles.Manager})
		}
	}
	if err != nil {
		return err
	}
	old, err := db.TokensOf(ctx, teams.ID) // their secrets went with the last stop
	for _, t := range old {
		if err == nil {
			err = db.RemoveToken(ctx, teams.ID, t.ID)
		}
	}
	if err != nil {
		return err
	}
	token, err := accounts.NewToken(ctx, teams.ID, id, "Stand-in", roles.Manager, time.Now().AddDate(1, 0, -1))
	if err != nil {
		return err
	}
	client := &delivery.Client{Base: "http://" + listener.Addr().String(), Program: id, Token: token, HTTP: &http.Client{Timeout: time.Minute}}
	go func() {
		if err := simulate(ctx, client, uint64(time.Now().Unix()), pace, 0, io.Discard); err != nil && ctx.Err() == nil {
			_, _ = fmt.Fprintln(os.Stderr, "The simulated teams have stopped:", err)
		}
	}()
	return nil
}

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

	"jantrel/core/program"
	"jantrel/internal/demo"
	"jantrel/internal/standin"
	"jantrel/internal/standin/delivery"
)

func standInCommand() *cobra.Command {
	var addr string
	var today dateFlag
	cmd := &cobra.Command{
		Use: "standin", Short: "Stand in for the outside world: calendars, and teams that work", Args: cobra.NoArgs,
		Long: "Serve an iCalendar feed for every person of the demo, at /calendars/p01.ics and so on, and one of its\nholidays at /calendars/holidays.ics. The demo runs one of its own; serve uses this one with --standin.\n\njantrel standin delivery stands in for teams that work on a program.",
		RunE: func(cmd *cobra.Command, _ []string) error {
			listener, err := net.Listen("tcp", addr)
			if err != nil {
				return cannotListen(addr, err)
			}
			day := today.clock()()
			server := &http.Server{Handler: standin.Calendars(demo.Program(day), day), ReadHeaderTimeout: 5 * time.Second}
			_, _ = fmt.Fprintf(cmd.OutOrStdout(), "Stand-in calendars are at http://%s/calendars/p01.ics and so on\n", listener.Addr())
			return serveUntil(cmd.Context(), server, listener)
		},
	}
	cmd.Flags().StringVar(&addr, "addr", "127.0.0.1:8089", "address to listen on")
	cmd.Flags().Var(&today, "today", "a fixed day to lay the calendars around, YYYY-MM-DD, instead of the real one")
	cmd.AddCommand(deliveryCommand())
	return cmd
}

// tokenVariable is where the token of the stand-in is looked for, so that it need not stand in a list of processes.
const tokenVariable = "JANTREL_TOKEN"

func deliveryCommand() *cobra.Command {
	var to, token string
	var id int64
	var seed uint64
	var pace time.Duration
	var days int
	cmd := &cobra.Command{
		Use: "delivery", Short: "Simulate teams that work on a program", Args: cobra.NoArgs,
		Long: "Simulate the teams of a program at work, through the public interface of a server alone: they take items up,\nreview them, send some back, find defects, think sizes over, move scope, break builds, deploy and log hours.\n\nIt needs a token of a program manager (Set up, Access), best in the variable " + tokenVariable + ". Every simulated\nday is worked on what the server calls today. It edits the program for good: give it one to play with.",
		RunE: func(cmd *cobra.Command, _ []string) error {
			if token == "" {
				token = os.Getenv(tokenVariable)
			}
			if token == "" {
				return fmt.Errorf("there is no token; make one in Set up, Access, and put it into the variable %s", tokenVariable)
			}
			if pace < 0 || days < 0 {
				return errors.New("--pace and --days are 0 or more")
			}
			client := &delivery.Client{Base: to, Program: id, Token: token, HTTP: &http.Client{Timeout: time.Minute}}
			err := simulate(cmd.Context(), client, seed, pace, days, cmd.OutOrStdout())
			if errors.Is(err, context.Canceled) {
				return nil
			}
			return err
		},
	}
	cmd.Flags().StringVar(&to, "to", "http://127.0.0.1:8080", "address of the server")
	cmd.Flags().StringVar(&token, "token", "", "token of a program manager; without, that of the variable "+tokenVariable)
	cmd.Flags().Int64Var(&id, "program", 1, "number of the program, as in its address")
	cmd.Flags().Uint64Var(&seed, "seed", 1, "what luck the teams have")
	cmd.Flags().DurationVar(&pace, "pace", time.Minute, "how long a simulated day takes; 0: as fast as the server can")
	cmd.Flags().IntVar(&days, "days", 0, "how many days are simulated; 0: until it is stopped")
	return cmd
}

// simulate has teams work for some days, or until ctx ends, and says what they do.
func simulate(ctx context.Context, client *delivery.Client, seed uint64, pace time.Duration, days int, out io.Writer) error {
	teams := delivery.New(client, seed)
	teams.Refused = func(r *delivery.Refused) { _, _ = fmt.Fprintln(out, "Left out:", r.Text) }
	if pace > 0 {
		teams.At = delivery.Paced(pace)
	}
	return teams.Live(ctx, days, func(today program.Date) {
		r := &teams.Record
		_, _ = fmt.Fprintf(out, "On %s: %d things done so far, %d items done, %d sent back\n", today, r.Edits, len(r.Done), len(r.SentBack))
	})
}

// serveUntil serves until ctx ends.
func serveUntil(ctx context.Context, server *http.Server, listener net.Listener) error {
	stopped := make(chan error, 1)
	go func() { stopped <- server.Serve(listener) }()
	select {
	case err := <-stopped:
		return err
	case <-ctx.Done():
	}
	shutdown, cancel := context.WithTimeout(context.Background(), 10*time.Second)
	defer cancel()
	return server.Shutdown(shutdown)
}

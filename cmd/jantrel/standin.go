package main

import (
	"context"
	"fmt"
	"net"
	"net/http"
	"time"

	"github.com/spf13/cobra"

	"jantrel/internal/demo"
	"jantrel/internal/standin"
)

func standInCommand() *cobra.Command {
	var addr string
	var today dateFlag
	cmd := &cobra.Command{
		Use: "standin", Short: "Serve stand-in calendar feeds for the demo's people", Args: cobra.NoArgs,
		Long: "Serve an iCalendar feed for every person of the demo, at /calendars/p01.ics and so on, and one of its\nholidays at /calendars/holidays.ics. The demo runs one of its own; serve uses this one with --standin.",
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
	return cmd
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

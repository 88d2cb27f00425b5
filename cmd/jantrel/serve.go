package main

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"os"
	"time"

	"github.com/spf13/cobra"

	"jantrel/internal/api"
	"jantrel/internal/demo"
	"jantrel/internal/live"
	"jantrel/internal/store"
)

// serveFlags are what serve and demo share.
type serveFlags struct {
	addr    string
	data    string
	today   dateFlag
	verbose bool
}

func (f *serveFlags) register(cmd *cobra.Command, data, dataHelp string) {
	cmd.Flags().StringVar(&f.addr, "addr", "127.0.0.1:8080", "address to listen on")
	cmd.Flags().StringVar(&f.data, "data", data, dataHelp)
	cmd.Flags().Var(&f.today, "today", "a fixed day to see plans on, YYYY-MM-DD, instead of the real one")
	cmd.Flags().BoolVar(&f.verbose, "verbose", false, "log every request")
}

const defaultData = "jantrel-data"

func serveCommand() *cobra.Command {
	var f serveFlags
	cmd := &cobra.Command{
		Use: "serve", Short: "Serve the programs in a data folder", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error { return f.serve(cmd.Context(), nil) },
	}
	f.register(cmd, defaultData, "folder that holds the database; made where it is missing")
	return cmd
}

func demoCommand() *cobra.Command {
	var f serveFlags
	cmd := &cobra.Command{
		Use: "demo", Short: "Serve a fresh demo program", Args: cobra.NoArgs,
		Long: "Serve a fresh demo program, Beacon Renewal, laid around today.\n\nWithout --data it lives in a temporary folder that goes when the server stops. With --data the\ndemo is made once and kept: edits are still there the next time.",
		RunE: func(cmd *cobra.Command, _ []string) error {
			if f.data == "" {
				folder, err := os.MkdirTemp("", "jantrel-demo-")
				if err != nil {
					return err
				}
				defer func() { _ = os.RemoveAll(folder) }()
				f.data = folder
			}
			return f.serve(cmd.Context(), func(ctx context.Context, hub *live.Hub) error {
				list, err := hub.Store().Programs(ctx)
				if err != nil || len(list) > 0 {
					return err
				}
				_, err = hub.Create(ctx, demo.Program(hub.Today()))
				return err
			})
		},
	}
	f.register(cmd, "", "folder to keep the demo in; a temporary one where left out")
	return cmd
}

// serve runs until ctx ends. prepare, unless nil, runs before the first request.
func (f *serveFlags) serve(ctx context.Context, prepare func(context.Context, *live.Hub) error) error {
	level := slog.LevelInfo
	if f.verbose {
		level = slog.LevelDebug
	}
	log := slog.New(slog.NewTextHandler(os.Stderr, &slog.HandlerOptions{Level: level}))
	listener, err := net.Listen("tcp", f.addr)
	if err != nil {
		return fmt.Errorf("cannot listen on %s: %w; choose another with --addr", f.addr, errors.Unwrap(err))
	}
	defer func() { _ = listener.Close() }()
	db, err := store.Open(f.data)
	if err != nil {
		return err
	}
	defer func() { _ = db.Close() }()
	hub := live.NewHub(db, time.Now, f.today.clock())
	if prepare != nil {
		if err := prepare(ctx, hub); err != nil {
			return err
		}
	}
	server := &http.Server{
		Handler:           http.NewCrossOriginProtection().Handler(api.New(hub, log, version)),
		ReadHeaderTimeout: 10 * time.Second,
		ReadTimeout:       time.Minute,
		WriteTimeout:      time.Minute,
		IdleTimeout:       2 * time.Minute,
		MaxHeaderBytes:    64 << 10,
	}
	fmt.Printf("Jantrel is at http://%s  (data in %s)\n", listener.Addr(), f.data)
	stopped := make(chan error, 1)
	go func() { stopped <- server.Serve(listener) }()
	select {
	case err := <-stopped:
		return err
	case <-ctx.Done():
	}
	log.Info("stopping")
	hub.Close() // ends the event streams, which would else keep the server up
	shutdown, cancel := context.WithTimeout(context.Background(), 10*time.Second)
	defer cancel()
	return server.Shutdown(shutdown)
}

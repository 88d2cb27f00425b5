package main

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"os"
	"path/filepath"
	"runtime/debug"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"jantrel/internal/account"
	"jantrel/internal/api"
	"jantrel/internal/api/door"
	"jantrel/internal/backups"
	"jantrel/internal/feeds"
	"jantrel/internal/live"
	"jantrel/internal/metrics"
	"jantrel/internal/store"
)

// serveFlags are what serve and demo share.
type serveFlags struct {
	addr    string
	data    string
	today   dateFlag
	verbose bool
	hello   string // what the terminal says beside the address

	editsPerMinute float64
	memory         int // MB
	backupEvery    time.Duration
	backupsKeep    int
	backupsIn      string
	metrics        string
}

func (f *serveFlags) register(cmd *cobra.Command, data, dataHelp string) {
	cmd.Flags().StringVar(&f.addr, "addr", "127.0.0.1:8080", "address to listen on")
	cmd.Flags().StringVar(&f.data, "data", data, dataHelp)
	cmd.Flags().Var(&f.today, "today", "a fixed day to see plans on, YYYY-MM-DD, instead of the real one")
	cmd.Flags().BoolVar(&f.verbose, "verbose", false, "log every request")
	cmd.Flags().Float64Var(&f.editsPerMinute, "edits-per-minute", 600, "how many edits an account may make in the long run; other quotas follow from it. 0: no quotas")
	cmd.Flags().IntVar(&f.memory, "memory", 400, "how many MB of memory the server aims to stay within: what was not used for the longest is forgotten, and read or worked out again when somebody asks for it")
	cmd.Flags().DurationVar(&f.backupEvery, "backup-every", 0, "make a backup so often, as 24h; 0: only when an administrator asks")
	cmd.Flags().IntVar(&f.backupsKeep, "backups-keep", 7, "how many backups are kept; the oldest go. 0: all")
	cmd.Flags().StringVar(&f.backupsIn, "backups-in", "", "folder of the backups, best on another disk; without, the folder backups in the data folder")
	cmd.Flags().StringVar(&f.metrics, "metrics", "", "address to serve metrics on, in the Prometheus format, as 127.0.0.1:9464: without signing in, so keep it off public networks; without, none are served")
}

// leastMemory is with how many MB a server still works on large programs.
const leastMemory = 64

const defaultData = "jantrel-data"

func serveCommand() *cobra.Command {
	var f serveFlags
	var proxy bool
	var standInAt string
	var from []string
	cmd := &cobra.Command{
		Use: "serve", Short: "Serve the programs in a data folder", Args: cobra.NoArgs,
		Long: "Serve the programs in a data folder.\n\nEverybody signs in. As long as there is no account, the terminal shows a link to make the first one, and\nonly addresses of this machine are listened on; jantrel user makes accounts from the shell.",
		RunE: func(cmd *cobra.Command, _ []string) error {
			return f.serve(cmd.Context(), func(ctx context.Context, hub *live.Hub, accounts *account.Service, listener net.Listener) (api.Options, error) {
				allowed, err := feeds.ParseAllowed(from)
				if err != nil {
					return api.Options{}, fmt.Errorf("--calendars-from: %w", err)
				}
				o := api.Options{Feeds: feeds.NewCalendars(strings.TrimSuffix(standInAt, "/"), allowed...), BehindProxy: proxy}
				secret, err := accounts.FirstLink(ctx)
				if err != nil || secret == "" {
					return o, err
				}
				if !isLoopback(listener) {
					return o, fmt.Errorf("%s can be reached by others, and there is no account yet; make one first with: jantrel user add LOGIN --admin --data %s", listener.Addr(), f.data)
				}
				f.hello = fmt.Sprintf("Make the first administrator, once, within a day: http://%s/first#%s\n", listener.Addr(), secret)
				return o, nil
			})
		},
	}
	f.register(cmd, defaultData, "folder that holds the database; made where it is missing")
	cmd.Flags().BoolVar(&proxy, "behind-proxy", false, "requests come through a proxy of one's own, over HTTPS: cookies are for HTTPS alone, and X-Forwarded-For says where requests come from")
	cmd.Flags().StringSliceVar(&from, "calendars-from", nil, "addresses of your own network that calendars are fetched from, as 10.1.0.0/16; without, only public addresses are asked")
	cmd.Flags().StringVar(&standInAt, "standin", "", "where stand-in calendars are served, as http://127.0.0.1:8089, for addresses that begin with standin:")
	return cmd
}

// isLoopback reports whether a listener can be reached from this machine alone.
func isLoopback(listener net.Listener) bool {
	address, ok := listener.Addr().(*net.TCPAddr)
	return ok && address.IP.IsLoopback()
}

func cannotListen(addr string, err error) error {
	if inner := errors.Unwrap(err); inner != nil {
		err = inner
	}
	return fmt.Errorf("cannot listen on %s: %w; choose another with --addr", addr, err)
}

// serve runs until ctx ends. prepare runs before the first request.
func (f *serveFlags) serve(ctx context.Context, prepare func(context.Context, *live.Hub, *account.Service, net.Listener) (api.Options, error)) error {
	if f.memory < leastMemory {
		return fmt.Errorf("--memory is %d or more", leastMemory)
	}
	level := slog.LevelInfo
	if f.verbose {
		level = slog.LevelDebug
	}
	log := slog.New(slog.NewTextHandler(os.Stderr, &slog.HandlerOptions{Level: level}))
	listener, err := net.Listen("tcp", f.addr)
	if err != nil {
		return cannotListen(f.addr, err)
	}
	defer func() { _ = listener.Close() }()
	release, err := store.Lock(f.data)
	if err != nil {
		return err
	}
	defer func() { _ = release() }()
	db, err := store.Open(f.data)
	if err != nil {
		return err
	}
	defer func() { _ = db.Close() }()
	hub := live.NewHub(db, f.today.now(), f.today.clock())
	hub.Limit(int64(f.memory) << 20)
	debug.SetMemoryLimit(int64(f.memory) << 20)
	accounts := account.New(db, time.Now)
	o, err := prepare(ctx, hub, accounts, listener)
	if err != nil {
		return err
	}
	o.Hub, o.Accounts, o.Log, o.Version, o.Quotas = hub, accounts, log, version, door.Usual(f.editsPerMinute)
	if o.Backups, err = f.keeper(db, log); err != nil {
		return err
	}
	ended := make(chan struct{})
	scheduled, endSchedule := context.WithCancel(ctx)
	go func() {
		defer close(ended)
		o.Backups.Run(scheduled)
	}()
	defer func() { // before the database is closed
		endSchedule()
		<-ended
	}()
	if f.metrics != "" {
		if o.Seen, err = f.serveMetrics(ctx, metrics.Of{Hub: hub, Store: db, Backups: o.Backups, Data: f.data, Version: version}); err != nil {
			return err
		}
	}
	server := &http.Server{
		Handler:           api.New(o),
		ReadHeaderTimeout: 10 * time.Second,
		ReadTimeout:       time.Minute,
		WriteTimeout:      time.Minute,
		IdleTimeout:       2 * time.Minute,
		MaxHeaderBytes:    64 << 10,
	}
	server.RegisterOnShutdown(hub.Close) // ends the event streams, which would else keep the server up
	fmt.Printf("Jantrel is at http://%s  (data in %s)\n%s", listener.Addr(), f.data, f.hello)
	err = serveUntil(ctx, server, limit(listener, mostConnections, fromOneAddress))
	log.Info("stopped")
	return err
}

// keeper keeps the backups as the flags say.
func (f *serveFlags) keeper(db *store.Store, log *slog.Logger) (*backups.Keeper, error) {
	if f.backupEvery < 0 || f.backupEvery > 0 && f.backupEvery < time.Minute || f.backupsKeep < 0 {
		return nil, errors.New("--backup-every is a minute or longer, or 0; --backups-keep is a number, or 0")
	}
	folder := f.backupsIn
	if folder == "" {
		folder = filepath.Join(f.data, "backups")
	}
	return &backups.Keeper{Store: db, Folder: folder, Keep: f.backupsKeep, Every: f.backupEvery, Clock: time.Now, Log: log}, nil
}

// serveMetrics serves metrics on an address of their own until ctx ends, and returns whom to
// tell of requests.
func (f *serveFlags) serveMetrics(ctx context.Context, of metrics.Of) (func(string, string, int, time.Duration), error) {
	listener, err := net.Listen("tcp", f.metrics)
	if err != nil {
		return nil, fmt.Errorf("--metrics: cannot listen on %s: %w", f.metrics, err)
	}
	m := metrics.New(of)
	mux := http.NewServeMux()
	mux.Handle("GET /metrics", m.Handler())
	server := &http.Server{Handler: mux, ReadHeaderTimeout: 5 * time.Second, ReadTimeout: 10 * time.Second, WriteTimeout: 20 * time.Second}
	go func() { _ = serveUntil(ctx, server, listener) }()
	f.hello += fmt.Sprintf("Metrics are at http://%s/metrics\n", listener.Addr())
	return m.Seen, nil
}

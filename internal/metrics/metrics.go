// Package metrics tells a monitoring system how a server does, in the Prometheus format.
package metrics

import (
	"context"
	"net/http"
	"strconv"
	"time"

	"github.com/prometheus/client_golang/prometheus"
	"github.com/prometheus/client_golang/prometheus/collectors"
	"github.com/prometheus/client_golang/prometheus/promhttp"

	"jantrel/internal/backups"
	"jantrel/internal/live"
	"jantrel/internal/store"
)

// Of is what metrics are of.
type Of struct {
	Hub     *live.Hub
	Store   *store.Store
	Backups *backups.Keeper
	Data    string // the data folder
	Version string
}

// Metrics counts what is told to it, and asks the rest when somebody looks.
type Metrics struct {
	registry *prometheus.Registry
	requests *prometheus.HistogramVec
}

// methods are the methods that are told apart: who asks may make up others.
var methods = map[string]bool{http.MethodGet: true, http.MethodHead: true, http.MethodPost: true, http.MethodPut: true, http.MethodDelete: true}

// New returns the metrics of a server.
func New(of Of) *Metrics {
	m := &Metrics{
		registry: prometheus.NewRegistry(),
		requests: prometheus.NewHistogramVec(prometheus.HistogramOpts{
			Name: "jantrel_request_seconds", Help: "How long requests took, by operation and by what came of them.",
			Buckets: []float64{0.001, 0.005, 0.02, 0.05, 0.1, 0.25, 1, 5, 20},
		}, []string{"operation", "method", "status"}),
	}
	m.registry.MustRegister(m.requests, collectors.NewGoCollector(), collectors.NewProcessCollector(collectors.ProcessCollectorOpts{}), asked{of})
	return m
}

// Seen counts a request. The operation must be one of few.
func (m *Metrics) Seen(operation, method string, status int, took time.Duration) {
	if !methods[method] {
		method = "other"
	}
	m.requests.WithLabelValues(operation, method, strconv.Itoa(status)).Observe(took.Seconds())
}

// Handler answers with all of them.
func (m *Metrics) Handler() http.Handler {
	return promhttp.HandlerFor(m.registry, promhttp.HandlerOpts{MaxRequestsInFlight: 4, Timeout: 10 * time.Second})
}

// asked are the metrics that are looked up when somebody asks.
type asked struct{ Of }

func metric(name, help string) *prometheus.Desc {
	return prometheus.NewDesc("jantrel_"+name, help, nil, nil)
}

var (
	info      = prometheus.NewDesc("jantrel_info", "1; the version stands beside it.", []string{"version"}, nil)
	edits     = metric("edits_total", "Edits that were stored since the start.")
	changes   = metric("changes_total", "Changes of those edits.")
	plays     = metric("plays_total", "Plays of plans for forecasts since the start.")
	lines     = metric("lines", "Plans that are in memory.")
	listeners = metric("listeners", "Pages that listen to edits.")
	waiting   = metric("answers_waiting", "Forecasts, drafts and the like that wait for their turn.")
	database  = metric("database_bytes", "Size of the database.")
	room      = metric("disk_free_bytes", "Room on the disk of the data folder.")
	last      = metric("last_backup_timestamp_seconds", "When the newest backup was made; 0 for never.")
)

// Describe implements prometheus.Collector.
func (asked) Describe(out chan<- *prometheus.Desc) {
	for _, d := range []*prometheus.Desc{info, edits, changes, plays, lines, listeners, waiting, database, room, last} {
		out <- d
	}
}

// Collect implements prometheus.Collector. What cannot be found out is left out.
func (a asked) Collect(out chan<- prometheus.Metric) {
	gauge := func(d *prometheus.Desc, value float64, labels ...string) {
		out <- prometheus.MustNewConstMetric(d, prometheus.GaugeValue, value, labels...)
	}
	counter := func(d *prometheus.Desc, value int64) {
		out <- prometheus.MustNewConstMetric(d, prometheus.CounterValue, float64(value))
	}
	gauge(info, 1, a.Version)
	c := a.Hub.Counts()
	counter(edits, c.Edits)
	counter(changes, c.Changes)
	counter(plays, c.Plays)
	gauge(lines, float64(c.Lines))
	gauge(listeners, float64(c.Listeners))
	gauge(waiting, float64(c.Waiting))
	ctx, end := context.WithTimeout(context.Background(), 5*time.Second)
	defer end()
	if size, err := a.Store.Size(ctx); err == nil {
		gauge(database, float64(size))
	}
	if free := store.Room(a.Data); free > 0 {
		gauge(room, float64(free))
	}
	if a.Backups == nil {
		return
	}
	if list, err := a.Backups.List(); err == nil {
		at := 0.0
		if last, has := backups.Last(list); has {
			at = float64(last.At.Unix())
		}
		gauge(last, at)
	}
}

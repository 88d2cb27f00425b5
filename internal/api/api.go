// Package api serves programs over HTTP: typed operations with their OpenAPI, a stream of
// events, and the page itself. Its packages hold the operations, one a stage, and the door
// that they all go through.
package api

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"path"
	"reflect"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humagin"
	"github.com/gin-gonic/gin"

	"jantrel/internal/account"
	"jantrel/internal/api/accounts"
	"jantrel/internal/api/backlog"
	"jantrel/internal/api/door"
	"jantrel/internal/api/forecast"
	"jantrel/internal/api/plan"
	"jantrel/internal/api/programs"
	"jantrel/internal/api/report"
	"jantrel/internal/api/scenarios"
	"jantrel/internal/api/server"
	"jantrel/internal/api/setup"
	"jantrel/internal/api/track"
	"jantrel/internal/api/watch"
	"jantrel/internal/api/words"
	"jantrel/internal/backups"
	"jantrel/internal/feeds"
	"jantrel/internal/live"
)

// Options are what a server is made of.
type Options struct {
	Hub         *live.Hub
	Accounts    *account.Service
	Feeds       *feeds.Calendars // calendar feeds
	Log         *slog.Logger
	Version     string
	Demo        []DemoAccount // accounts that a click enters, from this machine alone
	BehindProxy bool          // requests come through a proxy of one's own, over HTTPS
	Quotas      door.Quotas
	Backups     *backups.Keeper // nil: made from the shell alone

	// Seen is told of every request: which operation, and what came of it. May be nil.
	Seen func(operation, method string, status int, took time.Duration)
}

// DemoAccount is a made-up account that the demo offers.
type DemoAccount = accounts.Demo

// New returns the handler of everything that Jantrel serves. Requests that a page
// of another site makes a browser send are refused.
func New(o Options) http.Handler {
	o.Log = door.Log(o.Log)
	router := gin.New()
	router.HandleMethodNotAllowed = true
	router.NoMethod(func(c *gin.Context) { problem(c.Writer, http.StatusMethodNotAllowed, "This address does not do that.") })
	router.Use(logged(o.Log), seen(o.Seen), recovered(o.Log), headers(o.BehindProxy))
	describe(router, o)
	router.GET("/healthz", func(c *gin.Context) { c.String(http.StatusOK, "ok\n") })
	router.GET("/readyz", func(c *gin.Context) {
		if err := o.Accounts.Store().Ready(c.Request.Context()); err != nil {
			o.Log.ErrorContext(c.Request.Context(), "not ready", "error", err)
			c.String(http.StatusServiceUnavailable, "the database does not answer\n")
			return
		}
		c.String(http.StatusOK, "ready\n")
	})
	servePage(router)
	protection := http.NewCrossOriginProtection()
	protection.SetDenyHandler(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) {
		problem(w, http.StatusForbidden, "Another site made your browser send this, so nothing was done.")
	}))
	return protection.Handler(lean(router, o.Log))
}

// OpenAPI returns the description of the interface as JSON.
func OpenAPI(version string) ([]byte, error) {
	return describe(gin.New(), Options{Version: version}).OpenAPI().MarshalJSON()
}

// What these libraries keep for all servers of a process is set once. Of a request with thousands of faults, the first
// are told; lists are sent as lists, or left out.
func init() {
	gin.SetMode(gin.ReleaseMode)
	huma.DefaultArrayNullable = false
	whole := huma.NewError
	huma.NewError = func(status int, text string, faults ...error) huma.StatusError {
		return whole(status, text, door.Named(faults)...)
	}
}

func describe(router *gin.Engine, o Options) huma.API {
	config := huma.DefaultConfig("Jantrel", o.Version)
	config.Info.Description = "Programs, their plans and forecasts. Every edit is a list of changes, applied whole or not at all."
	config.OpenAPIPath = "/api/v1/openapi"
	config.DocsPath = ""
	config.SchemasPath = "/api/v1/schemas"
	config.CreateHooks = nil // no $schema fields in answers
	whole := huma.Format{Marshal: writeWhole, Unmarshal: json.Unmarshal}
	config.Formats = map[string]huma.Format{"application/json": whole, "json": whole}
	config.Components.Schemas = huma.NewMapRegistry("#/components/schemas/", schemaName)
	api := humagin.New(router, config)
	d := &door.Door{Hub: o.Hub, Accounts: o.Accounts, Log: o.Log, BehindProxy: o.BehindProxy, Quotas: o.Quotas, Version: o.Version}
	api.UseMiddleware(d.Authenticate(api), d.Pace(api), d.Choose(api), d.Admit(api))
	accounts.Register(api, d, o.Demo)
	programs.Register(api, d)
	setup.Register(api, d, o.Feeds)
	backlog.Register(api, d)
	plan.Register(api, d)
	track.Register(api, d)
	watch.Register(api, d)
	forecast.Register(api, d)
	scenarios.Register(api, d)
	report.Register(api, d)
	server.Register(api, d, o.Backups)
	door.DescribeLines(api.OpenAPI())
	words.Describe(api.OpenAPI())
	return api
}

// writeWhole writes an answer as JSON, all of it or, where it cannot be written, nothing:
// whoever recovers from the panic can still answer.
func writeWhole(w io.Writer, answer any) error {
	var text bytes.Buffer
	encoder := json.NewEncoder(&text)
	encoder.SetEscapeHTML(false)
	if err := encoder.Encode(answer); err != nil {
		panic(fmt.Errorf("an answer cannot be written: %w", err))
	}
	_, err := w.Write(text.Bytes())
	return err
}

// schemaName is what a type is called in the description of the interface: with its
// package, as two packages may use one word.
func schemaName(t reflect.Type, hint string) string {
	name := huma.DefaultSchemaNamer(t, hint)
	for t.Kind() == reflect.Pointer {
		t = t.Elem()
	}
	if t.Name() == "" || !strings.HasPrefix(t.PkgPath(), "jantrel/") {
		return name
	}
	return path.Base(t.PkgPath()) + "." + name
}

// Package api serves programs over HTTP: typed operations with their OpenAPI,
// problem details for errors, a stream of events, and the page itself.
package api

import (
	"context"
	"errors"
	"log/slog"
	"net/http"
	"path"
	"reflect"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humagin"
	"github.com/gin-gonic/gin"

	"jantrel/core/needs"
	"jantrel/core/program"
	"jantrel/core/roles"
	"jantrel/internal/account"
	"jantrel/internal/feeds"
	"jantrel/internal/live"
	"jantrel/internal/store"
)

// Limits of a request.
const (
	maxDocument = 64 << 20 // an imported program
	maxChanges  = 8 << 20  // a list of changes
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
}

type server struct {
	hub         *live.Hub
	accounts    *account.Service
	feeds       *feeds.Calendars
	log         *slog.Logger
	demo        []DemoAccount
	behindProxy bool
}

// New returns the handler of everything that Jantrel serves. Requests that a page
// of another site makes a browser send are refused.
func New(o Options) http.Handler {
	gin.SetMode(gin.ReleaseMode)
	router := gin.New()
	router.Use(logged(o.Log), recovered(o.Log), securityHeaders)
	describe(router, &server{o.Hub, o.Accounts, o.Feeds, o.Log, o.Demo, o.BehindProxy}, o.Version)
	servePage(router)
	return http.NewCrossOriginProtection().Handler(lean(router, o.Log))
}

// OpenAPI returns the description of the interface as JSON.
func OpenAPI(version string) ([]byte, error) {
	gin.SetMode(gin.ReleaseMode)
	return describe(gin.New(), &server{}, version).OpenAPI().MarshalJSON()
}

func describe(router *gin.Engine, s *server, version string) huma.API {
	huma.DefaultArrayNullable = false // lists are sent as lists, or left out
	config := huma.DefaultConfig("Jantrel", version)
	config.Info.Description = "Programs, their plans and forecasts. Every edit is a list of changes, applied whole or not at all."
	config.OpenAPIPath = "/api/v1/openapi"
	config.DocsPath = ""
	config.SchemasPath = "/api/v1/schemas"
	config.CreateHooks = nil // no $schema fields in answers
	config.Components.Schemas = huma.NewMapRegistry("#/components/schemas/", schemaName)
	api := humagin.New(router, config)
	api.UseMiddleware(s.authenticate(api))
	s.signIn(api)
	s.accountsAPI(api)
	s.programs(api)
	s.outlines(api)
	s.edits(api)
	s.intents(api)
	s.people(api)
	s.capacity(api)
	s.backlog(api)
	s.beside(api)
	s.answers(api)
	s.events(api)
	return api
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

// problem turns an error into problem details in plain words, by its class: what was
// asked for is not there, not allowed, in conflict with others, or against a rule. What
// is the server's own fault is logged and not told.
func (s *server) problem(ctx context.Context, err error) error {
	var problems program.Problems
	var conflict *live.Conflict
	var changed *live.Changed
	var cycle *needs.CycleError
	var denied *roles.Denied
	var fault *store.Fault
	switch {
	case err == nil:
		return nil
	case errors.As(err, &fault):
		return s.failed(ctx, err)
	case errors.Is(err, context.Canceled):
		return err
	case errors.Is(err, store.ErrNotFound):
		return huma.Error404NotFound("There is no such program. It may have been deleted.")
	case errors.As(err, &conflict):
		return huma.Error409Conflict("Somebody changed this meanwhile, so nothing was changed: "+conflict.Error(), &huma.ErrorDetail{
			Message: conflict.By + " changed it", Location: "conflict", Value: conflict,
		})
	case errors.As(err, &changed):
		return huma.Error409Conflict("Nothing was changed: "+changed.Error()+".", &huma.ErrorDetail{
			Message: "What it would do now", Location: "proposal", Value: proposed(changed.Proposal),
		})
	case errors.As(err, &denied):
		return huma.Error403Forbidden("Nothing was changed: " + denied.Error() + ".")
	case errors.As(err, &cycle):
		return huma.Error409Conflict("Nothing was changed: " + cycle.Error())
	case errors.Is(err, live.ErrNothingToDo), errors.Is(err, live.ErrFuture), errors.Is(err, live.ErrTooOld):
		return huma.Error409Conflict(err.Error())
	case errors.As(err, &problems):
		details := make([]error, len(problems))
		for i, p := range problems {
			details[i] = &huma.ErrorDetail{Message: p.Text, Location: p.Path}
		}
		return huma.Error422UnprocessableEntity("Nothing was changed: "+problems[0].String(), details...)
	}
	return huma.Error422UnprocessableEntity("Nothing was changed: " + err.Error())
}

// failed is for errors that are the server's own.
func (s *server) failed(ctx context.Context, err error) error {
	if errors.Is(err, store.ErrNotFound) {
		return s.problem(ctx, err)
	}
	s.log.ErrorContext(ctx, "request failed", "error", err)
	return huma.Error500InternalServerError("The server could not do this. Its log says why.")
}

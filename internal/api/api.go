// Package api serves programs over HTTP: typed operations with their OpenAPI,
// problem details for errors, a stream of events, and the page itself.
package api

import (
	"context"
	"errors"
	"log/slog"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humagin"
	"github.com/gin-gonic/gin"

	"jantrel/core/needs"
	"jantrel/core/program"
	"jantrel/internal/live"
	"jantrel/internal/store"
)

// Limits of a request.
const (
	maxDocument = 64 << 20 // an imported program
	maxChanges  = 8 << 20  // a list of changes
)

type server struct {
	hub *live.Hub
	log *slog.Logger
}

// New returns the handler of everything that Jantrel serves.
func New(hub *live.Hub, log *slog.Logger, version string) http.Handler {
	gin.SetMode(gin.ReleaseMode)
	router := gin.New()
	router.Use(logged(log), recovered(log), securityHeaders)
	describe(router, &server{hub, log}, version)
	servePage(router)
	return router
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
	api := humagin.New(router, config)
	s.programs(api)
	s.edits(api)
	s.answers(api)
	s.events(api)
	return api
}

// problem turns an error into problem details in plain words.
func (s *server) problem(ctx context.Context, err error) error {
	var problems program.Problems
	var conflict *live.Conflict
	var cycle *needs.CycleError
	switch {
	case err == nil:
		return nil
	case errors.Is(err, store.ErrNotFound):
		return huma.Error404NotFound("There is no such program. It may have been deleted.")
	case errors.As(err, &conflict):
		return huma.Error409Conflict("Somebody changed this meanwhile, so nothing was changed: "+conflict.Error(), &huma.ErrorDetail{
			Message: conflict.By + " changed it", Location: conflict.Ref.Key + "." + conflict.Field,
			Value: map[string]any{"yours": conflict.Yours, "theirs": conflict.Theirs},
		})
	case errors.As(err, &cycle):
		return huma.Error409Conflict("Not added: " + cycle.Error())
	case errors.Is(err, live.ErrNothingToDo), errors.Is(err, live.ErrFuture):
		return huma.Error409Conflict(err.Error())
	case errors.As(err, &problems):
		details := make([]error, len(problems))
		for i, p := range problems {
			details[i] = &huma.ErrorDetail{Message: p.Text, Location: p.Path}
		}
		return huma.Error422UnprocessableEntity("Nothing was changed: "+problems[0].String(), details...)
	case errors.Is(err, context.Canceled):
		return err
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

// open returns a program by id, or the problem to answer with.
func (s *server) open(ctx context.Context, id int64) (*live.Program, error) {
	p, err := s.hub.Open(ctx, id)
	if err != nil {
		return nil, s.failed(ctx, err)
	}
	return p, nil
}

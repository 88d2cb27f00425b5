package api

import (
	"bytes"
	"context"
	"log/slog"
	"math"
	"net/http"
	"net/http/httptest"
	"testing"

	"github.com/danielgtaylor/huma/v2"
	"github.com/gin-gonic/gin"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/internal/api/door"
	"jantrel/internal/journal"
)

// An answer that cannot be written becomes a problem, never half an answer.
func TestAnAnswerIsWrittenWholeOrNotAtAll(t *testing.T) {
	t.Parallel()
	var log bytes.Buffer
	gin.SetMode(gin.ReleaseMode)
	router := gin.New()
	router.Use(recovered(slog.New(slog.NewTextHandler(&log, nil))))
	api := describe(router, Options{})
	huma.Register(api, huma.Operation{OperationID: "infinite", Method: http.MethodGet, Path: "/infinite", Metadata: door.Public},
		func(context.Context, *struct{}) (*struct{ Body []float64 }, error) {
			return &struct{ Body []float64 }{[]float64{1, math.Inf(1)}}, nil
		})
	answer := httptest.NewRecorder()
	router.ServeHTTP(answer, httptest.NewRequest(http.MethodGet, "/infinite", nil))
	assert.Equal(t, http.StatusInternalServerError, answer.Code)
	assert.Equal(t, "application/problem+json", answer.Header().Get("Content-Type"))
	assert.JSONEq(t, `{"title":"Internal Server Error","status":500,"detail":"The server could not do this. Its log says why."}`, answer.Body.String())
	assert.Contains(t, log.String(), "answer_test.go", "with where it happened")
	assert.Contains(t, log.String(), "cannot be written")
}

func TestAFullDiskHasAnAnswerOfItsOwn(t *testing.T) {
	t.Parallel()
	var log bytes.Buffer
	d := &door.Door{Log: slog.New(slog.NewTextHandler(&log, nil))}
	var status huma.StatusError
	require.ErrorAs(t, d.Problem(t.Context(), &journal.Fault{Err: fullDisk{}}), &status)
	assert.Equal(t, http.StatusInsufficientStorage, status.GetStatus())
	assert.Contains(t, log.String(), "no room")
}

type fullDisk struct{}

func (fullDisk) Error() string { return "no room" }
func (fullDisk) Code() int     { return 13 }

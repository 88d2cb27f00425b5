package api_test

import (
	"context"
	"fmt"
	"io"
	"net/http"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/roles"
	"jantrel/internal/api/apitest"
)

// One viewer with 45 connections asks for ever new long forecasts: nobody else is refused anything, right after an edit too.
func TestOneViewerKeepsNobodyWaiting(t *testing.T) {
	t.Parallel()
	h := apitest.Demo(t)
	url := h.URL + "/api/v1/programs/1"
	viewer := h.Client(t, h.Begin(t, "vera", "Vera", roles.Viewer))
	ann := h.Client(t, h.Begin(t, "ann", "Ann", roles.Manager))
	ctx, end := context.WithCancel(t.Context())
	defer end()
	var asking sync.WaitGroup
	var mu sync.Mutex
	answers, first := map[int]int{}, make(chan struct{})
	for n := range 45 {
		asking.Go(func() {
			for seed := n * 1_000_000; ctx.Err() == nil; seed++ {
				request, err := http.NewRequestWithContext(ctx, http.MethodGet, fmt.Sprintf("%s/forecast?plays=100000&seed=%d", url, seed), nil)
				if !assert.NoError(t, err) {
					return
				}
				response, err := viewer.Do(request)
				if err != nil {
					return // it was ended
				}
				_, _ = io.Copy(io.Discard, response.Body)
				_ = response.Body.Close()
				mu.Lock()
				if answers[response.StatusCode]++; answers[response.StatusCode] == 45 && response.StatusCode == http.StatusTooManyRequests {
					close(first)
				}
				mu.Unlock()
			}
		})
	}
	<-first // it has met its limit
	for n := range 10 {
		edited := apitest.As(t, ann, http.MethodPost, url+"/changes", apitest.Edit("a", n, fmt.Sprintf(apitest.Set, "LC-8", "size", fmt.Sprint(n+1))))
		require.Equal(t, http.StatusOK, edited.Status, edited.Text)
		for _, path := range []string{"/outline", "/landings", "/forecast?plays=200"} {
			got := apitest.As(t, ann, http.MethodGet, url+path, "")
			require.Equal(t, http.StatusOK, got.Status, path+": "+got.Text)
		}
	}
	end()
	asking.Wait()
	mu.Lock()
	defer mu.Unlock()
	for status := range answers {
		assert.Contains(t, []int{http.StatusOK, http.StatusTooManyRequests}, status)
	}
}

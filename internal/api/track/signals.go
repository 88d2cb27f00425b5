package track

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/act"
	"jantrel/internal/api/door"
	"jantrel/internal/live"
)

// maxSignals is how many bytes signals may have that are sent at once.
const maxSignals = 1 << 20

type signalsRequest struct {
	door.ProgramID
	door.Once
	Body act.ReportSignals
}

// taken is what came of signals.
type taken struct {
	Changes  int      `json:"changes" doc:"How many changes they came to; 0: all of it was known"`
	Keys     []string `json:"keys" doc:"Items that defects became"`
	Revision int64    `json:"revision" doc:"Of the program with them"`
}

func (s stage) registerSignals(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "report-signals", Method: http.MethodPost, Path: "/api/v1/programs/{id}/signals",
		Summary:      "Say what services outside found: test runs, builds, deployments, defects, work",
		MaxBodyBytes: maxSignals, BodyReadTimeout: 20 * time.Second,
		Errors: []int{http.StatusForbidden, http.StatusNotFound, http.StatusUnprocessableEntity},
	}, func(ctx context.Context, in *signalsRequest) (*struct{ Body taken }, error) {
		l, who, err := s.OpenAs(ctx, in.ID)
		if err != nil {
			return nil, err
		}
		by := in.Sent(s.Author(ctx, who, "signals"), "signals", in.Body)
		done, err := l.Do(ctx, by, live.Request{Intent: in.Body, Base: l.State().Revision})
		if err != nil {
			return nil, s.Problem(ctx, err)
		}
		return &struct{ Body taken }{taken{len(done.Changes), done.Keys, l.State().Revision}}, nil
	})
}

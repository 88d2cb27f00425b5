package track

import (
	"bytes"
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/track"
	"jantrel/internal/api/door"
	"jantrel/internal/exchange"
	"jantrel/internal/live"
)

// reviewed names an iteration to look back on.
type reviewed struct {
	door.Reading
	Team      string `query:"team" required:"true"`
	Iteration string `query:"iteration" required:"true"`
}

func (s stage) registerReviews(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "export-release-review", Method: http.MethodGet, Path: "/api/v1/programs/{id}/reports/release-review", Summary: "How the work of a release came about, and where it lands against what is promised, as Markdown",
	}, s.releaseReview)
	huma.Register(api, huma.Operation{
		OperationID: "get-iteration-review", Method: http.MethodGet, Path: "/api/v1/programs/{id}/iteration-review", Summary: "What became of an iteration, to look back on",
	}, func(ctx context.Context, in *reviewed) (*struct{ Body track.Review }, error) {
		_, found, err := s.review(ctx, in)
		if err != nil {
			return nil, err
		}
		return &struct{ Body track.Review }{found}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "export-iteration-review", Method: http.MethodGet, Path: "/api/v1/programs/{id}/reports/iteration-review", Summary: "The same as Markdown",
	}, func(ctx context.Context, in *reviewed) (*door.File, error) {
		state, found, err := s.review(ctx, in)
		if err != nil {
			return nil, err
		}
		var out bytes.Buffer
		if err := exchange.WriteReview(&out, state.Program, &found); err != nil {
			return nil, s.Failed(ctx, err)
		}
		return door.Attached("review-"+in.Iteration+".md", markdown, out.Bytes()), nil
	})
}

// releaseReview writes the review of a release.
func (s stage) releaseReview(ctx context.Context, in *struct {
	door.Reading
	Release string `query:"release" required:"true"`
}) (*door.File, error) {
	l, state, err := s.Read(ctx, in.Reading)
	if err != nil {
		return nil, err
	}
	at := door.ReleaseAt(state, in.Release)
	if at < 0 {
		return nil, huma.Error404NotFound("There is no release " + in.Release + ". It may have been removed.")
	}
	text, err := door.ReleaseReview(ctx, l, state, at)
	if err != nil {
		return nil, s.Problem(ctx, err)
	}
	return door.Attached("review-"+in.Release+".md", markdown, text), nil
}

const markdown = "text/markdown; charset=utf-8"

func (s stage) review(ctx context.Context, in *reviewed) (*live.State, track.Review, error) {
	l, state, err := s.Read(ctx, in.Reading)
	if err != nil {
		return nil, track.Review{}, err
	}
	found, there, err := l.Review(ctx, state, in.Team, in.Iteration)
	switch {
	case err != nil:
		return nil, found, s.Failed(ctx, err)
	case !there:
		return nil, found, huma.Error404NotFound("There is no iteration " + in.Iteration + " of a team " + in.Team + ". It may have been removed.")
	}
	return state, found, nil
}

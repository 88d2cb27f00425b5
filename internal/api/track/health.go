package track

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/health"
	"jantrel/core/track"
	"jantrel/internal/api/door"
	"jantrel/internal/live"
)

// mostReleases is how many releases are told of, those that are not over.
const mostReleases = 12

// standings is how teams and releases stand.
type standings struct {
	Revision int64            `json:"revision"`
	Teams    []health.Team    `json:"teams" doc:"In the order of the program"`
	Releases []health.Release `json:"releases" doc:"Those with work that is not done or with a due date to come, in the order of the program"`
	LeftOut  int              `json:"leftOut" doc:"How many more releases may be like these than are told of"`
}

func (s stage) registerHealth(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "get-health", Method: http.MethodGet, Path: "/api/v1/programs/{id}/health", Summary: "How teams and releases stand: what needs somebody, counted, and the last weeks",
	}, func(ctx context.Context, in *struct{ door.Reading }) (*door.Answered[standings], error) {
		l, state, err := s.Read(ctx, in.Reading)
		if err != nil {
			return nil, err
		}
		return door.LongAnswer(ctx, s.Door, l, state, "health", func(ctx context.Context) (standings, error) { return standingsOf(ctx, l, state) })
	})
}

func standingsOf(ctx context.Context, l *live.Line, state *live.State) (standings, error) {
	entries, err := entriesOf(ctx, l, state)
	if err != nil {
		return standings{}, err
	}
	from := l.Midnight(state.Today.Add(1 - 7*health.WeeksBack))
	all, _, err := l.History(ctx, state, track.Scope{}, from)
	if err != nil {
		return standings{}, err
	}
	found := standings{state.Revision, health.Teams(state.Program, state.Today, entries, all.Teams), []health.Release{}, 0}
	for i := range state.Releases {
		r := &state.Releases[i]
		if len(found.Releases) == mostReleases {
			found.LeftOut = len(state.Releases) - i
			break
		}
		of, _, err := l.History(ctx, state, track.Scope{Release: r.Key}, from)
		if err != nil {
			return standings{}, err
		}
		if of.All.Left.Items > 0 || r.Due >= state.Today {
			found.Releases = append(found.Releases, health.ReleaseOf(r.Key, state.Today, entries, &of.All))
		}
		if err := ctx.Err(); err != nil {
			return standings{}, err
		}
	}
	return found, nil
}

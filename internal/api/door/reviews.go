package door

import (
	"bytes"
	"context"
	"slices"

	"jantrel/core/briefs"
	"jantrel/core/forecast"
	"jantrel/core/program"
	"jantrel/core/track"
	"jantrel/internal/exchange"
	"jantrel/internal/live"
)

// ReleaseReview is the review of the release at a position of a state, as Markdown.
func ReleaseReview(ctx context.Context, l *live.Line, state *live.State, at int) ([]byte, error) {
	release := &state.Releases[at]
	found, _, err := l.History(ctx, state, track.Scope{Release: release.Key}, l.StartOf(state, release.Key))
	if err != nil {
		return nil, err
	}
	played, err := l.LandingsAt(ctx, state)
	if err != nil {
		return nil, err
	}
	landing := forecast.Landing{}
	for _, of := range played.Releases {
		if of.Key == release.Key {
			landing = of
		}
	}
	promises, err := l.PromisesAt(ctx, state)
	if err != nil {
		return nil, err
	}
	landed, _ := forecast.LandedOn(state.Plan, forecast.Set{Release: release.Key})
	var out bytes.Buffer
	err = exchange.WriteReleaseReview(&out, state.Program, exchange.ReleaseReview{
		Release: release, History: &found, Features: track.FeaturesOf(state.Plan, found.Items), Landing: &landing, Landed: landed,
		Promises: slices.DeleteFunc(promises, func(w forecast.Watched) bool { return w.Promise.Release != release.Key }),
	})
	return out.Bytes(), err
}

// ReviewOf looks back on what a brief is about, as Markdown; empty where there is nothing to look back on.
func ReviewOf(ctx context.Context, l *live.Line, state *live.State, about briefs.About) (string, error) {
	switch {
	case about.Release != "":
		if at := ReleaseAt(state, about.Release); at >= 0 {
			text, err := ReleaseReview(ctx, l, state, at)
			return string(text), err
		}
	case about.Team != "":
		found, there, err := l.Review(ctx, state, about.Team, about.Iteration)
		if err != nil || !there {
			return "", err
		}
		var out bytes.Buffer
		err = exchange.WriteReview(&out, state.Program, &found)
		return out.String(), err
	}
	return "", nil
}

// ReleaseAt is the position of a release; -1 where there is none.
func ReleaseAt(state *live.State, key string) int {
	return slices.IndexFunc(state.Releases, func(r program.Release) bool { return r.Key == key })
}

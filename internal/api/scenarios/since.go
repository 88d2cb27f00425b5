package scenarios

import (
	"context"
	"net/http"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/program"
	"jantrel/core/scenario"
	"jantrel/internal/api/door"
)

// SinceThen is what became of a plan since a moment.
type SinceThen struct {
	Of       SideOf             `json:"of" doc:"The moment"`
	Began    time.Time          `json:"began,omitzero" doc:"When the last edit before it was made: what came later is told"`
	Revision int64              `json:"revision"`
	Items    []BecameBy         `json:"items" doc:"The first 1000"`
	More     int                `json:"more,omitempty" doc:"Beyond those"`
	Sums     []scenario.SumOf   `json:"sums"`
	Then     []scenario.TotalOf `json:"then"`
	Now      []scenario.TotalOf `json:"now"`
}

// BecameBy is what became of an item, and who did it last.
type BecameBy struct {
	scenario.Became
	By string    `json:"by,omitempty"`
	At time.Time `json:"at,omitzero"`
}

// mostNamed is of how many things that became of items it is told who did them.
const mostNamed = 300

func (s stage) since(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "get-since", Method: http.MethodGet, Path: "/api/v1/programs/{id}/since", Summary: "What became of the plan since a baseline, a day or a revision",
	}, func(ctx context.Context, in *struct {
		door.Reading
		Of      string `query:"of" required:"true" maxLength:"40" doc:"Since when: baseline-3, a day (its end) or a revision of the line that is asked about"`
		Release string `query:"release" maxLength:"100" doc:"Of which release; missing: of all"`
		Team    string `query:"team" maxLength:"100" doc:"Of which team"`
		Feature string `query:"feature" maxLength:"100" doc:"Of which feature or initiative"`
	}) (*struct{ Body SinceThen }, error) {
		l, now, err := s.Read(ctx, in.Reading)
		if err != nil {
			return nil, err
		}
		line := s.Asked(ctx)
		if strings.HasPrefix(in.Of, "baseline-") {
			line = 0 // baselines are the live plan's
		}
		then, _, err := s.LineAs(ctx, in.ID, line, in.Of)
		if err != nil {
			return nil, err
		}
		before := then.State()
		out := SinceThen{Of: SideOf{Of: in.Of, Name: in.Of, Revision: before.Revision, Day: before.Today, At: in.Of}, Revision: now.Revision}
		if out.Began, _, err = s.Store().MadeAt(ctx, l.ID(), before.Revision); err != nil {
			return nil, s.Failed(ctx, err)
		}
		if side, _, err := s.side(ctx, in.ID, in.Of); err == nil {
			out.Of.Name = side.Name
		}
		became := scenario.Since(before.Plan, now.Plan, scenario.Scope{Release: in.Release, Team: in.Team, Item: in.Feature})
		out.Sums, out.Then, out.Now = became.Sums, became.Then, became.Now
		out.More = max(0, len(became.Items)-mostItems)
		out.Items = make([]BecameBy, len(became.Items)-out.More)
		for i := range out.Items {
			b := BecameBy{Became: became.Items[i]}
			if i < mostNamed {
				ref := program.Ref{Kind: program.KindItem, Key: b.Key}
				edit, has, err := l.LastSet(ctx, ref, b.Field)
				if err == nil && (!has || edit.Revision <= before.Revision) {
					list, listErr := l.HistoryOf(ctx, ref, 1)
					if err, has = listErr, len(list) > 0; has {
						edit = list[0]
					}
				}
				if err != nil {
					return nil, s.Failed(ctx, err)
				}
				if has && edit.Revision > before.Revision {
					b.By, b.At = edit.Actor, edit.At
				}
			}
			out.Items[i] = b
		}
		return &struct{ Body SinceThen }{out}, nil
	})
}

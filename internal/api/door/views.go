package door

import (
	"context"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/backlog"
	"jantrel/core/program"
	"jantrel/internal/live"
)

// OwnViews are the views of a program that the visitor keeps for themselves.
func (d *Door) OwnViews(ctx context.Context, id int64) ([]program.View, error) {
	views, err := d.Store().PrivateViews(ctx, id, VisitorOf(ctx).Account.ID)
	if err != nil {
		return nil, d.Failed(ctx, err)
	}
	return views, nil
}

// PickedBy are the keys of what a view holds in a state, by rank: of a ready-made or shared view, or
// of one that the visitor keeps for themselves (mine). Without a view, none.
func (d *Door) PickedBy(ctx context.Context, id int64, state *live.State, view string, mine bool) ([]string, error) {
	if view == "" {
		return nil, nil
	}
	views := append(backlog.ReadyMade(), state.Views...)
	if mine {
		var err error
		if views, err = d.OwnViews(ctx, id); err != nil {
			return nil, err
		}
	}
	at := slices.IndexFunc(views, func(v program.View) bool { return v.Key == view })
	if at < 0 {
		return nil, huma.Error404NotFound("There is no such view. It may have been removed, or be one that somebody keeps for themselves.")
	}
	list, err := state.Index().List(program.View{Filter: views[at].Filter}, "")
	if err != nil {
		return nil, huma.Error422UnprocessableEntity("The view cannot be read any more: " + err.Error())
	}
	return list.Rows, nil
}

package door

import (
	"context"
	"errors"
	"net/http"
	"strconv"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/roles"
	"jantrel/internal/live"
	"jantrel/internal/store"
)

// Every operation on a program may be asked of one of its scenarios, by scenario in its query. What is not part of the
// plan (files, accounts, tokens) belongs to the program as a whole: from within a scenario it can be read, and not
// changed.

// OnLine marks operations, for their Metadata, that change the line that is asked about and nothing beside it.
var OnLine = map[string]any{"line": true}

type lineKey struct{}

// lineOf is the scenario that is asked about; 0: the live plan.
func lineOf(ctx context.Context) int64 {
	line, _ := ctx.Value(lineKey{}).(int64)
	return line
}

// Choose finds out which line of a program a request is about. It is to be called after Authenticate.
func (d *Door) Choose(api huma.API) func(huma.Context, func(huma.Context)) {
	return func(ctx huma.Context, next func(huma.Context)) {
		text := ctx.Query("scenario")
		if text == "" || !ofProgram(ctx.Operation()) {
			next(ctx)
			return
		}
		line, err := strconv.ParseInt(text, 10, 64)
		if err != nil || line <= 0 {
			refuse(api, ctx, huma.Error422UnprocessableEntity("scenario: "+strconv.Quote(text)+" is no scenario; it is the number that its address has."))
			return
		}
		if !mayBeOnLine(ctx.Operation()) {
			refuse(api, ctx, huma.Error422UnprocessableEntity("Nothing was changed: this belongs to the program as a whole and not to a scenario. Go back to the live plan for it."))
			return
		}
		next(huma.WithValue(ctx, lineKey{}, line))
	}
}

func ofProgram(o *huma.Operation) bool { return strings.HasPrefix(o.Path, "/api/v1/programs/{id}") }

func mayBeOnLine(o *huma.Operation) bool {
	return o.Method == http.MethodGet || o.Metadata["line"] != nil || o.Metadata["asks"] != nil
}

// DescribeLines adds to the description of each operation that may be asked of a scenario how that is said.
func DescribeLines(api *huma.OpenAPI) {
	for _, item := range api.Paths {
		for _, o := range []*huma.Operation{item.Get, item.Post, item.Put, item.Delete} {
			if o != nil && ofProgram(o) && mayBeOnLine(o) {
				o.Parameters = append(o.Parameters, &huma.Param{Name: "scenario", In: "query", Description: "The scenario that is asked about; left out: the live plan", Schema: &huma.Schema{Type: huma.TypeInteger, Format: "int64"}})
			}
		}
	}
}

// scenario opens a scenario for a visitor who may see it: their own, or one that is shared. In their own, whoever
// may make one may change everything: it touches nothing.
func (d *Door) scenario(ctx context.Context, id, line int64, who roles.Who) (*live.Line, roles.Who, error) {
	about, err := d.Scenario(ctx, id, line)
	if err != nil {
		return nil, who, err
	}
	l, err := d.Hub.OpenScenario(ctx, id, line)
	if errors.Is(err, store.ErrNotFound) {
		return nil, who, noScenario()
	}
	if err != nil {
		return nil, who, d.Failed(ctx, err)
	}
	return l, inScenario(who, VisitorOf(ctx).Account.ID, about.About), nil
}

// inScenario is what somebody is within a scenario.
func inScenario(who roles.Who, account int64, about store.About) roles.Who {
	if about.Owner != nil && *about.Owner == account && roles.MayScenario(who.Role, roles.Scenarios) && who.Role != roles.Administrator {
		who.Role = roles.Manager
	}
	return who
}

// Scenario is what is known of a scenario of a program that the visitor may see, or the problem to answer with. To
// others it looks as if there were none.
func (d *Door) Scenario(ctx context.Context, id, line int64) (store.Line, error) {
	found, err := d.Hub.Store().Line(ctx, line)
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return found, d.Failed(ctx, err)
	}
	if err != nil || found.Program != id || found.Base == nil || !Sees(ctx, found.About) {
		return found, noScenario()
	}
	return found, nil
}

// Sees reports whether the visitor may see a scenario of a program that they belong to.
func Sees(ctx context.Context, about store.About) bool {
	return about.Shared || about.Owner != nil && *about.Owner == VisitorOf(ctx).Account.ID
}

func noScenario() error {
	return huma.Error404NotFound("There is no such scenario. It may have been deleted, or is private.")
}

// LiveAs opens the live plan of a program, whichever line is asked about, with what the visitor is to it.
func (d *Door) LiveAs(ctx context.Context, id int64) (*live.Line, roles.Who, error) {
	return d.OpenAs(context.WithValue(ctx, lineKey{}, int64(0)), id)
}

package door

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/calendar"
	"jantrel/core/roles"
	"jantrel/internal/journal"
	"jantrel/internal/live"
	"jantrel/internal/store"
)

// Every operation on a program may be asked of one of its scenarios, by scenario in its query. What is not part of the
// plan (files, accounts, tokens) belongs to the program as a whole: from within a scenario it can be read, and not
// changed.

// OnLine marks operations, for their Metadata, that change the line that is asked about and nothing beside it.
var OnLine = map[string]any{"line": true}

// OfPast marks those of them that may be asked of the past, as they do not change it.
var OfPast = map[string]any{"line": true, "past": true}

type lineKey struct{}

// askedLine is which line of a program a request is about, and when.
type askedLine struct {
	scenario int64  // 0: the live plan
	at       string // a moment of the past; empty: now
}

func lineOf(ctx context.Context) askedLine {
	line, _ := ctx.Value(lineKey{}).(askedLine)
	return line
}

// Choose finds out which line of a program a request is about. It is to be called after Authenticate.
func (d *Door) Choose(api huma.API) func(huma.Context, func(huma.Context)) {
	return func(ctx huma.Context, next func(huma.Context)) {
		text, at := ctx.Query("scenario"), ctx.Query("at")
		if text == "" && at == "" || !ofProgram(ctx.Operation()) {
			next(ctx)
			return
		}
		var line int64
		var err error
		if text != "" {
			line, err = strconv.ParseInt(text, 10, 64)
		}
		if err != nil || line < 0 {
			refuse(api, ctx, huma.Error422UnprocessableEntity("scenario: "+strconv.Quote(text)+" is no scenario; it is the number that its address has."))
			return
		}
		if line != 0 && !mayBeOnLine(ctx.Operation()) {
			refuse(api, ctx, huma.Error422UnprocessableEntity("Nothing was changed: this belongs to the program as a whole and not to a scenario. Go back to the live plan for it."))
			return
		}
		if at != "" && ctx.Operation().Method != http.MethodGet && ctx.Operation().Metadata["asks"] == nil && ctx.Operation().Metadata["past"] == nil {
			refuse(api, ctx, huma.Error409Conflict("Nothing was changed: this is the past, which stays as it was. Go back to the live plan, or make a scenario of it."))
			return
		}
		next(huma.WithValue(ctx, lineKey{}, askedLine{line, at}))
	}
}

func ofProgram(o *huma.Operation) bool { return strings.HasPrefix(o.Path, "/api/v1/programs/{id}") }

func mayBeOnLine(o *huma.Operation) bool {
	return o.Method == http.MethodGet || o.Metadata["line"] != nil || o.Metadata["asks"] != nil
}

// query are the parameters by which every operation on a program may be asked of another line.
var query = []*huma.Param{
	{Name: "scenario", In: "query", Description: "The scenario that is asked about; left out: the live plan", Schema: &huma.Schema{Type: huma.TypeInteger, Format: "int64"}},
	{Name: "at", In: "query", Description: "As it was: a revision, a day (at its end), a time such as 2027-03-02T12:00:00Z, or a baseline as baseline-7; seen on that day. Nothing can be changed there", Schema: &huma.Schema{Type: huma.TypeString, MaxLength: new(40)}},
}

// frozen is a line as it was at the moment that a request is about. In the past everybody looks, and nobody changes.
func (d *Door) frozen(ctx context.Context, l *live.Line, who roles.Who, at string) (*live.Line, roles.Who, error) {
	ctx = live.InTurn(ctx)
	var state *live.State
	revision, notNumber := strconv.ParseInt(at, 10, 64)
	moment, notTime := time.Parse(time.RFC3339, at)
	day, notDay := calendar.Parse(at)
	baseline, notBaseline := strconv.ParseInt(strings.TrimPrefix(at, "baseline-"), 10, 64)
	var err error
	if notTime == nil && moment.After(d.Hub.Now()) || notTime != nil && notDay == nil && day > d.Hub.Today() {
		return nil, who, huma.Error404NotFound(fmt.Sprintf("%s is still to come: a program can be seen as it is, and as it was.", at))
	}
	switch {
	case notNumber == nil:
		state, err = l.At(ctx, revision)
	case notTime == nil:
		state, err = l.AsOf(ctx, moment)
	case notDay == nil:
		var has bool
		if state, has, err = l.EndOf(ctx, day); err == nil && !has {
			return nil, who, huma.Error404NotFound("The journal began later than " + day.Time().Format("2 Jan 2006") + ".")
		}
	case notBaseline == nil:
		var b store.Baseline
		if b, err = d.Store().Baseline(ctx, l.Program(), baseline); err == nil && l.IsLive() {
			state, err = l.SeenOn(ctx, b.Revision, b.Day)
		}
		if errors.Is(err, journal.ErrNotFound) || err == nil && state == nil {
			return nil, who, huma.Error404NotFound("There is no such baseline. It may have been removed.")
		}
	default:
		return nil, who, huma.Error422UnprocessableEntity(fmt.Sprintf("at: %q is neither a revision, a baseline, a day nor a time such as 2027-03-02T12:00:00Z.", at))
	}
	if errors.Is(err, journal.ErrNotFound) {
		return nil, who, huma.Error404NotFound("There is no such revision.")
	}
	if err != nil {
		return nil, who, d.Problem(ctx, err)
	}
	who.Role = roles.Viewer
	return l.Frozen(state), who, nil
}

// DescribeLines adds to the description of each operation that may be asked of a scenario how that is said.
func DescribeLines(api *huma.OpenAPI) {
	for _, item := range api.Paths {
		for _, o := range []*huma.Operation{item.Get, item.Post, item.Put, item.Delete} {
			if o != nil && ofProgram(o) && mayBeOnLine(o) {
				for _, p := range query {
					if !slices.ContainsFunc(o.Parameters, func(has *huma.Param) bool { return has.Name == p.Name }) {
						o.Parameters = append(o.Parameters, p)
					}
				}
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
	if errors.Is(err, journal.ErrNotFound) {
		return nil, who, noScenario()
	}
	if err != nil {
		return nil, who, d.Failed(ctx, err)
	}
	return l, inScenario(who, VisitorOf(ctx), about.About), nil
}

// inScenario is what somebody is within a scenario. A token has its role there too.
func inScenario(who roles.Who, v *Visitor, about journal.About) roles.Who {
	if v.Token == nil && about.Owner != nil && *about.Owner == v.Account.ID && roles.MayBeside(who.Role, roles.Scenarios) && who.Role != roles.Administrator {
		who.Role = roles.Manager
	}
	return who
}

// Scenario is what is known of a scenario of a program that the visitor may see, or the problem to answer with. To
// others it looks as if there were none.
func (d *Door) Scenario(ctx context.Context, id, line int64) (journal.Line, error) {
	found, err := d.Store().Line(ctx, line)
	if err != nil && !errors.Is(err, journal.ErrNotFound) {
		return found, d.Failed(ctx, err)
	}
	if err != nil || found.Program != id || found.Base == nil || !Sees(ctx, found.About) {
		return found, noScenario()
	}
	return found, nil
}

// Sees reports whether the visitor may see a scenario of a program that they belong to.
func Sees(ctx context.Context, about journal.About) bool {
	return about.Shared || about.Owner != nil && *about.Owner == VisitorOf(ctx).Account.ID
}

func noScenario() error {
	return huma.Error404NotFound("There is no such scenario. It may have been deleted, or is private.")
}

// LineAs opens a scenario of a program, or the live plan, at a moment or as it is, whichever line is asked about.
func (d *Door) LineAs(ctx context.Context, id, scenario int64, at string) (*live.Line, roles.Who, error) {
	return d.OpenAs(context.WithValue(ctx, lineKey{}, askedLine{scenario, at}), id)
}

// Asked is the scenario that a request is about; 0: the live plan.
func (d *Door) Asked(ctx context.Context) int64 { return lineOf(ctx).scenario }

// LiveAs opens the live plan of a program, whichever line is asked about, with what the visitor is to it.
func (d *Door) LiveAs(ctx context.Context, id int64) (*live.Line, roles.Who, error) {
	return d.LineAs(ctx, id, 0, "")
}

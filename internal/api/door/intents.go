package door

import (
	"context"
	"errors"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/act"
	"jantrel/core/forecast"
	"jantrel/core/standing"
	"jantrel/internal/live"
)

// Meant is what comes with every intent.
type Meant struct {
	Client
	Revision int64  `json:"revision" minimum:"0" doc:"The revision that was in view when it was said"`
	Digest   string `json:"digest,omitempty" maxLength:"64" doc:"Of a proposal that was agreed to: it is made only if it still comes out like that"`
	Dry      bool   `json:"dry,omitempty" doc:"Only say what it would do"`
	Landings bool   `json:"landings,omitempty" doc:"Dry: say when releases would land, too"`
}

// Outcome is what an intent did or, dry, would do.
type Outcome struct {
	Label    string            `json:"label"`
	Keys     []string          `json:"keys" doc:"Items that are new, or that go"`
	Notes    []string          `json:"notes" doc:"What else is to be known"`
	Ask      *act.Question     `json:"ask,omitempty" doc:"Dry: what could not be known; say the intent again with the answer in its field"`
	Changes  int               `json:"changes" doc:"How many changes it is made of; 0: there is nothing to change"`
	Revision int64             `json:"revision" doc:"Dry: the revision it was planned on"`
	Digest   string            `json:"digest,omitempty" doc:"Dry: to send along with a yes"`
	Effects  *standing.Effects `json:"effects,omitempty" doc:"Dry: what it would do to the plan"`
	Landings []Landed          `json:"landings,omitempty" doc:"Dry, where asked for: when each release lands as it is, and would land"`
	Update   *live.Update      `json:"update,omitempty" doc:"Missing where nothing was changed"`
	Steps
}

// Landed is when a release lands, and when it would.
type Landed struct {
	Before forecast.Landing `json:"before"`
	After  forecast.Landing `json:"after"`
}

// Planned is the answer to an intent.
type Planned struct{ Body Outcome }

// Operation is the operation of an intent: one for each, so that each says exactly what
// it takes.
func Operation(name, summary string) huma.Operation {
	return huma.Operation{
		OperationID: "do-" + name, Method: http.MethodPost, Path: "/api/v1/programs/{id}/do/" + name, Summary: summary,
		MaxBodyBytes: MaxIntent, BodyReadTimeout: ImportTime,
		Errors: []int{http.StatusForbidden, http.StatusNotFound, http.StatusConflict, http.StatusUnprocessableEntity},
	}
}

// Request says an intent of a program.
type Request[I any] struct {
	ProgramID
	Once
	Body struct {
		Meant
		Intent I `json:"intent"`
	}
}

// Intent registers the operation of one intent.
func Intent[I act.Intent](api huma.API, d *Door, name, summary string) {
	huma.Register(api, Operation(name, summary), func(ctx context.Context, in *Request[I]) (*Planned, error) {
		return Say(ctx, d, name, in, in.Body.Intent)
	})
}

// Say makes an edit of what a request of a name means or, dry, says what it would do.
func Say[I any](ctx context.Context, d *Door, name string, in *Request[I], meant act.Intent) (*Planned, error) {
	m := in.Body.Meant
	l, who, err := d.OpenAs(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	by := in.Sent(d.Author(ctx, who, m.Client.Client), name, in.Body)
	var out Planned
	if m.Dry {
		proposal, err := l.Propose(by, meant)
		if err != nil {
			return nil, d.Problem(ctx, err)
		}
		out.Body = proposed(proposal)
		if m.Landings && len(proposal.Changes) > 0 {
			before, after, err := l.LandingsOf(ctx, proposal)
			switch {
			case errors.Is(err, live.ErrBusy), errors.Is(err, live.ErrTooLong): // what it would do to the plan is known without
			case err != nil:
				return nil, d.Problem(ctx, err)
			default:
				out.Body.Landings = landed(before, after)
			}
		}
	} else {
		done, err := l.Do(ctx, by, live.Request{Intent: meant, Base: m.Revision, Digest: m.Digest})
		if err != nil {
			return nil, d.Problem(ctx, err)
		}
		out.Body = Outcome{Label: done.Label, Keys: done.Keys, Notes: done.Notes, Changes: len(done.Changes), Revision: l.State().Revision, Update: done.Update}
	}
	out.Body.Steps, err = d.Steps(ctx, l, by)
	return &out, err
}

func proposed(p live.Proposal) Outcome {
	return Outcome{Label: p.Label, Keys: p.Keys, Notes: p.Notes, Ask: p.Ask, Changes: len(p.Changes), Revision: p.Revision, Digest: p.Digest, Effects: &p.Effects}
}

// landed pairs the landings of the releases that there are before and after.
func landed(before, after []forecast.Landing) []Landed {
	list := []Landed{}
	for _, a := range after {
		for _, b := range before {
			if a.Key == b.Key {
				list = append(list, Landed{b, a})
			}
		}
	}
	return list
}

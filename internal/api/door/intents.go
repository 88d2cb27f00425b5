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
	Ask      *act.Question     `json:"ask,omitempty" doc:"What could not be known, or is to be asked first; say the intent again with the answer in its field"`
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
		Metadata:     OnLine,
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
	if !m.Dry {
		out, err := d.Made(ctx, l, by, live.Request{Intent: meant, Base: m.Revision, Digest: m.Digest})
		return &Planned{out}, err
	}
	out, err := d.Dry(ctx, l, by, meant, m.Landings)
	if err != nil {
		return nil, d.Problem(ctx, err)
	}
	out.Steps, err = d.Steps(ctx, l, by)
	return &Planned{out}, err
}

// Dry says what an intent would do on a line, and where asked for when releases would land. Its errors are live's.
func (d *Door) Dry(ctx context.Context, l *live.Line, by live.Author, meant act.Intent, landings bool) (Outcome, error) {
	proposal, err := l.Propose(by, meant)
	if err != nil {
		return Outcome{}, err
	}
	out := proposed(proposal)
	if !landings || len(proposal.Changes) == 0 {
		return out, nil
	}
	before, after, err := l.LandingsOf(ctx, proposal)
	switch {
	case errors.Is(err, live.ErrBusy), errors.Is(err, live.ErrTooLong): // what it would do to the plan is known without
	case err != nil:
		return out, err
	default:
		out.Landings = landed(before, after)
	}
	return out, nil
}

// Made makes an edit on a line, and says what it did, or the problem to answer with.
func (d *Door) Made(ctx context.Context, l *live.Line, by live.Author, r live.Request) (Outcome, error) {
	done, err := l.Do(ctx, by, r)
	if err != nil {
		return Outcome{}, d.Problem(ctx, err)
	}
	out := Outcome{Label: done.Label, Keys: done.Keys, Notes: done.Notes, Ask: done.Ask, Changes: len(done.Changes), Revision: l.State().Revision, Update: done.Update}
	out.Steps, err = d.Steps(ctx, l, by)
	return out, err
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

// Package scenarios serves what-if copies of a plan: making them, bringing them up to date and publishing them.
package scenarios

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/roles"
	"jantrel/internal/api/door"
	"jantrel/internal/journal"
	"jantrel/internal/live"
)

type stage struct{ *door.Door }

// Register registers the operations.
func Register(api huma.API, d *door.Door) {
	s := stage{d}
	s.lists(api)
	s.merges(api)
	s.baselines(api)
	s.comparing(api)
	s.since(api)
}

// Listed is a scenario as lists show it.
type Listed struct {
	ID     int64     `json:"id" doc:"Goes into scenario of every request that is about it"`
	Name   string    `json:"name"`
	Note   string    `json:"note,omitempty" doc:"What it assumes"`
	By     string    `json:"by" doc:"Whose it is"`
	Mine   bool      `json:"mine,omitempty"`
	Shared bool      `json:"shared,omitempty" doc:"All who belong to the program see it; others are their owner's alone"`
	At     time.Time `json:"at" doc:"When it was made"`
	From   string    `json:"from" doc:"What it was made from, in words"`
	Edits  int64     `json:"edits" doc:"How many were made in it"`
}

// Private is a scenario that its owner alone sees, as who manages the program is told of it: that it is there.
type Private struct {
	ID    int64     `json:"id"`
	By    string    `json:"by" doc:"Whose it is"`
	At    time.Time `json:"at" doc:"When it was made"`
	Edits int64     `json:"edits" doc:"How many were made in it"`
	Left  bool      `json:"left,omitempty" doc:"They do not belong to the program any more: it may be deleted"`
}

// about is what somebody says of a scenario.
type about struct {
	Name   string `json:"name" minLength:"1" maxLength:"120"`
	Note   string `json:"note,omitempty" maxLength:"2000" doc:"What it assumes"`
	Shared bool   `json:"shared,omitempty" doc:"All who belong to the program see it"`
}

func (s stage) lists(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "list-scenarios", Method: http.MethodGet, Path: "/api/v1/programs/{id}/scenarios", Summary: "The scenarios that one may see, the newest first",
	}, s.list)
	huma.Register(api, huma.Operation{
		OperationID: "list-private-scenarios", Method: http.MethodGet, Path: "/api/v1/programs/{id}/scenarios/private", Summary: "That others have scenarios of their own, and whose they are, the newest first; for who manages the program",
		Errors: []int{http.StatusForbidden},
	}, s.listPrivate)
	huma.Register(api, huma.Operation{
		OperationID: "make-scenario", Metadata: door.OfPast, Method: http.MethodPost, Path: "/api/v1/programs/{id}/scenarios", Summary: "Make a scenario of the live plan, of another one, or of either as it was",
		MaxBodyBytes: 16 << 10, DefaultStatus: http.StatusCreated, Errors: []int{http.StatusForbidden, http.StatusNotFound, http.StatusConflict, http.StatusUnprocessableEntity},
	}, s.make)
	huma.Register(api, huma.Operation{
		OperationID: "save-scenario", Metadata: door.OnLine, Method: http.MethodPut, Path: "/api/v1/programs/{id}/scenarios/{scenario}", Summary: "Rename a scenario, say what it assumes, share it or keep it private",
		MaxBodyBytes: 16 << 10, Errors: []int{http.StatusForbidden, http.StatusNotFound, http.StatusUnprocessableEntity},
	}, s.save)
	huma.Register(api, huma.Operation{
		OperationID: "delete-scenario", Metadata: door.OnLine, Method: http.MethodDelete, Path: "/api/v1/programs/{id}/scenarios/{scenario}", Summary: "Delete a scenario for good; who manages the program also a private one of somebody who left",
		Errors: []int{http.StatusForbidden, http.StatusNotFound},
	}, s.remove)
}

func listed(ctx context.Context, l journal.Line) Listed {
	at, _ := time.Parse(time.RFC3339Nano, l.At) // written by make
	return Listed{l.ID, l.Name, l.Note, l.By, owns(ctx, l), l.Shared, at, l.From, l.Revision - *l.BaseRevision}
}

func owns(ctx context.Context, l journal.Line) bool {
	return l.Owner != nil && *l.Owner == door.VisitorOf(ctx).Account.ID
}

func (s stage) list(ctx context.Context, in *door.ProgramID) (*struct{ Body []Listed }, error) {
	if _, _, err := s.LiveAs(ctx, in.ID); err != nil {
		return nil, err
	}
	lines, err := s.Store().Lines(ctx, in.ID)
	if err != nil {
		return nil, s.Failed(ctx, err)
	}
	out := &struct{ Body []Listed }{[]Listed{}}
	for i := len(lines) - 1; i >= 0; i-- {
		if lines[i].Base != nil && door.Sees(ctx, lines[i].About) {
			out.Body = append(out.Body, listed(ctx, lines[i]))
		}
	}
	return out, nil
}

func (s stage) listPrivate(ctx context.Context, in *door.ProgramID) (*struct{ Body []Private }, error) {
	_, who, err := s.LiveAs(ctx, in.ID)
	if err == nil && !door.Manages(who.Role) {
		err = s.Denied(ctx, "Only program managers see whose private scenarios there are.")
	}
	if err != nil {
		return nil, err
	}
	lines, err := s.Store().Lines(ctx, in.ID)
	if err != nil {
		return nil, s.Failed(ctx, err)
	}
	out := &struct{ Body []Private }{[]Private{}}
	for _, l := range slices.Backward(lines) {
		if l.Base == nil || door.Sees(ctx, l.About) {
			continue
		}
		left, err := s.Left(ctx, in.ID, l.Owner)
		if err != nil {
			return nil, s.Failed(ctx, err)
		}
		at, _ := time.Parse(time.RFC3339Nano, l.At) // written by make
		out.Body = append(out.Body, Private{l.ID, l.By, at, l.Revision - *l.BaseRevision, left})
	}
	return out, nil
}

func (s stage) make(ctx context.Context, in *struct {
	door.Reading
	Body about
}) (*struct{ Body Listed }, error) {
	of, state, err := s.Read(ctx, in.Reading)
	if err != nil {
		return nil, err
	}
	_, who, err := s.LiveAs(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	if !roles.MayBeside(who.Role, roles.Scenarios) {
		return nil, s.Denied(ctx, "As "+string(who.Role)+" you may not make scenarios; ask a program manager.")
	}
	from, err := s.inWords(ctx, of, state, in.At != "")
	if err != nil {
		return nil, s.Failed(ctx, err)
	}
	v := door.VisitorOf(ctx)
	now := s.Hub.Now().UTC()
	said := journal.About{Name: strings.TrimSpace(in.Body.Name), Note: strings.TrimSpace(in.Body.Note), Shared: in.Body.Shared, Owner: &v.Account.ID, By: v.Account.Name, At: now.Format(time.RFC3339Nano), From: from}
	if said.Name == "" {
		return nil, huma.Error422UnprocessableEntity("Give the scenario a name.")
	}
	who.Role = roles.Manager // what it begins with is no edit of theirs
	made, err := s.Hub.MakeScenario(ctx, s.Author(ctx, who, "scenario"), of, state.Revision, said)
	switch {
	case errors.Is(err, journal.ErrManyScenarios), errors.Is(err, journal.ErrManyOwnScenarios):
		return nil, huma.Error409Conflict("No scenario was made: " + err.Error() + ".")
	case err != nil:
		return nil, s.Failed(ctx, err)
	}
	line, err := s.Store().Line(ctx, made.ID())
	if err != nil {
		return nil, s.Failed(ctx, err)
	}
	return &struct{ Body Listed }{listed(ctx, line)}, nil
}

// inWords says what a scenario is made from.
func (s stage) inWords(ctx context.Context, of *live.Line, state *live.State, past bool) (string, error) {
	name := "the live plan"
	if !of.IsLive() {
		line, err := s.Store().Line(ctx, of.ID())
		if err != nil {
			return "", err
		}
		name = "“" + line.Name + "”"
	}
	if past {
		return fmt.Sprintf("%s as it was on %s", name, state.Today.Time().Format("2 Jan 2006")), nil
	}
	return fmt.Sprintf("%s of %s", name, state.Today.Time().Format("2 Jan 2006")), nil
}

// mine is a scenario that the visitor may rename, share and delete: their own, or a shared one as who may make every
// change.
func (s stage) mine(ctx context.Context, id, line int64) (journal.Line, error) {
	_, who, err := s.LiveAs(ctx, id)
	if err != nil {
		return journal.Line{}, err
	}
	found, err := s.Scenario(ctx, id, line)
	if err == nil && !owns(ctx, found) && !door.Manages(who.Role) {
		err = s.Denied(ctx, "Only whose scenario it is, or a program manager, may do this.")
	}
	return found, err
}

// removable is a scenario that the visitor may delete: mine, or as who manages the program a private one of somebody who
// left.
func (s stage) removable(ctx context.Context, id, line int64) (journal.Line, error) {
	_, who, err := s.LiveAs(ctx, id)
	if err != nil {
		return journal.Line{}, err
	}
	found, err := s.Store().Line(ctx, line)
	if err != nil || found.Program != id || found.Base == nil || door.Sees(ctx, found.About) || !door.Manages(who.Role) {
		return s.mine(ctx, id, line) // which says what is wrong
	}
	left, err := s.Left(ctx, id, found.Owner)
	if err != nil {
		return found, s.Failed(ctx, err)
	}
	if !left {
		return found, s.Denied(ctx, "This scenario is private, and "+found.By+" still belongs to the program: only they can delete it.")
	}
	return found, nil
}

func (s stage) save(ctx context.Context, in *struct {
	door.ProgramID
	Scenario int64 `path:"scenario"`
	Body     about
}) (*struct{ Body Listed }, error) {
	line, err := s.mine(ctx, in.ID, in.Scenario)
	if err != nil {
		return nil, err
	}
	if line.Name = strings.TrimSpace(in.Body.Name); line.Name == "" {
		return nil, huma.Error422UnprocessableEntity("Give the scenario a name.")
	}
	line.Note, line.Shared = strings.TrimSpace(in.Body.Note), in.Body.Shared
	if err := s.Store().KeepAbout(ctx, line.ID, line.About); err != nil {
		return nil, s.Failed(ctx, err)
	}
	return &struct{ Body Listed }{listed(ctx, line)}, nil
}

func (s stage) remove(ctx context.Context, in *struct {
	door.ProgramID
	Scenario int64 `path:"scenario"`
}) (*struct{}, error) {
	line, err := s.removable(ctx, in.ID, in.Scenario)
	if err == nil {
		if err = s.Hub.DeleteScenario(ctx, line.ID); err != nil {
			err = s.Failed(ctx, err)
		}
	}
	return nil, err
}

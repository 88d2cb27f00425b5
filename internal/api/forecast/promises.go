package forecast

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/program"
	"jantrel/core/roles"
	"jantrel/internal/api/door"
)

// promised is a date that somebody is given.
type promised struct {
	Release   string       `json:"release,omitempty" maxLength:"64" doc:"What is promised: this or a milestone"`
	Milestone string       `json:"milestone,omitempty" maxLength:"64"`
	Date      program.Date `json:"date" doc:"By the end of which it is to land"`
	To        string       `json:"to" minLength:"1" maxLength:"200" doc:"Whom it is given to"`
	Made      program.Date `json:"made,omitzero" doc:"The day on which it was given; missing: today"`
	Note      string       `json:"note,omitempty" maxLength:"2000"`
}

// givePromise notes a promise. The odds that it has are played here, so that nobody can say others.
func (s stage) givePromise(ctx context.Context, in *door.Request[promised]) (*door.Planned, error) {
	l, who, err := s.OpenAs(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	// Whether they may at all is asked before anything is played; the gate asks again.
	if roles.ReachOf(who.Role, program.KindPromise, program.Add, "") != roles.Any {
		return nil, huma.Error403Forbidden("A promise is noted by a program manager. Ask one.")
	}
	x := in.Body.Intent
	if (x.Release == "") == (x.Milestone == "") {
		return nil, huma.Error422UnprocessableEntity("A release or a milestone is promised. Name one of them.")
	}
	intent, err := l.Promise(ctx, program.Promise{Release: x.Release, Milestone: x.Milestone, Date: x.Date, To: x.To, Made: x.Made, Note: x.Note})
	if err != nil {
		return nil, s.Problem(ctx, err)
	}
	return door.Say(ctx, s.Door, "give-promise", in, intent)
}

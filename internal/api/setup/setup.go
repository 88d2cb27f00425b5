// Package setup serves the set-up stage: capacity and velocity, people, calendars, and edits of
// cadences, iterations and releases.
package setup

import (
	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/act"
	"jantrel/internal/api/door"
	"jantrel/internal/feeds"
)

// stage is the door with this package's operations.
type stage struct {
	*door.Door
	feeds *feeds.Calendars
}

// Register adds the operations; feeds fetches the calendars that have an address.
func Register(api huma.API, d *door.Door, feeds *feeds.Calendars) {
	s := stage{d, feeds}
	s.capacity(api)
	s.people(api)
	s.calendars(api)
	door.Intent[act.SaveCadence](api, d, "save-cadence", "Change a cadence and its teams' coming iterations, or add one")
	door.Intent[act.FollowCadence](api, d, "follow-cadence", "Move a team to another cadence")
	door.Intent[act.AddTeam](api, d, "add-team", "Add a team with its iterations")
	door.Intent[act.SetMembers](api, d, "set-members", "Give a team other members")
	door.Intent[act.AgreeVelocity](api, d, "agree-velocity", "Note the velocity that a team agrees on")
	door.Intent[act.AddPeople](api, d, "add-people", "Add people from lines of text")
	door.Intent[act.StartIteration](api, d, "start-iteration", "Start an iteration")
	door.Intent[act.CloseIteration](api, d, "close-iteration", "Close an iteration")
	door.Intent[act.CloseEnded](api, d, "close-ended", "Close all iterations of some teams that are over")
	door.Intent[act.ResizeIteration](api, d, "resize-iteration", "Give an iteration another last day")
	door.Intent[act.InsertIteration](api, d, "insert-iteration", "Put an iteration after another")
	door.Intent[act.MoveIteration](api, d, "move-iteration", "Move an iteration and all after it")
	door.Intent[act.RemoveIteration](api, d, "remove-iteration", "Take an iteration out")
	door.Intent[act.ResumeIterations](api, d, "resume-iterations", "Make the iterations of teams that have had none for long")
	door.Intent[act.AgreeOn](api, d, "agree-on", "Agree on the suggested capacity of all coming iterations of a team")
	door.Intent[act.FitRelease](api, d, "fit-release", "Fit a release to its phases and items")
	door.Intent[act.MoveRelease](api, d, "move-release", "Move a release or a phase of it, with what is placed of it")
	door.Intent[act.LayPhases](api, d, "lay-phases", "Give a release the phases of a template")
	door.Intent[act.KeepTemplate](api, d, "keep-template", "Keep the phases of a release as a template")
}

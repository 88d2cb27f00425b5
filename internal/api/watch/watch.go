// Package watch serves the page of one's own: what concerns who asks, across programs.
package watch

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/act"
	"jantrel/core/program"
	"jantrel/core/roles"
	"jantrel/core/watch"
	"jantrel/internal/api/door"
	"jantrel/internal/live"
	"jantrel/internal/store"
)

// mostPrograms is how many programs are looked through, the oldest first.
const mostPrograms = 50

// Program is what concerns who asks in one program.
type Program struct {
	ID       int64          `json:"id"`
	Name     string         `json:"name"`
	Today    program.Date   `json:"today"`
	Revision int64          `json:"revision"`
	Role     roles.Role     `json:"role"`
	Person   string         `json:"person" doc:"Which of its people one is"`
	Course   []program.Step `json:"course" doc:"What items run through"`
	Mine     watch.Watch    `json:"mine"`
	Moves    []string       `json:"moves" doc:"Items that one may take along their course"`
	Works    []string       `json:"works" doc:"Items of whose tasks one may say how all go; of others only how one's own go"`
	People   []Name         `json:"people" doc:"Who tasks may be given to"`
}

// Name is what a person is called.
type Name struct {
	Key  string `json:"key"`
	Name string `json:"name"`
}

// Found is what concerns who asks.
type Found struct {
	Programs []Program `json:"programs" doc:"Those in which one is somebody, the oldest first"`
	LeftOut  int       `json:"leftOut" doc:"How many more there are than are looked through"`
}

// Register adds the operations.
func Register(api huma.API, d *door.Door) {
	s := stage{d}
	huma.Register(api, huma.Operation{
		OperationID: "get-watch", Method: http.MethodGet, Path: "/api/v1/watch", Summary: "What concerns one, across programs",
	}, s.watch)
	huma.Register(api, huma.Operation{
		OperationID: "get-news", Method: http.MethodGet, Path: "/api/v1/news", Summary: "What others did that concerns one, across programs, since one last said so",
	}, s.news)
	huma.Register(api, huma.Operation{
		OperationID: "see-news", Metadata: door.Keeps, Method: http.MethodPut, Path: "/api/v1/programs/{id}/news-seen", Summary: "Say that one has seen the news of a program up to a revision",
		DefaultStatus: http.StatusNoContent,
	}, s.see)
	door.Intent[act.TakeToStep](api, d, "take-to-step", "Take an item to a step of its course, or hear what is to be asked first")
	door.Intent[act.WorkOnTask](api, d, "work-on-task", "Say how a task goes")
}

// stage is the door with this package's operations.
type stage struct{ *door.Door }

func (s stage) watch(ctx context.Context, _ *struct{}) (*struct{ Body Found }, error) {
	found := Found{Programs: []Program{}}
	var err error
	found.LeftOut, err = s.each(ctx, func(m store.Membership, l *live.Line, who roles.Who) error {
		found.Programs = append(found.Programs, programOf(m.ProgramID, l.State(), who))
		return nil
	})
	if err != nil {
		return nil, err
	}
	return &struct{ Body Found }{found}, nil
}

// each looks through the programs in which who asks is somebody, the oldest first, and says how many
// more there are than are looked through.
func (s stage) each(ctx context.Context, look func(store.Membership, *live.Line, roles.Who) error) (leftOut int, err error) {
	v := door.VisitorOf(ctx)
	memberships, err := s.Store().Memberships(ctx, v.Account.ID)
	if err != nil {
		return 0, s.Failed(ctx, err)
	}
	looked := 0
	for _, m := range memberships {
		who := v.In(memberships, m.ProgramID) // of a token, what this lets one be
		if who.Role == "" || who.Person == "" {
			continue
		}
		if looked == mostPrograms {
			leftOut++
			continue
		}
		looked++
		l, who, err := s.OpenAs(ctx, m.ProgramID)
		if err != nil {
			return 0, err
		}
		if err := look(m, l, who); err != nil {
			return 0, err
		}
		if err := ctx.Err(); err != nil {
			return 0, err
		}
	}
	return leftOut, nil
}

func programOf(id int64, state *live.State, who roles.Who) Program {
	p := Program{ID: id, Name: state.Name, Today: state.Today, Revision: state.Revision, Role: who.Role, Person: who.Person, Course: state.Settings.Course(),
		Mine: watch.Of(state.Plan, who.Person, state.Today), Moves: []string{}, Works: []string{}, People: []Name{}}
	tree := state.Tree()
	var keys []string
	var sets []program.Change
	for _, list := range [][]watch.Mine{p.Mine.Going, p.Mine.Next, p.Mine.Review} {
		for i := range list {
			item := &state.Items[tree.Index[list[i].Item]]
			ref := program.Ref{Kind: program.KindItem, Key: item.Key}
			keys = append(keys, item.Key)
			sets = append(sets, program.SetTo(ref, "state", item.State), program.SetTo(ref, "tasks", nil))
		}
	}
	may := roles.May(state.Program, who, sets)
	for i, key := range keys {
		if may[2*i] {
			p.Moves = append(p.Moves, key)
		}
		if may[2*i+1] {
			p.Works = append(p.Works, key)
		}
	}
	for _, person := range state.People {
		p.People = append(p.People, Name{person.Key, person.Name})
	}
	return p
}

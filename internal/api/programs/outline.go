package programs

import (
	"context"
	"encoding/json"
	"net/http"
	"reflect"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/program"
	"jantrel/internal/api/door"
	"jantrel/internal/live"
	"jantrel/internal/pack"
)

// Outline is what the page draws lists and lanes from: a program with its facts, the long
// lists packed (see package pack), without what only opens beside an item.
type Outline struct {
	ID       int64           `json:"id"`
	Revision int64           `json:"revision"`
	Today    program.Date    `json:"today"`
	Program  program.Program `json:"program" doc:"Without teams, items, needs, comments and time entries"`
	Teams    pack.List       `json:"teams"`
	Items    pack.List       `json:"items" doc:"Without descriptions, tasks, checks and links"`
	Needs    pack.List       `json:"needs"`
	Facts    PackedFacts     `json:"facts" doc:"In the order of the program's lists, without their keys"`
}

// PackedFacts are the facts, each list in the order of what it is about.
type PackedFacts struct {
	Iterations pack.List `json:"iterations" doc:"Of all teams, one after the other"`
	Teams      pack.List `json:"teams"`
	Needs      pack.List `json:"needs"`
	Items      pack.List `json:"items"`
}

// Details are what opens beside an item.
type Details struct {
	Revision int64             `json:"revision"`
	Items    []ItemDetails     `json:"items"`
	Comments []program.Comment `json:"comments"`
}

// ItemDetails are the fields of an item that its outline leaves out.
type ItemDetails struct {
	Key         string          `json:"key"`
	Description string          `json:"description,omitempty"`
	Tasks       []program.Task  `json:"tasks,omitempty"`
	Checks      []program.Check `json:"checks,omitempty"`
	Links       []program.Link  `json:"links,omitempty"`
}

// details are the names of these fields.
var details = []string{"description", "tasks", "checks", "links"}

// Here is what the visitor is to a program, and what their page can take back.
type Here struct {
	door.Mine
	door.Steps
}

func (s stage) outlines(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "get-outline", Method: http.MethodGet, Path: "/api/v1/programs/{id}/outline", Summary: "What lists and lanes are drawn from, packed",
		Responses: map[string]*huma.Response{"200": {Description: "OK", Content: map[string]*huma.MediaType{
			"application/json": {Schema: api.OpenAPI().Components.Schemas.Schema(reflect.TypeFor[Outline](), true, "")},
		}}},
	}, func(ctx context.Context, in *door.Reading) (*struct {
		ContentType string `header:"Content-Type"`
		Body        []byte
	}, error) {
		l, state, err := s.Read(ctx, *in)
		if err != nil {
			return nil, err
		}
		// Kept as bytes: whoever opens this revision gets the same.
		body, err := live.Answer(ctx, l, state, "outline", func(context.Context) ([]byte, error) {
			outline, err := outlineOf(in.ID, state)
			if err != nil {
				return nil, err
			}
			return json.Marshal(outline)
		})
		if err != nil {
			return nil, s.Problem(ctx, err)
		}
		return &struct {
			ContentType string `header:"Content-Type"`
			Body        []byte
		}{"application/json", body}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "get-details", Method: http.MethodGet, Path: "/api/v1/programs/{id}/details", Summary: "What opens beside items, and what was said about them",
	}, func(ctx context.Context, in *struct {
		door.Reading
		Items []string `query:"items,explode" maxItems:"500" doc:"Which; missing: all"`
	}) (*struct{ Body Details }, error) {
		_, state, err := s.Read(ctx, in.Reading)
		if err != nil {
			return nil, err
		}
		return &struct{ Body Details }{detailsOf(state, in.Items)}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "get-here", Method: http.MethodGet, Path: "/api/v1/programs/{id}/here", Summary: "What one is to a program, and what undo and redo would do",
	}, func(ctx context.Context, in *struct {
		door.ProgramID
		Client string `query:"client" required:"true" maxLength:"80"`
	}) (*struct{ Body Here }, error) {
		l, who, err := s.OpenAs(ctx, in.ID)
		if err != nil {
			return nil, err
		}
		steps, err := s.Steps(ctx, l, s.Author(ctx, who, in.Client))
		if err != nil {
			return nil, err
		}
		return &struct{ Body Here }{Here{door.MineOf(l.State().Program, who), steps}}, nil
	})
}

func outlineOf(id int64, state *live.State) (o Outline, err error) {
	p := state.Program
	keep := func(list pack.List, failed error) pack.List {
		if err == nil {
			err = failed
		}
		return list
	}
	o = Outline{ID: id, Revision: state.Revision, Today: state.Today,
		Teams: keep(pack.Of(p.Teams)), Items: keep(pack.Of(p.Items, details...)), Needs: keep(pack.Of(p.Needs)),
		Facts: PackedFacts{
			Iterations: keep(pack.Of(state.Facts.Iterations, "team", "key")), Teams: keep(pack.Of(state.Facts.Teams, "key")),
			Needs: keep(pack.Of(state.Facts.Needs, "item", "needs")), Items: keep(pack.Of(state.Facts.Items, "key")),
		}}
	p.Teams, p.Items, p.Needs, p.Comments, p.TimeEntries = nil, nil, nil, nil, nil
	o.Program = p
	return o, err
}

func detailsOf(state *live.State, keys []string) Details {
	d := Details{Revision: state.Revision, Items: []ItemDetails{}, Comments: []program.Comment{}}
	wanted := make(map[string]bool, len(keys))
	for _, key := range keys {
		wanted[key] = true
	}
	for i := range state.Items {
		item := &state.Items[i]
		if len(keys) == 0 || wanted[item.Key] {
			d.Items = append(d.Items, ItemDetails{item.Key, item.Description, item.Tasks, item.Checks, item.Links})
		}
	}
	for _, c := range state.Comments {
		if len(keys) == 0 || wanted[c.Item] {
			d.Comments = append(d.Comments, c)
		}
	}
	return d
}

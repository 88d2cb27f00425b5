package api_test

import (
	"bytes"
	"encoding/json"
	"flag"
	"math/rand/v2"
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/act"
	"jantrel/core/backlog"
	"jantrel/core/gate"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/roles"
	"jantrel/core/sample"
	"jantrel/core/standing"
	"jantrel/core/watch"
)

//go:generate sh -c "go run ../../cmd/jantrel openapi > ../../web/src/api/openapi.json"
//go:generate npm --prefix ../../web run --silent api
//go:generate go test -run TestWhatThePageIsGivenIsOfToday -write

var write = flag.Bool("write", false, "write what the page is given")

// What the page knows of kinds, and what it mirrors for speed: the registry, and vectors
// that its tests replay.
func TestWhatThePageIsGivenIsOfToday(t *testing.T) {
	given := map[string][]byte{
		"../../web/src/line/kinds.gen.ts":             kindsForThePage(t),
		"../../web/src/line/changes.gen.json":         asText(t, changeVectors(t)),
		"../../web/src/line/course.gen.json":          asText(t, courseVectors()),
		"../../web/src/line/may.gen.json":             asText(t, mayVectors()),
		"../../web/src/line/needWords.gen.json":       asText(t, act.Words),
		"../../web/src/ui/mentions.gen.json":          asText(t, mentionVectors()),
		"../../web/src/stages/backlog/cells.gen.json": asText(t, cellVectors(t)),
	}
	for file, want := range given {
		if *write {
			require.NoError(t, os.WriteFile(file, want, 0o644))
		}
		have, err := os.ReadFile(file)
		require.NoError(t, err)
		assert.Equal(t, string(want), string(have), "run: go generate ./internal/api")
	}
}

func asText(t *testing.T, value any) []byte {
	t.Helper()
	var text bytes.Buffer
	encoder := json.NewEncoder(&text)
	encoder.SetEscapeHTML(false)
	require.NoError(t, encoder.Encode(value))
	return text.Bytes()
}

type pageField struct {
	Title  string       `json:"title"`
	Sort   program.Sort `json:"sort"`
	Values []string     `json:"values,omitempty"`
	Names  program.Kind `json:"names,omitempty"`
}

type pageKind struct {
	Title  string               `json:"title"`
	List   string               `json:"list,omitempty"`
	In     program.Kind         `json:"in,omitempty"`
	Nested bool                 `json:"nested,omitempty"`
	Fields map[string]pageField `json:"fields"`
}

func kindsForThePage(t *testing.T) []byte {
	kinds := map[program.Kind]pageKind{}
	for _, info := range program.Kinds {
		kind := pageKind{info.Title, info.List, info.In, info.Nested, map[string]pageField{}}
		for _, f := range info.Fields {
			kind.Fields[f.Name] = pageField{f.Title, f.Sort, f.Values, f.Names}
		}
		kinds[info.Kind] = kind
	}
	text, err := json.MarshalIndent(kinds, "", "  ")
	require.NoError(t, err)
	settings, err := json.Marshal(program.SettingNames())
	require.NoError(t, err)
	return []byte("// Made from core/program/kinds.go by: go generate ./internal/api\n\n/** The registry of kinds and their fields. */\nexport const kinds = " + string(text) +
		" as const\n\n/** Fields of a program that stand in its settings. */\nexport const settings: readonly string[] = " + string(settings) + "\n")
}

type changeVector struct {
	Before  program.Program  `json:"before"`
	Changes []program.Change `json:"changes"`
	After   program.Program  `json:"after"`
}

// changeVectors are lists of changes of every kind and operation, as the server announces
// them, with the programs before and after.
func changeVectors(t *testing.T) (vectors []changeVector) {
	at := func(n int) *int { return &n }
	for seed := range uint64(2) {
		p := sample.Program(seed, sample.Shape{Teams: 2, Iterations: 2, Items: 5, Needs: 3, Wild: true})
		r := rand.New(rand.NewPCG(seed, 4))
		item := program.Ref{Kind: program.KindItem, Key: "I1"}
		iteration := program.Ref{Kind: program.KindIteration, In: "T1", Key: "T1-4"}
		for _, changes := range [][]program.Change{
			{program.SetTo(item, "title", "New"), program.SetTo(item, "size", nil), program.SetTo(item, "tags", []string{})},
			{{Op: program.Move, Ref: item, At: at(0)}, {Op: program.Move, Ref: item, At: at(3)}},
			{program.AddOf(program.Ref{Kind: program.KindItem, Key: "a b/c"}, program.Item{Key: "a b/c", Kind: program.Story}), program.SetTo(program.Ref{Kind: program.KindItem, Key: "a b/c"}, "pinned", false)},
			{program.AddOf(program.Ref{Kind: program.KindNeed, In: "I2", Key: "I4"}, program.Need{Item: "I2", Needs: "I4", LagDays: 2}), program.SetTo(program.Ref{Kind: program.KindNeed, In: "I2", Key: "I4"}, "agreement", "agreed")},
			program.Forget(p, item),
			program.Forget(p, program.Ref{Kind: program.KindTeam, Key: "T0"}),
			{program.SetTo(iteration, "capacity", 7), {Op: program.Move, Ref: iteration, At: at(1)}},
			{program.SetTo(program.Ref{Kind: program.KindProgram}, "fillTo", 0.5), program.SetTo(program.Ref{Kind: program.KindProgram}, "name", "Other"), program.SetTo(program.Ref{Kind: program.KindProgram}, "ready", nil)},
			{program.AddOf(program.Ref{Kind: program.KindComment, In: "I1", Key: "c"}, program.Comment{Key: "c", Item: "I1", By: "Ann", Text: "So?"}), {Op: program.Remove, Ref: program.Ref{Kind: program.KindComment, In: "I1", Key: "c"}}},
		} {
			next, applied, err := gate.Try(plan.Of(p), changes)
			if err != nil {
				continue
			}
			v := changeVector{p, nil, next.Program}
			for _, a := range applied {
				v.Changes = append(v.Changes, a.Change)
			}
			if r.IntN(3) > 0 || seed == 0 {
				vectors = append(vectors, v)
			}
		}
	}
	require.Greater(t, len(vectors), 10)
	return vectors
}

type courseVector struct {
	Steps  []program.Step `json:"steps"` // of a program
	Course []program.Step `json:"course"`
	Items  []courseItem   `json:"items"`
}

type courseItem struct {
	State program.ItemState `json:"state"`
	Step  string            `json:"step"`
	At    int               `json:"at"`
}

// courseVectors are courses, and where on them items of any state and step are.
func courseVectors() (vectors []courseVector) {
	for _, steps := range [][]program.Step{
		{},
		{{Name: "harbour check", State: program.Review}, {Name: "building", State: program.Doing}, {Name: "sea trial", State: program.Doing, Most: 3}},
		{{Name: "idea", State: program.Todo}, {Name: "drawn", State: program.Todo, Most: 9}, {Name: "aboard", State: program.Done}, {Name: "told", State: program.Done}},
	} {
		course := program.Settings{Steps: steps}.Course()
		v := courseVector{steps, course, nil}
		for _, state := range []program.ItemState{"", program.Todo, program.Doing, program.Review, program.Done} {
			for _, step := range append([]program.Step{{}, {Name: "gone"}}, steps...) {
				v.Items = append(v.Items, courseItem{state, step.Name, program.StepOf(course, &program.Item{State: state, Step: step.Name})})
			}
		}
		vectors = append(vectors, v)
	}
	return vectors
}

type mentionVector struct {
	Text  string   `json:"text"`
	Names []string `json:"names"`
	Meant []string `json:"meant"`
}

// mentionVectors are texts with whom they mention, as the page is to show it.
func mentionVectors() (vectors []mentionVector) {
	names := []string{"Ann", "Anna Berg", "Noor van Aalst", "Sorcha Ní Bhriain", "Bo"}
	people := make([]program.Person, len(names))
	for i, name := range names {
		people[i] = program.Person{Key: name, Name: name}
	}
	for _, text := range []string{
		"", "@Ann", "@ann, look", "lamp@Ann", "@Anna Berg and @Ann", "@Anna Bergen", "(@Sorcha Ní Bhriain)", "@noor VAN aalst's", "@Bo_", "@Bó", "@Bo@Ann", "@@Bo", "Ann", "@Anna\nBerg", "é@Bo", "@Bo9 @Bo.",
	} {
		vectors = append(vectors, mentionVector{text, names, append([]string{}, watch.Mentions(text, people)...)})
	}
	return vectors
}

type mayVector struct {
	Role    roles.Role     `json:"role"`
	Change  program.Change `json:"change"`
	Allowed bool           `json:"allowed"`
}

type mayVectorsOf struct {
	Program program.Program              `json:"program"`
	Person  string                       `json:"person"`
	Author  string                       `json:"author"`
	Teams   []string                     `json:"teams"`
	Rights  map[roles.Role][]roles.Right `json:"rights"`
	Asked   []mayVector                  `json:"asked"`
}

// mayVectors are what the table of rights says of every field of every kind, on things
// that are one's own and on others'.
func mayVectors() mayVectorsOf {
	p := program.Program{
		Cadences: []program.Cadence{{Key: "c"}}, People: []program.Person{{Key: "ann"}, {Key: "bo"}},
		Teams: []program.Team{
			{Key: "A", Members: []program.Member{{Person: "ann", Share: 1}}, Iterations: []program.Iteration{{Key: "i"}}},
			{Key: "B", Members: []program.Member{{Person: "bo", Share: 1}}, Iterations: []program.Iteration{{Key: "i"}}},
		},
		Releases: []program.Release{{Key: "R"}}, Milestones: []program.Milestone{{Key: "M"}},
		Items:    []program.Item{{Key: "A-1", Team: "A", Assignee: "ann"}, {Key: "B-1", Team: "B", Assignee: "bo"}},
		Comments: []program.Comment{{Key: "c1", Item: "A-1", Author: "1"}, {Key: "c2", Item: "A-1", Author: "2"}},
		Needs:    []program.Need{{Item: "A-1", Needs: "B-1"}, {Item: "B-1", Needs: "A-1"}},
	}
	refs := map[program.Kind][]program.Ref{
		program.KindProgram: {{}}, program.KindCadence: {{Key: "c"}}, program.KindTeam: {{Key: "A"}, {Key: "B"}},
		program.KindIteration: {{In: "A", Key: "i"}, {In: "B", Key: "i"}}, program.KindPerson: {{Key: "ann"}, {Key: "bo"}},
		program.KindRelease: {{Key: "R"}}, program.KindMilestone: {{Key: "M"}}, program.KindItem: {{Key: "A-1"}, {Key: "B-1"}},
		program.KindNeed: {{In: "A-1", Key: "B-1"}, {In: "B-1", Key: "A-1"}}, program.KindComment: {{In: "A-1", Key: "c1"}, {In: "A-1", Key: "c2"}},
	}
	out := mayVectorsOf{p, "ann", "1", roles.TeamsOf(p, "ann"), map[roles.Role][]roles.Right{}, nil}
	for _, role := range roles.All {
		out.Rights[role] = roles.Rights(role)
		who := roles.Who{Role: role, Person: "ann", Author: "1"}
		ask := func(c program.Change) {
			asked := c
			asked.Value = nil
			out.Asked = append(out.Asked, mayVector{role, asked, roles.Check(p, who, []program.Change{c}) == nil})
		}
		for _, info := range program.Kinds {
			for _, ref := range refs[info.Kind] {
				ref.Kind = info.Kind
				for _, f := range info.Fields {
					// To which team an item is given is not known before it is.
					if !f.Fixed && !(info.Kind == program.KindItem && f.Name == "team") {
						ask(program.Change{Op: program.Set, Ref: ref, Field: f.Name})
					}
				}
				ask(program.Change{Op: program.Remove, Ref: ref})
				ask(program.Change{Op: program.Move, Ref: ref})
			}
		}
	}
	return out
}

type cellVectorsOf struct {
	Program program.Program              `json:"program"`
	Facts   standing.Facts               `json:"facts"`
	Today   program.Date                 `json:"today"`
	Roles   []string                     `json:"roles"` // that the program knows
	Cells   map[string]map[string]string `json:"cells"` // item to field to what it shows
}

// cellVectors are what the fields of items say in words, where the page says it in the same.
func cellVectors(t *testing.T) cellVectorsOf {
	p := sample.Program(2, sample.Shape{Teams: 2, Iterations: 3, Items: 14, Needs: 10, Wild: true, Rough: true})
	now := plan.Of(p)
	out := cellVectorsOf{p, standing.Of(now, sample.Today), sample.Today, p.RolesKnown(), map[string]map[string]string{}}
	x := backlog.NewIndex(now, backlog.Options{Today: sample.Today})
	for i := range p.Items {
		cells := map[string]string{}
		for _, name := range []string{"key", "title", "kind", "parent", "feature", "initiative", "team", "role", "assignee", "release", "iteration", "state", "needs", "neededBy", "readiness", "tags", "rank", "size", "rough"} {
			field, ok := backlog.FieldOf(name)
			require.True(t, ok, name)
			cells[name] = field.Value(x, i)
		}
		out.Cells[p.Items[i].Key] = cells
	}
	return out
}

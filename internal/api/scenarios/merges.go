package scenarios

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/act"
	"jantrel/core/program"
	"jantrel/core/roles"
	"jantrel/core/scenario"
	"jantrel/internal/api/door"
	"jantrel/internal/journal"
	"jantrel/internal/live"
)

// Here is what the frame says of the scenario in view.
type Here struct {
	Listed
	UpTo    int64     `json:"upTo" doc:"The revision of the live plan that it was made of, or last brought up to"`
	UpToAt  time.Time `json:"upToAt,omitzero" doc:"When the live plan was so"`
	Changes int       `json:"changes" doc:"How many fields and things it has otherwise than that"`
	Newer   int64     `json:"newer" doc:"Edits in the live plan since"`
	Live    int64     `json:"live" doc:"The live plan's revision"`
}

// Merge is what would come of a scenario's changes on the live plan as it is.
type Merge struct {
	Rows      []Row              `json:"rows" doc:"What the scenario changed, the first 2000"`
	More      int                `json:"more,omitempty" doc:"Changes beyond those"`
	Conflicts []Conflict         `json:"conflicts" doc:"The first 500"`
	Open      int                `json:"open" doc:"Conflicts that nobody has settled; as long as there are some, nothing is made"`
	Refused   []scenario.Refused `json:"refused" doc:"What the rules do not allow on the live plan: it stays out"`
	Denied    string             `json:"denied,omitempty" doc:"Why one may not publish this"`
	Outcome   *door.Outcome      `json:"outcome,omitempty" doc:"What it would do; missing where it may not be made"`
}

// Row is one change of a scenario.
type Row struct {
	program.Ref
	Op      program.Op     `json:"op"`
	Field   string         `json:"field,omitempty"`
	Class   scenario.Class `json:"class"`
	Release string         `json:"release,omitempty"`
	Name    string         `json:"name"`
	Title   string         `json:"title,omitempty"`
	Before  any            `json:"before,omitempty"`
	Value   any            `json:"value,omitempty"`
	There   bool           `json:"there,omitempty" doc:"The live plan has it so by now"`
	May     bool           `json:"may" doc:"Whether one might have made it in the live plan"`
}

// Conflict is a place at which scenario and live plan have become different things.
type Conflict struct {
	program.Ref
	Field string        `json:"field,omitempty"`
	Sort  string        `json:"sort" doc:"you: the scenario; they: the live plan"`
	Name  string        `json:"name"`
	Title string        `json:"title,omitempty"`
	Base  any           `json:"base,omitempty"`
	Mine  any           `json:"mine,omitempty"`
	Live  any           `json:"live,omitempty"`
	By    string        `json:"by,omitempty" doc:"Who changed it in the live plan last"`
	At    time.Time     `json:"at,omitzero" doc:"When"`
	Take  scenario.Side `json:"take,omitempty" enum:"scenario,live"`
}

const (
	maxRows      = 2000
	maxConflicts = 500
)

// chosen is what somebody makes of a merge, with which edit is meant.
type chosen struct {
	Choice scenario.Choice `json:"choice"`
}

func (s stage) merges(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "get-scenario", Method: http.MethodGet, Path: "/api/v1/programs/{id}/scenario", Summary: "The scenario that is asked about, and how far it and the live plan have gone on",
	}, s.here)
	huma.Register(api, huma.Operation{
		OperationID: "ask-merge", Metadata: door.Asks, Method: http.MethodPost, Path: "/api/v1/programs/{id}/scenario/merge", Summary: "What publishing the scenario, or bringing it up to date, would do",
		MaxBodyBytes: door.MaxIntent, BodyReadTimeout: door.ImportTime,
		Errors: []int{http.StatusNotFound, http.StatusUnprocessableEntity},
	}, s.ask)
	operation := door.Operation("publish", "Make what the scenario changed part of the live plan, all or some of it, as one edit there")
	huma.Register(api, operation, s.publish)
	huma.Register(api, door.Operation("take-back", "Take back what one edit of the journal did, whoever made it"), s.takeBack)
	huma.Register(api, door.Operation("bring-up-to-date", "Lay what the scenario changed on the live plan as it is, as one edit of the scenario"), s.bring)
}

// lines are a scenario's programs; it refuses the live plan.
func (s stage) lines(ctx context.Context, l *live.Line, state *live.State) (scenario.Lines, *live.State, journal.Line, error) {
	if l.IsLive() {
		return scenario.Lines{}, nil, journal.Line{}, huma.Error422UnprocessableEntity("Say which scenario: it is missing in the query.")
	}
	line, err := s.Store().Line(ctx, l.ID())
	if err != nil {
		return scenario.Lines{}, nil, line, s.Failed(ctx, err)
	}
	lines, now, err := l.Lines(ctx, state)
	if err != nil {
		return lines, now, line, s.Failed(ctx, err)
	}
	return lines, now, line, nil
}

func (s stage) here(ctx context.Context, in *door.ProgramID) (*struct{ Body Here }, error) {
	l, err := s.Open(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	state := l.State()
	lines, now, line, err := s.lines(ctx, l, state)
	if err != nil {
		return nil, err
	}
	upTo, err := l.UpTo(ctx, state)
	if err != nil {
		return nil, s.Failed(ctx, err)
	}
	h := Here{Listed: listed(ctx, line), UpTo: upTo, Live: now.Revision, Newer: now.Revision - upTo}
	if h.UpToAt, _, err = s.Store().MadeAt(ctx, *line.Base, upTo); err != nil {
		return nil, s.Failed(ctx, err)
	}
	// The scenario and what it is up to change only with its revision.
	changed, err := door.Answer(ctx, s.Door, l, state, "changes", func(context.Context) (int, error) {
		return len(program.Between(lines.Base, lines.Mine.Program)), nil
	})
	if err != nil {
		return nil, err
	}
	h.Changes = changed.Body
	return &struct{ Body Here }{h}, nil
}

func (s stage) ask(ctx context.Context, in *struct {
	door.ProgramID
	Body struct {
		Way      string          `json:"way" enum:"publish,bring,take-back"`
		Revision int64           `json:"revision,omitempty" doc:"Of take-back: which edit of the line that is asked about, scenario or live plan"`
		Choice   scenario.Choice `json:"choice"`
		Landings bool            `json:"landings,omitempty" doc:"Say when releases would land, too"`
	}
}) (*struct{ Body Merge }, error) {
	l, who, err := s.OpenAs(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	if in.Body.Way == "take-back" {
		return s.askBack(ctx, l, who, in.Body.Revision, in.Body.Choice, in.Body.Landings)
	}
	lines, _, line, err := s.lines(ctx, l, l.State())
	if err != nil {
		return nil, err
	}
	found, err := scenario.Merge(lines, in.Body.Choice)
	if err != nil {
		return nil, s.Problem(ctx, err)
	}
	on := l
	var intent act.Intent = scenario.BringUpToDate{Base: lines.Base, Live: lines.Live, Choice: in.Body.Choice, Dry: true}
	out := &struct{ Body Merge }{Merge{Refused: append([]scenario.Refused{}, found.Refused...), Open: len(found.Open())}}
	if in.Body.Way == "publish" {
		if on, who, err = s.LiveAs(ctx, in.ID); err != nil {
			return nil, err
		}
		intent = scenario.Publish{Name: line.Name, Base: lines.Base, Mine: lines.Mine, Choice: in.Body.Choice, Dry: true}
		if !roles.MayBeside(who.Role, roles.Publish) {
			out.Body.Denied = "As " + string(who.Role) + " you may not publish scenarios; ask a program manager."
		}
	}
	s.tell(&out.Body, lines, found, who)
	live, _, err := s.LiveAs(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	if err := s.tellConflicts(ctx, &out.Body, live, lines, found); err != nil {
		return nil, err
	}
	return s.foretell(ctx, out, on, who, intent, in.Body.Landings)
}

// foretell adds what a merge would do, where one may make it.
func (s stage) foretell(ctx context.Context, out *struct{ Body Merge }, on *live.Line, who roles.Who, intent act.Intent, landings bool) (*struct{ Body Merge }, error) {
	if out.Body.Denied != "" {
		return out, nil
	}
	outcome, err := s.Dry(ctx, on, s.Author(ctx, who, "scenario"), intent, landings)
	var denied *roles.Denied
	if errors.As(err, &denied) {
		out.Body.Denied = "This cannot be done as it is: " + denied.Error() + "."
		return out, nil
	}
	if err != nil {
		return nil, s.Problem(ctx, err)
	}
	out.Body.Outcome = &outcome
	return out, nil
}

// tell lists what the scenario changed.
func (s stage) tell(m *Merge, lines scenario.Lines, found scenario.Merged, who roles.Who) {
	rows := scenario.Rows(lines, found)
	m.More = max(0, len(rows)-maxRows)
	rows = rows[:min(len(rows), maxRows)]
	changes := make([]program.Change, len(rows))
	for i, r := range rows {
		changes[i] = program.Change{Op: r.Op, Ref: r.Ref, Field: r.Field, Value: r.Value}
		if r.Op == program.Add {
			changes[i].Value = lines.Mine.Written(r.Ref)
		}
	}
	may := roles.May(lines.Live.Program, who, changes)
	m.Rows = make([]Row, len(rows))
	for i, r := range rows {
		m.Rows[i] = Row{r.Ref, r.Op, r.Field, r.Class, r.Release, r.Name, r.Title, value(r.Before), value(r.Value), r.There, may[i]}
	}
}

// tellConflicts lists the conflicts of a merge, with who changed it last in the line that it is laid on.
func (s stage) tellConflicts(ctx context.Context, m *Merge, live *live.Line, lines scenario.Lines, found scenario.Merged) error {
	m.Conflicts = []Conflict{}
	titles := map[string]string{}
	for i := range lines.Base.Items {
		titles[lines.Base.Items[i].Key] = lines.Base.Items[i].Title
	}
	for _, c := range found.Conflicts[:min(len(found.Conflicts), maxConflicts)] {
		told := Conflict{Ref: c.Ref, Field: c.Field, Sort: string(c.Sort), Name: lines.Base.Called(c.Ref), Base: value(c.Base), Mine: value(c.Mine), Live: value(c.Live), Take: c.Take}
		if c.Kind == program.KindItem {
			told.Title = titles[c.Key]
		}
		last, has, err := live.LastSet(ctx, c.Ref, c.Field)
		if err == nil && !has {
			var edits []journal.Edit
			if edits, err = live.HistoryOf(ctx, c.Ref, 1); len(edits) > 0 {
				last, has = edits[0], true
			}
		}
		if err != nil {
			return s.Failed(ctx, err)
		}
		if has {
			told.By, told.At = last.Actor, last.At
		}
		m.Conflicts = append(m.Conflicts, told)
	}
	return nil
}

// value is JSON as it is, or nothing.
func value(text json.RawMessage) any {
	if len(text) == 0 || string(text) == "null" {
		return nil
	}
	return text
}

func (s stage) publish(ctx context.Context, in *door.Request[chosen]) (*struct{ Body door.Outcome }, error) {
	l, err := s.Open(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	lines, _, line, err := s.lines(ctx, l, l.State())
	if err != nil {
		return nil, err
	}
	on, who, err := s.LiveAs(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	if !roles.MayBeside(who.Role, roles.Publish) {
		return nil, s.Denied(ctx, "As "+string(who.Role)+" you may not publish scenarios; ask a program manager.")
	}
	intent := scenario.Publish{Name: line.Name, Base: lines.Base, Mine: lines.Mine, Choice: in.Body.Intent.Choice}
	by := in.Sent(s.Author(ctx, who, in.Body.Client.Client), fmt.Sprintf("publish %d", l.ID()), in.Body)
	out, err := s.Made(ctx, on, by, live.Request{Intent: intent, Base: on.State().Revision, Digest: in.Body.Digest})
	return &struct{ Body door.Outcome }{out}, err
}

func (s stage) bring(ctx context.Context, in *door.Request[chosen]) (*struct{ Body door.Outcome }, error) {
	l, who, err := s.OpenAs(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	lines, now, _, err := s.lines(ctx, l, l.State())
	if err != nil {
		return nil, err
	}
	intent := scenario.BringUpToDate{Base: lines.Base, Live: lines.Live, Choice: in.Body.Intent.Choice}
	by := in.Sent(s.Author(ctx, who, in.Body.Client.Client), "bring-up-to-date", in.Body)
	out, err := s.Made(ctx, l, by, live.Request{Intent: intent, Base: in.Body.Revision, Digest: in.Body.Digest, UpTo: &now.Revision})
	return &struct{ Body door.Outcome }{out}, err
}

// back are the programs of an edit that is taken back.
func (s stage) back(ctx context.Context, l *live.Line, revision int64) (scenario.TakeBack, scenario.Lines, error) {
	edit, after, before, err := l.Edit(ctx, revision)
	if errors.Is(err, journal.ErrNotFound) {
		return scenario.TakeBack{}, scenario.Lines{}, huma.Error404NotFound("There is no such edit.")
	}
	if err != nil {
		return scenario.TakeBack{}, scenario.Lines{}, s.Failed(ctx, err)
	}
	return scenario.TakeBack{Revision: revision, Label: edit.Label, After: after.Program, Was: before.Plan}, scenario.Lines{Base: after.Program, Mine: before.Plan, Live: l.State().Plan, Back: true}, nil
}

func (s stage) askBack(ctx context.Context, l *live.Line, who roles.Who, revision int64, choice scenario.Choice, landings bool) (*struct{ Body Merge }, error) {
	intent, lines, err := s.back(ctx, l, revision)
	if err != nil {
		return nil, err
	}
	intent.Choice, intent.Dry = choice, true
	found, err := scenario.Merge(lines, choice)
	if err != nil {
		return nil, s.Problem(ctx, err)
	}
	out := &struct{ Body Merge }{Merge{Refused: append([]scenario.Refused{}, found.Refused...), Open: len(found.Open())}}
	s.tell(&out.Body, lines, found, who)
	if err := s.tellConflicts(ctx, &out.Body, l, lines, found); err != nil {
		return nil, err
	}
	return s.foretell(ctx, out, l, who, intent, landings)
}

// takenBack is which edit is taken back, and what of it.
type takenBack struct {
	Edit   int64           `json:"edit" doc:"Its revision"`
	Choice scenario.Choice `json:"choice"`
}

func (s stage) takeBack(ctx context.Context, in *door.Request[takenBack]) (*struct{ Body door.Outcome }, error) {
	l, who, err := s.OpenAs(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	intent, _, err := s.back(ctx, l, in.Body.Intent.Edit)
	if err != nil {
		return nil, err
	}
	intent.Choice = in.Body.Intent.Choice
	by := in.Sent(s.Author(ctx, who, in.Body.Client.Client), "take-back", in.Body)
	out, err := s.Made(ctx, l, by, live.Request{Intent: intent, Base: in.Body.Revision, Digest: in.Body.Digest})
	return &struct{ Body door.Outcome }{out}, err
}

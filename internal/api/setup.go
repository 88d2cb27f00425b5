package api

import (
	"context"
	"fmt"
	"net/http"
	"slices"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/cadence"
	"jantrel/core/calendar"
	"jantrel/core/people"
	"jantrel/core/program"
	"jantrel/core/releases"
	"jantrel/core/standing"
	"jantrel/internal/exchange"
)

// Proposal is an edit that was not made: the changes, and what they would do. A
// page that agrees sends the changes.
type Proposal struct {
	Label   string           `json:"label" doc:"What the edit is, in a few words"`
	Changes []program.Change `json:"changes"`
	Effects standing.Effects `json:"effects"`
	Notes   []string         `json:"notes,omitempty" doc:"What else is to be known before it is applied"`
}

// Proposed is what a proposal is asked for. Do says what; the other fields are
// what that takes.
type Proposed struct {
	Do string `json:"do" enum:"change,save-cadence,save-team,follow-cadence,start-iteration,close-iteration,resize-iteration,insert-iteration,remove-iteration,remove,fit-release,move-release,use-template,add-people,read-calendar,fetch-calendars"`

	Changes  []program.Change `json:"changes,omitempty" maxItems:"50000" doc:"change: what would be applied"`
	Ref      *program.Ref     `json:"ref,omitempty" doc:"remove: the thing, which goes with all that refers to it"`
	Cadence  *program.Cadence `json:"cadence,omitempty" doc:"save-cadence: as it should be"`
	Team     *program.Team    `json:"team,omitempty" doc:"save-team: a new team; its iterations are made by its cadence"`
	TeamKey  string           `json:"teamKey,omitempty" doc:"The team of an iteration, or that changes its cadence"`
	Key      string           `json:"key,omitempty" doc:"The iteration, cadence or release"`
	Date     program.Date     `json:"date,omitzero" doc:"resize-iteration: its last day; follow-cadence: from when on; use-template: the first day"`
	Days     int              `json:"days,omitempty" minimum:"-4000" maximum:"4000" doc:"insert-iteration: its length; move-release: how far"`
	Along    bool             `json:"along,omitempty" doc:"resize-iteration: later iterations move along; else the next gives or takes the days"`
	Name     string           `json:"name,omitempty" maxLength:"200" doc:"insert-iteration: its name"`
	Template string           `json:"template,omitempty" doc:"use-template: its key"`
	Text     string           `json:"text,omitempty" maxLength:"8000000" doc:"add-people: lines; read-calendar: an iCalendar file"`
	Person   string           `json:"person,omitempty" doc:"read-calendar, fetch-calendars: whose; empty: the holidays of all, or everybody's"`
}

func (s *server) setup(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "propose", Method: http.MethodPost, Path: "/api/v1/programs/{id}/proposals",
		Summary: "What an edit would do; nothing is changed", MaxBodyBytes: maxChanges,
		Errors: []int{http.StatusNotFound, http.StatusUnprocessableEntity},
	}, func(ctx context.Context, in *struct {
		ProgramID
		Body Proposed
	}) (*struct{ Body Proposal }, error) {
		p, err := s.open(ctx, in.ID)
		if err != nil {
			return nil, err
		}
		state := p.State()
		proposal, err := s.propose(ctx, state.Program, state.Today, &in.Body)
		if err == nil {
			var next program.Program
			if next, _, err = program.ApplyAll(state.Program, proposal.Changes); err == nil {
				err = cadence.Refuse(state.Program, next)
			}
			if err == nil {
				proposal.Effects = standing.EffectsOf(state.Program, next, state.Today)
			}
		}
		if err != nil {
			return nil, s.problem(ctx, err)
		}
		if proposal.Changes == nil {
			proposal.Changes = []program.Change{}
		}
		return &struct{ Body Proposal }{proposal}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "find-people", Method: http.MethodGet, Path: "/api/v1/programs/{id}/free", Summary: "Who has free days",
	}, func(ctx context.Context, in *struct {
		ProgramID
		Role string  `query:"role" maxLength:"200"`
		Team string  `query:"team"`
		From string  `query:"from" required:"true" format:"date"`
		To   string  `query:"to" required:"true" format:"date"`
		Days float64 `query:"days" minimum:"0" maximum:"4000"`
		Open bool    `query:"open" doc:"Open seats too"`
	}) (*struct{ Body []people.Free }, error) {
		p, err := s.open(ctx, in.ID)
		if err != nil {
			return nil, err
		}
		span, err := rangeOf(in.From, in.To)
		if err != nil {
			return nil, err
		}
		return &struct{ Body []people.Free }{people.Find(p.State().Program, people.Wanted{
			Role: strings.TrimSpace(in.Role), Team: in.Team, From: span.Start, To: span.End, Days: in.Days, Open: in.Open,
		})}, nil
	})
}

// rangeOf reads a range of dates from a query.
func rangeOf(from, to string) (calendar.Span, error) {
	start, err := calendar.Parse(from)
	if err != nil {
		return calendar.Span{}, huma.Error422UnprocessableEntity("from: " + err.Error())
	}
	end, err := calendar.Parse(to)
	if err != nil {
		return calendar.Span{}, huma.Error422UnprocessableEntity("to: " + err.Error())
	}
	if end < start {
		return calendar.Span{}, huma.Error422UnprocessableEntity(fmt.Sprintf("The range ends %s, before it begins %s.", end, start))
	}
	return calendar.Span{Start: start, End: end}, nil
}

// propose works out the changes of an edit.
func (s *server) propose(ctx context.Context, p program.Program, today program.Date, in *Proposed) (Proposal, error) {
	made := func(label string, changes []program.Change, err error) (Proposal, error) {
		return Proposal{Label: label, Changes: changes}, err
	}
	switch in.Do {
	case "change":
		return made("Change", in.Changes, nil)
	case "remove":
		if in.Ref == nil {
			return Proposal{}, fmt.Errorf("what to remove is not said")
		}
		return made("Remove "+string(in.Ref.Kind)+" "+in.Ref.Key, program.Forget(p, *in.Ref), nil)
	case "add-people":
		return addPeople(p, in.Text)
	case "read-calendar", "fetch-calendars":
		return s.proposeCalendar(ctx, p, today, in)
	case "fit-release", "move-release", "use-template":
		return proposeRelease(p, in)
	case "save-cadence":
		if in.Cadence == nil {
			return Proposal{}, fmt.Errorf("the cadence is missing")
		}
		changes, err := cadence.Reshape(p, today, *in.Cadence)
		return made("Cadence "+in.Cadence.Label(), changes, err)
	case "save-team":
		return addTeam(p, today, in.Team)
	case "follow-cadence":
		changes, err := cadence.Follow(p, today, in.TeamKey, in.Key, in.Date)
		return made(fmt.Sprintf("%s follows %s from %s", in.TeamKey, in.Key, in.Date.Short()), changes, err)
	}
	return proposeIteration(p, today, in)
}

func proposeIteration(p program.Program, today program.Date, in *Proposed) (Proposal, error) {
	label := in.Key
	for _, t := range p.Teams {
		if it, ok := t.Find(in.Key); ok && t.Key == in.TeamKey {
			label = it.Label()
		}
	}
	var changes []program.Change
	var err error
	switch in.Do {
	case "start-iteration":
		label = "Start " + label
		changes, err = cadence.Start(p, in.TeamKey, in.Key)
	case "close-iteration":
		label = "Close " + label
		changes, err = cadence.Close(p, today, in.TeamKey, in.Key)
	case "resize-iteration":
		label = fmt.Sprintf("%s ends %s", label, in.Date.Short())
		changes, err = cadence.Resize(p, today, in.TeamKey, in.Key, in.Date, in.Along)
	case "insert-iteration":
		label = "New iteration after " + label
		changes, err = cadence.Insert(p, today, in.TeamKey, in.Key, in.Name, in.Days)
	case "remove-iteration":
		label = "Remove " + label
		changes, err = cadence.Remove(p, today, in.TeamKey, in.Key)
	default:
		err = fmt.Errorf("there is no %q", in.Do)
	}
	return Proposal{Label: label, Changes: changes}, err
}

// addTeam adds a team and the iterations that its cadence keeps ahead.
func addTeam(p program.Program, today program.Date, team *program.Team) (Proposal, error) {
	if team == nil || team.Key == "" {
		return Proposal{}, fmt.Errorf("the team has no key; give it one of a few letters, which begins its items' keys")
	}
	add := addition(program.KindTeam, team.Key, team)
	next, _, err := program.ApplyAll(p, []program.Change{add})
	if err != nil {
		return Proposal{}, err
	}
	return Proposal{Label: "Team " + team.Name, Changes: append([]program.Change{add}, cadence.Keep(next, today)...)}, nil
}

func addition(kind program.Kind, key string, thing any) program.Change {
	return program.AddOf(program.Ref{Kind: kind, Key: key}, thing)
}

func setting(kind program.Kind, key, field string, value any) program.Change {
	return program.SetTo(program.Ref{Kind: kind, Key: key}, field, value)
}

// addPeople adds people from lines, with their shares in teams.
func addPeople(p program.Program, text string) (Proposal, error) {
	added, problems := exchange.ReadPeople(text, p)
	if len(problems) > 0 {
		return Proposal{}, problems
	}
	if len(added) == 0 {
		return Proposal{}, fmt.Errorf("there is no line with a name in it")
	}
	proposal := Proposal{Label: fmt.Sprintf("Add %d people", len(added))}
	if len(added) == 1 {
		proposal.Label = "Add " + added[0].Name
	}
	members := map[string][]program.Member{}
	for _, t := range p.Teams {
		members[t.Key] = t.Members
	}
	var touched []string
	for _, person := range added {
		proposal.Changes = append(proposal.Changes, addition(program.KindPerson, person.Key, person.Person))
		for _, key := range person.Teams() {
			members[key] = append(slices.Clone(members[key]), person.Shares[key])
			if !slices.Contains(touched, key) {
				touched = append(touched, key)
			}
		}
	}
	for _, key := range touched {
		proposal.Changes = append(proposal.Changes, setting(program.KindTeam, key, "members", members[key]))
	}
	return proposal, nil
}

func proposeRelease(p program.Program, in *Proposed) (Proposal, error) {
	i := slices.IndexFunc(p.Releases, func(r program.Release) bool { return r.Key == in.Key })
	if i < 0 {
		return Proposal{}, fmt.Errorf("there is no release %q", in.Key)
	}
	r := p.Releases[i]
	proposal := Proposal{}
	next := r
	switch in.Do {
	case "fit-release":
		extent := releases.Of(p, r.Key)
		if extent.Start.IsZero() {
			return Proposal{}, fmt.Errorf("%s has no phase and no placed item to fit it to", r.Name)
		}
		next.Start, next.Due = extent.Start, extent.End
		proposal.Label = "Fit " + r.Name + " to its phases and items"
		if extent.Unplaced > 0 {
			proposal.Notes = append(proposal.Notes, fmt.Sprintf("%d items of it are not placed and do not count.", extent.Unplaced))
		}
	case "move-release":
		next = releases.Move(r, in.Days)
		proposal.Label = fmt.Sprintf("Move %s by %d days", r.Name, in.Days)
	case "use-template":
		t := slices.IndexFunc(p.PhaseTemplates, func(t program.PhaseTemplate) bool { return t.Key == in.Template })
		if t < 0 {
			return Proposal{}, fmt.Errorf("there is no phase template %q", in.Template)
		}
		start := in.Date
		if start.IsZero() {
			start = r.Start
		}
		if start.IsZero() {
			return Proposal{}, fmt.Errorf("%s has no start date to lay the phases from; give it one", r.Name)
		}
		next.Phases = releases.Phases(p.PhaseTemplates[t], start)
		proposal.Label = fmt.Sprintf("Phases of %s after %s", r.Name, p.PhaseTemplates[t].Name)
	}
	if next.Start != r.Start {
		proposal.Changes = append(proposal.Changes, setting(program.KindRelease, r.Key, "start", next.Start))
	}
	if next.Due != r.Due {
		proposal.Changes = append(proposal.Changes, setting(program.KindRelease, r.Key, "due", next.Due))
	}
	if !slices.Equal(next.Phases, r.Phases) {
		proposal.Changes = append(proposal.Changes, setting(program.KindRelease, r.Key, "phases", next.Phases))
	}
	return proposal, nil
}

// calendarWindow is what of a calendar counts: a year back, two years ahead.
func calendarWindow(today program.Date) calendar.Span {
	return calendar.Span{Start: today.Add(-366), End: today.Add(2 * 366)}
}

// proposeCalendar compares calendars with what came from them earlier.
func (s *server) proposeCalendar(ctx context.Context, p program.Program, today program.Date, in *Proposed) (Proposal, error) {
	window := calendarWindow(today)
	proposal := Proposal{Label: "Days off from calendars"}
	if in.Do == "read-calendar" {
		events, err := exchange.ReadCalendar(strings.NewReader(in.Text), window)
		if err != nil {
			return Proposal{}, fmt.Errorf("the calendar cannot be read: %w", err)
		}
		if in.Person == "" {
			return proposal, takeHolidays(&proposal, p, events)
		}
		i := slices.IndexFunc(p.People, func(x program.Person) bool { return x.Key == in.Person })
		if i < 0 {
			return Proposal{}, fmt.Errorf("there is no person %q", in.Person)
		}
		takeDaysOff(&proposal, &p.People[i], events, window)
		return proposal, nil
	}
	fetched := 0
	for i := range p.People {
		person := &p.People[i]
		if person.Calendar == "" || in.Person != "" && person.Key != in.Person {
			continue
		}
		fetched++
		events, err := s.feeds.Fetch(ctx, person.Calendar, window)
		if err != nil {
			proposal.Notes = append(proposal.Notes, fmt.Sprintf("%s: %v. Their days off stay as they are.", person.Name, err))
			continue
		}
		takeDaysOff(&proposal, person, events, window)
	}
	if address := p.Settings.HolidayCalendar; address != "" && in.Person == "" {
		fetched++
		if events, err := s.feeds.Fetch(ctx, address, window); err != nil {
			proposal.Notes = append(proposal.Notes, fmt.Sprintf("Holidays: %v. They stay as they are.", err))
		} else if err := takeHolidays(&proposal, p, events); err != nil {
			return Proposal{}, err
		}
	}
	if fetched == 0 {
		return Proposal{}, fmt.Errorf("no calendar address is set; give people the address of their calendar first")
	}
	return proposal, nil
}

func takeDaysOff(proposal *Proposal, person *program.Person, events []program.DayOff, window calendar.Span) {
	r := people.Refresh(person.DaysOff, events, window)
	if !r.Changes() {
		return
	}
	proposal.Changes = append(proposal.Changes, setting(program.KindPerson, person.Key, "daysOff", r.DaysOff))
	for _, off := range r.New {
		proposal.Notes = append(proposal.Notes, fmt.Sprintf("%s: new, %s", person.Name, days(off)))
	}
	for _, m := range r.Moved {
		proposal.Notes = append(proposal.Notes, fmt.Sprintf("%s: %s instead of %s", person.Name, days(m.After), days(m.Before)))
	}
	for _, off := range r.Gone {
		proposal.Notes = append(proposal.Notes, fmt.Sprintf("%s: no longer off %s", person.Name, days(off)))
	}
}

func takeHolidays(proposal *Proposal, p program.Program, events []program.DayOff) error {
	all, fresh := people.Holidays(p.Holidays, events)
	if len(fresh) == 0 {
		return nil
	}
	proposal.Changes = append(proposal.Changes, setting(program.KindProgram, "", "holidays", all))
	for _, h := range fresh {
		proposal.Notes = append(proposal.Notes, fmt.Sprintf("Holiday: new, %s, %s", h.Date.Short(), h.Name))
	}
	return nil
}

// days writes days off in words.
func days(off program.DayOff) string {
	text := off.From.Short()
	if off.To != off.From {
		text += " to " + off.To.Short()
	}
	if off.Name != "" {
		text += " (" + off.Name + ")"
	}
	return text
}

package act

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"jantrel/core/capacity"
	"jantrel/core/intake"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/words"
)

// Joining says what people who come into a team mean for the velocity that it agreed on.
type Joining string

// The ways of joining.
const (
	Adds  Joining = "adds"     // it was agreed without them: they add to it
	Meant Joining = "included" // it was agreed with them in mind: it stays as it is
)

// SetMembers gives a team other members. Its agreed velocity stays that of the team that it
// was agreed for: who joins adds to it, who leaves takes away. Where somebody stands in the
// team without a first day, it cannot be known whether the velocity was agreed for them too,
// and the plan asks.
type SetMembers struct {
	Team    string           `json:"team"`
	Members []program.Member `json:"members"`           // as they should be, all of them
	Joining Joining          `json:"joining,omitempty"` // adds, unless said otherwise
}

// Plan implements Intent.
func (x SetMembers) Plan(s State) (Plan, error) {
	at, err := teamAt(s, x.Team)
	if err != nil {
		return Plan{}, err
	}
	team := &s.Program.Teams[at]
	changes := []program.Change{program.SetTo(teamRef(x.Team), "members", x.Members)}
	staffed, err := staff(s, map[string][]program.Member{x.Team: x.Members}, nil, x.Joining)
	if err != nil {
		return Plan{}, err
	}
	p, err := made("Members of "+team.Name, append(changes, staffed.changes...), nil)
	p.Says = changes[:1]
	p.Ask = staffed.ask
	return p.with(nil, staffed.notes), err
}

// AddPeople adds people from lines of text, with their shares in teams.
type AddPeople struct {
	Text    string  `json:"text"`              // lines, one a person
	Joining Joining `json:"joining,omitempty"` // adds, unless said otherwise; see SetMembers
}

// Plan implements Intent.
func (a AddPeople) Plan(s State) (Plan, error) {
	added, problems := intake.ReadPeople(a.Text, s.Program)
	if len(problems) > 0 {
		return Plan{}, problems
	}
	if len(added) == 0 {
		return Plan{}, errors.New("there is no line with a name in it")
	}
	label := fmt.Sprintf("Add %d people", len(added))
	if len(added) == 1 {
		label = "Add " + added[0].Name
	}
	teams := s.TeamAt()
	members := map[string][]program.Member{}
	var changes []program.Change
	var people []program.Person
	var touched []string
	for _, person := range added {
		changes = append(changes, program.AddOf(program.Ref{Kind: program.KindPerson, Key: person.Key}, person.Person))
		people = append(people, person.Person)
		for _, key := range person.Teams() {
			if _, begun := members[key]; !begun {
				members[key] = slices.Clone(s.Program.Teams[teams[key]].Members)
				touched = append(touched, key)
			}
			members[key] = append(members[key], person.Shares[key])
		}
	}
	for _, key := range touched {
		changes = append(changes, program.SetTo(teamRef(key), "members", members[key]))
	}
	staffed, err := staff(s, members, people, a.Joining)
	if err != nil {
		return Plan{}, err
	}
	p, err := made(label, append(changes, staffed.changes...), nil)
	p.Ask = staffed.ask
	return p.with(nil, staffed.notes), err
}

// staffed is what else follows where teams get other members.
type staffed struct {
	changes []program.Change
	notes   []string
	ask     *Question
}

// staff works out, for teams that get other members and with people who are new, what
// becomes of the velocities that were agreed.
func staff(s State, members map[string][]program.Member, fresh []program.Person, joining Joining) (staffed, error) {
	var out staffed
	switch joining {
	case "":
		joining = Adds
	case Adds, Meant:
	default:
		return out, fmt.Errorf("people join as %q or %q, and not as %q", Adds, Meant, joining)
	}
	next := s.Program
	next.Teams = slices.Clone(next.Teams)
	next.People = append(slices.Clip(next.People), fresh...)
	for t := range next.Teams {
		if list, touched := members[next.Teams[t].Key]; touched {
			next.Teams[t].Members = list
		}
	}
	after := plan.Of(next)
	var unclear []string
	for t := range next.Teams {
		was, now := &s.Program.Teams[t], &next.Teams[t]
		if _, touched := members[now.Key]; !touched {
			continue
		}
		joined := withoutFirstDay(was.Members, now.Members)
		if begun := slices.ContainsFunc(was.Iterations, func(it program.Iteration) bool { return it.State == program.Closed }); begun && joined {
			out.notes = append(out.notes, fmt.Sprintf("%s: who has no first day counts as there in past iterations too. Say from when, where that is not so.", now.Name))
		}
		// With members, a team that sizes in time has their time for its capacity; and a
		// velocity that was agreed before anybody was there is that of whoever comes first.
		if was.Velocity == nil || len(was.Members) == 0 || now.Unit != program.Points && len(now.Members) > 0 {
			continue
		}
		before := capacity.WeekOf(s.Plan, t)
		agreed := before
		if was.AgreedDays != nil {
			agreed = *was.AgreedDays
		}
		week := capacity.WeekOf(after, t)
		if joined && week > before {
			unclear = append(unclear, fmt.Sprintf("%s agreed on %s %s with %s member-days a week", now.Name, words.Number(*was.Velocity), was.Unit, words.Number(agreed)))
			if joining == Meant {
				agreed += week - before
			}
		}
		if agreed > 0 && (was.AgreedDays == nil || *was.AgreedDays != agreed) {
			out.changes = append(out.changes, program.SetTo(teamRef(was.Key), "agreedDays", agreed))
		}
	}
	if len(unclear) > 0 {
		out.ask = &Question{
			Text: strings.Join(unclear, "; ") + ". Does who comes in now, without a first day, add to that?", Field: "joining", Answer: string(joining),
			Answers: []Answer{
				{string(Adds), "They add to it: capacity grows"},
				{string(Meant), "It was agreed with them in mind: capacity stays"},
			},
		}
	}
	return out, nil
}

// withoutFirstDay reports whether somebody is new among the members, or has another share,
// and no first day.
func withoutFirstDay(was, now []program.Member) bool {
	return slices.ContainsFunc(now, func(m program.Member) bool {
		return m.From.IsZero() && !slices.ContainsFunc(was, func(o program.Member) bool {
			return o.Person == m.Person && o.Share == m.Share && o.From.IsZero()
		})
	})
}

// AgreeVelocity notes the velocity that a team agrees on, the day, and for how much of a
// team: who joins later adds to it, who leaves takes away.
type AgreeVelocity struct {
	Team     string   `json:"team"`
	Velocity *float64 `json:"velocity,omitempty"` // in the team's unit, an iteration; none: measured from now on
	Days     *float64 `json:"days,omitempty"`     // member-days a week that it is agreed for; none: those of who is in the team today
}

// Plan implements Intent.
func (x AgreeVelocity) Plan(s State) (Plan, error) {
	at, err := teamAt(s, x.Team)
	if err != nil {
		return Plan{}, err
	}
	team := &s.Program.Teams[at]
	if x.Velocity == nil {
		if team.Velocity == nil {
			return made("No agreed velocity of "+team.Name, nil, nil)
		}
		return made("No agreed velocity of "+team.Name, []program.Change{
			program.SetTo(teamRef(x.Team), "velocity", nil), program.SetTo(teamRef(x.Team), "agreedOn", nil), program.SetTo(teamRef(x.Team), "agreedDays", nil)}, nil)
	}
	changes := []program.Change{program.SetTo(teamRef(x.Team), "velocity", *x.Velocity), program.SetTo(teamRef(x.Team), "agreedOn", s.Today)}
	days := x.Days
	if days == nil && len(team.Members) > 0 {
		there := capacity.WeekOn(s.Plan, at, s.Today)
		days = &there
	}
	if days != nil && *days > 0 {
		changes = append(changes, program.SetTo(teamRef(x.Team), "agreedDays", *days))
	} else if team.AgreedDays != nil {
		changes = append(changes, program.SetTo(teamRef(x.Team), "agreedDays", nil))
	}
	p, err := made(fmt.Sprintf("%s agrees on %s %s", team.Name, words.Number(*x.Velocity), team.Unit), changes, nil)
	p.Says = changes[:1]
	return p, err
}

func teamRef(key string) program.Ref { return program.Ref{Kind: program.KindTeam, Key: key} }

// teamAt returns where a team stands in the program.
func teamAt(s State, key string) (int, error) {
	at, known := s.TeamAt()[key]
	if !known {
		return 0, fmt.Errorf("there is no team %q", key)
	}
	return at, nil
}

// without returns the members of the teams that a person is in, as they are without.
func without(s State, person string) map[string][]program.Member {
	members := map[string][]program.Member{}
	for _, t := range s.Program.Teams {
		if slices.ContainsFunc(t.Members, func(m program.Member) bool { return m.Person == person }) {
			members[t.Key] = slices.DeleteFunc(slices.Clone(t.Members), func(m program.Member) bool { return m.Person == person })
		}
	}
	return members
}

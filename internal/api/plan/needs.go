package plan

import (
	"bytes"
	"context"
	"fmt"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/calendar"
	"jantrel/core/forecast"
	"jantrel/core/needs"
	"jantrel/core/roles"
	"jantrel/internal/api/door"
	"jantrel/internal/exchange"
	"jantrel/internal/journal"
	"jantrel/internal/live"
)

// needsMap is who owes whom.
type needsMap struct {
	Revision int64        `json:"revision"`
	Cells    []needs.Cell `json:"cells" doc:"Where there is something, in the order of the teams, first of those that give"`
	Weeks    []needs.Week `json:"weeks" doc:"The same by team and the week by which it is wanted, in the order of the teams"`

	Milestones []needs.ForMilestone `json:"milestones" doc:"What milestones still need"`
	Cycles     [][]string           `json:"cycles" doc:"Items that need one another, each the next and the last the first: nothing on a cycle can be placed"`
}

// owed is what teams owe one another.
type owed struct {
	Revision int64     `json:"revision"`
	Owed     []owedRow `json:"owed" doc:"What is wanted first first"`
	LeftOut  int       `json:"leftOut" doc:"How many more there are"`
}

// owedRow is what is owed, with who said the last word on it, and when, as the journal has it.
type owedRow struct {
	needs.Concerned
	SaidBy string     `json:"saidBy,omitempty" doc:"Missing: it came with the program"`
	SaidAt *time.Time `json:"saidAt,omitempty"`
}

// withWords adds to what is owed who said the last word on it.
func withWords(owed []needs.Concerned, words []journal.Word) []owedRow {
	last := make(map[[2]string]*journal.Word, len(words))
	for i := range words {
		last[[2]string{words[i].Item, words[i].Needs}] = &words[i]
	}
	rows := make([]owedRow, len(owed))
	for i, o := range owed {
		rows[i].Concerned = o
		if w := last[[2]string{o.Item, o.Needs}]; w != nil {
			rows[i].SaidBy, rows[i].SaidAt = w.By, &w.At
		}
	}
	return rows
}

// owedOdds is how likely what is owed comes in time.
type owedOdds struct {
	Revision int64    `json:"revision"`
	Plays    int      `json:"plays"`
	Odds     []inTime `json:"odds" doc:"Of the first needs that have a day by which they are wanted"`
}

// inTime is the chance that one need comes in time.
type inTime struct {
	Item   string  `json:"item"`
	Needs  string  `json:"needs"`
	Gives  string  `json:"gives"`
	Waits  string  `json:"waits"`
	Chance float64 `json:"chance" doc:"0 to 1"`
}

// mostOdds is of how many needs the odds are told at once.
const mostOdds = 300

// OwedAsked asks what is owed.
type OwedAsked struct {
	door.Reading
	Gives  string `query:"gives" maxLength:"200" doc:"Only what this team gives; missing: any"`
	Waits  string `query:"waits" maxLength:"200" doc:"Only what this team waits for; missing: any"`
	Team   string `query:"team" maxLength:"200" doc:"Only what this team gives or waits for: what it has to answer first"`
	Person string `query:"person" maxLength:"200" doc:"Only needs of items assigned to this person, on either side, and of the teams that they lead: what they have to answer first"`
	Mine   bool   `query:"mine" doc:"Only what concerns the visitor: of a team lead the needs of their teams, of everybody those of items assigned to them"`
	Week   string `query:"week" format:"date" doc:"Only what is wanted in the week of this day, with what was before where it is this week; missing: any"`
}

// of are the needs that are asked about.
func (a *OwedAsked) of(whose roles.Who, state *live.State) (all []needs.Concerned) {
	week, _ := calendar.Parse(a.Week) // checked on the way in
	if a.Week != "" {
		week = calendar.MondayOf(week)
	}
	for _, o := range a.concerning(whose, state) {
		if a.Week != "" && (o.By.IsZero() || o.WeekOf(state.Today) != week) {
			continue
		}
		if (a.Gives == "" || o.Gives == a.Gives) && (a.Waits == "" || o.Waits == a.Waits) {
			all = append(all, o)
		}
	}
	return all
}

// readOwed reads what is asked of, and who is asked about.
func (s stage) readOwed(ctx context.Context, a *OwedAsked) (*live.Line, roles.Who, *live.State, error) {
	l, who, state, err := s.ReadAs(ctx, a.Reading)
	if err != nil {
		return nil, who, nil, err
	}
	whose, err := s.whose(ctx, a, who)
	if err != nil {
		return nil, who, nil, s.Failed(ctx, err)
	}
	return l, whose, state, nil
}

// whose is who is asked about, who is the visitor themselves where it is theirs: a person leads teams where an account
// that is theirs does.
func (s stage) whose(ctx context.Context, a *OwedAsked, who roles.Who) (roles.Who, error) {
	if a.Mine || a.Person == "" {
		return who, nil
	}
	whose := roles.Who{Person: a.Person}
	belong, err := s.Store().Belongings(ctx, a.ID)
	for _, m := range belong {
		if m.Person == a.Person && m.Role == roles.Lead {
			whose.Role = m.Role
		}
	}
	return whose, err
}

// concerning are the needs of whom it is asked about, or all.
func (a *OwedAsked) concerning(whose roles.Who, state *live.State) []needs.Concerned {
	if a.Team == "" && a.Person == "" && !a.Mine {
		return needs.OfAll(needs.OwedOf(state.Plan), state.Today)
	}
	var c needs.Concern
	if a.Team != "" {
		c.Teams = []string{a.Team}
	}
	if a.Mine || a.Person != "" {
		c.Person = whose.Person
		if whose.Role == roles.Lead && whose.Person != "" {
			c.Teams = append(c.Teams, roles.TeamsOf(state.Program, whose.Person)...)
		}
	}
	return needs.ConcernedOf(state.Plan, state.Today, c)
}

// named tells whose needs are asked about, for an answer that is remembered.
func (a *OwedAsked) named(whose roles.Who) string {
	of := ""
	if a.Mine || a.Person != "" {
		of = string(whose.Role) + " " + whose.Person
	}
	return fmt.Sprintf("%q %q %q %q %q", a.Gives, a.Waits, a.Week, a.Team, of)
}

// mostCycles is how many cycles are named at the most.
const mostCycles = 20

// mostOwed is how many needs are listed at the most.
const mostOwed = 1000

func (s stage) needs(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "get-needs-map", Method: http.MethodGet, Path: "/api/v1/programs/{id}/needs/map", Summary: "How many needs each team has of each other, and how they stand",
	}, func(ctx context.Context, in *struct{ door.Reading }) (*struct{ Body needsMap }, error) {
		_, state, err := s.Read(ctx, in.Reading)
		if err != nil {
			return nil, err
		}
		return &struct{ Body needsMap }{needsMap{
			state.Revision, needs.MapOf(state.Plan, state.Today), needs.WeeksOf(state.Plan, state.Today),
			needs.ForMilestones(state.Plan), needs.CyclesOf(state.Plan, mostCycles),
		}}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "get-owed", Method: http.MethodGet, Path: "/api/v1/programs/{id}/needs/owed", Summary: "What teams owe one another, what is wanted first first",
	}, func(ctx context.Context, in *OwedAsked) (*struct{ Body owed }, error) {
		l, whose, state, err := s.readOwed(ctx, in)
		if err != nil {
			return nil, err
		}
		all := in.of(whose, state)
		n := min(len(all), mostOwed)
		words, err := l.LastWords(ctx, state)
		if err != nil {
			return nil, s.Failed(ctx, err)
		}
		return &struct{ Body owed }{owed{state.Revision, withWords(all[:n], words), len(all) - n}}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "get-owed-odds", Method: http.MethodGet, Path: "/api/v1/programs/{id}/needs/odds", Summary: "How likely what teams owe one another comes in time",
	}, s.owedOdds)
	huma.Register(api, huma.Operation{
		OperationID: "export-needs", Method: http.MethodGet, Path: "/api/v1/programs/{id}/reports/needs", Summary: "What teams owe one another, as a file",
	}, func(ctx context.Context, in *struct {
		OwedAsked
		Format string `query:"format" enum:"csv,ics,dot,mermaid,graphml,svg" default:"csv" doc:"A table; a calendar of the days by which they are due; a graph of items by team; or a picture of who owes whom"`
	}) (*door.File, error) {
		_, whose, state, err := s.readOwed(ctx, &in.OwedAsked)
		if err != nil {
			return nil, err
		}
		var out bytes.Buffer
		if err := exchange.WriteNeeds(&out, in.Format, state.Program, state.Today, in.of(whose, state)); err != nil {
			return nil, s.Failed(ctx, err)
		}
		name := map[string]string{"csv": "needs.csv", "ics": "needs.ics", "dot": "needs.dot", "mermaid": "needs.mmd", "graphml": "needs.graphml", "svg": "needs.svg"}[in.Format]
		return door.Attached(name, door.MediaTypes[in.Format], out.Bytes()), nil
	})
}

func (s stage) owedOdds(ctx context.Context, in *OwedAsked) (*door.Answered[owedOdds], error) {
	l, whose, state, err := s.readOwed(ctx, in)
	if err != nil {
		return nil, err
	}
	return door.LongAnswer(ctx, s.Door, l, state, "owed chances "+in.named(whose), func(ctx context.Context) (owedOdds, error) {
		o, err := l.Playing(ctx, state)
		if err != nil {
			return owedOdds{}, err
		}
		asked := in.of(whose, state)
		all := make([]needs.Owed, min(len(asked), mostOdds))
		for i := range all {
			all[i] = asked[i].Owed
		}
		found := owedOdds{state.Revision, o.Plays, []inTime{}}
		for i, chance := range forecast.InTime(state.Plan, o, all) {
			if chance != nil {
				found.Odds = append(found.Odds, inTime{all[i].Item, all[i].Needs, all[i].Gives, all[i].Waits, *chance})
			}
		}
		l.Played(o.Plays)
		return found, ctx.Err()
	})
}

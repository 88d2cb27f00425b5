package scenarios

import (
	"bytes"
	"context"
	"fmt"
	"net/http"
	"strconv"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/program"
	"jantrel/core/scenario"
	"jantrel/internal/api/door"
	"jantrel/internal/exchange"
	"jantrel/internal/live"
)

// Comparison is two to four lines side by side.
type Comparison struct {
	Sides  []SideOf   `json:"sides"`
	Values []ValueRow `json:"values" doc:"Sizes, dates and capacity that are not the same in all, the first 300"`
	Whys   []WhyOf    `json:"whys" doc:"Which edit put items elsewhere, where the journal tells"`
	More   int        `json:"more,omitempty" doc:"Items that stand elsewhere beyond the first 1000"`
	scenario.Comparison
}

// SideOf is one of the lines.
type SideOf struct {
	Of       string       `json:"of" doc:"As it was asked for"`
	Name     string       `json:"name"`
	Revision int64        `json:"revision"`
	Day      program.Date `json:"day" doc:"On which it is seen"`
	Scenario int64        `json:"scenario,omitempty"`
	At       string       `json:"at,omitempty" doc:"Of a baseline: what goes into at"`
}

// ValueRow is a field in each line.
type ValueRow struct {
	program.Ref
	Field string `json:"field"`
	Name  string `json:"name"`
	Of    []any  `json:"of"`
}

// WhyOf is the edit that put an item where it stands in a line.
type WhyOf struct {
	Item  string `json:"item"`
	Side  int    `json:"side"`
	Label string `json:"label"`
	By    string `json:"by"`
}

const (
	mostItems  = 1000
	mostWhys   = 200
	mostValues = 300
)

// SidesAsked are the lines that are compared.
type SidesAsked struct {
	door.ProgramID
	Of []string `query:"of,explode" required:"true" minItems:"2" maxItems:"4" doc:"Which, the first one being what the others are held against: live, scenario-7, baseline-3, or a revision of the live plan"`
}

func (s stage) comparing(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "compare-lines", Method: http.MethodGet, Path: "/api/v1/programs/{id}/compare", Summary: "Two to four lines or baselines side by side",
	}, func(ctx context.Context, in *SidesAsked) (*struct{ Body Comparison }, error) {
		found, _, err := s.compare(ctx, in)
		if err != nil {
			return nil, err
		}
		return &struct{ Body Comparison }{found}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "report-comparison", Method: http.MethodGet, Path: "/api/v1/programs/{id}/reports/compare", Summary: "The same as a file",
	}, func(ctx context.Context, in *struct {
		SidesAsked
		Format string `query:"format" enum:"xlsx,csv,md" default:"xlsx"`
	}) (*door.File, error) {
		found, first, err := s.compare(ctx, &in.SidesAsked)
		if err != nil {
			return nil, err
		}
		names := make([]string, len(found.Sides))
		for i, side := range found.Sides {
			names[i] = side.Name
		}
		var out bytes.Buffer
		if err := exchange.WriteComparison(&out, in.Format, names, first, found.Comparison); err != nil {
			return nil, s.Failed(ctx, err)
		}
		return door.Attached("comparison."+in.Format, door.MediaTypes[in.Format], out.Bytes()), nil
	})
}

func (s stage) compare(ctx context.Context, in *SidesAsked) (Comparison, program.Program, error) {
	var c Comparison
	lines, states := []*live.Line{}, []*live.State{}
	sides := []scenario.Compared{}
	for _, of := range in.Of {
		side, l, err := s.side(ctx, in.ID, of)
		if err != nil {
			return c, program.Program{}, err
		}
		state := l.State()
		plays, err := l.LandingsAt(ctx, state)
		if err != nil {
			return c, program.Program{}, s.Problem(ctx, err)
		}
		side.Revision, side.Day = state.Revision, state.Today
		c.Sides = append(c.Sides, side)
		lines, states = append(lines, l), append(states, state)
		sides = append(sides, scenario.Compared{Plan: state.Plan, Facts: state.Facts, Plays: plays})
	}
	c.Comparison = scenario.Compare(sides)
	c.Values = []ValueRow{}
	for _, v := range c.Comparison.Values[:min(len(c.Comparison.Values), mostValues)] {
		row := ValueRow{Ref: v.Ref, Field: v.Field, Name: v.Name}
		for _, text := range v.Of {
			row.Of = append(row.Of, value(text))
		}
		c.Values = append(c.Values, row)
	}
	c.More = max(0, len(c.Items)-mostItems)
	c.Items = c.Items[:len(c.Items)-c.More]
	var err error
	c.Whys, err = s.whys(ctx, lines, c.Items)
	return c, states[0].Program, err
}

// side opens one of the lines that are compared.
func (s stage) side(ctx context.Context, id int64, of string) (SideOf, *live.Line, error) {
	side := SideOf{Of: of, Name: "Live plan"}
	kind, number, _ := strings.Cut(of, "-")
	n, notNumber := strconv.ParseInt(number, 10, 64)
	switch {
	case of == "live":
	case kind == "scenario" && notNumber == nil:
		line, err := s.Scenario(ctx, id, n)
		if err != nil {
			return side, nil, err
		}
		side.Scenario, side.Name = n, line.Name
	case kind == "baseline" && notNumber == nil:
		b, err := s.Store().Baseline(ctx, id, n)
		if err == nil {
			side.Name = b.Name
		}
		side.At = of
	default:
		if _, err := strconv.ParseInt(of, 10, 64); err != nil {
			return side, nil, huma.Error422UnprocessableEntity(fmt.Sprintf("of: %q is neither live, nor a scenario as scenario-7, a baseline as baseline-3 or a revision.", of))
		}
		side.At, side.Name = of, "Revision "+of
	}
	l, _, err := s.LineAs(ctx, id, side.Scenario, side.At)
	return side, l, err
}

// whys are the edits that put items elsewhere than in the first line, as their own journals tell.
func (s stage) whys(ctx context.Context, lines []*live.Line, items []scenario.ElsewhereOf) ([]WhyOf, error) {
	whys := []WhyOf{}
	for _, x := range items {
		for i := range x.Of {
			if i == 0 || x.Of[i] == x.Of[0] || len(whys) == mostWhys {
				continue
			}
			ref, field := program.Ref{Kind: program.KindItem, Key: x.Key}, "iteration"
			if x.Of[i].Stand == scenario.KeptOut || x.Of[0].Stand == scenario.KeptOut {
				field = "keptOut"
			}
			edit, has, err := lines[i].LastSet(ctx, ref, field)
			if err != nil {
				return nil, s.Failed(ctx, err)
			}
			other, hasOther, err := lines[0].LastSet(ctx, ref, field)
			if err != nil {
				return nil, s.Failed(ctx, err)
			}
			// What both have in common is no reason for a difference.
			if has && (!hasOther || edit.Revision != other.Revision || edit.Label != other.Label) {
				whys = append(whys, WhyOf{x.Key, i, edit.Label, edit.Actor})
			}
		}
	}
	return whys, nil
}

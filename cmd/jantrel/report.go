package main

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"maps"
	"math"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"jantrel/core/backlog"
	"jantrel/core/briefs"
	"jantrel/core/calendar"
	"jantrel/core/hours"
	"jantrel/core/needs"
	"jantrel/core/program"
	"jantrel/core/reports"
	"jantrel/internal/api/door"
	"jantrel/internal/exchange"
	"jantrel/internal/journal"
	"jantrel/internal/live"
	"jantrel/internal/picture"
)

// reporting is what a report is made from, and as what.
type reporting struct {
	ctx    context.Context
	line   *live.Line
	state  *live.State
	format string

	span                           calendar.Span
	by, view, chart                string
	release, team, iteration, mine string
	seenAt                         string
}

// reportKind is a report that the shell makes.
type reportKind struct {
	formats []string // the usual one first
	says    string
	write   func(r *reporting, w io.Writer) error
}

var reportKinds = map[string]reportKind{
	"plan": {[]string{"xlsx"}, "an overview, releases, a sheet for each team", func(r *reporting, w io.Writer) error {
		played, err := r.line.LandingsAt(r.ctx, r.state)
		if err != nil {
			return err
		}
		return exchange.WritePlan(w, r.state.Plan, played.Releases)
	}},
	"capacity": {[]string{"xlsx", "csv"}, "available against planned time of days; CSV by team, role or person", func(r *reporting, w io.Writer) error {
		if r.format == "csv" {
			return exchange.WriteCapacityCSV(w, r.state.Plan, r.span, r.by)
		}
		return exchange.WriteCapacityXLSX(w, r.state.Plan, r.span)
	}},
	"hours": {[]string{"xlsx", "csv"}, "capacity, planned and spent hours of days; CSV by team, person, item or activity", func(r *reporting, w io.Writer) error {
		asked := hours.Asked{Span: r.span, By: hours.By(r.by)}
		if !slices.Contains(hours.Splits, asked.By) {
			return fmt.Errorf("--by %s: hours are put together by team, person, item or activity", r.by)
		}
		if r.format == "csv" {
			return exchange.WriteHoursCSV(w, r.state.Plan, asked)
		}
		return exchange.WriteHoursXLSX(w, r.state.Plan, asked)
	}},
	"dates": {[]string{"ics"}, "iterations, due dates of releases, milestones, and what is due of --person", func(r *reporting, w io.Writer) error {
		return exchange.WriteDates(w, r.state.Program, r.state.Today, []string{exchange.DatesIterations, exchange.DatesReleases, exchange.DatesMilestones, exchange.DatesMine}, nil, r.mine)
	}},
	"needs": {exchange.NeedsFormats, "what teams owe one another", func(r *reporting, w io.Writer) error {
		return exchange.WriteNeeds(w, r.format, r.state.Program, r.state.Today, needs.OfAll(needs.OwedOf(r.state.Plan), r.state.Today))
	}},
	"backlog": {[]string{"xlsx", "csv"}, "what a ready-made or shared view keeps, by its key", func(r *reporting, w io.Writer) error {
		all := append(backlog.ReadyMade(), r.state.Views...)
		at := slices.IndexFunc(all, func(v program.View) bool { return v.Key == r.view })
		if at < 0 {
			return fmt.Errorf("--view: there is no view %q", r.view)
		}
		x, err := r.line.Index(r.ctx, r.state)
		if err != nil {
			return err
		}
		list, err := x.List(all[at], "")
		if err != nil {
			return err
		}
		columns := all[at].Columns
		if len(columns) == 0 {
			columns = backlog.Standard()
		}
		fields := make([]string, len(columns))
		for i, c := range columns {
			fields[i] = c.Field
		}
		return exchange.WriteList(w, r.format, x, list.Rows, fields)
	}},
	"journal": {[]string{"csv", "jsonl"}, "every edit of a document with its journal", func(r *reporting, w io.Writer) error {
		j, err := exchange.NewJournalWriter(w, r.format)
		if err == nil {
			err = r.line.Edits(r.ctx, journal.Sought{}, math.MaxInt, func(e *journal.Edit) error {
				return j.Write(exchange.Told{Revision: e.Revision, At: e.At, By: e.Actor, Label: e.Label, Why: e.Why, Changes: e.Changes})
			})
		}
		if err == nil {
			err = j.End()
		}
		return err
	}},
	"brief": {[]string{"md", "html"}, "what people are told: of --release, of --iteration of --team, or of the program", func(r *reporting, w io.Writer) error {
		about := briefs.About{Release: r.release, Team: r.team, Iteration: r.iteration}
		b := briefs.Template(&r.state.Program, about)
		if err := b.Check(); err != nil {
			return err
		}
		if !briefs.Has(&r.state.Program, about) {
			return errors.New("there is no such release, or no such iteration of that team")
		}
		review, err := door.ReviewOf(r.ctx, r.line, r.state, about)
		if err != nil {
			return err
		}
		written, err := r.line.WriteBrief(r.ctx, r.state, &b, func() string { return review }, nil)
		if err != nil {
			return err
		}
		head := exchange.Masthead{Program: r.seenAt}
		if r.format == "html" {
			return exchange.WriteBriefPage(w, &written, head)
		}
		return exchange.WriteBrief(w, &written, head)
	}},
	"review": {[]string{"md"}, "looking back on --release, or on --iteration of --team", func(r *reporting, w io.Writer) error {
		about := briefs.About{Release: r.release, Team: r.team, Iteration: r.iteration}
		if about == (briefs.About{}) || !briefs.Has(&r.state.Program, about) {
			return errors.New("say what is to be looked back on: --release, or --team and --iteration, that the program has")
		}
		text, err := door.ReviewOf(r.ctx, r.line, r.state, about)
		if err == nil {
			_, err = io.WriteString(w, text)
		}
		return err
	}},
	"chart": {[]string{"json", "csv", "svg"}, "the answer to --chart, which is written as in docs/report.md", func(r *reporting, w io.Writer) error {
		var c reports.Chart
		if err := json.Unmarshal([]byte(r.chart), &c); err != nil {
			return fmt.Errorf("--chart: %w", err)
		}
		drawn, err := r.line.Charts(r.ctx, r.state, []reports.Chart{c}, nil)
		if err != nil {
			return err
		}
		if drawn[0].Failed != "" {
			return errors.New(drawn[0].Failed)
		}
		switch r.format {
		case "csv":
			return exchange.WriteChart(w, &c, &drawn[0])
		case "svg":
			p := picture.Chart(&c, &drawn[0])
			if p == nil {
				return errors.New("--format svg: there is nothing to draw; choose another form of the chart, or csv")
			}
			_, err = io.WriteString(w, p.Whole())
			return err
		}
		return asJSON(drawn[0])(w)
	}},
}

func reportCommand() *cobra.Command {
	names := slices.Sorted(maps.Keys(reportKinds))
	var about strings.Builder
	for _, name := range names {
		fmt.Fprintf(&about, "\n  %-9s %s (%s)", name, reportKinds[name].says, strings.Join(reportKinds[name].formats, ", "))
	}
	var today, day, from, to dateFlag
	var out string
	var r reporting
	cmd := &cobra.Command{
		Use: "report KIND FILE", Short: "Make a report of a program document (- for standard input)", Args: cobra.ExactArgs(2),
		Long: "Make a report of a program document. One with its journal, as jantrel export --journal writes it, is reported on with what\nthat teaches, as it is or as it was at the end of a day. The kinds:\n" + about.String(),
		RunE: func(cmd *cobra.Command, args []string) error {
			kind, ok := reportKinds[args[0]]
			if !ok {
				return fmt.Errorf("there is no report %q; there are %s", args[0], strings.Join(names, ", "))
			}
			if r.format == "" {
				r.format = kind.formats[0]
			}
			if !slices.Contains(kind.formats, r.format) {
				return fmt.Errorf("--format %s: a report of this kind is %s", r.format, strings.Join(kind.formats, " or "))
			}
			all, err := readRecorded(cmd, args[1])
			if err != nil {
				return err
			}
			if len(all.Edits) == 0 && !day.date.IsZero() {
				return errNoJournal
			}
			return relive(cmd.Context(), all, max(lastDay(&today, &all), day.date.Add(1)), func(line *live.Line) error {
				state, err := asOf(cmd.Context(), line, day.date)
				if err != nil {
					return err
				}
				r.ctx, r.line, r.state = cmd.Context(), line, state
				r.span = calendar.Span{Start: from.date, End: to.date}
				if r.span.Start.IsZero() {
					r.span.Start = state.Today.Add(-28)
				}
				if r.span.End.IsZero() {
					r.span.End = max(r.span.Start, state.Today.Add(84))
				}
				if r.span.End < r.span.Start {
					return fmt.Errorf("--to %s is before --from %s", r.span.End, r.span.Start)
				}
				return write(cmd, out, func(w io.Writer) error { return kind.write(&r, w) })
			})
		},
	}
	cmd.Flags().StringVar(&r.format, "format", "", "of the file; the usual one of its kind where left out")
	cmd.Flags().Var(&today, "today", "the day to report on, YYYY-MM-DD; the document's own, or the one after its last edit, where left out")
	cmd.Flags().Var(&day, "as-of", "report as at the end of this day, YYYY-MM-DD, with what was known then")
	cmd.Flags().Var(&from, "from", "first day of what is about days; four weeks back where left out")
	cmd.Flags().Var(&to, "to", "last day of what is about days; twelve weeks ahead where left out")
	cmd.Flags().StringVar(&r.by, "by", "team", "what capacity and hours are put together by")
	cmd.Flags().StringVar(&r.view, "view", "all", "key of the view of a backlog")
	cmd.Flags().StringVar(&r.chart, "chart", "", `the chart, as JSON: {"of":"items","split":["state"],"measure":"number","form":"bars"}`)
	cmd.Flags().StringVar(&r.release, "release", "", "key of the release that a brief or a review is about")
	cmd.Flags().StringVar(&r.team, "team", "", "key of the team whose iteration it is about")
	cmd.Flags().StringVar(&r.iteration, "iteration", "", "key of that iteration")
	cmd.Flags().StringVar(&r.seenAt, "seen-at", "", "where the program is seen, as https://host/programs/1: keys in a brief lead there")
	cmd.Flags().StringVar(&r.mine, "person", "", "key of the person whose items are due")
	cmd.Flags().StringVarP(&out, "output", "o", "", "file to write to instead of standard output")
	return cmd
}

package main

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"runtime"
	"slices"
	"time"

	"github.com/spf13/cobra"

	"jantrel/core/forecast"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/schedule"
	"jantrel/internal/api"
	"jantrel/internal/exchange"
	"jantrel/internal/journal"
	"jantrel/internal/live"
	"jantrel/internal/store"
)

// read reads a program document, - for standard input. Problems in it are
// printed, one line each.
func read(cmd *cobra.Command, name string) (program.Program, error) {
	return reading(cmd, name, exchange.ReadDocument)
}

// reading opens a file and has it read. Problems in it are printed, one line each.
func reading[T any](cmd *cobra.Command, name string, do func(io.Reader) (T, error)) (found T, err error) {
	in := cmd.InOrStdin()
	if name != "-" {
		file, err := os.Open(name)
		if err != nil {
			return found, fmt.Errorf("cannot read %s: %w", name, errors.Unwrap(err))
		}
		defer func() { _ = file.Close() }()
		in = file
	}
	found, err = do(in)
	if problems := (program.Problems)(nil); errors.As(err, &problems) {
		for _, problem := range problems {
			fmt.Fprintln(cmd.ErrOrStderr(), problem)
		}
		return found, errBadFile
	}
	return found, err
}

// write writes to a named file, or to standard output where there is no name.
func write(cmd *cobra.Command, name string, to func(io.Writer) error) error {
	if name == "" || name == "-" {
		return to(cmd.OutOrStdout())
	}
	file, err := os.Create(name)
	if err != nil {
		return fmt.Errorf("cannot write %s: %w", name, errors.Unwrap(err))
	}
	return errors.Join(to(file), file.Close())
}

func asJSON(value any) func(io.Writer) error {
	return func(w io.Writer) error {
		encoder := json.NewEncoder(w)
		encoder.SetIndent("", "  ")
		encoder.SetEscapeHTML(false)
		return encoder.Encode(value)
	}
}

// day is the day to see a document on: the flag's, else its own, else today.
func (d *dateFlag) day(p program.Program) program.Date {
	if d.date.IsZero() && !p.Today.IsZero() {
		return p.Today
	}
	return d.clock()()
}

func draftCommand() *cobra.Command {
	var today dateFlag
	var out, aim string
	var limit time.Duration
	var o schedule.Options
	cmd := &cobra.Command{
		Use: "draft FILE", Short: "Draft a schedule of a program document (- for standard input)", Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			if o.FillTo < 0 || o.FillTo > 1 {
				return fmt.Errorf("--fill-to %v is not above 0 and at most 1", o.FillTo)
			}
			p, err := read(cmd, args[0])
			if err != nil {
				return err
			}
			resolved := plan.Of(p)
			if err := known(resolved, o); err != nil {
				return err
			}
			if o.Freeze < 0 {
				return fmt.Errorf("--freeze %d is below 0", o.Freeze)
			}
			end := time.Now().Add(limit)
			o.Today, o.Stop, o.Workers = today.day(p), func() bool { return time.Now().After(end) }, runtime.GOMAXPROCS(0)
			if o.Aim = schedule.Aim(aim); o.Aim != schedule.ByOdds && o.Aim != schedule.ByDates {
				return fmt.Errorf("--aim %s is neither odds nor dates", aim)
			}
			drafted := schedule.Draft(resolved, o)
			schedule.Foresee(resolved, &drafted, o)
			return write(cmd, out, asJSON(drafted))
		},
	}
	cmd.Flags().Var(&today, "today", "the day to draft on, YYYY-MM-DD; the document's own where left out")
	cmd.Flags().StringVar(&aim, "aim", string(schedule.ByOdds), "what comes first: odds, the days that releases are expected to be late by the forecast, or dates, those of the schedule as it stands")
	cmd.Flags().Float64Var(&o.FillTo, "fill-to", 0, "share of capacity to use, above 0 to 1; the document's own where left out")
	cmd.Flags().BoolVar(&o.KeepClose, "keep-close", false, "move as few items as possible")
	cmd.Flags().StringSliceVar(&o.Items, "items", nil, "only these items may move, separated by commas")
	cmd.Flags().StringSliceVar(&o.Releases, "releases", nil, "only what is of these releases may move, separated by commas")
	cmd.Flags().StringSliceVar(&o.Teams, "teams", nil, "only what is of these teams may move, separated by commas")
	cmd.Flags().BoolVar(&o.Roles, "roles", false, "take what a role, or who is assigned, can carry of an iteration as a limit too")
	cmd.Flags().IntVar(&o.Freeze, "freeze", 0, "leave so many of each team's next iterations as they are")
	cmd.Flags().BoolVar(&o.AssumeSizes, "assume-sizes", false, "draft items without a size with the usual size of their team and kind")
	cmd.Flags().BoolVar(&o.LeaveAgreed, "leave-agreed", false, "days that teams agreed on for what they need of each other are no dates to meet")
	cmd.Flags().DurationVar(&limit, "time-limit", 2*time.Second, "how long to search at the most")
	cmd.Flags().StringVarP(&out, "output", "o", "", "file to write to instead of standard output")
	return cmd
}

// known refuses options that name what the document does not have.
func known(p *plan.Plan, o schedule.Options) error {
	index, teams := p.Tree().Index, p.TeamAt()
	for _, key := range o.Items {
		if _, ok := index[key]; !ok {
			return fmt.Errorf("--items: no item %q", key)
		}
	}
	for _, key := range o.Teams {
		if _, ok := teams[key]; !ok {
			return fmt.Errorf("--teams: no team %q", key)
		}
	}
	for _, key := range o.Releases {
		if !slices.ContainsFunc(p.Releases, func(r program.Release) bool { return r.Key == key }) {
			return fmt.Errorf("--releases: no release %q", key)
		}
	}
	return nil
}

func forecastCommand() *cobra.Command {
	var today, day dateFlag
	var out, release string
	o := forecast.Options{Items: true, Workers: runtime.GOMAXPROCS(0)}
	cmd := &cobra.Command{
		Use: "forecast FILE", Short: "Forecast the landings of a program document (- for standard input)", Args: cobra.ExactArgs(1),
		Long: "Forecast the landings of a program document. One with its journal, as jantrel export --journal writes it, is played\nwith what that teaches, as it is or as it was at the end of a day.",
		RunE: func(cmd *cobra.Command, args []string) error {
			if o.Plays < 1 || o.Plays > 10_000_000 {
				return fmt.Errorf("--trials %d is not between 1 and 10000000", o.Plays)
			}
			all, err := readRecorded(cmd, args[0])
			if err != nil {
				return err
			}
			play := func(p *plan.Plan) error {
				if release != "" {
					o.Releases = []string{release}
					if !slices.ContainsFunc(p.Releases, func(r program.Release) bool { return r.Key == release }) {
						return fmt.Errorf("--release: no release %q", release)
					}
				}
				return write(cmd, out, asJSON(forecast.Play(p, o)))
			}
			if len(all.Edits) == 0 {
				if !day.date.IsZero() {
					return errNoJournal
				}
				o.Today = today.day(all.First)
				return play(plan.Of(all.First))
			}
			return relive(cmd.Context(), all, max(lastDay(&today, &all), day.date.Add(1)), func(line *live.Line) error {
				state, err := asOf(cmd.Context(), line, day.date)
				if err != nil {
					return err
				}
				known, err := line.Playing(cmd.Context(), state)
				if err != nil {
					return err
				}
				o.Today, o.Past = known.Today, known.Past
				return play(state.Plan)
			})
		},
	}
	cmd.Flags().Var(&today, "today", "the day to forecast on, YYYY-MM-DD; the document's own where left out")
	cmd.Flags().Var(&day, "as-of", "forecast as at the end of this day, YYYY-MM-DD, with what was known then")
	cmd.Flags().StringVar(&release, "release", "", "only this release")
	cmd.Flags().IntVar(&o.Plays, "trials", 10_000, "how often to play the plan")
	cmd.Flags().Uint64Var(&o.Seed, "seed", 1, "the same seed gives the same answer")
	cmd.Flags().StringVarP(&out, "output", "o", "", "file to write to instead of standard output")
	return cmd
}

func importCommand() *cobra.Command {
	var data string
	cmd := &cobra.Command{
		Use: "import FILE", Short: "Import a program document into a data folder (- for standard input)", Args: cobra.ExactArgs(1),
		Long: "Import a program document into a data folder. One with its journal, as jantrel export --journal writes it, is made\nedit by edit.",
		RunE: func(cmd *cobra.Command, args []string) error {
			all, err := readRecorded(cmd, args[0])
			if err != nil {
				return err
			}
			return withStore(store.Open, data, func(s *store.Store) error {
				id, err := live.Relive(cmd.Context(), s, all)
				if err != nil {
					return err
				}
				p, _, err := s.Load(cmd.Context(), id)
				if err == nil {
					fmt.Fprintf(cmd.OutOrStdout(), "%s is now program %d in %s\n", p.Name, id, data)
				}
				return err
			})
		},
	}
	cmd.Flags().StringVar(&data, "data", defaultData, "folder that holds the database; made where it is missing")
	return cmd
}

func exportCommand() *cobra.Command {
	var data, out string
	var id int64
	var journal bool
	cmd := &cobra.Command{
		Use: "export", Short: "Export a program of a data folder as a document", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			return withStore(store.OpenExisting, data, func(s *store.Store) error {
				id, p, err := load(cmd.Context(), s, id)
				if err != nil {
					return err
				}
				if journal {
					return write(cmd, out, func(w io.Writer) error { return record(cmd.Context(), s, id, w) })
				}
				return write(cmd, out, func(w io.Writer) error { return exchange.WriteDocument(w, p) })
			})
		},
	}
	cmd.Flags().StringVar(&data, "data", defaultData, "folder that holds the database")
	cmd.Flags().Int64Var(&id, "program", 0, "the program's number; may be left out where there is only one")
	cmd.Flags().BoolVar(&journal, "journal", false, "with its journal: as it was at first, and every edit since, a line each")
	cmd.Flags().StringVarP(&out, "output", "o", "", "file to write to instead of standard output")
	return cmd
}

// load reads the program of a number, or the only one, and says which it is.
func load(ctx context.Context, s *store.Store, id int64) (int64, program.Program, error) {
	if id == 0 {
		list, err := s.Programs(ctx)
		if err != nil {
			return 0, program.Program{}, err
		}
		if len(list) != 1 {
			return 0, program.Program{}, fmt.Errorf("there are %d programs; name one with --program", len(list))
		}
		id = list[0].ID
	}
	p, _, err := s.Load(ctx, id)
	if errors.Is(err, journal.ErrNotFound) {
		err = fmt.Errorf("there is no program %d", id)
	}
	return id, p, err
}

// withStore opens a data folder by open, which makes it where it is missing or does not.
func withStore(open func(string) (*store.Store, error), data string, do func(*store.Store) error) error {
	s, err := open(data)
	if err != nil {
		return err
	}
	return errors.Join(do(s), s.Close())
}

func openAPICommand() *cobra.Command {
	return &cobra.Command{
		Use: "openapi", Short: "Print the description of the HTTP interface", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			text, err := api.OpenAPI(version)
			if err != nil {
				return err
			}
			_, err = fmt.Fprintln(cmd.OutOrStdout(), string(text))
			return err
		},
	}
}

package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"time"

	"github.com/spf13/cobra"

	"jantrel/core/calendar"
	"jantrel/core/program"
	"jantrel/core/track"
	"jantrel/internal/exchange"
	"jantrel/internal/live"
	"jantrel/internal/store"
)

// readRecorded reads a program document, with its journal where it has one; see read.
func readRecorded(cmd *cobra.Command, name string) (program.Recorded, error) {
	return reading(cmd, name, exchange.ReadRecorded)
}

// relive makes a program with its journal in a folder of its own, which goes afterwards, and looks at it on a day.
func relive(ctx context.Context, all program.Recorded, today program.Date, look func(*live.Line) error) error {
	folder, err := os.MkdirTemp("", "jantrel-")
	if err != nil {
		return err
	}
	defer func() { _ = os.RemoveAll(folder) }()
	return withStore(store.Open, folder, func(s *store.Store) error {
		id, err := live.Relive(ctx, s, all)
		if err != nil {
			return err
		}
		noon := track.Midnight(today, time.Local).Add(12 * time.Hour)
		hub := live.NewHub(s, func() time.Time { return noon }, func() program.Date { return today })
		defer hub.Close()
		line, err := hub.Open(ctx, id)
		if err != nil {
			return err
		}
		return look(line)
	})
}

// lastDay is the day to look at a program with its journal on: the flag's, else the one after its last edit, else as
// for a document.
func lastDay(today *dateFlag, all *program.Recorded) program.Date {
	if today.date.IsZero() && len(all.Edits) > 0 {
		return calendar.OfTime(all.Edits[len(all.Edits)-1].At.Local()).Add(1)
	}
	return today.day(all.First)
}

func backtestCommand() *cobra.Command {
	var today dateFlag
	var out string
	var limit time.Duration
	cmd := &cobra.Command{
		Use: "backtest FILE", Short: "Look back on what forecasts said of a program with its journal (- for standard input)", Args: cobra.ExactArgs(1),
		Long: "Look back on what forecasts said of the closed iterations and landed releases of a program, with all that was known\nthen, and on what came. The file is what jantrel export --journal writes.",
		RunE: func(cmd *cobra.Command, args []string) error {
			all, err := readRecorded(cmd, args[0])
			if err != nil {
				return err
			}
			if len(all.Edits) == 0 {
				return errNoJournal
			}
			return relive(cmd.Context(), all, lastDay(&today, &all), func(line *live.Line) error {
				found, err := line.BackTest(cmd.Context(), line.State(), limit)
				if err != nil {
					return err
				}
				return write(cmd, out, asJSON(found))
			})
		},
	}
	cmd.Flags().Var(&today, "today", "the day to look back from, YYYY-MM-DD; the one after the last edit where left out")
	cmd.Flags().DurationVar(&limit, "limit", time.Hour, "how long to look back; what there is no time for is counted")
	cmd.Flags().StringVarP(&out, "output", "o", "", "file to write to instead of standard output")
	return cmd
}

var errNoJournal = errors.New("the file has no journal; jantrel export --journal writes a program with its own")

// asOf is a state of a line: that of the end of a day, or that of now.
func asOf(ctx context.Context, line *live.Line, day program.Date) (*live.State, error) {
	if day.IsZero() {
		return line.State(), nil
	}
	state, there, err := line.EndOf(ctx, day)
	if err == nil && !there {
		err = fmt.Errorf("--as-of: the journal begins after %s", day)
	}
	return state, err
}

// record writes a program with its journal.
func record(ctx context.Context, s *store.Store, id int64, w io.Writer) error {
	return live.Record(ctx, s, id, func(first program.Program) error { return exchange.WriteFirst(w, first) },
		func(e program.RecordedEdit) error { return exchange.WriteEdit(w, e) })
}

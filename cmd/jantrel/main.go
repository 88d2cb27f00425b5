// Command jantrel plans the work of several teams and forecasts when releases
// land. See README.md.
package main

import (
	"context"
	"errors"
	"fmt"
	"os"
	"os/signal"
	"syscall"
	"time"

	"github.com/spf13/cobra"

	"jantrel/core/calendar"
	"jantrel/core/program"
)

// version is set by the build.
var version = "dev"

// errBadFile is for a document with problems: they have been printed, and the
// exit code is 2.
var errBadFile = errors.New("")

func main() {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	err := root().ExecuteContext(ctx)
	switch {
	case errors.Is(err, errBadFile):
		os.Exit(2)
	case err != nil:
		fmt.Fprintln(os.Stderr, "jantrel: "+err.Error())
		os.Exit(1)
	}
}

func root() *cobra.Command {
	command := &cobra.Command{
		Use:           "jantrel",
		Short:         "Balance teams' capacity, draft schedules and forecast release dates",
		SilenceUsage:  true,
		SilenceErrors: true,
	}
	command.CompletionOptions.DisableDefaultCmd = true
	command.AddCommand(serveCommand(), demoCommand(), importCommand(), exportCommand(), checkCommand(), backupCommand(), restoreCommand(), draftCommand(), forecastCommand(), backtestCommand(), reportCommand(), userCommand(), standInCommand(), openAPICommand(), versionCommand())
	return command
}

func versionCommand() *cobra.Command {
	return &cobra.Command{
		Use: "version", Short: "Print the version", Args: cobra.NoArgs,
		Run: func(cmd *cobra.Command, _ []string) { fmt.Fprintln(cmd.OutOrStdout(), "jantrel "+version) },
	}
}

// dateFlag is a flag that holds a date.
type dateFlag struct{ date program.Date }

func (d *dateFlag) String() string { return d.date.String() }

func (d *dateFlag) Type() string { return "date" }

func (d *dateFlag) Set(text string) error {
	date, err := calendar.Parse(text)
	d.date = date
	return err
}

// now returns the machine's clock, on the day that the flag fixes: what is edited then stands in the
// journal on the day on which the plan is seen.
func (d *dateFlag) now() func() time.Time {
	if d.date.IsZero() {
		return time.Now
	}
	return func() time.Time {
		now := time.Now()
		return now.AddDate(0, 0, int(d.date-calendar.OfTime(now)))
	}
}

// clock returns today as the flag fixes it, or else as the machine has it.
func (d *dateFlag) clock() func() program.Date {
	now := d.now()
	return func() program.Date { return calendar.OfTime(now()) }
}

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
	command.AddCommand(serveCommand(), demoCommand(), importCommand(), exportCommand(), checkCommand(), backupCommand(), restoreCommand(), draftCommand(), forecastCommand(), userCommand(), standInCommand(), openAPICommand(), versionCommand())
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

// clock returns today as the flag fixes it, or else as the machine has it.
func (d *dateFlag) clock() func() program.Date {
	if !d.date.IsZero() {
		return func() program.Date { return d.date }
	}
	return func() program.Date { return calendar.OfTime(time.Now()) }
}

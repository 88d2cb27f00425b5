package main

import (
	"errors"
	"fmt"

	"github.com/spf13/cobra"

	"jantrel/internal/live"
	"jantrel/internal/store"
)

func checkCommand() *cobra.Command {
	var data string
	cmd := &cobra.Command{
		Use: "check", Short: "Check what a data folder holds; nothing is changed", Args: cobra.NoArgs,
		Long: "Check what a data folder holds: the database itself, files of items against their hashes, and of every program that\nits things are what its journal says. Nothing is changed; a server may run meanwhile. Ends with 1 where\nsomething is wrong.",
		RunE: func(cmd *cobra.Command, _ []string) error {
			return withStore(store.OpenExisting, data, func(s *store.Store) error {
				out := cmd.OutOrStdout()
				faults, err := s.Verify(cmd.Context())
				if err != nil {
					return err
				}
				for _, fault := range faults {
					fmt.Fprintf(out, "%s\n", fault)
				}
				programs, err := s.Programs(cmd.Context())
				if err != nil {
					return err
				}
				wrong := len(faults)
				for _, p := range programs {
					lines, err := s.Lines(cmd.Context(), p.ID)
					if err != nil {
						return err
					}
					for _, line := range lines {
						found, err := live.Check(cmd.Context(), s, line.ID)
						if err != nil {
							return fmt.Errorf("program %d, %s: %w", p.ID, p.Name, err)
						}
						name := fmt.Sprintf("program %d, %s", p.ID, p.Name)
						if line.Base != nil {
							name += ", copy " + line.Name
						}
						fmt.Fprintf(out, "%s: revision %d, %d changes gone through\n", name, found.Revision, found.Changes)
						for _, fault := range found.Faults {
							fmt.Fprintf(out, "  %s\n", fault)
						}
						wrong += len(found.Faults)
					}
				}
				if wrong > 0 {
					return errors.New("something is wrong with what is stored; keep a copy of the folder before anything else is done with it")
				}
				fmt.Fprintln(out, "all is well")
				return nil
			})
		},
	}
	cmd.Flags().StringVar(&data, "data", defaultData, "folder that holds the database")
	return cmd
}

package main

import (
	"fmt"

	"github.com/spf13/cobra"

	"jantrel/internal/store"
)

func backupCommand() *cobra.Command {
	var data string
	cmd := &cobra.Command{
		Use: "backup FILE", Short: "Write all that a data folder holds into one file, while a server runs or not", Args: cobra.ExactArgs(1),
		Long: "Write all that a data folder holds into one file: programs with their journals, accounts, files of items.\nA server may run meanwhile; the file holds one moment. It is looked through before it takes its name, and\nnothing is ever overwritten. Whoever has the file has everything, so keep it as safe as the folder.",
		RunE: func(cmd *cobra.Command, args []string) error {
			return withStore(store.OpenExisting, data, func(s *store.Store) error {
				if err := s.Backup(cmd.Context(), args[0]); err != nil {
					return fmt.Errorf("no backup was made: %w", err)
				}
				fmt.Fprintf(cmd.OutOrStdout(), "%s holds all of %s; jantrel restore brings it back\n", args[0], data)
				return nil
			})
		},
	}
	cmd.Flags().StringVar(&data, "data", defaultData, "folder that holds the database")
	return cmd
}

func restoreCommand() *cobra.Command {
	var data string
	cmd := &cobra.Command{
		Use: "restore FILE", Short: "Make a data folder out of a backup", Args: cobra.ExactArgs(1),
		Long: "Make a data folder out of a backup. The folder must not hold a database yet: nothing is overwritten.",
		RunE: func(cmd *cobra.Command, args []string) error {
			release, err := store.Lock(data)
			if err != nil {
				return err
			}
			defer func() { _ = release() }()
			if err := store.Restore(cmd.Context(), args[0], data); err != nil {
				return fmt.Errorf("nothing was restored: %w", err)
			}
			fmt.Fprintf(cmd.OutOrStdout(), "%s holds what %s held; jantrel check looks at all of it\n", data, args[0])
			return nil
		},
	}
	cmd.Flags().StringVar(&data, "data", defaultData, "folder to make; it must hold no database yet")
	return cmd
}

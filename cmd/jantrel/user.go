package main

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"strings"
	"text/tabwriter"
	"time"

	"github.com/spf13/cobra"
	"golang.org/x/term"

	"jantrel/core/roles"
	"jantrel/internal/account"
	"jantrel/internal/store"
)

// userCommand manages accounts from the shell of the server's machine. Whoever
// can write the data folder may do this, without signing in.
func userCommand() *cobra.Command {
	var data string
	cmd := &cobra.Command{Use: "user", Short: "Manage accounts", Long: "Manage the accounts in a data folder.\n\nPasswords are asked for, or read from standard input where that is no terminal."}
	cmd.PersistentFlags().StringVar(&data, "data", defaultData, "folder that holds the database")
	with := func(do func(context.Context, *account.Service, *cobra.Command, []string) error) func(*cobra.Command, []string) error {
		return func(cmd *cobra.Command, args []string) error {
			return withStore(store.Open, data, func(s *store.Store) error { return do(cmd.Context(), account.New(s, time.Now), cmd, args) })
		}
	}
	add := &cobra.Command{Use: "add LOGIN [NAME]", Short: "Make an account", Args: cobra.RangeArgs(1, 2)}
	admin := add.Flags().Bool("admin", false, "an administrator of the server, who manages accounts")
	add.RunE = with(func(ctx context.Context, accounts *account.Service, cmd *cobra.Command, args []string) error {
		password, err := askPassword(cmd)
		if err != nil {
			return err
		}
		made, err := accounts.Add(ctx, args[0], strings.Join(args[1:], ""), password, *admin)
		if err == nil {
			err = note(ctx, accounts, store.AccountAdded, made.Login, map[bool]string{true: "administrator of the server"}[*admin])
		}
		if err == nil {
			_, err = fmt.Fprintf(cmd.OutOrStdout(), "%s can sign in now\n", made.Login)
		}
		return err
	})
	list := &cobra.Command{Use: "list", Short: "List the accounts", Args: cobra.NoArgs, RunE: with(listAccounts)}
	password := &cobra.Command{Use: "password LOGIN", Short: "Set an account's password, and end its sessions and tokens", Args: cobra.ExactArgs(1)}
	password.RunE = with(func(ctx context.Context, accounts *account.Service, cmd *cobra.Command, args []string) error {
		found, err := find(ctx, accounts, args[0])
		if err != nil {
			return err
		}
		text, err := askPassword(cmd)
		if err != nil {
			return err
		}
		if err := accounts.SetPassword(ctx, found, text, ""); err != nil {
			return err
		}
		return note(ctx, accounts, store.PasswordChanged, found.Login, "")
	})
	change := func(name, short string, change store.AccountChange) *cobra.Command {
		return &cobra.Command{Use: name + " LOGIN", Short: short, Args: cobra.ExactArgs(1), RunE: with(func(ctx context.Context, accounts *account.Service, _ *cobra.Command, args []string) error {
			found, err := find(ctx, accounts, args[0])
			if err == nil {
				_, err = accounts.Store().ChangeAccount(ctx, found.ID, change)
			}
			if err == nil {
				err = note(ctx, accounts, store.AccountChanged, found.Login, name)
			}
			return err
		})}
	}
	role := &cobra.Command{Use: "role LOGIN ROLE", Short: "Let an account belong to a program with a role", Args: cobra.ExactArgs(2)}
	id := role.Flags().Int64("program", 1, "number of the program")
	person := role.Flags().String("person", "", "key of the program's person who they are")
	role.Long = role.Short + ".\n\nRoles are: administrator, \"program manager\", \"team lead\", member, viewer; none ends it."
	role.RunE = with(func(ctx context.Context, accounts *account.Service, _ *cobra.Command, args []string) error {
		found, err := find(ctx, accounts, args[0])
		if err != nil {
			return err
		}
		if args[1] == "none" {
			if err := accounts.Store().RemoveMembership(ctx, found.ID, *id); err != nil {
				return err
			}
			return note(ctx, accounts, store.RoleEnded, found.Login, fmt.Sprintf("of program %d", *id))
		}
		for _, r := range roles.All {
			if string(r) == args[1] {
				if err := accounts.Store().SaveMembership(ctx, store.Membership{AccountID: found.ID, ProgramID: *id, Role: r, Person: *person}); err != nil {
					return err
				}
				return note(ctx, accounts, store.RoleGiven, found.Login, fmt.Sprintf("%s of program %d", r, *id))
			}
		}
		return fmt.Errorf("there is no role %q", args[1])
	})
	cmd.AddCommand(add, list, password, role,
		change("disable", "Keep an account from signing in, and end its sessions and tokens", store.AccountChange{Disabled: new(true)}),
		change("enable", "Let an account sign in again", store.AccountChange{Disabled: new(false)}),
		change("admin", "Make an account an administrator of the server", store.AccountChange{Admin: new(true)}),
		change("no-admin", "Make it none any more", store.AccountChange{Admin: new(false)}),
	)
	return cmd
}

// note puts what was done from the shell into the audit log.
func note(ctx context.Context, accounts *account.Service, event store.Event, about, detail string) error {
	return accounts.Store().Note(ctx, time.Now(), store.Audited{Event: event, About: about, Detail: strings.TrimSpace(detail + " (from the server's shell)")})
}

func find(ctx context.Context, accounts *account.Service, login string) (store.Account, error) {
	found, err := accounts.Store().AccountBy(ctx, "login", strings.ToLower(login))
	if errors.Is(err, store.ErrNoAccount) {
		return found, fmt.Errorf("there is no account %q; list them with: jantrel user list", login)
	}
	return found, err
}

func listAccounts(ctx context.Context, accounts *account.Service, cmd *cobra.Command, _ []string) error {
	list, err := accounts.Store().Accounts(ctx)
	if err != nil {
		return err
	}
	out := tabwriter.NewWriter(cmd.OutOrStdout(), 0, 8, 2, ' ', 0)
	_, _ = fmt.Fprintln(out, "SIGN-IN NAME\tNAME\tRIGHTS\tSINCE")
	for _, a := range list {
		rights := "-"
		switch {
		case a.Disabled:
			rights = "disabled"
		case a.Admin:
			rights = "administrator"
		}
		_, _ = fmt.Fprintf(out, "%s\t%s\t%s\t%.10s\n", a.Login, a.Name, rights, a.CreatedAt)
	}
	return out.Flush()
}

// askPassword asks for a new password on a terminal, twice, or reads a line.
func askPassword(cmd *cobra.Command) (string, error) {
	if input, ok := cmd.InOrStdin().(*os.File); ok && term.IsTerminal(int(input.Fd())) {
		read := func(what string) (string, error) {
			_, _ = fmt.Fprint(os.Stderr, what)
			text, err := term.ReadPassword(int(input.Fd()))
			_, _ = fmt.Fprintln(os.Stderr)
			return string(text), err
		}
		first, err := read("Password: ")
		if err != nil {
			return "", err
		}
		second, err := read("Again: ")
		if err == nil && first != second {
			err = errors.New("the two passwords differ")
		}
		return first, err
	}
	line, err := bufio.NewReader(cmd.InOrStdin()).ReadString('\n')
	if err != nil && !errors.Is(err, io.EOF) {
		return "", err
	}
	return strings.TrimRight(line, "\r\n"), nil
}

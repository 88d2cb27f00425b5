// Package server serves what administrators of the server look after: the audit log and the
// backups.
package server

import (
	"context"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"net/http"
	"strconv"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/internal/api/door"
	"jantrel/internal/backups"
	"jantrel/internal/exchange"
	"jantrel/internal/journal"
	"jantrel/internal/store"
)

// stage is the door with this package's operations.
type stage struct {
	*door.Door
	keeper *backups.Keeper // nil: backups are made from the shell alone
}

// Register adds the operations.
func Register(api huma.API, d *door.Door, keeper *backups.Keeper) {
	s := stage{d, keeper}
	s.audit(api)
	s.backups(api)
}

// which says which entries of the audit log are asked for.
type which struct {
	Event   string `query:"event" maxLength:"40" doc:"Only such events"`
	Account string `query:"account" maxLength:"200" doc:"Only by or about this one: a sign-in name"`
	Before  int64  `query:"before" minimum:"0" doc:"Only entries older than this one"`
}

func (w which) of() store.AuditOf {
	return store.AuditOf{Before: w.Before, Event: store.Event(w.Event), Account: w.Account}
}

// AuditPage is a part of the audit log.
type AuditPage struct {
	Events  []store.Event   `json:"events" doc:"All there can be"`
	Entries []store.Audited `json:"entries" doc:"Newest first"`
	More    bool            `json:"more" doc:"There are older ones"`
}

const auditPage = 100 // entries

func (s stage) audit(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "get-audit", Method: http.MethodGet, Path: "/api/v1/audit", Summary: "Sign-ins, refusals and changes of rights, newest first",
	}, func(ctx context.Context, in *which) (*struct{ Body AuditPage }, error) {
		if err := s.ServerAdministrator(ctx); err != nil {
			return nil, err
		}
		list, err := s.Store().Audit(ctx, in.of(), auditPage+1)
		if err != nil {
			return nil, s.Failed(ctx, err)
		}
		more := len(list) > auditPage
		return &struct{ Body AuditPage }{AuditPage{store.Events, list[:min(len(list), auditPage)], more}}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "export-audit", Method: http.MethodGet, Path: "/api/v1/audit/export", Summary: "The audit log as CSV, newest first",
	}, func(ctx context.Context, in *which) (*huma.StreamResponse, error) {
		if err := s.ServerAdministrator(ctx); err != nil {
			return nil, err
		}
		return &huma.StreamResponse{Body: func(out huma.Context) {
			out.SetHeader("Content-Type", door.MediaTypes["csv"])
			out.SetHeader("Content-Disposition", `attachment; filename="audit.csv"`)
			if err := s.writeAudit(ctx, out.BodyWriter(), in.of()); err != nil {
				s.Log.ErrorContext(ctx, "export of the audit log", "error", err)
			}
		}}, nil
	})
}

// writeAudit writes entries as CSV, some at a time.
func (s stage) writeAudit(ctx context.Context, to io.Writer, of store.AuditOf) error {
	out := csv.NewWriter(to)
	if err := out.Write([]string{"Time", "Event", "Account", "About", "Detail", "Address", "Request"}); err != nil {
		return err
	}
	for {
		list, err := s.Store().Audit(ctx, of, 1000)
		if err != nil || len(list) == 0 {
			out.Flush()
			return errors.Join(err, out.Error())
		}
		for _, e := range list {
			row := []string{e.At, string(e.Event), e.Account, e.About, e.Detail, e.Address, e.Request}
			for i := range row {
				row[i] = exchange.Guard(row[i])
			}
			if err := out.Write(row); err != nil {
				return err
			}
		}
		of.Before = list[len(list)-1].ID
	}
}

// Backups are those that there are, and when others are made.
type Backups struct {
	Available  bool             `json:"available" doc:"Backups can be made here"`
	Folder     string           `json:"folder" doc:"Where they are, on the server"`
	EveryHours float64          `json:"everyHours" doc:"Hours between two that nobody asks for; 0: none are made"`
	Keep       int              `json:"keep" doc:"How many are kept; 0: all"`
	Database   int64            `json:"database" doc:"Bytes of the database, about what a backup needs"`
	Room       int64            `json:"room" doc:"Bytes that the disk of the backups has room for; 0: not known"`
	List       []backups.Backup `json:"list" doc:"Newest first"`
}

// keeps refuses who may not look after backups, and all where they are made from the shell alone.
func (s stage) keeps(ctx context.Context) error {
	if err := s.ServerAdministrator(ctx); err != nil {
		return err
	}
	if s.keeper == nil {
		return huma.Error404NotFound("Backups are made from the server's shell here.")
	}
	return nil
}

func (s stage) backups(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "get-backups", Method: http.MethodGet, Path: "/api/v1/backups", Summary: "The backups that there are",
	}, func(ctx context.Context, _ *struct{}) (*struct{ Body Backups }, error) {
		if err := s.ServerAdministrator(ctx); err != nil {
			return nil, err
		}
		out := &struct{ Body Backups }{Backups{List: []backups.Backup{}}}
		if s.keeper == nil {
			return out, nil
		}
		list, err := s.keeper.List()
		if err != nil {
			return nil, s.Failed(ctx, err)
		}
		size, err := s.Store().Size(ctx)
		if err != nil {
			return nil, s.Failed(ctx, err)
		}
		k := s.keeper
		out.Body = Backups{true, k.Folder, k.Every.Hours(), k.Keep, size, store.Room(k.Folder), list}
		return out, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "make-backup", Method: http.MethodPost, Path: "/api/v1/backups", Summary: "Make a backup now; the oldest that is more than are kept goes",
		DefaultStatus: http.StatusCreated, Errors: []int{http.StatusTooManyRequests}, Middlewares: huma.Middlewares{door.Endless},
	}, func(ctx context.Context, _ *struct{}) (*struct{ Body backups.Backup }, error) {
		if err := s.keeps(ctx); err != nil {
			return nil, err
		}
		made, err := s.keeper.Make(ctx)
		switch {
		case errors.Is(err, backups.ErrBusy):
			return nil, door.Later("A backup is being made at the moment. It will be in the list when it is done.", 10*time.Second)
		case journal.IsFull(err):
			s.Log.ErrorContext(ctx, "no backup was made", "error", err)
			return nil, huma.NewError(http.StatusInsufficientStorage, "No backup was made: there is no room for it on the disk. Those that there are stay.")
		case err != nil:
			return nil, s.Failed(ctx, fmt.Errorf("no backup was made: %w", err))
		}
		s.Note(ctx, store.BackupMade, made.Name, "")
		return &struct{ Body backups.Backup }{made}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "get-backup", Method: http.MethodGet, Path: "/api/v1/backups/{name}", Summary: "A backup, to keep elsewhere",
		Middlewares: huma.Middlewares{door.Endless},
	}, func(ctx context.Context, in *struct {
		Name string `path:"name" maxLength:"80"`
	}) (*huma.StreamResponse, error) {
		if err := s.keeps(ctx); err != nil {
			return nil, err
		}
		file, err := s.keeper.Open(in.Name)
		if errors.Is(err, backups.ErrNone) {
			return nil, huma.Error404NotFound("There is no such backup. It may have made room for later ones.")
		}
		if err != nil {
			return nil, s.Failed(ctx, err)
		}
		s.Note(ctx, store.BackupFetched, in.Name, "")
		return &huma.StreamResponse{Body: func(out huma.Context) {
			defer func() { _ = file.Close() }()
			out.SetHeader("Content-Type", "application/vnd.sqlite3")
			out.SetHeader("Content-Disposition", fmt.Sprintf("attachment; filename=%q", in.Name))
			if info, err := file.Stat(); err == nil {
				out.SetHeader("Content-Length", strconv.FormatInt(info.Size(), 10))
			}
			if _, err := io.Copy(out.BodyWriter(), file); err != nil {
				s.Log.WarnContext(ctx, "a backup was not fetched whole", "name", in.Name, "error", err)
			}
		}}, nil
	})
}

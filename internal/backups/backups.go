// Package backups makes backups of a data folder, when somebody asks and on a schedule, and
// keeps so many of them.
package backups

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"sync"
	"time"

	"jantrel/internal/store"
)

// Backup is one that was made: it is whole, and was looked through.
type Backup struct {
	Name string    `json:"name"`
	At   time.Time `json:"at"`
	Size int64     `json:"size" doc:"In bytes"`
}

// Errors of backups.
var (
	ErrBusy = errors.New("a backup is being made at the moment")
	ErrNone = errors.New("there is no such backup; it may have made room for later ones")
)

// Keeper makes backups and keeps them in a folder.
type Keeper struct {
	Store  *store.Store
	Folder string        // made where it is missing
	Keep   int           // how many; the oldest go. 0: all
	Every  time.Duration // between two that nobody asks for; 0: none are made
	Clock  func() time.Time
	Log    *slog.Logger

	making sync.Mutex
}

const named = "jantrel-20060102-150405.db"

var name = regexp.MustCompile(`^jantrel-[0-9]{8}-[0-9]{6}\.db$`)

// List returns the backups that there are, newest first.
func (k *Keeper) List() ([]Backup, error) {
	list := []Backup{}
	files, err := os.ReadDir(k.Folder)
	if errors.Is(err, os.ErrNotExist) {
		return list, nil
	}
	if err != nil {
		return nil, err
	}
	for _, f := range files {
		if !name.MatchString(f.Name()) {
			continue
		}
		at, err := time.Parse(named, f.Name())
		if err != nil {
			continue
		}
		info, err := f.Info()
		if err != nil {
			continue // it went meanwhile
		}
		list = append(list, Backup{f.Name(), at, info.Size()})
	}
	slices.SortFunc(list, func(a, b Backup) int { return b.At.Compare(a.At) })
	return list, nil
}

// Make makes a backup now, and lets the oldest go that are more than are kept. One is made
// at a time: ErrBusy else.
func (k *Keeper) Make(ctx context.Context) (Backup, error) {
	if !k.making.TryLock() {
		return Backup{}, ErrBusy
	}
	defer k.making.Unlock()
	if err := os.MkdirAll(k.Folder, 0o700); err != nil {
		return Backup{}, fmt.Errorf("the folder of backups cannot be made: %w", err)
	}
	// What a server that was killed meanwhile has left: nobody else makes backups here.
	left, err := filepath.Glob(filepath.Join(k.Folder, "jantrel-*.part*"))
	if err != nil {
		return Backup{}, err
	}
	for _, part := range left {
		_ = os.Remove(part)
	}
	at := k.Clock().UTC().Truncate(time.Second)
	path := filepath.Join(k.Folder, at.Format(named))
	if err := k.Store.Backup(ctx, path); err != nil {
		return Backup{}, err
	}
	info, err := os.Stat(path)
	if err != nil {
		return Backup{}, err
	}
	return Backup{filepath.Base(path), at, info.Size()}, k.letGo()
}

// letGo removes the oldest backups that are more than are kept.
func (k *Keeper) letGo() error {
	list, err := k.List()
	if err != nil || k.Keep == 0 || len(list) <= k.Keep {
		return err
	}
	for _, old := range list[k.Keep:] {
		if err := os.Remove(filepath.Join(k.Folder, old.Name)); err != nil {
			return fmt.Errorf("the oldest backup could not be let go: %w", err)
		}
	}
	return nil
}

// Open opens a backup to read it; ErrNone where there is none of that name.
func (k *Keeper) Open(file string) (*os.File, error) {
	if !name.MatchString(file) || strings.ContainsAny(file, `/\`) {
		return nil, ErrNone
	}
	f, err := os.Open(filepath.Join(k.Folder, file))
	if errors.Is(err, os.ErrNotExist) {
		return nil, ErrNone
	}
	return f, err
}

// again is how long it waits after one that failed.
const again = 15 * time.Minute

// Run makes backups on the schedule until ctx ends. The first is due when the last one there
// is has become old enough, so that a server that starts often does not make more.
func (k *Keeper) Run(ctx context.Context) {
	if k.Every <= 0 {
		return
	}
	for wait := k.due(); ; {
		select {
		case <-ctx.Done():
			return
		case <-time.After(wait):
		}
		made, err := k.Make(ctx)
		switch {
		case err == nil:
			k.Log.InfoContext(ctx, "backup made", "name", made.Name, "bytes", made.Size)
			wait = k.Every
		case ctx.Err() != nil:
			return
		default:
			k.Log.ErrorContext(ctx, "no backup was made", "error", err)
			wait = min(again, k.Every)
		}
	}
}

// due is how long it is until the next backup.
func (k *Keeper) due() time.Duration {
	list, err := k.List()
	if err != nil || len(list) == 0 {
		return 0
	}
	return max(0, k.Every-k.Clock().Sub(list[0].At))
}

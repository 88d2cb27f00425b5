// Package backups makes backups of a data folder, when somebody asks and on a schedule, and
// keeps so many of them.
package backups

import (
	"cmp"
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
	// Ahead says that its time is still to come: the clock ran ahead when it was made.
	Ahead bool `json:"ahead,omitempty" doc:"Its time is still to come: the clock ran ahead when it was made. It stays, and is not counted among those that are kept"`
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

// name is that of a backup; one that was not the first within its second has a number.
var name = regexp.MustCompile(`^(jantrel-[0-9]{8}-[0-9]{6})(-[0-9]{1,3})?\.db$`)

// List returns the backups that there are, newest first.
func (k *Keeper) List() ([]Backup, error) {
	list, now := []Backup{}, k.Clock()
	files, err := os.ReadDir(k.Folder)
	if errors.Is(err, os.ErrNotExist) {
		return list, nil
	}
	if err != nil {
		return nil, err
	}
	for _, f := range files {
		parts := name.FindStringSubmatch(f.Name())
		if parts == nil {
			continue
		}
		at, err := time.Parse(named, parts[1]+".db")
		if err != nil {
			continue
		}
		info, err := f.Info()
		if err != nil {
			continue // it went meanwhile
		}
		list = append(list, Backup{f.Name(), at, info.Size(), at.After(now)})
	}
	slices.SortFunc(list, func(a, b Backup) int {
		return cmp.Or(b.At.Compare(a.At), cmp.Compare(len(b.Name), len(a.Name)), cmp.Compare(b.Name, a.Name))
	})
	return list, nil
}

// Last is the newest backup of a list by the clock as it is now; false where there is none.
func Last(list []Backup) (Backup, bool) {
	for _, b := range list {
		if !b.Ahead {
			return b, true
		}
	}
	return Backup{}, false
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
	path := k.free(at)
	if err := k.Store.Backup(ctx, path); err != nil {
		return Backup{}, err
	}
	info, err := os.Stat(path)
	if err != nil {
		return Backup{}, err
	}
	return Backup{filepath.Base(path), at, info.Size(), false}, k.letGo(filepath.Base(path))
}

// free is a path for a backup of a moment that no other has.
func (k *Keeper) free(at time.Time) string {
	path := filepath.Join(k.Folder, at.Format(named))
	for n := 2; n < 1000; n++ {
		if _, err := os.Lstat(path); err != nil {
			break
		}
		path = filepath.Join(k.Folder, strings.TrimSuffix(at.Format(named), ".db")+fmt.Sprintf("-%d.db", n))
	}
	return path
}

// letGo removes the oldest backups that are more than are kept; never the one that was just made. Those whose time is
// still to come stay and are not counted: who has set the clock back decides about them.
func (k *Keeper) letGo(made string) error {
	list, err := k.List()
	if err != nil || k.Keep == 0 {
		return err
	}
	ahead := slices.DeleteFunc(slices.Clone(list), func(b Backup) bool { return !b.Ahead })
	if len(ahead) > 0 {
		k.Log.Warn("backups of times to come: the clock ran ahead when they were made; they stay", "backups", len(ahead), "newest", ahead[0].Name)
	}
	kept := 0
	for _, old := range list {
		if old.Ahead {
			continue
		}
		if kept++; kept <= k.Keep || old.Name == made {
			continue
		}
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
	last, has := Last(list)
	if err != nil || !has {
		return 0
	}
	return max(0, k.Every-k.Clock().Sub(last.At))
}

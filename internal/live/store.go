package live

import (
	"context"
	"time"

	"jantrel/core/program"
	"jantrel/internal/journal"
)

// Store keeps lines and their journals. internal/store does it in SQLite; internal/store/memory in memory, for tests.
// Either may be used by many at once. A line, an edit or a checkpoint that is not there is journal.ErrNotFound, and an
// error of the database itself is a *journal.Fault. What is read of a scenario is its own and, up to where it begins,
// the live plan's.
type Store interface {
	// Programs and their lines.

	Create(ctx context.Context, p program.Program) (id int64, err error)
	Delete(ctx context.Context, id int64) error
	Live(ctx context.Context, id int64) (journal.Line, error)
	Line(ctx context.Context, line int64) (journal.Line, error)
	Lines(ctx context.Context, id int64) ([]journal.Line, error)
	MakeScenario(ctx context.Context, live journal.Line, revision int64, about journal.About) (journal.Line, error)
	DeleteScenario(ctx context.Context, line int64) error
	UpTo(ctx context.Context, line, revision int64) (int64, error)

	// What a line is, and one more edit of it: its journal and what it touched, or nothing.

	Load(ctx context.Context, line int64) (program.Program, int64, error)
	Commit(ctx context.Context, line int64, next program.Program, edit journal.Edit) error
	Explain(ctx context.Context, line, revision int64, why string) error
	Probe(ctx context.Context) error

	// The way to the past.

	RevisionAt(ctx context.Context, line int64, at time.Time) (int64, error)
	MadeAt(ctx context.Context, line, revision int64) (time.Time, bool, error)
	CountChanges(ctx context.Context, line, after, to int64) (int64, error)
	SaveCheckpoint(ctx context.Context, line int64, c journal.Checkpoint) error
	Checkpoints(ctx context.Context, line int64) ([]int64, error)
	LoadCheckpoint(ctx context.Context, line, revision int64) (journal.Checkpoint, error)

	// The journal, by what is asked of it.

	EditsAfter(ctx context.Context, line, revision int64) ([]journal.Edit, error)
	EditsBetween(ctx context.Context, line, after, to int64) ([]journal.Edit, error)
	LatestEdits(ctx context.Context, line, before int64, limit int, sought journal.Sought) ([]journal.Edit, error)
	Undoings(ctx context.Context, line int64) ([]journal.Undoing, error)
	EditAt(ctx context.Context, line, revision int64) (journal.Edit, error)
	EditOf(ctx context.Context, line int64, client, request string) (journal.Edit, bool, error)
	EditsOf(ctx context.Context, line, to int64, of program.Ref, limit int) ([]journal.Edit, error)
	EditsOfKinds(ctx context.Context, line, after, to int64, kinds []program.Kind) ([]journal.Edit, error)
	TrackedEdits(ctx context.Context, line int64, since time.Time, after, to int64, fields []string) ([]journal.Edit, error)
	Heads(ctx context.Context, line int64, client string, most int) ([]journal.Edit, error)
	LastSet(ctx context.Context, line, to int64, without []int64, ref program.Ref, field string) (journal.Edit, bool, error)
	SizeChanges(ctx context.Context, line, after, to int64) (changes []program.Applied, revisions []int64, err error)
	GoneItems(ctx context.Context, line int64) ([]string, error)
	LastChanges(ctx context.Context, line, to int64, without []int64) (map[string]time.Time, error)
	LastWords(ctx context.Context, line, to int64, without []int64) ([]journal.Word, error)

	// What forecasts said, by the rules of playing.

	ForecastDays(ctx context.Context, line int64, from program.Date, rules int) ([]journal.ForecastDay, error)
	ForecastDay(ctx context.Context, line int64, day program.Date, rules int) (body string, known bool, err error)
	KeepForecastDay(ctx context.Context, line int64, day journal.ForecastDay, rules int) error
}

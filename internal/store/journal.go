package store

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/jmoiron/sqlx"

	"jantrel/core/program"
	"jantrel/internal/journal"
)

// timeText is how times stand in the journal: texts in the order of time.
const timeText = "2006-01-02T15:04:05.000000000Z"

// journalFormat is how the values of changes are written today: as the program document
// has them. An edit of an earlier format is brought up to date as it is read (upgrade).
const journalFormat = 1

// upgrade brings a change that was written in an earlier format up to date. It is the
// place for what a later format does to fields and values; so far there is one.
func upgrade(format int, a program.Applied) (program.Applied, error) {
	if format > journalFormat {
		return a, fmt.Errorf("the journal has edits in format %d, and this program knows %d: use a newer one", format, journalFormat)
	}
	return a, nil
}

type editRow struct {
	LineID   int64        `db:"line_id"`
	Revision int64        `db:"revision"`
	At       string       `db:"at"`
	Actor    string       `db:"actor"`
	Client   string       `db:"client"`
	Label    string       `db:"label"`
	Sort     journal.Sort `db:"sort"`
	Format   int          `db:"format"`
	Changes  int          `db:"changes"`

	Request *string `db:"request"`
	Said    *string `db:"said"`
	Why     string  `db:"why"`
	UpTo    *int64  `db:"up_to"`
	Undoes  *int64  `db:"undoes"`
}

type journalRow struct {
	LineID   int64        `db:"line_id"`
	Revision int64        `db:"revision"`
	Seq      int          `db:"seq"`
	Op       program.Op   `db:"op"`
	Kind     program.Kind `db:"kind"`
	Owner    string       `db:"owner"`
	Key      string       `db:"key"`
	Field    string       `db:"field"`
	Before   *string      `db:"before_value"`
	After    *string      `db:"after_value"`
	BeforeAt *int         `db:"before_at"`
	AfterAt  *int         `db:"after_at"`
}

func writeJournal(ctx context.Context, tx *transaction, line int64, e journal.Edit) error {
	row := editRow{LineID: line, Revision: e.Revision, At: e.At.UTC().Format(timeText), Actor: e.Actor, Client: e.Client, Label: e.Label,
		Sort: e.Sort, Format: journalFormat, Changes: len(e.Changes), UpTo: e.UpTo}
	if e.Undoes != 0 {
		row.Undoes = &e.Undoes
	}
	if e.Request != "" {
		said, err := json.Marshal(e.Said)
		if err != nil {
			return err
		}
		row.Request, row.Said = &e.Request, text(said)
	}
	_, err := tx.NamedExecContext(ctx, `
		INSERT INTO edits (line_id, revision, at, actor, client, label, sort, format, changes, request, said, up_to, undoes)
		VALUES (:line_id, :revision, :at, :actor, :client, :label, :sort, :format, :changes, :request, :said, :up_to, :undoes)`, row)
	if err != nil {
		return err
	}
	statement, err := tx.PrepareNamedContext(ctx, `
		INSERT INTO journal (line_id, revision, seq, op, kind, owner, key, field, before_value, after_value, before_at, after_at)
		VALUES (:line_id, :revision, :seq, :op, :kind, :owner, :key, :field, :before_value, :after_value, :before_at, :after_at)`)
	if err != nil {
		return err
	}
	defer func() { _ = statement.Close() }()
	for seq, a := range e.Changes {
		c := a.Change
		row := journalRow{line, e.Revision, seq, c.Op, c.Kind, c.In, c.Key, c.Field, text(a.Inverse.Value), text(c.Value), a.Inverse.At, c.At}
		if _, err := statement.ExecContext(ctx, row); err != nil {
			return err
		}
	}
	return nil
}

func text(value json.RawMessage) *string {
	if value == nil {
		return nil
	}
	s := string(value)
	return &s
}

func raw(value *string) json.RawMessage {
	if value == nil {
		return nil
	}
	return json.RawMessage(*value)
}

// applied rebuilds a change and its inverse from their row.
func (r journalRow) applied() program.Applied {
	ref := program.Ref{Kind: r.Kind, In: r.Owner, Key: r.Key}
	back := map[program.Op]program.Op{program.Set: program.Set, program.Add: program.Remove, program.Remove: program.Add, program.Move: program.Move}
	return program.Applied{
		Change:  program.Change{Op: r.Op, Ref: ref, Field: r.Field, Value: raw(r.After), At: r.AfterAt},
		Inverse: program.Change{Op: back[r.Op], Ref: ref, Field: r.Field, Value: raw(r.Before), At: r.BeforeAt},
	}
}

// EditsAfter returns the edits after a revision, oldest first, with their changes.
func (s *Store) EditsAfter(ctx context.Context, line, revision int64) ([]journal.Edit, error) {
	return s.edits(ctx, line, `revision > ? ORDER BY revision`, revision)
}

// LatestEdits returns those edits before a revision (0: the newest) that are looked for, newest first.
func (s *Store) LatestEdits(ctx context.Context, line, before int64, limit int, sought journal.Sought) ([]journal.Edit, error) {
	if before <= 0 {
		before = 1 << 62
	}
	from, err := s.told(ctx, line)
	if err != nil {
		return nil, err
	}
	where, args := []string{`revision < ?`}, []any{before}
	add := func(is bool, condition string, with ...any) {
		if is {
			where, args = append(where, condition), append(args, with...)
		}
	}
	like := func(text string) string {
		return "%" + strings.NewReplacer(`\`, `\\`, `%`, `\%`, `_`, `\_`).Replace(text) + "%"
	}
	add(sought.By != "", `actor LIKE ? ESCAPE '\'`, like(sought.By))
	add(sought.Kind != "", `revision IN (SELECT revision FROM `+from.journal+` WHERE kind = ?)`, sought.Kind)
	add(sought.Field != "", `revision IN (SELECT revision FROM `+from.journal+` WHERE field = ? AND (? = '' OR kind = ?))`, sought.Field, sought.Kind, sought.Kind)
	var among []string
	var of []any
	for _, c := range sought.Among {
		among, of = append(among, `kind = ? AND (? = '' OR field = ?)`), append(of, c.Kind, c.Field, c.Field)
	}
	add(len(among) > 0, `revision IN (SELECT revision FROM `+from.journal+` WHERE `+strings.Join(among, " OR ")+`)`, of...)
	words := like(sought.Words)
	add(sought.Words != "", `(label LIKE ? ESCAPE '\' OR why LIKE ? ESCAPE '\' OR revision IN (SELECT revision FROM `+from.journal+` WHERE key LIKE ? ESCAPE '\' OR owner LIKE ? ESCAPE '\'))`, words, words, words, words)
	add(len(sought.Without) > 0, notIn, list(sought.Without))
	add(!sought.From.IsZero(), `at >= ?`, sought.From.UTC().Format(timeText))
	add(!sought.To.IsZero(), `at < ?`, sought.To.UTC().Format(timeText))
	return s.editsFrom(ctx, from, strings.Join(where, " AND ")+` ORDER BY revision DESC LIMIT ?`, append(args, limit)...)
}

// EditAt returns one edit.
func (s *Store) EditAt(ctx context.Context, line, revision int64) (journal.Edit, error) {
	edits, err := s.edits(ctx, line, `revision = ?`, revision)
	if err != nil || len(edits) == 0 {
		return journal.Edit{}, err
	}
	return edits[0], nil
}

// Explain keeps the reason that was given for an edit.
func (s *Store) Explain(ctx context.Context, line, revision int64, why string) error {
	_, err := s.db.ExecContext(ctx, `UPDATE edits SET why = ? WHERE line_id = ? AND revision = ?`, why, line, revision)
	return err
}

// EditOf returns the edit that a client's request of a name has made on this very line, and whether it made one.
func (s *Store) EditOf(ctx context.Context, line int64, client, request string) (journal.Edit, bool, error) {
	edits, err := s.edits(ctx, line, `line_id = ? AND client = ? AND request = ?`, line, client, request)
	if err != nil || len(edits) == 0 {
		return journal.Edit{}, false, err
	}
	return edits[0], true, nil
}

func (s *Store) edits(ctx context.Context, line int64, where string, args ...any) ([]journal.Edit, error) {
	from, err := s.told(ctx, line)
	if err != nil {
		return nil, err
	}
	return s.editsFrom(ctx, from, where, args...)
}

func (s *Store) editsFrom(ctx context.Context, from told, where string, args ...any) ([]journal.Edit, error) {
	var rows []editRow
	if err := s.db.SelectContext(ctx, &rows, `SELECT * FROM `+from.edits+` WHERE `+where, args...); err != nil || len(rows) == 0 {
		return nil, err
	}
	low, high := rows[0].Revision, rows[0].Revision
	for _, r := range rows {
		low, high = min(low, r.Revision), max(high, r.Revision)
	}
	var changes []journalRow
	if err := s.db.SelectContext(ctx, &changes, `
		SELECT * FROM `+from.journal+` WHERE revision BETWEEN ? AND ? ORDER BY revision, seq`, low, high); err != nil {
		return nil, err
	}
	formats := make(map[int64]int, len(rows))
	for _, r := range rows {
		formats[r.Revision] = r.Format
	}
	byRevision := map[int64][]program.Applied{}
	for _, c := range changes {
		format, wanted := formats[c.Revision]
		if !wanted {
			continue
		}
		a, err := upgrade(format, c.applied())
		if err != nil {
			return nil, err
		}
		byRevision[c.Revision] = append(byRevision[c.Revision], a)
	}
	edits := make([]journal.Edit, len(rows))
	for i, r := range rows {
		when, err := time.Parse(time.RFC3339Nano, r.At)
		if err != nil {
			return nil, err
		}
		edits[i] = journal.Edit{Revision: r.Revision, At: when, Actor: r.Actor, Client: r.Client, Label: r.Label, Sort: r.Sort, Changes: byRevision[r.Revision], Why: r.Why, UpTo: r.UpTo}
		if r.Undoes != nil {
			edits[i].Undoes = *r.Undoes
		}
		if r.Request != nil && r.Said != nil {
			edits[i].Request = *r.Request
			if err := json.Unmarshal([]byte(*r.Said), &edits[i].Said); err != nil {
				return nil, err
			}
		}
	}
	return edits, nil
}

// Heads lists the newest edits of one client without their changes, oldest first: what
// its undo goes by.
func (s *Store) Heads(ctx context.Context, line int64, client string, most int) ([]journal.Edit, error) {
	var rows []editRow
	err := s.db.SelectContext(ctx, &rows, `
		SELECT * FROM (SELECT * FROM edits WHERE line_id = ? AND client = ? ORDER BY revision DESC LIMIT ?) ORDER BY revision`, line, client, most)
	heads := make([]journal.Edit, len(rows))
	for i, r := range rows {
		heads[i] = journal.Edit{Revision: r.Revision, Actor: r.Actor, Client: r.Client, Label: r.Label, Sort: r.Sort}
	}
	return heads, err
}

// notIn keeps the revisions of a list out.
const notIn = `revision NOT IN (SELECT value FROM json_each(?))`

// list is a list of numbers as SQL reads it, however long it is.
func list(revisions []int64) string {
	text, _ := json.Marshal(append([]int64{}, revisions...)) // numbers
	return string(text)
}

// Undoings lists the edits of a line that take back all of another one of its, in their order.
func (s *Store) Undoings(ctx context.Context, line int64) ([]journal.Undoing, error) {
	from, err := s.told(ctx, line)
	if err != nil {
		return nil, err
	}
	all := []journal.Undoing{}
	err = s.db.SelectContext(ctx, &all, `SELECT revision, undoes FROM `+from.edits+` WHERE undoes IS NOT NULL ORDER BY revision`)
	return all, err
}

// LastSet returns the newest edit up to a revision that set a field of a thing, without some revisions, and whether there
// is one.
func (s *Store) LastSet(ctx context.Context, line, to int64, without []int64, ref program.Ref, field string) (journal.Edit, bool, error) {
	from, err := s.told(ctx, line)
	if err != nil {
		return journal.Edit{}, false, err
	}
	edits, err := s.editsFrom(ctx, from, `revision = (
		SELECT max(revision) FROM `+from.journal+` WHERE revision <= ? AND `+notIn+` AND op = 'set' AND kind = ? AND owner = ? AND key = ? AND field = ?)`,
		to, list(without), ref.Kind, ref.In, ref.Key, field)
	if err != nil || len(edits) == 0 {
		return journal.Edit{}, false, err
	}
	return edits[0], true, nil
}

// EditsOf returns the edits up to a revision that changed a thing, of an item also its needs, needs on it or
// comments on it, newest first, each with these changes alone.
func (s *Store) EditsOf(ctx context.Context, line, to int64, of program.Ref, limit int) ([]journal.Edit, error) {
	const newest = ` ORDER BY revision DESC LIMIT ?`
	from, err := s.told(ctx, line)
	if err != nil {
		return nil, err
	}
	if of.Kind != program.KindItem {
		edits, err := s.editsFrom(ctx, from, `revision IN (SELECT revision FROM `+from.journal+` WHERE revision <= ? AND kind = ? AND owner = ? AND key = ?)`+newest, to, of.Kind, of.In, of.Key, limit)
		return only(edits, func(ref program.Ref) bool { return ref == of }), err
	}
	item := of.Key
	edits, err := s.editsFrom(ctx, from, `revision IN (
		SELECT revision FROM `+from.journal+` WHERE revision <= ? AND (kind = 'item' AND key = ? OR kind = 'need' AND (owner = ? OR key = ?) OR kind = 'comment' AND owner = ?))`+newest,
		to, item, item, item, item, limit)
	return only(edits, func(ref program.Ref) bool {
		return ref == of || ref.Kind == program.KindNeed && (ref.In == item || ref.Key == item) || ref.Kind == program.KindComment && ref.In == item
	}), err
}

// only leaves edits the changes of some things alone.
func only(edits []journal.Edit, of func(program.Ref) bool) []journal.Edit {
	for i := range edits {
		edits[i].Changes = slices.DeleteFunc(edits[i].Changes, func(a program.Applied) bool { return !of(a.Change.Ref) })
	}
	return edits
}

// SizeChanges returns the changes after one revision and up to another that say how large items
// are and how far, and those that add and remove items, oldest first, with the revision of each.
func (s *Store) SizeChanges(ctx context.Context, line, after, to int64) (changes []program.Applied, revisions []int64, err error) {
	var rows []struct {
		journalRow
		Format int `db:"format"`
	}
	from, err := s.told(ctx, line)
	if err != nil {
		return nil, nil, err
	}
	err = s.db.SelectContext(ctx, &rows, `
		SELECT j.*, e.format FROM `+from.journal+` j JOIN `+from.edits+` e ON e.revision = j.revision
		WHERE j.revision > ? AND j.revision <= ? AND j.kind = 'item'
			AND (j.op = 'set' AND j.field IN ('size', 'state') OR j.op IN ('add', 'remove'))
		ORDER BY j.revision, j.seq`, after, to)
	changes, revisions = make([]program.Applied, len(rows)), make([]int64, len(rows))
	for i := range rows {
		if err == nil {
			revisions[i] = rows[i].Revision
			changes[i], err = upgrade(rows[i].Format, rows[i].applied())
		}
	}
	return changes, revisions, err
}

// GoneItems lists the keys of items that were ever removed from a line.
func (s *Store) GoneItems(ctx context.Context, line int64) ([]string, error) {
	from, err := s.told(ctx, line)
	if err != nil {
		return nil, err
	}
	var keys []string
	err = s.db.SelectContext(ctx, &keys, `SELECT DISTINCT key FROM `+from.journal+` WHERE kind = 'item' AND op = 'remove'`)
	return keys, err
}

// LastChanges returns when each item was last changed up to a revision, without some revisions, by an edit of its own, of
// a need that it has, or by what was said about it. What came with the program and was
// not changed since is missing.
func (s *Store) LastChanges(ctx context.Context, line, to int64, without []int64) (map[string]time.Time, error) {
	var rows []struct {
		Item string `db:"item"`
		At   string `db:"at"`
	}
	from, err := s.told(ctx, line)
	if err != nil {
		return nil, err
	}
	err = s.db.SelectContext(ctx, &rows, `
		SELECT j.item, e.at FROM (
			SELECT CASE kind WHEN 'item' THEN key ELSE owner END AS item, max(revision) AS revision
			FROM `+from.journal+` WHERE revision <= ? AND `+notIn+` AND kind IN ('item', 'need', 'comment') GROUP BY 1) j
		JOIN `+from.edits+` e ON e.revision = j.revision`, to, list(without))
	if err != nil {
		return nil, err
	}
	last := make(map[string]time.Time, len(rows))
	for _, r := range rows {
		if last[r.Item], err = time.Parse(time.RFC3339Nano, r.At); err != nil {
			return nil, err
		}
	}
	return last, nil
}

// LastWords returns who said the last word on each need up to a revision, without some revisions: asked for it, or answered. Of what came with
// the program nothing is said.
func (s *Store) LastWords(ctx context.Context, line, to int64, without []int64) ([]journal.Word, error) {
	var rows []struct {
		journal.Word
		When string `db:"at"`
	}
	from, err := s.told(ctx, line)
	if err != nil {
		return nil, err
	}
	err = s.db.SelectContext(ctx, &rows, `
		SELECT j.owner, j.key, e.actor, e.at FROM (
			SELECT owner, key, max(revision) AS revision FROM `+from.journal+`
			WHERE revision <= ? AND `+notIn+` AND kind = 'need' AND (op = 'add' OR field IN ('agreement', 'given', 'wanted')) GROUP BY owner, key) j
		JOIN `+from.edits+` e ON e.revision = j.revision`, to, list(without))
	words := make([]journal.Word, len(rows))
	for i, r := range rows {
		if err == nil {
			words[i] = r.Word
			words[i].At, err = time.Parse(time.RFC3339Nano, r.When)
		}
	}
	return words, err
}

// TrackedEdits returns the edits since a time, after one revision and up to another, the oldest first,
// by whom they are and with those of their changes that say what stands in iterations and how it goes:
// of some fields of items, of items that come and go, of iterations that
// are opened or closed. Edits without such changes are left out.
func (s *Store) TrackedEdits(ctx context.Context, line int64, since time.Time, after, to int64, fields []string) ([]journal.Edit, error) {
	from, err := s.told(ctx, line)
	if err != nil {
		return nil, err
	}
	query, values, err := sqlx.In(`
		SELECT j.*, e.at, e.actor, e.why, e.format FROM `+from.edits+` e JOIN `+from.journal+` j ON j.revision = e.revision
		WHERE e.at >= ? AND e.revision > ? AND e.revision <= ? AND (
			j.kind = 'item' AND (j.op = 'set' AND j.field IN (?) OR j.op IN ('add', 'remove'))
			OR j.kind = 'iteration' AND j.op = 'set' AND j.field = 'state')
		ORDER BY j.revision, j.seq`, since.UTC().Format(timeText), after, to, fields)
	if err != nil {
		return nil, err
	}
	return s.partsOfEdits(ctx, query, values)
}

// EditsOfKinds returns the edits after one revision and up to another, the oldest first, by whom they
// are and with those of their changes that are to things of some kinds. Edits without such changes
// are left out.
func (s *Store) EditsOfKinds(ctx context.Context, line, after, to int64, kinds []program.Kind) ([]journal.Edit, error) {
	from, err := s.told(ctx, line)
	if err != nil {
		return nil, err
	}
	query, values, err := sqlx.In(`
		SELECT j.*, e.at, e.actor, e.why, e.format FROM `+from.edits+` e JOIN `+from.journal+` j ON j.revision = e.revision
		WHERE e.revision > ? AND e.revision <= ? AND j.kind IN (?)
		ORDER BY j.revision, j.seq`, after, to, kinds)
	if err != nil {
		return nil, err
	}
	return s.partsOfEdits(ctx, query, values)
}

// partsOfEdits puts changes of the journal that a query finds, in their order, into their edits.
func (s *Store) partsOfEdits(ctx context.Context, query string, values []any) ([]journal.Edit, error) {
	var rows []struct {
		journalRow
		At     string `db:"at"`
		Actor  string `db:"actor"`
		Why    string `db:"why"`
		Format int    `db:"format"`
	}
	if err := s.db.SelectContext(ctx, &rows, query, values...); err != nil {
		return nil, err
	}
	var edits []journal.Edit
	for i := range rows {
		row := &rows[i]
		change, err := upgrade(row.Format, row.applied())
		if err != nil {
			return nil, err
		}
		if n := len(edits); n == 0 || edits[n-1].Revision != row.Revision {
			at, err := time.Parse(time.RFC3339Nano, row.At)
			if err != nil {
				return nil, err
			}
			edits = append(edits, journal.Edit{Revision: row.Revision, At: at, Actor: row.Actor, Why: row.Why})
		}
		last := &edits[len(edits)-1]
		last.Changes = append(last.Changes, change)
	}
	return edits, nil
}

package store

import (
	"context"
	"encoding/json"
	"fmt"

	"github.com/jmoiron/sqlx"

	"jantrel/core/program"
)

// writer writes rows of one program within a transaction.
type writer struct {
	ctx context.Context
	tx  *sqlx.Tx
	id  int64
	err error // the first that happened; after it nothing is written
}

// put writes rows, new or not.
func put[R any](w *writer, t table[R], rows ...R) {
	if w.err != nil || len(rows) == 0 {
		return
	}
	statement, err := w.tx.PrepareNamedContext(w.ctx, t.upsert())
	if err != nil {
		w.err = err
		return
	}
	defer func() { _ = statement.Close() }()
	for _, row := range rows {
		if _, err := statement.ExecContext(w.ctx, row); err != nil {
			w.err = fmt.Errorf("%s: %w", t.name, err)
			return
		}
	}
}

func (w *writer) exec(query string, args ...any) {
	if w.err == nil {
		_, w.err = w.tx.ExecContext(w.ctx, query, args...)
	}
}

// order writes the place of every row of a list whose order changed. keys are
// in order; column holds them.
func (w *writer) order(table, column, where string, keys []string, args ...any) {
	text, err := json.Marshal(keys)
	if err != nil {
		w.err = err
	}
	// Materialised, the list gets an index: of a table-valued function it would be
	// looked through once a row.
	w.exec(fmt.Sprintf(`WITH j(place, name) AS MATERIALIZED (SELECT key, value FROM json_each(?))
		UPDATE %s SET position = j.place FROM j
		WHERE program_id = ? AND %s = j.name AND position <> j.place %s`, table, column, where),
		append([]any{string(text), w.id}, args...)...)
}

func writeAll(ctx context.Context, tx *sqlx.Tx, id int64, p program.Program) error {
	w := &writer{ctx: ctx, tx: tx, id: id}
	everything := func(program.Kind, string, string) bool { return true }
	w.holidays(p)
	w.rows(p, everything, everything)
	return w.err
}

// writeTouched writes the rows of what the changes touched, deletes those of
// what is gone, and the places in lists whose order changed.
func writeTouched(ctx context.Context, tx *sqlx.Tx, id int64, p program.Program, changes []program.Applied) error {
	w := &writer{ctx: ctx, tx: tx, id: id}
	touched, whole := map[program.Ref]bool{}, map[program.Ref]bool{}
	reordered := map[program.Ref]bool{}
	for _, c := range changes {
		ref := c.Change.Ref
		touched[ref] = true
		if c.Change.Op == program.Add || c.Change.Op == program.Remove {
			whole[ref] = true
		}
		if c.Change.Op != program.Set {
			reordered[listOf(ref)] = true
		}
	}
	for ref := range whole {
		w.remove(ref) // what still exists is written anew below, with all it holds
	}
	if touched[program.Ref{Kind: program.KindProgram}] {
		w.program(programRowOf(p))
		w.holidays(p)
	}
	has := func(set map[program.Ref]bool) func(program.Kind, string, string) bool {
		return func(kind program.Kind, in, key string) bool { return set[program.Ref{Kind: kind, In: in, Key: key}] }
	}
	w.rows(p, has(touched), has(whole))
	for list := range reordered {
		w.reorder(p, list)
	}
	return w.err
}

// listOf names the list that a thing stands in.
func listOf(ref program.Ref) program.Ref {
	if ref.Kind == program.KindIteration {
		return program.Ref{Kind: ref.Kind, In: ref.In}
	}
	return program.Ref{Kind: ref.Kind}
}

// program writes what a program says of itself.
func (w *writer) program(row programRow) {
	row.ID = w.id
	if w.err == nil {
		_, w.err = w.tx.NamedExecContext(w.ctx, `UPDATE programs SET name = :name, today = :today, same_iteration = :same_iteration, fill_to = :fill_to,
			holiday_calendar = :holiday_calendar, phase_templates = :phase_templates, ready = :ready, mix = :mix,
			patterns = :patterns, repeats = :repeats, views = :views WHERE id = :id`, row)
	}
}

func (w *writer) holidays(p program.Program) {
	w.exec(`DELETE FROM holidays WHERE program_id = ?`, w.id)
	for i, h := range p.Holidays {
		put(w, holidays, holidayRow{at{w.id, i}, day(h.Date), h.Name, h.Teams})
	}
}

// rows writes each thing of p for which touched holds, with the short lists that
// belong to it; of teams for which whole holds the iterations too.
func (w *writer) rows(p program.Program, touched, whole func(kind program.Kind, in, key string) bool) {
	for i, c := range p.Cadences {
		if touched(program.KindCadence, "", c.Key) {
			put(w, cadences, cadenceRow{at{w.id, i}, c.Key, day(c.Start), c.LengthDays, c.Name, c.Ahead, c.Naming, c.CarryOver})
		}
	}
	for i, person := range p.People {
		if touched(program.KindPerson, "", person.Key) {
			w.person(i, person)
		}
	}
	for i, t := range p.Teams {
		if touched(program.KindTeam, "", t.Key) {
			w.team(i, t)
		}
		all := whole(program.KindTeam, "", t.Key)
		var rows []iterationRow
		for j, it := range t.Iterations {
			if all || touched(program.KindIteration, t.Key, it.Key) {
				rows = append(rows, iterationRowOf(at{w.id, j}, t.Key, it))
			}
		}
		put(w, iterations, rows...)
	}
	for i, r := range p.Releases {
		if touched(program.KindRelease, "", r.Key) {
			w.release(i, r)
		}
	}
	for i, m := range p.Milestones {
		if touched(program.KindMilestone, "", m.Key) {
			put(w, milestones, milestoneRow{at{w.id, i}, m.Key, m.Name, day(m.Date), m.Releases, m.Needs})
		}
	}
	var itemRows []itemRow
	for i := range p.Items {
		if touched(program.KindItem, "", p.Items[i].Key) {
			itemRows = append(itemRows, itemRowOf(at{w.id, i}, p.Items[i]))
		}
	}
	put(w, items, itemRows...)
	var needRows []needRow
	for i, n := range p.Needs {
		if touched(program.KindNeed, n.Item, n.Needs) {
			needRows = append(needRows, needRow{at{w.id, i}, n.Item, n.Needs, n.LagDays, n.Agreement})
		}
	}
	put(w, needs, needRows...)
	for i, c := range p.Comments {
		if touched(program.KindComment, c.Item, c.Key) {
			put(w, comments, commentRow{at{w.id, i}, c.Key, c.Item, c.By, c.At, c.Text})
		}
	}
}

func (w *writer) team(i int, t program.Team) {
	put(w, teams, teamRow{at{w.id, i}, t.Key, t.Name, t.Unit, t.Cadence, t.Velocity, t.Focus, t.FillTo, t.Lookback})
	w.exec(`DELETE FROM members WHERE program_id = ? AND team = ?`, w.id, t.Key)
	for j, m := range t.Members {
		put(w, members, memberRow{at{w.id, j}, t.Key, m.Person, m.Share, m.Roles, day(m.From), day(m.To)})
	}
}

func (w *writer) person(i int, person program.Person) {
	put(w, people, personRow{at{w.id, i}, person.Key, person.Name, person.HoursPerDay, person.Weekdays, person.OpenSeat, person.Roles, person.Calendar})
	w.exec(`DELETE FROM days_off WHERE program_id = ? AND person = ?`, w.id, person.Key)
	for j, off := range person.DaysOff {
		put(w, daysOff, dayOffRow{at{w.id, j}, person.Key, day(off.From), day(off.To), off.Name, off.UID})
	}
}

func (w *writer) release(i int, r program.Release) {
	put(w, releases, releaseRow{at{w.id, i}, r.Key, r.Name, day(r.Start), day(r.Due), r.Description, r.Documents})
	w.exec(`DELETE FROM phases WHERE program_id = ? AND release = ?`, w.id, r.Key)
	for j, phase := range r.Phases {
		put(w, phases, phaseRow{at{w.id, j}, r.Key, phase.Key, phase.Name, day(phase.Start), day(phase.End)})
	}
}

// remove deletes the rows of one thing and of what belongs to it.
func (w *writer) remove(ref program.Ref) {
	switch ref.Kind {
	case program.KindCadence:
		w.exec(`DELETE FROM cadences WHERE program_id = ? AND key = ?`, w.id, ref.Key)
	case program.KindTeam:
		w.exec(`DELETE FROM teams WHERE program_id = ? AND key = ?`, w.id, ref.Key)
		w.exec(`DELETE FROM iterations WHERE program_id = ? AND team = ?`, w.id, ref.Key)
		w.exec(`DELETE FROM members WHERE program_id = ? AND team = ?`, w.id, ref.Key)
	case program.KindIteration:
		w.exec(`DELETE FROM iterations WHERE program_id = ? AND team = ? AND key = ?`, w.id, ref.In, ref.Key)
	case program.KindPerson:
		w.exec(`DELETE FROM people WHERE program_id = ? AND key = ?`, w.id, ref.Key)
		w.exec(`DELETE FROM days_off WHERE program_id = ? AND person = ?`, w.id, ref.Key)
	case program.KindRelease:
		w.exec(`DELETE FROM releases WHERE program_id = ? AND key = ?`, w.id, ref.Key)
		w.exec(`DELETE FROM phases WHERE program_id = ? AND release = ?`, w.id, ref.Key)
	case program.KindMilestone:
		w.exec(`DELETE FROM milestones WHERE program_id = ? AND key = ?`, w.id, ref.Key)
	case program.KindItem:
		w.exec(`DELETE FROM items WHERE program_id = ? AND key = ?`, w.id, ref.Key)
	case program.KindNeed:
		w.exec(`DELETE FROM needs WHERE program_id = ? AND item = ? AND needs = ?`, w.id, ref.In, ref.Key)
	case program.KindComment:
		w.exec(`DELETE FROM comments WHERE program_id = ? AND key = ?`, w.id, ref.Key)
	}
}

// reorder writes the places of one list.
func (w *writer) reorder(p program.Program, list program.Ref) {
	switch list.Kind {
	case program.KindCadence:
		w.order("cadences", "cadences.key", "", keysOf(p.Cadences, func(c program.Cadence) string { return c.Key }))
	case program.KindTeam:
		w.order("teams", "teams.key", "", keysOf(p.Teams, func(t program.Team) string { return t.Key }))
	case program.KindIteration:
		for _, t := range p.Teams {
			if t.Key == list.In {
				w.order("iterations", "iterations.key", "AND team = ?", keysOf(t.Iterations, func(it program.Iteration) string { return it.Key }), t.Key)
			}
		}
	case program.KindPerson:
		w.order("people", "people.key", "", keysOf(p.People, func(x program.Person) string { return x.Key }))
	case program.KindRelease:
		w.order("releases", "releases.key", "", keysOf(p.Releases, func(x program.Release) string { return x.Key }))
	case program.KindMilestone:
		w.order("milestones", "milestones.key", "", keysOf(p.Milestones, func(x program.Milestone) string { return x.Key }))
	case program.KindItem:
		w.order("items", "items.key", "", keysOf(p.Items, func(x program.Item) string { return x.Key }))
	case program.KindNeed:
		w.order("needs", "json_array(item, needs)", "", keysOf(p.Needs, func(n program.Need) string {
			pair, _ := json.Marshal([]string{n.Item, n.Needs})
			return string(pair)
		}))
	case program.KindComment:
		w.order("comments", "comments.key", "", keysOf(p.Comments, func(c program.Comment) string { return c.Key }))
	}
}

func keysOf[T any](list []T, key func(T) string) []string {
	keys := make([]string, len(list))
	for i, x := range list {
		keys[i] = key(x)
	}
	return keys
}

package store

import (
	"context"
	"database/sql"
	"errors"

	"github.com/jmoiron/sqlx"

	"jantrel/core/program"
)

// Load reads a program and its revision.
func (s *Store) Load(ctx context.Context, id int64) (program.Program, int64, error) {
	r := &reader{ctx: ctx, id: id}
	var row programRow
	tx, err := s.db.BeginTxx(ctx, &sql.TxOptions{ReadOnly: true})
	if err != nil {
		return program.Program{}, 0, err
	}
	defer func() { _ = tx.Rollback() }()
	r.tx = tx
	if err := tx.GetContext(ctx, &row, `SELECT * FROM programs WHERE id = ?`, id); errors.Is(err, sql.ErrNoRows) {
		return program.Program{}, 0, ErrNotFound
	} else if err != nil {
		return program.Program{}, 0, err
	}
	p := row.program()
	r.calendar(&p)
	r.teams(&p)
	r.work(&p)
	return p, row.Revision, r.err
}

type reader struct {
	ctx context.Context
	tx  *sqlx.Tx
	id  int64
	err error
}

// all reads the rows of a table in order.
func all[R any](r *reader, t table[R]) []R {
	var rows []R
	if r.err == nil {
		r.err = r.tx.SelectContext(r.ctx, &rows, `SELECT * FROM `+t.name+` WHERE program_id = ? ORDER BY position`, r.id)
	}
	return rows
}

func (r *reader) calendar(p *program.Program) {
	for _, h := range all(r, holidays) {
		p.Holidays = append(p.Holidays, program.Holiday{Date: program.Date(h.Date), Name: h.Name, Teams: h.Teams})
	}
	for _, c := range all(r, cadences) {
		p.Cadences = append(p.Cadences, program.Cadence{Key: c.Key, Start: program.Date(c.Start), LengthDays: c.LengthDays,
			Name: c.Name, Ahead: c.Ahead, Naming: c.Naming, CarryOver: c.CarryOver})
	}
	off := map[string][]program.DayOff{}
	for _, d := range all(r, daysOff) {
		off[d.Person] = append(off[d.Person], program.DayOff{From: program.Date(d.From), To: program.Date(d.To), Name: d.Name, UID: d.UID})
	}
	for _, x := range all(r, people) {
		p.People = append(p.People, program.Person{Key: x.Key, Name: x.Name, HoursPerDay: x.HoursPerDay, Weekdays: x.Weekdays, DaysOff: off[x.Key], OpenSeat: x.OpenSeat,
			Roles: x.Roles, Calendar: x.Calendar})
	}
}

func (r *reader) teams(p *program.Program) {
	its := map[string][]program.Iteration{}
	for _, it := range all(r, iterations) {
		its[it.Team] = append(its[it.Team], it.iteration())
	}
	seats := map[string][]program.Member{}
	for _, m := range all(r, members) {
		seats[m.Team] = append(seats[m.Team], program.Member{Person: m.Person, Share: m.Share, Roles: m.Roles, From: program.Date(m.From), To: program.Date(m.To)})
	}
	for _, t := range all(r, teams) {
		p.Teams = append(p.Teams, program.Team{Key: t.Key, Name: t.Name, Unit: t.Unit, Cadence: t.Cadence, Velocity: t.Velocity, Focus: t.Focus, FillTo: t.FillTo, Lookback: t.Lookback,
			Iterations: its[t.Key], Members: seats[t.Key]})
	}
}

func (r *reader) work(p *program.Program) {
	phasesOf := map[string][]program.Phase{}
	for _, x := range all(r, phases) {
		phasesOf[x.Release] = append(phasesOf[x.Release], program.Phase{Key: x.Key, Name: x.Name, Start: program.Date(x.Start), End: program.Date(x.End)})
	}
	for _, x := range all(r, releases) {
		p.Releases = append(p.Releases, program.Release{Key: x.Key, Name: x.Name, Start: program.Date(x.Start), Due: program.Date(x.Due),
			Description: x.Description, Phases: phasesOf[x.Key], Documents: x.Documents})
	}
	for _, m := range all(r, milestones) {
		p.Milestones = append(p.Milestones, program.Milestone{Key: m.Key, Name: m.Name, Date: program.Date(m.Date), Releases: m.Releases, Needs: m.Needs})
	}
	for _, row := range all(r, items) {
		p.Items = append(p.Items, row.item())
	}
	for _, n := range all(r, needs) {
		p.Needs = append(p.Needs, program.Need{Item: n.Item, Needs: n.Needs, LagDays: n.LagDays, Agreement: n.Agreement})
	}
	for _, c := range all(r, comments) {
		p.Comments = append(p.Comments, program.Comment{Key: c.Key, Item: c.Item, By: c.By, At: c.At, Text: c.Text})
	}
}

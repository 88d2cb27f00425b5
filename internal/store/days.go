package store

import (
	"context"
	"database/sql"
	"errors"

	"jantrel/core/program"
	"jantrel/internal/journal"
)

// ForecastDays lists what is kept of a line from a day on, by the rules of playing that are asked for, by day.
func (s *Store) ForecastDays(ctx context.Context, line int64, from program.Date, rules int) ([]journal.ForecastDay, error) {
	list := []journal.ForecastDay{}
	err := s.db.SelectContext(ctx, &list, `SELECT day, body FROM forecast_days WHERE line_id = ? AND day >= ? AND rules = ? ORDER BY day`, line, int64(from), rules)
	return list, err
}

// ForecastDay is what is kept of a line and a day, by the rules of playing that are asked for, and whether something is.
func (s *Store) ForecastDay(ctx context.Context, line int64, day program.Date, rules int) (body string, known bool, err error) {
	err = s.db.GetContext(ctx, &body, `SELECT body FROM forecast_days WHERE line_id = ? AND day = ? AND rules = ?`, line, int64(day), rules)
	if errors.Is(err, sql.ErrNoRows) {
		return "", false, nil
	}
	return body, err == nil, err
}

// KeepForecastDay keeps what the forecast of a line said at the end of a day, in place of what other rules said.
func (s *Store) KeepForecastDay(ctx context.Context, line int64, day journal.ForecastDay, rules int) error {
	_, err := s.db.ExecContext(ctx, `INSERT INTO forecast_days (line_id, day, rules, body) VALUES (?, ?, ?, ?)
		ON CONFLICT (line_id, day) DO UPDATE SET rules = excluded.rules, body = excluded.body`, line, int64(day.Day), rules, day.Body)
	return err
}

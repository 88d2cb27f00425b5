package store

import "context"

// Fill leaves no room for anything more in the database, as a full disk does.
func (s *Store) Fill(ctx context.Context) error {
	var pages int // no fewer than there are; of the one connection that writes
	return s.db.writer.GetContext(ctx, &pages, `PRAGMA max_page_count = 1`)
}

// Empty makes room again.
func (s *Store) Empty(ctx context.Context) error {
	var most int
	return s.db.writer.GetContext(ctx, &most, `PRAGMA max_page_count = 1000000`)
}

// Later makes the database look as if a later version had made it.
func (s *Store) Later(ctx context.Context) error {
	_, err := s.db.ExecContext(ctx, `INSERT INTO goose_db_version (version_id, is_applied) VALUES (999, 1)`)
	return err
}

// Damage alters a byte of each file of an item; their lengths stay.
func (s *Store) Damage(ctx context.Context) error {
	_, err := s.db.ExecContext(ctx, `UPDATE attachments SET content = CAST(x'00' || substr(content, 2) AS BLOB)`)
	return err
}

// TrimAudit keeps so many entries of an event.
func (s *Store) TrimAudit(ctx context.Context, event Event, kept int) error {
	return s.trimAudit(ctx, event, kept)
}

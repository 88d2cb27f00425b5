package store

import (
	"context"
	"crypto/sha256"
	"database/sql"
	"encoding/hex"
	"encoding/json"
	"errors"

	"jantrel/core/program"
)

// What is kept beside a program and is no part of its document: files of items, and
// the views that only their owners see.

// Attachment is a file of an item.
type Attachment struct {
	ID      int64  `db:"id" json:"id"`
	Item    string `db:"item" json:"item"`
	Name    string `db:"name" json:"name"`
	Type    string `db:"type" json:"type"`
	Size    int64  `db:"size" json:"size" doc:"In bytes"`
	AddedBy string `db:"added_by" json:"addedBy"`
	AddedAt string `db:"added_at" json:"addedAt"`
}

// ErrNoAttachment says that there is no such file.
var ErrNoAttachment = errors.New("there is no such file; it may have been removed")

const attachmentColumns = `id, item, name, type, size, added_by, added_at`

// Attachments lists the files of an item, oldest first.
func (s *Store) Attachments(ctx context.Context, id int64, item string) ([]Attachment, error) {
	list := []Attachment{}
	err := s.db.SelectContext(ctx, &list, `SELECT `+attachmentColumns+` FROM attachments WHERE program_id = ? AND item = ? ORDER BY id`, id, item)
	return list, err
}

// AddAttachment stores a file of an item and returns it with its id.
func (s *Store) AddAttachment(ctx context.Context, id int64, a Attachment, content []byte) (Attachment, error) {
	a.Size = int64(len(content))
	result, err := s.db.ExecContext(ctx, `
		INSERT INTO attachments (program_id, item, name, type, size, added_by, added_at, content, sha256) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)`,
		id, a.Item, a.Name, a.Type, a.Size, a.AddedBy, a.AddedAt, content, hashOf(content))
	if err != nil {
		return Attachment{}, err
	}
	a.ID, err = result.LastInsertId()
	return a, err
}

// hashOf is the SHA-256 of what a file holds, in hexadecimal.
func hashOf(content []byte) string {
	sum := sha256.Sum256(content)
	return hex.EncodeToString(sum[:])
}

// Attachment returns a file and what is in it.
func (s *Store) Attachment(ctx context.Context, id, attachment int64) (Attachment, []byte, error) {
	row, err := one[struct {
		Attachment
		Content []byte `db:"content"`
	}](ctx, s, ErrNoAttachment, `SELECT `+attachmentColumns+`, content FROM attachments WHERE program_id = ? AND id = ?`, id, attachment)
	return row.Attachment, row.Content, err
}

// FilesOfGone lists the files of items that a program does not have any more, by item, oldest first.
func (s *Store) FilesOfGone(ctx context.Context, id int64) ([]Attachment, error) {
	list := []Attachment{}
	err := s.db.SelectContext(ctx, &list, `SELECT `+attachmentColumns+` FROM attachments WHERE program_id = ? AND item NOT IN (
		SELECT t.key FROM things t JOIN lines l ON l.id = t.line_id WHERE l.program_id = ? AND l.base_line IS NULL AND t.kind = 'item') ORDER BY item, id`, id, id)
	return list, err
}

// RemoveAttachment deletes a file for good.
func (s *Store) RemoveAttachment(ctx context.Context, id, attachment int64) error {
	_, err := s.db.ExecContext(ctx, `DELETE FROM attachments WHERE program_id = ? AND id = ?`, id, attachment)
	return err
}

// AttachmentsSize is how many bytes the files of a program take.
func (s *Store) AttachmentsSize(ctx context.Context, id int64) (size int64, err error) {
	err = s.db.GetContext(ctx, &size, `SELECT coalesce(sum(size), 0) FROM attachments WHERE program_id = ?`, id)
	return size, err
}

// PrivateViews returns the views that an account keeps for itself in a program.
func (s *Store) PrivateViews(ctx context.Context, id, account int64) ([]program.View, error) {
	views := []program.View{}
	var text string
	err := s.db.GetContext(ctx, &text, `SELECT views FROM private_views WHERE program_id = ? AND account_id = ?`, id, account)
	if errors.Is(err, sql.ErrNoRows) {
		return views, nil
	}
	if err != nil {
		return nil, err
	}
	return views, json.Unmarshal([]byte(text), &views)
}

// KeepPrivateViews replaces the views that an account keeps for itself.
func (s *Store) KeepPrivateViews(ctx context.Context, id, account int64, views []program.View) error {
	text, err := json.Marshal(views)
	if err != nil {
		return err
	}
	_, err = s.db.ExecContext(ctx, `
		INSERT INTO private_views (program_id, account_id, views) VALUES (?, ?, ?)
		ON CONFLICT (account_id, program_id) DO UPDATE SET views = excluded.views`, id, account, string(text))
	return err
}

// Export is a file that somebody makes again and again, with its choices.
type Export struct {
	Name    string   `json:"name" maxLength:"200"`
	File    string   `json:"file" maxLength:"40" doc:"Which file"`
	Way     string   `json:"way" maxLength:"40" doc:"In which format, and by what"`
	Ago     int      `json:"ago,omitempty" minimum:"-3660" maximum:"3660" doc:"Of one about days: from so many days ago"`
	Ahead   int      `json:"ahead,omitempty" minimum:"-3660" maximum:"3660" doc:"To so many days ahead"`
	Release string   `json:"release,omitempty" maxLength:"64"`
	What    []string `json:"what,omitempty" maxItems:"10" doc:"What it holds"`
}

// Exports returns the files that an account keeps for itself in a program.
func (s *Store) Exports(ctx context.Context, id, account int64) ([]Export, error) {
	exports := []Export{}
	var text string
	err := s.db.GetContext(ctx, &text, `SELECT exports FROM private_views WHERE program_id = ? AND account_id = ?`, id, account)
	if errors.Is(err, sql.ErrNoRows) {
		return exports, nil
	}
	if err == nil {
		err = json.Unmarshal([]byte(text), &exports)
	}
	return exports, err
}

// KeepExports replaces the files that an account keeps for itself.
func (s *Store) KeepExports(ctx context.Context, id, account int64, exports []Export) error {
	text, err := json.Marshal(exports)
	if err != nil {
		return err
	}
	_, err = s.db.ExecContext(ctx, `
		INSERT INTO private_views (program_id, account_id, views, exports) VALUES (?, ?, '[]', ?)
		ON CONFLICT (account_id, program_id) DO UPDATE SET exports = excluded.exports`, id, account, string(text))
	return err
}

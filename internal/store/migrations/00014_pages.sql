-- +goose Up
-- Pages of charts are kept beside a program: what they show is the plan, they are no part of it.
CREATE TABLE pages (
  id         INTEGER PRIMARY KEY,
  program_id INTEGER NOT NULL REFERENCES programs(id) ON DELETE CASCADE,
  owner_id   INTEGER NOT NULL REFERENCES accounts(id) ON DELETE CASCADE,
  owner      TEXT    NOT NULL,             -- their name, for people
  shared     TEXT    NOT NULL DEFAULT '',  -- whom it is for beside its owner: '' nobody, 'read', 'edit'
  people     TEXT    NOT NULL DEFAULT '[]', -- accounts that it is shared with; none: all of the program
  version    INTEGER NOT NULL DEFAULT 1,
  changed_by TEXT    NOT NULL,
  changed_at TEXT    NOT NULL,
  body       TEXT    NOT NULL              -- name, note and cards
);
CREATE INDEX pages_of_program ON pages(program_id);

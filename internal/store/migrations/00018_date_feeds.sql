-- +goose Up
-- Private addresses at which a calendar fetches the dates of a program, until they are ended. Only a hash of the secret is kept.
CREATE TABLE date_feeds (
  id         INTEGER PRIMARY KEY,
  program_id INTEGER NOT NULL REFERENCES programs(id) ON DELETE CASCADE,
  secret     TEXT    NOT NULL UNIQUE,
  maker_id   INTEGER NOT NULL REFERENCES accounts(id) ON DELETE CASCADE, -- whose it is
  made_at    TEXT    NOT NULL,
  read_at    TEXT    NOT NULL DEFAULT '', -- last; empty: never
  what       TEXT    NOT NULL             -- what it holds, a list
);
CREATE INDEX date_feeds_of_maker ON date_feeds(maker_id, program_id);

-- +goose Up
-- Links by which a page is shown on a screen without an account, until they are ended. Only a hash of the secret is kept.
CREATE TABLE screens (
  id         INTEGER PRIMARY KEY,
  program_id INTEGER NOT NULL REFERENCES programs(id) ON DELETE CASCADE,
  page_id    INTEGER NOT NULL REFERENCES pages(id) ON DELETE CASCADE,
  secret     TEXT    NOT NULL UNIQUE,
  maker_id   INTEGER NOT NULL REFERENCES accounts(id) ON DELETE CASCADE,
  maker      TEXT    NOT NULL,
  made_at    TEXT    NOT NULL,
  seen_at    TEXT    NOT NULL DEFAULT '', -- when a screen last asked; empty: never
  body       TEXT    NOT NULL             -- which cards, how they turn
);
CREATE INDEX screens_of_page ON screens(page_id);

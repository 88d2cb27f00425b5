-- +goose Up
-- Briefs are kept beside a program. A draft is written anew whenever it is read; a published one stands as it was.
CREATE TABLE briefs (
  id           INTEGER PRIMARY KEY,
  program_id   INTEGER NOT NULL REFERENCES programs(id) ON DELETE CASCADE,
  number       INTEGER NOT NULL DEFAULT 0, -- of the program's published ones; 0: a draft
  version      INTEGER NOT NULL DEFAULT 1,
  author       TEXT    NOT NULL,           -- who wrote it last, or published it
  changed_at   TEXT    NOT NULL,
  body         TEXT    NOT NULL,           -- its sections
  revision     INTEGER NOT NULL DEFAULT 0, -- of the live plan that it was published from
  day          INTEGER NOT NULL DEFAULT 0, -- on which that was seen
  written      TEXT    NOT NULL DEFAULT '' -- as it was published
);
CREATE INDEX briefs_of_program ON briefs(program_id);

-- Links by which something can be read without an account, until they are ended. Only a hash of the secret is kept.
CREATE TABLE links (
  id         INTEGER PRIMARY KEY,
  program_id INTEGER NOT NULL REFERENCES programs(id) ON DELETE CASCADE,
  brief_id   INTEGER NOT NULL REFERENCES briefs(id) ON DELETE CASCADE,
  secret     TEXT    NOT NULL UNIQUE,
  maker_id   INTEGER NOT NULL REFERENCES accounts(id) ON DELETE CASCADE,
  maker      TEXT    NOT NULL,
  made_at    TEXT    NOT NULL,
  read_at    TEXT    NOT NULL DEFAULT ''  -- last; empty: never
);
CREATE INDEX links_of_brief ON links(brief_id);

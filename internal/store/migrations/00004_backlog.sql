-- +goose Up
ALTER TABLE programs ADD COLUMN ready TEXT NOT NULL DEFAULT '';
ALTER TABLE programs ADD COLUMN mix TEXT NOT NULL DEFAULT '';
ALTER TABLE programs ADD COLUMN patterns TEXT NOT NULL DEFAULT '';
ALTER TABLE programs ADD COLUMN repeats TEXT NOT NULL DEFAULT '';
ALTER TABLE programs ADD COLUMN views TEXT NOT NULL DEFAULT '';

ALTER TABLE items ADD COLUMN description TEXT NOT NULL DEFAULT '';
ALTER TABLE items ADD COLUMN tasks TEXT NOT NULL DEFAULT '';
ALTER TABLE items ADD COLUMN checks TEXT NOT NULL DEFAULT '';
ALTER TABLE items ADD COLUMN links TEXT NOT NULL DEFAULT '';
ALTER TABLE items ADD COLUMN found_in TEXT NOT NULL DEFAULT '';
ALTER TABLE items ADD COLUMN fixed_in TEXT NOT NULL DEFAULT '';

CREATE TABLE comments (
  program_id INTEGER NOT NULL REFERENCES programs(id) ON DELETE CASCADE,
  key        TEXT    NOT NULL,
  position   INTEGER NOT NULL,
  item       TEXT    NOT NULL,
  by         TEXT    NOT NULL,
  at         TEXT    NOT NULL,
  text       TEXT    NOT NULL,
  PRIMARY KEY (program_id, key)
);

-- Files of items. They are no part of the program document; those of a removed
-- item stay, so that undoing the removal brings them back.
CREATE TABLE attachments (
  id         INTEGER PRIMARY KEY,
  program_id INTEGER NOT NULL REFERENCES programs(id) ON DELETE CASCADE,
  item       TEXT    NOT NULL,
  name       TEXT    NOT NULL,
  type       TEXT    NOT NULL,
  size       INTEGER NOT NULL,
  added_by   TEXT    NOT NULL,
  added_at   TEXT    NOT NULL,
  content    BLOB    NOT NULL
);
CREATE INDEX attachments_of_item ON attachments(program_id, item);

-- Lists of the backlog that only their owner sees, as JSON.
CREATE TABLE private_views (
  account_id INTEGER NOT NULL REFERENCES accounts(id) ON DELETE CASCADE,
  program_id INTEGER NOT NULL REFERENCES programs(id) ON DELETE CASCADE,
  views      TEXT    NOT NULL,
  PRIMARY KEY (account_id, program_id)
);

-- History and "changed since" ask for the entries of one thing.
CREATE INDEX journal_of_thing ON journal(program_id, kind, key);

-- +goose Down
DROP INDEX journal_of_thing;
DROP TABLE private_views;
DROP TABLE attachments;
DROP TABLE comments;
ALTER TABLE items DROP COLUMN fixed_in;
ALTER TABLE items DROP COLUMN found_in;
ALTER TABLE items DROP COLUMN links;
ALTER TABLE items DROP COLUMN checks;
ALTER TABLE items DROP COLUMN tasks;
ALTER TABLE items DROP COLUMN description;
ALTER TABLE programs DROP COLUMN views;
ALTER TABLE programs DROP COLUMN repeats;
ALTER TABLE programs DROP COLUMN patterns;
ALTER TABLE programs DROP COLUMN mix;
ALTER TABLE programs DROP COLUMN ready;

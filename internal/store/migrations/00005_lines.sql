-- +goose Up
-- A line is what a journal belongs to: the live plan of a program, or a what-if copy.
CREATE TABLE lines (
  id            INTEGER PRIMARY KEY,
  program_id    INTEGER NOT NULL REFERENCES programs(id) ON DELETE CASCADE,
  name          TEXT    NOT NULL DEFAULT '', -- of a copy
  base_line     INTEGER,                     -- the line that it was copied from; none: the live plan
  base_revision INTEGER,
  revision      INTEGER NOT NULL DEFAULT 0
);
CREATE INDEX lines_of_program ON lines(program_id);
INSERT INTO lines (id, program_id, revision) SELECT id, id, revision FROM programs;

-- Everything that a line holds, a row a thing: its body is the thing's JSON as in the
-- program document, but for things inside it that have rows of their own.
CREATE TABLE things (
  line_id  INTEGER NOT NULL REFERENCES lines(id) ON DELETE CASCADE,
  kind     TEXT    NOT NULL,
  owner    TEXT    NOT NULL,
  key      TEXT    NOT NULL,
  position INTEGER NOT NULL,
  body     TEXT    NOT NULL,
  PRIMARY KEY (line_id, kind, owner, key)
);

-- An edit is a list of changes that was applied whole, as one revision. Its format is
-- how the values of its changes are written.
CREATE TABLE line_edits (
  line_id  INTEGER NOT NULL REFERENCES lines(id) ON DELETE CASCADE,
  revision INTEGER NOT NULL,
  at       TEXT    NOT NULL,
  actor    TEXT    NOT NULL,
  client   TEXT    NOT NULL,
  label    TEXT    NOT NULL,
  sort     TEXT    NOT NULL CHECK (sort IN ('edit', 'undo', 'redo')),
  format   INTEGER NOT NULL DEFAULT 1,
  changes  INTEGER NOT NULL DEFAULT 0, -- how many
  PRIMARY KEY (line_id, revision)
);
INSERT INTO line_edits (line_id, revision, at, actor, client, label, sort, changes)
  SELECT program_id, revision, at, actor, client, label, sort,
    (SELECT count(*) FROM journal j WHERE j.program_id = edits.program_id AND j.revision = edits.revision)
  FROM edits;

-- The journal: one row a change, with what was before and after.
CREATE TABLE line_journal (
  line_id      INTEGER NOT NULL,
  revision     INTEGER NOT NULL,
  seq          INTEGER NOT NULL,
  op           TEXT    NOT NULL,
  kind         TEXT    NOT NULL,
  owner        TEXT    NOT NULL,
  key          TEXT    NOT NULL,
  field        TEXT    NOT NULL,
  before_value TEXT,
  after_value  TEXT,
  before_at    INTEGER,
  after_at     INTEGER,
  PRIMARY KEY (line_id, revision, seq),
  FOREIGN KEY (line_id, revision) REFERENCES line_edits(line_id, revision) ON DELETE CASCADE
);
INSERT INTO line_journal SELECT program_id, revision, seq, op, kind, owner, key, field, before_value, after_value, before_at, after_at FROM journal;
DROP TABLE journal;
DROP TABLE edits;
ALTER TABLE line_edits RENAME TO edits;
ALTER TABLE line_journal RENAME TO journal;
CREATE INDEX journal_of_thing ON journal(line_id, kind, key);
CREATE INDEX edits_of_client ON edits(line_id, client, revision);
CREATE INDEX edits_by_time ON edits(line_id, at);

-- A line as it was at some of its revisions, compressed: from there the journal leads
-- to the others.
CREATE TABLE checkpoints (
  line_id  INTEGER NOT NULL REFERENCES lines(id) ON DELETE CASCADE,
  revision INTEGER NOT NULL,
  body     BLOB    NOT NULL,
  PRIMARY KEY (line_id, revision)
);

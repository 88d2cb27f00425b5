-- +goose Up
CREATE TABLE programs (
  id             INTEGER PRIMARY KEY,
  name           TEXT    NOT NULL,
  today          TEXT    NOT NULL DEFAULT '',
  same_iteration TEXT    NOT NULL,
  fill_to        REAL    NOT NULL,
  revision       INTEGER NOT NULL DEFAULT 0
);

CREATE TABLE holidays (
  program_id INTEGER NOT NULL REFERENCES programs(id) ON DELETE CASCADE,
  position   INTEGER NOT NULL,
  date       TEXT    NOT NULL,
  name       TEXT    NOT NULL,
  teams      TEXT    NOT NULL,
  PRIMARY KEY (program_id, position)
);

CREATE TABLE cadences (
  program_id  INTEGER NOT NULL REFERENCES programs(id) ON DELETE CASCADE,
  key         TEXT    NOT NULL,
  position    INTEGER NOT NULL,
  start       TEXT    NOT NULL,
  length_days INTEGER NOT NULL,
  PRIMARY KEY (program_id, key)
);

CREATE TABLE teams (
  program_id INTEGER NOT NULL REFERENCES programs(id) ON DELETE CASCADE,
  key        TEXT    NOT NULL,
  position   INTEGER NOT NULL,
  name       TEXT    NOT NULL,
  unit       TEXT    NOT NULL,
  cadence    TEXT    NOT NULL,
  velocity   REAL,
  focus      REAL,
  PRIMARY KEY (program_id, key)
);

CREATE TABLE iterations (
  program_id INTEGER NOT NULL REFERENCES programs(id) ON DELETE CASCADE,
  team       TEXT    NOT NULL,
  key        TEXT    NOT NULL,
  position   INTEGER NOT NULL,
  name       TEXT    NOT NULL,
  start      TEXT    NOT NULL,
  end        TEXT    NOT NULL,
  capacity   REAL,
  state      TEXT    NOT NULL,
  committed  REAL,
  completed  REAL,
  PRIMARY KEY (program_id, team, key)
);

CREATE TABLE members (
  program_id INTEGER NOT NULL REFERENCES programs(id) ON DELETE CASCADE,
  team       TEXT    NOT NULL,
  person     TEXT    NOT NULL,
  position   INTEGER NOT NULL,
  share      REAL    NOT NULL,
  roles      TEXT    NOT NULL,
  PRIMARY KEY (program_id, team, person)
);

CREATE TABLE people (
  program_id    INTEGER NOT NULL REFERENCES programs(id) ON DELETE CASCADE,
  key           TEXT    NOT NULL,
  position      INTEGER NOT NULL,
  name          TEXT    NOT NULL,
  hours_per_day REAL    NOT NULL,
  weekdays      TEXT    NOT NULL,
  open_seat     INTEGER NOT NULL,
  PRIMARY KEY (program_id, key)
);

CREATE TABLE days_off (
  program_id INTEGER NOT NULL REFERENCES programs(id) ON DELETE CASCADE,
  person     TEXT    NOT NULL,
  position   INTEGER NOT NULL,
  from_date  TEXT    NOT NULL,
  to_date    TEXT    NOT NULL,
  PRIMARY KEY (program_id, person, position)
);

CREATE TABLE releases (
  program_id  INTEGER NOT NULL REFERENCES programs(id) ON DELETE CASCADE,
  key         TEXT    NOT NULL,
  position    INTEGER NOT NULL,
  name        TEXT    NOT NULL,
  start       TEXT    NOT NULL,
  due         TEXT    NOT NULL,
  description TEXT    NOT NULL,
  PRIMARY KEY (program_id, key)
);

CREATE TABLE phases (
  program_id INTEGER NOT NULL REFERENCES programs(id) ON DELETE CASCADE,
  release    TEXT    NOT NULL,
  key        TEXT    NOT NULL,
  position   INTEGER NOT NULL,
  name       TEXT    NOT NULL,
  start      TEXT    NOT NULL,
  end        TEXT    NOT NULL,
  PRIMARY KEY (program_id, release, key)
);

CREATE TABLE milestones (
  program_id INTEGER NOT NULL REFERENCES programs(id) ON DELETE CASCADE,
  key        TEXT    NOT NULL,
  position   INTEGER NOT NULL,
  name       TEXT    NOT NULL,
  date       TEXT    NOT NULL,
  releases   TEXT    NOT NULL,
  needs      TEXT    NOT NULL,
  PRIMARY KEY (program_id, key)
);

CREATE TABLE items (
  program_id INTEGER NOT NULL REFERENCES programs(id) ON DELETE CASCADE,
  key        TEXT    NOT NULL,
  position   INTEGER NOT NULL,
  title      TEXT    NOT NULL,
  kind       TEXT    NOT NULL,
  parent     TEXT    NOT NULL,
  team       TEXT    NOT NULL,
  release    TEXT    NOT NULL,
  size       REAL,
  state      TEXT    NOT NULL,
  iteration  TEXT    NOT NULL,
  pinned     INTEGER NOT NULL,
  not_before TEXT    NOT NULL,
  due        TEXT    NOT NULL,
  role       TEXT    NOT NULL,
  assignee   TEXT    NOT NULL,
  tags       TEXT    NOT NULL,
  kept_out   INTEGER NOT NULL,
  done_on    TEXT    NOT NULL,
  PRIMARY KEY (program_id, key)
);

CREATE TABLE needs (
  program_id INTEGER NOT NULL REFERENCES programs(id) ON DELETE CASCADE,
  item       TEXT    NOT NULL,
  needs      TEXT    NOT NULL,
  position   INTEGER NOT NULL,
  lag_days   INTEGER NOT NULL,
  agreement  TEXT    NOT NULL,
  PRIMARY KEY (program_id, item, needs)
);

-- An edit is a list of changes that was applied whole, as one revision.
CREATE TABLE edits (
  program_id INTEGER NOT NULL REFERENCES programs(id) ON DELETE CASCADE,
  revision   INTEGER NOT NULL,
  at         TEXT    NOT NULL,
  actor      TEXT    NOT NULL,
  client     TEXT    NOT NULL,
  label      TEXT    NOT NULL,
  sort       TEXT    NOT NULL CHECK (sort IN ('edit', 'undo', 'redo')),
  PRIMARY KEY (program_id, revision)
);

-- The journal: one row a change, with what was before and after.
CREATE TABLE journal (
  program_id   INTEGER NOT NULL,
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
  PRIMARY KEY (program_id, revision, seq),
  FOREIGN KEY (program_id, revision) REFERENCES edits(program_id, revision) ON DELETE CASCADE
);

-- +goose Down
DROP TABLE journal;
DROP TABLE edits;
DROP TABLE needs;
DROP TABLE items;
DROP TABLE milestones;
DROP TABLE phases;
DROP TABLE releases;
DROP TABLE days_off;
DROP TABLE people;
DROP TABLE members;
DROP TABLE iterations;
DROP TABLE teams;
DROP TABLE cadences;
DROP TABLE holidays;
DROP TABLE programs;

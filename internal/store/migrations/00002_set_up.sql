-- +goose Up
ALTER TABLE programs ADD COLUMN holiday_calendar TEXT NOT NULL DEFAULT '';
ALTER TABLE programs ADD COLUMN phase_templates TEXT NOT NULL DEFAULT '';

ALTER TABLE cadences ADD COLUMN name TEXT NOT NULL DEFAULT '';
ALTER TABLE cadences ADD COLUMN ahead INTEGER NOT NULL DEFAULT 0;
ALTER TABLE cadences ADD COLUMN naming TEXT NOT NULL DEFAULT '';
ALTER TABLE cadences ADD COLUMN carry_over INTEGER NOT NULL DEFAULT 0;

ALTER TABLE teams ADD COLUMN fill_to REAL;
ALTER TABLE teams ADD COLUMN lookback INTEGER NOT NULL DEFAULT 0;

ALTER TABLE iterations ADD COLUMN capacity_note TEXT NOT NULL DEFAULT '';
ALTER TABLE iterations ADD COLUMN committed_items INTEGER;
ALTER TABLE iterations ADD COLUMN completed_items INTEGER;
ALTER TABLE iterations ADD COLUMN left_out TEXT NOT NULL DEFAULT '';

-- A person may stand in a team several times, at different times.
CREATE TABLE members_with_dates (
  program_id INTEGER NOT NULL REFERENCES programs(id) ON DELETE CASCADE,
  team       TEXT    NOT NULL,
  position   INTEGER NOT NULL,
  person     TEXT    NOT NULL,
  share      REAL    NOT NULL,
  roles      TEXT    NOT NULL,
  from_date  TEXT    NOT NULL DEFAULT '',
  to_date    TEXT    NOT NULL DEFAULT '',
  PRIMARY KEY (program_id, team, position)
);
INSERT INTO members_with_dates (program_id, team, position, person, share, roles)
  SELECT program_id, team, position, person, share, roles FROM members;
DROP TABLE members;
ALTER TABLE members_with_dates RENAME TO members;

ALTER TABLE people ADD COLUMN roles TEXT NOT NULL DEFAULT '';
ALTER TABLE people ADD COLUMN calendar TEXT NOT NULL DEFAULT '';

ALTER TABLE days_off ADD COLUMN name TEXT NOT NULL DEFAULT '';
ALTER TABLE days_off ADD COLUMN uid TEXT NOT NULL DEFAULT '';

ALTER TABLE releases ADD COLUMN documents TEXT NOT NULL DEFAULT '';

-- +goose Down
ALTER TABLE releases DROP COLUMN documents;
ALTER TABLE days_off DROP COLUMN uid;
ALTER TABLE days_off DROP COLUMN name;
ALTER TABLE people DROP COLUMN calendar;
ALTER TABLE people DROP COLUMN roles;
ALTER TABLE members DROP COLUMN to_date;
ALTER TABLE members DROP COLUMN from_date;
ALTER TABLE iterations DROP COLUMN left_out;
ALTER TABLE iterations DROP COLUMN completed_items;
ALTER TABLE iterations DROP COLUMN committed_items;
ALTER TABLE iterations DROP COLUMN capacity_note;
ALTER TABLE teams DROP COLUMN lookback;
ALTER TABLE teams DROP COLUMN fill_to;
ALTER TABLE cadences DROP COLUMN carry_over;
ALTER TABLE cadences DROP COLUMN naming;
ALTER TABLE cadences DROP COLUMN ahead;
ALTER TABLE cadences DROP COLUMN name;
ALTER TABLE programs DROP COLUMN phase_templates;
ALTER TABLE programs DROP COLUMN holiday_calendar;

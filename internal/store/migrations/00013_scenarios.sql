-- +goose Up
-- A scenario is a line that keeps its changes alone: it begins with the live plan at base_revision, and its
-- own revisions go on from there. Copies of before kept all things, and could not be reached from anywhere.
DELETE FROM lines WHERE base_line IS NOT NULL;
ALTER TABLE lines ADD COLUMN note TEXT NOT NULL DEFAULT '';       -- what it assumes
ALTER TABLE lines ADD COLUMN owner_id INTEGER REFERENCES accounts(id) ON DELETE SET NULL;
ALTER TABLE lines ADD COLUMN made_by TEXT NOT NULL DEFAULT '';    -- the owner's name, for people
ALTER TABLE lines ADD COLUMN shared INTEGER NOT NULL DEFAULT 0;   -- all who belong to the program see it
ALTER TABLE lines ADD COLUMN made_at TEXT NOT NULL DEFAULT '';
ALTER TABLE lines ADD COLUMN made_from TEXT NOT NULL DEFAULT '';  -- in words

-- Of an edit of a scenario: the revision of the live plan that it brought it up to.
ALTER TABLE edits ADD COLUMN up_to INTEGER;

-- A baseline is a revision of the live plan with a name, as it was seen on a day.
CREATE TABLE baselines (
  id         INTEGER PRIMARY KEY,
  program_id INTEGER NOT NULL REFERENCES programs(id) ON DELETE CASCADE,
  revision   INTEGER NOT NULL,
  day        INTEGER NOT NULL,
  name       TEXT    NOT NULL,
  note       TEXT    NOT NULL,
  made_by    TEXT    NOT NULL,
  made_at    TEXT    NOT NULL
);
CREATE INDEX baselines_of_program ON baselines(program_id);

-- +goose Up
-- All that these held stands in things by now (migration 6, in Go).
DROP TABLE needs;
DROP TABLE items;
DROP TABLE comments;
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
ALTER TABLE programs DROP COLUMN today;
ALTER TABLE programs DROP COLUMN same_iteration;
ALTER TABLE programs DROP COLUMN fill_to;
ALTER TABLE programs DROP COLUMN revision;
ALTER TABLE programs DROP COLUMN holiday_calendar;
ALTER TABLE programs DROP COLUMN phase_templates;
ALTER TABLE programs DROP COLUMN ready;
ALTER TABLE programs DROP COLUMN mix;
ALTER TABLE programs DROP COLUMN patterns;
ALTER TABLE programs DROP COLUMN repeats;
ALTER TABLE programs DROP COLUMN views;

-- What SQL asks of items, as columns: for reports of one's own on a copy of the file.
CREATE VIEW items AS
  SELECT l.program_id, t.line_id, t.key, t.position,
    json_extract(t.body, '$.title') AS title, json_extract(t.body, '$.kind') AS kind, json_extract(t.body, '$.team') AS team,
    json_extract(t.body, '$.size') AS size, coalesce(json_extract(t.body, '$.state'), 'todo') AS state,
    json_extract(t.body, '$.iteration') AS iteration, json_extract(t.body, '$.release') AS release
  FROM things t JOIN lines l ON l.id = t.line_id WHERE t.kind = 'item';

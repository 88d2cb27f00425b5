-- +goose Up
-- Whatever leads to something of a program without an account stands in one table, until it is ended. Only a hash of the
-- secret is kept.
CREATE TABLE every_link (
  id         INTEGER PRIMARY KEY,
  program_id INTEGER NOT NULL REFERENCES programs(id) ON DELETE CASCADE,
  kind       TEXT    NOT NULL,           -- brief, screen or dates
  brief_id   INTEGER REFERENCES briefs(id) ON DELETE CASCADE, -- that it leads to
  page_id    INTEGER REFERENCES pages(id) ON DELETE CASCADE,  -- that a screen shows
  secret     TEXT    NOT NULL UNIQUE,
  maker_id   INTEGER NOT NULL REFERENCES accounts(id) ON DELETE CASCADE,
  made_at    TEXT    NOT NULL,
  used_at    TEXT    NOT NULL DEFAULT '', -- last; empty: never
  body       TEXT    NOT NULL DEFAULT ''  -- of a screen what it shows, of dates what they hold
);
INSERT INTO every_link (id, program_id, kind, brief_id, secret, maker_id, made_at, used_at)
  SELECT id, program_id, 'brief', brief_id, secret, maker_id, made_at, read_at FROM links ORDER BY id;
INSERT INTO every_link (program_id, kind, page_id, secret, maker_id, made_at, used_at, body)
  SELECT program_id, 'screen', page_id, secret, maker_id, made_at, seen_at, body FROM screens ORDER BY id;
INSERT INTO every_link (program_id, kind, secret, maker_id, made_at, used_at, body)
  SELECT program_id, 'dates', secret, maker_id, made_at, read_at, what FROM date_feeds ORDER BY id;
DROP TABLE links;
DROP TABLE screens;
DROP TABLE date_feeds;
ALTER TABLE every_link RENAME TO links;
CREATE INDEX links_of_program ON links(program_id);
CREATE INDEX links_of_maker ON links(maker_id);
CREATE INDEX links_of_brief ON links(brief_id);
CREATE INDEX links_of_page ON links(page_id);

-- Links of those who do not belong to the program any more lead nowhere, and would come back with them.
DELETE FROM links WHERE NOT EXISTS (SELECT 1 FROM memberships m WHERE m.account_id = maker_id AND m.program_id = links.program_id)
  AND NOT EXISTS (SELECT 1 FROM accounts a WHERE a.id = maker_id AND a.admin = 1);
DELETE FROM tokens WHERE NOT EXISTS (SELECT 1 FROM memberships m WHERE m.account_id = tokens.account_id AND m.program_id = tokens.program_id)
  AND NOT EXISTS (SELECT 1 FROM accounts a WHERE a.id = tokens.account_id AND a.admin = 1);

-- +goose Up
-- Who sends an edit may name the request; sent again under that name, it is not made again.
-- What it said is how the request is known, and what its outcome told beside the changes.
ALTER TABLE edits ADD COLUMN request TEXT;
ALTER TABLE edits ADD COLUMN said TEXT;
CREATE UNIQUE INDEX edits_of_request ON edits(line_id, client, request) WHERE request IS NOT NULL;

-- Who came in, who was refused, and who changed what others may do. It names accounts and
-- programs by what they were called: it outlives them.
CREATE TABLE audit (
  id      INTEGER PRIMARY KEY,
  at      TEXT NOT NULL,
  event   TEXT NOT NULL,
  account TEXT NOT NULL, -- sign-in name of who did it, or tried to; empty: the server
  about   TEXT NOT NULL, -- whom or what it was done to
  detail  TEXT NOT NULL,
  address TEXT NOT NULL, -- where the request came from
  request TEXT NOT NULL  -- its id in the server's log
);
CREATE INDEX audit_of_account ON audit(account, id);
CREATE INDEX audit_of_event ON audit(event, id);

-- What a file holds, as SHA-256, so that damage can be told.
ALTER TABLE attachments ADD COLUMN sha256 TEXT NOT NULL DEFAULT '';

-- Where it is tried whether anything can be written.
CREATE TABLE probe (body BLOB NOT NULL);

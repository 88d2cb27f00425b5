-- +goose Up
CREATE TABLE accounts (
  id            INTEGER PRIMARY KEY,
  login         TEXT    NOT NULL UNIQUE COLLATE NOCASE,
  name          TEXT    NOT NULL,
  password_hash TEXT    NOT NULL, -- argon2id, as $argon2id$v=19$m=…,t=…,p=…$salt$hash; empty: cannot sign in with one
  admin         INTEGER NOT NULL DEFAULT 0,
  disabled      INTEGER NOT NULL DEFAULT 0,
  created_at    TEXT    NOT NULL
);

-- What an account is to a program, and which of its people they are.
CREATE TABLE memberships (
  account_id INTEGER NOT NULL REFERENCES accounts(id) ON DELETE CASCADE,
  program_id INTEGER NOT NULL REFERENCES programs(id) ON DELETE CASCADE,
  role       TEXT    NOT NULL,
  person     TEXT    NOT NULL DEFAULT '',
  PRIMARY KEY (account_id, program_id)
);

-- Secrets are kept as SHA-256 of random ones: what is here opens nothing.
CREATE TABLE sessions (
  secret_hash TEXT    PRIMARY KEY,
  account_id  INTEGER NOT NULL REFERENCES accounts(id) ON DELETE CASCADE,
  created_at  TEXT    NOT NULL,
  seen_at     TEXT    NOT NULL,
  expires_at  TEXT    NOT NULL
);
CREATE INDEX sessions_of_account ON sessions(account_id);

CREATE TABLE devices (
  secret_hash TEXT    PRIMARY KEY,
  account_id  INTEGER NOT NULL REFERENCES accounts(id) ON DELETE CASCADE,
  created_at  TEXT    NOT NULL
);

CREATE TABLE tokens (
  id          INTEGER PRIMARY KEY,
  secret_hash TEXT    NOT NULL UNIQUE,
  account_id  INTEGER NOT NULL REFERENCES accounts(id) ON DELETE CASCADE,
  program_id  INTEGER NOT NULL REFERENCES programs(id) ON DELETE CASCADE,
  name        TEXT    NOT NULL,
  role        TEXT    NOT NULL,
  created_at  TEXT    NOT NULL,
  expires_at  TEXT    NOT NULL,
  used_at     TEXT    NOT NULL DEFAULT ''
);

-- The one-time link to make the first administrator.
CREATE TABLE first_links (
  secret_hash TEXT PRIMARY KEY,
  expires_at  TEXT NOT NULL
);

-- +goose Down
DROP TABLE first_links;
DROP TABLE tokens;
DROP TABLE devices;
DROP TABLE sessions;
DROP TABLE memberships;
DROP TABLE accounts;

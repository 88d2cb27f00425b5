-- +goose Up
-- Templates that were made from programs, or brought along: what a new program of this server can start from.
CREATE TABLE templates (
  id       INTEGER PRIMARY KEY,
  name     TEXT    NOT NULL,
  says     TEXT    NOT NULL DEFAULT '',
  maker_id INTEGER NOT NULL DEFAULT 0,
  maker    TEXT    NOT NULL,
  made_at  TEXT    NOT NULL,
  body     TEXT    NOT NULL
);

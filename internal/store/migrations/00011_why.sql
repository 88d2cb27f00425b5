-- +goose Up
-- The reason that its author gave for an edit; empty: none.
ALTER TABLE edits ADD COLUMN why TEXT NOT NULL DEFAULT '';

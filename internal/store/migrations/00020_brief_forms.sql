-- +goose Up
-- The sections that briefs of a program begin with, as its template has them: one form for each thing that a brief is about.
ALTER TABLE programs ADD COLUMN brief_forms TEXT NOT NULL DEFAULT '{}';

-- +goose Up
-- Up to which revision of the program a member has seen the news.
ALTER TABLE memberships ADD COLUMN seen INTEGER NOT NULL DEFAULT 0;

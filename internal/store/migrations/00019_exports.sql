-- +goose Up
-- The files that somebody makes again and again, with their choices: kept for themselves, as their views are.
ALTER TABLE private_views ADD COLUMN exports TEXT NOT NULL DEFAULT '[]';

-- +goose Up
-- What the forecast of a line said at the end of days that are over: reckoned from the journal, and
-- kept, as it takes a while. What other rules of playing said is reckoned anew.
CREATE TABLE forecast_days (
  line_id INTEGER NOT NULL REFERENCES lines(id) ON DELETE CASCADE,
  day     INTEGER NOT NULL, -- as a civil date counts
  rules   INTEGER NOT NULL, -- of playing
  body    TEXT    NOT NULL, -- the landings, as JSON
  PRIMARY KEY (line_id, day)
);

-- Sheets of the house. Each change of one is a new row, so that a version is never used twice.
CREATE TABLE own_sheets (
  version INTEGER PRIMARY KEY AUTOINCREMENT,
  name TEXT NOT NULL UNIQUE,
  sheet TEXT NOT NULL
) STRICT;

-- Findings that somebody let stand: the key holds the check, the cue and its text.
CREATE TABLE accepted_findings (
  track_id TEXT NOT NULL REFERENCES tracks (id) ON DELETE CASCADE,
  key TEXT NOT NULL,
  reason TEXT NOT NULL,
  accepted_at_ms INTEGER NOT NULL,
  PRIMARY KEY (track_id, key)
) STRICT;

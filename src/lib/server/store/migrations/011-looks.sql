-- Looks of the house. Each change of one is a new row, so that a version is never used twice.
CREATE TABLE own_looks (
  version INTEGER PRIMARY KEY AUTOINCREMENT,
  name TEXT NOT NULL UNIQUE,
  look TEXT NOT NULL
) STRICT;

-- Typefaces of the house; their files lie in the folder `faces`, by their ids.
CREATE TABLE own_faces (
  id TEXT PRIMARY KEY,
  name TEXT NOT NULL,
  weight INTEGER NOT NULL,
  is_italic INTEGER NOT NULL,
  embedding TEXT NOT NULL,
  is_removed INTEGER NOT NULL DEFAULT 0,
  added_at_ms INTEGER NOT NULL
) STRICT;

-- Videos and sounds made of recordings; their files lie in the folder `renders` of the recording, by their ids.
CREATE TABLE renders (
  id TEXT PRIMARY KEY,
  recording_id TEXT NOT NULL REFERENCES recordings (id) ON DELETE CASCADE,
  job_id TEXT NOT NULL,
  name TEXT NOT NULL,
  mime TEXT NOT NULL,
  bytes INTEGER NOT NULL,
  duration_ms INTEGER NOT NULL,
  request TEXT NOT NULL,
  made_at_ms INTEGER NOT NULL
) STRICT;
CREATE INDEX renders_of_recording ON renders (recording_id, made_at_ms);

-- Names and phrases to expect, in the order in which they were written: the workspace's, and those of one recording.
CREATE TABLE terms (
  recording_id TEXT REFERENCES recordings (id) ON DELETE CASCADE,
  position INTEGER NOT NULL,
  text TEXT NOT NULL,
  sounds_like TEXT
) STRICT;
CREATE INDEX terms_by_recording ON terms (recording_id, position);

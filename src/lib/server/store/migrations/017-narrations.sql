-- What is being spoken, until it is ended and is a recording: its sound is a file of its own.
CREATE TABLE narrations (
  id TEXT PRIMARY KEY,
  title TEXT NOT NULL,
  language TEXT NOT NULL,
  script TEXT NOT NULL,
  left_out TEXT NOT NULL,
  created_at_ms INTEGER NOT NULL
) STRICT;
CREATE TABLE narrated_words (
  narration_id TEXT NOT NULL REFERENCES narrations (id) ON DELETE CASCADE,
  position INTEGER NOT NULL,
  text TEXT NOT NULL,
  start_ms INTEGER NOT NULL,
  end_ms INTEGER NOT NULL,
  PRIMARY KEY (narration_id, position)
) STRICT;

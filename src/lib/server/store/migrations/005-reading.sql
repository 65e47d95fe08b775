-- Doubts that somebody looked at and let stand: the key holds the reason, the words and their text.
CREATE TABLE judged_doubts (
  track_id TEXT NOT NULL REFERENCES tracks (id) ON DELETE CASCADE,
  key TEXT NOT NULL,
  judged_at_ms INTEGER NOT NULL,
  PRIMARY KEY (track_id, key)
) STRICT;

-- Where the sound of the cut before is in this one lies in a file; this says that it is there.
ALTER TABLE recordings ADD COLUMN is_compared INTEGER NOT NULL DEFAULT 0;

-- What deserves a look in a track that was carried over from the cut before.
CREATE TABLE cut_remarks (
  track_id TEXT NOT NULL REFERENCES tracks (id) ON DELETE CASCADE,
  position INTEGER NOT NULL,
  kind TEXT NOT NULL,
  start_ms INTEGER NOT NULL,
  end_ms INTEGER NOT NULL,
  cue_ids TEXT NOT NULL,
  text TEXT NOT NULL,
  looked_at_ms INTEGER,
  PRIMARY KEY (track_id, position)
) STRICT;

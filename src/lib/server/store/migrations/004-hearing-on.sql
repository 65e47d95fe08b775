-- A hearing may go on while its track is worked on: its entries are of a kind of their own.
CREATE TABLE track_entries_now (
  track_id TEXT NOT NULL REFERENCES tracks (id) ON DELETE CASCADE,
  revision INTEGER NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('edit', 'undo', 'redo', 'heard')),
  -- The entry that an undo takes back or a redo does again.
  target_revision INTEGER,
  batch_id TEXT,
  label TEXT NOT NULL,
  edits TEXT NOT NULL,
  inverses TEXT NOT NULL,
  made_at_ms INTEGER NOT NULL,
  PRIMARY KEY (track_id, revision)
) STRICT;
INSERT INTO track_entries_now SELECT * FROM track_entries;
DROP TABLE track_entries;
ALTER TABLE track_entries_now RENAME TO track_entries;
CREATE UNIQUE INDEX track_entries_by_batch ON track_entries (track_id, batch_id) WHERE batch_id IS NOT NULL;

-- What a new hearing heard, for a track that is there; it waits to be taken or put away.
CREATE TABLE proposals (
  id TEXT PRIMARY KEY,
  track_id TEXT NOT NULL REFERENCES tracks (id) ON DELETE CASCADE,
  start_ms INTEGER NOT NULL,
  end_ms INTEGER NOT NULL,
  words TEXT NOT NULL,
  made_at_ms INTEGER NOT NULL
) STRICT;
CREATE INDEX proposals_by_track ON proposals (track_id);

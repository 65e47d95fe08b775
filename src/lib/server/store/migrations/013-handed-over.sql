-- What was handed over: files that say the same are one version of their track.
CREATE TABLE hand_overs (
  track_id TEXT NOT NULL REFERENCES tracks (id) ON DELETE CASCADE,
  version INTEGER NOT NULL,
  revision INTEGER NOT NULL,
  -- A hash of all that its files can say.
  content TEXT NOT NULL,
  handed_over_at_ms INTEGER NOT NULL,
  PRIMARY KEY (track_id, version)
) STRICT;
-- The same file again only renews its time.
CREATE TABLE handed_over_files (
  track_id TEXT NOT NULL,
  version INTEGER NOT NULL,
  name TEXT NOT NULL,
  sha256 TEXT NOT NULL,
  format TEXT NOT NULL,
  bytes INTEGER NOT NULL,
  handed_over_at_ms INTEGER NOT NULL,
  PRIMARY KEY (track_id, version, name, sha256),
  FOREIGN KEY (track_id, version) REFERENCES hand_overs (track_id, version) ON DELETE CASCADE
) STRICT;
-- The same hash of a track as it is; NULL where it was not read yet, or cannot be.
ALTER TABLE track_digests ADD COLUMN content TEXT;
UPDATE track_digests SET revision = -1;

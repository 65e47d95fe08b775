-- Files of tracks that were handed over: the same file again only renews its time.
CREATE TABLE handed_over (
  track_id TEXT NOT NULL REFERENCES tracks (id) ON DELETE CASCADE,
  sha256 TEXT NOT NULL,
  name TEXT NOT NULL,
  format TEXT NOT NULL,
  revision INTEGER NOT NULL,
  bytes INTEGER NOT NULL,
  handed_over_at_ms INTEGER NOT NULL,
  PRIMARY KEY (track_id, sha256, name)
) STRICT;

-- The track of the cut before that a track was taken over from: a translation finds its source by it.
ALTER TABLE tracks ADD COLUMN carried_from TEXT;
-- The house's own words for its own things, by the languages that they go from and to.
CREATE TABLE glossary (
  from_language TEXT NOT NULL,
  to_language TEXT NOT NULL,
  position INTEGER NOT NULL,
  source TEXT NOT NULL,
  target TEXT NOT NULL,
  note TEXT NOT NULL,
  PRIMARY KEY (from_language, to_language, position)
) STRICT;
-- What was translated by hand, found again by its words. Made from the tracks: it may be emptied at any time.
CREATE VIRTUAL TABLE remembered USING fts5 (
  key,
  source UNINDEXED,
  target UNINDEXED,
  track_id UNINDEXED,
  tokenize = 'unicode61 remove_diacritics 0'
);
-- Which revisions of a translation and its source are remembered.
CREATE TABLE remembered_tracks (
  track_id TEXT PRIMARY KEY REFERENCES tracks (id) ON DELETE CASCADE,
  revision INTEGER NOT NULL,
  source_revision INTEGER NOT NULL
) STRICT;

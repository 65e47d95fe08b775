-- Recordings that belong together.
CREATE TABLE projects (
  id TEXT PRIMARY KEY,
  name TEXT NOT NULL,
  created_at_ms INTEGER NOT NULL
) STRICT;
ALTER TABLE recordings ADD COLUMN project_id TEXT REFERENCES projects (id) ON DELETE SET NULL;
-- What it was called before: a track that has such a title has no name of its own.
ALTER TABLE recordings ADD COLUMN former_titles TEXT NOT NULL DEFAULT '[]';
CREATE INDEX recordings_by_project ON recordings (project_id);

ALTER TABLE tracks ADD COLUMN state TEXT NOT NULL DEFAULT 'draft';
ALTER TABLE tracks ADD COLUMN binned_at_ms INTEGER;
ALTER TABLE tracks ADD COLUMN edited_at_ms INTEGER NOT NULL DEFAULT 0;
-- Open doubts as they were counted last; NULL until somebody asked for them.
ALTER TABLE tracks ADD COLUMN doubt_count INTEGER;
UPDATE tracks SET edited_at_ms =
  coalesce((SELECT max(made_at_ms) FROM log_entries WHERE document_id = tracks.id), created_at_ms);

-- What is read off a track behind its edits: what it says, and how much of it breaks its rules.
CREATE TABLE track_digests (
  id INTEGER PRIMARY KEY,
  track_id TEXT NOT NULL UNIQUE REFERENCES tracks (id) ON DELETE CASCADE,
  revision INTEGER NOT NULL,
  finding_count INTEGER NOT NULL,
  -- 0: the track could not be read, and nothing is known of what it says.
  is_readable INTEGER NOT NULL,
  text TEXT NOT NULL
) STRICT;
CREATE VIRTUAL TABLE track_texts USING fts5 (
  text, content = 'track_digests', content_rowid = 'id', tokenize = 'trigram remove_diacritics 1'
);
CREATE TRIGGER digests_put AFTER INSERT ON track_digests BEGIN
  INSERT INTO track_texts (rowid, text) VALUES (NEW.id, NEW.text);
END;
CREATE TRIGGER digests_taken AFTER DELETE ON track_digests BEGIN
  INSERT INTO track_texts (track_texts, rowid, text) VALUES ('delete', OLD.id, OLD.text);
END;
CREATE TRIGGER digests_changed AFTER UPDATE ON track_digests BEGIN
  INSERT INTO track_texts (track_texts, rowid, text) VALUES ('delete', OLD.id, OLD.text);
  INSERT INTO track_texts (rowid, text) VALUES (NEW.id, NEW.text);
END;

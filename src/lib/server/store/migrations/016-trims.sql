-- Versions of a recording by its text; what lists show of them. Their logs are those of documents.
CREATE TABLE trims (
  id TEXT PRIMARY KEY,
  recording_id TEXT NOT NULL REFERENCES recordings (id) ON DELETE CASCADE,
  title TEXT NOT NULL,
  revision INTEGER NOT NULL,
  duration_ms INTEGER NOT NULL,
  created_at_ms INTEGER NOT NULL,
  edited_at_ms INTEGER NOT NULL,
  binned_at_ms INTEGER
) STRICT;
CREATE INDEX trims_by_recording ON trims (recording_id);
CREATE TRIGGER trims_are_documents AFTER DELETE ON trims BEGIN
  DELETE FROM documents WHERE id = OLD.id;
END;

-- What has a log: a snapshot and the entries after it. The snapshot of revision 0 is the draft and is never removed.
CREATE TABLE documents (
  id TEXT PRIMARY KEY,
  kind TEXT NOT NULL
) STRICT;
INSERT INTO documents SELECT id, 'track' FROM tracks;
CREATE TRIGGER tracks_are_documents AFTER DELETE ON tracks BEGIN
  DELETE FROM documents WHERE id = OLD.id;
END;

CREATE TABLE log_snapshots (
  document_id TEXT NOT NULL REFERENCES documents (id) ON DELETE CASCADE,
  revision INTEGER NOT NULL,
  -- The form its content is kept in.
  form INTEGER NOT NULL,
  content TEXT NOT NULL,
  PRIMARY KEY (document_id, revision)
) STRICT;
INSERT INTO log_snapshots SELECT track_id, revision, 1, document FROM track_snapshots;
DROP TABLE track_snapshots;

CREATE TABLE log_entries (
  document_id TEXT NOT NULL REFERENCES documents (id) ON DELETE CASCADE,
  revision INTEGER NOT NULL,
  form INTEGER NOT NULL,
  kind TEXT NOT NULL,
  -- The entry that an undo takes back or a redo does again.
  target_revision INTEGER,
  batch_id TEXT,
  label TEXT NOT NULL,
  -- What was asked, what it was resolved to, and what takes that back. In form 1 what was asked is all.
  commands TEXT NOT NULL,
  changes TEXT NOT NULL,
  inverse TEXT NOT NULL,
  made_at_ms INTEGER NOT NULL,
  PRIMARY KEY (document_id, revision)
) STRICT;
INSERT INTO log_entries
  SELECT track_id, revision, 1, kind, target_revision, batch_id, label, edits, '[]', '[]', made_at_ms FROM track_entries;
DROP TABLE track_entries;
CREATE UNIQUE INDEX log_entries_by_batch ON log_entries (document_id, batch_id) WHERE batch_id IS NOT NULL;

-- Ids that a document had and has no more: none is given a second time.
CREATE TABLE retired_ids (
  document_id TEXT NOT NULL REFERENCES documents (id) ON DELETE CASCADE,
  id TEXT NOT NULL,
  PRIMARY KEY (document_id, id)
) STRICT, WITHOUT ROWID;

-- Where a log could be read no farther; what lies beyond is kept.
CREATE TABLE log_breaks (
  document_id TEXT NOT NULL REFERENCES documents (id) ON DELETE CASCADE,
  from_revision INTEGER NOT NULL,
  to_revision INTEGER NOT NULL,
  problem TEXT NOT NULL,
  found_at_ms INTEGER NOT NULL,
  PRIMARY KEY (document_id, from_revision)
) STRICT;

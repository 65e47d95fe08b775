CREATE TABLE recordings (
  id TEXT PRIMARY KEY,
  title TEXT NOT NULL,
  state TEXT NOT NULL CHECK (state IN ('preparing', 'ready', 'failed')),
  failure TEXT,
  duration_ms INTEGER NOT NULL,
  mime TEXT NOT NULL,
  has_video INTEGER NOT NULL,
  width INTEGER,
  height INTEGER,
  frame_rate REAL,
  channels INTEGER NOT NULL,
  sample_rate INTEGER NOT NULL,
  bytes INTEGER NOT NULL,
  has_speech_map INTEGER NOT NULL DEFAULT 0,
  cut_of TEXT REFERENCES recordings (id),
  created_at_ms INTEGER NOT NULL,
  binned_at_ms INTEGER
) STRICT;

CREATE TABLE tracks (
  id TEXT PRIMARY KEY,
  recording_id TEXT NOT NULL REFERENCES recordings (id) ON DELETE CASCADE,
  source_track_id TEXT REFERENCES tracks (id) ON DELETE SET NULL,
  language TEXT NOT NULL,
  kind TEXT NOT NULL,
  title TEXT NOT NULL,
  revision INTEGER NOT NULL,
  word_count INTEGER NOT NULL,
  corrected_count INTEGER NOT NULL,
  cue_count INTEGER NOT NULL,
  created_at_ms INTEGER NOT NULL
) STRICT;
CREATE INDEX tracks_by_recording ON tracks (recording_id);

-- A track is a snapshot and the entries after it. The snapshot of revision 0 is the draft and is never removed.
CREATE TABLE track_snapshots (
  track_id TEXT NOT NULL REFERENCES tracks (id) ON DELETE CASCADE,
  revision INTEGER NOT NULL,
  document TEXT NOT NULL,
  PRIMARY KEY (track_id, revision)
) STRICT;

CREATE TABLE track_entries (
  track_id TEXT NOT NULL REFERENCES tracks (id) ON DELETE CASCADE,
  revision INTEGER NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('edit', 'undo', 'redo')),
  -- The entry that an undo takes back or a redo does again.
  target_revision INTEGER,
  batch_id TEXT,
  label TEXT NOT NULL,
  edits TEXT NOT NULL,
  inverses TEXT NOT NULL,
  made_at_ms INTEGER NOT NULL,
  PRIMARY KEY (track_id, revision)
) STRICT;
CREATE UNIQUE INDEX track_entries_by_batch ON track_entries (track_id, batch_id) WHERE batch_id IS NOT NULL;

CREATE TABLE versions (
  id TEXT PRIMARY KEY,
  track_id TEXT NOT NULL REFERENCES tracks (id) ON DELETE CASCADE,
  title TEXT NOT NULL,
  revision INTEGER NOT NULL,
  made_at_ms INTEGER NOT NULL
) STRICT;

CREATE TABLE jobs (
  id TEXT PRIMARY KEY,
  kind TEXT NOT NULL CHECK (kind IN ('prepare', 'hear')),
  recording_id TEXT NOT NULL REFERENCES recordings (id) ON DELETE CASCADE,
  state TEXT NOT NULL CHECK (state IN ('queued', 'running', 'done', 'failed', 'cancelled')),
  progress REAL NOT NULL DEFAULT 0,
  stage TEXT NOT NULL,
  params TEXT NOT NULL,
  error TEXT,
  track_id TEXT REFERENCES tracks (id) ON DELETE SET NULL,
  created_at_ms INTEGER NOT NULL
) STRICT;
CREATE INDEX jobs_by_recording ON jobs (recording_id);

CREATE TABLE job_chunks (
  job_id TEXT NOT NULL REFERENCES jobs (id) ON DELETE CASCADE,
  position INTEGER NOT NULL,
  start_ms INTEGER NOT NULL,
  end_ms INTEGER NOT NULL,
  -- NULL until heard; the JSON null where the engine failed on it.
  result TEXT,
  PRIMARY KEY (job_id, position)
) STRICT;

-- Which folder the database belongs to: the folder says the same.
CREATE TABLE folder (
  id TEXT PRIMARY KEY
) STRICT;

-- What a kind of job is given and what it makes of it are its own affair.
CREATE TABLE jobs_now (
  id TEXT PRIMARY KEY,
  kind TEXT NOT NULL,
  recording_id TEXT NOT NULL REFERENCES recordings (id) ON DELETE CASCADE,
  state TEXT NOT NULL CHECK (state IN ('queued', 'running', 'done', 'failed', 'cancelled')),
  progress REAL NOT NULL DEFAULT 0,
  stage TEXT NOT NULL,
  params TEXT NOT NULL,
  result TEXT NOT NULL DEFAULT '{}',
  error TEXT,
  -- How often a server ended while it was at work on it.
  crashes INTEGER NOT NULL DEFAULT 0,
  created_at_ms INTEGER NOT NULL
) STRICT;
INSERT INTO jobs_now
  SELECT id, kind, recording_id, state, progress, stage, params,
    iif(track_id IS NULL, '{}', json_object('trackId', track_id)), error, 0, created_at_ms FROM jobs;

CREATE TABLE job_chunks_now (
  job_id TEXT NOT NULL REFERENCES jobs_now (id) ON DELETE CASCADE,
  position INTEGER NOT NULL,
  start_ms INTEGER NOT NULL,
  end_ms INTEGER NOT NULL,
  -- NULL until heard; the JSON null where the engine failed on it.
  result TEXT,
  -- Who is at work on it and until when it is theirs; how often it was begun.
  owner TEXT,
  leased_until_ms INTEGER NOT NULL DEFAULT 0,
  tries INTEGER NOT NULL DEFAULT 0,
  PRIMARY KEY (job_id, position)
) STRICT;
INSERT INTO job_chunks_now SELECT job_id, position, start_ms, end_ms, result, NULL, 0, 0 FROM job_chunks;
DROP TABLE job_chunks;
DROP TABLE jobs;
ALTER TABLE jobs_now RENAME TO jobs;
ALTER TABLE job_chunks_now RENAME TO job_chunks;
CREATE INDEX jobs_by_recording ON jobs (recording_id);

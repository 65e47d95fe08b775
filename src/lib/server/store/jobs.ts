import { z } from 'zod';
import type { Db } from './database';

export type JobKind = 'prepare' | 'hear';
export type JobState = 'queued' | 'running' | 'done' | 'failed' | 'cancelled';

export interface Job {
  readonly id: string;
  readonly kind: JobKind;
  readonly recordingId: string;
  readonly state: JobState;
  /** 0 to 1. */
  readonly progress: number;
  readonly stage: string;
  readonly params: unknown;
  readonly error: string | null;
  readonly trackId: string | null;
}

export interface JobChunk {
  readonly position: number;
  readonly startMs: number;
  readonly endMs: number;
  /** JSON of what was heard; `null` until then. */
  readonly result: string | null;
}

const jobRow = z.object({
  id: z.string(),
  kind: z.enum(['prepare', 'hear']),
  recording_id: z.string(),
  state: z.enum(['queued', 'running', 'done', 'failed', 'cancelled']),
  progress: z.number(),
  stage: z.string(),
  params: z.string(),
  error: z.string().nullable(),
  track_id: z.string().nullable()
});
const chunkRow = z.object({
  position: z.number(),
  start_ms: z.number(),
  end_ms: z.number(),
  result: z.string().nullable()
});

function jobFromRow(raw: unknown): Job {
  const row = jobRow.parse(raw);
  return {
    id: row.id,
    kind: row.kind,
    recordingId: row.recording_id,
    state: row.state,
    progress: row.progress,
    stage: row.stage,
    params: JSON.parse(row.params) as unknown,
    error: row.error,
    trackId: row.track_id
  };
}

export class JobStore {
  readonly #db: Db;
  constructor(db: Db) {
    this.#db = db;
  }

  insert(job: Pick<Job, 'id' | 'kind' | 'recordingId' | 'stage' | 'params'>, atMs: number): void {
    this.#db
      .prepare(
        `INSERT INTO jobs (id, kind, recording_id, state, stage, params, created_at_ms) VALUES (?, ?, ?, 'queued', ?, ?, ?)`
      )
      .run(job.id, job.kind, job.recordingId, job.stage, JSON.stringify(job.params), atMs);
  }

  find(id: string): Job | null {
    const row = this.#db.prepare('SELECT * FROM jobs WHERE id = ?').get(id);
    return row === undefined ? null : jobFromRow(row);
  }

  /** Of one recording, newest first. */
  listOf(recordingId: string): Job[] {
    return this.#db
      .prepare('SELECT * FROM jobs WHERE recording_id = ? ORDER BY created_at_ms DESC, id')
      .all(recordingId)
      .map(jobFromRow);
  }

  /** Queued and running ones, oldest first. */
  unfinished(): Job[] {
    return this.#db
      .prepare(`SELECT * FROM jobs WHERE state IN ('queued', 'running') ORDER BY created_at_ms, id`)
      .all()
      .map(jobFromRow);
  }

  update(id: string, change: Partial<Pick<Job, 'state' | 'progress' | 'stage' | 'error' | 'trackId'>>): void {
    const job = this.find(id);
    if (job === null) return;
    const next = { ...job, ...change };
    this.#db
      .prepare('UPDATE jobs SET state = ?, progress = ?, stage = ?, error = ?, track_id = ? WHERE id = ?')
      .run(next.state, next.progress, next.stage, next.error, next.trackId, id);
  }

  setChunks(jobId: string, spans: readonly { startMs: number; endMs: number }[]): void {
    const insert = this.#db.prepare('INSERT INTO job_chunks (job_id, position, start_ms, end_ms) VALUES (?, ?, ?, ?)');
    this.#db.transaction(() =>
      spans.forEach((span, position) => insert.run(jobId, position, span.startMs, span.endMs))
    )();
  }

  chunksOf(jobId: string): JobChunk[] {
    return this.#db
      .prepare('SELECT position, start_ms, end_ms, result FROM job_chunks WHERE job_id = ? ORDER BY position')
      .all(jobId)
      .map((raw) => {
        const row = chunkRow.parse(raw);
        return { position: row.position, startMs: row.start_ms, endMs: row.end_ms, result: row.result };
      });
  }

  setChunkResult(jobId: string, position: number, result: string): void {
    this.#db.prepare('UPDATE job_chunks SET result = ? WHERE job_id = ? AND position = ?').run(result, jobId, position);
  }
}

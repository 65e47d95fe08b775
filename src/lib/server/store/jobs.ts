import { type Ms, msSchema } from '$lib/core/time';
import { z } from 'zod';
import type { Db } from './database';

export type JobState = 'queued' | 'running' | 'done' | 'failed' | 'cancelled';

export interface Job {
  readonly id: string;
  readonly kind: string;
  readonly recordingId: string;
  readonly state: JobState;
  /** 0 to 1. */
  readonly progress: number;
  readonly stage: string;
  readonly params: unknown;
  /** What came of it by now, in the form of its kind. */
  readonly result: Readonly<Record<string, unknown>>;
  readonly error: string | null;
  /** How often a server ended while it was at work on it. */
  readonly crashes: number;
}

export interface JobChunk {
  readonly position: number;
  readonly startMs: Ms;
  readonly endMs: Ms;
  /** JSON of what was heard; `null` until then. */
  readonly result: string | null;
  /** How often it was begun. */
  readonly tries: number;
}

const jobRow = z.object({
  id: z.string(),
  kind: z.string(),
  recording_id: z.string(),
  state: z.enum(['queued', 'running', 'done', 'failed', 'cancelled']),
  progress: z.number(),
  stage: z.string(),
  params: z.string(),
  result: z.string(),
  error: z.string().nullable(),
  crashes: z.number()
});
const chunkRow = z.object({
  position: z.number(),
  start_ms: msSchema,
  end_ms: msSchema,
  result: z.string().nullable(),
  tries: z.number()
});

function chunkFromRow(raw: unknown): JobChunk {
  const row = chunkRow.parse(raw);
  return { position: row.position, startMs: row.start_ms, endMs: row.end_ms, result: row.result, tries: row.tries };
}

/** Who takes chunks of a job, and for how long each is theirs. */
export interface Lessee {
  readonly owner: string;
  readonly nowMs: number;
  readonly forMs: number;
}

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
    result: z.record(z.string(), z.unknown()).parse(JSON.parse(row.result)),
    error: row.error,
    crashes: row.crashes
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
      .prepare('SELECT * FROM jobs WHERE recording_id = ? ORDER BY created_at_ms DESC, rowid DESC')
      .all(recordingId)
      .map(jobFromRow);
  }

  /** Queued and running ones, oldest first. */
  unfinished(): Job[] {
    return this.#db
      .prepare(`SELECT * FROM jobs WHERE state IN ('queued', 'running') ORDER BY created_at_ms, rowid`)
      .all()
      .map(jobFromRow);
  }

  update(
    id: string,
    change: Partial<Pick<Job, 'state' | 'progress' | 'stage' | 'error' | 'result' | 'crashes'>>
  ): void {
    const job = this.find(id);
    if (job === null) return;
    const next = { ...job, ...change };
    this.#db
      .prepare('UPDATE jobs SET state = ?, progress = ?, stage = ?, error = ?, result = ?, crashes = ? WHERE id = ?')
      .run(next.state, next.progress, next.stage, next.error, JSON.stringify(next.result), next.crashes, id);
  }

  setChunks(jobId: string, spans: readonly { startMs: number; endMs: number }[]): void {
    const insert = this.#db.prepare('INSERT INTO job_chunks (job_id, position, start_ms, end_ms) VALUES (?, ?, ?, ?)');
    this.#db.transaction(() =>
      spans.forEach((span, position) => insert.run(jobId, position, span.startMs, span.endMs))
    )();
  }

  chunksOf(jobId: string): JobChunk[] {
    return this.#db.prepare('SELECT * FROM job_chunks WHERE job_id = ? ORDER BY position').all(jobId).map(chunkFromRow);
  }

  /** The next chunk that is open and nobody's, which is the lessee's from now on; `null` where there is none. */
  lease(jobId: string, { owner, nowMs, forMs }: Lessee): JobChunk | null {
    const row = this.#db
      .prepare(
        `UPDATE job_chunks SET owner = ?, leased_until_ms = ?, tries = tries + 1
         WHERE job_id = ? AND position =
           (SELECT position FROM job_chunks WHERE job_id = ? AND result IS NULL AND leased_until_ms <= ? ORDER BY position LIMIT 1)
         RETURNING *`
      )
      .get(owner, nowMs + forMs, jobId, jobId, nowMs);
    return row === undefined ? null : chunkFromRow(row);
  }

  /** Gives open chunks back: one of a lessee's, or all that it has. */
  release(jobId: string, owner: string, position?: number): void {
    this.#db
      .prepare(
        'UPDATE job_chunks SET owner = NULL, leased_until_ms = 0 WHERE job_id = ? AND owner = ? AND position = coalesce(?, position)'
      )
      .run(jobId, owner, position ?? null);
  }

  /** Gives back what servers before this one had: of one data folder there is one at a time. */
  releaseAll(): void {
    this.#db.prepare('UPDATE job_chunks SET owner = NULL, leased_until_ms = 0 WHERE result IS NULL').run();
  }

  setChunkResult(jobId: string, position: number, result: string): void {
    this.#db.prepare('UPDATE job_chunks SET result = ? WHERE job_id = ? AND position = ?').run(result, jobId, position);
  }
}

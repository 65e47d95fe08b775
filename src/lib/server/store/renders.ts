/** What was rendered, by recording. */
import { z } from 'zod';
import { renderRequestSchema, type RenderRequest } from '$lib/core/rendering';
import type { Db } from './database';

export interface Render {
  readonly id: string;
  readonly recordingId: string;
  readonly jobId: string;
  /** A name for the file. */
  readonly name: string;
  readonly mime: string;
  readonly bytes: number;
  readonly durationMs: number;
  readonly request: RenderRequest;
  readonly madeAtMs: number;
}

const rowSchema = z.object({
  id: z.string(),
  recording_id: z.string(),
  job_id: z.string(),
  name: z.string(),
  mime: z.string(),
  bytes: z.number(),
  duration_ms: z.number(),
  request: z.string(),
  made_at_ms: z.number()
});

function renderFromRow(raw: unknown): Render {
  const row = rowSchema.parse(raw);
  return {
    id: row.id,
    recordingId: row.recording_id,
    jobId: row.job_id,
    name: row.name,
    mime: row.mime,
    bytes: row.bytes,
    durationMs: row.duration_ms,
    request: renderRequestSchema.parse(JSON.parse(row.request)),
    madeAtMs: row.made_at_ms
  };
}

export class RenderStore {
  readonly #db: Db;
  constructor(db: Db) {
    this.#db = db;
  }

  insert({ id, recordingId, jobId, name, mime, bytes, durationMs, request, madeAtMs }: Render): void {
    this.#db
      .prepare('INSERT INTO renders VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)')
      .run(id, recordingId, jobId, name, mime, bytes, durationMs, JSON.stringify(request), madeAtMs);
  }

  find(id: string): Render | null {
    const row = this.#db.prepare('SELECT * FROM renders WHERE id = ?').get(id);
    return row === undefined ? null : renderFromRow(row);
  }

  /** The newest first. */
  listOf(recordingId: string): Render[] {
    return this.#db
      .prepare('SELECT * FROM renders WHERE recording_id = ? ORDER BY made_at_ms DESC, id')
      .all(recordingId)
      .map(renderFromRow);
  }

  remove(id: string): void {
    this.#db.prepare('DELETE FROM renders WHERE id = ?').run(id);
  }
}

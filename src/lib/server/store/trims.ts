/** What lists show of trims, beside their logs. */
import { z } from 'zod';
import { mapOf, type Trim } from '$lib/core/trims';
import type { Db } from './database';

export interface TrimSummary {
  readonly id: string;
  readonly recordingId: string;
  readonly title: string;
  readonly revision: number;
  /** As it plays. */
  readonly durationMs: number;
  readonly createdAtMs: number;
  readonly editedAtMs: number;
  readonly binnedAtMs: number | null;
}

const rowSchema = z.object({
  id: z.string(),
  recording_id: z.string(),
  title: z.string(),
  revision: z.number(),
  duration_ms: z.number(),
  created_at_ms: z.number(),
  edited_at_ms: z.number(),
  binned_at_ms: z.number().nullable()
});

function summaryFromRow(raw: unknown): TrimSummary {
  const row = rowSchema.parse(raw);
  return {
    id: row.id,
    recordingId: row.recording_id,
    title: row.title,
    revision: row.revision,
    durationMs: row.duration_ms,
    createdAtMs: row.created_at_ms,
    editedAtMs: row.edited_at_ms,
    binnedAtMs: row.binned_at_ms
  };
}

export class TrimStore {
  readonly #db: Db;
  constructor(db: Db) {
    this.#db = db;
  }

  list(trim: Trim, revision: number, atMs: number): void {
    this.#db
      .prepare('INSERT INTO trims VALUES (?, ?, ?, ?, ?, ?, ?, NULL)')
      .run(trim.id, trim.recordingId, trim.title, revision, mapOf(trim).lengthMs, atMs, atMs);
  }

  summarise(trim: Trim, revision: number, atMs: number): void {
    this.#db
      .prepare('UPDATE trims SET title = ?, revision = ?, duration_ms = ?, edited_at_ms = ? WHERE id = ?')
      .run(trim.title, revision, mapOf(trim).lengthMs, atMs, trim.id);
  }

  find(id: string): TrimSummary | null {
    const row = this.#db.prepare('SELECT * FROM trims WHERE id = ?').get(id);
    return row === undefined ? null : summaryFromRow(row);
  }

  /** Oldest first: those in use, or those in the bin. */
  listOf(recordingId: string, { isBinned }: { readonly isBinned: boolean } = { isBinned: false }): TrimSummary[] {
    return this.#db
      .prepare(
        'SELECT * FROM trims WHERE recording_id = ? AND (binned_at_ms IS NOT NULL) = ? ORDER BY created_at_ms, id'
      )
      .all(recordingId, isBinned ? 1 : 0)
      .map(summaryFromRow);
  }

  setBinned(id: string, atMs: number | null): void {
    this.#db.prepare('UPDATE trims SET binned_at_ms = ? WHERE id = ?').run(atMs, id);
  }
}

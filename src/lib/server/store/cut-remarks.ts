/** What deserves a look in tracks that were carried over from the cut before, and what was looked at. */
import { msSchema } from '$lib/core/time';
import { cueIdSchema, type TrackId } from '$lib/core/id';
import { z } from 'zod';
import type { CutRemark } from '$lib/core/cuts';
import type { Db } from './database';

const row = z.object({
  position: z.number(),
  kind: z.enum(['left out', 'shortened', 'parted', 'new sound']),
  start_ms: msSchema,
  end_ms: msSchema,
  cue_ids: z.string(),
  text: z.string(),
  looked_at_ms: z.number().nullable()
});

export interface KeptRemark extends CutRemark {
  /** Its place in the list, from 0: what it is known by. */
  readonly position: number;
  readonly lookedAtMs: number | null;
}

export class CutRemarkStore {
  readonly #db: Db;
  constructor(db: Db) {
    this.#db = db;
  }

  insert(trackId: TrackId, remarks: readonly CutRemark[]): void {
    const insert = this.#db.prepare(
      'INSERT INTO cut_remarks (track_id, position, kind, start_ms, end_ms, cue_ids, text) VALUES (?, ?, ?, ?, ?, ?, ?)'
    );
    this.#db.transaction(() =>
      remarks.forEach(({ kind, startMs, endMs, cueIds, text }, position) =>
        insert.run(trackId, position, kind, startMs, endMs, JSON.stringify(cueIds), text)
      )
    )();
  }

  listOf(trackId: TrackId): KeptRemark[] {
    const rows = this.#db.prepare('SELECT * FROM cut_remarks WHERE track_id = ? ORDER BY position').all(trackId);
    return rows.map((raw) => {
      const { position, kind, start_ms, end_ms, cue_ids, text, looked_at_ms } = row.parse(raw);
      const cueIds = z.array(cueIdSchema).parse(JSON.parse(cue_ids));
      return { position, kind, startMs: start_ms, endMs: end_ms, cueIds, text, lookedAtMs: looked_at_ms };
    });
  }

  /** `null`: it is to be looked at again. False where there is no such remark. */
  setLookedAt(trackId: TrackId, position: number, atMs: number | null): boolean {
    const { changes } = this.#db
      .prepare('UPDATE cut_remarks SET looked_at_ms = ? WHERE track_id = ? AND position = ?')
      .run(atMs, trackId, position);
    return changes > 0;
  }
}

/** Doubts that somebody has looked at and let stand. */
import type { TrackId } from '$lib/core/id';
import { z } from 'zod';
import type { Db } from './database';

const keyRow = z.object({ key: z.string() });

export class JudgedDoubtStore {
  readonly #db: Db;
  constructor(db: Db) {
    this.#db = db;
  }

  keysOf(trackId: TrackId): ReadonlySet<string> {
    const rows = this.#db.prepare('SELECT key FROM judged_doubts WHERE track_id = ?').all(trackId);
    return new Set(rows.map((raw) => keyRow.parse(raw).key));
  }

  judge(trackId: TrackId, keys: readonly string[], atMs: number): void {
    const insert = this.#db.prepare(
      'INSERT INTO judged_doubts (track_id, key, judged_at_ms) VALUES (?, ?, ?) ON CONFLICT DO NOTHING'
    );
    this.#db.transaction(() => keys.forEach((key) => insert.run(trackId, key, atMs)))();
  }

  takeBack(trackId: TrackId, keys: readonly string[]): void {
    const remove = this.#db.prepare('DELETE FROM judged_doubts WHERE track_id = ? AND key = ?');
    this.#db.transaction(() => keys.forEach((key) => remove.run(trackId, key)))();
  }
}

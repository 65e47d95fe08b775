/** Doubts that somebody has looked at and let stand. */
import type { TrackId } from '$lib/core/id';
import { z } from 'zod';
import type { Db } from './database';

const keyRow = z.object({ key: z.string() });

const sum = (counts: readonly number[]): number => counts.reduce((total, count) => total + count, 0);

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
    this.#db.transaction(() => {
      const added = keys.map((key) => insert.run(trackId, key, atMs).changes);
      this.#count(trackId, -sum(added));
    })();
  }

  takeBack(trackId: TrackId, keys: readonly string[]): void {
    const remove = this.#db.prepare('DELETE FROM judged_doubts WHERE track_id = ? AND key = ?');
    this.#db.transaction(() => {
      const removed = keys.map((key) => remove.run(trackId, key).changes);
      this.#count(trackId, sum(removed));
    })();
  }

  /** Keeps what lists say is left in step; where nobody has counted yet, nothing is said. */
  #count(trackId: TrackId, by: number): void {
    this.#db.prepare('UPDATE tracks SET doubt_count = max(0, doubt_count + ?) WHERE id = ?').run(by, trackId);
  }
}

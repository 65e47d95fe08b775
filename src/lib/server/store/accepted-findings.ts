/** Findings that somebody has looked at and let stand, each with the reason. */
import { z } from 'zod';
import type { TrackId } from '$lib/core/id';
import type { Db } from './database';

const rowSchema = z.object({ key: z.string(), reason: z.string() });

export class AcceptedFindingStore {
  readonly #db: Db;
  constructor(db: Db) {
    this.#db = db;
  }

  /** Reasons by the keys of findings. */
  reasonsOf(trackId: TrackId): ReadonlyMap<string, string> {
    const rows = this.#db.prepare('SELECT key, reason FROM accepted_findings WHERE track_id = ?').all(trackId);
    return new Map(rows.map((raw) => rowSchema.parse(raw)).map(({ key, reason }) => [key, reason]));
  }

  accept(
    trackId: TrackId,
    keys: readonly string[],
    { reason, atMs }: { readonly reason: string; readonly atMs: number }
  ): void {
    const insert = this.#db.prepare(
      `INSERT INTO accepted_findings (track_id, key, reason, accepted_at_ms) VALUES (?, ?, ?, ?)
       ON CONFLICT DO UPDATE SET reason = excluded.reason, accepted_at_ms = excluded.accepted_at_ms`
    );
    this.#db.transaction(() => {
      for (const key of keys) insert.run(trackId, key, reason, atMs);
    })();
  }

  takeBack(trackId: TrackId, keys: readonly string[]): void {
    const remove = this.#db.prepare('DELETE FROM accepted_findings WHERE track_id = ? AND key = ?');
    this.#db.transaction(() => {
      for (const key of keys) remove.run(trackId, key);
    })();
  }
}

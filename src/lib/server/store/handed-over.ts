/** Files that were handed over, each with the version of the track that it was made of. */
import { z } from 'zod';
import { handedOverSchema, type HandedOver } from '$lib/core/checks';
import type { TrackId } from '$lib/core/id';
import type { Db } from './database';

const rowsSchema = z.array(handedOverSchema);

export class HandedOverStore {
  readonly #db: Db;
  constructor(db: Db) {
    this.#db = db;
  }

  /** The newest first. */
  listOf(trackId: TrackId): readonly HandedOver[] {
    return rowsSchema.parse(
      this.#db
        .prepare(
          `SELECT name, format, revision, bytes, sha256, handed_over_at_ms AS atMs FROM handed_over
           WHERE track_id = ? ORDER BY handed_over_at_ms DESC, name`
        )
        .all(trackId)
    );
  }

  /** The same file again is known by its hash: only its version and time are renewed. */
  note(trackId: TrackId, { sha256, name, format, revision, bytes, atMs }: HandedOver): void {
    this.#db
      .prepare(
        `INSERT INTO handed_over (track_id, sha256, name, format, revision, bytes, handed_over_at_ms)
         VALUES (?, ?, ?, ?, ?, ?, ?)
         ON CONFLICT DO UPDATE SET revision = excluded.revision, handed_over_at_ms = excluded.handed_over_at_ms`
      )
      .run(trackId, sha256, name, format, revision, bytes, atMs);
  }
}

/** What is read off tracks behind their edits: what they say, and how much of it breaks their rules. */
import { z } from 'zod';
import type { Db } from './database';

const idRow = z.object({ id: z.string() });
const countRow = z.object({ count: z.number() });

const STALE = `FROM tracks LEFT JOIN track_digests ON track_id = tracks.id
  WHERE track_digests.revision IS NULL OR track_digests.revision <> tracks.revision`;

export interface Digest {
  readonly revision: number;
  readonly findingCount: number;
  readonly text: string;
}

export class DigestStore {
  readonly #db: Db;
  constructor(db: Db) {
    this.#db = db;
  }

  /** Tracks whose digest is not that of their present revision, those edited last first. */
  stale(most: number): string[] {
    return this.#db
      .prepare(`SELECT tracks.id ${STALE} ORDER BY edited_at_ms DESC LIMIT ?`)
      .all(most)
      .map((row) => idRow.parse(row).id);
  }
  countStale(): number {
    return countRow.parse(this.#db.prepare(`SELECT count(*) AS count ${STALE}`).get()).count;
  }

  put(trackId: string, { revision, findingCount, text }: Digest): void {
    this.#db
      .prepare(
        `INSERT INTO track_digests (track_id, revision, finding_count, text) VALUES (?, ?, ?, ?)
         ON CONFLICT (track_id) DO UPDATE SET
           revision = excluded.revision, finding_count = excluded.finding_count, text = excluded.text`
      )
      .run(trackId, revision, findingCount, text);
  }
}

/** Files that were handed over, under the versions of their track. */
import { z } from 'zod';
import { handedOverFileSchema, type HandedOverFile, type HandedOverVersion } from '$lib/core/handed-over';
import type { TrackId } from '$lib/core/id';
import type { Db } from './database';

const versionRows = z.array(z.object({ version: z.int(), revision: z.int(), content: z.string() }));
const fileRows = z.array(handedOverFileSchema.unwrap().extend({ version: z.int() }));

export class HandedOverStore {
  readonly #db: Db;
  constructor(db: Db) {
    this.#db = db;
  }

  /** The newest first. */
  versionsOf(trackId: TrackId): readonly HandedOverVersion[] {
    const files = fileRows.parse(
      this.#db
        .prepare(
          `SELECT version, name, format, bytes, sha256, handed_over_at_ms AS atMs FROM handed_over_files
           WHERE track_id = ? ORDER BY handed_over_at_ms DESC, name`
        )
        .all(trackId)
    );
    return this.#versions(trackId).map(({ version, revision }) => ({
      ...{ version, revision },
      files: files.filter((file) => file.version === version).map(({ version: _, ...file }) => file)
    }));
  }

  /** The version that files of such a content belong to. */
  versionFor(trackId: TrackId, content: string): number {
    const [last] = this.#versions(trackId);
    return last === undefined ? 1 : last.content === content ? last.version : last.version + 1;
  }

  /** `content`: a hash of what the track says at the revision. All of the files are noted, or none. */
  note(
    trackId: TrackId,
    { revision, content }: { readonly revision: number; readonly content: string },
    files: readonly HandedOverFile[]
  ): void {
    const handOver = this.#db.prepare(
      'INSERT INTO hand_overs VALUES (?, ?, ?, ?, ?) ON CONFLICT DO UPDATE SET handed_over_at_ms = excluded.handed_over_at_ms'
    );
    const insert = this.#db.prepare(
      `INSERT INTO handed_over_files VALUES (?, ?, ?, ?, ?, ?, ?)
       ON CONFLICT DO UPDATE SET handed_over_at_ms = excluded.handed_over_at_ms`
    );
    this.#db.transaction(() => {
      const version = this.versionFor(trackId, content);
      for (const { name, format, bytes, sha256, atMs } of files) {
        handOver.run(trackId, version, revision, content, atMs);
        insert.run(trackId, version, name, sha256, format, bytes, atMs);
      }
    })();
  }

  #versions(trackId: TrackId) {
    return versionRows.parse(
      this.#db
        .prepare('SELECT version, revision, content FROM hand_overs WHERE track_id = ? ORDER BY version DESC')
        .all(trackId)
    );
  }
}

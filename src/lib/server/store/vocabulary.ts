/** Names and phrases to expect: one list for the workspace, one for each recording. */
import { z } from 'zod';
import type { Term } from '$lib/core/expecting';
import type { Db } from './database';

const termRow = z.object({ text: z.string(), sounds_like: z.string().nullable() });

export class VocabularyStore {
  readonly #db: Db;
  constructor(db: Db) {
    this.#db = db;
  }

  /** The workspace's where `recordingId` is `null`. */
  list(recordingId: string | null): Term[] {
    return this.#db
      .prepare('SELECT text, sounds_like FROM terms WHERE recording_id IS ? ORDER BY position')
      .all(recordingId)
      .map((raw) => {
        const row = termRow.parse(raw);
        return { text: row.text, soundsLike: row.sounds_like };
      });
  }

  replace(recordingId: string | null, terms: readonly Term[]): void {
    this.#db.transaction(() => {
      this.#db.prepare('DELETE FROM terms WHERE recording_id IS ?').run(recordingId);
      const insert = this.#db.prepare(
        'INSERT INTO terms (recording_id, position, text, sounds_like) VALUES (?, ?, ?, ?)'
      );
      terms.forEach((term, position) => insert.run(recordingId, position, term.text, term.soundsLike));
    })();
  }
}

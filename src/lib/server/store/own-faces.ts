/** The typefaces that a house brought in. One that was deleted keeps its file, so that it can be brought back. */
import { z } from 'zod';
import type { Db } from './database';

export interface OwnFace {
  readonly id: string;
  readonly name: string;
  readonly weight: number;
  readonly isItalic: boolean;
  readonly embedding: string;
}

const rowSchema = z.object({
  id: z.string(),
  name: z.string(),
  weight: z.number(),
  is_italic: z.number(),
  embedding: z.string()
});
function faceFromRow(raw: unknown): OwnFace {
  const row = rowSchema.parse(raw);
  return {
    id: row.id,
    name: row.name,
    weight: row.weight,
    isItalic: row.is_italic === 1,
    embedding: row.embedding
  };
}

export class OwnFaceStore {
  readonly #db: Db;
  constructor(db: Db) {
    this.#db = db;
  }

  list(): OwnFace[] {
    return this.#db.prepare('SELECT * FROM own_faces WHERE is_removed = 0 ORDER BY name').all().map(faceFromRow);
  }

  find(id: string): OwnFace | null {
    const row = this.#db.prepare('SELECT * FROM own_faces WHERE id = ?').get(id);
    return row === undefined ? null : faceFromRow(row);
  }

  /** Again, where it had been deleted. */
  insert({ id, name, weight, isItalic, embedding }: OwnFace, atMs: number): void {
    this.#db
      .prepare(
        `INSERT INTO own_faces (id, name, weight, is_italic, embedding, added_at_ms) VALUES (?, ?, ?, ?, ?, ?)
         ON CONFLICT (id) DO UPDATE SET is_removed = 0`
      )
      .run(id, name, weight, isItalic ? 1 : 0, embedding, atMs);
  }

  setRemoved(id: string, isRemoved: boolean): void {
    this.#db.prepare('UPDATE own_faces SET is_removed = ? WHERE id = ?').run(isRemoved ? 1 : 0, id);
  }
}

/** The looks that a house keeps, by name. */
import { z } from 'zod';
import { keptLookSchema, type KeptLook, type OwnLook } from '$lib/core/looks';
import { lookSchema } from '$lib/core/track';
import type { Db } from './database';

const rowSchema = z.object({ version: z.number(), name: z.string(), look: z.string() });

export class OwnLookStore {
  readonly #db: Db;
  constructor(db: Db) {
    this.#db = db;
  }

  list(): KeptLook[] {
    return this.#db
      .prepare('SELECT version, name, look FROM own_looks ORDER BY name')
      .all()
      .map((raw) => {
        const { version, name, look } = rowSchema.parse(raw);
        return keptLookSchema.parse({ name, version, look: lookSchema.parse(JSON.parse(look)), shipped: false });
      });
  }

  /** The whole list anew; what has changed gets a version of its own, what has not keeps it. */
  replace(looks: readonly OwnLook[]): void {
    this.#db.transaction(() => {
      const before = new Map(this.list().map((kept) => [kept.name, JSON.stringify(kept.look)]));
      const after = new Map(looks.map(({ name, look }) => [name, JSON.stringify(look)]));
      const remove = this.#db.prepare('DELETE FROM own_looks WHERE name = ?');
      const insert = this.#db.prepare('INSERT INTO own_looks (name, look) VALUES (?, ?)');
      for (const [name, look] of before) if (after.get(name) !== look) remove.run(name);
      for (const [name, look] of after) if (before.get(name) !== look) insert.run(name, look);
    })();
  }
}

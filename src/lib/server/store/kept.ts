/** What a house keeps by name, each change of one under a version that none had before. */
import { z } from 'zod';
import type { Db } from './database';

const rowSchema = z.object({ version: z.number(), name: z.string(), content: z.string() });

/** The tables that hold such things, and the column with the content of one, as JSON. */
const TABLES = { own_looks: 'look', own_sheets: 'sheet', own_destinations: 'destination' } as const;

export class KeptStore<C> {
  readonly #db: Db;
  readonly #table: keyof typeof TABLES;
  readonly #schema: z.ZodType<C>;

  constructor(db: Db, table: keyof typeof TABLES, schema: z.ZodType<C>) {
    this.#db = db;
    this.#table = table;
    this.#schema = schema;
  }

  list(): { readonly name: string; readonly version: number; readonly content: C }[] {
    return this.#db
      .prepare(`SELECT version, name, ${TABLES[this.#table]} AS content FROM ${this.#table} ORDER BY name`)
      .all()
      .map((raw) => {
        const { version, name, content } = rowSchema.parse(raw);
        return { name, version, content: this.#schema.parse(JSON.parse(content)) };
      });
  }

  /** The whole list anew; what has changed gets a version of its own, what has not keeps it. */
  replace(items: readonly { readonly name: string; readonly content: C }[]): void {
    const column = TABLES[this.#table];
    this.#db.transaction(() => {
      const before = new Map(this.list().map(({ name, content }) => [name, JSON.stringify(content)]));
      const after = new Map(items.map(({ name, content }) => [name, JSON.stringify(content)]));
      const remove = this.#db.prepare(`DELETE FROM ${this.#table} WHERE name = ?`);
      const insert = this.#db.prepare(`INSERT INTO ${this.#table} (name, ${column}) VALUES (?, ?)`);
      for (const [name, content] of before) if (after.get(name) !== content) remove.run(name);
      for (const [name, content] of after) if (before.get(name) !== content) insert.run(name, content);
    })();
  }
}

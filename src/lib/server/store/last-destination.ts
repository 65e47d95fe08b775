/** The destination that the house handed over to last, so that the next recording goes there as well. */
import { z } from 'zod';
import { destinationSchema, type Destination } from '$lib/core/destinations';
import type { Db } from './database';

const rowSchema = z.object({ destination: z.string() });

export class LastDestination {
  readonly #db: Db;
  constructor(db: Db) {
    this.#db = db;
  }

  get(): Destination | null {
    const row = this.#db.prepare('SELECT destination FROM last_destination').get();
    return row === undefined ? null : destinationSchema.parse(JSON.parse(rowSchema.parse(row).destination));
  }

  set(destination: Destination): void {
    this.#db
      .prepare(
        'INSERT INTO last_destination VALUES (1, ?) ON CONFLICT DO UPDATE SET destination = excluded.destination'
      )
      .run(JSON.stringify(destination));
  }
}

/**
 * What has not been saved yet, in IndexedDB: one queue a document, shared by all windows, and what was not taken. Where
 * the browser does not keep it (no room, a private window), this window holds it in memory, and says so.
 */
import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import { z } from 'zod';
import { messageOf } from '$lib/core/message-of';

/** How a kind of document reads commands that were kept in any form, and the form it keeps them in. */
export interface CommandsDoor<C> {
  readonly form: number;
  readonly openUnsent: (form: number, raw: unknown) => readonly C[];
}

/** A change on its way to the server. */
export type UnsentItem<C> =
  | { readonly kind: 'commands'; readonly batchId: string; readonly commands: readonly C[] }
  | { readonly kind: 'undo' | 'redo'; readonly batchId: string };

/** What was not taken: its text and why, kept until it is put away by hand. */
export interface Refusal<C> {
  readonly batchId: string;
  readonly reason: string;
  readonly text: string;
  readonly atMs: number;
  /** What can be tried again; `null` where nothing can. */
  readonly commands: readonly C[] | null;
}

export interface QueuedItem<C> {
  /** Below 0: held by this window alone. */
  readonly key: number;
  readonly item: UnsentItem<C>;
}

// Rows name the document as `trackId` and what is asked as `edits` in form 1, in which no row says its form.
const rowSchema = z.object({
  form: z.number().default(1),
  kind: z.enum(['edits', 'commands', 'undo', 'redo']),
  batchId: z.string(),
  edits: z.unknown().optional(),
  commands: z.unknown().optional()
});
const refusedRowSchema = z.object({
  batchId: z.string(),
  reason: z.string(),
  text: z.string(),
  atMs: z.number(),
  form: z.number().default(1),
  commands: z.unknown().optional()
});

interface Schema extends DBSchema {
  queue: { key: number; value: unknown; indexes: { byTrack: string } };
  rejected: { key: string; value: unknown; indexes: { byTrack: string } };
}

let opened: Promise<IDBPDatabase<Schema>> | undefined;

function database(): Promise<IDBPDatabase<Schema>> {
  opened ??= openDB<Schema>('vinetap', 1, {
    upgrade(db) {
      db.createObjectStore('queue', { autoIncrement: true }).createIndex('byTrack', 'trackId');
      db.createObjectStore('rejected', { keyPath: 'batchId' }).createIndex('byTrack', 'trackId');
    },
    // A newer version of the product wants to change the stores: it must not wait for this window.
    blocking: (_now, _wanted, event) => (event.target as IDBDatabase).close(),
    terminated: () => (opened = undefined)
  }).catch((error: unknown) => {
    opened = undefined;
    throw error;
  });
  return opened;
}

const strangeRefusal = (raw: unknown): Refusal<never> => ({
  batchId: z.object({ batchId: z.string() }).catch({ batchId: crypto.randomUUID() }).parse(raw).batchId,
  reason: 'It was kept by another version of Vine Tap, and this one cannot read it.',
  text: JSON.stringify(raw),
  atMs: 0,
  commands: null
});

export class UnsentStore<C> {
  readonly #documentId: string;
  readonly #door: CommandsDoor<C>;
  readonly #held = new Map<number, UnsentItem<C>>();
  #heldRefused: readonly Refusal<C>[] = [];
  #nextHeld = -1;
  readonly #onFailure: (why: string) => void;

  /** `onFailure` hears it where the browser keeps nothing, and why. */
  constructor(documentId: string, door: CommandsDoor<C>, onFailure: (why: string) => void) {
    this.#documentId = documentId;
    this.#door = door;
    this.#onFailure = onFailure;
  }

  /** What this window alone holds, in order. */
  held(): readonly QueuedItem<C>[] {
    return [...this.#held].map(([key, item]) => ({ key, item }));
  }

  /** Keeps it in the browser, or in memory where that fails: then it comes back as held. */
  async add(item: UnsentItem<C>): Promise<'kept' | 'held'> {
    const kept = await this.#try(async (db) => {
      await db.add('queue', { ...item, form: this.#door.form, trackId: this.#documentId });
    });
    if (kept) return 'kept';
    this.#held.set(this.#nextHeld--, item);
    return 'held';
  }

  /** In the order in which they were made. A row that cannot be read goes to what was not taken. */
  async list(): Promise<readonly QueuedItem<C>[]> {
    const items: QueuedItem<C>[] = [];
    const strange: { key: number; row: unknown; why: string }[] = [];
    await this.#try(async (db) => {
      const tx = db.transaction('queue');
      for (
        let cursor = await tx.store.index('byTrack').openCursor(this.#documentId);
        cursor !== null;
        cursor = await cursor.continue()
      ) {
        try {
          items.push({ key: cursor.primaryKey, item: this.#open(cursor.value) });
        } catch (error) {
          strange.push({ key: cursor.primaryKey, row: cursor.value, why: messageOf(error) });
        }
      }
    });
    for (const { key, row, why } of strange) {
      await this.refuse(key, {
        ...strangeRefusal(row),
        reason: `It was kept by another version of Vine Tap, and this one cannot read it (${why.slice(0, 200)}).`
      });
    }
    return items;
  }

  async remove(key: number): Promise<void> {
    if (key < 0) this.#held.delete(key);
    else await this.#try((db) => db.delete('queue', key));
  }

  /** Moves a row of the queue to what was not taken. */
  async refuse(key: number, refused: Refusal<C>): Promise<void> {
    const row = this.#refusedRow(refused);
    const moved =
      key >= 0 &&
      (await this.#try(async (db) => {
        const tx = db.transaction(['queue', 'rejected'], 'readwrite');
        await Promise.all([tx.objectStore('queue').delete(key), tx.objectStore('rejected').put(row), tx.done]);
      }));
    if (moved) return;
    this.#held.delete(key);
    await this.keep(refused);
  }

  async keep(refused: Refusal<C>): Promise<void> {
    const row = this.#refusedRow(refused);
    const kept = await this.#try(async (db) => void (await db.put('rejected', row)));
    if (!kept) this.#heldRefused = [...this.#heldRefused, refused];
  }

  async listRefused(): Promise<readonly Refusal<C>[]> {
    let rows: unknown[] = [];
    await this.#try(async (db) => {
      rows = await db.getAllFromIndex('rejected', 'byTrack', this.#documentId);
    });
    const kept = rows.flatMap((raw): Refusal<C>[] => {
      const row = refusedRowSchema.safeParse(raw);
      if (!row.success) return [strangeRefusal(raw)];
      const { form, commands, ...refused } = row.data;
      return [{ ...refused, commands: commands === undefined ? null : this.#openOrNull(form, commands) }];
    });
    return [...kept, ...this.#heldRefused];
  }

  async dropRefused(batchId: string): Promise<void> {
    this.#heldRefused = this.#heldRefused.filter((refused) => refused.batchId !== batchId);
    await this.#try((db) => db.delete('rejected', batchId));
  }

  #refusedRow({ commands, ...refused }: Refusal<C>): unknown {
    return {
      ...refused,
      trackId: this.#documentId,
      form: this.#door.form,
      ...(commands !== null && { commands })
    };
  }

  #open(raw: unknown): UnsentItem<C> {
    const { form, kind, batchId, edits, commands } = rowSchema.parse(raw);
    return kind === 'undo' || kind === 'redo'
      ? { kind, batchId }
      : { kind: 'commands', batchId, commands: this.#door.openUnsent(form, kind === 'edits' ? edits : commands) };
  }

  #openOrNull(form: number, raw: unknown): readonly C[] | null {
    try {
      return this.#door.openUnsent(form, raw);
    } catch {
      // Its text is there to be copied; what cannot be read cannot be tried again.
      return null;
    }
  }

  async #try(work: (db: IDBPDatabase<Schema>) => Promise<void>): Promise<boolean> {
    try {
      await work(await database());
      return true;
    } catch (error) {
      this.#onFailure(messageOf(error));
      return false;
    }
  }
}

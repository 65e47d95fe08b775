/** What has not been saved yet, in IndexedDB: one queue a track, shared by all windows, and what could not be applied. */
import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import { z } from 'zod';
import { clientEditSchema } from '$lib/core/edits';

const queuedSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('edits'), trackId: z.string(), batchId: z.string(), edits: z.array(clientEditSchema) }),
  z.object({ kind: z.enum(['undo', 'redo']), trackId: z.string(), batchId: z.string() })
]);
/** A change on its way to the server. */
export type Queued = z.infer<typeof queuedSchema>;

const rejectedSchema = z.object({
  trackId: z.string(),
  batchId: z.string(),
  reason: z.string(),
  text: z.string(),
  atMs: z.number()
});
/** A change that could not be applied: what it was, with its text, kept until it is put away by hand. */
export type Rejected = z.infer<typeof rejectedSchema>;

interface Schema extends DBSchema {
  queue: { key: number; value: Queued; indexes: { byTrack: string } };
  rejected: { key: string; value: Rejected; indexes: { byTrack: string } };
}

let opened: Promise<IDBPDatabase<Schema>> | undefined;

function database(): Promise<IDBPDatabase<Schema>> {
  opened ??= openDB<Schema>('vinetap', 1, {
    upgrade(db) {
      db.createObjectStore('queue', { autoIncrement: true }).createIndex('byTrack', 'trackId');
      db.createObjectStore('rejected', { keyPath: 'batchId' }).createIndex('byTrack', 'trackId');
    }
  });
  return opened;
}

export const queue = {
  async add(item: Queued): Promise<void> {
    await (await database()).add('queue', item);
  },
  /** In the order in which they were made. */
  async list(trackId: string): Promise<{ readonly key: number; readonly item: Queued }[]> {
    const tx = (await database()).transaction('queue');
    const items: { key: number; item: Queued }[] = [];
    for (
      let cursor = await tx.store.index('byTrack').openCursor(trackId);
      cursor !== null;
      cursor = await cursor.continue()
    ) {
      items.push({ key: cursor.primaryKey, item: queuedSchema.parse(cursor.value) });
    }
    return items;
  },
  async remove(key: number): Promise<void> {
    await (await database()).delete('queue', key);
  },
  async reject(key: number, rejected: Rejected): Promise<void> {
    const tx = (await database()).transaction(['queue', 'rejected'], 'readwrite');
    await Promise.all([tx.objectStore('queue').delete(key), tx.objectStore('rejected').put(rejected), tx.done]);
  },
  async keep(rejected: Rejected): Promise<void> {
    await (await database()).put('rejected', rejected);
  },
  async listRejected(trackId: string): Promise<Rejected[]> {
    return (await (await database()).getAllFromIndex('rejected', 'byTrack', trackId)).map((value) =>
      rejectedSchema.parse(value)
    );
  },
  async dropRejected(batchId: string): Promise<void> {
    await (await database()).delete('rejected', batchId);
  }
};

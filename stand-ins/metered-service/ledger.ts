/** The money of the service: orders hold back their price, pay it once when they are done, and free it otherwise. */
import { readFileSync, renameSync, writeFileSync } from 'node:fs';
import { randomUUID } from 'node:crypto';
import { z } from 'zod';
import {
  orderRequest,
  orderSchema,
  startedMinutes,
  type Order,
  type OrderRequest,
  type ServiceWord
} from '$lib/server/recognisers/metered/protocol';

const entrySchema = orderSchema.omit({ minutes: true }).extend({ asked: orderRequest });
const bookSchema = z.object({ paidInCents: z.int(), orders: z.array(entrySchema) });
type Entry = z.infer<typeof entrySchema>;

/** Holds money back until the order ends. */
const isOpen = ({ state }: Entry): boolean => state === 'awaiting sound' || state === 'working';

export class Ledger {
  readonly #path: string;
  readonly #centsPerMinute: number;
  readonly #book: z.infer<typeof bookSchema>;

  /** What was written at `path` before goes on: an order is not forgotten with the process. */
  constructor(path: string, options: { readonly paidInCents: number; readonly centsPerMinute: number }) {
    this.#path = path;
    this.#centsPerMinute = options.centsPerMinute;
    this.#book = readBook(path) ?? { paidInCents: options.paidInCents, orders: [] };
    // The sound of an order that was in work went with the process: it is to be sent again, at the same price.
    for (const order of this.#book.orders) if (order.state === 'working') order.state = 'awaiting sound';
  }

  /** What is left: paid in, less what was billed and what open orders hold back. */
  get balanceCents(): number {
    const taken = this.#book.orders.filter((order) => order.state === 'done' || isOpen(order));
    return this.#book.paidInCents - taken.reduce((sum, order) => sum + order.costCents, 0);
  }

  /** The order of this key; one that failed or was cancelled begins anew. `null`: the balance does not reach. */
  place(asked: OrderRequest): Order | null {
    const known = this.#book.orders.find((order) => order.asked.key === asked.key);
    if (known !== undefined && (known.state === 'done' || isOpen(known))) return this.get(known.id);
    const costCents = startedMinutes(asked.durationMs) * this.#centsPerMinute;
    if (costCents > this.balanceCents) return null;
    const order: Entry = { id: randomUUID(), asked, state: 'awaiting sound', progress: 0, costCents };
    this.#book.orders = [...this.#book.orders.filter((one) => one !== known), order];
    this.#write();
    return this.get(order.id);
  }

  get(id: string): Order | null {
    const order = this.#find(id);
    if (order === undefined) return null;
    const { asked, ...told } = order;
    return { ...told, minutes: startedMinutes(asked.durationMs) };
  }

  asked(id: string): OrderRequest | null {
    return this.#find(id)?.asked ?? null;
  }

  /** Tells how far an order is; nothing where it has ended. */
  setWorking(id: string, progress: number): void {
    const order = this.#find(id);
    if (order === undefined || !isOpen(order)) return;
    order.state = 'working';
    order.progress = progress;
  }

  /** The answer is there, and is paid now. */
  finish(id: string, words: readonly ServiceWord[]): void {
    this.#end(id, { state: 'done', progress: 1, words: [...words] });
  }
  fail(id: string, reason: string): void {
    this.#end(id, { state: 'failed', reason });
  }
  cancel(id: string): void {
    this.#end(id, { state: 'cancelled' });
  }
  payIn(cents: number): void {
    this.#book.paidInCents += cents;
    this.#write();
  }

  #end(id: string, end: Partial<Entry>): void {
    const order = this.#find(id);
    if (order === undefined || !isOpen(order)) return;
    Object.assign(order, end);
    this.#write();
  }
  #find(id: string): Entry | undefined {
    return this.#book.orders.find((order) => order.id === id);
  }
  #write(): void {
    writeFileSync(`${this.#path}.new`, JSON.stringify(this.#book));
    renameSync(`${this.#path}.new`, this.#path);
  }
}

function readBook(path: string): z.infer<typeof bookSchema> | null {
  let text: string;
  try {
    text = readFileSync(path, 'utf8');
  } catch {
    return null; // A new account.
  }
  return bookSchema.parse(JSON.parse(text));
}

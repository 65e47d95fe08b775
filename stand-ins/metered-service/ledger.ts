/** The money of the service: orders hold back their price, pay it once when they are done, and free it otherwise. */
import { readFileSync, renameSync, writeFileSync } from 'node:fs';
import { randomUUID } from 'node:crypto';
import { z } from 'zod';
import {
  orderedCharacters,
  orderRequest,
  orderSchema,
  startedMinutes,
  textOrderRequest,
  textOrderSchema,
  type Order,
  type OrderRequest,
  type ServiceWord,
  type TextOrder,
  type TextOrderRequest
} from '$lib/server/metered/protocol';
import { textCostCents } from '$lib/server/translators/price';

const soundEntrySchema = orderSchema.omit({ minutes: true }).extend({ asked: orderRequest });
const textEntrySchema = textOrderSchema.omit({ characters: true }).extend({ asked: textOrderRequest });
/** One of text has sentences, one of sound a length. */
const entrySchema = z.union([textEntrySchema, soundEntrySchema]);
const bookSchema = z.object({ paidInCents: z.int(), orders: z.array(entrySchema) });
type TextEntry = z.infer<typeof textEntrySchema>;
type Entry = z.infer<typeof entrySchema>;
const isText = (entry: Entry): entry is TextEntry => 'sentences' in entry.asked;

export interface Prices {
  readonly paidInCents: number;
  readonly centsPerMinute: number;
  readonly centsPerThousand: number;
}

/** Holds money back until the order ends. */
const isOpen = ({ state }: Entry): boolean => state === 'awaiting sound' || state === 'working';

export class Ledger {
  readonly #path: string;
  readonly #prices: Prices;
  readonly #book: z.infer<typeof bookSchema>;

  /** What was written at `path` before goes on: an order is not forgotten with the process. */
  constructor(path: string, prices: Prices) {
    this.#path = path;
    this.#prices = prices;
    this.#book = readBook(path) ?? { paidInCents: prices.paidInCents, orders: [] };
    // The sound of an order that was in work went with the process: it is to be sent again, at the same price.
    for (const order of this.#book.orders)
      if (!isText(order) && order.state === 'working') order.state = 'awaiting sound';
  }

  /** What is left: paid in, less what was billed and what open orders hold back. */
  get balanceCents(): number {
    const taken = this.#book.orders.filter((order) => order.state === 'done' || isOpen(order));
    return this.#book.paidInCents - taken.reduce((sum, order) => sum + order.costCents, 0);
  }

  /** The order of this key; one that failed or was cancelled begins anew. `null`: the balance does not reach. */
  place(asked: OrderRequest): Order | null {
    const costCents = startedMinutes(asked.durationMs) * this.#prices.centsPerMinute;
    const placed = this.#place({ id: randomUUID(), asked, state: 'awaiting sound', progress: 0, costCents });
    return placed === null ? null : this.get(placed);
  }

  /** The same of text, which is in work at once. */
  placeText(asked: TextOrderRequest): TextOrder | null {
    const costCents = textCostCents(orderedCharacters(asked.sentences), this.#prices.centsPerThousand);
    const placed = this.#place({ id: randomUUID(), asked, state: 'working', progress: 0, costCents });
    return placed === null ? null : this.getText(placed);
  }

  /** The id of the order of its key: one that is there, else this one. */
  #place(entry: Entry): string | null {
    const known = this.#book.orders.find((order) => order.asked.key === entry.asked.key);
    if (known !== undefined && (known.state === 'done' || isOpen(known))) return known.id;
    if (entry.costCents > this.balanceCents) return null;
    this.#book.orders = [...this.#book.orders.filter((one) => one !== known), entry];
    this.#write();
    return entry.id;
  }

  get(id: string): Order | null {
    const order = this.#find(id);
    if (order === undefined || isText(order)) return null;
    const { asked, ...told } = order;
    return { ...told, minutes: startedMinutes(asked.durationMs) };
  }

  getText(id: string): TextOrder | null {
    const order = this.#find(id);
    if (order === undefined || !isText(order)) return null;
    const { asked, ...told } = order;
    return { ...told, characters: orderedCharacters(asked.sentences) };
  }

  asked(id: string): OrderRequest | null {
    const order = this.#find(id);
    return order === undefined || isText(order) ? null : order.asked;
  }
  askedText(id: string): TextOrderRequest | null {
    const order = this.#find(id);
    return order === undefined || !isText(order) ? null : order.asked;
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
  finishText(id: string, sentences: NonNullable<TextOrder['sentences']>): void {
    this.#end(id, { state: 'done', progress: 1, sentences });
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

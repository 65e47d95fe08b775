/** Sound that the server does not have yet, in IndexedDB; where the browser keeps nothing, in memory. */
import { openDB, type DBSchema, type IDBPDatabase } from 'idb';

export interface Piece {
  readonly offsetBytes: number;
  readonly bytes: Uint8Array<ArrayBuffer>;
}

/** The pieces of one narration. */
export interface PieceStore {
  /** Whether they outlast the window. */
  readonly isKept: boolean;
  put(piece: Piece): Promise<void>;
  /** What is there from a byte on, as far as it hangs together and of at most so many bytes; `null` for nothing. */
  from(offsetBytes: number, mostBytes: number): Promise<Piece | null>;
  /** Forgets all that ends by a byte. */
  drop(untilBytes: number): Promise<void>;
  /** Where the last one ends; 0 for none. */
  end(): Promise<number>;
}

/** As many bytes has none. */
const LONGEST_PIECE = 100_000;

/** Pieces in order, from one that may hold the byte on, joined as far as they follow one another. */
export function joinPieces(pieces: readonly Piece[], offsetBytes: number, mostBytes: number): Piece | null {
  const rest = pieces.filter((piece) => piece.offsetBytes + piece.bytes.length > offsetBytes);
  const [first] = rest;
  if (first === undefined) return null;
  const from = Math.max(first.offsetBytes, offsetBytes);
  let end = from;
  const parts: Uint8Array[] = [];
  for (const piece of rest) {
    if (piece.offsetBytes > end || end - from >= mostBytes) break;
    const part = piece.bytes.subarray(end - piece.offsetBytes, end - piece.offsetBytes + mostBytes - (end - from));
    parts.push(part);
    end += part.length;
  }
  const bytes = new Uint8Array(end - from);
  let at = 0;
  for (const part of parts) {
    bytes.set(part, at);
    at += part.length;
  }
  return { offsetBytes: from, bytes };
}

export class PiecesInMemory implements PieceStore {
  readonly isKept = false;
  #pieces: readonly Piece[] = [];

  put(piece: Piece): Promise<void> {
    this.#pieces = [...this.#pieces, piece];
    return Promise.resolve();
  }
  from(offsetBytes: number, mostBytes: number): Promise<Piece | null> {
    return Promise.resolve(joinPieces(this.#pieces, offsetBytes, mostBytes));
  }
  drop(untilBytes: number): Promise<void> {
    this.#pieces = this.#pieces.filter(({ offsetBytes, bytes }) => offsetBytes + bytes.length > untilBytes);
    return Promise.resolve();
  }
  end(): Promise<number> {
    const last = this.#pieces.at(-1);
    return Promise.resolve(last === undefined ? 0 : last.offsetBytes + last.bytes.length);
  }
}

interface Schema extends DBSchema {
  pieces: { key: [string, number]; value: Piece & { readonly narrationId: string } };
}

class PiecesInBrowser implements PieceStore {
  readonly isKept = true;
  readonly #db: IDBPDatabase<Schema>;
  readonly #id: string;

  constructor(db: IDBPDatabase<Schema>, id: string) {
    this.#db = db;
    this.#id = id;
  }

  async put(piece: Piece): Promise<void> {
    await this.#db.put('pieces', { narrationId: this.#id, ...piece });
  }
  async from(offsetBytes: number, mostBytes: number): Promise<Piece | null> {
    const most = Math.ceil(mostBytes / LONGEST_PIECE) + 1;
    const range = this.#range(Math.max(0, offsetBytes - LONGEST_PIECE), Number.MAX_SAFE_INTEGER);
    return joinPieces(await this.#db.getAll('pieces', range, Math.max(most, MOST_AT_ONCE)), offsetBytes, mostBytes);
  }
  async drop(untilBytes: number): Promise<void> {
    const transaction = this.#db.transaction('pieces', 'readwrite');
    for (
      let at = await transaction.store.openCursor(this.#range(0, untilBytes));
      at !== null;
      at = await at.continue()
    ) {
      const { offsetBytes, bytes } = at.value;
      if (offsetBytes + bytes.length <= untilBytes) await at.delete();
    }
    await transaction.done;
  }
  async end(): Promise<number> {
    const range = this.#range(0, Number.MAX_SAFE_INTEGER);
    const last = await this.#db.transaction('pieces').store.openCursor(range, 'prev');
    return last === null ? 0 : last.value.offsetBytes + last.value.bytes.length;
  }

  #range(from: number, to: number): IDBKeyRange {
    return IDBKeyRange.bound([this.#id, from], [this.#id, to]);
  }
}

/** Read at once: twenty seconds of pieces. */
const MOST_AT_ONCE = 200;

let opened: Promise<IDBPDatabase<Schema>> | undefined;

/** Those of a narration that this browser still has. */
export async function openPieces(narrationId: string): Promise<PieceStore> {
  try {
    opened ??= openDB<Schema>('vinetap-narrations', 1, {
      upgrade: (db) => void db.createObjectStore('pieces', { keyPath: ['narrationId', 'offsetBytes'] }),
      blocking: (_now, _wanted, event) => (event.target as IDBDatabase).close(),
      terminated: () => (opened = undefined)
    });
    return new PiecesInBrowser(await opened, narrationId);
  } catch {
    // A private window, or no room: what is not sent goes with the window, which says so.
    opened = undefined;
    return new PiecesInMemory();
  }
}

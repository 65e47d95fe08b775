/**
 * Text that is being typed: each field is a draft, mirrored to the browser's storage at each key under the batch it will
 * be sent as, so that nothing of it is lost with the window. What a window left behind is taken up by the next one.
 */
import { z } from 'zod';
import type { CommandsDoor } from './unsent';

const PREFIX = 'vinetap:draft:';
const windowId = crypto.randomUUID();
const lockOf = (id: string): string => `vinetap:window:${id}`;

const mirrorSchema = z.object({ form: z.number(), batchId: z.string(), text: z.string(), commands: z.unknown() });

/** What is typed, as the commands that put it into the document; complete with ids. */
export interface TypedText<C> {
  readonly commands: readonly C[];
  readonly text: string;
}

/** A draft that a window left behind; without commands where they cannot be read. */
export interface LeftDraft<C> {
  readonly batchId: string;
  readonly text: string;
  readonly commands: readonly C[] | null;
  /** Forgets it in storage, once it is kept elsewhere. */
  readonly forget: () => void;
}

let isHeld = false;

/** Says to other windows, as long as this one lives, that its drafts are its own. */
function holdWindow(): void {
  if (isHeld) return;
  isHeld = true;
  void navigator.locks.request(lockOf(windowId), () => new Promise(() => undefined));
}

export class Mirror<C> {
  readonly #key: string;
  readonly #door: CommandsDoor<C>;
  readonly #onFailure: (why: string) => void;
  #batchId: string | null = null;

  constructor(documentId: string, field: string, door: CommandsDoor<C>, onFailure: (why: string) => void) {
    holdWindow();
    this.#key = `${PREFIX}${windowId}:${documentId}:${field}`;
    this.#door = door;
    this.#onFailure = onFailure;
  }

  /** Writes what is typed by now. */
  write({ commands, text }: TypedText<C>): void {
    this.#batchId ??= crypto.randomUUID();
    const { form } = this.#door;
    try {
      localStorage.setItem(this.#key, JSON.stringify({ form, batchId: this.#batchId, text, commands }));
    } catch {
      this.#onFailure('there is no room left to keep what is typed');
    }
  }

  /** The batch that the draft is sent as, which it keeps; the next key begins another. */
  take(): { readonly batchId: string; readonly forget: () => void } {
    const batchId = this.#batchId ?? crypto.randomUUID();
    this.#batchId = null;
    return {
      batchId,
      // What is typed meanwhile has a batch of its own under the same key.
      forget: () => {
        if (this.#batchId === null) this.clear();
      }
    };
  }

  clear(): void {
    this.#batchId = null;
    localStorage.removeItem(this.#key);
  }
}

/** Drafts of a document in windows that are gone. */
export async function leftDrafts<C>(documentId: string, door: CommandsDoor<C>): Promise<LeftDraft<C>[]> {
  const { held = [] } = await navigator.locks.query();
  const living = new Set([lockOf(windowId), ...held.map(({ name }) => name)]);
  const left: LeftDraft<C>[] = [];
  for (const key of Object.keys(localStorage)) {
    const found = new RegExp(`^${PREFIX}([^:]+):([^:]+):`).exec(key);
    if (found === null || found[2] !== documentId || living.has(lockOf(found[1]!))) continue;
    const forget = (): void => localStorage.removeItem(key);
    const raw = localStorage.getItem(key) ?? '';
    try {
      const { form, batchId, text, commands } = mirrorSchema.parse(JSON.parse(raw));
      left.push({ batchId, text, commands: door.openUnsent(form, commands), forget });
    } catch {
      // Shown as it is, to be copied.
      left.push({ batchId: crypto.randomUUID(), text: raw, commands: null, forget });
    }
  }
  return left;
}

/**
 * What is spoken into the application, until it is a recording: pieces of sound written where they belong in its file,
 * and words heard meanwhile. A server that is killed loses what was not written yet; what is written is gone on with.
 */
import { randomUUID } from 'node:crypto';
import { mkdir, open, rm, stat, type FileHandle } from 'node:fs/promises';
import { dirname } from 'node:path';
import { WAVE_HEAD_BYTES, waveHead } from '$lib/core/audio';
import { MOST_NARRATED_MS, NARRATION_RATE_HZ, narratedMs, SAMPLE_BYTES, type LiveWord } from '$lib/core/narration';
import { formatClock, type Span, wholeMs } from '$lib/core/time';
import { isSameLanguage } from '$lib/core/track';
import { diskFull, type MediaFiles } from '../media/files';
import { ApiProblem, notFound } from '../problem';
import type { LiveEar, LocalRecogniser } from '../recognisers/recogniser';
import type { Narration, NarrationStore } from '../store/narrations';

/** What a piece's sender is told. */
export interface Written {
  readonly storedBytes: number;
  /** Words that stand, from the one on that the sender does not know. */
  readonly settled: readonly LiveWord[];
  readonly pending: readonly LiveWord[];
  /** False where nothing is heard meanwhile: in another language, or beside others that are. */
  readonly isHeard: boolean;
  /** How much longer there is room for. */
  readonly roomMs: number;
}

/** With what is there of it. */
export interface Stored extends Narration {
  readonly storedBytes: number;
  readonly writtenAtMs: number;
}

interface Open {
  readonly file: FileHandle;
  storedBytes: number;
  syncedAtMs: number;
  ear: LiveEar | null;
  /** Ears that ended by themselves. */
  earsLost: number;
  pending: readonly LiveWord[];
  idle: ReturnType<typeof setTimeout> | undefined;
}

interface Parts {
  readonly store: NarrationStore;
  readonly files: MediaFiles;
  readonly recogniser: LocalRecogniser;
}

const SYNC_MS = 1000;
/** After as long without a piece its file is closed and its ear goes. */
const IDLE_MS = 60_000;
/** Each takes 40 % of a core. */
const MOST_EARS = 2;
const MOST_EARS_LOST = 3;
/** What nobody went on with for so long becomes a recording as far as it goes. */
const FORGOTTEN_MS = 24 * 3_600_000;

export class Narrations {
  readonly #parts: Parts;
  readonly #open = new Map<string, Open>();
  /** What each waits for: pieces are written one behind the other. */
  readonly #turns = new Map<string, Promise<unknown>>();

  constructor(parts: Parts) {
    this.#parts = parts;
  }

  async begin(asked: Pick<Narration, 'title' | 'language' | 'script'>): Promise<Stored> {
    const { store, files } = this.#parts;
    const narration = { id: randomUUID(), ...asked, leftOut: [], createdAtMs: Date.now() };
    await files.refuseWithoutRoom(0);
    const path = files.narrationPath(narration.id);
    await mkdir(dirname(path), { recursive: true });
    store.insert(narration);
    const file = await open(path, 'wx');
    await file.write(waveHead(0, NARRATION_RATE_HZ));
    await file.close();
    return this.get(narration.id);
  }

  /** Those that are not ended yet. */
  async list(): Promise<Stored[]> {
    const found = await Promise.all(this.#parts.store.list().map((narration) => this.#stored(narration)));
    return found.filter((narration) => narration !== null);
  }

  /** Throws `unknown_narration`. */
  async get(id: string): Promise<Stored> {
    const found = await this.#stored(this.#known(id));
    if (found === null) throw notFound('narration', id);
    return found;
  }

  #known(id: string): Narration {
    const narration = this.#parts.store.find(id);
    if (narration === null) throw notFound('narration', id);
    return narration;
  }

  /** `null` where it has become a recording meanwhile. */
  async #stored(narration: Narration): Promise<Stored | null> {
    const facts = await stat(this.#parts.files.narrationPath(narration.id)).catch(unlessGone);
    if (facts === null) return null;
    return { ...narration, storedBytes: wholeSamples(facts.size - WAVE_HEAD_BYTES), writtenAtMs: facts.mtimeMs };
  }

  setLeftOut(id: string, leftOut: readonly Span[]): void {
    this.#parts.store.setLeftOut(this.#known(id).id, leftOut);
  }

  /** Words that stand, from one on, and what is heard behind them. */
  words(id: string, from: number): { readonly words: LiveWord[]; readonly pending: readonly LiveWord[] } {
    return { words: this.#parts.store.words(id, from), pending: this.#open.get(id)?.pending ?? [] };
  }

  /**
   * Writes a piece. `known`: how many words that stand its sender has. Throws `other_offset` with `storedBytes` where the
   * piece does not follow what is there, and `disk_full`.
   */
  write(
    id: string,
    piece: { readonly offsetBytes: number; readonly bytes: Uint8Array; readonly known: number }
  ): Promise<Written> {
    const narration = this.#known(id);
    return this.#inTurn(id, async () => {
      const opened = await this.#opened(narration);
      const { offsetBytes, bytes, known } = piece;
      if (offsetBytes !== opened.storedBytes)
        throw new ApiProblem(
          409,
          'other_offset',
          `This narration goes on at byte ${opened.storedBytes}, not at ${offsetBytes}: send what follows there.`,
          { storedBytes: opened.storedBytes }
        );
      if (narratedMs(offsetBytes + bytes.length) > MOST_NARRATED_MS)
        throw new ApiProblem(
          422,
          'too_long',
          `A narration lasts ${formatClock(wholeMs(MOST_NARRATED_MS))} at most: end this one, and begin another.`
        );
      const room = (await this.#parts.files.roomBytes()) - bytes.length;
      if (room < 0) throw diskFull('for what is spoken');
      const { bytesWritten } = await opened.file.write(bytes, 0, bytes.length, WAVE_HEAD_BYTES + offsetBytes);
      if (bytesWritten < bytes.length) throw diskFull('for what is spoken');
      opened.storedBytes += bytes.length;
      await this.#sync(opened);
      opened.ear ??= this.#listen(narration, opened);
      opened.ear?.hearTo(narratedMs(opened.storedBytes));
      return {
        storedBytes: opened.storedBytes,
        settled: this.#parts.store.words(id, known),
        pending: opened.pending,
        isHeard: opened.ear !== null,
        roomMs: Math.round(narratedMs(room))
      };
    });
  }

  /** Ends it: its file is whole, and given to `take`; then it is forgotten. Throws `nothing_spoken`. */
  async end(id: string, take: (path: string, bytes: number, narration: Narration) => Promise<void>): Promise<void> {
    await this.#inTurn(id, async () => {
      const narration = this.#known(id);
      const opened = await this.#opened(narration);
      const { storedBytes, file } = opened;
      await file.truncate(WAVE_HEAD_BYTES + storedBytes);
      await file.write(waveHead(storedBytes, NARRATION_RATE_HZ), 0, WAVE_HEAD_BYTES, 0);
      await file.datasync();
      await this.#close(id);
      const path = this.#parts.files.narrationPath(id);
      if (storedBytes === 0) {
        await rm(path, { force: true });
        this.#parts.store.remove(id);
        throw new ApiProblem(422, 'nothing_spoken', 'Nothing has been recorded, so there is nothing to keep.');
      }
      await take(path, WAVE_HEAD_BYTES + storedBytes, narration);
      this.#parts.store.remove(id);
    });
  }

  /** Those that nobody has gone on with for a day. */
  async forgotten(): Promise<Stored[]> {
    return (await this.list()).filter(({ writtenAtMs }) => Date.now() - writtenAtMs > FORGOTTEN_MS);
  }

  close(): void {
    for (const { ear, idle } of this.#open.values()) {
      clearTimeout(idle);
      ear?.end();
    }
    this.#open.clear();
  }

  #inTurn<T>(id: string, work: () => Promise<T>): Promise<T> {
    const turn = (this.#turns.get(id) ?? Promise.resolve()).then(work, work);
    this.#turns.set(id, turn);
    const leave = (): void => {
      if (this.#turns.get(id) === turn) this.#turns.delete(id);
    };
    turn.then(leave, leave);
    return turn;
  }

  async #opened({ id }: Narration): Promise<Open> {
    const opened = this.#open.get(id) ?? {
      storedBytes: (await this.get(id)).storedBytes,
      file: await open(this.#parts.files.narrationPath(id), 'r+'),
      syncedAtMs: Date.now(),
      ear: null,
      earsLost: 0,
      pending: [],
      idle: undefined
    };
    this.#open.set(id, opened);
    clearTimeout(opened.idle);
    opened.idle = setTimeout(() => void this.#inTurn(id, () => this.#close(id)), IDLE_MS);
    opened.idle.unref();
    return opened;
  }

  async #close(id: string): Promise<void> {
    const opened = this.#open.get(id);
    if (opened === undefined) return;
    this.#open.delete(id);
    clearTimeout(opened.idle);
    opened.ear?.end();
    await opened.file.close();
  }

  async #sync(opened: Open): Promise<void> {
    if (Date.now() - opened.syncedAtMs < SYNC_MS) return;
    await opened.file.datasync();
    opened.syncedAtMs = Date.now();
  }

  /** Goes on behind the last word that stands. */
  #listen({ id, language }: Narration, opened: Open): LiveEar | null {
    const { recogniser, store, files } = this.#parts;
    const ears = [...this.#open.values()].filter(({ ear }) => ear !== null).length;
    if (!isSameLanguage(language, recogniser.listensIn) || ears >= MOST_EARS || opened.earsLost >= MOST_EARS_LOST)
      return null;
    const ear: LiveEar = recogniser.listen({
      soundPath: files.narrationPath(id),
      fromMs: store.words(id).at(-1)?.endMs ?? 0,
      onHeard: (settled, pending) => {
        if (this.#open.get(id)?.ear !== ear) return;
        store.addWords(id, settled);
        opened.pending = pending;
      },
      onEnd: () => {
        if (opened.ear !== ear) return;
        opened.ear = null;
        opened.pending = [];
        opened.earsLost++;
      }
    });
    return ear;
  }
}

function unlessGone(error: NodeJS.ErrnoException): null {
  if (error.code === 'ENOENT') return null;
  throw error;
}

/** A piece that was cut off in a sample is none. */
const wholeSamples = (bytes: number): number => Math.max(0, bytes - (bytes % SAMPLE_BYTES));
